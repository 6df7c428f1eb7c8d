"""What is known of a lot at this moment: how much is left and for what, how wet it is, what its strand told."""

import attrs

from kaustos.app.indexes import mass_of
from kaustos.app.records import Records
from kaustos.app.wording import when_words
from kaustos.app.workspace import Workspace
from kaustos.core.planning.drying import water_of
from kaustos.core.planning.history import moisture_now, was_somewhere
from kaustos.core.planning.ledger import Ledger, ledger_of, runs_that_fit
from kaustos.core.planning.strand import strand_that_tells, verdict_of
from kaustos.core.records import (
    STRAND_SIGNS,
    Lot,
    Polymer,
    with_own_values,
)
from kaustos.core.review.contract import Estimate
from kaustos.core.review.stock.desiccant import USUAL, desiccant_due, desiccant_lasts
from kaustos.library import load


@attrs.frozen
class LotState:
    """A lot at a moment: filament left, its worth, its moisture with a band, and whether it may be printed."""

    ledger: Ledger | None
    worth: float | None
    moisture: tuple[float, float, float] | None  # likely, least, most [%]
    limit: float | None
    is_logged: bool  # whether it is known where it was since it left its pack

    @property
    def left_g(self) -> float | None:
        """What may be taken of it [g]."""
        return self.ledger.free_g if self.ledger else None

    @property
    def word(self) -> str:
        """unknown, dry, wet or doubtful."""
        if self.moisture is None or self.limit is None or not self.is_logged:
            return "unknown"
        _, low, high = self.moisture
        return "dry" if high <= self.limit else "wet" if low > self.limit else "doubtful"


def polymer_of_lot(records: Records, lot: Lot) -> Polymer | None:
    """The polymer as this lot is known."""
    generic = records.polymers.get(lot.polymer or "")
    return with_own_values(generic, lot) if generic else None


def state_of(workspace: Workspace, lot: Lot) -> LotState:
    """What is known of a lot now."""
    polymer = polymer_of_lot(workspace.draft.records, lot)
    price = polymer.value("price_per_kg") if polymer else None
    limit = polymer.value("moisture_limit_pct") if polymer else None
    ledger = ledger_of(lot, workspace.shop().taken_g.get(lot.id, 0.0))
    worth = None if price is None or ledger is None else price.value * ledger.free_g / 1000.0
    water = water_of(polymer)
    moisture = None
    if water is not None:
        now = workspace.clock().replace(second=0, microsecond=0)
        state = moisture_now(lot, water, workspace.draft.records.rules, now, limit.value if limit else None)
        moisture = (state.band[0], state.best, state.worst)
    return LotState(ledger, worth, moisture, limit.value if limit else None, was_somewhere(lot))


def desiccant_day(workspace: Workspace, lot: Lot) -> Estimate | None:
    """The day on which the desiccant of a lot's dry box is changed, a dry spool in it; None where none is logged."""
    takes = load().supplies.desiccants[USUAL].takes
    due = desiccant_due(lot.desiccant_utc, desiccant_lasts(workspace.draft.records.rules, takes, 0.0), None)
    return due if isinstance(due, Estimate) else None


def jobs_that_fit(workspace: Workspace, lot: Lot) -> tuple[tuple[str, float], ...]:
    """How many runs of each recipe for its polymer the rest of a lot is enough for, most first."""
    left = state_of(workspace, lot).left_g
    records = workspace.draft.records
    cards = [card for card in records.cards.values() if card.recipe.polymer == lot.polymer]
    if left is None:
        return ()
    masses = [(card.recipe.name, mass_of(card, records)) for card in cards]
    found = [(name, runs_that_fit(left, mass_g)) for name, mass_g in masses if mass_g]
    return tuple(sorted(found, key=lambda pair: -pair[1]))


def strand_shows(records: Records, lot: Lot) -> bool:
    """Whether a strand of a lot can tell anything: not of a polymer that shows nothing until layers part."""
    polymer = polymer_of_lot(records, lot)
    return polymer is None or bool(polymer.wet_signs)


def strand_words(workspace: Workspace, lot: Lot) -> str:
    """What the newest strand of a lot told, and whether it still does; the signs of its polymer where there is none."""
    polymer = polymer_of_lot(workspace.draft.records, lot)
    if not strand_shows(workspace.draft.records, lot):
        return "A wet melt of this polymer shows nothing until layers part: weigh the spool."
    if not lot.strands:
        return f"A wet melt shows {polymer.wet_signs}." if polymer else ""
    newest = lot.strands[-1]
    signs = ", ".join(STRAND_SIGNS[each].lower() for each in newest.signs) or "no signs"
    words = f"{when_words(newest.at_utc)}: {signs}, {verdict_of(newest.signs)}"
    return words if strand_that_tells(lot, polymer) else f"{words}; it has been in a dryer since"
