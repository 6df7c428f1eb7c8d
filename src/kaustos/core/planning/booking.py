"""What a run takes of filament and machine: the whole of it, or as far as it came before it was stopped."""

import attrs

from kaustos.core.estimates import CAUSES
from kaustos.core.planning.run_course import share_fed
from kaustos.core.records import Run

PURGE_G, HEAT_UP_H = CAUSES["purge"].value, CAUSES["heat_up"].value

CUT_SHORT = ("failed", "stopped")  # what came to a part took the whole, however long it ran


@attrs.frozen
class Booking:
    """What a run is booked with; None for what is not known."""

    share: float  # of the time of the whole run [1]
    fed: float  # of its filament [1]
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
    A run that ended early books the hours it ran and what its file had fed by then, with what is purged and heated
    before any part begins; never more than the whole. Without a file filament is taken to spread as time does.

    Examples
    --------
    >>> cut = Run(id="a", card="b", revision=1.0, mass_g=200.0, planned_h=10.0, ran_h=3.5, outcome="stopped")
    >>> booking_of(cut).mass_g
    75.0
    """
    whole_h = run.planned_h
    if run.outcome not in CUT_SHORT or run.ran_h is None or not whole_h:
        hours = run.ran_h if run.ran_h is not None else whole_h
        return Booking(1.0, 1.0, run.mass_g, None if hours is None else hours + HEAT_UP_H)
    share = min(1.0, run.ran_h / whole_h)
    fed = share_fed(run, share)
    mass_g = None if run.mass_g is None else min(run.mass_g, fed * run.mass_g + PURGE_G)
    return Booking(share, fed, mass_g, run.ran_h + HEAT_UP_H)
