"""The state that a part will have: annealed is what a programme leaves, not what a brief claims."""

import attrs

from kaustos.core.estimates import ANNEAL
from kaustos.core.memo import by_identity
from kaustos.core.records import Polymer, Recipe


def is_annealed(recipe: Recipe, polymer: Polymer | None) -> bool:
    """Whether the steps of a recipe anneal at all.

    Parameters
    ----------
    recipe : Recipe
        With its steps [°C, h]
    polymer : Polymer or None
        With its glass transition [°C]

    Returns
    -------
    bool
        False without a hold that is near enough to the glass transition for long enough, and where that transition is
        not known [-]

    Notes
    -----
    The least of practice, well under any usual programme: how much a programme leaves is the anneal's own question.
    """
    glass = polymer.value("glass_transition_c") if polymer is not None else None
    if glass is None:
        return False
    hot = glass.value - ANNEAL["counts_below"].value
    held = [each.hold_h or 0.0 for each in recipe.anneal.steps if (each.temperature_c or -300.0) >= hot]
    return sum(held) >= ANNEAL["counts_from"].value


def as_it_will_be(recipe: Recipe, polymer: Polymer | None) -> Recipe:
    """The recipe with the heat history that its part will have.

    Parameters
    ----------
    recipe : Recipe
        With the history that its brief claims [-]
    polymer : Polymer or None
        Of the part [°C]

    Returns
    -------
    Recipe
        The same object where the claim holds [-]
    """
    return recipe if recipe.brief.history != "annealed" or is_annealed(recipe, polymer) else _as_printed(recipe)


@by_identity(64)
def _as_printed(recipe: Recipe) -> Recipe:
    return attrs.evolve(recipe, brief=attrs.evolve(recipe.brief, history="as_printed"))
