"""Registers of a controller as a table: which channel lies where, and how it is scaled."""

import attrs

from kaustos.devices.channels import HUMIDITY, SETPOINT, TEMPERATURE, Channel

LARGEST = 0x7FFF  # a holding register has 16 bits, one of them the sign


@attrs.frozen(kw_only=True)
class Register:
    """One holding register: a signed 16-bit number, so many steps to a unit."""

    channel: Channel
    address: int
    scale: float  # steps to a unit

    def __attrs_post_init__(self) -> None:
        low, high = self.channel.low, self.channel.high
        if not low < high or max(abs(low), abs(high)) * self.scale > LARGEST:
            raise ValueError(f"{self.channel.name}: {low:g} to {high:g} {self.channel.unit} does not fit a register")

    def encoded(self, value: float, device: str) -> int:
        """The register's bits; a value that it cannot hold is refused, it never wraps."""
        return self.bits(self.channel.taken(value, device))

    def bits(self, value: float) -> int:
        """The bits of a value, whatever it is: for a stand-in that shows what a broken sensor shows."""
        return round(value * self.scale) & 0xFFFF

    def decoded(self, bits: int, device: str) -> float:
        """The value behind the bits; one that cannot be is refused."""
        steps = bits - 0x10000 if bits >= 0x8000 else bits
        return self.channel.shown(steps / self.scale, device)


DRYER = (
    Register(channel=SETPOINT, address=0, scale=10.0),
    Register(channel=TEMPERATURE, address=1, scale=10.0),
    Register(channel=HUMIDITY, address=2, scale=10.0),
)
