"""Machines, lots, recipes and revisions of a firm that does not exist."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from kaustos.app.records import RecipeCard, Records
from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, fill
from kaustos.core.records import Datum, Lot, Machine, Part, PassivePart, Recipe, Rules
from kaustos.core.records.machine import ChamberZone, NozzleZone, PlateZone
from kaustos.core.records.recipe import Anneal, AnnealStep, Brief, FirstLayer, Heat, Melt, Plate

FIRST = "probe_head_shell"
NONE = PassivePart(fitted=False)
NO_PART = Part(fitted=False)


def _part(max_c: float, basis: str = "rated", *, fitted: bool = True) -> Part:
    return Part(fitted=fitted, max_c=max_c, basis=basis)


def _passive(max_c: float, basis: str, price: float) -> PassivePart:
    return PassivePart(fitted=True, max_c=max_c, basis=basis, price=price)


TARN = Machine(
    id="tarn",
    name="Tarn",
    nozzle=NozzleZone(
        heater=_part(420.0, "proven"), sensor=_part(410.0), firmware=_part(400.0), liner=NONE
    ),
    plate=PlateZone(
        heater=_part(160.0, "proven"), sensor=_part(165.0), firmware=_part(170.0), magnet=NONE,
        backing=_passive(180.0, "claimed", 35.0),
    ),
    chamber=ChamberZone(
        heater=_part(110.0, "claimed"), sensor=_part(120.0), firmware=_part(105.0),
        plastics=_passive(90.0, "rated", 80.0)
    ),
    power_w=900.0,
    rate_per_h=4.0,
)  # fmt: skip
CRAG = Machine(
    id="crag",
    name="Crag",
    nozzle=NozzleZone(heater=_part(450.0, "proven"), sensor=_part(450.0), firmware=_part(440.0), liner=NONE),
    plate=PlateZone(
        heater=_part(210.0, "proven"), sensor=_part(250.0), firmware=_part(200.0), magnet=NONE, backing=NONE
    ),
    chamber=ChamberZone(
        heater=_part(175.0, "proven"), sensor=_part(180.0), firmware=_part(190.0), plastics=NONE
    ),
    power_w=2400.0,
    rate_per_h=11.0,
)  # fmt: skip
BECK = Machine(
    id="beck",
    name="Old Beck",
    nozzle=NozzleZone(
        heater=_part(280.0), sensor=_part(280.0), firmware=_part(275.0), liner=_passive(260.0, "rated", 12.0)
    ),
    plate=PlateZone(
        heater=_part(100.0, "proven"), sensor=_part(150.0), firmware=_part(110.0), magnet=_passive(80.0, "rated", 18.0),
        backing=PassivePart(),
    ),
    chamber=ChamberZone(
        heater=_part(32.0, "proven", fitted=False), sensor=NO_PART, firmware=NO_PART,
        plastics=_passive(65.0, "rated", 20.0)
    ),
    power_w=180.0,
    rate_per_h=1.5,
)  # fmt: skip

LOTS = (
    Lot(id="lot_h117", name="H-117, amber", grade="PEI-PC blend, house grade", polymer="pei_pc_blend"),
    Lot(
        id="lot_c042",
        name="C-042, black",
        grade="PC, tough grade",
        polymer="pc",
        grade_values={
            "glass_transition_c": Datum(
                value=141.0, low=139.0, high=143.0, unit="°C", kind="own", source="own measurement, grade C, 2026-05"
            )
        },
    ),
    Lot(id="lot_g310", name="G-310, clear", grade="PETG, clear", polymer="petg"),
)

_SHELL = Recipe(
    name="Probe head shell",
    part="Logging probe head, 62 mm",
    polymer="pei_pc_blend",
    brief=Brief(
        purpose="loaded", service_c=135.0, margin_k=20.0, stress_mpa=0.4, history="as_printed", moisture="dry",
        mass_g=210.0, print_h=14.0,
    ),
    plate=Plate(bed_c=158.0),
    first_layer=FirstLayer(bed_c=160.0, nozzle_c=370.0),
    melt=Melt(nozzle_c=365.0),
    heat=Heat(chamber_c=125.0),
)  # fmt: skip
_CENTRALISER = Recipe(
    name="Centraliser blade",
    part="Centraliser blade, set of 3",
    polymer="pei_pc_blend",
    brief=Brief(
        purpose="safety", service_c=150.0, margin_k=15.0, stress_mpa=1.2, history="annealed", moisture="dry",
        mass_g=96.0, print_h=7.5,
    ),
    plate=Plate(bed_c=172.0),
    first_layer=FirstLayer(bed_c=176.0, nozzle_c=375.0),
    melt=Melt(nozzle_c=372.0),
    heat=Heat(chamber_c=150.0),
    anneal=Anneal(steps=(AnnealStep(temperature_c=150.0, hold_h=2.0), AnnealStep(temperature_c=170.0, hold_h=4.0))),
)  # fmt: skip
_CAGE = Recipe(
    name="Sensor cage",
    part="Cage for the pressure sensor",
    polymer="pc",
    brief=Brief(
        purpose="tool", service_c=118.0, margin_k=20.0, stress_mpa=0.3, history="as_printed", moisture="conditioned",
        mass_g=64.0, print_h=5.0,
    ),
    plate=Plate(bed_c=120.0),
    first_layer=FirstLayer(bed_c=125.0, nozzle_c=285.0),
    melt=Melt(nozzle_c=280.0),
    heat=Heat(chamber_c=80.0),
)  # fmt: skip
_GUIDE = Recipe(
    name="Cable guide",
    part="Guide for the winch cable",
    polymer="petg",
    brief=Brief(
        purpose="prototype", service_c=45.0, margin_k=10.0, stress_mpa=0.4, history="as_printed",
        moisture="conditioned", mass_g=38.0,
    ),
    plate=Plate(bed_c=72.0),
    first_layer=FirstLayer(bed_c=75.0, nozzle_c=245.0),
    melt=Melt(nozzle_c=242.0),
    heat=Heat(chamber_c=28.0),
)  # fmt: skip

RECORDS = Records(
    cards={
        FIRST: RecipeCard(recipe=_SHELL, machine="tarn", lot="lot_h117"),
        "centraliser_blade": RecipeCard(recipe=_CENTRALISER, machine="crag", lot="lot_h117"),
        "sensor_cage": RecipeCard(recipe=_CAGE, machine="tarn", lot="lot_c042"),
        "cable_guide": RecipeCard(recipe=_GUIDE, machine="beck", lot="lot_g310"),
    },
    machines={machine.id: machine for machine in (TARN, CRAG, BECK)},
    lots={lot.id: lot for lot in LOTS},
    rules=Rules(),
    current=FIRST,
)
_EARLIER: tuple[tuple[dict[str, Any], str, str], ...] = (
    (
        {"melt.nozzle_c": 350.0, "heat.chamber_c": 70.0, "plate.bed_c": 150.0, "brief.margin_k": None},
        "M. Thwaite",
        "First try on Tarn, values from the spool's label",
    ),
    (
        {"melt.nozzle_c": 365.0, "heat.chamber_c": 90.0, "plate.bed_c": 158.0},
        "M. Thwaite",
        "Hotter all round after the shell split at layer 40",
    ),
    (
        {"heat.chamber_c": 125.0, "brief.margin_k": 20.0},
        "R. Askew",
        "Chamber as the polymer wants it; can Tarn do that?",
    ),
)


def build(file: Path, now: datetime) -> None:
    """Make the demo workspace in a new file, its revisions dated before ``now``."""
    fill(file, RECORDS, lambda: now)
    steps = len(_EARLIER)
    for step, (changes, who, why) in enumerate(_EARLIER):
        then = now - timedelta(days=3 * (steps - step), hours=2)
        workspace = Workspace(file, Settings(who=who), _at(then))
        workspace.draft.set(changes, title=why)
        workspace.save_revision(why)
        workspace.close()


def _at(moment: datetime) -> Callable[[], datetime]:
    return lambda: moment.astimezone(UTC)
