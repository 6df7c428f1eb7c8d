"""What is looked up often, made once a change: runs by recipe, what recipes still want, which records changed."""

from collections.abc import Iterable, Mapping
from typing import Any

import attrs

from kaustos.core.planning.supply import grams_wanted
from kaustos.core.records import RecipeCard, Run


def changed_keys(before: Mapping[str, Any], after: Mapping[str, Any]) -> tuple[str, ...] | None:
    """Keys under which another record stands than before; None where keys came or went."""
    if before is after:
        return ()
    if len(before) != len(after) or any(one != other for one, other in zip(before, after, strict=True)):
        return None
    pairs = zip(before, before.values(), after.values(), strict=True)
    return tuple(key for key, old, new in pairs if old is not new)


@attrs.frozen
class _Wish:
    """What the runs still to come of one recipe take of its lot [g]."""

    card: RecipeCard
    done: int
    lot: str
    grams: float


class Indexes:
    """Look-ups over the tables of a workspace, each made anew when its table is another one."""

    def __init__(self) -> None:
        self._runs: tuple[object, dict[str, list[Run]]] = (None, {})
        self._wishes: dict[str, _Wish] = {}

    def runs_of(self, runs: Mapping[str, Run], card: str) -> list[Run]:
        """The runs of a recipe."""
        if self._runs[0] is not runs:
            found: dict[str, list[Run]] = {}
            for run in runs.values():
                found.setdefault(run.card, []).append(run)
            self._runs = (runs, found)
        return self._runs[1].get(card, [])

    def wanted_by_lot(
        self, cards: Mapping[str, RecipeCard], done: Mapping[str, int], without: str | None = None
    ) -> dict[str, float]:
        """What the runs still to come take of each lot [g], those of one recipe left out."""
        self._bring_up(cards, done)
        wanted: dict[str, float] = {}
        for key, wish in self._wishes.items():
            if wish.grams and key != without:
                wanted[wish.lot] = wanted.get(wish.lot, 0.0) + wish.grams
        return wanted

    def _bring_up(self, cards: Mapping[str, RecipeCard], done: Mapping[str, int]) -> None:
        wishes = self._wishes
        if len(wishes) != len(cards) or wishes.keys() != cards.keys():
            wishes = {}
        self._wishes = {
            key: wish
            if (wish := wishes.get(key)) is not None and wish.card is card and wish.done == done.get(key, 0)
            else _wish(card, done.get(key, 0))
            for key, card in cards.items()
        }


def _wish(card: RecipeCard, done: int) -> _Wish:
    brief = card.recipe.brief
    counts = brief.runs and card.lot and not card.retired
    return _Wish(card, done, card.lot or "", grams_wanted(brief.runs, done, brief.mass_g) if counts else 0.0)


def named(cards: Iterable[tuple[str, RecipeCard]]) -> list[tuple[str, str]]:
    """Names and ids of recipes, by name as a person looks for them."""
    found = [(card.recipe.name or "Unnamed recipe", key) for key, card in cards]
    return sorted(found, key=lambda each: each[0].lower())
