"""What the brief asks for, and the worst grade that each answer could bring."""

from kaustos.core.records import Polymer, Recipe
from kaustos.core.review.brief.service import (
    AGES_FROM_H,
    LONGEST_H,
    is_beyond,
    margin_of,
    softening_of,
    stands_for,
    wanted_margin,
)
from kaustos.core.review.contract import Context
from kaustos.core.review.making import Question

_FIELDS = (  # field of the brief, worst grade its value could bring, needed for a grade
    ("service_c", "decorative", True),
    ("stress_mpa", "decorative", True),
    ("history", "decorative", True),
    ("moisture", "decorative", True),
    ("outdoor", "decorative", True),
    ("chemical", "decorative", True),
    ("load_across", "reduced", True),
    ("purpose", "reduced", True),
    ("character", "functional", False),
    ("clear", "functional", False),
    ("look", "functional", False),
    ("mass_g", "functional", False),
    ("print_h", "functional", False),
    ("runs", "functional", False),
)


def _hours_matter(recipe: Recipe, polymer: Polymer | None) -> bool:
    """Whether hours in service, were there many, would take the grade down."""
    brief = recipe.brief
    if polymer is None or brief.service_c is None:
        return False
    most = stands_for(brief, polymer, LONGEST_H)
    margin, wanted = margin_of(brief, polymer), wanted_margin(brief, LONGEST_H)
    ages = most is not None and brief.service_c > most
    return ages or (margin is not None and wanted is not None and margin.value < wanted)


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
        Question("brief.margin_k", recipe.brief.margin_k is not None, "functional", False),
        Question("brief.service_h", recipe.brief.service_h is not None, "reduced", _hours_matter(recipe, polymer)),
        Question(
            "polymer.long_service_c",
            polymer is not None and polymer.value("long_service_c") is not None,
            "reduced",
            (recipe.brief.service_h or 0.0) > AGES_FROM_H,
        ),
        Question("polymer.deflection", deflects, "decorative"),
        *(
            Question(f"polymer.{key}", polymer is not None and polymer.value(key) is not None, "functional", False)
            for key in _VALUES
        ),
    )
