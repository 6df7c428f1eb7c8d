"""The best nozzle temperature by a ladder: of this machine, else of another, moved by what both displays are off."""

import math

import attrs

from kaustos.core.estimates import WELD
from kaustos.core.planning.configuration import calibrations_of, measured_of, offset_of
from kaustos.core.records import Calibration
from kaustos.core.review.contract import Context
from kaustos.core.review.melt.case import SHOWN_K, MeltCase, same_stuff


@attrs.frozen(kw_only=True)
class LadderHere:
    """What a ladder says of this machine's display."""

    best_c: float
    low_c: float
    high_c: float
    where: str  # whose it is, in words
    stale_because: str


def ladder_here(case: MeltCase, context: Context) -> LadderHere | None:
    """The ladder that speaks of this machine and lot; None where there is none anywhere in the shop."""
    if case.ladder is not None and "best_c" in case.ladder.values:
        return _moved(case.ladder, 0.0, 0.0, "this lot")
    if context.machine is None:
        return None
    lots, here = same_stuff(context).split(), _shown_off(context.calibrations)
    for machine in context.shop.machines:
        if machine.id == context.machine.id:
            continue
        known = calibrations_of(machine, context.shop.calibrations)
        found = measured_of(known, "ladder", lots)
        if found is not None and found.is_valid and "best_c" in found.values:
            there = _shown_off(known)
            shift, half = there[0] - here[0], math.hypot(there[1], here[1])
            return _moved(found, shift, half, f"this lot on {machine.name}, moved by what both displays are off,")
    return None


def _shown_off(calibrations: tuple[Calibration, ...]) -> tuple[float, float]:
    """How much hotter a nozzle is than its display says, and how far that may be off [K]."""
    offset = offset_of(calibrations, "nozzle")
    if offset is None or not offset.is_valid:
        return 0.0, WELD["shown"].value
    return offset.values["offset_k"], SHOWN_K


def _moved(found: Calibration, shift_k: float, half_k: float, where: str) -> LadderHere:
    best = found.values["best_c"]
    low, high = found.values.get("low_c", best), found.values.get("high_c", best)
    return LadderHere(
        best_c=best + shift_k, low_c=best + shift_k - math.hypot(best - low, half_k),
        high_c=best + shift_k + math.hypot(high - best, half_k), where=where, stale_because=found.stale_because,
    )  # fmt: skip
