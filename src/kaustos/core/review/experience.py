"""The log judges the review: what findings foretold against what runs showed, and how mature a recipe is."""

from collections.abc import Iterable, Mapping

import attrs

from kaustos.core.records import Run
from kaustos.core.review.run_moisture import WET_SEEN

_COLD = ("layers_split", "weak_layers")
_WET = ("bubbles", "strings", "weak_layers", "starved")
_PEEL = ("corner_lift", "came_off", "warped")
SHOWS_AS: Mapping[str, tuple[str, ...]] = {  # code: how it shows in a run when it is right
    "brief.service.above_softening": ("gave_way",),
    "brief.service.short_margin": ("gave_way",),
    "brief.weather.poor": ("gave_way", "attacked"),
    "brief.chemical.attacked": ("attacked", "gave_way"),
    "brief.load.across_unproven": _COLD,
    **{f"machine.{zone}.beyond_reach": ("short_of_heat", "heater_fault") for zone in ("nozzle", "plate", "chamber")},
    **{f"machine.{zone}.no_headroom": ("short_of_heat", "heater_fault") for zone in ("nozzle", "plate", "chamber")},
    **{f"machine.{zone}.reach_claimed": ("short_of_heat", "heater_fault") for zone in ("nozzle", "plate", "chamber")},
    "stock.strand.signs": _WET,
    "stock.moisture.wet": _WET,
    "stock.moisture.unknown": _WET,
    "stock.dryer.floor": _WET,
    "stock.dryer.beyond_reach": _WET,
    "stock.dryer.below_window": _WET,
    "stock.desiccant.alone": _WET,
    "stock.desiccant.spent": _WET,
    "stock.waiting.rewets": _WET,
    "stock.exposure.rewets": _WET,
    "stock.dryer.above_window": ("jam", "charred"),
    "stock.spool.softens": ("jam",),
    "stock.drying.too_long": ("charred", "weak_layers"),
    "stock.mass.short": ("ran_out",),
    "stock.lot.other_polymer": ("jam", "charred", "no_flow", "smell"),
    "machine.nozzle.below_window": (*_COLD, "starved", "no_flow"),
    "machine.nozzle.above_window": ("strings", "charred", "shape_lost"),
    "machine.nozzle.liner_limit": ("jam", "smell"),
    "machine.nozzle.liner_unknown": ("jam", "smell"),
    "machine.nozzle.cannot_extrude": ("no_flow", "jam", "starved"),
    "machine.nozzle.decomposition": ("charred", "smell", "bubbles"),
    "machine.nozzle.near_decomposition": ("charred", "smell", "bubbles"),
    "machine.nozzle.below_plate": ("no_flow", "foot_sagged"),
    "machine.plate.below_window": ("corner_lift", "came_off"),
    "machine.plate.above_window": ("foot_sagged", "stuck", "surface_torn"),
    "machine.plate.magnet_limit": ("came_off", "machine_softened"),
    "machine.plate.backing_limit": ("came_off", "machine_softened", "surface_torn"),
    "machine.plate.above_glass_transition": ("foot_sagged",),
    "machine.plate.foot_sags": ("foot_sagged",),
    "machine.plate.near_melting": ("foot_sagged", "surface_torn"),
    "machine.chamber.below_window": (*_PEEL, *_COLD),
    "machine.chamber.above_window": ("shape_lost",),
    "machine.chamber.parts_soften": ("machine_softened",),
    "machine.chamber.above_glass_transition": ("shape_lost",),
    "machine.chamber.near_crystallisation": ("shape_lost",),
}
NO_RUN_TELLS = {  # codes that a run can neither confirm nor refute, with the reason
    "brief.service.no_value": "it says that a value is missing",
    "brief.margin.below_purpose": "it compares two wishes",
    "brief.anneal.not_planned": "it says that a plan is missing",
    "brief.look.not_clear": "it is judged by eye before the run",
    "brief.look.other_finish": "it is judged by eye before the run",
    "brief.price.dearer": "it compares prices",
    "stock.lot.unqualified": "it says that a trial is missing",
    "stock.lot.undisclosed": "it says what is not known, not what will be seen",
    "stock.lot.low": "it looks to the next spool",
    "stock.lot.planned": "it looks to the runs after this one",
    "stock.lot.elsewhere": "it looks to what is loaded where",
    "machine.chamber.below_room": "a chamber a little warmer than it was set does not show",
}
REPEATS, CLASSES = 3, 2  # estimates: good runs, and shape classes, from which a recipe counts as repeated, as proven


@attrs.frozen
class Tally:
    """How often a finding was right: ended runs in which it stood, and those that showed it."""

    right: int
    of: int


@attrs.frozen
class RunJudgement:
    """One run beside the findings that stood when it began."""

    foretold: tuple[tuple[str, tuple[str, ...]], ...]  # what was seen, and the codes that said so
    not_foretold: tuple[str, ...]  # what was seen though nothing said so
    absent: tuple[str, ...]  # codes that said something which was not seen


def judge_run(run: Run) -> RunJudgement:
    """Set what was seen in a run beside what was foretold.

    Parameters
    ----------
    run : Run
        Observations, and the codes that stood when it began [-]

    Returns
    -------
    RunJudgement
        Foretold, not foretold, and foretold but absent [-]
    """
    seen = tuple(dict.fromkeys(each.what for each in run.observations))
    by_what = {what: tuple(code for code in run.foretold if what in SHOWS_AS.get(code, ())) for what in seen}
    return RunJudgement(
        tuple((what, codes) for what, codes in by_what.items() if codes),
        tuple(what for what, codes in by_what.items() if not codes),
        tuple(code for code in run.foretold if code in SHOWS_AS and not run.seen & set(SHOWS_AS[code])),
    )


def tallies(runs: Iterable[Run]) -> dict[str, Tally]:
    """How often each finding was right over all ended runs.

    Parameters
    ----------
    runs : iterable of Run
        The log [-]

    Returns
    -------
    dict of str to Tally
        By code; codes that no ended run can tell of are left out [-]

    Notes
    -----
    Water poses as wrong heat: where a run from wet filament showed what a finding of another operation foretells, and
    water shows as well, the run is not counted for that finding.
    """
    right: dict[str, int] = {}
    stood: dict[str, int] = {}
    for run in runs:
        if not run.is_ended or run.retired:
            continue
        for code in dict.fromkeys(run.foretold):
            if code in SHOWS_AS and not _water_may_be_it(run, code):
                stood[code] = stood.get(code, 0) + 1
                right[code] = right.get(code, 0) + bool(run.seen & set(SHOWS_AS[code]))
    return {code: Tally(right[code], of) for code, of in stood.items()}


def _water_may_be_it(run: Run, code: str) -> bool:
    shown = run.seen & set(SHOWS_AS[code])
    return run.filament == "wet" and not code.startswith("stock.") and bool(shown) and shown <= WET_SEEN


@attrs.frozen
class Maturity:
    """How far a recipe is proven: a word, and the counts behind it."""

    word: str
    good: int
    ended: int
    shapes: tuple[str, ...]
    at_least: float  # lower end of the 95 % interval of the share of good runs
    wet: int  # runs from wet filament, left out of the counts
    not_surely_dry: int  # counted ones from filament that may have been wet


def maturity_of(runs: Iterable[Run]) -> Maturity:
    """How far runs under the same settings prove a recipe.

    Parameters
    ----------
    runs : iterable of Run
        Ended runs of the recipe with the same settings on the same machine [-]

    Returns
    -------
    Maturity
        untried, wet runs only, no success yet, worked once or twice, repeated, or proven for shape classes [-]

    Notes
    -----
    Worked once is not validated: three good runs count as repeated, and only over two shape classes as proven for
    these; a failure in the last run takes the recipe back to repeated at best. A run from wet filament tells of water,
    not of the settings, and is left out.

    References
    ----------
    Clopper and Pearson, one-sided 95 % bound of a share
    """
    every = sorted((run for run in runs if run.is_ended and not run.retired), key=lambda run: run.started_utc)
    ended = [run for run in every if run.filament != "wet"]
    good = [run for run in ended if run.outcome == "good"]
    shapes = tuple(sorted({run.shape for run in good if run.shape}))
    if not ended:
        word = "wet runs only" if every else "untried"
    elif not good:
        word = "no success yet"
    elif len(good) < REPEATS:
        word = "worked once" if len(good) == 1 else "worked twice"
    elif len(shapes) < CLASSES or ended[-1].outcome != "good":
        word = "repeated"
    else:
        word = "proven"
    unsure = sum(run.filament in ("doubtful", "unknown") for run in ended)
    least = lower_bound(len(good), len(ended))
    return Maturity(word, len(good), len(ended), shapes, least, len(every) - len(ended), unsure)


def lower_bound(good: int, of: int) -> float:
    """Lower end of what a count of successes says of their share.

    Parameters
    ----------
    good : int
        Successes [-]
    of : int
        Trials [-]

    Returns
    -------
    float
        Share that the truth exceeds with 95 % confidence [-]

    References
    ----------
    Clopper and Pearson, one-sided 95 % bound of a share

    Examples
    --------
    >>> round(lower_bound(5, 5), 3)
    0.549
    """
    if good == 0 or of == 0:
        return 0.0
    if good == of:
        return float(0.05 ** (1.0 / of))
    from scipy.special import betaincinv

    return float(betaincinv(good, of - good + 1, 0.05))
