"""The picture of operation 100: plate and air over time, and from when the part may come off."""

import attrs
import numpy as np

from kaustos.core.planning.cooling import Cooling
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.plate.cooling import cooling_case

LEAST_MIN = 30.0
STEPS = 60


@attrs.frozen(kw_only=True)
class Course:
    """One course of cooling, for a picture."""

    name: str
    at_min: tuple[float, ...]
    plate_c: tuple[tuple[float, ...], ...]  # least, likely, most
    air_c: tuple[float, ...]
    off_min: tuple[float, float, float] | None  # least, likely, most


@attrs.frozen(kw_only=True)
class ReleasePicture:
    """Courses with the door open and shut, and the heat at which the part comes off."""

    release_c: float | None = None
    room_c: float = 0.0
    courses: tuple[Course, ...] = ()
    is_hot: bool = False  # whether it is taken off hot

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.courses


def picture(recipe: Recipe, context: Context) -> ReleasePicture:
    """How this recipe's plate cools."""
    case = cooling_case(recipe, context)
    both = (("door open", case.opened), ("door shut", case.shut))
    last = max([LEAST_MIN, *(1.5 * each.until.high for _, each in both if each is not None and each.until is not None)])
    return ReleasePicture(
        release_c=None if case.way == "hot" else case.release_c, room_c=case.room_c,
        courses=tuple(_course(name, each, last) for name, each in both if each is not None), is_hot=case.way == "hot",
    )  # fmt: skip


def _course(name: str, cooling: Cooling, last: float) -> Course:
    at = np.linspace(0.0, last, STEPS)
    until = cooling.until
    return Course(
        name=name, at_min=tuple(at.tolist()), plate_c=tuple(tuple(each.tolist()) for each in cooling.plate_at(at)),
        air_c=tuple(cooling.air_at(at).tolist()),
        off_min=None if until is None else (until.low, until.value, until.high),
    )  # fmt: skip
