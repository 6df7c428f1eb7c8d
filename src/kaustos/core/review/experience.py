"""The log judges the review: what findings foretold against what runs showed, and how mature a recipe is."""

from collections.abc import Iterable

import attrs

from kaustos.core.memo import by_identity
from kaustos.core.planning.shape_classes import shape_classes
from kaustos.core.records import Rules, Run
from kaustos.core.review.registry import CODES
from kaustos.core.review.signs import WET


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


def shows_as(code: str) -> tuple[str, ...]:
    """How a finding shows in a run when it is right.

    Parameters
    ----------
    code : str
        Of a finding; one that is not known any more shows nothing [-]

    Returns
    -------
    tuple of str
        What is seen, of SEEN [-]
    """
    return CODES[code].shows if code in CODES else ()


def _shows_in(run: Run, code: str) -> tuple[str, ...]:
    """How a finding shows in a run; that nobody looks shows in none in which somebody did, by name."""
    ticked = {each.key: each.by for each in run.steps if each.is_over and not each.passed and not each.waived}
    looked = run.looked_by or ticked.get("look", "")
    is_watched = bool(looked) and all(ticked.get(each.key) for each in run.steps if each.key == "corners")
    return () if is_watched and code in CODES and CODES[code].is_absence else shows_as(code)


def is_scored(code: str) -> bool:
    """Whether a run can confirm or refute a finding: one that says that something is unknown is neither.

    Parameters
    ----------
    code : str
        Of a finding [-]

    Returns
    -------
    bool
        False where nothing shows it, or it is silent by its nature [-]
    """
    return bool(shows_as(code)) and not CODES[code].silent


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
    by_what = {what: tuple(code for code in run.foretold if what in _shows_in(run, code)) for what in seen}
    return RunJudgement(
        tuple((what, codes) for what, codes in by_what.items() if codes),
        tuple(what for what, codes in by_what.items() if not codes),
        tuple(code for code in run.foretold if is_scored(code) and not run.seen & set(_shows_in(run, code))),
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
        for code, was_right in _points(run):
            stood[code] = stood.get(code, 0) + 1
            right[code] = right.get(code, 0) + was_right
    return {code: Tally(right[code], of) for code, of in stood.items()}


@by_identity(50_000)
def _points(run: Run) -> tuple[tuple[str, bool], ...]:
    """The codes that a run tells of, and whether each was right."""
    if not run.is_ended or run.retired:
        return ()
    scored = (code for code in dict.fromkeys(run.foretold) if is_scored(code) and not _water_may_be_it(run, code))
    return tuple((code, bool(run.seen & set(_shows_in(run, code)))) for code in scored)


def _water_may_be_it(run: Run, code: str) -> bool:
    shown = run.seen & set(_shows_in(run, code))
    return run.filament == "wet" and not code.startswith("stock.") and bool(shown) and shown <= set(WET)


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


def maturity_of(runs: Iterable[Run], rules: Rules | None = None) -> Maturity:
    """How far runs under the same settings prove a recipe.

    Parameters
    ----------
    runs : iterable of Run
        Ended runs of the recipe with the same settings on the same machine [-]
    rules : Rules or None
        How many good runs and shape classes the shop wants, the usual ones where none are given [-]

    Returns
    -------
    Maturity
        untried, wet runs only, no success yet, worked once or twice, repeated, or proven for shape classes [-]

    Notes
    -----
    Worked once is not validated: three good runs count as repeated, and only over two shape classes as proven for
    these, where the shop says no other; a failure in the last run takes the recipe back to repeated at best. A run from
    wet filament tells of water, not of the settings, and is left out.

    References
    ----------
    Clopper and Pearson, one-sided 95 % bound of a share
    """
    from kaustos.core.planning.specimens import lower_bound  # with its arithmetic, only where it is asked for

    wanted = rules or Rules()
    every = sorted((run for run in runs if run.is_ended and not run.retired), key=lambda run: run.started_utc)
    ended = [run for run in every if run.filament != "wet"]
    good = [run for run in ended if run.outcome == "good"]
    shapes = shape_classes(good)
    if not ended:
        word = "wet runs only" if every else "untried"
    elif not good:
        word = "no success yet"
    elif len(good) < wanted.release_runs:
        word = {1: "worked once", 2: "worked twice"}.get(len(good), f"worked {len(good)} times")
    elif len(shapes) < wanted.release_shapes or ended[-1].outcome != "good":
        word = "repeated"
    else:
        word = "proven"
    unsure = sum(run.filament in ("doubtful", "unknown") for run in ended)
    least = lower_bound(len(good), len(ended))
    return Maturity(word, len(good), len(ended), shapes, least, len(every) - len(ended), unsure)


def lacks_for_release(found: Maturity, rules: Rules) -> tuple[str, ...]:
    """What is missing before a recipe may be released by the rules of the shop.

    Parameters
    ----------
    found : Maturity
        How far it is proven [-]
    rules : Rules
        Good runs and shape classes that are wanted [-]

    Returns
    -------
    tuple of str
        In words, empty where nothing is missing [-]
    """
    lacks = []
    if found.good < rules.release_runs:
        more = rules.release_runs - found.good
        lacks.append(f"{more:.0f} good run{'' if more == 1.0 else 's'} more under these settings")
    if len(found.shapes) < rules.release_shapes:
        more = rules.release_shapes - len(found.shapes)
        lacks.append(f"{more:.0f} shape class{'' if more == 1.0 else 'es'} more")
    return tuple(lacks)
