"""The best nozzle temperature by a ladder: of this machine, else of another, moved by what both displays are off."""

import math
from collections.abc import Iterator

import attrs

from kaustos.core.estimates import WELD
from kaustos.core.planning.configuration import calibrations_of, measured_of, offset_of
from kaustos.core.planning.nozzle_life import colder_k
from kaustos.core.records import Calibration, Nozzle
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
    """The ladder that speaks of this machine and lot: its own, the surest of another machine, its own that is stale."""
    own = case.ladder if case.ladder is not None and "best_c" in case.ladder.values else None
    if own is not None and own.is_valid:
        return _moved(own, 0.0, 0.0, "this lot")
    others = sorted(_of_others(context), key=lambda each: each.high_c - each.low_c)
    if others:
        return others[0]
    return None if own is None else _moved(own, 0.0, 0.0, "this lot")


def _of_others(context: Context) -> Iterator[LadderHere]:
    """Ladders of other machines with the same stuff, moved to the display of this one."""
    if context.machine is None:
        return
    lots, here = same_stuff(context).split(), _shown_off(context.calibrations, context.nozzle)
    for machine in context.shop.machines:
        known = calibrations_of(machine, context.shop.calibrations)
        found = measured_of(known, "ladder", lots)
        if machine.id == context.machine.id or found is None or not found.is_valid or "best_c" not in found.values:
            continue
        nozzle = next((each for each in context.shop.nozzles if each.fitted_on == machine.id), None)
        there = _shown_off(known, nozzle)
        where = f"this lot on {machine.name}, moved by what both displays are off,"
        yield _moved(found, there[0] - here[0], math.hypot(there[1], here[1]), where)


def _shown_off(calibrations: tuple[Calibration, ...], nozzle: Nozzle | None) -> tuple[float, float]:
    """How much hotter a melt is than the display says, by sensor and nozzle, and how far that may be off [K]."""
    colder = max(colder_k(nozzle.material).value, 0.0) if nozzle is not None and nozzle.material else 0.0
    offset = offset_of(calibrations, "nozzle")
    if offset is None or not offset.is_valid:
        return -colder, WELD["shown"].value
    return offset.values["offset_k"] - colder, SHOWN_K


def _moved(found: Calibration, shift_k: float, half_k: float, where: str) -> LadderHere:
    best = found.values["best_c"]
    low, high = found.values.get("low_c", best), found.values.get("high_c", best)
    return LadderHere(
        best_c=best + shift_k, low_c=best + shift_k - math.hypot(best - low, half_k),
        high_c=best + shift_k + math.hypot(high - best, half_k), where=where, stale_because=found.stale_because,
    )  # fmt: skip
