"""Operation 10, Brief: does this polymer, in the state the part will have, stand its service temperature?

Takes over: whether the material is worth a trial for this service, with which margin, and what proof it lacks.
"""

import attrs

from kaustos.core.records import DEFLECTION_STRESSES_MPA, KINDS, PURPOSES, Datum, Polymer, Recipe, deflection_key
from kaustos.core.review.contract import (
    UNKNOWN,
    Advice,
    Cap,
    Code,
    Context,
    Estimate,
    Figure,
    Finding,
    Missing,
    OperationReview,
    Set,
)
from kaustos.core.review.grading import WANTED, standing_of
from kaustos.core.review.money import at_stake, run_cost

NUMBER = 10
ALLOWANCE_K = {  # estimate: margin that a purpose asks for
    "ornament": 0.0,
    "fit_check": 0.0,
    "prototype": 5.0,
    "tool": 15.0,
    "loaded": 20.0,
    "outdoor": 20.0,
    "safety": 25.0,
}
GRADE_TITLES = {"decorative": "decorative", "reduced": "reduced", "functional": "functional"}

CODES = (
    Code(
        "brief.service.above_softening", "stop",
        "Service at {service:temperature} is at or above the {softening:temperature} at which {polymer:text} "
        "deflects under {load:stress} ({state:text}).",
        "Above its deflection temperature the part bends out of shape under its own load.",
        "ISO 75 deflection temperature of the polymer against the service temperature",
        "Ignored, the part fails in service: the run is lost, {cost:money}, and what hangs on the part.",
    ),
    Code(
        "brief.service.short_margin", "watch",
        "The margin in service is {margin:temperature_difference}; {wanted:temperature_difference} are wanted "
        "({polymer:text} deflects at {softening:temperature}, {state:text}).",
        "Spread of the grade, local heat and creep eat a thin margin; the margin wanted is the shop's own decision.",
        "Deflection temperature minus service temperature against the margin wanted",
        "Ignored, some parts deform in service: {cost:money} a run on average.",
    ),
    Code(
        "brief.service.no_value", "watch",
        "No deflection temperature is known for {polymer:text} {state:text} at {stress:stress}: "
        "the margin in service is unknown.",
        "A value for another state or a lower load flatters; a missing value is unknown, not fine.",
        "Library and own values of the polymer, by load and state",
        "Ignored, the margin is a guess: {cost:money} a run on average.",
    ),
    Code(
        "brief.margin.below_purpose", "watch",
        "A margin of {wanted:temperature_difference} is wanted, but a {purpose:text} asks for "
        "{allowance:temperature_difference}.",
        "The more hangs on the part, the more room its grade, its lot and its surroundings need.",
        "Allowance by purpose, estimate",
        "Ignored, the brief promises less than its purpose needs: {cost:money} a run on average.",
    ),
    Code(
        "brief.anneal.not_planned", "watch",
        "The part is judged as annealed, but no anneal programme is recorded.",
        "Values of the annealed state hold only after a hold that has been planned and run.",
        "Heat history of the brief against the anneal steps of the recipe",
        "Ignored, the part goes into service as printed: {cost:money} a run on average.",
    ),
)  # fmt: skip
_BY_CODE = {code.code: code for code in CODES}
_FIELDS = (  # field of the brief, worst grade its value could bring, needed for a grade
    ("service_c", "decorative", True),
    ("stress_mpa", "decorative", True),
    ("history", "decorative", True),
    ("moisture", "decorative", True),
    ("margin_k", "reduced", True),
    ("purpose", "functional", True),
    ("mass_g", "functional", False),
    ("print_h", "functional", False),
)
_NAMES = ", the value of the next tabulated load above it"


@attrs.frozen
class Bar:
    """One deflection temperature of the polymer with its range [°C]."""

    title_load_mpa: float
    history: str
    moisture: str
    value_c: float
    low_c: float
    high_c: float
    chosen: bool


@attrs.frozen
class BriefPicture:
    """Deflection temperatures by load and state against the service temperature and the margin wanted."""

    bars: tuple[Bar, ...]
    service_c: float | None
    needed_c: float | None
    glass_transition_c: float | None


def tabulated_stress(stress_mpa: float | None) -> float | None:
    """The tabulated load that covers a stress.

    Parameters
    ----------
    stress_mpa : float or None
        Bending stress in service [MPa]

    Returns
    -------
    float or None
        0.45 or 1.8 [MPa]; None above 1.8 or where the stress is not recorded

    Notes
    -----
    Between the two loads the higher one counts: deflection temperature falls with load, so this is the safe side.

    References
    ----------
    ISO 75, loads of methods B and A

    Examples
    --------
    >>> tabulated_stress(0.5)
    1.8
    """
    return next((each for each in DEFLECTION_STRESSES_MPA if stress_mpa is not None and stress_mpa <= each), None)


def softening_of(recipe: Recipe, polymer: Polymer | None) -> Datum | None:
    """Deflection temperature for the load and state of the brief.

    Parameters
    ----------
    recipe : Recipe
        Heat history, moisture and stress stand in its brief [MPa]
    polymer : Polymer or None
        Values by load and state [°C]

    Returns
    -------
    Datum or None
        Deflection temperature [°C]; None where brief or polymer do not say
    """
    brief = recipe.brief
    load = tabulated_stress(brief.stress_mpa)
    if polymer is None or load is None or brief.history is None or brief.moisture is None:
        return None
    return polymer.value(deflection_key(load, brief.history, brief.moisture))


def service_margin(softening: Datum, service_c: float) -> Estimate:
    """Softening value minus service temperature.

    Parameters
    ----------
    softening : Datum
        Deflection temperature with its range [°C]
    service_c : float
        Hottest the part gets under load [°C]

    Returns
    -------
    Estimate
        Margin with the range of the softening value [K]
    """
    value, low, high = (each - service_c for each in (softening.value, softening.low, softening.high))
    return Estimate(
        value,
        low,
        high,
        "K",
        f"deflection temperature ({KINDS[softening.kind]}) − service temperature",
        softening.source,
    )


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the brief: margin in service, what the purpose asks, what is not known."""
    softening = softening_of(recipe, context.polymer)
    service = recipe.brief.service_c
    margin = service_margin(softening, service) if softening and service is not None else None
    missing = _missing(recipe, context)
    findings = tuple(
        finding
        for finding in (
            *_service_findings(recipe, context, softening, margin),
            _purpose_finding(recipe, context),
            _anneal_finding(recipe, context),
        )
        if finding
    )
    return OperationReview(
        NUMBER,
        standing_of(tuple(finding.severity for finding in findings), missing),
        "brief.service.margin",
        _figures(recipe, context, softening, margin),
        findings,
        (),
        missing,
        tuple(_CAPS[finding.code] for finding in findings if finding.code in _CAPS),
        len(_FIELDS) + 3,
    )


_CAPS = {
    "brief.service.above_softening": Cap("brief.service.above_softening", "decorative"),
    "brief.service.short_margin": Cap("brief.service.short_margin", "reduced"),
}


def picture(recipe: Recipe, context: Context) -> BriefPicture:
    """All deflection temperatures that are known, the service temperature, and the value needed."""
    brief, polymer = recipe.brief, context.polymer
    needed = None if brief.service_c is None or brief.margin_k is None else brief.service_c + brief.margin_k
    chosen = (tabulated_stress(brief.stress_mpa), brief.history, brief.moisture)
    bars = []
    for history in ("as_printed", "annealed"):
        for moisture in ("dry", "conditioned"):
            for stress in DEFLECTION_STRESSES_MPA:
                datum = polymer.value(deflection_key(stress, history, moisture)) if polymer else None
                if datum:
                    is_chosen = chosen == (stress, history, moisture)
                    bars.append(Bar(stress, history, moisture, datum.value, datum.low, datum.high, is_chosen))
    transition = polymer.value("glass_transition_c") if polymer else None
    return BriefPicture(tuple(bars), brief.service_c, needed, transition.value if transition else None)


def state_words(recipe: Recipe) -> str:
    """The state of the part in words."""
    brief = recipe.brief
    return ", ".join(word.replace("_", " ") for word in (brief.history, brief.moisture) if word)


def _finding(
    recipe: Recipe,
    context: Context,
    code: str,
    field: str,
    remedies: tuple[Set | Advice, ...],
    **values: float | str,
) -> Finding:
    severity = _BY_CODE[code].severity
    cost = at_stake(run_cost(recipe, context), severity)
    polymer = context.polymer.name if context.polymer else ""
    return Finding(code, severity, {"polymer": polymer, "state": state_words(recipe), **values}, field, cost, remedies)


def _service_findings(
    recipe: Recipe, context: Context, softening: Datum | None, margin: Estimate | None
) -> tuple[Finding, ...]:
    brief = recipe.brief
    if context.polymer is None or brief.service_c is None:
        return ()
    if softening is None or margin is None:
        if brief.stress_mpa is None or not brief.history or not brief.moisture:
            return ()
        advice = Advice(
            "Find the value",
            "Take it from the grade's data sheet or measure it, and enter it as an own value of the lot or grade.",
        )
        field = "brief.stress_mpa" if tabulated_stress(brief.stress_mpa) is None else "brief.history"
        return (_finding(recipe, context, "brief.service.no_value", field, (advice,), stress=brief.stress_mpa),)
    values = {"service": brief.service_c, "softening": softening.value, "margin": margin.value}
    if not margin.value > 0:
        load = tabulated_stress(brief.stress_mpa) or 0.0
        remedies: tuple[Set | Advice, ...] = (_other_polymer(recipe, context),)
        return (
            _finding(
                recipe,
                context,
                "brief.service.above_softening",
                "brief.service_c",
                remedies,
                load=load,
                **values,
            ),
        )
    if brief.margin_k is None or margin.value >= brief.margin_k:
        return ()
    values["wanted"] = brief.margin_k
    accept = Set("Accept a margin of {reached:temperature_difference}", {"brief.margin_k": float(int(margin.value))},
                 {"reached": float(int(margin.value))})  # fmt: skip
    remedies = (accept, _other_polymer(recipe, context))
    return (_finding(recipe, context, "brief.service.short_margin", "brief.margin_k", remedies, **values),)


def _other_polymer(recipe: Recipe, context: Context) -> Advice:
    brief = recipe.brief
    needed = (brief.service_c or 0.0) + (brief.margin_k or 0.0)
    holding = []
    for polymer in context.shop.polymers:
        datum = softening_of(recipe, polymer)
        if datum and datum.value >= needed and datum.value > (brief.service_c or 0.0):
            holding.append(polymer.name)
    text = "Of the polymers in the library none is known to hold it in this state."
    if holding:
        text = f"In this state and under this load it is held by: {', '.join(holding)}."
    return Advice("Take a polymer that holds {needed:temperature}", text, {"needed": needed})


def _purpose_finding(recipe: Recipe, context: Context) -> Finding | None:
    brief = recipe.brief
    if brief.purpose is None or brief.margin_k is None or brief.margin_k >= ALLOWANCE_K[brief.purpose]:
        return None
    allowance = ALLOWANCE_K[brief.purpose]
    raise_it = Set(
        "Want {allowance:temperature_difference} of margin",
        {"brief.margin_k": allowance},
        {"allowance": allowance},
    )
    return _finding(
        recipe, context, "brief.margin.below_purpose", "brief.margin_k", (raise_it,),
        wanted=brief.margin_k, allowance=allowance, purpose=PURPOSES[brief.purpose].lower(),
    )  # fmt: skip


def _anneal_finding(recipe: Recipe, context: Context) -> Finding | None:
    if recipe.brief.history != "annealed" or recipe.anneal.steps:
        return None
    plan = Advice("Plan the anneal", "Record ramp, hold and time before the run; the value holds only after them.")
    as_printed = attrs.evolve(recipe, brief=attrs.evolve(recipe.brief, history="as_printed"))
    softening, service = softening_of(as_printed, context.polymer), recipe.brief.service_c
    remedies: tuple[Set | Advice, ...] = (plan,)
    if softening is None or service is None or softening.value > service:
        remedies = (Set("Judge the part as printed", {"brief.history": "as_printed"}), plan)
    return _finding(recipe, context, "brief.anneal.not_planned", "brief.history", remedies)


def _missing(recipe: Recipe, context: Context) -> tuple[Missing, ...]:
    missing = []
    if context.polymer is None:
        missing.append(Missing("polymer", "no_go"))
    for name, worst, required in _FIELDS:
        if getattr(recipe.brief, name) is None:
            missing.append(Missing(f"brief.{name}", worst, required))
    if context.polymer is None or softening_of(recipe, context.polymer) is None:
        missing.append(Missing("polymer.deflection", "decorative"))
    if context.polymer is None or context.polymer.value("price_per_kg") is None:
        missing.append(Missing("polymer.price_per_kg", "functional", False))
    return tuple(missing)


def _figures(recipe: Recipe, context: Context, softening: Datum | None, margin: Estimate | None) -> tuple[Figure, ...]:
    purpose = recipe.brief.purpose
    cost = run_cost(recipe, context)
    softening_value = (
        Estimate(
            softening.value,
            softening.low,
            softening.high,
            "°C",
            f"{_softening_method(recipe)} ({KINDS[softening.kind]})",
            softening.source,
        )
        if softening
        else UNKNOWN
    )
    allowance = ALLOWANCE_K[purpose] if purpose else None
    return (
        Figure("brief.service.margin", "Margin in service", margin or UNKNOWN),
        Figure("brief.service.softening", "Deflection temperature", softening_value),
        Figure(
            "brief.purpose.allowance", "Margin the purpose asks for",
            UNKNOWN if allowance is None
            else Estimate(allowance, max(0.0, allowance - 5.0), allowance + 5.0, "K", "by purpose", "estimate"),
        ),
        Figure("brief.purpose.grade", "Grade the purpose asks for", WANTED[purpose] if purpose else UNKNOWN),
        Figure("brief.run.cost", "Cost of the run", cost or UNKNOWN),
    )  # fmt: skip


def _softening_method(recipe: Recipe) -> str:
    stress = recipe.brief.stress_mpa or 0.0
    load = tabulated_stress(stress) or 0.0
    return f"deflection temperature under {load:g} MPa, {state_words(recipe)}" + (_NAMES if stress != load else "")
