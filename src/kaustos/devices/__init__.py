"""Protocols to real devices and the simulated stand-ins: a dryer that speaks Modbus TCP, and a scale."""

from kaustos.devices.errors import DeviceFault, DeviceNonsense, DeviceSilent
from kaustos.devices.protocols import DryerReading, DryingDevice, Scale
from kaustos.devices.simulated import SimulatedDryer, SimulatedScale, drying_spool

__all__ = [
    "DeviceFault",
    "DeviceNonsense",
    "DeviceSilent",
    "DryerReading",
    "DryingDevice",
    "Scale",
    "SimulatedDryer",
    "SimulatedScale",
    "drying_spool",
]
