"""Whether the part has room on the machine, and whether the strand is the one that it feeds."""

import math

from kaustos.core.records import Machine, Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy
from kaustos.core.review.machine.codes import BY_CODE
from kaustos.core.review.making import make_finding

TURNS = tuple(math.radians(each / 4.0) for each in range(361))  # a part may lie askew on the plate
MOST_LOTS = 3


def fit_findings(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """What stands against part and strand on this machine, as far as either is recorded."""
    machine = context.machine
    if machine is None:
        return ()
    return tuple(each for each in (_size(recipe, context, machine), _strand(recipe, context, machine)) if each)


def has_room(part_mm: tuple[float, float], plate_mm: tuple[float, float]) -> bool:
    """Whether a rectangle lies within another, turned as it likes.

    Parameters
    ----------
    part_mm : tuple of float
        Length and width of the part as it stands [mm]
    plate_mm : tuple of float
        Travel along and across the plate [mm]

    Returns
    -------
    bool
        True where it fits at one of the angles between 0 and 90 degrees [-]

    Examples
    --------
    >>> has_room((260.0, 20.0), (200.0, 200.0))
    True
    """
    (a, b), (x, y) = part_mm, plate_mm
    if (a <= x and b <= y) or (a <= y and b <= x):
        return True
    return any(
        a * math.cos(turn) + b * math.sin(turn) <= x + 1e-9 and a * math.sin(turn) + b * math.cos(turn) <= y + 1e-9
        for turn in TURNS
    )


def _size(recipe: Recipe, context: Context, machine: Machine) -> Finding | None:
    brief = recipe.brief
    long, wide, high = (each or 0.0 for each in (brief.size_x_mm, brief.size_y_mm, brief.size_z_mm))
    x, y, z = (
        math.inf if each is None else each for each in (machine.travel_x_mm, machine.travel_y_mm, machine.travel_z_mm)
    )
    if high <= z and has_room((long, wide), (x, y)):
        return None
    words = "Turn it, lay it down, or print it in parts that are joined; walls, welds and supports change with that."
    values: dict[str, float | str | None] = {
        "part": _times((long, wide, high), 0.0), "room": _times((x, y, z), math.inf), "machine": machine.name,
    }  # fmt: skip
    field = "brief.size_z_mm" if high > z else "brief.size_x_mm"
    remedy = Advice("Turn it or print it in parts", words)
    return make_finding(BY_CODE["machine.size.too_big"], recipe, context, field, (remedy,), values)


def _times(sizes: tuple[float, ...], unknown: float) -> str:
    return " × ".join("?" if each == unknown else f"{each:g}" for each in sizes) + " mm"


def _strand(recipe: Recipe, context: Context, machine: Machine) -> Finding | None:
    lot = context.lot
    if lot is None or lot.diameter is None or machine.feeds is None or lot.diameter == machine.feeds:
        return None
    others = [
        Choose("Take the lot {lot:text}", "lot", each.id, {"lot": each.name})
        for each in context.shop.lots if each.polymer == recipe.polymer and each.diameter == machine.feeds
    ][:MOST_LOTS]  # fmt: skip
    words = "A strand that is too thin slips and burns in the gap, one that is too thick does not go in."
    values: dict[str, float | str | None] = {
        "lot": lot.name, "strand": f"{lot.diameter} mm", "feeds": f"{machine.feeds} mm", "machine": machine.name,
    }  # fmt: skip
    remedies: tuple[Remedy, ...] = (*others, Advice("Get a spool of the right strand", words))
    return make_finding(BY_CODE["machine.strand.other"], recipe, context, "lot.diameter", remedies, values)
