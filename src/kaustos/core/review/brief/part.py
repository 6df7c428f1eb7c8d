"""The part in the brief: what its file, its walls, holes and faces say before anything is printed."""

from collections.abc import Iterator

from kaustos.core.estimates import PARTS
from kaustos.core.planning.hole import drawn_hole
from kaustos.core.records import PrintedPart, Recipe
from kaustos.core.review.brief.codes import BY_CODE
from kaustos.core.review.contract import (
    GRADES,
    UNKNOWN,
    Absent,
    Advice,
    Context,
    Estimate,
    Figure,
    Finding,
    Remedy,
    Set,
)
from kaustos.core.review.making import Question, make_finding

LOADED = ("loaded", "safety", "tool")  # purposes for which a wall is to carry
WALLS = PARTS["walls_loaded"].value
GROOVE_MM = PARTS["groove"].value
Values = dict[str, float | str | None]
_ASKED = ("underside", "sides")


def part_findings(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """What speaks against the part as it is drawn."""
    part = context.part
    return () if part is None else tuple(found for look in _LOOKS for found in look(part, recipe, context))


def _found(
    recipe: Recipe, context: Context, code: str, field: str, values: Values, *remedies: Remedy, severity: str = ""
) -> Finding:
    part = context.part.name if context.part else ""
    return make_finding(BY_CODE[code], recipe, context, field, remedies, {"part": part, **values}, severity=severity)


def bead_of(recipe: Recipe, context: Context) -> float | None:
    """Width of a bead: the bore of the nozzle where one is named, else of the first layer [mm]."""
    nozzle = context.nozzle
    return nozzle.bore_mm if nozzle is not None and nozzle.bore_mm else recipe.first_layer.width_mm


def _broken(part: PrintedPart, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if part.broken:
        mend = Advice("Close it where it was drawn, and drop it again", "Holes are not guessed: both files are kept.")
        yield _found(recipe, context, "brief.part.broken", "context.part", {"faults": "; ".join(part.broken)}, mend)


def _walls(part: PrintedPart, recipe: Recipe, context: Context) -> Iterator[Finding]:
    shape, bead = part.shape, bead_of(recipe, context)
    if shape is None or shape.thinnest_mm is None or bead is None:
        return
    wall, carries = shape.thinnest_mm, recipe.brief.purpose in LOADED
    if wall < bead * (WALLS if carries else 1.0):
        severity = "stop" if wall < bead else "watch"
        values: Values = {"wall": wall, "at": shape.thinnest_at_mm, "bead": bead, "times": wall / bead}
        thicker = Advice(
            "Thicken it, or take a finer nozzle",
            "A wall takes whole beads: draw it as two, three or four of them. Scaling up works where nothing fits.",
        )
        yield _found(recipe, context, "brief.part.thin_wall", "context.part", values, thicker, severity=severity)


def left_after(part: PrintedPart) -> float | None:
    """The thinnest wall once stock is machined off both of its faces [mm]."""
    if part.shape is None or part.shape.thinnest_mm is None or not part.stock_mm:
        return None
    return part.shape.thinnest_mm - 2.0 * part.stock_mm


def _machined(part: PrintedPart, recipe: Recipe, context: Context) -> Iterator[Finding]:
    left, bead = left_after(part), bead_of(recipe, context)
    if left is not None and bead is not None and left < bead:
        values: Values = {"stock": part.stock_mm, "left": max(left, 0.0), "bead": bead}
        more = Advice("Draw it thicker, or take less off", "At least two beads are to stay once it is machined.")
        severity = "stop" if left <= 0.0 else "watch"
        yield _found(recipe, context, "brief.part.cut_through", "part.stock_mm", values, more, severity=severity)
    sealing = [name for name in _ASKED if getattr(part, name) == "sealing"]
    if sealing and not part.stock_mm:
        values = {"faces": " and ".join(sealing), "groove": 1e3 * GROOVE_MM}
        face = Advice("Leave stock and machine it, or seal on a gasket", "Half a millimetre on each face is usual.")
        yield _found(recipe, context, "brief.part.seals", "part.stock_mm", values, face)


def _holes(part: PrintedPart, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if not part.fits:
        return
    names = ", ".join(each.name or "a part" for each in part.fits)
    if part.hole_error_mm is None:
        gauge = Advice("Print a gauge of such holes and measure them", "Then draw the holes as the figures here say.")
        values: Values = {"names": names, "error": PARTS["hole_error"].value}
        yield _found(recipe, context, "brief.part.holes_unproven", "part.hole_error_mm", values, gauge)
    if part.scale not in (None, 1.0):
        again = Advice("Draw the holes anew after scaling", "Bolts, inserts and bearings do not scale with the part.")
        yield _found(recipe, context, "brief.part.scaled", "part.scale", {"names": names, "scale": part.scale}, again)


def _twins(part: PrintedPart, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if part.twin and (recipe.plate.copies or 1.0) < 2.0:
        both = Set("Print both at once", {"plate.copies": 2.0})
        other = Advice("Or print the second with the same spool, heat and place", "Mates shrink alike only then.")
        yield _found(recipe, context, "brief.part.twin_apart", "part.twin", {}, both, other)


_LOOKS = (_broken, _walls, _machined, _holes, _twins)


def part_figures(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Walls, holes and what machining leaves."""
    part, bead = context.part, bead_of(recipe, context)
    shape = part.shape if part is not None else None
    wall = shape.thinnest_mm if shape is not None else None
    left = left_after(part) if part is not None else None
    beads = wall / bead if wall is not None and bead else None
    return (
        Figure("brief.part.thinnest", "Thinnest wall of the part", _exact(wall, "mm", "measured on its file")),
        Figure("brief.part.beads", "Beads across that wall", _exact(beads, "1", "wall over bead")),
        Figure("brief.part.left", "Left of it once machined", _exact(left, "mm", "wall less stock on both faces")),
        Figure("brief.part.hole", "Draw the first hole at", _hole(part)),
    )


def _exact(value: float | None, unit: str, method: str) -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, "geometry of the part")


def _hole(part: PrintedPart | None) -> Estimate | Absent:
    found = drawn_hole(part.fits[0], part) if part is not None and part.fits else None
    return found if found is not None else UNKNOWN


def part_questions(recipe: Recipe, context: Context) -> Iterator[Question]:
    """What is asked of a part."""
    part = context.part
    if part is None:
        return
    yield Question("part.shape", part.shape is not None, GRADES[-1], False)
    for name in _ASKED:
        yield Question(f"part.{name}", getattr(part, name) is not None, GRADES[-1], False)
    yield Question("part.hole_error_mm", part.hole_error_mm is not None, GRADES[-1], bool(part.fits))
