"""What supports are asked for, and the worst grade that each answer could bring."""

from collections.abc import Iterator

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question
from kaustos.core.review.supports.case import SECOND, support_case

EXPECTED, KEPT = GRADES[1], GRADES[-1]


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything that the places which grow over air ask."""
    return tuple(_questions(recipe, context))


def _questions(recipe: Recipe, context: Context) -> Iterator[Question]:
    case, supports = support_case(recipe, context), recipe.supports
    if case.needs is None or case.needs:  # where nobody looked it may want help
        yield Question("supports.way", supports.way is not None, EXPECTED)
    if not case.is_held:
        return
    for name in ("from_deg", "filled_pct", "gap_mm"):
        yield Question(f"supports.{name}", getattr(supports, name) is not None, KEPT, False)
    if supports.way in SECOND:
        yield Question("supports.material", supports.material is not None, EXPECTED, False)
        for name in ("contact_only", "contrast"):
            yield Question(f"supports.{name}", getattr(supports, name) is not None, KEPT, False)
    if supports.way == "soluble":
        yield Question("context.bath", context.bath is not None, KEPT, False)
        if context.bath is None:
            yield Question("supports.bath_ml", supports.bath_ml is not None, KEPT, False)
        yield Question("supports.bath_c", supports.bath_c is not None, KEPT, False)
