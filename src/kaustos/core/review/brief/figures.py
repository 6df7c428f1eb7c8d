"""The figures of the brief, each with its band, method and source."""

from collections.abc import Iterator

from kaustos.core.estimates import PURPOSE
from kaustos.core.records import KNOWN_FROM, OUTCOMES, SEEN, Recipe
from kaustos.core.records.recipe import STRICT
from kaustos.core.review.brief.part import part_figures
from kaustos.core.review.brief.ranking import Candidate, price_per_litre
from kaustos.core.review.brief.service import (
    covering_stress,
    creep_allowance,
    is_beyond,
    margin_of,
    softening_of,
    stands_for,
    state_words,
    wanted_margin,
)
from kaustos.core.review.contract import PENDING, UNKNOWN, Absent, Context, Estimate, Figure, LastRun, Saying
from kaustos.core.review.grading import WANTED
from kaustos.core.review.money import run_cost


def figures_of(recipe: Recipe, context: Context, ranking: tuple[Candidate, ...] | None) -> tuple[Figure, ...]:
    brief, polymer = recipe.brief, context.polymer
    purpose = brief.purpose
    return (
        Figure("brief.service.margin", "Margin in service", margin_of(brief, polymer) or UNKNOWN),
        Figure("brief.service.softening", "Deflection temperature", _softening(recipe, context)),
        Figure("brief.service.wanted", "Margin wanted", _wanted(recipe)),
        Figure("brief.service.stands", "Ageing alone allows air of", _stands(recipe, context)),
        Figure("brief.purpose.allowance", "Margin the purpose asks for", _allowance(purpose)),
        Figure("brief.purpose.grade", "Grade the purpose asks for", WANTED[purpose] if purpose else UNKNOWN),
        Figure("brief.choice.best", "Polymer that would do for least", _best(ranking)),
        Figure("brief.price.per_litre", "Price of a litre", price_per_litre(polymer) or UNKNOWN),
        Figure("brief.needs.dryer", "Dryer it asks for", _between(context, "dryer_low_c", "dryer_high_c")),
        Figure("brief.needs.fan", "Fan it asks for", _between(context, "fan_low", "fan_high")),
        Figure("brief.needs.abrasion", "Wear of the nozzle, unfilled = 1", _abrasion(context)),
        Figure("brief.last.part", "Last time, this part", _last_of_part(context)),
        Figure("brief.last.polymer", "Last time, polymer on machine", _last_on_machine(context)),
        Figure("brief.run.cost", "Cost of the run", run_cost(recipe, context) or UNKNOWN),
        *part_figures(recipe, context),
    )


def _last(runs: Iterator[LastRun]) -> str:
    """How the latest of some runs ended."""
    last = next(runs, None)
    if last is None:
        return "not yet"
    seen = f": {', '.join(SEEN[what].lower() for what in last.seen)}" if last.seen else ""
    return f"{last.started_utc[:10]}, {OUTCOMES[last.outcome].lower()}{seen}"


def _last_of_part(context: Context) -> str:
    return _last(each for each in context.shop.last_runs if each.card in context.same_part)


def _last_on_machine(context: Context) -> str | Absent:
    polymer, machine = context.polymer, context.machine
    if polymer is None or machine is None:
        return UNKNOWN
    runs = context.shop.last_runs
    return _last(each for each in runs if (each.polymer, each.machine) == (polymer.id, machine.id))


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """The margin in service."""
    margin = margin_of(recipe.brief, context.polymer)
    if margin is None:
        return ()
    values = {"margin": margin.value}
    return (
        Saying("margin {margin:temperature_difference}", values),
        Saying("{margin:temperature_difference}", values),
    )


def _softening(recipe: Recipe, context: Context) -> Estimate | Absent:
    softening = softening_of(recipe.brief, context.polymer)
    if softening is None:
        return UNKNOWN
    stress = recipe.brief.stress_mpa or 0.0
    method = f"deflection temperature under {stress:g} MPa, {state_words(recipe.brief)}"
    if context.polymer and context.polymer.character == "rubbery":
        method = "a rubbery polymer has no deflection temperature: the hottest air for years"
    if recipe.brief.purpose in STRICT:
        method += "; the low end of what is known, for such a purpose"
    if is_beyond(recipe.brief, context.polymer):
        method += "; an upper bound: nothing is known of such a load"
    elif stress != covering_stress(stress):
        method += "; between 0.45 and 1.8 MPa by the logarithm of load, below 0.45 MPa as there"
    return Estimate(
        softening.value, softening.low, softening.high, "°C", f"{method} ({KNOWN_FROM[softening.kind]})",
        softening.source,
    )  # fmt: skip


def _between(context: Context, low: str, high: str) -> Estimate | Absent:
    """A window as its middle with its ends as band."""
    one = context.polymer.value(low) if context.polymer else None
    two = context.polymer.value(high) if context.polymer else None
    if one is None or two is None:
        return UNKNOWN
    middle = (one.value + two.value) / 2.0
    return Estimate(
        middle, min(one.value, middle), max(two.value, middle), one.unit, "middle of the window", one.source
    )


def _abrasion(context: Context) -> Estimate | Absent:
    datum = context.polymer.value("abrasion") if context.polymer else None
    if datum is None:
        return UNKNOWN
    return Estimate(datum.value, datum.low, datum.high, "1", "wear per gram against an unfilled polymer", datum.source)


def _wanted(recipe: Recipe) -> Estimate | Absent:
    brief, wanted = recipe.brief, wanted_margin(recipe.brief)
    if wanted is None:
        return UNKNOWN
    creep = creep_allowance(brief.stress_mpa, brief.service_h)
    method = "signed for" if brief.margin_signed.strip() else "the larger of what is typed and what the purpose asks"
    method += f" + {creep:.1f} K for creep over the hours under load" if creep else ""
    least, likely, most = PURPOSE["creep"].band
    low, high = (wanted + creep * (each / likely - 1.0) for each in (least, most))
    return Estimate(wanted, low, high, "K", method, "brief; creep: estimate")


def _stands(recipe: Recipe, context: Context) -> Estimate | Absent:
    datum = context.polymer.value("long_service_c") if context.polymer else None
    most = stands_for(recipe.brief, context.polymer, recipe.brief.service_h) if context.polymer else None
    if datum is None or most is None:
        return UNKNOWN
    low, high = most - (datum.value - datum.low), most + (datum.high - datum.value)
    method = f"long-term air temperature ({KNOWN_FROM[datum.kind]}), half the life for every 10 K"
    return Estimate(most, low, high, "°C", method, datum.source)


def _allowance(purpose: str | None) -> Estimate | Absent:
    if purpose is None:
        return UNKNOWN
    found = PURPOSE[f"allowance.{purpose}"]
    return Estimate(found.value, found.low, found.high, found.unit, "by purpose", "estimate")


def _best(ranking: tuple[Candidate, ...] | None) -> str | Absent:
    if ranking is None:
        return PENDING
    first = next((each for each in ranking if each.would_do), None)
    return f"{first.name}, on {first.runs_on[0]}" if first else "none that this shop can run"
