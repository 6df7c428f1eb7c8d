"""What a log of temperatures tells: which sensor shows what, how a chamber loses heat, how sure that is."""

from collections.abc import Mapping

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.records import Estimate

Array = NDArray[np.float64]
TWO_SIDED = 1.96
BINS = 400
GAP = 5.0  # times the usual step
LEAST_RISE_K = 5.0


@attrs.frozen
class SensorSummary:
    """One sensor against the median of all."""

    name: str
    first_c: float
    last_c: float
    most_c: float
    offset_k: float  # mean distance to the median over the last tenth
    lag_s: float | None  # how much later than the median it follows; None where that is not told
    lacks: int  # readings that are missing


@attrs.frozen
class LogSummary:
    """All sensors of a log, how far they stand apart, and its gaps."""

    sensors: tuple[SensorSummary, ...]
    hours: float
    step_s: float
    gaps: int
    longest_gap_s: float
    spread_k: tuple[float, float]  # between the highest and the lowest sensor: over the last tenth, and at most


@attrs.frozen
class ThinLog:
    """A log in bins: what is drawn and fitted."""

    seconds: Array
    readings: Mapping[str, Array]
    power_w: Array | None


@attrs.frozen
class Fit:
    """One fit: parameters as estimates, their covariance, what is left over, what the data cannot determine."""

    values: Mapping[str, Estimate]
    covariance: tuple[tuple[float, ...], ...]
    residual_k: float
    holds_c: tuple[float, float]  # temperatures between which it was seen
    missing: tuple[str, ...]


def thinned(seconds: Array, readings: Mapping[str, Array], power_w: Array | None, bins: int = BINS) -> ThinLog:
    """A log averaged in bins of equal time; bins without a reading are left out.

    Parameters
    ----------
    seconds : ndarray
        From the first line [s]
    readings : mapping of str to ndarray
        By sensor, NaN where it showed nothing [°C]
    power_w : ndarray or None
        Of the heater [W]
    bins : int
        How many at most [-]

    Returns
    -------
    ThinLog
        Middle of each bin and mean of each sensor in it [s, °C, W]
    """
    edges = np.linspace(0.0, float(seconds[-1]) * (1.0 + 1e-12), bins + 1)
    place = np.clip(np.searchsorted(edges, seconds, side="right") - 1, 0, bins - 1)
    count = np.bincount(place, minlength=bins).astype(float)
    kept = count > 0

    def mean(values: Array) -> Array:
        known = np.isfinite(values)
        total = np.bincount(place[known], weights=values[known], minlength=bins)
        many = np.bincount(place[known], minlength=bins)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.asarray((total / many)[kept])

    return ThinLog(
        mean(seconds), {name: mean(values) for name, values in readings.items()},
        None if power_w is None else mean(power_w),
    )  # fmt: skip


def summary_of(seconds: Array, readings: Mapping[str, Array], thin: ThinLog) -> LogSummary:
    """What each sensor shows against the others.

    Parameters
    ----------
    seconds : ndarray
        From the first line [s]
    readings : mapping of str to ndarray
        By sensor, NaN where it showed nothing [°C]
    thin : ThinLog
        The same in bins [s, °C]

    Returns
    -------
    LogSummary
        Offsets to the median, lags behind it, spread and gaps [K, s]

    Notes
    -----
    A lag is that of a first-order sensor behind the median of the others, found from integrals and not from slopes,
    which noise would drown.
    """
    table = np.array([thin.readings[name] for name in readings])
    with np.errstate(invalid="ignore"):
        median = np.nanmedian(table, axis=0)
    tail = max(1, table.shape[1] // 10)
    steps = np.diff(seconds)
    step = float(np.median(steps[steps > 0.0])) if (steps > 0.0).any() else 0.0
    with np.errstate(invalid="ignore"):
        apart = np.nanmax(table, axis=0) - np.nanmin(table, axis=0)
    found = tuple(
        _sensor(name, readings[name], table[at], median, _others(table, at), thin.seconds, tail)
        for at, name in enumerate(readings)
    )
    gaps = steps[steps > GAP * step] if step > 0.0 else steps[:0]
    return LogSummary(
        found, float(seconds[-1]) / 3600.0, step, int(gaps.size), float(gaps.max(initial=0.0)),
        (float(np.nanmean(apart[-tail:])), float(np.nanmax(apart))),
    )  # fmt: skip


def _others(table: Array, at: int) -> Array | None:
    """Median of all sensors but one; None where it is alone."""
    left = np.delete(table, at, axis=0)
    return np.asarray(np.nanmedian(left, axis=0)) if left.size else None


def _sensor(
    name: str, values: Array, binned: Array, median: Array, others: Array | None, seconds: Array, tail: int
) -> SensorSummary:  # fmt: skip
    known = values[np.isfinite(values)]
    offset = float(np.nanmean((binned - median)[-tail:]))
    lag = None if others is None else _lag(binned, others, seconds)
    return SensorSummary(
        name, float(known[0]), float(known[-1]), float(known.max()), offset, lag, int(values.size - known.size)
    )


def _lag(sensor: Array, median: Array, seconds: Array) -> float | None:
    """Time constant of a sensor behind the median [s]: x(t) - x(0) = (1/tau) times the integral of m - x - offset."""
    good = np.isfinite(sensor) & np.isfinite(median)
    if good.sum() < 10:
        return None
    x, m, t = sensor[good], median[good], seconds[good]
    if np.ptp(m) < LEAST_RISE_K:
        return None
    ahead = np.concatenate(([0.0], np.cumsum(np.diff(t) * 0.5 * ((m - x)[1:] + (m - x)[:-1]))))
    design = np.column_stack((ahead, t - t[0]))
    (rate, _), *_ = np.linalg.lstsq(design, x - x[0], rcond=None)
    if not rate > 0.0:
        return None
    lag = 1.0 / float(rate)
    return lag if lag < float(t[-1] - t[0]) else None


def fit_chamber(seconds: Array, air_c: Array, power_w: Array | None, room_c: float) -> Fit:
    """Losses and capacity of a chamber from a logged warm-up, or its time constant where no power was logged.

    Parameters
    ----------
    seconds : ndarray
        From the first reading [s]
    air_c : ndarray
        Of the sensor that is fitted [°C]
    power_w : ndarray or None
        Into the chamber, in the same bins; None where it was not logged [W]
    room_c : float
        Of the room [°C]

    Returns
    -------
    Fit
        losses_w_k and capacity_j_k, else tau_s and rest_c, each with its 95 % interval [W/K, J/K, s, °C]

    Notes
    -----
    One node with losses in proportion; noise of the sensor taken as independent. Holds between the temperatures that
    were seen. What a log cannot tell is named instead of guessed.

    References
    ----------
    Bates and Watts, Nonlinear Regression Analysis and Its Applications.
    """
    good = np.isfinite(air_c) & (np.isfinite(power_w) if power_w is not None else True)
    time, air = seconds[good], air_c[good]
    if time.size < 10:
        return _nothing(air, "fewer than ten readings")
    if np.ptp(air) < LEAST_RISE_K:
        return _nothing(air, f"the air moves by less than {LEAST_RISE_K:g} K")
    if power_w is not None and np.nanmax(power_w) > 0.0:
        return _with_power(time, air, power_w[good], room_c)
    return _without_power(time, air)


def _nothing(air: Array, why: str) -> Fit:
    span = (float(air.min(initial=0.0)), float(air.max(initial=0.0)))
    return Fit({}, (), 0.0, span, (f"losses, capacity and time constant: {why}",))


def _with_power(time: Array, air: Array, power: Array, room_c: float) -> Fit:
    steps = np.diff(time)
    mean_power = 0.5 * (power[1:] + power[:-1])

    def course(values: Array) -> Array:
        losses, capacity, first = np.exp(values[0]), np.exp(values[1]), values[2]
        decay = np.exp(-steps * losses / capacity)
        rest = room_c + mean_power / losses
        found = np.empty(time.size)
        found[0] = first
        for at in range(steps.size):
            found[at + 1] = rest[at] + (found[at] - rest[at]) * decay[at]
        return found

    rise = max(float(np.ptp(air)), 1.0)
    begin = np.array([np.log(max(float(power.mean()), 1.0) / rise),
                      np.log(max(float(power.mean()), 1.0) * float(time[-1]) / rise), air[0]])  # fmt: skip
    found, spread, residual, covariance = _least_squares(course, begin, air)
    names, units = ("losses_w_k", "capacity_j_k"), ("W/K", "J/K")
    values, missing = {}, []
    for at, (name, unit) in enumerate(zip(names, units, strict=True)):
        value, half = float(np.exp(found[at])), TWO_SIDED * float(spread[at])
        if not half < 0.7:
            missing.append(f"{name.split('_')[0]}: the log does not tell it")
            continue
        source = "least squares on the log of readings and power"
        values[name] = Estimate(value, value * float(np.exp(-half)), value * float(np.exp(half)), unit,
                                "single node with losses in proportion", source)  # fmt: skip
    return Fit(values, covariance, residual, (float(air.min()), float(air.max())), tuple(missing))


def _without_power(time: Array, air: Array) -> Fit:
    def course(values: Array) -> Array:
        return np.asarray(values[1] + values[2] * np.exp(-time / np.exp(values[0])))

    span = float(time[-1])
    begin = np.array([np.log(span / 3.0), air[-1], air[0] - air[-1]])
    found, spread, residual, covariance = _least_squares(course, begin, air)
    tau, half = float(np.exp(found[0])), TWO_SIDED * float(spread[0])
    missing = ["losses and capacity: power was not logged, only their ratio is told"]
    values = {}
    if half < 0.7 and tau < 3.0 * span:
        source = "least squares on the log of readings"
        low, high = tau * float(np.exp(-half)), tau * float(np.exp(half))
        values["tau_s"] = Estimate(tau, low, high, "s", "one exponential", source)
        wide = TWO_SIDED * float(spread[1])
        rest = float(found[1])
        values["rest_c"] = Estimate(rest, rest - wide, rest + wide, "°C", "one exponential", source)
    else:
        missing.append("time constant: the log ends before the air bends")
    return Fit(values, covariance, residual, (float(air.min()), float(air.max())), tuple(missing))


def _least_squares(course, begin: Array, air: Array):  # type: ignore[no-untyped-def]
    """Values, their standard errors, what is left over [K], and the covariance."""
    from scipy.optimize import least_squares

    done = least_squares(lambda values: course(values) - air, begin, x_scale=np.maximum(np.abs(begin), 0.1))
    left = np.asarray(done.fun)
    free = max(air.size - begin.size, 1)
    variance = float(left @ left) / free
    normal = done.jac.T @ done.jac
    covariance = variance * np.linalg.pinv(normal)
    spread = np.sqrt(np.maximum(np.diag(covariance), 0.0))
    return done.x, spread, float(np.sqrt(variance)), tuple(tuple(float(each) for each in row) for row in covariance)
