"""The part that a recipe prints: its file by fingerprint, how it stands, and what was measured on it."""

from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import choice, extra, flag, moment, number, text

DECISIONS = {"hold": "Hold it", "leave": "Leave it free", "drawn": "Drawn support stands there",
             "skin": "A skin, drilled open"}  # fmt: skip
LEAST_LEAN_DEG = 20.0  # from upright: what leans less is borne by every polymer, and not looked at
Point = tuple[float, float]
Ring = tuple[Point, ...]
FACES = {
    "free": "No matter",
    "seen": "To be seen",
    "mating": "Mates",
    "sealing": "Seals",
    "flat": "Lies flat",
}
FITS = {
    "slide": "Slides",
    "push": "Pushed in by hand",
    "press": "Pressed in",
    "screw": "Screw or bolt",
    "insert": "Insert, melted in",
    "hose": "Hose",
}


@attrs.frozen(kw_only=True)
class Steep:
    """What of a place leans over by one angle."""

    angle_deg: float  # from upright: 0 for a wall, 90 for a ceiling
    area_mm2: float
    flat_mm2: float  # seen from below
    column_mm3: float  # under it, down to the plate or to the part
    onto_mm2: float  # of what is seen from below: lies over the part itself
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Overhang:
    """A place of a part that grows over air."""

    x_mm: float  # its middle
    y_mm: float
    low_mm: float
    high_mm: float
    begins: bool = False  # whether material begins there with nothing below
    steps: tuple[Steep, ...] = ()
    span_mm: float = 0.0  # of its ceiling, between two holds
    out_mm: float = 0.0  # that its ceiling reaches out from one hold
    reached: float = 1.0  # share that a straight tool comes up to
    open: float = 1.0  # share that a bath comes to
    outline: Ring = ()  # seen from below
    extra: dict[str, Any] = extra()

    @property
    def area_mm2(self) -> float:
        """Of all its faces [mm^2]."""
        return sum(each.area_mm2 for each in self.steps)

    @property
    def steepest_deg(self) -> float:
        """The most that it leans over, from upright [deg]."""
        return max((each.angle_deg for each in self.steps), default=90.0)

    def beyond(self, limit_deg: float) -> Steep:
        """What of it leans over by more than a limit from upright [deg], together [mm^2, mm^3]."""
        over = [each for each in self.steps if each.angle_deg > limit_deg]
        return Steep(
            angle_deg=self.steepest_deg, area_mm2=sum(each.area_mm2 for each in over),
            flat_mm2=sum(each.flat_mm2 for each in over), column_mm3=sum(each.column_mm3 for each in over),
            onto_mm2=sum(each.onto_mm2 for each in over),
        )  # fmt: skip


@attrs.frozen(kw_only=True)
class Side:
    """A side that could lie down: how large it is, how high the part then stands, what of it then hangs."""

    number: float  # of one of its faces
    area_mm2: float
    height_mm: float
    hangs_mm2: float = 0.0  # faces that lean over by more than is borne without a fan
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Shape:
    """What was measured on a part as it stands on the plate: the lowest point at height 0."""

    size_x_mm: float
    size_y_mm: float
    size_z_mm: float
    volume_mm3: float
    surface_mm2: float
    contact_mm2: float  # of the footprint
    shadow_mm2: float  # that it covers, seen from above
    footprint: tuple[tuple[Ring, ...], ...]  # polygons, each its outer ring and its holes [mm]
    heights_mm: tuple[float, ...]
    areas_mm2: tuple[float, ...]  # of the section at each height
    perimeters_mm: tuple[float, ...]
    thinnest_mm: float | None = None  # wall
    thinnest_at_mm: float | None = None  # height at which it stands
    gap_mm: float | None = None  # least between bodies at the plate
    overhangs: tuple[Overhang, ...] | None = None  # places that grow over air; None where nobody looked
    cell_mm: float | None = None  # of the grid on which reach was looked at
    sides: tuple[Side, ...] = ()  # on which it could lie, the largest first
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        for name in ("size_x_mm", "size_y_mm", "size_z_mm", "volume_mm3", "contact_mm2", "shadow_mm2"):
            if not getattr(self, name) > 0:
                raise FieldError(name, f"must be above nothing, got {getattr(self, name)!r}")
        if not len(self.heights_mm) == len(self.areas_mm2) == len(self.perimeters_mm) > 1:
            raise FieldError("heights_mm", "heights, areas and perimeters must be as many")


@attrs.frozen(kw_only=True)
class PartFile:
    """One file of a part: the one in use is the last; why an earlier one was given up stands beside it."""

    sha256: str
    name: str = text("File")
    added_utc: str = moment("Added")
    rejected: str = text("Given up because")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Fit:
    """A hole that something goes into."""

    name: str = text("What goes in")
    kind: str | None = choice(FITS, "Fit")
    across_mm: float | None = number("length", "Across", "Of what goes in")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Decision:
    """What was decided on one place that grows over air, and why."""

    x_mm: float
    y_mm: float
    low_mm: float
    what: str | None = choice(DECISIONS, "Decided")
    why: str = text("Why")
    layer_mm: float | None = number("length", "Layer", "That it was decided for: a skin is whole layers thick")
    extra: dict[str, Any] = extra()

    def is_on(self, place: Overhang) -> bool:
        """Whether it speaks of a place: middle and height are the same within what a new file moves [-]."""
        near = abs(self.x_mm - place.x_mm) <= SAME_MM and abs(self.y_mm - place.y_mm) <= SAME_MM
        return near and abs(self.low_mm - place.low_mm) <= SAME_MM


SAME_MM = 1.0


@attrs.frozen(kw_only=True)
class PrintedPart:
    """A part that is printed."""

    id: str
    name: str = text("Part")
    files: tuple[PartFile, ...] = ()
    shape: Shape | None = None  # of the last file, turned and scaled as said below
    turned: float | None = number("ratio", "Face that lies down", "Number of a face of the file; none as it came")
    scale: float | None = number("ratio", "Scale", "Of the file, 1 as it came", typed=(0.001, 1000.0))
    repaired: tuple[str, ...] = ()  # what was done to the mesh
    broken: tuple[str, ...] = ()  # what of it could not be mended
    underside: str | None = choice(FACES, "Underside", "What the face on the plate is for: a raft roughens it")
    sides: str | None = choice(FACES, "Sides", "What the faces round it are for: ears and brims leave a rim")
    decided: tuple[Decision, ...] = ()  # on places that grow over air
    flat_mm: float | None = number("length", "Flat within", "How far its underside may lie off a plane")
    stock_mm: float | None = number("length", "Machined off", "Stock on every face that is machined afterwards")
    fits: tuple[Fit, ...] = ()
    hole_error_mm: float | None = number(
        "height", "Hole error", "By how much a hole of this material comes out too small, as the shop measured"
    )
    twin: bool | None = flag(
        "Mates with a copy", short="Has a mate", help_line="Whether copies fit each other and want the same heat"
    )
    retired: bool = False
    extra: dict[str, Any] = extra()
