"""Operation 70, Heat and welds: which surroundings, layer time and fan let layers become one piece, and keep shape?

Takes over: the grade of the part from the weld it will have, which lever buys how much of it, and how much time a
layer needs.
"""

from kaustos.core.review.heat.case import HeatCase, heat_case
from kaustos.core.review.heat.codes import CODES
from kaustos.core.review.heat.drawing import HeatPicture, HeightProfile, WeldMap, picture, weld_map
from kaustos.core.review.heat.judgement import HEAVY, LEVERS, review
from kaustos.core.review.heat.levers import WeldLever
from kaustos.core.review.heat.pauses import Pause, pause_plan
from kaustos.core.review.heat.schools import School
from kaustos.core.review.heat.ways import Ways, ways_of

__all__ = [
    "CODES",
    "HEAVY",
    "LEVERS",
    "HeatCase",
    "HeatPicture",
    "HeightProfile",
    "Pause",
    "School",
    "Ways",
    "WeldLever",
    "WeldMap",
    "heat_case",
    "pause_plan",
    "picture",
    "review",
    "ways_of",
    "weld_map",
]
