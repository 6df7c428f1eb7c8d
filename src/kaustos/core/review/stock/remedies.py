"""What helps against wet filament: hours, heat, another dryer, another feed."""

import math
from collections.abc import Callable

from kaustos.core.estimates import DRYING
from kaustos.core.planning.air import Air, dryer_air
from kaustos.core.planning.drying import floor_of
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import Datum, Dryer, Lot, Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Remedy, Set
from kaustos.core.review.stock.lot import lot_in_use
from kaustos.core.review.stock.plan import Plan, dried_in

LONGEST_PLAN_H = DRYING["longest_plan"].value
HARM_PER_K, VACUUM_HARMS_LATER = DRYING["harm_per"].value, DRYING["harm_vacuum"].value


def window(context: Context) -> tuple[Datum | None, Datum | None]:
    polymer = context.polymer
    return (polymer.value("dryer_low_c"), polymer.value("dryer_high_c")) if polymer else (None, None)


def spool_limit(recipe: Recipe, context: Context) -> float | None:
    """What the spool body of the lot in use stands for certain [°C]."""
    lot = lot_in_use(recipe, context)
    return context.supplies.stands_c(lot.flange) if lot else None


def hottest(recipe: Recipe, context: Context, dryer: Dryer | None, flange_c: float | None = None) -> float | None:
    """The hottest that polymer, spool body (this one or a better) and dryer stand together, in whole kelvins [°C]."""
    _, high = window(context)
    body = flange_c or spool_limit(recipe, context)
    limits = [high.value if high else None, body, dryer.max_c if dryer else None]
    known = [each for each in limits if each is not None]
    return float(math.floor(min(known))) if known else None


def drying_set(recipe: Recipe, context: Context, plan: Plan) -> tuple[Set, ...]:
    """Temperature and hours that dry every turn in the worst case, in the dryer of now."""
    found = hours_in(recipe, context, plan, context.dryer)
    if found is None:
        return ()
    celsius, hours = found
    changes: dict[str, float | str] = {"stock.dryer_c": celsius, "stock.dryer_h": hours}
    return (Set("Dry {hours:duration} at {celsius:temperature}", changes, {"hours": hours, "celsius": celsius}),)


def hours_in(
    recipe: Recipe, context: Context, plan: Plan, dryer: Dryer | None, flange_c: float | None = None
) -> tuple[float, float] | None:
    """Temperature and hours that dry every turn in the worst case, to the half hour; None where hot air would
    harm [°C, h]."""
    celsius = hottest(recipe, context, dryer, flange_c)
    if celsius is None:
        return None
    needed, longest = dried_in(plan.spool, dryer, celsius).surely_h, longest_h(context, celsius, dryer)
    if not needed <= longest - 1.0:
        return None
    return celsius, min(float(math.ceil(needed * 2.0) / 2.0) + 0.5, longest)


def longest_h(context: Context, celsius: float, dryer: Dryer | None) -> float:
    """As long as anybody would dry, and hot air does not harm [h]."""
    most = harms_from_h(context, celsius, dryer)
    return LONGEST_PLAN_H if most is None else min(LONGEST_PLAN_H, float(math.floor(most)))


def harms_from_h(context: Context, celsius: float, dryer: Dryer | None) -> float | None:
    """The hours from which hot air harms: twice as many for every 10 K below the window's upper end, more where there
    is little oxygen; None where they are not known [h]."""
    most, (_, high) = context.polymer.value("drying_most_h") if context.polymer else None, window(context)
    if most is None:
        return None
    cooler_by = min(max((high.value if high else celsius) - celsius, -20.0), 30.0)
    thin = VACUUM_HARMS_LATER if dryer is not None and dryer.air == "vacuum" else 1.0
    return float(most.value * 2.0 ** (cooler_by / HARM_PER_K) * thin)


def rewound(recipe: Recipe, context: Context, plan: Plan | None) -> tuple[Choose, ...]:
    """The filament on a body that stands more heat, in the dryer that then is quickest, where the body is the limit."""
    lot, limit = lot_in_use(recipe, context), spool_limit(recipe, context)
    if plan is None or lot is None or limit is None:
        return ()
    found = []
    for dryer in context.shop.dryers:
        times = hours_in(recipe, context, plan, dryer, context.supplies.stands_c("metal"))
        if times is not None and times[0] > limit:
            found.append((times[1], times[0], dryer))
    if not found:
        return ()
    hours, celsius, dryer = min(found, key=lambda each: each[:2])
    title = "Wind it onto a metal spool; {dryer:text}, {hours:duration} at {celsius:temperature}"
    changes: dict[str, float | str] = {"lot.flange": "metal", "stock.dryer_c": celsius, "stock.dryer_h": hours}
    values: dict[str, float | str] = {"dryer": dryer.name, "hours": hours, "celsius": celsius}
    return (Choose(title, "dryer", dryer.id, values, changes),)


def cooler(recipe: Recipe, context: Context, plan: Plan | None, target_c: float) -> Set:
    """A lower setpoint, and as many hours more as every turn then takes, as far as anybody would wait."""
    title, hours = "Set the dryer to {target:temperature}", recipe.stock.dryer_h
    changes: dict[str, float | str] = {"stock.dryer_c": target_c}
    values: dict[str, float | str] = {"target": target_c}
    if plan is not None and hours:
        needed = dried_in(plan.spool, context.dryer, target_c).surely_h
        longest = longest_h(context, target_c, context.dryer)
        longer = min(float(math.ceil(needed + 0.5)), longest) if needed < math.inf else longest
        if longer > hours:
            title += " for {hours:duration}"
            changes["stock.dryer_h"], values["hours"] = longer, longer
    return Set(title, changes, values)


def other_lots(recipe: Recipe, context: Context, wanted: Callable[[Lot], bool]) -> tuple[Choose, ...]:
    """Lots of the recipe's polymer that would do, the dryer brought down to what their spools stand."""
    found = []
    for lot in context.shop.lots:
        if lot.polymer == recipe.polymer and wanted(lot):
            stands, setpoint = context.supplies.stands_c(lot.flange), recipe.stock.dryer_c
            hot = stands is not None and setpoint is not None and setpoint > stands
            changes: dict[str, float | str] = {"stock.dryer_c": stands} if hot and stands is not None else {}
            title = "Take the lot {lot:text}" + (", dryer at {stands:temperature}" if hot else "")
            values: dict[str, float | str] = {"lot": lot.name, **({"stands": stands} if stands is not None else {})}
            found.append(Choose(title, "lot", lot.id, values, changes))
    return tuple(found[:3])


def other_dryers(recipe: Recipe, context: Context, plan: Plan) -> tuple[Choose, ...]:
    """Each other dryer of the shop that dries it, with its heat and hours."""
    found = []
    for dryer in context.shop.dryers:
        times = hours_in(recipe, context, plan, dryer)
        if times is None or (context.dryer and dryer.id == context.dryer.id):
            continue
        celsius, hours = times
        values: dict[str, float | str] = {"dryer": dryer.name, "celsius": celsius, "hours": hours}
        title = "Dry in {dryer:text}, {hours:duration} at {celsius:temperature}"
        changes: dict[str, float | str] = {"stock.dryer_c": celsius, "stock.dryer_h": hours}
        found.append(Choose(title, "dryer", dryer.id, values, changes))
    return tuple(found)


def drier_air(plan: Plan, air: Air) -> Advice:
    """What lowers a floor, when no dryer of the shop does."""
    floor = float(floor_of(plan.water, air)[LIKELY])
    text = (
        "At {celsius:temperature} in this room's air the floor is {floor:moisture}. What lowers it: air dried to a dew "
        "point of -30 °C or lower, vacuum, or more heat as far as polymer and spool stand it. Longer does not."
    )
    return Advice("Dry in drier or hotter air", text, {"celsius": air.temperature_c, "floor": floor})


def weigh(context: Context) -> Advice:
    """The proof, and what the eye can and cannot tell of this polymer."""
    signs = context.polymer.wet_signs if context.polymer else ""
    text = "What no longer loses mass is dry for that air. Three weighings give the time constant of this very spool. "
    text += "A wet melt shows {signs:text}." if signs else "A wet melt of this polymer shows nothing until layers part."
    return Advice("Weigh it before, between and after", text, {"signs": signs} if signs else {})


def own_drying(recipe: Recipe, context: Context, plan: Plan) -> tuple[Remedy, ...]:
    """Dry in the dryer of now, and prove it."""
    return (*drying_set(recipe, context, plan), weigh(context))


def drying_elsewhere(recipe: Recipe, context: Context, plan: Plan) -> tuple[Remedy, ...]:
    """Dry in another dryer of the shop or on another body; what else could be done where nothing dries it surely."""
    found: tuple[Remedy, ...] = (*other_dryers(recipe, context, plan), *rewound(recipe, context, plan))
    return found if found or drying_set(recipe, context, plan) else _not_for_certain(recipe, context, plan)


def _not_for_certain(recipe: Recipe, context: Context, plan: Plan) -> tuple[Advice, ...]:
    """The dryer that would likely do; else what the trouble is: the air's floor, or hours that would harm."""
    tried = []
    for dryer in context.shop.dryers:
        celsius = hottest(recipe, context, dryer)
        if celsius is not None:
            tried.append((dried_in(plan.spool, dryer, celsius), celsius, dryer, longest_h(context, celsius, dryer)))
    likely = [(dried.likely_h, celsius, dryer.name, most) for dried, celsius, dryer, most in tried
              if dried.likely_h <= most]  # fmt: skip
    if likely:
        hours, celsius, name, most = min(likely)
        text = (
            "Within {most:duration}, as long as hot air does not harm, none of the shop's dryers is certain to dry it. "
            "{dryer:text} likely does in {hours:duration} at {celsius:temperature}: weigh before, between and after, "
            "and go on until it loses nothing."
        )
        values: dict[str, float | str] = {"most": most, "dryer": name, "hours": hours, "celsius": celsius}
        return (Advice("Dry {hours:duration} in {dryer:text}, then go by the scale", text, values),)
    if tried and not all(dried.never for dried, *_ in tried):
        return (gently(),)
    celsius = hottest(recipe, context, context.dryer)
    air = dryer_air(context.dryer, 60.0 if celsius is None else celsius, context.rules)
    return (drier_air(plan, air),)


def gently() -> Advice:
    """What helps where the air would do, and the hours in it would harm."""
    text = (
        "The air is dry enough; the hours are too many for such heat. Some kelvins cooler stands twice the hours; "
        "vacuum spares oxygen; or split it over two nights, in a closed dry box between them, and weigh each time."
    )
    return Advice("Dry cooler and longer, in vacuum, or over two nights", text)
