"""What a device offers, real or simulated."""

from typing import Protocol

import attrs


@attrs.frozen
class DryerReading:
    """What a dryer shows."""

    temperature_c: float
    setpoint_c: float
    humidity_pct: float


class DryingDevice(Protocol):
    """A dryer with a controller."""

    def read(self) -> DryerReading:
        """What it shows now."""

    def set_temperature(self, celsius: float) -> None:
        """Give it another setpoint."""


class Scale(Protocol):
    """A scale with a spool on it."""

    def read_g(self) -> float:
        """What it shows now [g]."""
