"""The one list of operations in route order, and the judgement of a whole recipe."""

from collections.abc import Callable
from typing import Any

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review import brief, machine, stock
from kaustos.core.review.contract import Code, Completeness, Context, Grade, OperationReview, Review
from kaustos.core.review.grading import completeness_of, grade_of


@attrs.frozen
class Operation:
    """One operation of the route; its key names its module, its bench, its figures and its codes."""

    number: int
    key: str
    title: str
    short: str
    section: str  # what it decides, in one sentence
    review: Callable[[Recipe, Context], OperationReview]
    picture: Callable[[Recipe, Context], Any]  # each operation draws its own frozen record
    codes: tuple[Code, ...]


OPERATIONS = (
    Operation(
        10, "brief", "Brief", "Brief",
        "Is this polymer, in the state the part will have, worth a trial for this service?",
        brief.review, brief.picture, brief.CODES,
    ),
    Operation(
        20, "stock", "Stock and drying", "Drying",
        "Is this very spool fit to print now and for the whole job, and if not, what makes it so and by when?",
        stock.review, stock.picture, stock.CODES,
    ),
    Operation(
        30, "machine", "Machine", "Machine",
        "Can this machine carry the recipe as it stands today, and which part stops it?",
        machine.review, machine.picture, machine.CODES,
    ),
)  # fmt: skip
BY_NUMBER = {operation.number: operation for operation in OPERATIONS}
BY_KEY = {operation.key: operation for operation in OPERATIONS}
CODES = {code.code: code for operation in OPERATIONS for code in operation.codes}


NOT_JUDGED = Review(
    tuple(OperationReview(each.number, "open", "", (), (), (), ()) for each in OPERATIONS),
    Grade("no_go", (), (), ("polymer",), None),
    Completeness(0, 0, ()),
)  # what stands where a fault keeps a recipe from being judged


def review(recipe: Recipe, context: Context) -> Review:
    """Judge a recipe in its context.

    Parameters
    ----------
    recipe : Recipe
        Settings in shop units [°C, K, g, h, MPa]
    context : Context
        Machine, lot, polymer and the shop's rules [°C, K]

    Returns
    -------
    Review
        Every operation's figures, findings, cautions and gaps, the grade and the completeness [-]

    Notes
    -----
    Pure: no files, no clock, nothing remembered.
    """
    operations = tuple(operation.review(recipe, context) for operation in OPERATIONS)
    return Review(operations, grade_of(operations, recipe.brief.purpose), completeness_of(operations))
