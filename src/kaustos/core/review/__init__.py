"""The judgement of a recipe: contract, registry, heat ladder, and one package per operation.

Every package has the same rooms: ``codes`` (the findings that can arise), ``questions`` (what is asked, and the worst
its answer could bring), ``figures`` (with what its tile says), ``findings``, ``remedies``, ``drawing`` (the record of
its picture) and a short ``judgement`` that puts them together and names its heavy results. It exports CODES, HEAVY,
review and picture. What all share, making a finding, offers and the conclusion, stands in ``making``.
"""

from kaustos.core.review.contract import (
    GRADES,
    PENDING,
    SEVERITIES,
    STANDINGS,
    UNKNOWN,
    Advice,
    Caution,
    Choose,
    Code,
    Context,
    Estimate,
    Figure,
    Finding,
    Heavy,
    Missing,
    OperationReview,
    Reads,
    Remedy,
    Review,
    Set,
    Shop,
    is_same,
)
from kaustos.core.review.ladder import Ladder, Lane, ladder
from kaustos.core.review.registry import BY_KEY, BY_NUMBER, CODES, NOT_JUDGED, OPERATIONS, Operation, review, whole

__all__ = [
    "BY_KEY",
    "BY_NUMBER",
    "CODES",
    "GRADES",
    "NOT_JUDGED",
    "OPERATIONS",
    "PENDING",
    "SEVERITIES",
    "STANDINGS",
    "UNKNOWN",
    "Advice",
    "Caution",
    "Choose",
    "Code",
    "Context",
    "Estimate",
    "Figure",
    "Finding",
    "Heavy",
    "Ladder",
    "Lane",
    "Missing",
    "Operation",
    "OperationReview",
    "Reads",
    "Remedy",
    "Review",
    "Set",
    "Shop",
    "is_same",
    "ladder",
    "review",
    "whole",
]
