"""The records that are open for editing, and how a dotted path finds its place among them."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import KaustosError
from kaustos.core.records import Dryer, Lot, Machine, Recipe, Rules, Run
from kaustos.core.records.fields import value_at, with_value

HEADS = {"machines": "machine", "lots": "lot", "dryers": "dryer", "runs": "run", "rules": "rules"}


_NAMELESS = {"cards": "recipe", "machines": "machine", "lots": "lot", "dryers": "dryer", "runs": "run"}


def path_of(place: str) -> str:
    """The path by which a field is known wherever its record stands: runs/r7/note is run.note."""
    if "/" not in place:
        return place
    kind, _, field = place.split("/", 2)
    if kind == "cards":
        return field.removeprefix("recipe.") if field.startswith("recipe.") else f"context.{field}"
    return f"{HEADS[kind]}.{field}"


@attrs.frozen(kw_only=True)
class RecipeCard:
    """A recipe with what it is judged with, as ids."""

    recipe: Recipe
    machine: str | None = None
    lot: str | None = None
    dryer: str | None = None
    retired: bool = False


@attrs.frozen(kw_only=True)
class Records:
    """Everything that edits can change: records of each kind by id, the rules, and which card is open."""

    cards: Mapping[str, RecipeCard]
    machines: Mapping[str, Machine]
    lots: Mapping[str, Lot]
    dryers: Mapping[str, Dryer] = attrs.field(factory=dict)
    runs: Mapping[str, Run] = attrs.field(factory=dict)
    rules: Rules = attrs.field(factory=Rules)
    current: str | None = None

    @property
    def card(self) -> RecipeCard:
        """The card that is open."""
        if self.current is None:
            raise KaustosError("No recipe is open.")
        return self.cards[self.current]

    def place(self, path: str) -> str:
        """The full place of a path as the open card sees it: kind, id and field; a full place stays as it is."""
        if "/" in path:
            return path
        head, _, rest = path.partition(".")
        if head == "rules":
            return f"rules//{rest}"
        if self.current is None:
            raise KaustosError("No recipe is open.")
        if head == "context":
            return f"cards/{self.current}/{rest}"
        if head in ("machine", "lot", "dryer"):
            chosen = getattr(self.card, head)
            if chosen is None:
                raise KaustosError(f"No {head} is chosen for this recipe.")
            return f"{head}s/{chosen}/{rest}"
        return f"cards/{self.current}/recipe.{path}"

    def at(self, place: str) -> object:
        """The value at a full place; a place without a field is a whole record, None where there is none."""
        kind, key, *field = place.split("/", 2)
        if kind == "rules":
            return value_at(self.rules, field[0])
        record = getattr(self, kind).get(key)
        if field and record is None:
            raise KaustosError(f"There is no {_NAMELESS[kind]} {key!r:.60} any more.")
        return value_at(record, field[0]) if field else record

    def with_at(self, place: str, value: object) -> "Records":
        """These records with another value at a full place; None in the place of a whole record takes it away."""
        kind, key, *field = place.split("/", 2)
        if kind == "rules":
            return attrs.evolve(self, rules=with_value(self.rules, field[0], value))
        table = {each: record for each, record in getattr(self, kind).items() if each != key or field or value}
        if field:
            table[key] = with_value(table[key], field[0], value)
        elif value is not None:
            table[key] = value
        changed: dict[str, Any] = {kind: table}
        if kind == "cards" and self.current == key and key not in table:
            changed["current"] = next((each for each, card in table.items() if not card.retired), None)
        return attrs.evolve(self, **changed)

    def lots_of_grade(self, lot: str) -> list[str]:
        """Every lot of the grade that one is of."""
        return [key for key, each in self.lots.items() if each.grade == self.lots[lot].grade]

    def free_id(self, kind: str, name: str) -> str:
        """An id for a new record, made of its name."""
        plain = "".join(each if each.isalnum() else "_" for each in name.lower()).strip("_")[:60] or _NAMELESS[kind]
        found, count, taken = plain, 2, getattr(self, kind)
        while found in taken:
            found, count = f"{plain}_{count}", count + 1
        return found
