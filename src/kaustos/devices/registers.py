"""Registers of a controller as a table: where a value lies, how it is scaled, and what it can be."""

import math

import attrs

from kaustos.devices.errors import DeviceNonsense

LARGEST = 0x7FFF  # a holding register has 16 bits, one of them the sign


@attrs.frozen(kw_only=True)
class Register:
    """One holding register: a signed 16-bit number, so many steps to a unit."""

    name: str
    address: int
    unit: str
    scale: float  # steps to a unit
    low: float
    high: float

    def __attrs_post_init__(self) -> None:
        if not self.low < self.high or max(abs(self.low), abs(self.high)) * self.scale > LARGEST:
            raise ValueError(f"{self.name}: {self.low:g} to {self.high:g} {self.unit} does not fit a register")

    def encoded(self, value: float, device: str) -> int:
        """The register's bits; a value that it cannot hold is refused, it never wraps."""
        if not (math.isfinite(value) and self.low <= value <= self.high):
            raise DeviceNonsense(
                device, f"takes a {self.name} of {self.low:g} to {self.high:g} {self.unit}, not {value:g}"
            )
        return self.bits(value)

    def bits(self, value: float) -> int:
        """The bits of a value, whatever it is: for a stand-in that shows what a broken sensor shows."""
        return round(value * self.scale) & 0xFFFF

    def decoded(self, bits: int, device: str) -> float:
        """The value behind the bits; one that cannot be is refused."""
        steps = bits - 0x10000 if bits >= 0x8000 else bits
        value = steps / self.scale
        if not self.low <= value <= self.high:
            raise DeviceNonsense(device, f"shows a {self.name} of {value:g} {self.unit}, which cannot be")
        return value


SETPOINT = Register(name="setpoint", address=0, unit="°C", scale=10.0, low=-40.0, high=400.0)
TEMPERATURE = Register(name="temperature", address=1, unit="°C", scale=10.0, low=-40.0, high=400.0)
HUMIDITY = Register(name="humidity", address=2, unit="%", scale=10.0, low=0.0, high=100.0)
DRYER = (SETPOINT, TEMPERATURE, HUMIDITY)
