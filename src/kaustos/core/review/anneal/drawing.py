"""The picture of operation 110: air, face, skin and core over the hours, crystals and stress below."""

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.contract import Context

Band = tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]


@attrs.frozen(kw_only=True)
class Node:
    """A corner of the programme that can be dragged: which step, and whether its hold or its end."""

    step: int
    hours: float
    celsius: float


@attrs.frozen(kw_only=True)
class Reading:
    """What a sensor of the last load showed."""

    name: str
    hours: tuple[float, ...]
    shown_c: tuple[float, ...]


@attrs.frozen(kw_only=True)
class AnnealPicture:
    """A programme over its hours."""

    is_wanted: bool = False
    window: tuple[float, float, float] | None = None  # low, high, lost [°C]
    reach_c: float | None = None
    room_c: float = 20.0
    hours: tuple[float, ...] = ()
    air: tuple[float, ...] = ()
    face: tuple[float, ...] = ()
    skin: tuple[float, ...] = ()
    core: tuple[float, ...] = ()
    is_packed: bool = False
    crystals: Band | None = None
    stress: Band | None = None
    nodes: tuple[Node, ...] = ()
    readings: tuple[Reading, ...] = ()  # of the last load
    core_seen: Reading | None = None  # as it followed from them

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.hours


def picture(recipe: Recipe, context: Context) -> AnnealPicture:
    """The anneal of a recipe over time."""
    case = anneal_case(recipe, context)
    window = None if case.window is None else (case.window.low, case.window.high, case.window.lost)
    reach = case.place.reach_c if case.place is not None else None
    found, room = case.found, context.rules.room_c
    if found is None:
        return AnnealPicture(is_wanted=case.is_wanted, window=window, reach_c=reach, room_c=room)
    course = found.course
    planned = [place for place, each in enumerate(recipe.anneal.steps) if each.temperature_c is not None]
    nodes = tuple(
        Node(step=step, hours=found.nodes_h[2 * place + 2], celsius=found.nodes_c[2 * place + 2])
        for place, step in enumerate(planned)
    )
    last = case.last
    readings = () if last is None else tuple(
        Reading(name=each.name, hours=each.hours, shown_c=each.shown_c) for each in last.sensors[:3]
    )  # fmt: skip
    seen = case.seen
    core_seen = None if seen is None else Reading(
        name=f"core, by its {seen.by}", hours=tuple(seen.hours.tolist()), shown_c=tuple(seen.core_c.tolist())
    )  # fmt: skip
    return AnnealPicture(
        is_wanted=case.is_wanted, window=window, reach_c=reach, room_c=room,
        hours=tuple((course.seconds / 3600.0).tolist()), air=_row(course.air), face=_row(course.face[0]),
        skin=_row(course.skin[0]), core=_row(course.core[0]),
        is_packed=case.load is not None and case.load.pack != "free",
        crystals=None if found.crystals is None else _band(found.crystals), stress=_band(found.stress), nodes=nodes,
        readings=readings, core_seen=core_seen,
    )  # fmt: skip


def _row(values: object) -> tuple[float, ...]:
    return tuple(values.tolist())  # type: ignore[attr-defined]


def _band(band: tuple[object, object, object]) -> Band:
    low, likely, high = (_row(each) for each in band)
    return low, likely, high
