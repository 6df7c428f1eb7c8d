"""Operation 80, Supports: which places need help, of what kind, and does the help come out without harm?

Takes over: the verdict on every place that grows over air, the ranking of the ways to hold it, and what of it stays in.
"""

from kaustos.core.review.supports.afterwards import AfterStep, steps_after
from kaustos.core.review.supports.case import SupportCase, Way, support_case
from kaustos.core.review.supports.codes import CODES
from kaustos.core.review.supports.drawing import BathPicture, GapSaid, PlacePicture, SupportPicture, picture
from kaustos.core.review.supports.judgement import HEAVY, NUMBER, review

__all__ = [
    "CODES",
    "HEAVY",
    "NUMBER",
    "AfterStep",
    "BathPicture",
    "GapSaid",
    "PlacePicture",
    "SupportCase",
    "SupportPicture",
    "Way",
    "picture",
    "review",
    "steps_after",
    "support_case",
]
