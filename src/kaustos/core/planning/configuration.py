"""A machine over time: which calibrations a change has made stale, and what heat was proven since."""

from collections.abc import Iterable

import attrs

from kaustos.core.memo import by_identity
from kaustos.core.records import OFFSETS, Calibration, HeatStep, Machine
from kaustos.core.records.calibration import OF_LOT, change_words, voids


def calibrations_of(machine: Machine, calibrations: Iterable[Calibration]) -> tuple[Calibration, ...]:
    """The last calibration of each kind of a machine, each with the change that made it stale.

    Parameters
    ----------
    machine : Machine
        With the changes of its parts [-]
    calibrations : iterable of Calibration
        Of any machine [-]

    Returns
    -------
    tuple of Calibration
        The newest of each kind, by kind; of what belongs to a lot the newest of each lot [-]
    """
    newest: dict[tuple[str, str], Calibration] = {}
    for each in calibrations:
        key = (each.kind or "", (each.lot or "") if each.kind in OF_LOT else "")
        before = newest.get(key)
        if each.machine == machine.id and not each.retired and (before is None or before.done_utc <= each.done_utc):
            newest[key] = each
    return tuple(_with_staleness(machine, each) for _, each in sorted(newest.items()))


def _with_staleness(machine: Machine, calibration: Calibration) -> Calibration:
    after = [each for each in machine.changes if each.at_utc > calibration.done_utc]
    change = next((each for each in after if voids(each.part, calibration.kind)), None)
    if change is None:
        return calibration
    return attrs.evolve(calibration, stale_because=f"{change_words(change.part)} changed {change.at_utc[:10]}")


@attrs.frozen
class Proven:
    """The hottest step that was held and looked at without harm [°C], and what stopped the next one."""

    max_c: float
    at_utc: str
    minutes: float | None
    sensor: str
    stopped_by: HeatStep | None
    is_end: bool  # whether it did not get further, rather than not being asked to


@by_identity(1_024)
def proven_of(machine: Machine, zone: str) -> Proven | None:
    """What a zone was proven to reach, step by step, since the last change that voids it.

    Parameters
    ----------
    machine : Machine
        With its steps and its changes [°C]
    zone : str
        nozzle, plate or chamber [-]

    Returns
    -------
    Proven or None
        None where no step stands [°C]

    Notes
    -----
    A step that was stopped caps what colder steps have proven: only what lies below it counts.
    """
    since = max((each.at_utc for each in machine.changes if voids(each.part, f"{zone}_proven")), default="")
    steps = [each for each in machine.heat_steps if each.zone == zone and each.at_utc > since]
    stops = [each for each in steps if each.verdict == "stop" and _heat(each) is not None]
    coldest = min(stops, key=lambda each: _heat(each) or 0.0, default=None)
    good = [each for each in steps if each.verdict == "go" and _heat(each) is not None]
    if coldest is not None:
        good = [each for each in good if (_heat(each) or 0.0) < (_heat(coldest) or 0.0)]
    best = max(good, key=lambda each: _heat(each) or 0.0, default=None)
    if best is None:
        return None
    return Proven(_heat(best) or 0.0, best.at_utc, best.minutes, best.sensor, coldest,
                  best.seen == "short" or coldest is not None)  # fmt: skip


def _heat(step: HeatStep) -> float | None:
    """What a step came to: read, else set, and never more than was set [°C]."""
    known = [each for each in (step.reached_c, step.setpoint_c) if each is not None]
    return min(known, default=None)


def measured_of(calibrations: Iterable[Calibration], kind: str, lots: Iterable[str]) -> Calibration | None:
    """The newest calibration of a kind for one of a few lots.

    Parameters
    ----------
    calibrations : iterable of Calibration
        Of one machine [-]
    kind : str
        One of ``OF_LOT`` [-]
    lots : iterable of str
        Lots that count as the same, by id [-]

    Returns
    -------
    Calibration or None
        None where it was never done for any of them [-]
    """
    wanted = frozenset(lots)
    found = [each for each in calibrations if each.kind == kind and (each.lot or "") in wanted]
    return max(found, key=lambda each: (each.is_valid, each.done_utc), default=None)


def offset_of(calibrations: Iterable[Calibration], zone: str) -> Calibration | None:
    """The calibration that says how far a zone is from what is shown, None where it was never done.

    Parameters
    ----------
    calibrations : iterable of Calibration
        The newest of each kind of one machine [-]
    zone : str
        nozzle, plate or chamber [-]

    Returns
    -------
    Calibration or None
        True temperature less the one shown stands under ``offset_k`` [K]
    """
    found = (each for each in calibrations if each.kind == OFFSETS[zone] and "offset_k" in each.values)
    return next(found, None)
