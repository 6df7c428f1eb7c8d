"""Simulated devices of a window: started, looked at every second on a worker, stopped with the window."""

from datetime import UTC, datetime
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from kaustos.app.results import Request
from kaustos.ui.jobs import Pace, Queue

if TYPE_CHECKING:
    from kaustos.app.device_log import DeviceLog, Entry
    from kaustos.app.simulation import Simulation

LOOK_MS = 1_000


class Looker(QObject):
    """Looks at a log of devices every so often, away from the window, until it is let go."""

    looked = Signal(object)  # the latest entry
    failed = Signal(str)

    def __init__(self, pace: Pace) -> None:
        super().__init__()
        self._looks = Queue(pace)  # one at a time: a slow device is not asked again before it has answered
        self._looks.landed.connect(self._on_looked)
        self._looks.failed.connect(self._on_failed)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.look)
        self.log: DeviceLog | None = None  # what was shown so far; None where nothing is looked at

    def begin(self, log: "DeviceLog", every_ms: int) -> None:
        """Begin to look."""
        self.log = log
        self._timer.start(every_ms)
        self.look()

    def look(self) -> None:
        """Look once, on a worker: a device that is cut off takes a second to say nothing."""
        log = self.log
        if log is not None:
            self._looks.ask(Request("look", (log,), lambda _: log.look()))

    def end(self) -> None:
        """Look no more."""
        self._timer.stop()
        self.log = None

    def _on_looked(self, request: Request, entry: object) -> None:
        if request.inputs == (self.log,):
            self.looked.emit(entry)

    def _on_failed(self, fault: str) -> None:
        if self.log is not None:
            self.failed.emit(fault)


class LiveDevices(Looker):
    """A simulated dryer behind Modbus TCP on loopback and a scale beside it, with their live log."""

    def __init__(self, pace: Pace) -> None:
        super().__init__(pace)
        self._running: Simulation | None = None

    @property
    def is_running(self) -> bool:
        """Whether it was started."""
        return self._running is not None

    @property
    def port(self) -> int:
        """Where it listens."""
        return self._running.port if self._running else 0

    def start(self, setpoint_c: float) -> None:
        """Start it at a setpoint and begin to look."""
        from kaustos.app.device_log import log_file
        from kaustos.app.simulation import start_simulation

        file = log_file(datetime.now(UTC))
        self._running = start_simulation(setpoint_c, lambda: datetime.now(UTC), file)
        self.begin(self._running.log, LOOK_MS)

    @property
    def latest(self) -> "Entry | None":
        """The latest look; None where nothing runs."""
        entries = self.log.entries if self.log else []
        return entries[-1] if entries else None

    def stop(self) -> None:
        """Stop looking and end the device."""
        self.end()
        if self._running is not None:
            running, self._running = self._running, None
            running.stop()
