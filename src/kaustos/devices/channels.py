"""What a device offers, real or simulated: channels, each with its quantity and what it can be."""

import math
from collections.abc import Mapping
from typing import Protocol

import attrs

from kaustos.core.records.quantities import QUANTITIES
from kaustos.devices.errors import DeviceNonsense


@attrs.frozen(kw_only=True)
class Channel:
    """One value that a device shows, and takes where it can be set; in the shop unit of its quantity."""

    name: str
    quantity: str
    low: float
    high: float

    @property
    def unit(self) -> str:
        """The shop unit of its quantity."""
        return QUANTITIES[self.quantity].unit

    def taken(self, value: float, device: str) -> float:
        """A value that is to be set; one that the device cannot take is refused."""
        if not (math.isfinite(value) and self.low <= value <= self.high):
            raise DeviceNonsense(
                device, f"takes a {self.name} of {self.low:g} to {self.high:g} {self.unit}, not {value:g}"
            )
        return value

    def shown(self, value: float, device: str) -> float:
        """A value that was read; one that cannot be is refused."""
        if not self.low <= value <= self.high:
            raise DeviceNonsense(device, f"shows a {self.name} of {value:g} {self.unit}, which cannot be")
        return value


class Device(Protocol):
    """Anything that shows values."""

    @property
    def name(self) -> str:
        """What people call it."""

    @property
    def channels(self) -> tuple[Channel, ...]:
        """What it shows, in the order of its log."""

    def read(self) -> Mapping[str, float]:
        """What its channels show now, by their names."""

    def set(self, channel: str, value: float) -> None:
        """Give a channel another value; a device that only shows refuses."""


SETPOINT = Channel(name="setpoint", quantity="temperature", low=-40.0, high=400.0)
TEMPERATURE = Channel(name="temperature", quantity="temperature", low=-40.0, high=400.0)
CHAMBER = Channel(name="chamber", quantity="temperature", low=-40.0, high=400.0)
CHAMBER_SET = Channel(name="chamber set", quantity="temperature", low=-40.0, high=400.0)
DUMMY = Channel(name="dummy", quantity="temperature", low=-40.0, high=400.0)  # inside the thickest section
HUMIDITY = Channel(name="humidity", quantity="share", low=0.0, high=100.0)
GROSS = Channel(name="gross", quantity="mass", low=0.0, high=1e5)
THERMOCOUPLES = tuple(Channel(name=f"TC{n}", quantity="temperature", low=-200.0, high=1_300.0) for n in (1, 2, 3))
POWER = Channel(name="power", quantity="power", low=0.0, high=1e5)
