"""Clock times as a person types and reads them."""

import re
from datetime import datetime, timedelta

from kaustos.core.errors import KaustosError


def read_moment(text: str, now: datetime) -> datetime:
    """A moment from "07:30" (the next one), "tomorrow 7:30", "+6 h" or "2026-03-03 07:30", in local time."""
    plain, local = text.strip().lower(), now.astimezone()
    later = re.fullmatch(r"\+\s*(\d+(?:[.,]\d+)?)\s*h", plain)
    if later:
        return local + timedelta(hours=float(later[1].replace(",", ".")))
    clock = re.fullmatch(r"(tomorrow\s+)?([01]?\d|2[0-3]):([0-5]\d)", plain)
    if clock:
        found = local.replace(hour=int(clock[2]), minute=int(clock[3]), second=0, microsecond=0)
        return found + timedelta(days=1) if clock[1] or found <= local else found
    try:
        return datetime.strptime(plain, "%Y-%m-%d %H:%M").replace(tzinfo=local.tzinfo)
    except ValueError as error:
        raise KaustosError(f"“{text:.40}” is no time; write 07:30, tomorrow 7:30, +6 h or 2026-03-03 07:30") from error


def read_past(text: str, now: datetime) -> datetime:
    """A moment that lies behind: "07:30" is the last one, "-6 h" and "6 h ago" are six hours ago."""
    ago = re.fullmatch(r"[-\u2212]?\s*(\d+(?:[.,]\d+)?)\s*(h|d)[a-z]*(\s+ago)?", text.strip().lower())
    if ago:
        hours = float(ago[1].replace(",", ".")) * (24.0 if ago[2] == "d" else 1.0)
        return now.astimezone() - timedelta(hours=hours)
    try:
        found = read_moment(text, now)
    except KaustosError as error:
        raise KaustosError(f"“{text:.40}” is no time that was; write 07:30, 6 h ago or 2026-03-01 07:30") from error
    return found - timedelta(days=1) if found > now and re.fullmatch(r"\s*\d{1,2}:\d\d\s*", text) else found


def moment_words(moment: datetime) -> str:
    """Day and time, in local time."""
    return moment.astimezone().strftime("%a %d %b, %H:%M")


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
