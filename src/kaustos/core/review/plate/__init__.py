"""Operation 40, Plate and bond: which surface, agent, anchor and heat hold this part until it is wanted off?

Takes over: whether corners stay down, the part comes off and the plate lives, and which lever changes that.
"""

from kaustos.core.review.plate.case import agent_kind, case_of, expected_bond
from kaustos.core.review.plate.codes import CODES
from kaustos.core.review.plate.drawing import Band, PlatePicture, picture
from kaustos.core.review.plate.findings import agent_dose
from kaustos.core.review.plate.judgement import HEAVY, LEVERS, NUMBER, review
from kaustos.core.review.plate.offers import Lever, Tried

__all__ = [
    "CODES",
    "HEAVY",
    "LEVERS",
    "NUMBER",
    "Band",
    "Lever",
    "PlatePicture",
    "Tried",
    "agent_dose",
    "agent_kind",
    "case_of",
    "expected_bond",
    "picture",
    "review",
]
