"""What a failed run points to: how much each sign speaks for each cause, and how large a trial has to be."""

from kaustos.core.estimates.assumed import Area, Assumed

_SIGNS = {  # what was seen: cause and weight
    "corner_lift": {"cold_chamber": 3.0, "cold_plate": 3.0, "hold": 2.0},
    "came_off": {"hold": 3.0, "cold_plate": 3.0, "cold_chamber": 1.0},
    "stuck": {"hot_plate": 3.0, "hold": 2.0},
    "surface_torn": {"hot_plate": 3.0, "hold": 2.0},
    "glass_broke": {"hold": 3.0, "hot_plate": 1.0},
    "let_go": {"hold": 3.0, "cold_plate": 1.0},
    "warped": {"cold_chamber": 3.0, "cold_plate": 1.0},
    "layers_split": {"cold_chamber": 3.0, "cold_melt": 3.0, "water": 1.5},
    "weak_layers": {"cold_melt": 3.0, "cold_chamber": 2.0, "water": 2.0},
    "foot_sagged": {"hot_plate": 4.0},
    "shape_lost": {"hot_chamber": 2.0, "hot_melt": 2.0},
    "strings": {"water": 3.0, "hot_melt": 3.0},
    "starved": {"feed": 3.0, "cold_melt": 2.0, "water": 2.0},
    "no_flow": {"feed": 3.0, "cold_melt": 3.0},
    "jam": {"feed": 3.0, "cold_melt": 1.0, "hot_melt": 1.0},
    "charred": {"hot_melt": 4.0, "feed": 1.0},
    "bubbles": {"water": 5.0, "hot_melt": 1.0},
    "short_of_heat": {"heater": 4.0},
    "heater_fault": {"heater": 4.0},
    "machine_softened": {"hot_chamber": 4.0},
    "smell": {"hot_melt": 3.0, "heater": 2.0},
    "gave_way": {"unsuited": 3.0, "cold_melt": 1.0},
    "attacked": {"unsuited": 4.0},
    "ran_out": {"amount": 4.0},
}


def _sign(seen: str, cause: str, weight: float) -> Assumed:
    why = "how much this sign speaks for this cause beside the others, in parts"
    return Assumed(key=f"sign.{seen}.{cause}", value=weight, low=weight / 2.0, high=weight * 2.0, unit="1", why=why)


def _filament(state: str, factor: float, low: float, high: float) -> Assumed:
    why = "times as much that water is suspected where the filament was judged so"
    return Assumed(key=f"filament.{state}", value=factor, low=low, high=high, unit="1", why=why)


def _step(zone: str, kelvin: float, low: float, high: float) -> Assumed:
    why = "change of this zone whose effect is seen beside the scatter of two runs"
    return Assumed(key=f"step.{zone}", value=kelvin, low=low, high=high, unit="K", why=why)


CAUSES = Area(
    "Causes of a failed run",
    *(_sign(seen, cause, weight) for seen, causes in _SIGNS.items() for cause, weight in causes.items()),
    _filament("dry", 0.2, 0.1, 0.5),
    _filament("doubtful", 1.5, 1.0, 2.0),
    _filament("unknown", 1.5, 1.0, 2.0),
    _filament("wet", 4.0, 2.0, 8.0),
    Assumed(key="foretold", value=2.0, low=1.5, high=4.0, unit="1",
            why="times as much that a cause is suspected where a finding of it stood and foretold what was seen"),
    Assumed(key="gone_without", value=6.0, low=3.0, high=12.0, unit="1",
            why="times as much that a cause is suspected where the step that keeps it away was gone without"),
    Assumed(key="was_good", value=0.4, low=0.2, high=0.7, unit="1",
            why="times as much that a setpoint is suspected with which, or with a worse one, another run was good"),
    Assumed(key="most", value=3.0, low=2.0, high=5.0, unit="1",
            why="times as much at most that a setpoint far outside its window is suspected"),
    Assumed(key="water_first", value=0.1, low=0.05, high=0.2, unit="1",
            why="share of the suspicion from which a spool that was not surely dry is dried before heat is tried"),
    _step("nozzle", 10.0, 5.0, 15.0),
    _step("plate", 10.0, 5.0, 20.0),
    _step("chamber", 15.0, 10.0, 25.0),
    Assumed(key="too_small", value=3.0, low=2.0, high=5.0, unit="K",
            why="what a lever must have left for a trial with it to tell anything"),
    Assumed(key="purge", value=5.0, low=2.0, high=15.0, unit="g",
            why="filament that a run takes before its part begins"),
    Assumed(key="heat_up", value=0.5, low=0.25, high=1.5, unit="h",
            why="time that a machine heats before a part begins"),
)  # fmt: skip
