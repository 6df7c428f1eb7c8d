"""What the part still needs after the plate because of what held it: steps, tools, minutes, hours that it waits."""

import attrs

from kaustos.core.estimates import SUPPORT
from kaustos.core.planning.bath import slow_in
from kaustos.core.planning.draws import drawn, estimate
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.supports.case import BY_HAND, SECOND, SupportCase, course_in, support_case


@attrs.frozen(kw_only=True)
class AfterStep:
    """One step, for all copies of a plate."""

    what: str
    tools: str
    minutes: Estimate | None  # of work; None where nobody need be there
    waits: Estimate | None = None  # [h]; None where nothing is waited for


def steps_after(recipe: Recipe, context: Context) -> tuple[AfterStep, ...]:
    """The steps that the way which is set leaves, in their order; empty where it leaves none."""
    case = support_case(recipe, context)
    found = [*_drawn(case, recipe, context), *_off(case), *_bathed(case, recipe, context)]
    copies = recipe.plate.copies or 1.0
    if case.way in SECOND:
        found.append(_inspected(recipe, copies))
    return tuple(found)


def _times(key: str, count: float, method: str) -> Estimate:
    each = SUPPORT[key]
    return Estimate(each.value * count, each.low * count, each.high * count, each.unit, method, each.source)


def _drawn(case: SupportCase, recipe: Recipe, context: Context) -> list[AfterStep]:
    decided = [each for each in (context.part.decided if context.part is not None else ()) if each not in case.gone]
    copies = recipe.plate.copies or 1.0
    found = []
    skins = sum(each.what == "skin" for each in decided)
    if skins:
        what = f"Drill {skins} skin{'s' if skins > 1 else ''} open"
        tools = "drill of the bore's size, slow; clamp, goggles"
        found.append(AfterStep(what=what, tools=tools, minutes=_times("drill_min", skins * copies, "by skin")))
    drawn = sum(each.what == "drawn" for each in decided)
    if drawn:
        minutes = _times("off_least", drawn * copies, "by place")
        found.append(AfterStep(what="Cut drawn supports out", tools="side cutters, knife, goggles", minutes=minutes))
    return found


def _off(case: SupportCase) -> list[AfterStep]:
    way = case.chosen
    if way is None or way.key not in BY_HAND:
        return []
    share, pauses = SUPPORT["takes"].value, len(way.cost.pauses) * SUPPORT["pause_min"].value
    extra = SUPPORT["draw_min"].value if way.key == "built_in" else 0.0
    minutes = max(way.cost.attended_min - pauses - extra, SUPPORT["off_least"].low)
    work = Estimate(minutes, minutes * (1.0 - share), minutes * (1.0 + share), "min", "faces touched", "estimate")
    own = case.series is not None and case.series.is_valid and "minutes" in case.series.values
    told = "; the series of gaps took " + f"{case.series.values['minutes']:g} min" if own and case.series else ""
    tools = "pliers, pick, knife; part clamped, goggles, gloves" + told
    return [AfterStep(what="Take supports off", tools=tools, minutes=work)]


def _bathed(case: SupportCase, recipe: Recipe, context: Context) -> list[AfterStep]:
    material, model = case.material, case.polymer
    if case.way != "soluble" or material is None or model is None or material.bath_h is None:
        return []
    copies, course = recipe.plate.copies or 1.0, course_in(case, recipe)
    bath = course.hours if course is not None else None
    if bath is None:
        hours = material.bath_h
        longer = drawn("bath hours", hours.band) * drawn("bath slow", slow_in(case.bath, material))
        bath = estimate(longer, "h", "usual hours, times what baths take over them", hours.source)
    drinks = model.family in ("pa", "ppa") or material.does_to(model) == "swells"
    dries = _times("soaked_h" if drinks else "dry_h", 1.0, "practice")
    wear = material.cautions[0] if material.cautions else "gloves, goggles"
    found = [
        AfterStep(what="Weigh it, dry", tools="balance", minutes=_times("weigh_min", copies, "by part")),
        AfterStep(what="Bath", tools=wear, minutes=None, waits=bath),
        AfterStep(what="Rinse and wipe", tools="clean water, gloves", minutes=_times("rinse_min", copies, "by part")),
        AfterStep(what="Dry it until it is level", tools="warm air below its softening", minutes=None, waits=dries),
        AfterStep(
            what="Weigh it twice", tools="balance", minutes=_times("weigh_min", 2.0 * copies, "by part"),
            waits=_times("level_h", 1.0, "apart"),
        ),
    ]  # fmt: skip
    if drinks:
        found.append(AfterStep(what="Condition it", tools="its size is that of its water: say which is meant",
                               minutes=None, waits=_times("soaked_h", 1.0, "practice")))  # fmt: skip
    return found


def _inspected(recipe: Recipe, copies: float) -> AfterStep:
    unseen = recipe.supports.contrast is not True
    what = "Inspect it: what is left does not stand out" if unseen else "Inspect it: what is left stands out"
    return AfterStep(
        what=what, tools="lamp, pick, every pocket", minutes=_times("inspect_min", copies * (2.0 if unseen else 1.0),
                                                                    "by part, twice where colours are alike"),
    )  # fmt: skip


def work_after(recipe: Recipe, context: Context) -> Estimate | None:
    """Work that all steps take together [min]; None where nobody looked at the part."""
    case, steps = support_case(recipe, context), steps_after(recipe, context)
    if case.needs is None:
        return None
    work = [each.minutes for each in steps if each.minutes is not None]
    value = sum(each.value for each in work)
    off = sum(max(each.high - each.value, each.value - each.low) ** 2 for each in work) ** 0.5
    return Estimate(value, max(value - off, 0.0), value + off, "min", "steps afterwards, independent", "estimate")
