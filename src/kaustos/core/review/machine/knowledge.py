"""What is not recorded, and the worst that its value could bring."""

from kaustos.core.planning.reach import PLAUSIBLE_LOW_C, parts_of, reach_of
from kaustos.core.records import ZONES, Machine, Part, PassivePart, Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import GRADES, Context, Missing
from kaustos.core.review.machine.codes import PASSIVE
from kaustos.core.review.machine.zones import SETTINGS

_BLANK = Machine(id="")
_PARTS = tuple(f"{zone}.{name}" for zone in ZONES for name, _ in parts_of(getattr(_BLANK, zone)))
_VALUES = (
    *(f"{zone}_{end}_c" for zone in ZONES for end in ("low", "high")),
    "glass_transition_c",
    "decomposition_c",
)
_CRYSTALS = ("melting_c", "crystallisation_c")  # asked of polymers that have them
_ASKED = 1 + 2 * len(_PARTS) + len(PASSIVE) + 5 + 2 + len(_VALUES)


def _values_asked(context: Context) -> tuple[str, ...]:
    crystals = context.polymer is not None and context.polymer.structure == "semi_crystalline"
    return _VALUES + _CRYSTALS if crystals else _VALUES


def asked_of(context: Context) -> int:
    """How many fields this operation asks for."""
    return _ASKED + len(_values_asked(context)) - len(_VALUES)


def missing_of(recipe: Recipe, context: Context) -> tuple[Missing, ...]:
    missing = []
    for settings in SETTINGS.values():
        missing += [Missing(field, "no_go") for field, _, _ in settings if value_at(recipe, field) is None]
    for key in _values_asked(context):
        if context.polymer is None or context.polymer.value(key) is None:
            missing.append(Missing(f"polymer.{key}", "no_go"))
    machine = context.machine
    if machine is None:
        parts = [Missing(f"machine.{part}", "no_go") for part in _PARTS]
        for zone in ZONES:
            for name, part in parts_of(getattr(_BLANK, zone)):
                parts += _details_missing(zone, name, part)
        return (Missing("machine", "no_go"), *missing, *parts, *_money_missing(None))
    for zone in ZONES:
        for name in reach_of(machine, zone, context.rules).unknown:
            missing.append(Missing(f"machine.{zone}.{name}", _worst_of_part(recipe, zone, name)))
        for name, part in parts_of(getattr(machine, zone)):
            missing += _details_missing(zone, name, part)
    return (*missing, *_money_missing(machine))


def _details_missing(zone: str, name: str, part: Part) -> list[Missing]:
    """What a part's record leaves open beside its limit: where that is known from, what replacing it costs."""
    if part.fitted is False and part.max_c is None:
        return []
    details = ["basis"] if part.basis is None else []
    if isinstance(part, PassivePart) and part.price is None:
        details.append("price")
    if name == "liner" and part.fitted and part.max_c is None:
        details.append("max_c")  # judged by the hard stop until the liner's own limit is known
    return [Missing(f"machine.{zone}.{name}.{detail}", GRADES[-1], False) for detail in details]


def _money_missing(machine: Machine | None) -> tuple[Missing, ...]:
    names = [name for name in ("power_w", "rate_per_h") if machine is None or getattr(machine, name) is None]
    return tuple(Missing(f"machine.{name}", "functional", False) for name in names)


def _worst_of_part(recipe: Recipe, zone: str, name: str) -> str:
    """The worst grade that recording the part could bring, taking the lowest limit such a part is met with."""
    setpoints = [value_at(recipe, field) for field, _, _ in SETTINGS[zone]]
    lowest = PLAUSIBLE_LOW_C[f"{zone}.{name}"]
    return GRADES[0] if any(each is None or each > lowest for each in setpoints) else GRADES[-1]
