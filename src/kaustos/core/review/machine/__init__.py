"""Operation 30, Machine: can this machine carry the recipe's temperatures, and which part stops it?

Takes over: comparing what the polymer wants, what is set and what the machine's weakest part allows, zone by zone.
"""

from kaustos.core.review.machine.codes import CODES
from kaustos.core.review.machine.drawing import Bar, MachinePicture, ZonePicture, picture
from kaustos.core.review.machine.judgement import HEAVY, NUMBER, review

__all__ = [
    "CODES",
    "HEAVY",
    "NUMBER",
    "Bar",
    "MachinePicture",
    "ZonePicture",
    "picture",
    "review",
]
