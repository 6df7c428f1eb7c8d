"""One cause is told once: a finding goes with another only where that one is said too."""

import attrs

from kaustos.core.review.contract import Finding, OperationReview


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
