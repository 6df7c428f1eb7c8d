"""Operation 50, First layer: which gap, speed and heat, and after layer one: go on or stop?

Takes over: whether gap, nozzle and plate together hold or harm, and the minute at which somebody has to look.
"""

from kaustos.core.review.first_layer.bead import first_minutes
from kaustos.core.review.first_layer.codes import CODES
from kaustos.core.review.first_layer.drawing import BeadPicture, picture
from kaustos.core.review.first_layer.judgement import HEAVY, NUMBER, review

__all__ = ["CODES", "HEAVY", "NUMBER", "BeadPicture", "first_minutes", "picture", "review"]
