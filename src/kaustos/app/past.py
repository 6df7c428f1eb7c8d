"""What is known of a recipe beside its settings: oven loads, evidence, parts in service, what its runs prove.

Tables are gone through once while they are the same, whichever recipe is asked for.
"""

from collections.abc import Mapping
from typing import Any

from kaustos.app.indexes import OfRuns
from kaustos.app.records import Records
from kaustos.core.memo import by_identity
from kaustos.core.planning.shape_classes import shape_classes
from kaustos.core.records import OvenLoad, Proof, ServicePart
from kaustos.core.review import Past

_KEPT = 8
Groups = Mapping[str, tuple[Any, ...]]


@by_identity(_KEPT)
def _grouped(table: Mapping[str, Any], by: str, moment: str, only: str) -> Groups:
    """Records in use by one of their fields, the newest first; of one moment the later entry first."""
    found: dict[str, list[Any]] = {}
    for each in [*table.values()][::-1]:
        if not each.retired and (not only or each.sort == only):
            found.setdefault(getattr(each, by) or "", []).append(each)
    return {key: tuple(sorted(mine, key=lambda each: str(getattr(each, moment)), reverse=True))
            for key, mine in found.items()}  # fmt: skip


def loads_of(records: Records) -> tuple[OvenLoad, ...]:
    """Loads of an oven with parts of the open recipe, the newest first."""
    return _grouped(records.tables["loads"], "card", "started_utc", "").get(records.current or "", ())


def proofs_of(records: Records) -> tuple[Proof, ...]:
    """Evidence of the open recipe, and dead ends of its polymer, the newest first."""
    table, polymer = records.tables["proofs"], records.card.recipe.polymer or ""
    mine = _grouped(table, "card", "at_utc", "").get(records.current or "", ())
    dead = _grouped(table, "polymer", "at_utc", "dead_end").get(polymer, ())
    others = tuple(each for each in dead if each.card != records.current)
    return tuple(sorted((*mine, *others), key=lambda each: each.at_utc, reverse=True)) if others else mine


def services_of(records: Records) -> tuple[ServicePart, ...]:
    """Parts of the open recipe's polymer in service."""
    return _grouped(records.tables["services"], "polymer", "in_utc", "").get(records.card.recipe.polymer or "", ())


def past_of(records: Records, log: OfRuns) -> Past:
    """What the runs of the open recipe prove."""
    card, machine = records.card, records.card.machine
    every = [each for each in log.by_card.get(records.current or "", ()) if each.is_ended and not each.retired]
    ended = [each for each in every if each.filament != "wet"]
    good = [each for each in ended if each.outcome == "good"]
    here = [each for each in log.by_machine.get(machine or "", ())
            if each.outcome == "good" and not each.retired and each.polymer == card.recipe.polymer]  # fmt: skip
    return Past(
        good=len(good), ended=len(ended), wet=len(every) - len(ended),
        shapes=shape_classes(good),
        lots=frozenset(each.lot for each in good if each.lot),
        last_good_utc=max((each.started_utc for each in good if each.machine == machine), default=""),
        climbed=frozenset(each.shape for each in here if each.shape),
    )  # fmt: skip
