"""What the brief asks for, and the worst grade that each answer could bring."""

from kaustos.core.records import Recipe
from kaustos.core.review.brief.service import is_beyond, softening_of
from kaustos.core.review.contract import Context
from kaustos.core.review.making import Question

_FIELDS = (  # field of the brief, worst grade its value could bring, needed for a grade
    ("service_c", "decorative", True),
    ("stress_mpa", "decorative", True),
    ("history", "decorative", True),
    ("moisture", "decorative", True),
    ("outdoor", "decorative", True),
    ("chemical", "decorative", True),
    ("margin_k", "reduced", True),
    ("load_across", "reduced", True),
    ("purpose", "functional", True),
    ("clear", "functional", False),
    ("look", "functional", False),
    ("mass_g", "functional", False),
    ("print_h", "functional", False),
    ("runs", "functional", False),
)
_VALUES = ("price_per_kg", "density_g_cm3")


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything that the brief asks."""
    polymer = context.polymer
    deflects = softening_of(recipe.brief, polymer) is not None and not is_beyond(recipe.brief)
    return (
        Question("polymer", polymer is not None, "no_go"),
        *(
            Question(f"brief.{name}", getattr(recipe.brief, name) is not None, worst, required)
            for name, worst, required in _FIELDS
        ),
        Question("polymer.deflection", deflects, "decorative"),
        *(
            Question(f"polymer.{key}", polymer is not None and polymer.value(key) is not None, "functional", False)
            for key in _VALUES
        ),
    )
