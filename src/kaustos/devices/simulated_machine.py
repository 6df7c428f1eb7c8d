"""A stand-in for a machine that prints: it plays a job by a clock that is passed in, and fails as it is told to."""

import contextlib
import math
import os
import select
import threading
import tty
from collections.abc import Callable

import attrs
import numpy as np

ROOM_C = 21.0
HEATING_S = 900.0  # before its first move
TAUS_S = {"nozzle": 35.0, "plate": 160.0, "chamber": 500.0}
PLATE_COOLS_S = 700.0
KEYS = {"nozzle": "T", "plate": "B", "chamber": "C"}
BYTES = 1_000_000


@attrs.frozen(kw_only=True)
class Played:
    """The job that it plays."""

    hours: float
    heats_c: dict[str, float]  # by zone
    height_mm: float


@attrs.frozen(kw_only=True)
class Faults:
    """What goes wrong, in seconds of its own clock."""

    chamber_lost_s: float = math.inf  # its heater gives up
    drift_k_h: float = 0.0  # of what the chamber shows
    silent_s: tuple[float, float] = (math.inf, math.inf)
    nonsense_s: tuple[float, float] = (math.inf, math.inf)
    cut_s: float = math.inf  # the line is gone


class SimulatedMachine:
    """Heats, prints, cools; answers lines."""

    name = "Simulated machine"

    def __init__(
        self, played: Played, clock: Callable[[], float], rng: np.random.Generator, faults: Faults | None = None
    ) -> None:
        self._played, self._clock, self._rng, self._faults = played, clock, rng, faults or Faults()
        self._began = self._seen = clock()
        self._heats = dict.fromkeys(KEYS, ROOM_C)
        self.heard: list[str] = []

    @property
    def seconds(self) -> float:
        """Of its clock, since it was switched on."""
        return self._clock() - self._began

    @property
    def is_cut(self) -> bool:
        """Whether its line is gone."""
        return self.seconds >= self._faults.cut_s

    def answer(self, line: str) -> str | None:
        """What it says to a line; nothing where it is silent."""
        self.heard.append(line)
        now, faults = self.seconds, self._faults
        self._settle()
        if faults.silent_s[0] <= now < faults.silent_s[1]:
            return None
        if faults.nonsense_s[0] <= now < faults.nonsense_s[1]:
            return "T:/0 ~~\xff\n"
        printed = min(max((now - HEATING_S) / (3600.0 * self._played.hours), 0.0), 1.0)
        if line == "M105":
            return f"ok {self._words()}\n"
        if line == "M27":
            words = f"SD printing byte {round(printed * BYTES)}/{BYTES}" if 0.0 < printed < 1.0 else "Not SD printing"
            return f"{words}\nok\n"
        if line == "M114":
            return f"X:10.00 Y:12.00 Z:{printed * self._played.height_mm:.2f} E:0.00 Count X:800 Y:960 Z:0\nok\n"
        return f"echo:Unknown command: {line!r:.40}\nok\n"

    def _words(self) -> str:
        words = []
        for zone, key in KEYS.items():
            shown = self._heats[zone] + float(self._rng.normal(0.0, 0.12))
            if zone == "chamber":
                shown += self._faults.drift_k_h * self.seconds / 3600.0
            words.append(f"{key}:{shown:.2f} /{self._wanted(zone):.2f}")
        return f"{' '.join(words)} @:64 B@:{127 if self._heats['plate'] < self._wanted('plate') - 1.0 else 50}"

    def _wanted(self, zone: str) -> float:
        over = self.seconds > HEATING_S + 3600.0 * self._played.hours
        return 0.0 if over else self._played.heats_c.get(zone, 0.0)

    def _settle(self) -> None:
        """Let the time pass that has passed since it was asked last: one node a zone."""
        passed = self.seconds - (self._seen - self._began)
        self._seen += passed
        for zone, tau in TAUS_S.items():
            lost = zone == "chamber" and self.seconds >= self._faults.chamber_lost_s
            goal = max(ROOM_C, 0.0 if lost else self._wanted(zone))
            if zone == "plate" and goal <= ROOM_C:
                tau = PLATE_COOLS_S
            self._heats[zone] = goal + (self._heats[zone] - goal) * math.exp(-passed / tau)


class SimulatedLine:
    """A pseudo-terminal on which a simulated machine answers, until it is stopped or its line is cut."""

    def __init__(self, machine: SimulatedMachine) -> None:
        self._machine = machine
        self._ours, self._theirs = os.openpty()
        tty.setraw(self._theirs)
        self.port = os.ttyname(self._theirs)
        self._wake, self._stop = os.pipe()
        self._thread = threading.Thread(target=self._run, name="line", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Hang up."""
        if self._thread.is_alive():
            with contextlib.suppress(OSError):
                os.write(self._stop, b".")
            self._thread.join(5.0)
        for each in (self._ours, self._theirs, self._wake, self._stop):
            with contextlib.suppress(OSError):
                os.close(each)
        self._ours = self._theirs = self._wake = self._stop = -1

    def _run(self) -> None:
        held = b""
        while True:
            ready, _, _ = select.select([self._ours, self._wake], [], [])
            if self._wake in ready:
                return
            try:
                held += os.read(self._ours, 4_096)
            except OSError:  # nobody holds the other end
                return
            *lines, held = held.split(b"\n")
            for line in lines:
                if self._machine.is_cut:
                    with contextlib.suppress(OSError):
                        os.close(self._theirs)
                        os.close(self._ours)
                    return
                said = self._machine.answer(line.decode("ascii", "replace").strip())
                if said is not None:
                    os.write(self._ours, said.encode("latin-1"))
