"""Evidence beats the model: a stop that good runs of the recipe refute is a watch; one that protects people stays."""

from collections.abc import Callable, Mapping

import attrs

from kaustos.core.estimates import PROOF
from kaustos.core.review.contract import Finding, OperationReview
from kaustos.core.review.experience import Tally, is_scored
from kaustos.core.review.grading import standing_of
from kaustos.core.review.registry import CODES

Record = Mapping[str, Tally]


def is_refuted(tally: Tally | None) -> bool:
    """Whether runs have shown that a warning is wrong more often than not.

    Parameters
    ----------
    tally : Tally or None
        Ended runs in which it stood, and those that showed it [-]

    Returns
    -------
    bool
        False for few runs: two prove nothing [-]

    Notes
    -----
    Laplace's rule of succession for the share that is right. A warning that was heeded got no run, and counts neither
    right nor wrong.

    Examples
    --------
    >>> is_refuted(Tally(0, 2)), is_refuted(Tally(0, 3)), is_refuted(Tally(2, 6)), is_refuted(Tally(2, 10))
    (False, True, False, True)
    """
    if tally is None or tally.of < PROOF["refuted_runs"].value:
        return False
    return (tally.right + 1.0) / (tally.of + 2.0) < PROOF["refuted_share"].value


def tempered(
    operations: tuple[OperationReview, ...], record: Callable[[], Record], proven: int
) -> tuple[OperationReview, ...]:
    """What operations say, with the shop's own runs heard.

    Parameters
    ----------
    operations : tuple of OperationReview
        As the models say [-]
    record : callable
        How often each finding was right in runs of the polymer; asked only where a stop may go [-]
    proven : int
        Good runs of the recipe as it stands: other settings were not tried, whatever runs of the polymer say [-]

    Returns
    -------
    tuple of OperationReview
        The same, refuted stops as watches [-]
    """
    too_few = proven < PROOF["refuted_runs"].value
    if too_few or not any(_may_go(each) for operation in operations for each in operation.findings):
        return operations
    known = record()
    return tuple(_with(operation, known) for operation in operations)


def _may_go(finding: Finding) -> bool:
    return finding.severity == "stop" and is_scored(finding.code) and not CODES[finding.code].is_safety


def _with(operation: OperationReview, record: Record) -> OperationReview:
    findings = tuple(
        attrs.evolve(each, severity="watch") if _may_go(each) and is_refuted(record.get(each.code)) else each
        for each in operation.findings
    )
    if findings == operation.findings:
        return operation
    standing = standing_of(tuple(each.severity for each in findings), operation.missing)
    return attrs.evolve(operation, findings=findings, standing=standing)
