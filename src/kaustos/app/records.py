"""The records that are open for editing, and how a path finds its place among them."""

from collections.abc import Container, Mapping
from typing import Any

import attrs

from kaustos.app.polymers import Polymers, polymers_with
from kaustos.core.errors import KaustosError
from kaustos.core.planning.loading import fitted_on
from kaustos.core.records import (
    BY_MANY,
    BY_ONE,
    CHOSEN,
    KINDS,
    RULES,
    Calibration,
    Dryer,
    Lot,
    Machine,
    Nozzle,
    OwnPolymer,
    Place,
    Recipe,
    RecipeCard,
    Rules,
    Run,
    Upgrade,
    spelled,
)
from kaustos.core.records.fields import declaration, value_at, with_value

Address = str | Place  # a path as the open recipe sees it, a full spelling, or the place itself
_CHOSEN = frozenset(kind.one for kind in CHOSEN)


def path_of(address: Address) -> str:
    """The path by which a field is known wherever its record stands."""
    place = address if isinstance(address, Place) else spelled(address)
    return str(address) if place is None else place.path


@attrs.frozen(kw_only=True)
class Records:
    """Everything that edits can change: records of each kind by id, the rules, and which card is open."""

    tables: Mapping[str, Mapping[str, Any]]
    rules: Rules = attrs.field(factory=Rules)
    current: str | None = None
    foreign: Mapping[str, Mapping[str, Any]] = attrs.field(factory=dict)  # documents of kinds of a newer version

    @classmethod
    def of(cls, *, rules: Rules | None = None, current: str | None = None, **tables: Mapping[str, Any]) -> "Records":
        """Records of some kinds, none of the others."""
        whole = {kind.many: tables.get(kind.many, {}) for kind in KINDS}
        return cls(tables=whole, rules=rules or Rules(), current=current)

    def with_tables(self, **tables: Mapping[str, Any]) -> "Records":
        """These records with whole tables in the place of others."""
        return attrs.evolve(self, tables={**self.tables, **tables})

    @property
    def cards(self) -> Mapping[str, RecipeCard]:
        """Recipes by id."""
        return self.tables["cards"]

    @property
    def machines(self) -> Mapping[str, Machine]:
        """Machines by id."""
        return self.tables["machines"]

    @property
    def lots(self) -> Mapping[str, Lot]:
        """Lots by id."""
        return self.tables["lots"]

    @property
    def dryers(self) -> Mapping[str, Dryer]:
        """Dryers by id."""
        return self.tables["dryers"]

    @property
    def nozzles(self) -> Mapping[str, Nozzle]:
        """Nozzles by id."""
        return self.tables["nozzles"]

    @property
    def calibrations(self) -> Mapping[str, Calibration]:
        """Calibrations of machines by id."""
        return self.tables["calibrations"]

    @property
    def upgrades(self) -> Mapping[str, Upgrade]:
        """Changes of machines by id."""
        return self.tables["upgrades"]

    @property
    def runs(self) -> Mapping[str, Run]:
        """Runs by id."""
        return self.tables["runs"]

    @property
    def own_polymers(self) -> Mapping[str, OwnPolymer]:
        """The shop's own polymers by id."""
        return self.tables["own_polymers"]

    @property
    def polymers(self) -> Polymers:
        """Every polymer that can be chosen: those of the library, and the shop's own."""
        return polymers_with(self.own_polymers)

    @property
    def card(self) -> RecipeCard:
        """The card that is open."""
        if self.current is None:
            raise KaustosError("No recipe is open.")
        return self.cards[self.current]

    def chosen(self, card: RecipeCard) -> dict[str, Any]:
        """What a card is judged with, by kind; a nozzle that it does not ask for is the fitted one."""
        found = {kind.one: self.tables[kind.many].get(card.chosen.get(kind.one, "")) for kind in CHOSEN}
        if found["nozzle"] is None and card.machine:
            in_use = (each for each in self.nozzles.values() if not each.retired)
            found["nozzle"] = fitted_on(in_use, card.machine)
        return {one: record for one, record in found.items() if record is not None}

    def seen_by(self, card: str | None) -> "Records":
        """The records with a recipe open, as they are where none is named; refused where that recipe is gone."""
        if card is None or card == self.current:
            return self
        if card not in self.cards:
            raise KaustosError(f"The recipe {card!r:.60} that this was asked for is gone; nothing was changed.")
        return attrs.evolve(self, current=card)

    def place(self, address: Address) -> Place:
        """The place of an address as the open card sees it."""
        if isinstance(address, Place):
            return address
        full = spelled(address)
        if full is not None:
            return full
        head, _, rest = address.partition(".")
        if head == RULES:
            return Place(RULES, "", rest)
        if self.current is None:
            raise KaustosError("No recipe is open.")
        if head == "context":
            return Place("cards", self.current, rest)
        if head in _CHOSEN and rest and declaration(Recipe, address) is None:
            chosen = self.card.chosen.get(head)
            if chosen is None and head in self.chosen(self.card):
                chosen = self.chosen(self.card)[head].id
            if chosen is None:
                raise KaustosError(f"No {head} is chosen for this recipe.")
            return Place(BY_ONE[head].many, chosen, rest)
        return Place("cards", self.current, f"recipe.{address}")

    def at(self, place: Place) -> object:
        """The value at a place; a place without a field is a whole record, None where there is none."""
        if place.kind == RULES:
            return value_at(self.rules, place.field)
        record = self.tables[place.kind].get(place.key)
        if place.field and record is None:
            raise KaustosError(f"There is no {BY_MANY[place.kind].title} {place.key!r:.60} any more.")
        return value_at(record, place.inside) if place.field else record

    def with_all(self, values: Mapping[Place, object]) -> "Records":
        """These records with other values at places, each table copied once; None for a whole record takes it away."""
        rules = self.rules
        tables: dict[str, dict[str, Any]] = {}
        for place, value in values.items():
            if place.kind == RULES:
                rules = with_value(rules, place.field, value)
                continue
            table = tables.setdefault(place.kind, dict(self.tables[place.kind]))
            if place.field:
                table[place.key] = with_value(table[place.key], place.inside, value)
            elif value is not None:
                table[place.key] = value
            else:
                table.pop(place.key, None)
        current, cards = self.current, tables.get("cards")
        if cards is not None and current is not None and current not in cards:
            current = next((each for each, card in cards.items() if not card.retired), None)
        return attrs.evolve(self, tables={**self.tables, **tables}, rules=rules, current=current)

    def lots_of_grade(self, lot: str) -> list[str]:
        """Every lot of the grade that one is of."""
        return [key for key, each in self.lots.items() if each.grade == self.lots[lot].grade]

    def free_id(self, kind: str, name: str) -> str:
        """An id for a new record, made of its name."""
        return free_key(self.tables[kind], name, BY_MANY[kind].title)


def free_key(taken: Container[str], name: str, nameless: str) -> str:
    """A key that is not taken, made of a name."""
    plain = "".join(each if each.isalnum() else "_" for each in name.lower()).strip("_")[:60] or nameless
    found, count = plain, 2
    while found in taken:
        found, count = f"{plain}_{count}", count + 1
    return found
