"""The section of a bead with round sides, and how wide it comes out under a gap."""

import math


def bead_section(width: float, height: float) -> float:
    """Section of a bead with round sides.

    Parameters
    ----------
    width : float
        Over all [mm]
    height : float
        Of the layer [mm]

    Returns
    -------
    float
        Area [mm^2]

    Examples
    --------
    >>> round(bead_section(0.7, 0.3), 3)
    0.191
    """
    return (width - height) * height + math.pi * height**2 / 4.0


def pressed_width(width: float, height: float, gap: float) -> float:
    """Width of a bead that is laid under a gap other than its height: its section is kept.

    Parameters
    ----------
    width : float
        As it is sliced [mm]
    height : float
        As it is sliced [mm]
    gap : float
        Between nozzle and plate [mm]

    Returns
    -------
    float
        Width, at least the gap [mm]

    Examples
    --------
    >>> round(pressed_width(0.7, 0.3, 0.3), 9)
    0.7
    """
    return max(bead_section(width, height) / gap + gap * (1.0 - math.pi / 4.0), gap)
