"""Simulated devices of a window: started, looked at every second on a worker, stopped with the window."""

import time
from datetime import UTC, datetime
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from kaustos.app.results import Request
from kaustos.core.errors import KaustosError
from kaustos.ui.jobs import Job, Runner

if TYPE_CHECKING:
    from kaustos.app.device_log import DeviceLog, Entry

LOOK_MS = 1_000


class LiveDevices(QObject):
    """A simulated dryer behind Modbus TCP on loopback and a scale beside it, with their live log."""

    looked = Signal(object)  # the latest entry

    def __init__(self, run: Runner) -> None:
        super().__init__()
        self._run = run
        self._timer = QTimer(self, interval=LOOK_MS)
        self._timer.timeout.connect(self.look)
        self._busy = False
        self.log: DeviceLog | None = None

    @property
    def is_running(self) -> bool:
        """Whether it was started."""
        return self.log is not None

    @property
    def port(self) -> int:
        """Where it listens."""
        return self._server.port if self.is_running else 0

    def start(self, setpoint_c: float) -> None:
        """Start it at a setpoint and begin to look."""
        import numpy as np

        from kaustos.app.device_log import DeviceLog, log_file
        from kaustos.devices import SimulatedDryer, SimulatedScale, drying_spool
        from kaustos.devices.modbus import ModbusDryer, ModbusServer

        self._server = ModbusServer(SimulatedDryer(time.monotonic, np.random.default_rng()))
        self._client = ModbusDryer("127.0.0.1", self._server.port, "Simulated dryer")
        scale = SimulatedScale(time.monotonic, np.random.default_rng(), drying_spool())
        try:
            self._client.set_temperature(setpoint_c)
            file = log_file("dryer", datetime.now(UTC))
            self.log = DeviceLog(self._client, file, lambda: datetime.now(UTC), scale)
        except (KaustosError, OSError):
            self._hang_up()
            raise
        self._timer.start()
        self.look()

    @property
    def latest(self) -> "Entry | None":
        """The latest look; None where nothing runs."""
        entries = self.log.entries if self.log else []
        return entries[-1] if entries else None

    def look(self) -> None:
        """Look once, on a worker: a device that is cut off takes a second to say nothing."""
        if self.log is None or self._busy:
            return
        self._busy = True
        job = Job(Request("look", (), self.log.look), self)
        job.finished.connect(self._on_looked)
        self._run(job)

    def _on_looked(self, _: object, entry: object) -> None:
        sender = self.sender()
        if isinstance(sender, Job):
            sender.deleteLater()
        self._busy = False
        if self.is_running:
            self.looked.emit(entry)

    def stop(self) -> None:
        """Stop looking and end the device."""
        self._timer.stop()
        if self.is_running:
            self.log = None
            self._hang_up()

    def _hang_up(self) -> None:
        self._client.close()
        self._server.stop()
