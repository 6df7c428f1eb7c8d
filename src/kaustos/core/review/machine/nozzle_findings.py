"""Whether the nozzle lasts the run, lets the filler through, brings the heat into the melt, and is there at all."""

import math
from collections.abc import Iterator

from kaustos.core.estimates import NOZZLES, SPOOL
from kaustos.core.estimates.assumed import Band
from kaustos.core.planning.loading import fitted_on, fitting
from kaustos.core.planning.nozzle_life import Wear, bores_for, colder_k, wear_of
from kaustos.core.planning.reach import reach_through
from kaustos.core.records import FILLERS, SEEN, Nozzle, Recipe
from kaustos.core.records.nozzle import EDGES, FINISHES_INSIDE, MATERIALS, band_of
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.machine.finder import finder
from kaustos.core.review.machine.nozzle_codes import NOZZLE_CODES
from kaustos.core.review.machine.remedies import set_to
from kaustos.core.review.zones import Zone, filler_in, window_of

_found = finder(NOZZLE_CODES)
MARGIN = SPOOL["mass_margin"].value
MOST = 3  # nozzles that are offered
LOOK = Advice(
    "Look at it, and log what is found",
    "Bore by a pin gauge or the imprint of a cold pull, tip length over a caliper, a photo at the usual scale; then "
    "set the gap again. What is found corrects its wear from then on.",
    field="nozzle.inspections",
)
_SIGNS = ("strings", "starved")


def wear_in(context: Context) -> Wear | None:
    """What the nozzle of a context has lost; None where none is known."""
    nozzle = context.nozzle
    return wear_of(nozzle, context.shop.fed.get(nozzle.id, ())) if nozzle else None


def wears_in(context: Context) -> Band:
    """How the filament of a context wears a nozzle, times an unfilled polymer [1]."""
    return band_of(context.polymer.value("abrasion") if context.polymer else None)


def nozzle_findings(recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What stands against the nozzle, as far as it is recorded."""
    nozzle, wear = context.nozzle, wear_in(context)
    if nozzle is None or wear is None:
        return
    worn = _worn(recipe, context, nozzle, wear)
    yield from worn or _wears_out(recipe, context, nozzle, wear)
    yield from _looks(recipe, context, nozzle, wear)
    yield from _as_it_came(recipe, context, nozzle)
    yield from _bore(recipe, context, nozzle)
    yield from _not_fitted(recipe, context, nozzle)


def _rough(value: float) -> float:
    """As exact as an order of magnitude is worth: two digits."""
    return float(f"{value:.2g}")


def _path(nozzle: Nozzle, field: str) -> str:
    return f"nozzles/{nozzle.id}/{field}"


def _worn(recipe: Recipe, context: Context, nozzle: Nozzle, wear: Wear) -> tuple[Finding, ...]:
    left, bore = wear.until_end(wears_in(context)), wear.bore()
    if left.value > 0.0:
        return ()
    values: dict[str, float | str | None] = {
        "bore": "not known" if bore is None else f"about {bore.value:.2f} mm",
        "lost": _rough(wear.lost().value), "fed": wear.fed_g,
    }  # fmt: skip
    severity = "stop" if left.high <= 0.0 else "watch"
    others = other_nozzles(recipe, context, wears_in(context))
    return (_found(recipe, context, "machine.nozzle.worn", "context.nozzle", (*others, LOOK), values, severity),)


def _wears_out(recipe: Recipe, context: Context, nozzle: Nozzle, wear: Wear) -> tuple[Finding, ...]:
    mass = recipe.brief.mass_g
    if mass is None:
        return ()
    left, taken = wear.until_end(wears_in(context)), mass * (1.0 + MARGIN)
    is_guessed = nozzle.material is None or context.polymer is None or context.polymer.value("abrasion") is None
    if (left.low if is_guessed else left.value) >= taken:
        return ()
    severity = "stop" if left.high < taken else "watch"
    others = other_nozzles(recipe, context, wears_in(context), taken)
    values: dict[str, float | str | None] = {
        "left": _rough(left.value), "least": _rough(left.low), "mass": taken,
    }  # fmt: skip
    return (_found(recipe, context, "machine.nozzle.wears_out", "context.nozzle", (*others, LOOK), values, severity),)


def _looks(recipe: Recipe, context: Context, nozzle: Nozzle, wear: Wear) -> Iterator[Finding]:
    field = _path(nozzle, "inspections")
    if wear.until_look(wears_in(context)).value <= 0.0:
        lost = wear.lost_since_look()
        values: dict[str, float | str | None] = {"fed": wear.fed_since_look_g, "lost": _rough(lost.value)}
        yield _found(recipe, context, "machine.nozzle.look_due", field, (LOOK,), values)
    runs = context.shop.last_runs if context.machine and recipe.polymer else ()
    last = next((each for each in runs if (each.polymer, each.machine) == (recipe.polymer, _machine_id(context))), None)
    seen = [each for each in _SIGNS if last is not None and each in last.seen]
    if last is not None and seen and not any(each.at_utc > last.started_utc for each in nozzle.inspections):
        signs = " and ".join(SEEN[each].lower() for each in seen)
        yield _found(recipe, context, "machine.nozzle.ask_first", field, (LOOK,), {"seen": signs})


def _machine_id(context: Context) -> str:
    return context.machine.id if context.machine else ""


def _as_it_came(recipe: Recipe, context: Context, nozzle: Nozzle) -> Iterator[Finding]:
    poor = [EDGES[nozzle.edge].lower()] if nozzle.edge in ("chamfered", "burred") else []
    poor += [FINISHES_INSIDE[nozzle.finish].lower()] if nozzle.finish in ("grooved", "rough") else []
    others = other_nozzles(recipe, context, wears_in(context))
    if poor:
        back = Advice("Send it back, or keep it for parts that may string", "A worn-in edge does not get better.")
        words: dict[str, float | str | None] = {"edge": " and ".join(poor)}
        yield _found(recipe, context, "machine.nozzle.edge", _path(nozzle, "edge"), (*others, back), words)
    elif nozzle.origin == "compatible" and nozzle.edge is None and not nozzle.inspections:
        yield _found(recipe, context, "machine.nozzle.unchecked", _path(nozzle, "edge"), (*others, LOOK), {})


def _bore(recipe: Recipe, context: Context, nozzle: Nozzle) -> Iterator[Finding]:
    filler = filler_in(context)
    bores = bores_for(filler)
    if bores is None or nozzle.bore_mm is None or nozzle.bore_mm >= bores[1]:
        return
    least, good = bores
    values: dict[str, float | str | None] = {
        "bore": nozzle.bore_mm, "least": least, "good": good, "filler": FILLERS[filler].title.lower(),
    }  # fmt: skip
    wider = tuple(each for each in other_nozzles(recipe, context, wears_in(context), wider_mm=good))
    dry = Advice("Fit a wider nozzle", f"From {good:g} mm on such a filler runs without blocks; beads grow wider too.")
    severity = "stop" if nozzle.bore_mm < least else "watch"
    yield _found(recipe, context, "machine.nozzle.bore_small", "context.nozzle", (*wider, dry), values, severity)


def _not_fitted(recipe: Recipe, context: Context, nozzle: Nozzle) -> Iterator[Finding]:
    machine = context.machine
    if machine is None or nozzle.fitted_on == machine.id:
        return
    there = fitted_on(context.shop.nozzles, machine.id)
    fit = Set("Say that it is fitted to {machine:text}, the other one off",
              fitting(context.shop.nozzles, nozzle.id, machine.id), {"machine": machine.name})  # fmt: skip
    take: tuple[Remedy, ...] = ()
    if there:
        take = (Choose("Take the one that is fitted, {nozzle:text}", "nozzle", there.id, {"nozzle": there.name}),)
    values: dict[str, float | str | None] = {"other": there.name if there else "none that is recorded"}
    yield _found(
        recipe, context, "machine.nozzle.not_fitted", "context.nozzle", (fit, *(take if there else ())), values
    )


def other_nozzles(
    recipe: Recipe, context: Context, wears: Band, grams: float = 0.0, wider_mm: float = 0.0
) -> tuple[Choose, ...]:  # fmt: skip
    """Nozzles of the shop that last, let the filler through and came in sound, the nearest first.

    The nearest is the one that is fitted, then those that lie free; those on other machines come last. They wear by
    ``wears`` [1], take ``grams`` more [g], and are no narrower than ``wider_mm`` [mm].
    """
    bores, mine = bores_for(filler_in(context)), context.nozzle.id if context.nozzle else ""
    least = max(wider_mm, bores[1] if bores else 0.0)
    bore = context.nozzle.bore_mm if context.nozzle and not wider_mm else None
    fit = []
    for each in context.shop.nozzles:
        left = wear_of(each, context.shop.fed.get(each.id, ())).until_end(wears)
        is_sound = each.edge not in ("chamfered", "burred") and each.finish not in ("grooved", "rough")
        if each.id != mine and is_sound and left.value > grams and (each.bore_mm or 0.0) >= least:
            fit.append((abs((each.bore_mm or 0.0) - (bore or each.bore_mm or 0.0)), _far(each, context), each))
    fit.sort(key=lambda each: each[:2])
    return tuple(_taken(recipe, context, each) for _, _, each in fit[:MOST])


def _taken(recipe: Recipe, context: Context, nozzle: Nozzle) -> Choose:
    """Another nozzle, with setpoints raised by what it conducts worse, inside window and reach."""
    now = colder_k(context.nozzle.material).value if context.nozzle and context.nozzle.material else 0.0
    colder = (colder_k(nozzle.material).value if nozzle.material else 0.0) - now
    _, high = window_of(context.polymer, "nozzle")
    reach = reach_through(context.machine, "nozzle", context.rules, nozzle).max_c if context.machine else None
    known = [each for each in (high.value if high else None, reach) if each is not None]
    now_c, bare = recipe.melt.nozzle_c, {"nozzle": nozzle.name}
    raised = float(math.floor(min([(now_c or 0.0) + colder, *known])))
    if now_c is None or colder < NOZZLES["shift_shows"].value:
        return Choose("Take the nozzle {nozzle:text}", "nozzle", nozzle.id, bare)
    if not known or raised <= now_c:
        title = "Take the nozzle {nozzle:text}: its melt is {colder:temperature_difference} colder"
        return Choose(title, "nozzle", nozzle.id, {**bare, "colder": float(round(colder))})
    title = "Take the nozzle {nozzle:text}, set {hotter:temperature_difference} hotter"
    return Choose(title, "nozzle", nozzle.id, {**bare, "hotter": raised - now_c}, {"melt.nozzle_c": raised})


def _far(nozzle: Nozzle, context: Context) -> int:
    if nozzle.fitted_on is None:
        return 1
    return 0 if context.machine and nozzle.fitted_on == context.machine.id else 2


def poor_conductor(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    """A melt that comes out colder than the window wants, though the setpoint [°C] lies in it."""
    nozzle = zone.context.nozzle
    if nozzle is None or nozzle.material is None or zone.low is None or setpoint < zone.low.value:
        return []
    colder = colder_k(nozzle.material).value
    if colder < NOZZLES["shift_shows"].value or setpoint - colder >= zone.low.value:
        return []
    wanted = float(math.ceil(zone.low.value + colder))
    high, reach = zone.high.value if zone.high else wanted, zone.reach.max_c
    target = min(wanted, high, wanted if reach is None else math.floor(reach))
    values: dict[str, float | str | None] = {
        "setting": title, "setpoint": setpoint, "colder": float(round(colder)), "low": zone.low.value,
        "material": MATERIALS[nozzle.material].lower(),
    }  # fmt: skip
    raised = (set_to(zone, field, title, target),) if target - colder >= zone.low.value else ()
    better = Advice("Take a nozzle that conducts better", "Carbide, coated brass or plated copper hold their ends hot.")
    return [_found(zone.recipe, zone.context, "machine.nozzle.poor_conductor", field, (*raised, better), values)]
