"""Operation 60, Melt and walls: which heat, flow, bead and layer give a dense, bonded wall of the right size?

Takes over: whether this head melts what the recipe asks of it, how many beads fill a wall and layers a height, what a
measured multiplier means, and how one polymer follows another through the hot end.
"""

from kaustos.core.planning.change_over import ChangeOver
from kaustos.core.review.melt.case import MeltCase, melt_case
from kaustos.core.review.melt.change import change_over_of
from kaustos.core.review.melt.codes import CODES
from kaustos.core.review.melt.drawing import MeltPicture, picture
from kaustos.core.review.melt.judgement import HEAVY, review

__all__ = [
    "CODES",
    "HEAVY",
    "ChangeOver",
    "MeltCase",
    "MeltPicture",
    "change_over_of",
    "melt_case",
    "picture",
    "review",
]
