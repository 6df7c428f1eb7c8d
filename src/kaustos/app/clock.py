"""Clock times as a person types and reads them."""

import re
from datetime import date, datetime, timedelta
from datetime import time as clock

from kaustos.core.errors import KaustosError
from kaustos.core.records.fields import EARLIEST, LATEST

_DAYS = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
_CLOCK = r"([01]?\d|2[0-3])(?:[:.h]([0-5]\d))?\s*(am|pm)?"
_DAY = r"(today|tomorrow|yesterday|[a-z]{3,9}|\d{4}-\d\d-\d\d)"
_HOURS = {"min": 1.0 / 60.0, "minute": 1.0 / 60.0, "h": 1.0, "hour": 1.0, "d": 24.0, "day": 24.0, "week": 168.0,
          "w": 168.0}  # fmt: skip
EXAMPLES = "07:30, tomorrow 7.30, Thursday 07:30, 7:30 am, +6 h or 2026-03-03 07:30"
AGO_EXAMPLES = "07:30, 6 h ago, 3 weeks ago, yesterday 16:00, 2026-03-01 or 2026-03-01 07:30"


def read_moment(text: str, now: datetime) -> datetime:
    """A moment that is to come, in local time: "07:30" is the next one, "Thursday 7.30" the next Thursday's."""
    found = _within_time(text, now, ahead=True)
    if found is None:
        raise KaustosError(f"“{text:.40}” is no time; write {EXAMPLES}")
    return found


def read_past(text: str, now: datetime) -> datetime:
    """A moment that lies behind: "07:30" is the last one, "-6 h" and "6 h ago" are six hours ago."""
    found = _within_time(text, now, ahead=False)
    if found is None:
        raise KaustosError(f"“{text:.40}” is no time that was; write {AGO_EXAMPLES}")
    return found


def _within_time(text: str, now: datetime, *, ahead: bool) -> datetime | None:
    """The moment that a text means, by the clock of its own day; one that no shop sees is none."""
    try:
        found = _moment(text, now, ahead=ahead)
    except (OverflowError, ValueError, OSError):
        return None
    return found if found is not None and EARLIEST <= found.year < LATEST else None


def _moment(text: str, now: datetime, *, ahead: bool) -> datetime | None:
    plain = " ".join(text.strip().lower().replace("\u2212", "-").split())
    hours = _hours_away(plain, ahead=ahead)
    if hours is not None:
        return (now + timedelta(hours=hours)).astimezone()
    match = re.fullmatch(rf"(?:{_DAY}(?:\s+at)?)?\s*(?:{_CLOCK})?", plain)
    if not plain or match is None:
        return None
    day, hour, minute, half = match.groups()
    if hour is not None and minute is None and half is None and not (day and plain.endswith(hour)):
        return None  # a bare number is no time
    time = _time(hour, minute, half)
    return None if time is None else _on_day(day, time, now, ahead=ahead)


def _hours_away(plain: str, *, ahead: bool) -> float | None:
    unit = "|".join(sorted(_HOURS, key=len, reverse=True))
    match = re.fullmatch(rf"([+-])?\s*(\d+(?:[.,]\d+)?)\s*({unit})s?(\s+ago)?", plain)
    if match is None:
        return None
    sign, number, word, ago = match.groups()
    hours = float(number.replace(",", ".")) * _HOURS[word]
    if ahead:
        return hours if sign == "+" else None
    return -hours if sign != "+" or ago else None


def _time(hour: str | None, minute: str | None, half: str | None) -> tuple[int, int] | None:
    """Hour and minute of a clock; noon is 12 pm, and 13 pm is no time."""
    if hour is None:
        return 0, 0
    hours = int(hour)
    if half is not None:
        if not 1 <= hours <= 12:
            return None
        hours = hours % 12 + (12 if half == "pm" else 0)
    return hours, int(minute or 0)


def _on_day(day: str | None, time: tuple[int, int], now: datetime, *, ahead: bool) -> datetime | None:
    today = now.astimezone().date()

    def at(days: int, date: date = today) -> datetime:
        """The clock time so many days from a day: by the zone's own rule for that day, not by today's."""
        wall = datetime.combine(date + timedelta(days=days), clock(*time))
        found = wall.astimezone()
        if found.replace(tzinfo=None) != wall:
            found = max(found, wall.replace(fold=1).astimezone())
            raise KaustosError(
                f"{wall:%H:%M} on {wall:%Y-%m-%d} does not exist: the clock is set forward then; write {found:%H:%M}"
            )
        return found

    if day is None:
        if ahead:
            return at(0) if at(0) > now else at(1)
        return at(0) if at(0) <= now else at(-1)
    if day in ("today", "tomorrow", "yesterday"):
        return at({"today": 0, "tomorrow": 1, "yesterday": -1}[day])
    if day[0].isdigit():
        return at(0, date.fromisoformat(day))
    meant = [place for place, name in enumerate(_DAYS) if name.startswith(day)]
    if len(meant) != 1:
        return None
    away = (meant[0] - today.weekday()) % 7
    if ahead:
        return at(away) if at(away) > now else at(away + 7)
    return at(0) if away == 0 and at(0) <= now else at(away - 7)


def moment_words(moment: datetime) -> str:
    """Day and time, in local time."""
    try:
        return moment.astimezone().strftime("%a %d %b, %H:%M")
    except (OverflowError, ValueError, OSError):
        return "a day that cannot be"


NEVER, LONG = "never, in this air", "longer than 10 d"


def ready_words(hours: float, now: datetime, *, never: bool = False) -> str:
    """When something that takes some hours from now is ready; never is kept for a floor above the limit."""
    return moment_words(now + timedelta(hours=hours)) if hours < 1000.0 else NEVER if never else LONG


def start_words(wanted: datetime, hours: float, now: datetime) -> str:
    """When to start so that it is ready at a wanted time."""
    if hours >= 1000.0:
        return LONG
    start = wanted - timedelta(hours=hours)
    return "start now: it is late already" if start < now else f"start by {moment_words(start)}"
