"""Faults of devices that a user can act on."""

from kaustos.core.errors import KaustosError


class DeviceFault(KaustosError):
    """Something is wrong with a device; the text says which and what."""

    def __init__(self, device: str, problem: str) -> None:
        super().__init__(device, problem)
        self.device, self.problem = device, problem

    def __str__(self) -> str:
        return f"{self.device}: {self.problem}"


class DeviceSilent(DeviceFault):
    """The device does not answer."""


class DeviceNonsense(DeviceFault):
    """The device answers something that cannot be."""
