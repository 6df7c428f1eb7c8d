"""What can be found against an anneal and the work after it."""

from collections.abc import Iterator

from kaustos.core.estimates import ANNEAL
from kaustos.core.planning.anneal_usage import usage_of
from kaustos.core.planning.annealing import is_enough
from kaustos.core.planning.growth import AXES
from kaustos.core.planning.oven_load import SAYS
from kaustos.core.records import LOAD_ENDS, PACKINGS, OvenLoad, Recipe
from kaustos.core.review.anneal import remedies as cures
from kaustos.core.review.anneal.case import AnnealCase, anneal_case, fits_in, of_oven
from kaustos.core.review.anneal.codes import BY_CODE
from kaustos.core.review.anneal.water import hours_to_water
from kaustos.core.review.contract import Choose, Context, Finding, Remedy
from kaustos.core.review.making import make_finding

Values = dict[str, float | str | None]
JOINT_SHARE = 0.5  # of what a test joint held that is counted on


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = anneal_case(recipe, context)
    found = [*_work(recipe, context)]
    if case.is_wanted:
        for look in (_hold, _enough, _ramps, _out, _place, _soft, _state, _air, _size, _last):
            found += look(case, recipe, context)
    return tuple(found)


def _found(recipe: Recipe, context: Context, code: str, field: str, values: Values, *remedies: Remedy) -> Finding:
    return make_finding(BY_CODE[f"anneal.{code}"], recipe, context, field, remedies, values)


def _even(case: AnnealCase) -> float:
    return case.place.even_k if case.place is not None else ANNEAL["even_k"].high


def _field(case: AnnealCase, recipe: Recipe) -> str:
    """The hold that is the hottest."""
    holds = [each.temperature_c for each in recipe.anneal.steps]
    return f"anneal.steps.{holds.index(case.hottest_c)}.temperature_c" if case.hottest_c in holds else "anneal.steps"


def _hold(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """The hottest hold against the window, at the coldest and at the hottest place of the oven."""
    window, hold = case.window, case.hottest_c
    if window is None or hold is None:
        return
    even, field = _even(case) / 2.0, _field(case, recipe)
    again = cures.held_at(case, recipe)
    if hold + even >= window.lost:
        values: Values = {"hottest": hold + even, "lost": window.lost, "gap": hold + even - window.lost}
        yield _found(recipe, context, "hold.lost", field, values, *again)
    elif hold > window.high:
        values = {"hold": hold, "high": window.high, "gap": hold - window.high}
        yield _found(recipe, context, "hold.hot", field, values, *again)
    if hold - even < window.low:
        values = {"hold": hold, "coldest": hold - even, "low": window.low, "high": window.high,
                  "gap": window.low - hold + even}  # fmt: skip
        yield _found(recipe, context, "hold.cold", field, values, *again)


def _enough(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Crystals or stress at the end, where the hold is warm enough to do it at all."""
    found, window, hold, programme = case.found, case.window, case.hottest_c, case.programme
    if found is None or window is None or hold is None or programme is None or hold < window.low:
        return
    assert case.load is not None
    assert case.polymer is not None
    if is_enough(found, programme, case.load, case.polymer, strict=case.is_strict):
        return
    held, usual = programme.steps[-1].hold_h, usage_of(case.polymer, case.load.wall_mm)
    field, longer = f"anneal.steps.{cures.last_held(recipe)}.hold_h", cures.held_longer(case, recipe)
    if held < usual.least_h:
        short: Values = {"held": held, "least": usual.least_h, "most": usual.most_h, "wall": case.load.wall_mm,
                         "gap": usual.least_h - held}  # fmt: skip
        yield _found(recipe, context, "hold.hurried", field, short, *longer)
        return
    crystals, stress = found.crystals_at_end, found.stress_at_end
    if crystals is not None:
        value = crystals.low if case.is_strict else crystals.value
        left = f"{'As little as ' if case.is_strict else ''}{100.0 * value:.0f} % of its crystals stands after the hold"
        wanted = f"{100.0 * ANNEAL['crystals_wanted'].value:.0f} %"
    else:
        value = stress.high if case.is_strict else stress.value
        left = f"{'As much as ' if case.is_strict else ''}{100.0 * value:.0f} % of its stress is left after the hold"
        wanted = f"{100.0 * ANNEAL['stress_wanted'].value:.0f} % or less"
    values: Values = {"left": left, "wanted": wanted, "held": held, "gap": 1.0}
    yield _found(recipe, context, "hold.short", field, values, *longer)


def _ramps(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Ramps up and down against what the section bears."""
    limit, programme, wall = case.limit, case.programme, case.wall
    if limit is None or programme is None or wall is None:
        return
    values: Values = {"wall": wall.mm, "limit": limit.ramp_k_h, "by": limit.by}
    over = [place for place, each in enumerate(programme.steps) if each.ramp_k_h > limit.ramp_k_h * 1.001]
    if over:
        ramp = programme.steps[over[0]].ramp_k_h
        said = values | {"ramp": ramp, "split": limit.split_k * ramp / limit.ramp_k_h, "gap": ramp - limit.ramp_k_h}
        field = f"anneal.steps.{over[0]}.ramp_k_h"
        yield _found(recipe, context, "ramp.steep", field, said, *cures.ramped(case, recipe))
    fall = programme.cool_k_h
    cools = programme.steps[-1].hold_c > programme.out_c
    if fall > limit.ramp_k_h * 1.001 and cools:
        said = values | {"ramp": fall, "split": limit.split_k * fall / limit.ramp_k_h, "gap": fall - limit.ramp_k_h}
        yield _found(recipe, context, "cool.steep", "anneal.cool_k_h", said, cures.cooled(case))


def _out(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """How hot it is taken out; where nobody says, it is asked for."""
    out, limit = recipe.anneal.out_c, case.out_c
    if out is not None and limit is not None and out > limit:
        values: Values = {"out": out, "limit": limit, "gap": out - limit}
        yield _found(recipe, context, "out.hot", "anneal.out_c", values, cures.taken_out(limit))


def _place(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Whether oven or machine gets there, and holds the part."""
    place, hold, window = case.place, case.hottest_c, case.window
    wanted = hold if hold is not None else window.low if window is not None else None
    others = _other_ovens(case, recipe, context, wanted)
    if place is not None and place.reach_c is not None and wanted is not None and place.reach_c < wanted:
        values: Values = {"place": place.name, "reach": place.reach_c, "hold": wanted, "gap": wanted - place.reach_c}
        yield _found(recipe, context, "reach.short", "anneal.where", values, *others, cures.SENT_OUT)
    oven = context.oven
    if recipe.anneal.where == "oven" and oven is not None and fits_in(oven, recipe, context) is False:
        values = {"place": oven.name, "gap": 1.0}
        yield _found(recipe, context, "reach.small", "context.oven", values, *others, cures.CUT_UP)


def _other_ovens(case: AnnealCase, recipe: Recipe, context: Context, wanted: float | None) -> tuple[Remedy, ...]:
    """Ovens of the shop that get there and hold the part."""
    here = context.oven.id if context.oven is not None and recipe.anneal.where == "oven" else None
    found = []
    for oven in context.shop.ovens:
        reach = of_oven(oven).reach_c
        if oven.id == here or reach is None or wanted is None or reach < wanted:
            continue
        if fits_in(oven, recipe, context) is not False:
            found.append((reach, oven))
    return tuple(
        Choose("Anneal it in {oven:text}: it reaches {reach:temperature}", "oven", oven.id,
               {"oven": oven.name, "reach": reach}, {"anneal.where": "oven"})
        for reach, oven in sorted(found, key=lambda each: each[0])[:3]
    )  # fmt: skip


def _soft(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What is left of its stiffness at the hold, where nothing holds the part."""
    polymer, hold, window = case.polymer, case.hottest_c, case.window
    if polymer is None or polymer.modulus is None or hold is None or recipe.anneal.packed in ("jig", "sand"):
        return
    if polymer.character == "rubbery" or (window is not None and hold >= window.lost):
        return
    modulus = cures.modulus_at(polymer, hold)
    if modulus < ANNEAL["soft_mpa"].value:
        lies = PACKINGS[recipe.anneal.packed].lower() if recipe.anneal.packed else "nobody says how"
        values: Values = {"hold": hold, "modulus": round(modulus, 1), "lies": lies, "gap": 1.0}
        yield _found(recipe, context, "support.soft", "anneal.packed", values, *cures.PACKED)


def _state(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """The state of the part before, in and after the oven."""
    if case.is_planned and not case.is_claimed and recipe.brief.history is not None:
        yield _found(recipe, context, "state.unsaid", "brief.history", {"gap": 1.0}, *cures.JUDGED)
    hours = hours_to_water(case.polymer, case.wall, context)
    if recipe.brief.moisture == "conditioned" and case.hottest_c is not None and hours is not None:
        yield _found(recipe, context, "state.dry", "brief.moisture", {"hours": hours.value, "gap": 1.0}, cures.WATERED)
    if recipe.supports.way == "soluble" and case.hottest_c is not None:
        yield _found(recipe, context, "part.wet", "supports.way", {"hold": case.hottest_c, "gap": 1.0},
                     cures.dried_before(case.polymer))  # fmt: skip


def _air(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Polyamides in hot air."""
    polymer, hold, limit = case.polymer, case.hottest_c, ANNEAL["heavy_air"].value
    if polymer is not None and polymer.family in ("pa", "ppa") and hold is not None and hold > limit:
        values: Values = {"hold": hold, "gap": hold - limit}
        yield _found(recipe, context, "air.browns", _field(case, recipe), values, *cures.out_of_air(case, recipe))


def _size(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Growth that nobody measured, where something has to fit."""
    part = context.part
    fits = (part is not None and (part.fits or part.flat_mm is not None)) or recipe.brief.purpose == "fit_check"
    wide = [axis for axis in AXES if axis in case.growth
            and case.growth[axis].high - case.growth[axis].low > 2.0 * ANNEAL["fits_pct"].value]  # fmt: skip
    if not fits or not wide or case.hottest_c is None:
        return
    along = case.growth[wide[0]]
    said = f"{along.low:+.1f} to {along.high:+.1f} %".replace("-", "−")
    yield _found(recipe, context, "size.doubt", "context.part", {"along": said, "gap": 1.0}, cures.COUPONED)


def _last(case: AnnealCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What the last load saw, and how it came out."""
    last, seen = case.last, case.seen
    if last is None:
        return
    if seen is not None and seen.says:
        values: Values = {"seen": SAYS[seen.says[0]], "held": seen.held_h, "wanted": seen.wanted_h,
                          "hold": seen.hold_c, "peak": seen.peak_c, "by": seen.by, "gap": 1.0}  # fmt: skip
        yield _found(recipe, context, "load.short", "anneal.steps", values, cures.AGAIN)
    elif seen is None and case.is_claimed and last.outcome in ("good", "stopped") and not last.grown:
        yield _found(recipe, context, "load.unread", "anneal.steps", {"date": last.started_utc[:10]}, cures.READ)
    if last.outcome not in (None, "good", "stopped") and _repeats(last, recipe):
        values = {"outcome": LOAD_ENDS[str(last.outcome)].lower(), "gap": 1.0}
        yield _found(recipe, context, "load.bad", "anneal.steps", values, *cures.after_bad(case, recipe))


def _repeats(last: OvenLoad, recipe: Recipe) -> bool:
    """Whether the programme that is planned is the one that went wrong."""
    anneal = recipe.anneal
    return (last.steps, last.packed, last.cool_k_h) == (anneal.steps, anneal.packed, anneal.cool_k_h)


def _work(recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Glue, paint and hardware."""
    brief, anneal = recipe.brief, recipe.anneal
    held, wanted = anneal.joint_mpa, anneal.joint_wanted_mpa
    if brief.glued and held is None:
        yield _found(recipe, context, "glue.untested", "anneal.joint_mpa", {"gap": 1.0}, *cures.JOINED)
    elif brief.glued and held is not None and wanted is not None and JOINT_SHARE * held < wanted:
        values: Values = {"joint": held, "wanted": wanted, "gap": wanted - JOINT_SHARE * held}
        yield _found(recipe, context, "glue.weak", "anneal.joint_mpa", values, *cures.JOINED)
    if brief.painted and anneal.patch is not True:
        yield _found(recipe, context, "paint.untested", "anneal.patch", {"gap": 1.0}, cures.PATCHED)
    if brief.inserts and anneal.cure_h is None:
        yield _found(recipe, context, "bush.open", "anneal.cure_h", {"gap": 1.0}, *cures.CURED)
