"""Readings of a run: from a line that is watched, or a logger's file afterwards; judged, kept, and what is missing."""

import re
from collections.abc import Callable, Iterable, Mapping
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING

import attrs
import numpy as np

from kaustos.app.device_log import DeviceLog
from kaustos.app.machines import keep_calibration
from kaustos.app.runs import card_as_run, number_of
from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.estimates import RUN
from kaustos.core.planning.cooling import cooling_rate
from kaustos.core.planning.draws import Array
from kaustos.core.planning.readings import Course, told_by
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.core.records import FAULTS, Observation, Place, Run, RunSensor
from kaustos.core.records.fields import value_at
from kaustos.core.review.zones import SETTINGS
from kaustos.devices.registers import controller_at
from kaustos.devices.serial_line import SerialMachine
from kaustos.devices.simulated_machine import Played, SimulatedLine, SimulatedMachine
from kaustos.formats.temperature_log import TemperatureLog, read_log

if TYPE_CHECKING:
    from kaustos.devices.modbus import ModbusDevice

MOST_POINTS = 200
HEADINGS = ("Sensor", "There after", "Fell short", "Drift", "Gaps", "")
_ZONES = {
    "nozzle": re.compile(r"nozzle|hot ?end|extruder|\bt0\b", re.I),
    "plate": re.compile(r"plate|\bbed\b|\bb\b", re.I),
    "chamber": re.compile(r"chamber|enclosure|\bair\b|\bc\b", re.I),
}
_NO_HEAT = re.compile(r"\[mm\]|\bheight\b|\bduty\b|through the file", re.I)


@attrs.frozen(eq=False)
class ReadReadings:
    """A file of readings that is to be judged: a request of a job."""

    file: Path
    wanted_c: Mapping[str, float]  # by zone, where the file does not say it
    hours: float | None  # of the print, for files that do not say what was wanted

    def __call__(self, progress: Progress = UNWATCHED) -> tuple[RunSensor, ...]:
        """Read it."""
        log = read_log(self.file, progress)
        sets = {_plain(name).removesuffix(" set"): values
                for name, values in log.readings.items() if _plain(name).endswith(" set")}  # fmt: skip
        names = [name for name in log.readings if not _plain(name).endswith(" set") and not _NO_HEAT.search(name)]
        if not names:
            raise KaustosError(f"{log.name}: no column of it holds temperatures.")
        courses: dict[str, Course] = {}
        for name in names:
            progress.check()
            plain, shown = _plain(name), log.readings[name]
            duty = next((each for key, each in log.duties_pct.items() if _plain(key) == f"{plain} duty"), None)
            wanted = self._wanted(plain, log.seconds, shown, sets.get(plain))
            courses[plain] = Course(seconds=log.seconds, shown_c=shown, wanted_c=wanted, duty_pct=duty)
        rest = _at_rest(courses.values())
        return tuple(_sensor(plain, log, course, rest) for plain, course in courses.items())

    def _wanted(self, name: str, seconds: Array, shown: Array, said: Array | None) -> Array | None:
        """What was wanted of a sensor's zone: as the file says, else as the run was to go; None for one beside it."""
        if said is not None:
            return _held(said)
        zone = zone_of(name)
        if zone is None or zone not in self.wanted_c or not self.hours:
            return None
        return _while_printing(seconds, shown, self.wanted_c[zone], self.hours)


def zone_of(name: str) -> str | None:
    """The heated zone that words speak of; None for none."""
    return next((key for key, words in _ZONES.items() if words.search(name)), None)


def _at_rest(courses: Iterable[Course]) -> "np.ndarray[tuple[int], np.dtype[np.bool_]] | None":
    """When heated zones were at their setpoints; None where no zone says."""
    found = None
    for each in courses:
        if each.wanted_c is not None:
            wanted = each.wanted_c > RUN["heated_c"].value
            with np.errstate(invalid="ignore"):
                there = wanted & (each.shown_c >= each.wanted_c - RUN["short_k"].value)
            found = there if found is None else found & there
    return found


def _sensor(
    name: str, log: TemperatureLog, course: Course, rest: "np.ndarray[tuple[int], np.dtype[np.bool_]] | None"
) -> RunSensor:  # fmt: skip
    """The record of one sensor; one beside the zones drifts only while these are at rest."""
    seconds, shown, wanted = course.seconds, course.shown_c, course.wanted_c
    told = told_by(course)
    if wanted is None:
        still = None
        if rest is not None and np.count_nonzero(rest) > 1:
            still = told_by(attrs.evolve(course, seconds=seconds[rest], shown_c=shown[rest], duty_pct=None))
        told = attrs.evolve(told, drift_k_h=still.drift_k_h if still is not None else None)
    there = np.flatnonzero(~np.isnan(shown))
    pick = there[np.unique(np.linspace(0, max(there.size - 1, 0), min(there.size, MOST_POINTS)).astype(int))]
    return RunSensor(
        name=name[:60], zone=zone_of(name), from_utc=_moment(log.began),
        hours=_rounded((seconds[pick] - seconds[0]) / 3600.0, 4), shown_c=_rounded(shown[pick], 2),
        set_c=() if wanted is None else _rounded(wanted[pick], 1), reached_min=told.reached_min,
        short_k=told.short_k or None, short_min=told.short_min or None, drift_k_h=told.drift_k_h,
        stuck_min=told.stuck_min or None, gap_min=told.gap_min or None, full_min=told.full_min or None,
        says=told.says,
    )  # fmt: skip


def _moment(began: str) -> str:
    """The first moment of a log where it says its time zone; empty where it does not."""
    try:
        found = datetime.fromisoformat(began.replace("Z", "+00:00"))
    except ValueError:
        return ""
    return stamp(found) if found.tzinfo is not None else ""


def _plain(name: str) -> str:
    """A column's name without its unit, and without the device in front of it."""
    return re.sub(r"\s*[\[(].*?[\])]\s*$", "", name).rpartition(": ")[2].strip()


def _held(wanted: Array) -> Array:
    """A setpoint stands until another is said."""
    last = np.maximum.accumulate(np.where(np.isnan(wanted), 0, np.arange(wanted.size)))
    return np.nan_to_num(wanted[last])


def _while_printing(seconds: Array, shown: Array, wanted_c: float, hours: float) -> Array:
    """What was wanted where only the recipe says it: from the beginning until the print had to be over."""
    there = np.flatnonzero(shown >= wanted_c - RUN["there_k"].value)
    begin = seconds[there[0]] if there.size else seconds[0]
    over = seconds > begin + 3600.0 * hours
    return np.where(over & bool(there.size), 0.0, wanted_c)


def _rounded(values: Array, digits: int) -> tuple[float, ...]:
    return tuple(round(float(each), digits) for each in values)


def reading_of(workspace: Workspace, run: str, file: Path) -> ReadReadings:
    """The request that reads a file for a run.

    Of first layer and running the lower heat is what a zone has to hold: a file that does not say when one becomes
    the other would else have it fall short.
    """
    record = workspace.draft.records.runs[run]
    hours = record.planned_h if record.ran_h is None else record.ran_h
    card, wanted = card_as_run(workspace, record), dict(record.hot)
    if card is not None:
        for zone, fields in SETTINGS.items():
            set_c = [value for path, *_ in fields if (value := value_at(card.recipe, path)) is not None]
            wanted |= {zone: min(set_c)} if set_c else {}
    return ReadReadings(file=file, wanted_c=wanted, hours=hours)


def keep_readings(workspace: Workspace, run: str, sensors: tuple[RunSensor, ...], file: Path) -> str:
    """Keep what sensors showed with a run, and its file; a heater that fell short goes into what was seen.

    How the plate cooled is kept as a calibration of its own, once for a file.
    """
    record = workspace.draft.records.runs.get(run)
    if record is None:
        raise KaustosError(f"The run that {file.name} was read for is gone; nothing was kept.")
    kept = workspace.attach(file)
    values: dict[Place, object] = {
        Place("runs", run, "sensors"): sensors, Place("runs", run, "readings"): kept,
    }  # fmt: skip
    short = [each for each in sensors if each.zone is not None and {"short", "never"} & set(each.says)]
    if short and "short_of_heat" not in record.seen:
        note = "; ".join(fault_words(each, workspace.draft.wording) for each in short)
        seen = Observation(what="short_of_heat", where="machine", note=note[:200])
        values[Place("runs", run, "observations")] = (*record.observations, seen)
    workspace.draft.set(values, title=f"Run {number_of(run)}: readings of {file.name}")
    said = [readings_words(workspace.draft.records.runs[run], workspace.draft.wording)]
    known = kept == record.readings
    return " ".join([*said, *([] if known else _learn_cooling(workspace, record, sensors, file.name))])


def _learn_cooling(workspace: Workspace, run: Run, sensors: tuple[RunSensor, ...], name: str) -> list[str]:
    """How quickly the plate cooled after its heater went off, kept as a calibration of the machine where it is told."""
    plate = next((each for each in sensors if each.zone == "plate" and each.set_c), None)
    if plate is None or run.machine not in workspace.draft.records.machines:
        return []
    hours, shown, wanted = (np.array(each) for each in (plate.hours, plate.shown_c, plate.set_c))
    hot = np.flatnonzero(wanted > 0.0)
    off = int(hot[-1]) + 1 if hot.size else hours.size
    if off >= hours.size:
        return []
    room = workspace.draft.records.rules.room_c
    rate = cooling_rate(60.0 * (hours[off:] - hours[off]), shown[off:], room)
    if rate is None:
        return []
    values = {"rate_per_min": rate.value, "rate_half": (rate.high - rate.low) / 2.0}
    note = f"{name}, run {number_of(run.id)}"
    keep_calibration(workspace, str(run.machine), "plate_cooling", values, plate.name, note)
    third = workspace.draft.wording.value(1.0 / rate.value, "minutes")
    return [f"Its plate nears the room to a third in {third}: cooling is reckoned with that from now on."]


def fault_words(sensor: RunSensor, wording: Wording) -> str:
    """What is wrong with a sensor or its heater; empty for nothing."""
    sizes = {
        "short": f" by {wording.value(sensor.short_k or 0.0, 'temperature_difference')} for "
                 f"{wording.value(sensor.short_min or 0.0, 'minutes')}",
        "full": f" for {wording.value(sensor.full_min or 0.0, 'minutes')}",
        "drift": f" by {wording.value(sensor.drift_k_h or 0.0, 'temperature_difference')} in an hour",
        "stuck": f" for {wording.value(sensor.stuck_min or 0.0, 'minutes')}",
        "gaps": f", the longest {wording.value(sensor.gap_min or 0.0, 'minutes')}",
    }  # fmt: skip
    words = [FAULTS[each] + sizes.get(each, "") for each in sensor.says]
    return f"{sensor.name} {', '.join(words)}" if words else ""


def readings_words(run: Run, wording: Wording) -> str:
    """What the readings of a run say, the worst first."""
    if not run.sensors:
        return ""
    order = tuple(FAULTS)
    faults = sorted((each for each in run.sensors if each.says), key=lambda each: order.index(each.says[0]))
    if not faults:
        return f"{_covered(run)}: each got there and stayed."
    return "; ".join(fault_words(each, wording) for each in faults) + f". {_covered(run)}."


def _covered(run: Run) -> str:
    """How many sensors for how long; where that is less than the run, of how much of it nothing is known."""
    hours = max((each.hours[-1] for each in run.sensors if each.hours), default=0.0)
    words = f"{len(run.sensors)} sensors over {hours_words(hours)}"
    return words + (f" of {hours_words(run.planned_h)}" if run.planned_h and hours < run.planned_h else "")


def sensor_rows(run: Run, wording: Wording) -> list[tuple[str, ...]]:
    """A line for each sensor."""

    def shown(value: float | None, quantity: str, nothing: str) -> str:
        return nothing if value is None else wording.value(value, quantity)

    return [
        (
            each.name, shown(each.reached_min, "minutes", "not told" if not each.set_c else "never"),
            shown(each.short_k, "temperature_difference", "no"), shown(each.drift_k_h, "temperature_difference", "no"),
            shown(each.gap_min, "minutes", "none"), ", ".join(FAULTS[key] for key in each.says),
        )
        for each in run.sensors
    ]  # fmt: skip


def missing_words(run: Run) -> str:
    """What nobody recorded of a run, to be asked before its record closes; empty where all is there."""
    read = {each.zone for each in run.sensors}
    lacks = [f"readings of the {zone}" for zone in run.hot if zone not in read]
    said = {
        "how the part came off": run.off, "who looked at layer one": run.looked_utc,
        "filament taken": run.mass_g, "its lot": run.lot, "its plate": run.plate, "a photo": run.photos,
    }  # fmt: skip
    lacks += [name for name, value in said.items() if not value]
    open_steps = [each for each in run.steps if not each.is_over and each.key != "close"]
    lacks += [f"{len(open_steps)} steps of the card"] if open_steps else []
    return f"Not recorded: {', '.join(lacks)}." if lacks else ""


# ---- a line that is watched


@attrs.frozen
class Watch:
    """A machine that is watched for one run: its log, and what to let go of at the end."""

    run: str
    log: DeviceLog
    file: Path
    ends: tuple[Callable[[], object], ...]

    def stop(self) -> None:
        """Let go of the line."""
        for end in self.ends:
            end()


@attrs.frozen(eq=False)
class OpenWatch:
    """A line that is to be opened for a run, which can take seconds: a request of a job."""

    run: str
    file: Path
    clock: Callable[[], datetime]
    open_device: "Callable[[], SerialMachine | ModbusDevice]"

    def __call__(self, progress: Progress = UNWATCHED) -> Watch:
        """Open it and ask once; a line that was called off meanwhile is let go."""
        device = self.open_device()
        try:
            progress.check()
        except BaseException:
            device.close()
            raise
        return Watch(
            run=self.run, log=DeviceLog((device,), self.file, self.clock), file=self.file, ends=(device.close,)
        )


def line_of(workspace: Workspace, run: str, port: str, file: Path) -> OpenWatch:
    """How a machine on a serial line is watched; refused once the print has begun, for opening can reset a board."""
    record = _not_ended(workspace, run)
    if any(each.key == "start" and each.is_over for each in record.steps):
        raise KaustosError(
            f"Run {number_of(run)} prints: opening the line now can reset its board and end the run. Read a logger's "
            "file afterwards."
        )
    name = _named(workspace, record)
    return OpenWatch(run, file, workspace.clock, lambda: SerialMachine(port, name))


def controller_of(workspace: Workspace, run: str, words: str, file: Path) -> OpenWatch:
    """How a chamber controller is watched over Modbus TCP, by functions 3 and 4 alone; that disturbs no board."""
    from kaustos.devices.modbus import ModbusDevice

    name = f"{_named(workspace, _not_ended(workspace, run))} chamber"
    host, port, registers = controller_at(words)

    def opened() -> ModbusDevice:
        device = ModbusDevice(host, port, name, registers, may_set=False)
        try:
            device.read()
        except BaseException:
            device.close()
            raise
        return device

    return OpenWatch(run, file, workspace.clock, opened)


def begun(workspace: Workspace, watch: Watch) -> Watch:
    """A line that was opened for a run; let go again where that run is gone or has ended meanwhile."""
    try:
        _not_ended(workspace, watch.run)
    except KaustosError:
        watch.stop()
        raise
    return watch


def _not_ended(workspace: Workspace, run: str) -> Run:
    record = workspace.draft.records.runs.get(run)
    if record is None:
        raise KaustosError("The run that was to be watched is gone.")
    if record.is_ended:
        raise KaustosError(f"Run {number_of(run)} has ended; read a logger's file instead.")
    return record


def _named(workspace: Workspace, run: Run) -> str:
    machine = workspace.draft.records.machines.get(run.machine or "")
    return machine.name if machine is not None else "Machine"


def watch_simulated(
    workspace: Workspace, run: str, clock: Callable[[], float], file: Path, now: Callable[[], datetime]
) -> Watch:  # fmt: skip
    """Watch a simulated machine that plays this run by a clock of its own."""
    record = workspace.draft.records.runs[run]
    job = workspace.draft.records.tables["jobs"].get(record.job or "")
    height = max(job.heights_mm, default=0.0) if job is not None else 0.0
    played = Played(hours=record.planned_h or 1.0, heats_c=dict(record.hot), height_mm=height)
    line = SimulatedLine(SimulatedMachine(played, clock, np.random.default_rng()))
    try:
        device = SerialMachine(line.port, SimulatedMachine.name)
    except BaseException:
        line.stop()
        raise
    return Watch(run=run, log=DeviceLog((device,), file, now), file=file, ends=(device.close, line.stop))
