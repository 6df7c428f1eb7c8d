"""Classes of shape that runs have shown: what is proven on one kind of shape is not proven on another."""

from collections.abc import Iterable

from kaustos.core.records import Run


def shape_classes(good: Iterable[Run]) -> tuple[str, ...]:
    """Classes of shape that good runs show: one part is one class, whatever was typed later.

    Parameters
    ----------
    good : iterable of Run
        Good runs of a recipe [-]

    Returns
    -------
    tuple of str
        Classes, each once, in the order of their names [-]
    """
    by_part: dict[str, str] = {}
    for run in sorted(good, key=lambda run: run.started_utc):
        if run.shape:
            by_part.setdefault(run.part.strip().casefold() or run.id, run.shape)
    return tuple(sorted(set(by_part.values())))
