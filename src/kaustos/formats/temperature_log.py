"""Reads logs of temperatures: any separator, decimal comma, several ways of writing time, gaps, many sensors."""

import csv
import io
import re
from pathlib import Path
from typing import Any

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import KaustosError
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.disk import name_of

Array = NDArray[np.float64]
SEPARATORS = (";", "\t", ",", "|")
NOTHING = ["", "nan", "NaN", "NA", "n/a", "---", "open", "OPEN", "OFL", "null"]
HEAD_BYTES = 65_536
CHUNK = 50_000  # lines between two looks up
TIMES = (
    "%Y-%m-%d %H:%M:%S", "%Y-%m-%dT%H:%M:%S", "%Y-%m-%d %H:%M:%S.%f", "%Y-%m-%dT%H:%M:%S.%f", "%Y-%m-%dT%H:%M:%S%z",
    "%Y-%m-%dT%H:%M:%S.%f%z", "%Y-%m-%d %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M", "%d/%m/%Y %H:%M:%S",
    "%m/%d/%Y %H:%M:%S", "%Y/%m/%d %H:%M:%S", "%H:%M:%S", "%H:%M:%S.%f", "%H:%M",
)  # fmt: skip
_IS_TIME = re.compile(r"time|date|stamp|zeit|datum|uhr|^t( |\[|\(|_|$)|at_utc|elapsed", re.I)
_IS_POWER = re.compile(r"power|watt|leistung|\[w\]|\(w\)|_w$", re.I)
_IS_DUTY = re.compile(r"duty|pwm|output", re.I)
_IS_OTHER = re.compile(r"humid|setpoint|sollwert|gross|mass|\[%|\(%|fault|note|remark|comment", re.I)
_IN_F = re.compile(r"°F|\[F\]|\(F\)|degF|_f$", re.I)
_UNITS_S = (
    (re.compile(r"[\[(_ ](h|hours?|std)[\])]?$", re.I), 3600.0),
    (re.compile(r"[\[(_ ](min|minutes?)[\])]?$", re.I), 60.0),
    (re.compile(r"[\[(_ ](ms)[\])]?$", re.I), 1e-3),
)


@attrs.frozen(eq=False)
class TemperatureLog:
    """What a log holds: seconds from its first line, readings by sensor [°C], power where it was logged [W]."""

    name: str
    seconds: Array
    readings: dict[str, Array]  # NaN where a sensor showed nothing
    power_w: Array | None
    duty_pct: Array | None
    duties_pct: dict[str, Array]  # of every heater whose duty was logged, by the name of its column
    began: str  # as the file writes it
    notes: tuple[str, ...]  # how it was understood


@attrs.frozen
class _Shape:
    """How a file is written."""

    separator: str
    decimal: str
    skip: int  # lines in front of the headings
    names: tuple[str, ...]
    has_names: bool
    time: str
    sensors: tuple[str, ...]
    power: str | None
    duties: tuple[str, ...]
    time_format: str | None  # None for a number
    per_unit_s: float


def looks_like_log(file: Path) -> bool:
    """Whether a table begins as a log does: a column of moments by its name, and columns of numbers beside it."""
    try:
        shape = _shape_of(file, name_of(file))
    except KaustosError:
        return False
    return shape.has_names and bool(shape.sensors) and bool(_IS_TIME.search(shape.time))


def read_log(file: Path, progress: Progress = UNWATCHED) -> TemperatureLog:
    """The temperatures in a file; the first thing that cannot be understood is named with its line."""
    import pandas

    name = name_of(file)
    shape = _shape_of(file, name)
    columns = [shape.time, *shape.sensors, *([shape.power] if shape.power else []), *shape.duties]
    size = max(file.stat().st_size, 1)
    parts: list[Any] = []
    seconds: list[Array] = []
    line = shape.skip + (2 if shape.has_names else 1)
    began = ""
    with file.open("rb") as stream:
        try:
            reader = pandas.read_csv(
                stream, sep=shape.separator, decimal=shape.decimal, header=None, names=list(shape.names),
                skiprows=line - 1, usecols=columns, na_values=NOTHING, keep_default_na=False, chunksize=CHUNK,
                skip_blank_lines=True, encoding="utf-8-sig", encoding_errors="replace", low_memory=False,
                dtype={shape.time: str} if shape.time_format else None, skipinitialspace=True,
            )  # fmt: skip
            for part in reader:
                progress.check()
                progress.report(min(stream.tell(), size), size)
                began = began or str(part[shape.time].iloc[0])
                seconds.append(_seconds(part[shape.time], shape, name, line))
                parts.append({each: _numbers(part[each], name, line, each) for each in columns[1:]})
                line += len(part)
        except (pandas.errors.ParserError, pandas.errors.EmptyDataError, ValueError) as error:
            raise KaustosError(f"{name}: {str(error).strip()}") from error
    if not parts:
        raise KaustosError(f"{name}: holds no line of readings")
    time = np.concatenate(seconds)
    whole = {each: np.concatenate([part[each] for part in parts]) for each in columns[1:]}
    return _checked(name, shape, time, whole, began)


def _checked(name: str, shape: _Shape, time: Array, whole: dict[str, Array], began: str) -> TemperatureLog:
    notes: list[str] = []
    first = shape.skip + (2 if shape.has_names else 1)
    steps = np.diff(time)
    if shape.time_format in ("%H:%M:%S", "%H:%M:%S.%f", "%H:%M"):
        days = np.cumsum(np.concatenate(([0.0], np.where(steps < -43_200.0, 86_400.0, 0.0))))
        if days[-1]:
            time, notes = time + days, [*notes, f"passes midnight {int(days[-1] // 86_400)} times"]
            steps = np.diff(time)
    back = np.flatnonzero(steps < 0.0)
    if back.size:
        raise KaustosError(f"{name}: line {first + int(back[0]) + 1}: its time lies before that of the line above")
    if time.size < 2 or time[-1] <= time[0]:
        raise KaustosError(f"{name}: all its lines are of one moment")
    readings = {each: whole[each] for each in shape.sensors}
    for each in shape.sensors:
        if _IN_F.search(each):
            readings[each] = (readings[each] - 32.0) / 1.8
            notes.append(f"{each}: read as °F")
    empty = [each for each, values in readings.items() if not np.isfinite(values).any()]
    if len(empty) == len(readings):
        raise KaustosError(f"{name}: no column holds a temperature")
    notes += [f"{each}: shows nothing" for each in empty]
    notes.append(f"separator {_named(shape.separator)}, decimal {'comma' if shape.decimal == ',' else 'point'}")
    return TemperatureLog(
        name, time - time[0], {each: values for each, values in readings.items() if each not in empty},
        whole.get(shape.power or ""), whole[shape.duties[0]] if shape.duties else None,
        {each: whole[each] for each in shape.duties}, began, tuple(notes),
    )  # fmt: skip


def _named(separator: str) -> str:
    return {"\t": "tab", ";": "semicolon", ",": "comma", "|": "bar"}[separator]


def _shape_of(file: Path, name: str) -> _Shape:
    with file.open("rb") as stream:
        raw = stream.read(HEAD_BYTES)
    head = raw.decode("utf-8-sig", errors="replace")
    if "\x00" in head:
        raise KaustosError(f"{name}: is no text")
    lines = head.splitlines()
    if len(raw) == HEAD_BYTES:
        lines = lines[:-1]  # it may be cut off
    kept = [(place, each) for place, each in enumerate(lines) if each.strip() and not each.lstrip().startswith("#")]
    if not kept:
        raise KaustosError(f"{name}: holds nothing")
    separator = _separator(kept, name)
    rows = [(place, next(csv.reader(io.StringIO(each), delimiter=separator))) for place, each in kept[:60]]
    wide = max(len(cells) for _, cells in rows)
    rows = [(place, cells) for place, cells in rows if len(cells) >= max(2, wide - 1)]
    if wide < 2 or not rows:
        raise KaustosError(f"{name}: has one column only; a log wants a time and at least one temperature")
    place, first = rows[0]
    decimal = (
        "," if separator != "," and any(re.fullmatch(r"-?\d+,\d+", c.strip()) for _, r in rows for c in r) else "."
    )
    has_names = not any(_is_number(cell, decimal) for cell in first[1:] if cell.strip())
    names = [each.strip() for each in first] if has_names else ["time", *(f"sensor {n}" for n in range(1, wide))]
    names += [f"column {n + 1}" for n in range(len(names), wide)]
    named = [each for each in names if each]
    twice = sorted({each for each in named if named.count(each) > 1})
    if twice:
        raise KaustosError(f"{name}: line {place + 1}: {', '.join(twice)} stands twice; which sensor is which?")
    names = [each or f"column {n + 1}" for n, each in enumerate(names)]
    data = [cells for _, cells in (rows[1:] if has_names else rows)]
    if not data:
        raise KaustosError(f"{name}: holds headings and no readings")
    time = next((each for each in names if _IS_TIME.search(each)), names[0])
    column = [cells[names.index(time)].strip() for cells in data if len(cells) > names.index(time)]
    power = next((each for each in names if each != time and _IS_POWER.search(each)), None)
    duties = tuple(each for each in names if each not in (time, power) and _IS_DUTY.search(each))
    others = [each for each in names if each not in (time, power, *duties) and not _IS_OTHER.search(each)]
    sensors = [each for each in others if _holds_numbers(data, names.index(each), decimal)]
    if not sensors:
        raise KaustosError(f"{name}: no column of temperatures is found beside {time!r}; columns: {', '.join(names)}")
    form, per_unit = _time_format(column, time, decimal, name, place + (2 if has_names else 1))
    return _Shape(
        separator, decimal, place, tuple(names), has_names, time, tuple(sensors), power, duties, form, per_unit
    )


def _separator(kept: list[tuple[int, str]], name: str) -> str:
    counts = {
        each: [len(next(csv.reader(io.StringIO(line), delimiter=each))) for _, line in kept[-40:]]
        for each in SEPARATORS
    }
    steady = {each: found[0] for each, found in counts.items() if min(found) == max(found) > 1}
    if steady:
        return max(steady, key=lambda each: (each == ";", steady[each]))
    likely = max(counts, key=lambda each: sorted(counts[each])[len(counts[each]) // 2])
    if max(counts[likely]) < 2:
        raise KaustosError(f"{name}: has one column only; a log wants a time and at least one temperature")
    return likely


def _is_number(cell: str, decimal: str) -> bool:
    try:
        float(cell.strip().replace(",", ".") if decimal == "," else cell)
    except ValueError:
        return False
    return True


def _holds_numbers(data: list[list[str]], place: int, decimal: str) -> bool:
    """Whether most of what stands in a column are numbers."""
    cells = [row[place].strip() for row in data if len(row) > place and row[place].strip() not in NOTHING]
    return not cells or sum(_is_number(each, decimal) for each in cells) > 0.5 * len(cells)


def _time_format(column: list[str], time: str, decimal: str, name: str, line: int) -> tuple[str | None, float]:
    """How the time is written: a format, or None for a number with the seconds of its unit."""
    from datetime import datetime

    if all(_is_number(each, decimal) for each in column):
        return None, next((factor for pattern, factor in _UNITS_S if pattern.search(time)), 1.0)
    plain = [each.replace("Z", "+00:00") for each in column]
    for form in TIMES:
        try:
            for each in plain:
                datetime.strptime(each, form)
        except ValueError:
            continue
        return form, 1.0
    for place, each in enumerate(plain):
        if not any(_fits(each, form) for form in TIMES) and not _is_number(each, decimal):
            raise KaustosError(f"{name}: line {line + place}: {each!r:.40} is no time that is understood")
    raise KaustosError(f"{name}: line {line}: its times are written in more than one way")


def _fits(text: str, form: str) -> bool:
    from datetime import datetime

    try:
        datetime.strptime(text, form)
    except ValueError:
        return False
    return True


def _seconds(column: Any, shape: _Shape, name: str, line: int) -> Array:
    """The time column in seconds; what is no time is named with its line."""
    import pandas

    if shape.time_format is None:
        return _numbers(column, name, line, shape.time, may_lack=False) * shape.per_unit_s
    text = column
    if "%z" in shape.time_format:
        text = column.str.replace("Z", "+00:00", regex=False)
    found = pandas.to_datetime(text, format=shape.time_format, errors="coerce", utc="%z" in shape.time_format)
    values = found.to_numpy(dtype="datetime64[ns]").astype("int64")
    bad = np.flatnonzero(found.isna().to_numpy())
    if bad.size:
        cell = column.iloc[int(bad[0])]
        said = "has no time" if not isinstance(cell, str) else f"{cell!r:.40} is no time like those above"
        raise KaustosError(f"{name}: line {line + int(bad[0])}: {said}")
    return np.asarray(values / 1e9)


def _numbers(column: Any, name: str, line: int, title: str, *, may_lack: bool = True) -> Array:
    import pandas

    if column.dtype.kind in "fiu":
        found = column.to_numpy(dtype=float)
    else:
        found = pandas.to_numeric(column, errors="coerce").to_numpy(dtype=float)
        bad = np.flatnonzero(np.isnan(found) & column.notna().to_numpy())
        if bad.size:
            cell = str(column.iloc[int(bad[0])])
            raise KaustosError(f"{name}: line {line + int(bad[0])}, column {title}: {cell!r:.40} is no number")
    if not may_lack and np.isnan(found).any():
        raise KaustosError(f"{name}: line {line + int(np.flatnonzero(np.isnan(found))[0])}: has no time")
    return np.asarray(found)
