"""Operation 110, Anneal and after-treatment: what the part still needs to reach size, finish and properties.

Takes over: where it is held, how steep and how long, counted from its core; whether this machine or an oven of the
shop can do it; at which scale it is printed for it; and the list of what else is done by hand.
"""

from kaustos.core.review.anneal.after import Work, work_list
from kaustos.core.review.anneal.case import AnnealCase, anneal_case
from kaustos.core.review.anneal.codes import CODES
from kaustos.core.review.anneal.drawing import AnnealPicture, picture
from kaustos.core.review.anneal.judgement import HEAVY, NUMBER, review

__all__ = [
    "CODES",
    "HEAVY",
    "NUMBER",
    "AnnealCase",
    "AnnealPicture",
    "Work",
    "anneal_case",
    "picture",
    "review",
    "work_list",
]
