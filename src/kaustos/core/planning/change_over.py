"""From one polymer to another through a hot end: at which heat the new one is fed, and how much flushes the old."""

import math
from collections.abc import Iterable

import attrs

from kaustos.core.estimates import MELT
from kaustos.core.planning.melting import flows_from
from kaustos.core.records import Polymer

DECOMPOSES = "decomposition_c"


@attrs.frozen(kw_only=True)
class ChangeOver:
    """How one polymer follows another."""

    old: str
    new: str
    load_c: float | None  # at which the new one is fed against the old one
    low_c: float  # common window
    high_c: float
    purge_g: float
    purge_mm: float  # of filament
    between: tuple[str, ...]  # polymers that lead over where there is no common window
    order: tuple[str, ...]

    @property
    def is_possible(self) -> bool:
        """Whether one heat melts both and burns neither."""
        return self.low_c <= self.high_c


def change_over(
    old: Polymer, new: Polymer, others: Iterable[Polymer], zone_mm: float, strand_mm: float, reach_c: float | None
) -> ChangeOver | None:
    """How a polymer follows another through a hot end.

    Parameters
    ----------
    old : Polymer
        That was in it last [°C]
    new : Polymer
        That is to be printed [°C]
    others : iterable of Polymer
        What the shop could lead over with [°C]
    zone_mm : float
        Heated length [mm]
    strand_mm : float
        Diameter of the filament [mm]
    reach_c : float or None
        Hottest that the machine is safe to be set to; None where that is not known [°C]

    Returns
    -------
    ChangeOver or None
        None where a window is not known [°C, g]

    Notes
    -----
    Common is what lies well above where both begin to flow, and below both likely starts of decomposition. A rubbery
    or thicker melt that was there before takes twice the purge.
    """
    window = _window(old, new, reach_c)
    density = new.value("density_g_cm3")
    if window is None or density is None:
        return None
    low, high = window
    thick = [each.value("viscosity_pa_s") for each in (old, new)]
    clings = thick[0] is not None and thick[1] is not None and thick[0].value > 1.3 * thick[1].value
    times = MELT["purge_zones"].value * (MELT["purge_more"].value if clings or old.character == "rubbery" else 1.0)
    volume = times * zone_mm * math.pi * strand_mm**2 / 4.0
    between: tuple[str, ...] = ()
    if low > high:
        leads = (each for each in others if each.id not in (old.id, new.id) and not each.is_support)
        between = tuple(each.name for each in leads if _meets(old, each, reach_c) and _meets(each, new, reach_c))[:3]
    load = low if low <= high else None
    return ChangeOver(
        old=old.name,
        new=new.name,
        load_c=load,
        low_c=low,
        high_c=high,
        purge_g=volume / 1e3 * density.value,
        purge_mm=times * zone_mm,
        between=between,
        order=_order(old, new, low, high),
    )


def _window(old: Polymer, new: Polymer, reach_c: float | None) -> tuple[float, float] | None:
    """Heat at which both flow and neither decomposes [°C]."""
    lows = [flows_from(each) for each in (old, new)]
    ends = [each.value(DECOMPOSES) for each in (old, new)]
    if None in lows or None in ends:
        return None
    low = max(each for each in lows if each is not None) + MELT["flushes"].value
    high = min(each.value for each in ends if each is not None)
    return low, high if reach_c is None else min(high, reach_c)


def _meets(one: Polymer, other: Polymer, reach_c: float | None) -> bool:
    window = _window(one, other, reach_c)
    return window is not None and window[0] <= window[1]


def _order(old: Polymer, new: Polymer, low: float, high: float) -> tuple[str, ...]:
    """What to do, one step after the other."""
    ends = [each.value("nozzle_low_c") for each in (old, new)]
    is_hotter = ends[0] is not None and ends[1] is not None and ends[1].value > ends[0].value
    if low > high:
        return ("Take the head apart or change nozzle and heat break, or lead over with a polymer between",)
    leave = flows_from(old)
    first = "Take the old strand out as soon as it lets go" if leave is not None else "Take the old strand out"
    flush = (
        "Heat to the lower end of the new one's window, no more: the old one is still in it"
        if is_hotter
        else "Stay at the old one's heat: it must flow to come out"
    )
    return (
        first,
        flush,
        "Feed the new one and purge until nothing of the old one shows; gloves, eyes, extraction",
        "Then go to the new one's own heat, and wipe the tip",
    )
