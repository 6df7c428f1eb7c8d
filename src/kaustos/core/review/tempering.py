"""Evidence beats the model: a stop that good runs of the recipe refute is a watch, a chance follows its own record.

What protects people stays as it is.
"""

from collections.abc import Callable, Mapping

import attrs

from kaustos.core.estimates import PROOF
from kaustos.core.memo import by_identity
from kaustos.core.review.contract import Finding, OperationReview, worst_first
from kaustos.core.review.experience import Tally, is_scored
from kaustos.core.review.grading import standing_of
from kaustos.core.review.money import WHY, expected_loss
from kaustos.core.review.registry import CODES

Record = Mapping[str, Tally]
STOPS = 0.5  # chance of losing the run over which a stop stops
HARMS = 0.1  # the same of harming plate or machine


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
        How often each finding was right in runs of the polymer [-]
    proven : int
        Good runs of the recipe as it stands: other settings were not tried, whatever runs of the polymer say [-]

    Returns
    -------
    tuple of OperationReview
        The same, refuted stops as watches, chances that were not drawn as the record has them [-]
    """
    if not any(_is_counted(each) for operation in operations for each in operation.findings):
        return operations
    known = record()
    return tuple(_with(operation, known, proven) for operation in operations) if known else operations


def _is_counted(finding: Finding) -> bool:
    return is_scored(finding.code) and not CODES[finding.code].is_safety and finding.basis != "sure"


@by_identity(256)
def _with(operation: OperationReview, record: Record, proven: int) -> OperationReview:
    """An operation with its findings as the record has them; the worst first, as they cost now."""
    findings = tuple(_heard(each, record.get(each.code), proven) for each in operation.findings)
    if findings == operation.findings:
        return operation
    standing = standing_of(tuple(each.severity for each in findings), operation.missing)
    return attrs.evolve(operation, findings=worst_first(findings), standing=standing)


def _heard(finding: Finding, tally: Tally | None, proven: int) -> Finding:
    """A finding with its chance as runs have it; a stop whose chance they leave small a watch."""
    if not _is_counted(finding):
        return finding
    told = counted(finding, tally if finding.basis == "prior" else own_runs(tally, proven))
    if finding.severity != "stop" or proven < PROOF["refuted_runs"].value:
        return told
    most = HARMS if CODES[finding.code].harms else STOPS
    never_shown = finding.basis == "draws" and told.basis == "record" and tally is not None and not tally.right
    is_small = never_shown and told.chance <= most
    return attrs.evolve(told, severity="watch") if is_small or is_refuted(tally) else told


def own_runs(tally: Tally | None, proven: int) -> Tally | None:
    """Of what was drawn: runs in which it stood and did not show, no more than were good as the recipe stands.

    Parameters
    ----------
    tally : Tally or None
        Ended runs of the polymer in which it stood, and those that showed it [-]
    proven : int
        Good runs of the recipe as it stands [-]

    Returns
    -------
    Tally or None
        None where no run is the recipe's own [-]
    """
    if tally is None or not proven:
        return None
    return Tally(tally.right, tally.right + min(proven, tally.of - tally.right))


def counted(finding: Finding, tally: Tally | None) -> Finding:
    """A finding whose chance rests on its own record.

    Parameters
    ----------
    finding : Finding
        With its chance before any run [1]
    tally : Tally or None
        Ended runs in which it stood, and those that showed it [-]

    Returns
    -------
    Finding
        With the chance and the cost that the record leaves [1, money]

    Notes
    -----
    A beta distribution whose mean is the chance before, worth a few runs, then right and wrong ones.

    References
    ----------
    Gelman and others, Bayesian Data Analysis: the beta and the binomial
    """
    if tally is None or not tally.of:
        return finding
    low, chance, high = after_runs(finding.chance, tally)
    cost = expected_loss(finding.stake, (low, chance, high), WHY["record"])
    return attrs.evolve(finding, chance=chance, basis="record", cost=cost)


def after_runs(chance: float, tally: Tally) -> tuple[float, float, float]:
    """What runs leave of a chance.

    Parameters
    ----------
    chance : float
        Before any run [1]
    tally : Tally
        Ended runs in which it stood, and those that showed it [-]

    Returns
    -------
    tuple of float
        Least, likely, most [1]

    Examples
    --------
    >>> low, likely, high = after_runs(0.7, Tally(0, 8))
    >>> low < likely < 0.3
    True
    """
    from scipy.special import betaincinv  # with its arithmetic, only where it is asked for

    worth = PROOF["record_worth"].value
    right, wrong = chance * worth + tally.right, (1.0 - chance) * worth + tally.of - tally.right
    low, _, high = (float(each) for each in betaincinv(max(right, 1e-6), max(wrong, 1e-6), (0.025, 0.5, 0.975)))
    likely = right / (right + wrong)
    return min(low, likely), likely, max(high, likely)
