"""What else is done to the part by hand, because of what was chosen earlier: in its order, with tools and minutes."""

import attrs

from kaustos.core.estimates import ANNEAL
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.contract import Context
from kaustos.core.review.supports.afterwards import steps_after

PRACTICE = "practice, estimate"
FIBRES = ("carbon", "glass")
SPLINTERS = "goggles, gloves: edges and fibres cut"
DUST = "wet, goggles, fine-dust mask: dust of fibres harms lungs"


@attrs.frozen(kw_only=True)
class Work:
    """One step by hand, for all copies of a plate."""

    key: str
    what: str
    tools: str
    minutes: Estimate | None  # None where nobody need be there
    waits: Estimate | None = None  # [h]


def work_list(recipe: Recipe, context: Context) -> tuple[Work, ...]:
    """Every step, in the order in which it is done.

    Supports, anchor and film before the oven; what the oven would undo, behind it.
    """
    before = [*_held(recipe, context), *_trimmed(recipe, context), *_washed(recipe, context)]
    return (*before, *_annealed(recipe, context), *_shaped(recipe, context))


def _minutes(key: str, count: float) -> Estimate:
    each = ANNEAL[f"{key}_min"]
    return Estimate(each.value * count, each.low * count, each.high * count, "min", PRACTICE, each.source)


def _copies(recipe: Recipe) -> float:
    return recipe.plate.copies or 1.0


def _is_filled(context: Context) -> bool:
    lot, polymer = context.lot, context.polymer
    name = polymer.id if polymer is not None else ""
    return (lot is not None and lot.filler in FIBRES) or name.endswith(("_cf", "_gf"))


def _held(recipe: Recipe, context: Context) -> list[Work]:
    return [
        Work(key="supports", what=each.what, tools=each.tools, minutes=each.minutes, waits=each.waits)
        for each in steps_after(recipe, context)
    ]


def _trimmed(recipe: Recipe, context: Context) -> list[Work]:
    if recipe.plate.anchor in (None, "none", "skirt"):
        return []
    polymer = context.polymer
    glassy = polymer is not None and polymer.is_glassy and polymer.character == "stiff"
    how = "saw or file, cold; it splinters" if glassy or _is_filled(context) else "knife or deburring blade, hand-warm"
    return [Work(key="trim", what=f"Trim the {recipe.plate.anchor} off", tools=f"{how}; {SPLINTERS}",
                 minutes=_minutes("trim", _copies(recipe)))]  # fmt: skip


def _washed(recipe: Recipe, context: Context) -> list[Work]:
    if context.agent is None and not recipe.plate.coats:
        return []
    tools = "warm water first, then what its label says; gloves"
    minutes = _minutes("wash", _copies(recipe))
    return [Work(key="wash", what="Wash agent or film off the foot", tools=tools, minutes=minutes)]


def _annealed(recipe: Recipe, context: Context) -> list[Work]:
    case = anneal_case(recipe, context)
    if not case.is_planned:
        return []
    found = case.found
    hours = None if found is None else Estimate(found.hours, found.hours, found.hours, "h", "programme", "bench 110")
    return [
        Work(key="oven", what="Anneal it, a witness beside it", tools="heat-proof gloves; hot sand looks like cold",
             minutes=_minutes("load", 1.0), waits=hours),
        Work(key="cold", what="Measure it, cold", tools="the same gauge and places as before", minutes=None),
    ]  # fmt: skip


def _shaped(recipe: Recipe, context: Context) -> list[Work]:
    brief, copies, part = recipe.brief, _copies(recipe), context.part
    found = []
    if part is not None and part.stock_mm:
        tools = f"sharp tool, chips drawn off, no coolant that attacks it; {SPLINTERS}"
        what = f"Machine {part.stock_mm:g} mm off its faces"
        found.append(Work(key="machine", what=what, tools=tools, minutes=_minutes("machine", copies)))
    if brief.sanded or brief.painted:
        dust = DUST if _is_filled(context) else "wet, mask"
        found.append(Work(key="sand", what="Sand it: 180, 320, 600", tools=dust, minutes=_minutes("sand", copies)))
    if brief.glued:
        cure = recipe.anneal.cure_h
        waits = None if not cure else Estimate(cure, cure, cure, "h", "as typed", "data sheet of the glue")
        tools = "roughen, clean, clamp; fresh air, gloves: vapour stings, it bonds skin"
        found.append(Work(key="glue", what="Glue it", tools=tools, minutes=_minutes("glue", copies), waits=waits))
    if brief.inserts:
        cure = recipe.anneal.cure_h
        waits = None if not cure else Estimate(cure, cure, cure, "h", "as typed", "data sheet of the adhesive")
        tools, minutes = "iron or press, square to the hole; hot tip", _minutes("bush", copies)
        found.append(Work(key="bush", what="Set bushes and inserts", tools=tools, minutes=minutes, waits=waits))
    if brief.painted:
        tools = "test patch first; drawn-off air, mask for its solvent"
        found.append(Work(key="paint", what="Prime and paint it", tools=tools, minutes=_minutes("paint", copies)))
    return found
