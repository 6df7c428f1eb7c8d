"""The live log of devices: what every channel shows and every fault, with its moment, kept in a file as it comes."""

from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, datetime
from itertools import groupby
from pathlib import Path

import attrs

from kaustos.app.wording import Wording
from kaustos.devices import Channel, Device, DeviceFault
from kaustos.formats.csv_tables import written

KEPT = 2_000


@attrs.frozen
class Shown:
    """What one channel of a device showed."""

    device: str
    channel: Channel
    value: float


@attrs.frozen
class Entry:
    """One look at the devices: what they showed, and why there is no more."""

    at: datetime
    shown: tuple[Shown, ...]
    fault: str = ""

    def value(self, channel: str) -> float | None:
        """What the first device with such a channel showed; None where none did."""
        return next((each.value for each in self.shown if each.channel.name == channel), None)

    def words(self, wording: Wording) -> str:
        """What every device showed, and its faults."""
        words = [self.fault] if self.fault else []
        for device, group in groupby(self.shown, lambda each: each.device):
            values = [f"{each.channel.name} {wording.value(each.value, each.channel.quantity)}" for each in group]
            words.append(f"{device}: {', '.join(values)}")
        return "; ".join(words)


class DeviceLog:
    """Looks at devices, and keeps what they show; a fault is an entry, never the end."""

    def __init__(self, devices: Sequence[Device], file: Path | None, clock: Callable[[], datetime]) -> None:
        self._devices, self._file, self._clock = tuple(devices), file, clock
        self.entries: list[Entry] = []
        if file is not None and not file.exists():
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(written([self._headings()]), encoding="utf-8")

    def look(self) -> Entry:
        """Look once."""
        shown: list[Shown] = []
        faults = []
        for device in self._devices:
            try:
                values = device.read()
            except DeviceFault as fault:
                faults.append(str(fault))
                continue
            shown += [Shown(device.name, each, values[each.name]) for each in device.channels]
        entry = Entry(self._clock(), tuple(shown), "; ".join(faults))
        self.entries = [*self.entries[-KEPT + 1 :], entry]
        return entry if self._file is None else self._kept(self._file, entry)

    def _columns(self) -> Iterator[tuple[str, Channel]]:
        return ((device.name, channel) for device in self._devices for channel in device.channels)

    def _headings(self) -> list[str]:
        columns = [f"{name}: {channel.name} [{channel.unit}]" for name, channel in self._columns()]
        return ["at_utc", *columns, "fault"]

    def _kept(self, path: Path, entry: Entry) -> Entry:
        """The entry, in the file too; where that fails it says so and the looking goes on."""
        try:
            with path.open("a", encoding="utf-8") as file:
                file.write(written([self._cells(entry)]))
        except OSError as error:
            fault = "; ".join(filter(None, (entry.fault, f"the log cannot be written: {error.strerror}")))
            entry = attrs.evolve(entry, fault=fault)
            self.entries[-1] = entry
        return entry

    def _cells(self, entry: Entry) -> list[str]:
        """One cell for each channel, empty where it showed nothing."""
        found = {(each.device, each.channel.name): f"{each.value}" for each in entry.shown}
        cells = [found.get((name, channel.name), "") for name, channel in self._columns()]
        return [entry.at.astimezone(UTC).isoformat(), *cells, entry.fault]


def log_file(started: datetime) -> Path:
    """Where a log of devices is kept."""
    import platformdirs

    return Path(platformdirs.user_log_dir("kaustos")) / "devices" / f"devices-{started:%Y%m%d-%H%M%S}.csv"
