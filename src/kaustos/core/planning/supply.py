"""What must be ordered: filament of one grade and colour on the shelf and on its way, against what runs still take."""

import math
from collections.abc import Iterable, Mapping
from datetime import datetime, timedelta

import attrs

from kaustos.core.estimates import SPOOL
from kaustos.core.planning.ledger import MARGIN, ledger_of
from kaustos.core.records import Lot

SPOOL_G = SPOOL["spool_mass"].value


@attrs.frozen
class Supply:
    """Filament of one grade and colour, over all its lots; retired ones hold none, but more may be on its way."""

    lots: tuple[Lot, ...]
    not_weighed: tuple[Lot, ...]  # nobody knows how much is on them: counted as empty
    free_g: float
    coming_g: float
    wanted_g: float
    due: datetime | None  # when the latest order is to arrive, as far as its lead time is known

    @property
    def reorder_g(self) -> float:
        """The mark below which it is ordered again, the highest of its lots."""
        return max((lot.reorder_g or 0.0 for lot in self.lots), default=0.0)

    @property
    def lead_h(self) -> float | None:
        """The longest lead time of its lots."""
        return max((lot.lead_h for lot in self.lots if lot.lead_h is not None), default=None)

    @property
    def lead_words(self) -> str:
        """The lead time in days, or that it is not known."""
        return "an unknown time" if self.lead_h is None else f"{self.lead_h / 24.0:.0f} d"

    @property
    def order_g(self) -> float:
        """Filament on the spools that are to be ordered."""
        return self.spools * self.spool_g

    @property
    def spool_g(self) -> float:
        """Filament on a spool as it is sold."""
        return next((lot.net_g for lot in reversed(self.lots) if lot.net_g), SPOOL_G)

    @property
    def short_g(self) -> float:
        """What the runs still wanted take beyond what is free and on its way."""
        return max(0.0, self.wanted_g - self.free_g - self.coming_g)

    @property
    def spools(self) -> int:
        """Whole spools [1] that bring what is left after the runs still wanted to the mark again."""
        lacking = self.wanted_g + self.reorder_g - self.free_g - self.coming_g
        return max(0, math.ceil(lacking / self.spool_g - 1e-9))


def grams_wanted(runs: float | None, done: int, mass_g: float | None) -> float:
    """Filament that the runs of a recipe still take.

    Parameters
    ----------
    runs : float or None
        Good runs wanted in all [-]
    done : int
        Good ones in the log [-]
    mass_g : float or None
        What one takes with anchor and purge [g]

    Returns
    -------
    float
        With the margin that one run is planned with [g]

    Examples
    --------
    >>> grams_wanted(12.0, 2, 100.0)
    1050.0
    """
    return max(0.0, (runs or 0.0) - done) * (mass_g or 0.0) * (1.0 + MARGIN)


def lots_alike(lots: Iterable[Lot]) -> dict[tuple[str | None, str, str], list[Lot]]:
    """The lots of each polymer, grade and colour, the newest last.

    Parameters
    ----------
    lots : iterable of Lot
        Of the shop, in the order in which they came [-]

    Returns
    -------
    dict
        By polymer, grade and colour [-]
    """
    found: dict[tuple[str | None, str, str], list[Lot]] = {}
    for lot in lots:
        found.setdefault((lot.polymer, lot.grade, lot.colour), []).append(lot)
    return found


def supply_of(lot: Lot, lots: Iterable[Lot], taken_g: Mapping[str, float], wanted_g: Mapping[str, float]) -> Supply:
    """The supply that a lot belongs to: every lot of its polymer, grade and colour.

    Parameters
    ----------
    lot : Lot
        Any lot of it [-]
    lots : iterable of Lot
        All of the shop, the retired ones too, this one among them or not [-]
    taken_g : mapping of str to float
        By lot, by runs since it was weighed [g]
    wanted_g : mapping of str to float
        By lot, by runs still to come [g]

    Returns
    -------
    Supply
        Free, on its way, wanted [g]

    Notes
    -----
    An order is on its way until a lot of the same grade and colour is received after it was placed.
    """
    alike = tuple(each for each in (*(each for each in lots if each.id != lot.id), lot) if _is_alike(each, lot))
    known = {each.id: ledger_of(each, taken_g.get(each.id, 0.0)) for each in alike}
    ordered = [each for each in alike if each.ordered_g and each.ordered_utc and not _arrived(each, alike)]
    dates = [_moment(each.ordered_utc) + timedelta(hours=each.lead_h) for each in ordered if each.lead_h is not None]
    return Supply(
        lots=alike,
        not_weighed=tuple(each for each in alike if known[each.id] is None),
        free_g=sum(ledger.free_g for ledger in known.values() if ledger),
        coming_g=sum(each.ordered_g or 0.0 for each in ordered),
        wanted_g=sum(wanted_g.get(each.id, 0.0) for each in alike),
        due=max(dates, default=None),
    )


def order_changes(found: Supply, lot: str, grams: float, at_utc: str) -> dict[str, float | str | None]:
    """What is set where more is ordered: one note for the whole supply, with what is on its way already.

    Parameters
    ----------
    found : Supply
        Whose lots may carry notes of earlier orders [g]
    lot : str
        The lot that carries the note from now on [-]
    grams : float
        Ordered now [g]
    at_utc : str
        The moment, ISO 8601 [-]

    Returns
    -------
    dict
        Full places with their new values [g]
    """
    others: dict[str, float | str | None] = {
        f"lots/{each.id}/ordered_g": None for each in found.lots if each.ordered_g and each.id != lot
    }
    return others | {f"lots/{lot}/ordered_g": found.coming_g + grams, f"lots/{lot}/ordered_utc": at_utc}


def _is_alike(one: Lot, other: Lot) -> bool:
    return (one.polymer, one.grade, one.colour) == (other.polymer, other.grade, other.colour)


def _arrived(ordered: Lot, alike: Iterable[Lot]) -> bool:
    placed = _moment(ordered.ordered_utc)
    return any(each.received_utc and _moment(each.received_utc) > placed for each in alike)


def _moment(stamp_utc: str) -> datetime:
    return datetime.fromisoformat(stamp_utc)
