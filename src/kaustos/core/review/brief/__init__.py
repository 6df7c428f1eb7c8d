"""Operation 10, Brief: which polymer is worth a trial for this part in this service, and which is not?

Takes over: the margin in service, what weather, chemicals and load ask, the ranking of all polymers for the purpose
with the reason for each, and whether the chosen one is dearer than the purpose needs.
"""

from kaustos.core.review.brief.codes import ALLOWANCE_K, CODES
from kaustos.core.review.brief.drawing import BriefPicture, picture
from kaustos.core.review.brief.judgement import HEAVY, NUMBER, RANKING, review
from kaustos.core.review.brief.ranking import Candidate, Lack, lack_of, price_per_litre, rank
from kaustos.core.review.brief.service import (
    covering_stress,
    lets_go_at,
    service_margin,
    softening_of,
    wanted_margin,
)
from kaustos.core.review.brief.suiting import VERDICTS, Reason

__all__ = [
    "ALLOWANCE_K",
    "CODES",
    "HEAVY",
    "NUMBER",
    "RANKING",
    "VERDICTS",
    "BriefPicture",
    "Candidate",
    "Lack",
    "Reason",
    "covering_stress",
    "lack_of",
    "lets_go_at",
    "picture",
    "price_per_litre",
    "rank",
    "review",
    "service_margin",
    "softening_of",
    "wanted_margin",
]
