"""What can be done about an anneal: another hold, longer, less steep, held in sand, in another oven."""

import math

import attrs
import numpy as np

from kaustos.core.estimates import ANNEAL
from kaustos.core.memo import by_identity
from kaustos.core.planning.anneal_programme import Programme, Step, Window
from kaustos.core.planning.anneal_usage import usage_of
from kaustos.core.planning.annealing import hold_wanted_h
from kaustos.core.records import Polymer, Recipe
from kaustos.core.review.anneal.case import AnnealCase, anneal_case
from kaustos.core.review.contract import Advice, Context, Remedy, Set

SENT_OUT = Advice("Have it annealed outside", "With its programme, how it lies, and a witness coupon in the same load.")
CUT_UP = Advice("Print it in pieces, or use a larger oven", "A joint is tested first.")
PACKED: tuple[Remedy, ...] = (
    Set("Bury it in dry sand or salt", {"anneal.packed": "sand", "anneal.pack_mm": ANNEAL["sand_mm"].value}),
    Set("Clamp it in a jig", {"anneal.packed": "jig", "anneal.pack_mm": ANNEAL["jig_mm"].value}),
)
JUDGED: tuple[Remedy, ...] = (Set("Judge the part as annealed", {"brief.history": "annealed"}),)
WATERED = Advice("Condition it before it is measured or fitted", "In the air it will serve in, or in warm damp air.")
COUPONED = Advice("Put three coupons into the next load", "Measured along, across and up, cold, before and after.")
JOINED: tuple[Remedy, ...] = (
    Set("Make it of one piece, or screw it", {"brief.glued": False}),
    Advice("Test three joints", "Roughened and cleaned as the part will be, cured as its data sheet says; write the "
           "lowest."),
)  # fmt: skip
PATCHED = Advice("Paint a patch first", "Sand, prime, paint, let it cure; scratch a grid, tape it, pull.")
CURED: tuple[Remedy, ...] = (
    Set("They are set by heat: nothing cures", {"anneal.cure_h": 0.0}),
    Advice("Take it from the data sheet of the adhesive", "At the heat it cures at; load nothing before."),
)
WITNESS = "A thermocouple inside a dummy of the thickest section; the hold counts from its reading."
AGAIN = Advice("Anneal the load again, with a witness", WITNESS)
READ = Advice("Open its log, weigh a coupon of it in water, or anneal it again with a witness", WITNESS)
NO_AIR = Advice("Bury it, or anneal it under nitrogen or vacuum", "Nitrogen: an aired room, a licensed fitter.")


def modulus_at(polymer: Polymer, celsius: float) -> float:
    """Modulus at a temperature, straight in its logarithm between the points that are known [MPa]."""
    assert polymer.modulus is not None
    at, value = np.array(polymer.modulus.points).T
    return float(np.exp(np.interp(celsius, at, np.log(value))))


def _aim(case: AnnealCase, window: Window) -> float:
    """Where a hold acts best, as far as the place that is set reaches [°C]."""
    aim, reach = float(round(window.aim)), case.place.reach_c if case.place is not None else None
    return float(math.floor(reach)) if reach is not None and window.low < reach < aim else aim


def held_at(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """The hottest holds moved into the window; what is hotter than they are moves with them."""
    window, hold = case.window, case.hottest_c
    if window is None or hold is None:
        return ()
    aim = _aim(case, window)
    changes: dict[str, float | str | None] = {
        f"anneal.steps.{place}.temperature_c": aim
        for place, each in enumerate(recipe.anneal.steps)
        if each.temperature_c is not None and (each.temperature_c == hold or each.temperature_c > aim)
    }
    return (Set("Hold it at {aim:temperature}", changes, {"aim": aim}),)


def held_longer(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """The last hold made long enough, where two days do; else hotter."""
    hours, warmer = _hours_for(case), _warmer(case, recipe)
    if hours is None:
        measured = Advice("Measure it instead", "A coupon before and after, by density or bending.")
        return (*(warmer or held_at(case, recipe)), measured)
    last = last_held(recipe)
    longer = Set("Hold it for {hours:duration}", {f"anneal.steps.{last}.hold_h": hours}, {"hours": hours})
    return (*warmer, longer)


def _warmer(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """The last hold moved up to where it acts best, and as long as it takes there; none where it lies there already."""
    hours = _hours_warmer(case)
    if hours is None or case.window is None:
        return ()
    aim, place = float(round(case.window.aim)), last_held(recipe)
    changes: dict[str, float | str | None] = {
        f"anneal.steps.{place}.temperature_c": aim, f"anneal.steps.{place}.hold_h": hours,
    }  # fmt: skip
    return (Set("Hold it at {aim:temperature} for {hours:duration}", changes, {"aim": aim, "hours": hours}),)


def last_held(recipe: Recipe) -> int:
    """Number of the last step [-] that has a hold."""
    return max(place for place, each in enumerate(recipe.anneal.steps) if each.temperature_c is not None)


@by_identity(64)
def _hours_warmer(case: AnnealCase) -> float | None:
    """Hours that the last hold wants where it acts best [h]; None where it lies there, or that is not reached."""
    window, programme, load, polymer = case.window, case.programme, case.load, case.polymer
    if window is None or programme is None or load is None or polymer is None:
        return None
    aim, last = float(round(window.aim)), programme.steps[-1]
    short = case.place is not None and case.place.reach_c is not None and case.place.reach_c < aim
    if last.hold_c >= aim - 1.0 or short:
        return None
    moved = attrs.evolve(programme, steps=(*programme.steps[:-1], attrs.evolve(last, hold_c=aim)))
    return hold_wanted_h(moved, load, polymer, strict=case.is_strict)


@by_identity(64)
def _hours_for(case: AnnealCase) -> float | None:
    """Hours that the last hold wants, worked out once for a case."""
    programme, load, polymer = case.programme, case.load, case.polymer
    if programme is None or load is None or polymer is None:
        return None
    return hold_wanted_h(programme, load, polymer, strict=case.is_strict)


def ramped(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """Every ramp no steeper than the section bears."""
    if case.limit is None:
        return ()
    ramp = rounded_down(case.limit.ramp_k_h)
    changes: dict[str, float | str | None] = {
        f"anneal.steps.{place}.ramp_k_h": ramp
        for place, each in enumerate(recipe.anneal.steps)
        if each.temperature_c is not None and (each.ramp_k_h is None or each.ramp_k_h > ramp)
    }
    return (Set("Ramp by {ramp:ramp}", changes, {"ramp": ramp}),)


def cooled(case: AnnealCase) -> Remedy:
    """Cooling no steeper than the section bears."""
    assert case.limit is not None
    ramp = rounded_down(case.limit.ramp_k_h)
    return Set("Cool by {ramp:ramp}", {"anneal.cool_k_h": ramp}, {"ramp": ramp})


def rounded_down(ramp: float) -> float:
    """A ramp that a controller takes, no steeper than a limit [K/h]."""
    step = 1.0 if ramp < 20.0 else 5.0 if ramp < 100.0 else 10.0
    return max(math.floor(ramp / step) * step, 0.5)


def taken_out(limit: float) -> Remedy:
    """Left in until it is as cool as a limit [°C]."""
    out = float(math.floor(limit))
    return Set("Leave it in until {out:temperature}", {"anneal.out_c": out}, {"out": out})


def dried_before(polymer: Polymer | None) -> Remedy:
    """Dried below its softening first."""
    dryer = polymer.value("dryer_low_c") if polymer is not None else None
    words = "Until its mass stands still; never put a part that is wet with solvent into an oven."
    if dryer is None:
        return Advice("Dry it first", words)
    return Advice("Dry it at {dryer:temperature} first", words, {"dryer": dryer.value})


def out_of_air(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """Less hot, where that still acts; else out of the air."""
    window, limit = case.window, ANNEAL["heavy_air"].value
    if window is None or window.low + ANNEAL["even_k"].high / 2.0 > limit:
        return (NO_AIR,)
    changes: dict[str, float | str | None] = {
        f"anneal.steps.{place}.temperature_c": limit
        for place, each in enumerate(recipe.anneal.steps)
        if each.temperature_c is not None and each.temperature_c > limit
    }
    return (Set("Hold it at {limit:temperature}", changes, {"limit": limit}), NO_AIR)


def after_bad(case: AnnealCase, recipe: Recipe) -> tuple[Remedy, ...]:
    """By how it came out."""
    outcome = case.last.outcome if case.last is not None else None
    if outcome == "warped":
        return (*PACKED, Advice("Look at size and flatness of every part", "Before and after, with the same gauge."))
    if outcome == "cracked" and case.limit is not None:
        return (*ramped(case, recipe), Advice("Look for flaws of the weld", "A weak layer opens first: bench 70."))
    if outcome == "blistered":
        return (dried_before(case.polymer),)
    return (NO_AIR,) if outcome == "browned" else ()


def planned(recipe: Recipe, context: Context) -> Set | None:
    """The programme that polymer, section and place ask for; None where too little is known of them."""
    case = anneal_case(recipe, context)
    window, limit, load, polymer = case.window, case.limit, case.load, case.polymer
    if window is None or limit is None or load is None or polymer is None or case.out_c is None:
        return None
    aim = _aim(case, window)
    ramp = rounded_down(min(limit.ramp_k_h, usage_of(polymer, load.wall_mm).ramp_k_h))
    soft = polymer.modulus is not None and modulus_at(polymer, aim) < ANNEAL["soft_mpa"].value
    changes: dict[str, float | str | None] = {}
    packed = recipe.anneal.packed
    if soft and packed in (None, "free") and recipe.anneal.where != "machine" and polymer.character != "rubbery":
        packed = "sand"
        changes |= {"anneal.packed": "sand", "anneal.pack_mm": ANNEAL["sand_mm"].value}
        load = attrs.evolve(load, pack="sand", pack_mm=ANNEAL["sand_mm"].value)
    elif packed is None:
        changes["anneal.packed"] = "free"
    out = float(math.floor(case.out_c))
    step = Step(ramp_k_h=ramp, hold_c=aim, hold_h=1.0)
    programme = Programme(from_c=context.rules.room_c, steps=(step,), cool_k_h=ramp, out_c=out)
    hours = hold_wanted_h(programme, load, polymer, strict=case.is_strict)
    if hours is None:
        return None
    changes |= {"anneal.steps.0.temperature_c": aim, "anneal.steps.0.hold_h": hours, "anneal.steps.0.ramp_k_h": ramp}
    changes |= {"anneal.cool_k_h": ramp, "anneal.out_c": out}
    if recipe.anneal.where is None:
        changes["anneal.where"] = "oven"
    changes |= without_steps(recipe, 1)
    values = {"aim": aim, "hours": hours, "ramp": ramp}
    return Set("Plan it: {aim:temperature} for {hours:duration}, ramps of {ramp:ramp}", changes, values)


def without_steps(recipe: Recipe, first: int = 0) -> dict[str, float | str | None]:
    """Every step from the one of a number [-] on taken out, the last first, so that it can be undone again."""
    names = ("temperature_c", "hold_h", "ramp_k_h")
    places = range(len(recipe.anneal.steps) - 1, first - 1, -1)
    return {f"anneal.steps.{place}.{name}": None for place in places for name in names}
