"""The live log of a device: every reading and every fault with its moment, kept in a file as it comes."""

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import attrs

from kaustos.devices import DeviceFault, DryerReading, DryingDevice

KEPT = 2_000
HEADINGS = "at_utc,temperature [°C],setpoint [°C],humidity [%],fault\n"


@attrs.frozen
class Entry:
    """One look at a device: a reading, or why there was none."""

    at: datetime
    reading: DryerReading | None
    fault: str = ""


class DeviceLog:
    """Looks at a device and keeps what it shows; a fault is an entry, never the end."""

    def __init__(self, device: DryingDevice, file: Path | None, clock: Callable[[], datetime]) -> None:
        self._device, self._file, self._clock = device, file, clock
        self.entries: list[Entry] = []
        if file is not None and not file.exists():
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(HEADINGS, encoding="utf-8")

    def look(self) -> Entry:
        """Look once."""
        try:
            entry = Entry(self._clock(), self._device.read())
        except DeviceFault as fault:
            entry = Entry(self._clock(), None, str(fault))
        self.entries = [*self.entries[-KEPT + 1 :], entry]
        if self._file is not None:
            with self._file.open("a", encoding="utf-8") as file:
                file.write(_line(entry))
        return entry


def _line(entry: Entry) -> str:
    shown = entry.reading
    values = ("", "", "") if shown is None else (shown.temperature_c, shown.setpoint_c, shown.humidity_pct)
    cells = [entry.at.astimezone(UTC).isoformat(), *(f"{each}" for each in values), entry.fault.replace(",", ";")]
    return ",".join(cells) + "\n"


def log_file(name: str, started: datetime) -> Path:
    """Where the log of a device is kept."""
    import platformdirs

    return Path(platformdirs.user_log_dir("kaustos")) / "devices" / f"{name}-{started:%Y%m%d-%H%M%S}.csv"
