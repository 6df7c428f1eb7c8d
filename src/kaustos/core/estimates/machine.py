"""Parts of machines: how far short of their word they fall, and how low they may be."""

from kaustos.core.estimates.assumed import Area, Assumed


def _short(basis: str, kelvin: float, low: float, high: float, why: str) -> Assumed:
    return Assumed(key=f"short.{basis}", value=kelvin, low=low, high=high, unit="K", why=why)


def _sensor(kind: str, celsius: float, low: float, high: float) -> Assumed:
    why = "up to where a sensor of this kind lasts and tells one kelvin from the next"
    return Assumed(key=f"sensor.{kind}", value=celsius, low=low, high=high, unit="°C", why=why)


def _lowest(part: str, celsius: float) -> Assumed:
    why = "the lowest limit that such a part is met with, taken while it is not recorded"
    return Assumed(key=f"lowest.{part}", value=celsius, low=celsius - 20.0, high=celsius + 20.0, unit="°C", why=why)


_FILLERS = {"none": 1.0, "carbon": 100.0, "glass": 80.0, "wood": 3.0, "metal": 10.0, "mineral": 20.0, "glow": 100.0,
            "white": 4.0}  # fmt: skip


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
    _sensor("ntc", 265.0, 250.0, 280.0), _sensor("ntc_glass", 295.0, 280.0, 300.0),
    _sensor("ntc_high", 450.0, 400.0, 500.0), _sensor("pt100", 475.0, 450.0, 500.0),
    _sensor("pt1000", 475.0, 450.0, 500.0), _sensor("type_k", 480.0, 400.0, 1000.0),
    _lowest("chamber.electronics", 50.0),
    _lowest("nozzle.heater", 230.0), _lowest("nozzle.sensor", 250.0), _lowest("nozzle.firmware", 230.0),
    _lowest("nozzle.liner", 240.0), _lowest("plate.heater", 60.0), _lowest("plate.sensor", 100.0),
    _lowest("plate.firmware", 60.0), _lowest("plate.magnet", 70.0), _lowest("plate.backing", 60.0),
    _lowest("chamber.heater", 30.0), _lowest("chamber.sensor", 60.0), _lowest("chamber.firmware", 40.0),
    _lowest("chamber.plastics", 50.0),
    Assumed(key="below_transition", value=7.0, low=5.0, high=10.0, unit="K",
            why="a school: the plate this far below the glass transition"),
    Assumed(key="below_rating", value=5.0, low=3.0, high=10.0, unit="K",
            why="distance to its rating that a lined hot end keeps even where a person answers for more heat"),
    Assumed(key="peak_flow", value=3.0, low=2.0, high=4.0, unit="1", why="peak flow of a run, times its mean flow"),
    Assumed(key="hotend_loss", value=0.042, low=0.03, high=0.06, unit="W/K", why="what a hot end loses near the room"),
    Assumed(key="hotend_loss_more", value=8.3e-5, low=5e-5, high=1.2e-4, unit="W/K²",
            why="what it loses more the hotter it is, by radiation"),
    Assumed(key="hotend_spread", value=1.0, low=0.6, high=1.5, unit="1", why="losses of one hot end against another"),
    Assumed(key="melt_heat", value=1.9, low=1.6, high=2.2, unit="kJ/kg/K", why="heat capacity, solid and melt"),
    Assumed(key="crystal_heat", value=50.0, low=25.0, high=90.0, unit="kJ/kg", why="heat that crystals take to melt"),
    Assumed(key="plate_loss", value=18.0, low=13.0, high=26.0, unit="W/m²/K",
            why="what a plate loses upwards and downwards, insulated below"),
    Assumed(key="near_share.nozzle", value=0.35, low=0.2, high=0.5, unit="1",
            why="how far towards the heat of the nozzle a part comes that all but touches the block"),
    Assumed(key="near_reach.nozzle", value=12.0, low=8.0, high=20.0, unit="mm", why="over which distance it falls"),
    Assumed(key="near_share.plate", value=0.5, low=0.3, high=0.7, unit="1",
            why="how far towards the heat of the plate a part comes that all but touches it"),
    Assumed(key="near_reach.plate", value=40.0, low=20.0, high=80.0, unit="mm", why="over which distance it falls"),
    Assumed(key="offset_spread", value=3.0, low=2.0, high=5.0, unit="K",
            why="how far a calibration of a temperature may be off where its spread is not recorded"),
    Assumed(key="offset_stale", value=10.0, low=5.0, high=15.0, unit="K",
            why="how much wider a calibrated temperature is taken once a part was changed"),
    Assumed(key="step_wide", value=50.0, low=25.0, high=50.0, unit="K", why="step of commissioning with room ahead"),
    Assumed(key="step_fine", value=25.0, low=10.0, high=25.0, unit="K", why="step of commissioning close to the end"),
    Assumed(key="step_soak.nozzle", value=10.0, low=5.0, high=20.0, unit="min", why="how long such a step is held"),
    Assumed(key="step_soak.plate", value=20.0, low=10.0, high=40.0, unit="min", why="how long such a step is held"),
    Assumed(key="step_soak.chamber", value=40.0, low=20.0, high=90.0, unit="min", why="how long such a step is held"),
    Assumed(key="soft_tube", value=300.0, low=150.0, high=500.0, unit="mm",
            why="length of tube in which a rubbery strand buckles and slips"),
    Assumed(key="aged", value=100.0, low=50.0, high=300.0, unit="h",
            why="hours near its limit after which a liner or a magnet is looked at"),
    Assumed(key="near_limit", value=10.0, low=5.0, high=15.0, unit="K", why="how close to its limit hours are counted"),
    Assumed(key="hot_chamber", value=60.0, low=50.0, high=70.0, unit="°C",
            why="chamber from which its air and walls burn skin"),
    Assumed(key="hot_spool", value=60.0, low=50.0, high=70.0, unit="°C", why="spool from which it burns skin"),
    *(_wears(filler, times) for filler, times in _FILLERS.items()),
    Assumed(key="wears_much", value=5.0, low=3.0, high=10.0, unit="1",
            why="wear from which a soft nozzle is short-lived, times that of an unfilled polymer"),
)  # fmt: skip
