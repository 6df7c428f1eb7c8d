"""The pictures of operation 40: the plate from above, and what stands against what on one axis."""

import attrs
import numpy as np

from kaustos.core.part.outline import rings_of
from kaustos.core.planning.draws import SHARES, Array
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.plate.case import Case, case_of, plate_size
from kaustos.core.review.plate.findings import layout_in, where_words

Points = tuple[tuple[float, float], ...]
OUTLINE_POINTS = 400  # of a ring that are drawn


@attrs.frozen
class Band:
    """One of the marks on the axis [J/m²]."""

    key: str
    title: str
    low: float
    middle: float
    high: float


@attrs.frozen
class PlatePicture:
    """Part on the plate, load along its outline, what is barred, and the bands beside it."""

    size: tuple[float, float] | None
    rings: tuple[Points, ...]  # of one copy, from its lower left corner [mm]
    anchored: tuple[Points, ...]
    places: tuple[tuple[float, float], ...]
    wanted: int
    dead: tuple[tuple[float, float, float, float], ...]
    outline: Points  # points at which the load is known [mm]
    load: tuple[float, ...]  # over the grip, likely [1]
    worst: int | None
    worst_words: str
    bands: tuple[Band, ...]
    lifts: float | None
    lift_mm: float | None  # of nine of ten parts at most
    harms: float | None
    pair: str
    shape_from: str
    coated: tuple[Points, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.rings


def picture(recipe: Recipe, context: Context) -> PlatePicture:
    """The plate as this recipe uses it."""
    case = case_of(recipe, context)
    standing = case.standing
    if standing is None:
        return PlatePicture(None, (), (), (), 0, (), (), (), None, "", (), None, None, None, case.pair_words, "")
    left, low, _, _ = standing.anchored.bounds
    layout, size = layout_in(case, recipe, context), plate_size(context)
    load: tuple[float, ...] = ()
    if case.loads is not None:
        against = float(np.median(case.bond.grip)) if case.bond is not None else float(case.loads.along.max())
        load = tuple(float(each) for each in case.loads.along / max(against, 1e-9))
    coated = _moved(rings_of(standing.anchored.buffer(10.0)), left, low) if case.agent is not None else ()
    return PlatePicture(
        size=size,
        rings=_moved(rings_of(standing.footprint), left, low),
        anchored=_moved(rings_of(standing.anchored), left, low) if case.anchor.width_mm > 0.0 else (),
        places=layout.places if layout is not None and layout.places else ((0.0, 0.0),),
        wanted=layout.wanted if layout is not None else 1,
        dead=layout.dead if layout is not None else (),
        outline=tuple((float(x - left), float(y - low)) for x, y in standing.points),
        load=load,
        worst=case.loads.worst if case.loads is not None else None,
        worst_words=where_words(case) if case.bond is not None else "",
        bands=_bands(case),
        lifts=case.bond.lifts if case.bond is not None else None,
        lift_mm=None if case.bond is None else round(float(np.percentile(case.bond.lift_mm, 90.0)), 1),
        harms=case.bond.harms if case.bond is not None else None,
        pair=case.pair_words,
        shape_from=case.shape_from,
        coated=coated,
    )


def _moved(rings: list[Array], left: float, low: float) -> tuple[Points, ...]:
    found = []
    for ring in rings:
        step = max(len(ring) // OUTLINE_POINTS, 1)
        found.append(tuple((float(x - left), float(y - low)) for x, y in ring[::step]))
    return tuple(found)


_TITLES = {
    "load": "Load while printed",
    "cold": "Load when taken off",
    "grip": "Grip",
    "damage": "Harms the surface",
    "weld": "Weakest weld above",
}


def _bands(case: Case) -> tuple[Band, ...]:
    found = []
    for key, title in _TITLES.items():
        draws = getattr(case.loads if key in ("load", "cold") else case.bond, key, None)
        if draws is not None:
            low, middle, high = (float(each) for each in np.quantile(draws, SHARES))
            found.append(Band(key, title, low, middle, high))
    return tuple(found)
