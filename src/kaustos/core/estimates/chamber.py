"""Chambers and plates: how walls lose heat, what they store, what lies on a plate."""

from kaustos.core.estimates.assumed import Area, Assumed

_WALLS = {  # losses from air to room [W/m²/K], heat stored [kJ/m²/K]: least, likely, most
    "sheet": ((3.2, 4.3, 5.6), (3.0, 4.5, 8.0)),
    "pane": ((2.6, 3.4, 4.5), (4.0, 7.0, 11.0)),
    "glass": ((3.0, 4.0, 5.2), (6.0, 9.0, 14.0)),
    "wood": ((1.7, 2.3, 3.2), (6.0, 11.0, 18.0)),
    "insulated": ((0.6, 1.1, 1.8), (6.0, 9.0, 16.0)),
    "card": ((2.2, 3.0, 4.2), (1.0, 2.0, 4.0)),
}
_LAYERS = {  # conductivity [W/m/K], heat capacity by volume [MJ/m³/K]
    "aluminium": ((120.0, 160.0, 220.0), (2.3, 2.4, 2.5)),
    "steel": ((15.0, 20.0, 50.0), (3.5, 3.7, 3.9)),
    "glass": ((0.9, 1.05, 1.2), (1.7, 1.9, 2.1)),
    "laminate": ((0.25, 0.32, 0.45), (1.6, 1.8, 2.1)),
    "polymer": ((0.16, 0.22, 0.3), (1.4, 1.6, 1.8)),
    "magnet": ((0.4, 0.7, 1.5), (2.0, 2.6, 3.0)),
    "adhesive": ((0.15, 0.2, 0.3), (1.6, 1.9, 2.2)),
    "ceramic": ((1.5, 2.5, 25.0), (2.2, 2.6, 3.1)),
}


def _of(name: str, keys: tuple[str, str], units: tuple[str, str], bands: tuple, whys: tuple[str, str]):  # type: ignore[no-untyped-def, type-arg]
    return tuple(
        Assumed(key=f"{key}.{name}", value=value, low=low, high=high, unit=unit, why=why)
        for key, unit, (low, value, high), why in zip(keys, units, bands, whys, strict=True)
    )


CHAMBERS = Area(
    "Chambers and plates",
    *(each for wall, bands in _WALLS.items() for each in _of(
        wall, ("loses", "stores"), ("W/m²/K", "kJ/m²/K"), bands,
        ("what such a wall lets out from air to room", "what such a wall stores, its share of the frame not counted"))),
    *(each for layer, bands in _LAYERS.items() for each in _of(
        layer, ("conducts", "holds"), ("W/m/K", "MJ/m³/K"), bands,
        ("heat conductivity of what lies on plates", "heat that it takes up by volume"))),
    Assumed(key="insulation", value=0.04, low=0.03, high=0.06, unit="W/m/K", why="conductivity of insulation boards"),
    Assumed(key="inner_film", value=9.0, low=6.0, high=14.0, unit="W/m²/K",
            why="from air to walls inside, radiation among walls with it"),
    Assumed(key="stirred", value=1.6, low=1.2, high=2.5, unit="1", why="how much better stirred air warms the walls"),
    Assumed(key="frame", value=0.5, low=0.45, high=0.9, unit="kJ/kg/K", why="heat capacity of frame and guides"),
    Assumed(key="frame_kg", value=10.0, low=4.0, high=25.0, unit="kg", why="frame in the warm space, not recorded"),
    Assumed(key="changes", value=2.0, low=0.5, high=6.0, unit="1/h", why="air that leaks out, volumes in an hour"),
    Assumed(key="idle", value=25.0, low=12.0, high=45.0, unit="W",
            why="heat of hot end, motors and supply that stays in the warm space"),
    Assumed(key="plate_air", value=10.0, low=7.0, high=15.0, unit="W/m²/K",
            why="from both sides of a hot plate to the air, by the area of its top"),
    Assumed(key="plate_wall", value=8.0, low=5.0, high=12.0, unit="W/m²/K",
            why="what both sides of a hot plate radiate to the walls, by the area of its top"),
    Assumed(key="fit_stale", value=1.5, low=1.2, high=2.0, unit="1",
            why="how much wider fitted losses are taken once walls, heater or plate were changed"),
    Assumed(key="settled", value=3.0, low=2.0, high=5.0, unit="K",
            why="how close to rest walls are when a chamber counts as soaked"),
    Assumed(key="film", value=12.0, low=9.0, high=17.0, unit="W/m²/K", why="from the top of a plate into air and room"),
    Assumed(key="contact", value=1.0, low=0.3, high=3.0, unit="m²K/kW", why="gap between loose layers"),
    Assumed(key="surface_shows", value=4.0, low=3.0, high=6.0, unit="K",
            why="how much colder than the window a surface has to be until grip shows it"),
    Assumed(key="sag", value=0.1, low=0.05, high=0.15, unit="mm",
            why="what may be left of a plate besides its tilt: half a usual first layer"),
    Assumed(key="tilt", value=0.3, low=0.2, high=0.5, unit="mm", why="tilt over the plate that screws take away"),
    Assumed(key="jump", value=0.5, low=0.3, high=1.0, unit="mm",
            why="jump of a kept offset that would print in the air or crash"),
    Assumed(key="cold_probe", value=20.0, low=10.0, high=30.0, unit="K",
            why="how far from the run's heat a plate may be probed: it bends with heat"),
    Assumed(key="even", value=8.0, low=5.0, high=15.0, unit="min", why="until the edges follow the middle"),
)  # fmt: skip
