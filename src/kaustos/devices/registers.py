"""Registers of a controller as a table: which channel lies where, and how it is scaled."""

import re

import attrs

from kaustos.core.errors import KaustosError
from kaustos.devices.channels import CHAMBER, CHAMBER_SET, DUMMY, HUMIDITY, SETPOINT, TEMPERATURE, Channel

LAST = 0xFFFF  # register
LARGEST = 0x7FFF  # a holding register has 16 bits, one of them the sign


@attrs.frozen(kw_only=True)
class Register:
    """One holding register: a signed 16-bit number, so many steps to a unit."""

    channel: Channel
    address: int
    scale: float  # steps to a unit
    is_input: bool = False  # read by function 4, where the others are read by function 3

    def __attrs_post_init__(self) -> None:
        low, high = self.channel.low, self.channel.high
        if not 0 <= self.address <= LAST:
            raise ValueError(f"there is no register {self.address}: they go from 0 to {LAST}")
        if not 0.0 < self.scale <= LARGEST:
            raise ValueError(f"{self.scale:g} steps to a degree cannot be: 1 to {LARGEST}, 10 for tenths")
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
OVEN = (
    Register(channel=SETPOINT, address=0, scale=10.0),
    Register(channel=TEMPERATURE, address=1, scale=10.0),
    Register(channel=DUMMY, address=2, scale=10.0),
)


SPELT = "host:port h1/10 h0/10: holding register 1 in tenths of a degree, and the setpoint in 0; i for input registers"
_WHERE = re.compile(
    r"(?P<host>[\w.\-]+):(?P<port>\d{1,5})\s+(?P<shown>[hi]\d{1,5}/\d+)(?:\s+(?P<set>[hi]\d{1,5}/\d+))?", re.I
)


def controller_at(
    words: str, channels: tuple[Channel, Channel] = (CHAMBER, CHAMBER_SET)
) -> tuple[str, int, tuple[Register, ...]]:
    """Where a controller listens, and which registers hold what it shows and what it is set to."""
    found = _WHERE.fullmatch(words.strip())
    if found is None:
        raise KaustosError(f"“{words:.60}” is no place of a controller; write {SPELT}.")
    pairs = [(channels[0], found["shown"]), *([(channels[1], found["set"])] if found["set"] else [])]
    registers = []
    for channel, each in pairs:
        address, _, scale = each[1:].partition("/")
        try:
            made = Register(channel=channel, address=int(address), scale=float(scale[:9]), is_input=each[0] in "iI")
        except ValueError as error:
            raise KaustosError(f"“{each:.20}”: {error}") from error
        registers.append(made)
    port = int(found["port"])
    if not 1 <= port <= LAST:
        raise KaustosError(f"There is no port {port}: they go from 1 to {LAST}, and 502 is the usual one.")
    return found["host"], port, tuple(registers)
