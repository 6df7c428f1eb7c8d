"""Welds between layers and heat of the part: chains, crystals, films of air, what practice sees of both."""

from kaustos.core.estimates.assumed import Area, Assumed


def _of(key: str, value: float, low: float, high: float, unit: str, why: str, source: str = "") -> Assumed:
    return Assumed(key=key, value=value, low=low, high=high, unit=unit, why=why, source=source or "practice, estimate")


WELD = Area(
    "Welds and heat of the part",
    _of(
        "relaxes",
        1e9,
        1e8,
        1e10,
        "s",
        "time in which a chain leaves its place at the glass transition",
        "Wool, Polymer Interfaces, for the law; the number is an estimate, uncertain by ten",
    ),
    _of("half", 55.0, 35.0, 75.0, "K", "shortfall of the contact to melting at which the weld index is a half"),
    _of("half.pa", 78.0, 58.0, 98.0, "K", "the same of polyamides, which practice welds in far colder air"),
    _of("width", 12.0, 12.0, 12.0, "K", "over which shortfall the weld index falls by e"),
    _of("still", 8.0, 5.0, 12.0, "W/m²/K", "film of still air round a part, radiation apart"),
    _of("stirred", 12.0, 8.0, 18.0, "W/m²/K", "the same where a fan stirs the chamber"),
    _of("blown", 45.0, 25.0, 60.0, "W/m²/K", "the same under a part fan at full speed"),
    _of("film", 1.0, 0.6, 1.5, "1", "films of one machine against another"),
    _of("warmer", 45.0, 30.0, 70.0, "K", "surface of a part over its surroundings, for radiation"),
    _of("shown", 4.0, 2.0, 8.0, "K", "how far a nozzle that was never compared may be from its display"),
    _of("bonded", 1.0, 0.85, 1.1, "1", "share of a section that bonds, over that of the plan of beads"),
    _of("bonded_unknown", 0.7, 0.5, 0.9, "1", "share of a section that bonds, where beads are not recorded"),
    _of("wet_unknown", 0.72, 0.5, 1.0, "1", "what water leaves of a weld, where nobody knows how wet the spool is"),
    _of("wet_half", 4.0, 3.0, 8.0, "1", "times the printing limit of water that halve a weld of what hydrolyses"),
    _of("heat_dose", 0.5, 0.2, 1.0, "1", "how much the time it stands in the hot end costs, at the end of that time"),
    _of("softens", 5.0, 2.0, 10.0, "K", "below its glass transition a layer carries the next one"),
    _of("sets_below", 15.0, 8.0, 25.0, "K", "below its crystallisation onset a layer carries the next one"),
    _of("sets_rubber", 40.0, 25.0, 60.0, "K", "the same for a rubbery polymer, which is soft anyway"),
    _of("hot_enough", 15.0, 10.0, 25.0, "K", "how much hotter at the end of a layer shows as lost shape"),
    _of("fan_overhang", 20.0, 10.0, 30.0, "°", "steeper overhang that a full fan allows"),
    _of("tower_mm", 12.0, 8.0, 20.0, "mm", "side of a tower that is printed beside a part to give it time"),
    _of("overhang", 43.0, 38.0, 50.0, "°", "from upright, that a polymer bears without a fan"),
    _of("heat_rises", 1.15, 1.05, 1.3, "1", "mean heat capacity while a layer cools, over that at room heat"),
    _of("bell", 75.0, 50.0, 110.0, "K", "width of the bell of the rate of crystallisation over temperature"),
    _of("air", 8.0, 4.0, 15.0, "K", "how far the air beside a part may be from the display of the chamber"),
    _of("air_known", 3.0, 1.5, 6.0, "K", "the same where a second sensor was compared"),
    _of("ratio_colder", 3.0, 2.0, 5.0, "K", "by how much colder than its specimens a recipe runs as they did"),
    _of("usual_walls", 3.0, 2.0, 4.0, "1", "walls, where they are not recorded"),
    _of("usual_filled", 0.3, 0.15, 0.5, "1", "infill, where it is not recorded"),
    _of("lever", 0.03, 0.02, 0.05, "1", "gain in strength across layers from which a lever is worth its name"),
)
