"""What the trade gives an anneal by polymer and section: hours at the hold, and ramps that nobody goes beyond."""

import math

import attrs

from kaustos.core.estimates import ANNEAL
from kaustos.core.records import Polymer

BY_WALL = ("pei", "sulfone", "pc", "paek")  # stiff families, whose hours grow with the section and which chill cracks


@attrs.frozen(kw_only=True)
class Usage:
    """What is usual for one section."""

    least_h: float  # below which nobody calls it done
    most_h: float  # beyond which nobody waits, in its window
    ramp_k_h: float  # up and down
    most_k_h: float  # beyond which nobody goes


def usage_of(polymer: Polymer, wall_mm: float) -> Usage:
    """Hours and ramps that are usual.

    Parameters
    ----------
    polymer : Polymer
        Its family, structure and glass transition [°C]
    wall_mm : float
        Thickest section [mm]

    Returns
    -------
    Usage
        For its thickest section [h, K/h]

    Notes
    -----
    Hours of stiff glasses, styrenics and poly aryl ether ketones grow with the section, from a least that a thin wall
    wants as well; those of others are what crystals or stress want. Ramps fall with the root of the section. Practice.
    """
    family = polymer.family if f"hours.{polymer.family}" in ANNEAL else "wall" if polymer.family in BY_WALL else "other"
    hours = ANNEAL[f"hours.{family}"]
    by_mm = ANNEAL[f"hours_mm.{family}"].band if f"hours_mm.{family}" in ANNEAL else (0.0, 0.0, 0.0)
    ramp = ANNEAL[f"ramp.{_ramped_as(polymer)}"]
    thick = math.sqrt(ANNEAL["ramp_wall"].value / max(wall_mm, 1.0))
    return Usage(
        least_h=max(hours.low, by_mm[0] * wall_mm), most_h=max(hours.high, by_mm[2] * wall_mm),
        ramp_k_h=ramp.value * thick, most_k_h=ramp.high * thick,
    )  # fmt: skip


def _ramped_as(polymer: Polymer) -> str:
    glass = polymer.value("glass_transition_c")
    if polymer.family == "paek":
        return "paek"
    if polymer.family in BY_WALL and glass is not None:
        return "hot_glass" if glass.value >= ANNEAL["hot_glass_c"].value else "glass"
    return "other"
