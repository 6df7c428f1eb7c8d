"""A recipe in the shop's list, with what it is judged with."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.records.recipe import Recipe


@attrs.frozen(kw_only=True)
class RecipeCard:
    """A recipe with what is chosen for it: by kind of record, the id of one."""

    recipe: Recipe
    chosen: Mapping[str, str] = attrs.field(factory=dict, hash=False)  # machine, lot, dryer ...: id
    retired: bool = False
    extra: dict[str, Any] = attrs.field(factory=dict, hash=False)  # what a newer version keeps in its context
    beside: dict[str, Any] = attrs.field(factory=dict, hash=False)  # and beside recipe and context

    @property
    def machine(self) -> str | None:
        """The machine it is judged on."""
        return self.chosen.get("machine")

    @property
    def lot(self) -> str | None:
        """The lot it is printed from."""
        return self.chosen.get("lot")

    @property
    def nozzle(self) -> str | None:
        """The nozzle that it asks for; None for whichever is fitted."""
        return self.chosen.get("nozzle")

    @property
    def dryer(self) -> str | None:
        """The dryer that is planned for it."""
        return self.chosen.get("dryer")


def card_of(recipe: Recipe, *, retired: bool = False, **chosen: str | None) -> RecipeCard:
    """A card with what is chosen, as far as anything is.

    Parameters
    ----------
    recipe : Recipe
        Its settings [shop units]
    retired : bool
        Whether it is out of the lists [-]
    chosen : str or None
        By kind of record, the id of one [-]

    Returns
    -------
    RecipeCard
        The card [-]
    """
    return RecipeCard(recipe=recipe, chosen={kind: key for kind, key in chosen.items() if key}, retired=retired)
