"""The live log of a device: every reading and every fault with its moment, kept in a file as it comes."""

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import attrs

from kaustos.devices import DeviceFault, DryerReading, DryingDevice, Scale

KEPT = 2_000
HEADINGS = "at_utc,temperature [°C],setpoint [°C],humidity [%],gross [g],fault\n"


@attrs.frozen
class Entry:
    """One look at a device: a reading, or why there was none."""

    at: datetime
    reading: DryerReading | None
    fault: str = ""
    gross_g: float | None = None  # on the scale, where there is one


class DeviceLog:
    """Looks at a dryer, and at a scale beside it, and keeps what they show; a fault is an entry, never the end."""

    def __init__(
        self, device: DryingDevice, file: Path | None, clock: Callable[[], datetime], scale: Scale | None = None
    ) -> None:
        self._device, self._file, self._clock, self._scale = device, file, clock, scale
        self.entries: list[Entry] = []
        if file is not None and not file.exists():
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(HEADINGS, encoding="utf-8")

    def look(self) -> Entry:
        """Look once."""
        shown, gross_g, faults = None, None, []
        try:
            shown = self._device.read()
        except DeviceFault as fault:
            faults.append(str(fault))
        try:
            gross_g = self._scale.read_g() if self._scale else None
        except DeviceFault as fault:
            faults.append(str(fault))
        entry = Entry(self._clock(), shown, "; ".join(faults), gross_g)
        self.entries = [*self.entries[-KEPT + 1 :], entry]
        return entry if self._file is None else self._kept(self._file, entry)

    def _kept(self, path: Path, entry: Entry) -> Entry:
        """The entry, in the file too; where that fails it says so and the looking goes on."""
        try:
            with path.open("a", encoding="utf-8") as file:
                file.write(_line(entry))
        except OSError as error:
            fault = "; ".join(filter(None, (entry.fault, f"the log cannot be written: {error.strerror}")))
            entry = attrs.evolve(entry, fault=fault)
            self.entries[-1] = entry
        return entry


def _line(entry: Entry) -> str:
    shown = entry.reading
    values = ("", "", "") if shown is None else (shown.temperature_c, shown.setpoint_c, shown.humidity_pct)
    gross = "" if entry.gross_g is None else f"{entry.gross_g}"
    fault = entry.fault.replace(",", ";")
    cells = [entry.at.astimezone(UTC).isoformat(), *(f"{each}" for each in values), gross, fault]
    return ",".join(cells) + "\n"


def log_file(name: str, started: datetime) -> Path:
    """Where the log of a device is kept."""
    import platformdirs

    return Path(platformdirs.user_log_dir("kaustos")) / "devices" / f"{name}-{started:%Y%m%d-%H%M%S}.csv"
