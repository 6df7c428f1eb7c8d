"""Parts of machines: how far short of their word they fall, and how low they may be."""

from kaustos.core.estimates.assumed import Area, Assumed


def _short(basis: str, kelvin: float, low: float, high: float, why: str) -> Assumed:
    return Assumed(key=f"short.{basis}", value=kelvin, low=low, high=high, unit="K", why=why)


def _lowest(part: str, celsius: float) -> Assumed:
    why = "the lowest limit that such a part is met with, taken while it is not recorded"
    return Assumed(key=f"lowest.{part}", value=celsius, low=celsius - 20.0, high=celsius + 20.0, unit="°C", why=why)


_FILLERS = {"none": 1.0, "carbon": 100.0, "glass": 80.0, "wood": 3.0, "metal": 10.0, "mineral": 20.0, "glow": 100.0,
            "white": 3.0}  # fmt: skip


def _wears(filler: str, times: float) -> Assumed:
    why = "wear of a nozzle by what is mixed in, times that of an unfilled polymer: an order of magnitude"
    low, high = (1.0, 1.0) if filler == "none" else (times / 3.0, times * 3.0)
    return Assumed(key=f"wears.{filler}", value=times, low=low, high=high, unit="1", why=why)


MACHINE = Area(
    "Machines",
    _short("proven", 3.0, 1.0, 5.0, "how far a reach that was measured here may fall short on another day"),
    _short("rated", 5.0, 2.0, 15.0, "how far a part may fall short of its maker's rating"),
    _short("claimed", 20.0, 5.0, 40.0, "how far a part may fall short of what is claimed of it"),
    _short("unknown", 20.0, 5.0, 40.0, "the same where the origin of a limit is not recorded"),
    _lowest("nozzle.heater", 230.0), _lowest("nozzle.sensor", 250.0), _lowest("nozzle.firmware", 230.0),
    _lowest("nozzle.liner", 240.0), _lowest("plate.heater", 60.0), _lowest("plate.sensor", 100.0),
    _lowest("plate.firmware", 60.0), _lowest("plate.magnet", 70.0), _lowest("plate.backing", 60.0),
    _lowest("chamber.heater", 30.0), _lowest("chamber.sensor", 60.0), _lowest("chamber.firmware", 40.0),
    _lowest("chamber.plastics", 50.0),
    Assumed(key="below_transition", value=7.0, low=5.0, high=10.0, unit="K",
            why="a school: the plate this far below the glass transition"),
    Assumed(key="below_rating", value=5.0, low=3.0, high=10.0, unit="K",
            why="distance to its rating that a lined hot end keeps even where a person answers for more heat"),
    Assumed(key="hot_chamber", value=60.0, low=50.0, high=70.0, unit="°C",
            why="chamber from which its air and walls burn skin"),
    Assumed(key="hot_spool", value=60.0, low=50.0, high=70.0, unit="°C", why="spool from which it burns skin"),
    *(_wears(filler, times) for filler, times in _FILLERS.items()),
    Assumed(key="wears_much", value=5.0, low=3.0, high=10.0, unit="1",
            why="wear from which a soft nozzle is short-lived, times that of an unfilled polymer"),
)  # fmt: skip
