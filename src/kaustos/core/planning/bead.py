"""A bead with round sides: its section, its width under a gap, how beads fill a wall and layers a height."""

import math

import attrs

ROUND = 1.0 - math.pi / 4.0  # of its height by which beads of round sides overlap side by side


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


def pitch_of(width: float, height: float) -> float:
    """Distance of beads side by side that leaves nothing open.

    Parameters
    ----------
    width : float
        Of a bead [mm]
    height : float
        Of the layer [mm]

    Returns
    -------
    float
        Distance [mm]

    Examples
    --------
    >>> round(pitch_of(0.7, 0.3), 3)
    0.636
    """
    return max(width - height * ROUND, 1e-3)


def wall_of(beads: int, width: float, height: float) -> float:
    """How thick a wall of beads is.

    Parameters
    ----------
    beads : int
        Side by side [-]
    width : float
        Of each [mm]
    height : float
        Of the layer [mm]

    Returns
    -------
    float
        Thickness [mm]

    Examples
    --------
    >>> round(wall_of(3, 0.7, 0.3), 2)
    1.97
    """
    return width + (beads - 1) * pitch_of(width, height) if beads else 0.0


@attrs.frozen(kw_only=True)
class WallPlan:
    """A wall in whole beads."""

    beads: int  # 0 where the wall vanishes
    width_mm: float  # that fills it exactly
    residual_mm: float  # left open by beads as wide as they are set


def wall_plan(wall: float, width: float, height: float) -> WallPlan:
    """The whole number of beads that comes closest to a wall.

    Parameters
    ----------
    wall : float
        Thickness [mm]
    width : float
        Bead as it is set [mm]
    height : float
        Of the layer [mm]

    Returns
    -------
    WallPlan
        Beads, the width that fills the wall, what is left open by the width that is set [mm]

    Notes
    -----
    A residual above nothing stays open, one below nothing is pressed in too much.

    Examples
    --------
    >>> plan = wall_plan(3.0, 0.65, 0.0001)
    >>> plan.beads, round(plan.width_mm, 2)
    (5, 0.6)
    """
    if wall < width * 0.999:
        return WallPlan(beads=0, width_mm=width, residual_mm=wall)
    beads = max(1, round((wall - width) / pitch_of(width, height)) + 1)
    fills = (wall + (beads - 1) * height * ROUND) / beads
    return WallPlan(beads=beads, width_mm=fills, residual_mm=wall - wall_of(beads, width, height))


@attrs.frozen(kw_only=True)
class LayerPlan:
    """A height in whole layers, the first one apart."""

    layers: int
    height_mm: float  # of a layer that divides the height
    error_mm: float  # of the part with the layer that is set


def layer_plan(high: float, first: float, layer: float) -> LayerPlan:
    """The whole number of layers that comes closest to a height.

    Parameters
    ----------
    high : float
        Of the part [mm]
    first : float
        First layer [mm]
    layer : float
        As it is set [mm]

    Returns
    -------
    LayerPlan
        Layers, the height that divides, the error of the part with the height that is set [mm]

    Examples
    --------
    >>> plan = layer_plan(12.0, 0.7, 0.7)
    >>> plan.layers, round(plan.height_mm, 3), round(plan.error_mm, 3)
    (17, 0.706, -0.1)
    """
    rest = high - first
    if rest < 0.5 * layer:
        return LayerPlan(layers=1, height_mm=layer, error_mm=first - high)
    above = max(1, round(rest / layer))
    return LayerPlan(layers=above + 1, height_mm=rest / above, error_mm=first + above * layer - high)


def bonded_share(width: float, height: float, filled: float, pressed: float, gaps: float) -> float:
    """Share of a section across which layers touch.

    Parameters
    ----------
    width : float
        Of a bead [mm]
    height : float
        Of the layer [mm]
    filled : float
        Melt that is laid, over that of the plan [1]
    pressed : float
        Share of its height that the round sides keep from the layer below [1]
    gaps : float
        Share that stays open at a plan that is met [1]

    Returns
    -------
    float
        Neck over width of a bead, less what is open [1]

    Examples
    --------
    >>> round(bonded_share(0.48, 0.2, 1.0, 0.5, 0.05), 2)
    0.75
    """
    neck = max(1.0 - pressed * height / width, 0.05)
    open_share = min(max(gaps + 1.0 - filled, 0.0), 0.95)
    return min(neck * (1.0 - open_share), 1.0)
