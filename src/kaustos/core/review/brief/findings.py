"""What can be found against a polymer for a purpose, and what is uncertain or dear about it."""

from collections.abc import Callable, Mapping

from kaustos.core.estimates import PURPOSE
from kaustos.core.planning.configuration import measured_of
from kaustos.core.records import PURPOSES, Recipe
from kaustos.core.records.fields import value_at, with_value
from kaustos.core.review.brief.codes import ALLOWANCE_K, BY_CODE, DEARER
from kaustos.core.review.brief.part import part_findings
from kaustos.core.review.brief.ranking import Candidate, price_per_litre
from kaustos.core.review.brief.remedies import judge_as_printed, other_polymers, switch_to
from kaustos.core.review.brief.service import is_beyond, softening_of, state_words
from kaustos.core.review.brief.state import is_annealed
from kaustos.core.review.brief.suiting import Reason, reasons_for
from kaustos.core.review.contract import Absent, Advice, Context, Estimate, Finding, Remedy, Set
from kaustos.core.review.making import make_finding

Ranking = tuple[Candidate, ...] | None  # None while it is being computed


def findings_of(recipe: Recipe, context: Context, ranking: Ranking) -> tuple[Finding, ...]:
    """Everything that can be found against the brief, its part in the state that it will have."""
    found = (
        *_suiting_findings(recipe, context, ranking),
        _no_value(recipe, context),
        _purpose(recipe, context),
        _dearer(recipe, context, ranking),
        *part_findings(recipe, context),
    )
    return tuple(finding for finding in found if finding)


def _finding(
    recipe: Recipe, context: Context, code: str, field: str, remedies: tuple[Remedy | Absent, ...],
    values: Mapping[str, float | str | None] | None = None, *, severity: str = "", cost: Estimate | None = None,
) -> Finding:  # fmt: skip
    every = {"state": state_words(recipe.brief), **(values or {})}
    return make_finding(BY_CODE[code], recipe, context, field, remedies, every, severity=severity, cost=cost)


# ---- what speaks against the polymer

_FIELD_OF = {
    "brief.service.above_softening": "brief.service_c",
    "brief.service.short_margin": "brief.margin_k",
    "brief.service.ages": "brief.service_h",
    "brief.character.other": "brief.character",
    "brief.weather.poor": "brief.outdoor",
    "brief.chemical.attacked": "brief.chemical",
    "brief.load.across_unproven": "brief.load_across",
    "brief.look.not_clear": "brief.clear",
    "brief.look.other_finish": "brief.look",
    "brief.handling.poor": "",  # the first that goes badly
}


def _suiting_findings(recipe: Recipe, context: Context, ranking: Ranking) -> tuple[Finding | None, ...]:
    if context.polymer is None:
        return ()
    reasons = (reason for reason in reasons_for(recipe.brief, context.polymer) if reason.code)
    known = {"brief.load.across_unproven"} if _is_across_measured(context) else set()
    return tuple(_against(recipe, context, ranking, reason) for reason in reasons if reason.code not in known)


def _is_across_measured(context: Context) -> bool:
    """Whether strength across layers was measured with this polymer here: then operation 70 says what it is."""
    polymer, lot = context.polymer, context.lot
    lots = [each.id for each in context.shop.every_lot if polymer is not None and each.polymer == polymer.id]
    found = measured_of(context.calibrations, "across", [*lots, *([lot.id] if lot is not None else [])])
    return found is not None and found.is_valid


def _against(recipe: Recipe, context: Context, ranking: Ranking, reason: Reason) -> Finding:
    brief = recipe.brief
    first, last = _OWN_REMEDY.get(reason.code, _none), _LAST_REMEDY.get(reason.code, _none)
    remedies = (
        *first(recipe, context, reason), *other_polymers(recipe, context, ranking, reason.code),
        *last(recipe, context, reason),
    )  # fmt: skip
    values = {
        "service": brief.service_c,
        "load": brief.stress_mpa,
        **reason.values,
    }
    severity = "watch" if reason.verdict == "mind" else ""
    field = _FIELD_OF[reason.code] or f"brief.{reason.values['first']}"
    return _finding(recipe, context, reason.code, field, remedies, values, severity=severity)


def _none(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    return ()


def _other_state(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    """Another state of the same polymer in which it does not arise: dry, annealed once that is planned."""
    found: list[Remedy] = []
    for title, changes in _STATES:
        if reason.code not in _raised(recipe, context, changes) and "brief.service.no_value" not in _raised(
            recipe, context, changes
        ):
            if "brief.history" not in changes or is_annealed(recipe, context.polymer):
                found.append(Set(title, changes))
            else:
                text = "Record its steps and the part may be judged as annealed; look at distortion and growth first."
                found.append(Advice("Plan an anneal: annealed it would do", text))
    return tuple(found)


_STATES: tuple[tuple[str, dict[str, float | str | None]], ...] = (
    ("Keep the part dry in service, and say so", {"brief.moisture": "dry"}),
    ("Anneal the part, and judge it so", {"brief.history": "annealed"}),
)


def _raised(recipe: Recipe, context: Context, changes: Mapping[str, float | str | None]) -> set[str]:
    other = recipe
    for path, value in changes.items():
        if value_at(recipe, path) == value:
            return {"brief.service.no_value"}  # nothing new
        other = with_value(other, path, value)
    if context.polymer is None or softening_of(other.brief, context.polymer) is None:
        return {"brief.service.no_value"}
    return {each.code for each in reasons_for(other.brief, context.polymer)}


def _sign_margin(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    text = (
        "Type {reached:temperature_difference} as margin wanted, and beside it who answers for less than the purpose "
        "asks, and why. It stays on the brief."
    )
    reached = float(int(float(reason.values["margin"])))
    return (Advice("Accept a thinner margin by name", text, {"reached": reached}),)


def _measure_ratio(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    text = "Break or pull specimens across and along the layers, made like the part, before the part is relied on."
    return (Advice("Measure the ratio across to along", text),)


def _any_look(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    return (Set("Do without that look", {"brief.look": "any"}),)


_Own = Callable[[Recipe, Context, Reason], tuple[Remedy, ...]]


def _test_piece(recipe: Recipe, context: Context, reason: Reason) -> tuple[Remedy, ...]:
    text = "Print a small piece, do with it what the part is to bear, and log what was seen before the part is made."
    return (Advice("Try it on a test piece", text),)


_OWN_REMEDY: dict[str, _Own] = {
    "brief.service.above_softening": _other_state,
    "brief.service.short_margin": _other_state,
    "brief.load.across_unproven": _measure_ratio,
    "brief.look.other_finish": _any_look,
    "brief.handling.poor": _test_piece,
}
_LAST_REMEDY: dict[str, _Own] = {"brief.service.short_margin": _sign_margin}


# ---- what is uncertain or dear


def _no_value(recipe: Recipe, context: Context) -> Finding | None:
    brief = recipe.brief
    told = None not in (brief.service_c, brief.stress_mpa, brief.history, brief.moisture)
    beyond = is_beyond(brief, context.polymer)
    if context.polymer is None or not told or (softening_of(brief, context.polymer) and not beyond):
        return None
    advice = Advice(
        "Find the value",
        "Take it from the grade's data sheet or measure it, and enter it as an own value of the lot or grade.",
    )
    field = "brief.stress_mpa" if beyond else "brief.history"
    return _finding(recipe, context, "brief.service.no_value", field, (advice,), {"stress": brief.stress_mpa})


def _purpose(recipe: Recipe, context: Context) -> Finding | None:
    brief = recipe.brief
    if brief.purpose is None or brief.margin_k is None or brief.margin_k >= ALLOWANCE_K[brief.purpose]:
        return None
    allowance, signed = ALLOWANCE_K[brief.purpose], brief.margin_signed.strip()
    title = "Want {allowance:temperature_difference} of margin"
    raise_it = Set(title, {"brief.margin_k": allowance}, {"allowance": allowance})
    values: dict[str, float | str | None] = {
        "wanted": brief.margin_k,
        "allowance": allowance,
        "purpose": PURPOSES[brief.purpose].lower(),
        "rules": f"signed for by {signed}" if signed else "the purpose rules until somebody signs for less",
    }
    return _finding(recipe, context, "brief.margin.below_purpose", "brief.margin_k", (raise_it,), values)


def not_planned(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """What is found against an anneal that the brief claims, as it is written, and no programme brings about."""
    if recipe.brief.history != "annealed" or is_annealed(recipe, context.polymer):
        return ()
    from kaustos.core.review.anneal.remedies import planned  # with its numbers, only where it is asked for

    words = "Record ramp, hold and time before the run; the value holds only after them."
    plan: Remedy = planned(recipe, context) or Advice("Plan the anneal", words)
    softening = softening_of(judge_as_printed(recipe).brief, context.polymer)
    service = recipe.brief.service_c
    remedies: tuple[Remedy, ...] = (plan,)
    if softening is None or service is None or softening.value > service:
        remedies = (Set("Judge the part as printed", {"brief.history": "as_printed"}), plan)
    return (_finding(recipe, context, "brief.anneal.not_planned", "brief.history", remedies),)


def _dearer(recipe: Recipe, context: Context, ranking: Ranking) -> Finding | None:
    price = price_per_litre(context.polymer)
    others = [each for each in ranking or () if each.would_do and each.verdict == "for" and each.price_per_litre]
    cheapest = min(others, key=lambda each: each.price_per_litre.value if each.price_per_litre else 0.0, default=None)
    if price is None or cheapest is None or cheapest.price_per_litre is None or context.polymer is None:
        return None
    lower = cheapest.price_per_litre.value
    if cheapest.polymer == context.polymer.id or price.value < DEARER * lower:
        return None
    advice = Advice("Take the cheaper polymer", f"It runs on {', '.join(cheapest.runs_on)}.")
    remedies: tuple[Remedy, ...] = (*switch_to(recipe, context, cheapest), advice)
    values: dict[str, float | str | None] = {"price": price.value, "other": cheapest.name, "lower": lower}
    cost = _saved(recipe, context, price.value - lower)
    return _finding(recipe, context, "brief.price.dearer", "polymer", remedies, values, cost=cost)


def _saved(recipe: Recipe, context: Context, per_litre: float) -> Estimate | None:
    density = context.polymer.value("density_g_cm3") if context.polymer else None
    if density is None or recipe.brief.mass_g is None:
        return None
    money = per_litre * recipe.brief.mass_g / density.value / 1000.0
    spread = PURPOSE["price_spread"].value
    method = f"volume × difference of price (±{100.0 * spread:g} %, estimate)"
    return Estimate(money, (1.0 - spread) * money, (1.0 + spread) * money, "money", method,
                    "prices and densities of both polymers")  # fmt: skip
