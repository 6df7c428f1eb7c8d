"""What a prediction declares of itself: on which scale it errs, by how much, and what shares its error."""

import math

import attrs

from kaustos.core.errors import FieldError

SCALES = ("factor", "difference")


@attrs.frozen(kw_only=True)
class Level:
    """One scope of an error: members of it share that part of it."""

    name: str  # shop, machine, polymer, lot, plate, nozzle, dryer, oven, bath
    share: float  # of the variance of the whole error [1]


@attrs.frozen(kw_only=True)
class Prediction:
    """A figure that the program foretells and the shop finds out."""

    key: str
    title: str
    scale: str  # factor: errors as logarithms of found over foretold; difference: in the unit
    unit: str
    spread: float  # of the error before anything was seen, one standard deviation on that scale
    levels: tuple[Level, ...]  # from wide to narrow
    scatter: float  # by which one outcome differs from the next while everything is the same
    drift: float  # by which things move away from what was seen in a year
    changed: float  # by which another configuration differs: a nozzle, sheet or sensor changed since
    shown_by: tuple[str, ...]  # what can observe it, in words

    def __attrs_post_init__(self) -> None:
        if self.scale not in SCALES:
            raise FieldError("scale", f"must be one of {', '.join(SCALES)}")
        if not math.isclose(sum(each.share for each in self.levels), 1.0, abs_tol=1e-9):
            raise FieldError("levels", f"shares of {self.key} must come to 1")
        if not (self.spread > 0.0 and self.scatter >= 0.0 and self.drift >= 0.0 and self.changed >= 0.0):
            raise FieldError(self.key, "spreads must not be below nothing")

    def shares(self) -> dict[str, float]:
        """Share of the variance by level [1]."""
        return {each.name: each.share for each in self.levels}
