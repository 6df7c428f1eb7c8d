"""Nozzles: how fast they wear, how well they conduct, what they stand."""

from kaustos.core.estimates.assumed import Area, Assumed

_MATERIALS = {  # wear, brass = 1: least, likely, most; conductivity [W/m/K]; stands [°C]
    "brass": ((1.0, 1.0, 1.0), (105.0, 115.0, 125.0), (280.0, 300.0, 320.0)),
    "plated_copper": ((0.3, 0.5, 0.8), (300.0, 340.0, 380.0), (450.0, 475.0, 500.0)),
    "stainless": ((0.3, 0.5, 0.7), (14.0, 15.5, 17.0), (450.0, 500.0, 500.0)),
    "hardened": ((0.03, 0.07, 0.15), (18.0, 25.0, 40.0), (430.0, 450.0, 500.0)),
    "coated": ((0.15, 0.4, 1.0), (100.0, 112.0, 125.0), (280.0, 300.0, 320.0)),
    "carbide": ((0.002, 0.006, 0.02), (60.0, 85.0, 110.0), (480.0, 500.0, 550.0)),
    "jewel": ((0.003, 0.01, 0.03), (90.0, 105.0, 125.0), (280.0, 300.0, 450.0)),
    "silicon_carbide": ((0.002, 0.006, 0.02), (80.0, 120.0, 200.0), (480.0, 500.0, 600.0)),
    "diamond": ((0.0003, 0.001, 0.003), (100.0, 120.0, 300.0), (400.0, 450.0, 600.0)),
    "titanium": ((0.5, 0.7, 1.0), (7.0, 15.0, 22.0), (380.0, 400.0, 450.0)),
}
_LEAST_BORES = {"carbon": (0.4, 0.6), "glass": (0.4, 0.6), "wood": (0.4, 0.6), "metal": (0.4, 0.6),
                "mineral": (0.3, 0.4), "glow": (0.4, 0.6), "white": (0.1, 0.2)}  # fmt: skip


def _of(material: str) -> tuple[Assumed, ...]:
    found = zip(("hardness", "conducts", "stands"), ("1", "W/m/K", "°C"), _MATERIALS[material], strict=True)
    why = {
        "hardness": "wear of the nozzle material, times that of brass: an order of magnitude",
        "conducts": "heat conductivity of the body of the nozzle; the insert of a tip is small",
        "stands": "from where the material softens, loosens or oxidises; its maker's limit decides",
    }
    return tuple(
        Assumed(key=f"{key}.{material}", value=value, low=low, high=high, unit=unit, why=why[key])
        for key, unit, (low, value, high) in found
    )


NOZZLES = Area(
    "Nozzles",
    Assumed(key="wear", value=20.0, low=7.0, high=60.0, unit="µm/kg",
            why="what the tip of a brass nozzle loses for each kilogram of unfilled polymer"),
    Assumed(key="unknown_material", value=1.0, low=1.0, high=1.0, unit="1",
            why="wear of a nozzle whose material is not recorded, times that of brass: taken for soft"),
    Assumed(key="hard", value=0.2, low=0.1, high=0.3, unit="1",
            why="wear, times that of brass, up to which a nozzle is taken for hard enough for fibres"),
    Assumed(key="unknown_filler", value=10.0, low=1.0, high=150.0, unit="1",
            why="wear by filament whose filler is not recorded, times that of an unfilled polymer"),
    Assumed(key="bore", value=0.4, low=0.2, high=1.2, unit="mm", why="bore that is drawn where it is not recorded"),
    Assumed(key="land", value=0.7, low=0.5, high=1.0, unit="mm",
            why="straight length behind the outlet, where it is not recorded"),
    Assumed(key="cone", value=60.0, low=45.0, high=90.0, unit="°",
            why="whole angle of the cone behind the land, where it is not recorded"),
    Assumed(key="short", value=0.1, low=0.05, high=0.15, unit="mm",
            why="how much shorter a tip may be until the first layer shows it: time to look and to set the gap again"),
    Assumed(key="wide", value=5.0, low=3.0, high=10.0, unit="%",
            why="how much wider a bore may be until walls and details show it: its end"),
    Assumed(key="seen_lost", value=0.03, low=0.02, high=0.05, unit="mm",
            why="how far a measured loss of a tip may be off"),
    Assumed(key="seen_bore", value=0.02, low=0.01, high=0.03, unit="mm", why="how far a measured bore may be off"),
    Assumed(key="tip_power", value=5.0, low=2.0, high=10.0, unit="W",
            why="heat that flows down a nozzle into melt and air while it prints"),
    Assumed(key="tip_path", value=3.0, low=2.0, high=4.0, unit="mm", why="how far it flows below the heated block"),
    Assumed(key="tip_section", value=35.0, low=25.0, high=45.0, unit="mm²", why="through which section it flows"),
    Assumed(key="pull_above", value=10.0, low=5.0, high=20.0, unit="K",
            why="how far above its glass transition an amorphous strand is pulled out cold, and below it sets"),
    Assumed(key="pull_share", value=0.4, low=0.3, high=0.6, unit="1",
            why="how far from its glass transition to its crystallisation a crystallising strand is pulled out"),
    Assumed(key="pull_least", value=40.0, low=30.0, high=60.0, unit="°C",
            why="below this a strand that is pulled out tears or does not let go"),
    Assumed(key="shift_shows", value=5.0, low=3.0, high=8.0, unit="K",
            why="how much colder than brass the melt has to be until it is worth a setting"),
    *(each for material in _MATERIALS for each in _of(material)),
    *(
        Assumed(key=f"{kind}.{filler}", value=value, low=0.8 * value, high=1.3 * value, unit="mm", why=why)
        for filler, bores in _LEAST_BORES.items()
        for kind, value, why in zip(
            ("bore_least", "bore_good"), bores,
            ("below this bore such a filler clogs", "from this bore on such a filler runs without blocks"), strict=True,
        )
    ),
)  # fmt: skip
