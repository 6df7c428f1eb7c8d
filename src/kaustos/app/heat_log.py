"""A log of temperatures for a machine: read, summarised, fitted, and what of it is kept as a calibration."""

from pathlib import Path

import attrs
import numpy as np

from kaustos.app.machines import keep_calibration, standing
from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.fitting.heat_log import Fit, LogSummary, ThinLog, fit_chamber, summary_of, thinned
from kaustos.core.physics.chamber import warm_up
from kaustos.core.planning.warmth import chamber_of, idle_heat
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.core.records import Machine
from kaustos.formats.temperature_log import read_log

SENSOR_HEADINGS = ("Sensor", "Began", "Ended", "Most", "To the median", "Follows after", "Lacks")


@attrs.frozen(eq=False)
class HeatLog:
    """What was read and what it tells."""

    name: str
    thin: ThinLog
    summary: LogSummary
    notes: tuple[str, ...]


@attrs.frozen(eq=False)
class ReadHeatLog:
    """A log that is to be read and summarised: a request of a job."""

    file: Path
    heater_w: float | None  # for logs of duty

    def __call__(self, progress: Progress = UNWATCHED) -> HeatLog:
        """Read it."""
        log = read_log(self.file, progress)
        power = log.power_w
        if power is None and log.duty_pct is not None and self.heater_w:
            power = log.duty_pct / 100.0 * self.heater_w
        progress.check()
        thin = thinned(log.seconds, log.readings, power)
        progress.check()
        return HeatLog(log.name, thin, summary_of(log.seconds, log.readings, thin), log.notes)


_SHOWN = {  # title, unit, how many of ours make one
    "losses_w_k": ("Losses", "W/K", 1.0),
    "capacity_j_k": ("Capacity", "kJ/K", 1e3),
    "tau_s": ("Time constant", "min", 60.0),
    "rest_c": ("Comes to", "°C", 1.0),
}


def fit_of(log: HeatLog, sensor: str, room_c: float) -> Fit:
    """The fit of one sensor of a log."""
    if sensor not in log.thin.readings:
        raise KaustosError(f"{log.name} has no sensor {sensor!r:.40}")
    return fit_chamber(log.thin.seconds, log.thin.readings[sensor], log.thin.power_w, room_c)


def sensor_rows(log: HeatLog, wording: Wording) -> list[tuple[str, ...]]:
    """Each sensor: where it began and ended, its distance to the median, how much later it follows."""
    return [
        (
            each.name, wording.value(each.first_c, "temperature"), wording.value(each.last_c, "temperature"),
            wording.value(each.most_c, "temperature"), wording.value(each.offset_k, "temperature_difference"),
            "not told" if each.lag_s is None else hours_words(each.lag_s / 3600.0),
            str(each.lacks) if each.lacks else "none",
        )
        for each in log.summary.sensors
    ]  # fmt: skip


def log_words(log: HeatLog, fit: Fit | None, wording: Wording) -> str:
    """What a log tells, in sentences."""
    found, spread = log.summary, log.summary.spread_k
    words = [f"{log.name}: {hours_words(found.hours)}, a reading every {found.step_s:g} s, {', '.join(log.notes)}."]
    if found.gaps:
        words.append(f"{found.gaps} gaps, the longest {hours_words(found.longest_gap_s / 3600.0)}.")
    if len(found.sensors) > 1:
        apart, most = (wording.value(each, "temperature_difference") for each in spread)
        words.append(f"Sensors stand {apart} apart at the end, {most} at most: every figure names its sensor.")
    if fit is not None:
        for key, each in fit.values.items():
            title, unit, scale = _SHOWN[key]
            low, value, high = (f"{at / scale:.3g}" for at in (each.low, each.value, each.high))
            words.append(f"{title} {value} {unit} ({low} to {high}).")
        words += [f"{each[:1].upper()}{each[1:]}." for each in fit.missing]
        if fit.values:
            low, high = (wording.value(each, "temperature") for each in fit.holds_c)
            words.append(
                f"Seen from {low} to {high}; left over {fit.residual_k:.2g} K; the band covers noise, not "
                "what one node leaves out."
            )
    return " ".join(words)


def keep_offset(workspace: Workspace, machine: str, log: HeatLog, display: str, reference: str) -> str:
    """Keep how far the display stands from the reference at the end of a log, as the offset of the chamber."""
    by_name = {each.name: each for each in log.summary.sensors}
    if display not in by_name or reference not in by_name or display == reference:
        raise KaustosError("Choose two sensors: what the machine shows, and the one beside the part.")
    off = by_name[reference].offset_k - by_name[display].offset_k
    values = {"offset_k": off, "spread_k": log.summary.spread_k[0] / 2.0, "at_c": by_name[display].last_c}
    note = f"{log.name}: {reference} beside the part against {display}"
    keep_calibration(workspace, machine, "chamber_offset", values, reference, note)
    return f"The chamber is {off:+.1f} K of what {display} shows, by {reference}. Recipes are judged by that."


def keep_fit(workspace: Workspace, machine: str, log: HeatLog, sensor: str, fit: Fit) -> str:
    """Keep fitted losses and capacity as a calibration; refused where the log does not tell them."""
    if "losses_w_k" not in fit.values:
        raise KaustosError("Losses are told only where power was logged. " + "; ".join(fit.missing))
    values: dict[str, float] = {}
    for key in ("losses_w_k", "capacity_j_k"):
        if key in fit.values:
            each = fit.values[key]
            values |= {key: each.value, f"{key}_half": (each.high - each.low) / 2.0}
    low, high = fit.holds_c
    note = f"{log.name}, sensor {sensor}, seen from {low:.0f} to {high:.0f} °C"
    keep_calibration(workspace, machine, "chamber_fit", values, sensor, note)
    return "Kept: heat wanted, warm-up and soak are computed with it from now on."


@attrs.frozen(eq=False)
class WarmPicture:
    """A warm-up: what the model says, with its band, and what sensors showed; minutes and °C."""

    minutes: np.ndarray
    model: tuple[np.ndarray, np.ndarray, np.ndarray] | None  # low, likely, high
    wall: np.ndarray | None
    sensors: tuple[tuple[str, np.ndarray, np.ndarray], ...]  # name, minutes, °C
    wanted_c: float | None

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw."""
        return self.model is None and not self.sensors


def warm_picture(workspace: Workspace, machine: Machine, log: HeatLog | None) -> WarmPicture:
    """The model of a machine's chamber over time beside a log of it."""
    records = workspace.draft.records
    recipe = records.card.recipe if records.current is not None else None
    plate = recipe.plate.bed_c if recipe else None
    wanted = recipe.heat.chamber_c if recipe else None
    sensors = () if log is None else tuple(
        (name, log.thin.seconds / 60.0, values) for name, values in log.thin.readings.items()
    )  # fmt: skip
    span = float(log.thin.seconds[-1]) / 60.0 if log is not None else 180.0
    minutes = np.linspace(0.0, span, 90)
    room = records.rules.room_c
    fit = next((each for each in standing(workspace, machine.id) if each.kind == "chamber_fit"), None)
    chamber = chamber_of(machine, fit)
    if chamber is None:
        return WarmPicture(minutes, None, None, sensors, wanted)
    watts = (machine.chamber.heater.power_w or 0.0) if machine.chamber.heater.fitted is not False else 0.0
    course = warm_up(chamber, watts + idle_heat(), plate if plate is not None else room, room)
    air = course.air(minutes[:, None] * 60.0)
    if wanted is not None and watts:
        air = np.minimum(air, wanted)
    low, high, likely = (np.percentile(air, share, axis=1) for share in (2.5, 97.5, 50.0))
    wall = np.median(course.wall(minutes[:, None] * 60.0), axis=1)
    return WarmPicture(minutes, (low, likely, high), np.minimum(wall, likely), sensors, wanted)
