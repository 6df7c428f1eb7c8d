"""The address of a field of a record: which kind, which one, which field. Made once, where a path comes in."""

from typing import Any

import attrs

from kaustos.core.records.fields import declaration
from kaustos.core.records.kinds import BY_MANY, BY_ONE, CHOSEN, KINDS
from kaustos.core.records.recipe import Recipe
from kaustos.core.records.rules import Rules

RULES = "rules"
_CHOICE = {kind.one for kind in CHOSEN}


@attrs.frozen
class Place:
    """One field of one record; without a field the whole record. The shop's rules are one record without an id."""

    kind: str  # many of a kind, or rules
    key: str
    field: str = ""

    def __str__(self) -> str:
        """As it is spelled in the history and in remedies."""
        return f"{self.kind}/{self.key}/{self.field}" if self.field else f"{self.kind}/{self.key}"

    @property
    def path(self) -> str:
        """The path by which the field is known wherever its record stands: runs/r7/note is run.note."""
        if self.kind == "cards":
            return self.field.removeprefix("recipe.") if self.field.startswith("recipe.") else f"context.{self.field}"
        return f"{self.head}.{self.field}"

    @property
    def head(self) -> str:
        """One of its kind."""
        return RULES if self.kind == RULES else BY_MANY[self.kind].one

    @property
    def inside(self) -> str:
        """Where the value stands in the record itself."""
        return f"chosen.{self.field}" if self.kind == "cards" and self.field in _CHOICE else self.field


def spelled(text: str) -> Place | None:
    """The place that a full spelling names, None for a path of the open recipe.

    Parameters
    ----------
    text : str
        kind/id/field, kind/id, or a dotted path [-]

    Returns
    -------
    Place or None
        Its parts; an id may hold slashes where a field follows [-]

    Examples
    --------
    >>> str(spelled("lots/a/stays")), spelled("melt.nozzle_c")
    ('lots/a/stays', None)
    """
    kind, slash, rest = text.partition("/")
    if not slash:
        return None
    key, slash, field = rest.rpartition("/")
    return Place(kind, key, field) if slash else Place(kind, field)


def declared(path: str) -> "attrs.Attribute[Any] | None":
    """The declaration of the field that a path names, None where there is none.

    Parameters
    ----------
    path : str
        As in ``Place.path`` [-]

    Returns
    -------
    attrs.Attribute or None
        With what the field may hold [-]
    """
    head, _, rest = path.partition(".")
    if head == RULES:
        return declaration(Rules, rest)
    own = declaration(Recipe, path)  # a section of the recipe may be called like a kind: its own fields win
    return declaration(BY_ONE[head].record, rest) if own is None and head in BY_ONE and rest else own


__all__ = ["KINDS", "RULES", "Place", "declared", "spelled"]
