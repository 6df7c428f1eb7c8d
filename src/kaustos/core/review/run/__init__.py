"""Operation 90, Run: start or not, who looks when, and do file and recipe say the same?

Takes over: whether the job file is the recipe's, how long it takes, and a start at which somebody is there.
"""

from kaustos.core.review.run.case import RunCase, run_case
from kaustos.core.review.run.codes import CODES
from kaustos.core.review.run.drawing import RunPicture, Stretch, picture
from kaustos.core.review.run.judgement import HEAVY, NUMBER, review
from kaustos.core.review.run.preflight import Check, preflight

__all__ = [
    "CODES",
    "HEAVY",
    "NUMBER",
    "Check",
    "RunCase",
    "RunPicture",
    "Stretch",
    "picture",
    "preflight",
    "review",
    "run_case",
]
