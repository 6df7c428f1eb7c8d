"""Channels of real devices and of simulated stand-ins: a dryer that speaks Modbus TCP, and a scale."""

from kaustos.devices.channels import GROSS, HUMIDITY, SETPOINT, TEMPERATURE, Channel, Device
from kaustos.devices.errors import DeviceFault, DeviceNonsense, DeviceSilent
from kaustos.devices.simulated import SimulatedDryer, SimulatedLogger, SimulatedOven, SimulatedScale, drying_spool

__all__ = [
    "GROSS",
    "HUMIDITY",
    "SETPOINT",
    "TEMPERATURE",
    "Channel",
    "Device",
    "DeviceFault",
    "DeviceNonsense",
    "DeviceSilent",
    "SimulatedDryer",
    "SimulatedLogger",
    "SimulatedOven",
    "SimulatedScale",
    "drying_spool",
]
