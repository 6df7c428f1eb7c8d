"""How far a run had come at some height or hour: hours and filament as its job file spreads them."""

import itertools
from collections.abc import Sequence

from kaustos.core.records import JobFile, Run, RunPiece

PIECES = 48  # kept of a file that has more


def course_of(job: JobFile) -> tuple[RunPiece, ...]:
    """The course of a run by its file.

    Parameters
    ----------
    job : JobFile
        Heights, seconds of a layer, layers and feeds of its pieces [mm, s, mm/s]

    Returns
    -------
    tuple of RunPiece
        Shares of time and of filament up to each height [mm, 1]; none where the file lays nothing

    Examples
    --------
    >>> job = JobFile(id="j", heights_mm=(1.0, 3.0), seconds=(10.0, 10.0), layers=(5.0, 10.0), feeds_mm_s=(4.0, 1.0))
    >>> [round(each.filament, 3) for each in course_of(job)]
    [0.667, 1.0]
    """
    took = [seconds * layers for seconds, layers in zip(job.seconds, job.layers, strict=True)]
    fed = [seconds * feed for seconds, feed in zip(took, job.feeds_mm_s, strict=True)]
    if not sum(took) > 0.0 or not sum(fed) > 0.0:
        return ()
    kept = sorted({round(at * (len(took) - 1) / (PIECES - 1)) for at in range(PIECES)} if len(took) > PIECES
                  else range(len(took)))  # fmt: skip
    pieces = zip(itertools.accumulate(job.heights_mm, max), _shares(took), _shares(fed), strict=True)
    every = [RunPiece(high_mm=high, time=time, filament=filament) for high, time, filament in pieces]
    return tuple(every[at] for at in kept)


def _shares(parts: Sequence[float]) -> list[float]:
    """What has come by the end of each part, of all of them [1]."""
    whole = list(itertools.accumulate(parts))
    return [min(each / whole[-1], 1.0) for each in whole]


def _between(at: float, points: Sequence[tuple[float, float]]) -> float:
    """The value at a place by a line between the nearest two points, from nothing before the first."""
    before, was = 0.0, 0.0
    for place, value in points:
        if at < place:
            return was + (value - was) * (at - before) / (place - before)
        before, was = place, value
    return was


def share_fed(run: Run, share: float) -> float:
    """Share of its filament that a run had taken after a share of its time.

    Parameters
    ----------
    run : Run
        With its course, where its file told it [-]
    share : float
        Of the time of the whole run [1]

    Returns
    -------
    float
        The same share where nothing tells how filament spreads [1]

    Examples
    --------
    >>> share_fed(Run(id="a", card="b", revision=1.0), 0.3)
    0.3
    """
    if not run.course:
        return share
    return _between(max(share, 0.0), [(each.time, each.filament) for each in run.course])


def hour_at(run: Run, height_mm: float) -> float | None:
    """Hour at which a run had come to a height.

    Parameters
    ----------
    run : Run
        With its course and its planned hours [h]
    height_mm : float
        Over the plate [mm]

    Returns
    -------
    float or None
        After its first move [h]; None where no file tells

    Examples
    --------
    >>> hour_at(Run(id="a", card="b", revision=1.0, planned_h=8.0), 3.0) is None
    True
    """
    if not run.course or run.planned_h is None:
        return None
    return run.planned_h * _between(max(height_mm, 0.0), [(each.high_mm, each.time) for each in run.course])
