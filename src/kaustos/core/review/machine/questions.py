"""What the machine is asked for, and the worst grade that each answer could bring."""

from collections.abc import Iterator

from kaustos.core.planning.reach import PLAUSIBLE_LOW_C, is_chamber_heated, parts_of, reach_of
from kaustos.core.records import OFFSETS, ZONES, Machine, Part, PassivePart, Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.records.machine import HeaterPart, SensorPart
from kaustos.core.records.stock import COMMON_DIAMETER
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.machine.nozzle_findings import wears_in
from kaustos.core.review.machine.passport_findings import is_calibrated
from kaustos.core.review.making import Question
from kaustos.core.review.zones import SETTINGS, WEARS, window_of

_BLANK = Machine(id="")
_VALUES = (
    *(f"{zone}_{end}_c" for zone in ZONES for end in ("low", "high")),
    "glass_transition_c",
    "decomposition_c",
)
_CRYSTALS = ("melting_c", "crystallisation_c")  # asked of polymers that have them


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything that the machine asks."""
    polymer, machine = context.polymer, context.machine
    crystals = polymer is not None and polymer.structure == "semi_crystalline"
    return (
        Question("machine", machine is not None, "no_go"),
        *(
            Question(field, value_at(recipe, field) is not None, "no_go")
            for zone, settings in SETTINGS.items()
            for field, _, _ in settings
            if zone != "chamber" or is_chamber_heated(machine)
        ),
        *(
            Question(f"polymer.{key}", polymer is not None and polymer.value(key) is not None, "no_go")
            for key in (_VALUES + _CRYSTALS if crystals else _VALUES)
        ),
        *_parts(recipe, context),
        *(
            Question(f"machine.{name}", machine is not None and getattr(machine, name) is not None, GRADES[-1], False)
            for name in ("power_w", "rate_per_h")
        ),
        *_room(recipe, context),
        *_nozzle(context),
        *_passport(context),
    )


def _passport(context: Context) -> Iterator[Question]:
    """What else a machine's passport holds, and which of its temperatures were compared with a second sensor."""
    machine = context.machine
    if machine is None:
        return
    for name in ("geared", "tube_mm", "two_feeds", "site", "extraction"):
        yield Question(f"machine.{name}", getattr(machine, name) is not None, GRADES[-1], False)
    space = machine.enclosure
    yield Question("machine.enclosure.kind", space.kind is not None, GRADES[-1], False)
    if space.kind not in (None, "open"):
        for name in ("inner_x_mm", "inner_y_mm", "inner_z_mm", "wall", "insulation_mm", "frame_kg", "fan"):
            yield Question(f"machine.enclosure.{name}", getattr(space, name) is not None, GRADES[-1], False)
    yield Question("machine.stack", bool(machine.stack), GRADES[-1], False)
    for place, part in enumerate(machine.near):
        known = None not in (part.place, part.softens_c, part.clearance_mm)
        yield Question(f"machine.near[{place}]", known, GRADES[0], False)
    yield Question("machine.near", bool(machine.near), GRADES[0], False)
    for zone, kind in OFFSETS.items():
        if zone != "chamber" or is_chamber_heated(machine):
            yield Question(f"calibration.{kind}", is_calibrated(context, kind), GRADES[-1], False)


def _nozzle(context: Context) -> Iterator[Question]:
    """Which nozzle is fitted, and what is known of it: its metal and bore decide where filament wears or blocks."""
    nozzle, wears = context.nozzle, wears_in(context)[1] > WEARS
    if context.machine is None:
        return
    yield Question("nozzle", nozzle is not None, GRADES[2], wears)
    if nozzle is not None:
        for name in ("material", "bore_mm"):
            yield Question(f"nozzle.{name}", getattr(nozzle, name) is not None, GRADES[2], wears)
        for name in ("land_mm", "cone_deg", "max_c", "edge", "finish", "origin", "price"):
            yield Question(f"nozzle.{name}", getattr(nozzle, name) is not None, GRADES[-1], False)


def _room(recipe: Recipe, context: Context) -> Iterator[Question]:
    """Travel matters once the part's size is known, what it feeds once the strand is not the common one."""
    machine, lot = context.machine, context.lot
    for axis in "xyz":
        known = machine is not None and getattr(machine, f"travel_{axis}_mm") is not None
        sized = machine is not None and getattr(recipe.brief, f"size_{axis}_mm") is not None
        yield Question(f"machine.travel_{axis}_mm", known, GRADES[0], sized)
    odd = machine is not None and lot is not None and lot.diameter not in (None, COMMON_DIAMETER)
    yield Question("machine.feeds", machine is not None and machine.feeds is not None, GRADES[0], odd)


def _parts(recipe: Recipe, context: Context) -> Iterator[Question]:
    """The limit of every part, then what else its record holds."""
    machine = context.machine
    for zone in ZONES:
        unknown = reach_of(machine, zone, context.rules).unknown if machine else None
        for name, _ in parts_of(getattr(_BLANK, zone)):
            known = unknown is not None and name not in unknown
            worst = GRADES[0] if machine is None else _worst_of_part(recipe, context, zone, name)
            yield Question(f"machine.{zone}.{name}", known, worst)
    for zone in ZONES:
        for name, part in parts_of(getattr(machine or _BLANK, zone)):
            yield from _details(zone, name, part)


def _details(zone: str, name: str, part: Part) -> Iterator[Question]:
    """What a part's record holds beside its limit: where that is known from, what replacing it costs."""
    is_absent = part.fitted is False and part.max_c is None
    details = {"basis": is_absent or part.basis is not None}
    if isinstance(part, PassivePart):
        details["price"] = is_absent or part.price is not None
    if not is_absent and isinstance(part, HeaterPart) and (zone != "chamber" or part.fitted):
        details |= {each: getattr(part, each) is not None for each in ("power_w", "volts")}
        details["rated_c"] = part.rated_c is not None
    if not is_absent and isinstance(part, SensorPart):
        details |= {each: getattr(part, each) is not None for each in ("kind", "table")}
    if name == "liner" and part.fitted:
        details["max_c"] = part.max_c is not None  # judged by the hard stop until the liner's own limit is known
    for detail, is_known in details.items():
        yield Question(f"machine.{zone}.{name}.{detail}", is_known, GRADES[-1], False)


def _worst_of_part(recipe: Recipe, context: Context, zone: str, name: str) -> str:
    """The worst grade that recording the part could bring, taking the lowest limit such a part is met with.

    What is not set is asked for itself. A chamber that nothing heats may come to no more than the room.
    """
    if zone == "chamber" and not is_chamber_heated(context.machine):
        low, _ = window_of(context.polymer, zone, context)
        cold = name == "heater" and (low is None or low.value > context.rules.room_c)
        return "decorative" if cold else GRADES[-1]
    setpoints = [value_at(recipe, field) for field, _, _ in SETTINGS[zone]]
    lowest = PLAUSIBLE_LOW_C[f"{zone}.{name}"]
    return GRADES[0] if any(each is not None and each > lowest for each in setpoints) else GRADES[-1]
