"""One cause is told once: a finding goes with another only where that one is said too."""

import attrs

from kaustos.core.estimates import PURPOSE
from kaustos.core.review.contract import Finding, OperationReview

LEFT = PURPOSE["comes_of"].value


def is_cause(now: float, cured: float) -> bool:
    """Whether a cure takes so much of a chance along that what it cures is its cause.

    Parameters
    ----------
    now : float
        Chance of a finding as it stands [1]
    cured : float
        The same with something cured [1]

    Returns
    -------
    bool
        False where there is hardly a chance to take [-]

    Examples
    --------
    >>> is_cause(0.8, 0.3), is_cause(0.8, 0.5), is_cause(0.0, 0.0)
    (True, False, False)
    """
    return now > 0.0 and cured <= LEFT * now


def with_causes_said(operations: tuple[OperationReview, ...]) -> tuple[OperationReview, ...]:
    """What operations say, the cause of a finding named only where it is a finding too.

    Parameters
    ----------
    operations : tuple of OperationReview
        Each as it judged by itself [-]

    Returns
    -------
    tuple of OperationReview
        The same; a finding whose cause nobody said stands by itself [-]
    """
    said = {finding.code for each in operations for finding in each.findings}
    return tuple(_of(each, said) for each in operations)


def _of(operation: OperationReview, said: set[str]) -> OperationReview:
    if all(not each.due_to or each.due_to in said for each in operation.findings):
        return operation
    return attrs.evolve(operation, findings=tuple(_alone(each, said) for each in operation.findings))


def _alone(finding: Finding, said: set[str]) -> Finding:
    return finding if finding.due_to in said else attrs.evolve(finding, due_to="")
