"""What the brief asks for, and the worst grade that each answer could bring."""

import attrs

from kaustos.core.records import Polymer, Recipe
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.records.quantities import QUANTITIES
from kaustos.core.records.recipe import Brief
from kaustos.core.review.brief.codes import BY_CODE
from kaustos.core.review.brief.part import part_questions
from kaustos.core.review.brief.service import (
    AGES_FROM_H,
    LONGEST_H,
    is_beyond,
    margin_of,
    softening_of,
    stands_for,
    wanted_margin,
)
from kaustos.core.review.brief.suiting import reasons_for
from kaustos.core.review.contract import GRADES, Context, worst_of
from kaustos.core.review.making import Question

_FACTS = {  # what the part meets, and the worst grade that any value could bring while the service is not known
    "service_c": "decorative", "stress_mpa": "decorative", "history": "decorative", "moisture": "decorative",
    "outdoor": "decorative", "chemical": "decorative", "load_across": "reduced", "purpose": "reduced",
}  # fmt: skip
_WISHES = ("character", "clear", "look", "margin_k", *HANDLINGS)  # where nothing is said nothing is wished
_AMOUNTS = ("mass_g", "runs", "size_x_mm", "size_y_mm", "size_z_mm")  # of a run, not of the part


def _worst_of(recipe: Recipe, polymer: Polymer | None, name: str) -> str:
    """The worst grade that a fact could bring: of every value that it may have, tried with all that is known."""
    brief = recipe.brief
    if polymer is None or brief.service_c is None or getattr(brief, name) is not None:
        return _FACTS[name]
    if name == "purpose" and (brief.history == "annealed" or recipe.anneal.steps):
        return "reduced"  # where much hangs on it an anneal is judged by its unlucky end
    meta = attrs.fields_dict(Brief)[name].metadata
    values = tuple(meta["choices"]) if "choices" in meta else (True, False)
    values = (QUANTITIES[meta["quantity"]].high,) if "quantity" in meta else values
    reasons = (each for value in values for each in reasons_for(attrs.evolve(brief, **{name: value}), polymer))
    caps = (BY_CODE[each.code].cap_of("watch" if each.verdict == "mind" else "") for each in reasons if each.code)
    return worst_of(tuple(cap for cap in caps if cap), GRADES) or GRADES[-1]


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
    deflects = softening_of(recipe.brief, polymer) is not None and not is_beyond(recipe.brief, polymer)
    return (
        Question("polymer", polymer is not None, "no_go"),
        *(
            Question(f"brief.{name}", getattr(recipe.brief, name) is not None, _worst_of(recipe, polymer, name))
            for name in _FACTS
        ),
        *(
            Question(f"brief.{name}", getattr(recipe.brief, name) is not None, GRADES[-1], False)
            for name in _WISHES + _AMOUNTS
        ),
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
        *part_questions(recipe, context),
    )
