"""Running: how machines move, and how far a file may be from its recipe."""

from kaustos.core.estimates.assumed import Area
from kaustos.core.estimates.assumed import practice as _of

RUN = Area(
    "Running",
    _of("accel", 1_500.0, 500.0, 5_000.0, "mm/s²", "acceleration of a machine that does not say its own"),
    _of("corner", 8.0, 5.0, 15.0, "mm/s", "change of speed that it takes at once at a corner"),
    _of("near_told", 1.0, 0.8, 1.25, "1", "what a machine does, over what its passport says"),
    _of("unsaid_speed", 40.0, 20.0, 100.0, "mm/s", "moves of a file that has not set a speed yet"),
    _of("off_brief", 1.0, 0.8, 1.2, "1", "hours of a run, over those that somebody typed"),
    _of("off_k", 2.0, 1.0, 3.0, "K", "heat of a file over that of its recipe, from which they differ"),
    _of("off_fan", 5.0, 3.0, 10.0, "%", "the same of the fan"),
    _of("off_layer", 0.005, 0.002, 0.01, "mm", "the same of a layer"),
    _of("off_speed", 0.15, 0.1, 0.25, "1", "share by which speeds may differ: walls are slower than infill"),
    _of("off_bead", 0.12, 0.08, 0.2, "1", "the same of the section of a bead"),
    _of("off_mass", 0.1, 0.05, 0.2, "1", "share by which filament of file and brief may differ"),
    _of("off_hours", 0.1, 0.05, 0.2, "1", "share by which hours may lie outside the band of the file"),
    _of("kin", 4.0, 3.0, 8.0, "1", "runs of the same polymer from which they speak for themselves"),
    _of("load_min", 10.0, 5.0, 20.0, "min", "taking a spool out, loading, purging, cleaning the plate"),
    _of("look_min", 5.0, 2.0, 10.0, "min", "one look"),
    _of("release_min", 15.0, 5.0, 30.0, "min", "taking a part off, cleaning the plate"),
    _of("preheat_min", 15.0, 5.0, 40.0, "min", "until plate and nozzle are hot"),
    _of("release_c", 40.0, 30.0, 50.0, "°C", "plate at which a part lets go by bending or by itself"),
    _of("release_sheet_c", 45.0, 35.0, 55.0, "°C", "the same of a sheet that is bent"),
    _of("open_from_k", 60.0, 40.0, 90.0, "K", "part over room above which cold air cracks glassy polymers"),
    _of("ramp", 3.0, 1.0, 5.0, "K/min", "cooling that dense glassy parts bear without bending"),
    _of("hot_min", 10.0, 5.0, 20.0, "min", "after the last layer within which a part is taken off hot"),
    _of("heater_holds", 7_500.0, 4_500.0, 13_000.0, "J/m²/K", "heat held by a heated plate alone: 3 mm of aluminium"),
    _of("surface_holds", 4_500.0, 500.0, 8_000.0, "J/m²/K", "by a surface on it that nobody described"),
    _of("part_holds", 1.5, 1.0, 2.2, "kJ/kg/K", "heat of a polymer, room to plate"),
    _of("near_plate", 0.3, 0.1, 0.6, "1", "share of a part that cools with its plate"),
    _of("air_min", 45.0, 18.0, 100.0, "min", "until the air of a chamber of unknown walls nears the room to a third"),
    _of("cool_min", 40.0, 10.0, 60.0, "min", "until a part comes off its plate"),
)
