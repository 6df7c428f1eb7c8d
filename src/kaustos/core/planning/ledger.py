"""What of a spool is left, what runs have taken since it was weighed, and what is put aside."""

from collections.abc import Iterable, Mapping
from datetime import datetime

import attrs

from kaustos.core.estimates import SPOOL
from kaustos.core.planning.booking import booking_of
from kaustos.core.records import Lot, Polymer, Run, with_own_values
from kaustos.core.records.nozzle import Fed, band_of

RUN_SPREAD = SPOOL["mass_spread"].value
MARGIN = SPOOL["mass_margin"].value


@attrs.frozen
class Ledger:
    """Filament of one lot [g]."""

    weighed_g: float
    taken_g: float
    put_aside_g: float

    @property
    def free_g(self) -> float:
        """What a run may take; nothing where more is spoken for than is there."""
        return max(0.0, self.weighed_g - self.taken_g - self.put_aside_g)


def ledger_of(lot: Lot, taken_g: float) -> Ledger | None:
    """Weighed, taken and put aside.

    Parameters
    ----------
    lot : Lot
        Weighings, empty spool and reserves [g]
    taken_g : float
        What runs took since the last weighing, from ``taken_by_runs`` [g]

    Returns
    -------
    Ledger or None
        Nothing in a retired one; None where it was opened and never weighed, or its empty spool is not known [g]
    """
    if lot.retired:
        return Ledger(0.0, 0.0, 0.0)
    weighed = lot.weighed_g
    return None if weighed is None else Ledger(weighed, taken_g, sum(each.grams or 0.0 for each in lot.reserves))


def taken_by_runs(lots: Mapping[str, Lot], runs: Iterable[Run]) -> dict[str, float]:
    """Filament that runs took of each lot since it was last weighed.

    Parameters
    ----------
    lots : mapping of str to Lot
        By id, with their weighings [g]
    runs : iterable of Run
        The log, with the filament that each takes [g]

    Returns
    -------
    dict of str to float
        By lot [g]

    Notes
    -----
    A run counts whole from its start until the spool is weighed again; one that was stopped counts as far as it ran,
    where that is recorded: a spool that holds more than was thought costs less than one that ends too soon.
    """
    weighed = {key: _last_weighed(lot) for key, lot in lots.items()}
    taken: dict[str, float] = {}
    for run in runs:
        booked_g = booking_of(run).mass_g
        if booked_g and run.lot in weighed and run.started_utc and not run.retired:
            since = weighed[run.lot]
            if since is None or datetime.fromisoformat(run.started_utc) > since:
                taken[run.lot] = taken.get(run.lot, 0.0) + booked_g
    return taken


def _last_weighed(lot: Lot) -> datetime | None:
    times = [datetime.fromisoformat(each.at_utc) for each in lot.weighings if each.at_utc and each.gross_g is not None]
    return max(times, default=None)


def runs_that_fit(free_g: float, mass_g: float) -> float:
    """How many runs some filament is enough for, with a margin.

    Parameters
    ----------
    free_g : float
        Filament that may be taken [g]
    mass_g : float
        What a run takes with anchor and purge [g]

    Returns
    -------
    float
        Runs, not rounded [-]

    Examples
    --------
    >>> round(runs_that_fit(1050.0, 100.0), 6)
    10.0
    """
    return free_g / (mass_g * (1.0 + MARGIN))


def fed_by_runs(runs: Iterable[Run], lots: Mapping[str, Lot], polymers: Mapping[str, Polymer]) -> tuple[Fed, ...]:
    """Filament that runs fed through the nozzle they ran with.

    Parameters
    ----------
    runs : iterable of Run
        Of one nozzle, with the filament that each takes [g]
    lots : mapping of str to Lot
        By id, with their fillers [-]
    polymers : mapping of str to Polymer
        By id, with how they wear a nozzle [1]

    Returns
    -------
    tuple of Fed
        In the order of the log [g]
    """
    found = []
    for run in runs:
        grams, polymer = booking_of(run).mass_g, polymers.get(run.polymer or "")
        if grams and not run.retired:
            known = with_own_values(polymer, lots.get(run.lot or "")).value("abrasion") if polymer else None
            found.append(Fed(run.started_utc, grams, band_of(known)))
    return tuple(found)
