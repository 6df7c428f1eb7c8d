"""Operation 20, Drying: is this very spool fit to print now and for the whole job, and if not, what makes it so?

Takes over: how wet a lot is after where it has been, how long each dryer takes and what it never reaches, how long a
dried spool may hang, and whether the right filament, and enough of it, is on the spool.
"""

from kaustos.core.review.stock.codes import CODES
from kaustos.core.review.stock.drawing import DryerOption, Phase, StockPicture, options_of, picture
from kaustos.core.review.stock.findings import is_in_dryer
from kaustos.core.review.stock.judgement import HEAVY, NUMBER, review
from kaustos.core.review.stock.plan import left_to_dry_h, plan_of

__all__ = [
    "CODES",
    "HEAVY",
    "NUMBER",
    "DryerOption",
    "Phase",
    "StockPicture",
    "is_in_dryer",
    "left_to_dry_h",
    "options_of",
    "picture",
    "plan_of",
    "review",
]
