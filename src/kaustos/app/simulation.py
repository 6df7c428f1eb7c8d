"""The simulated dryer, scale and logger, started the same way for the window and for the command line."""

import time
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

import attrs

from kaustos.app.device_log import DeviceLog
from kaustos.core.errors import KaustosError
from kaustos.devices import SETPOINT, SimulatedDryer, SimulatedLogger, SimulatedScale, drying_spool
from kaustos.devices.modbus import ModbusDevice, ModbusServer
from kaustos.devices.registers import DRYER


@attrs.frozen
class Simulation:
    """A stand-in that speaks Modbus TCP on loopback, who reads it, and the log of what it showed."""

    log: DeviceLog
    _server: ModbusServer
    _client: ModbusDevice

    @property
    def port(self) -> int:
        """Where it listens."""
        return self._server.port

    def stop(self) -> None:
        """Hang up and end it."""
        self._client.close()
        self._server.stop()


def start_simulation(
    setpoint_c: float, clock: Callable[[], datetime], file: Path | None = None, port: int = 0
) -> Simulation:
    """Start a dryer at a setpoint with a scale and a logger beside it; nothing is left running where that fails."""
    import numpy as np

    dryer = SimulatedDryer(time.monotonic, np.random.default_rng())
    scale = SimulatedScale(time.monotonic, np.random.default_rng(), drying_spool())
    logger = SimulatedLogger(time.monotonic, np.random.default_rng())
    server = ModbusServer(dryer, DRYER, port)
    client = ModbusDevice("127.0.0.1", server.port, dryer.name, DRYER)
    try:
        client.set(SETPOINT.name, setpoint_c)
        log = DeviceLog((client, scale, logger), file, clock)
    except (KaustosError, OSError):
        client.close()
        server.stop()
        raise
    return Simulation(log, server, client)
