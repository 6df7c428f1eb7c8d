"""What a run takes of filament and machine: the whole of it, or as far as it came before it was stopped."""

import attrs

from kaustos.core.estimates import CAUSES
from kaustos.core.records import Run

PURGE_G, HEAT_UP_H = CAUSES["purge"].value, CAUSES["heat_up"].value

CUT_SHORT = ("failed", "stopped")  # what came to a part took the whole, however long it ran


@attrs.frozen
class Booking:
    """What a run is booked with; None for what is not known."""

    share: float  # of the whole run [1]
    mass_g: float | None
    hours: float | None


def booking_of(run: Run) -> Booking:
    """Filament and hours that a run takes.

    Parameters
    ----------
    run : Run
        Filament of the whole run [g], its planned hours and those it ran until it was stopped [h]

    Returns
    -------
    Booking
        Filament [g] and hours [h]

    Notes
    -----
    A run that was stopped books its share of the time, of filament and hours alike, with what is purged and heated
    before any part begins; never more than the whole. Bottom layers and infill make the share of filament another
    than that of time, which only the job file tells.

    Examples
    --------
    >>> cut = Run(id="a", card="b", revision=1.0, mass_g=200.0, planned_h=10.0, ran_h=3.5, outcome="stopped")
    >>> booking_of(cut).mass_g
    75.0
    """
    whole_h = run.planned_h
    if run.outcome not in CUT_SHORT or run.ran_h is None or not whole_h:
        return Booking(1.0, run.mass_g, None if whole_h is None else whole_h + HEAT_UP_H)
    share = min(1.0, run.ran_h / whole_h)
    mass_g = None if run.mass_g is None else min(run.mass_g, share * run.mass_g + PURGE_G)
    return Booking(share, mass_g, share * whole_h + HEAT_UP_H)
