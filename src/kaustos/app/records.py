"""The records that are open for editing, and how a dotted path finds its place among them."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import KaustosError
from kaustos.core.records import Lot, Machine, Recipe, Rules
from kaustos.core.records.fields import value_at, with_value

Record = Recipe | Machine | Lot | Rules


@attrs.frozen(kw_only=True)
class RecipeCard:
    """A recipe with what it is judged with, as ids."""

    recipe: Recipe
    machine: str | None = None
    lot: str | None = None


@attrs.frozen(kw_only=True)
class Records:
    """Everything that edits can change: cards, machines and lots by id, the rules, and which card is open."""

    cards: Mapping[str, RecipeCard]
    machines: Mapping[str, Machine]
    lots: Mapping[str, Lot]
    rules: Rules = attrs.field(factory=Rules)
    current: str | None = None

    @property
    def card(self) -> RecipeCard:
        """The card that is open."""
        if self.current is None:
            raise KaustosError("No recipe is open.")
        return self.cards[self.current]

    def place(self, path: str) -> str:
        """The full place of a path as the open card sees it: kind, id and field."""
        head, _, rest = path.partition(".")
        if head == "context":
            return f"cards/{self.current}/{rest}"
        if head in ("machine", "lot"):
            chosen = getattr(self.card, head)
            if chosen is None:
                raise KaustosError(f"No {head} is chosen for this recipe.")
            return f"{head}s/{chosen}/{rest}"
        if head == "rules":
            return f"rules//{rest}"
        return f"cards/{self.current}/recipe.{path}"

    def at(self, place: str) -> object:
        """The value at a full place."""
        kind, key, field = place.split("/")
        record = self.rules if kind == "rules" else getattr(self, kind)[key]
        return value_at(record, field)

    def with_at(self, place: str, value: object) -> "Records":
        """These records with another value at a full place."""
        kind, key, field = place.split("/")
        if kind == "rules":
            return attrs.evolve(self, rules=with_value(self.rules, field, value))
        table = getattr(self, kind)
        changed: dict[str, Any] = {kind: {**table, key: with_value(table[key], field, value)}}
        return attrs.evolve(self, **changed)
