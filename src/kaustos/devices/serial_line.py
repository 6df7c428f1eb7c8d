"""A machine on a serial line, by the words that plain firmware answers; it is asked, and never told anything."""

import re
import time
from collections.abc import Mapping

from kaustos.devices.channels import Channel
from kaustos.devices.errors import DeviceNonsense, DeviceSilent

ASKS = ("M105", "M27", "M114")  # heats, place in the file, place of the head: nothing else is ever sent
BAUD = 115_200
TIMEOUT_S = 2.0  # of one question, whatever comes meanwhile
STEP_S = 0.1
MOST_SAID = 16_384  # characters that are listened to for one answer
RESETS = (
    "Opening a line can reset a board: connect before the run, never while it prints. Nothing is ever sent but "
    "questions."
)
ZONES = {"T": "nozzle", "T0": "nozzle", "B": "plate", "C": "chamber"}
_HEAT = re.compile(r"\b(T0?|B|C)\s*:\s*(-?\d+(?:\.\d+)?)\s*(?:/\s*(-?\d+(?:\.\d+)?))?")
_DUTY = re.compile(r"(?<!\S)(B?@)\s*:\s*(\d+)")
_BYTES = re.compile(r"byte\s+(\d+)\s*/\s*(\d+)", re.I)
_HIGH = re.compile(r"\bZ\s*:\s*(-?\d+(?:\.\d+)?)")
FULL_DUTY = 127.0
HEIGHT = Channel(name="height", quantity="length", low=-100.0, high=5_000.0)
SHARE = Channel(name="through the file", quantity="share", low=0.0, high=100.0)


def _shown(zone: str) -> Channel:
    return Channel(name=zone, quantity="temperature", low=-50.0, high=700.0)


def _wanted(zone: str) -> Channel:
    return Channel(name=f"{zone} set", quantity="temperature", low=0.0, high=700.0)


def _pull(zone: str) -> Channel:
    return Channel(name=f"{zone} duty", quantity="share", low=0.0, high=100.0)


class SerialMachine:
    """Asks a machine what it shows; a port that somebody else holds is refused."""

    def __init__(self, port: str, name: str, baud: int = BAUD, timeout_s: float = TIMEOUT_S) -> None:
        import serial

        self.name, self.port = name, port
        self._timeout_s = timeout_s
        self._line = serial.Serial()
        self._line.port, self._line.baudrate = port, baud
        self._line.timeout = self._line.write_timeout = timeout_s
        self._line.exclusive = True
        self._line.dtr = self._line.rts = False  # some boards restart when these rise
        try:
            self._line.open()
        except (serial.SerialException, OSError, ValueError) as error:
            raise DeviceSilent(name, f"{port} cannot be opened: it is in use, not there, or not allowed") from error
        try:
            first = self._heats()
        except BaseException:
            self._line.close()
            raise
        self.channels = (*_channels_of(first), HEIGHT, SHARE)

    def read(self) -> Mapping[str, float]:
        """What it shows now; silence and nonsense raise."""
        values = self._heats()
        values[SHARE.name] = self._through()
        values[HEIGHT.name] = self._height()
        lacks = [each.name for each in self.channels if each.name not in values]
        if lacks:
            raise DeviceNonsense(self.name, f"shows no {', '.join(lacks)} any more")
        return {each.name: each.shown(values[each.name], self.name) for each in self.channels}

    def set(self, channel: str, value: float) -> None:
        """It is watched, never steered."""
        raise DeviceNonsense(self.name, f"its {channel} is never set from here")

    def close(self) -> None:
        """Let go of the line."""
        self._line.close()

    def _heats(self) -> dict[str, float]:
        words = self._asked("M105", _HEAT)
        found: dict[str, float] = {}
        for key, shown, wanted in _HEAT.findall(words):
            zone = ZONES[key]
            if zone not in found:
                found[zone] = float(shown)
                if wanted:
                    found[f"{zone} set"] = float(wanted)
        for key, duty in _DUTY.findall(words):
            found["plate duty" if key == "B@" else "nozzle duty"] = min(100.0 * float(duty) / FULL_DUTY, 100.0)
        return found

    def _through(self) -> float:
        found = _BYTES.search(self._asked("M27", None))
        return 100.0 * float(found[1]) / float(found[2]) if found and float(found[2]) > 0.0 else 0.0

    def _height(self) -> float:
        found = _HIGH.search(words := self._asked("M114", _HIGH))
        if found is None:
            raise DeviceNonsense(self.name, f"answers {words!r:.60} to M114")
        return float(found[1])

    def _asked(self, word: str, holds: re.Pattern[str] | None) -> str:
        """The answer to a question, up to its ok and before one deadline; what nobody asked for is passed over."""
        import termios

        import serial

        if word not in ASKS:
            raise DeviceNonsense(self.name, f"is asked, and never told {word!r:.20}")
        until, said = time.monotonic() + self._timeout_s, ""
        try:
            self._line.reset_input_buffer()
            self._line.write(f"{word}\n".encode("ascii"))
            while (left := until - time.monotonic()) > 0.0 and len(said) < MOST_SAID:
                self._line.timeout = min(left, STEP_S)
                said += self._line.read(max(1, min(self._line.in_waiting, MOST_SAID))).decode("latin-1")
                lines = [each.strip() for each in said.splitlines(keepends=True) if each.endswith(("\n", "\r"))]
                for at, line in enumerate(lines, start=1):
                    if line.lower().startswith("ok") and (holds is None or any(map(holds.search, lines[:at]))):
                        return "\n".join(filter(None, lines[:at]))
        except (serial.SerialException, OSError, TypeError, termios.error) as error:
            raise DeviceSilent(self.name, "the line was cut") from error
        if said.strip():
            raise DeviceNonsense(self.name, f"answers {said.strip().splitlines()[-1]!r:.60} to {word}")
        raise DeviceSilent(self.name, f"does not answer {word}")


def _channels_of(shown: Mapping[str, float]) -> tuple[Channel, ...]:
    makers = {"set": _wanted, "duty": _pull}
    return tuple(
        makers[kind](zone) if kind else _shown(zone) for zone, _, kind in (each.partition(" ") for each in shown)
    )


def ports() -> tuple[str, ...]:
    """Serial lines of this computer."""
    from serial.tools.list_ports import comports

    return tuple(each.device for each in comports())
