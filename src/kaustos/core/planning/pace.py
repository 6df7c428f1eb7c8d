"""What one machine takes for its files: the hours that runs took over the hours that their files said."""

import math
from collections.abc import Sequence
from datetime import datetime

from kaustos.core.estimates import RUN
from kaustos.core.planning.run_clock import RESTS, printing_h
from kaustos.core.records import Estimate, Run

METHOD = "runs that took place over hours of their files, log-normal, with a prior"


def took_over_told(run: Run) -> float | None:
    """Hours that a whole run took over those that its file said [1].

    Parameters
    ----------
    run : Run
        First move and end as they were ticked, or hours as they were typed [h]

    Returns
    -------
    float or None
        None where the run was not whole, stood at a pause that nobody ticked, or was ticked when nobody saw it end [1]

    Notes
    -----
    A ratio farther from one than machines are is no ratio of a machine: somebody ticked late.
    """
    if run.outcome not in ("good", "usable") or not run.told_h or run.retired:
        return None
    took = run.ran_h if run.ran_h is not None else ticked_h(run)
    low, _, high = RUN["took"].band
    ratio = None if took is None else took / run.told_h
    return ratio if ratio is not None and low <= ratio <= high else None


def ticked_h(run: Run) -> float | None:
    """How long a run printed, by its card.

    Parameters
    ----------
    run : Run
        With its steps as they were ticked [-]

    Returns
    -------
    float or None
        From its first move to its end, pauses left out [h]; None where one of them was not ticked
    """
    done = {each.key: each.done_utc for each in run.steps if each.done_utc and not each.waived and not each.passed}
    rests = [each for each in run.steps if each.key.startswith(RESTS)]
    if "start" not in done or "end" not in done or any(each.key not in done for each in rests):
        return None
    return printing_h(run, datetime.fromisoformat(done["end"]))


def learned_pace(ratios: Sequence[float]) -> Estimate:
    """By how much the next run of a machine outlasts its file.

    Parameters
    ----------
    ratios : sequence of float
        Of runs of this machine [1]

    Returns
    -------
    Estimate
        With the band in which the next one lies, 95 of 100 [1]; without runs what is usual

    Notes
    -----
    Normal in the logarithm with known spreads, of machines and of runs of one machine, both estimates; the mean of
    what is known is the usual conjugate one.

    Examples
    --------
    >>> round(learned_pace([1.2] * 50).value, 2)
    1.2
    """
    machines, runs = RUN["pace_machines"].value, RUN["pace_runs"].value
    weight = 1.0 / machines**2 + len(ratios) / runs**2
    mean = sum(math.log(each) for each in ratios) / runs**2 / weight
    spread = 1.96 * math.sqrt(1.0 / weight + runs**2)
    return Estimate(math.exp(mean), math.exp(mean - spread), math.exp(mean + spread), "1", METHOD, "own log")
