"""Devices over Modbus TCP: the client that reads one, and the server that a simulated one speaks through.

What lies in which holding register is a table of registers.py.
"""

import asyncio
import logging
import threading
from collections.abc import Callable, Mapping
from typing import Any

from kaustos.devices.channels import Channel, Device
from kaustos.devices.errors import DeviceNonsense, DeviceSilent
from kaustos.devices.registers import Register

UNIT = 1
TIMEOUT_S = 1.0
Registers = tuple[Register, ...]


MOST_AT_ONCE = 125  # registers in one answer


def _span(registers: Registers) -> tuple[int, int]:
    """The first address, and how many registers lie from there to the last."""
    addresses = [each.address for each in registers]
    return min(addresses), max(addresses) - min(addresses) + 1


class ModbusDevice:
    """Reads a controller by its table of registers; connects again by itself after a cut."""

    def __init__(
        self, host: str, port: int, name: str, registers: Registers, timeout_s: float = TIMEOUT_S,
        *, may_set: bool = True,
    ) -> None:  # fmt: skip
        from pymodbus.client import ModbusTcpClient

        logging.getLogger("pymodbus").setLevel(logging.CRITICAL)  # its faults are ours to tell
        self.name, self.port, self._may_set = name, port, may_set
        self._registers = {each.channel.name: each for each in registers}
        self._one_at_a_time = threading.Lock()
        self._client = ModbusTcpClient(host, port=port, timeout=timeout_s, retries=0)

    @property
    def channels(self) -> tuple[Channel, ...]:
        """What lies in its registers."""
        return tuple(each.channel for each in self._registers.values())

    def read(self) -> Mapping[str, float]:
        """What the controller shows; silence and nonsense raise."""
        found: dict[str, float] = {}
        for ask, is_input in (
            (self._client.read_holding_registers, False), (self._client.read_input_registers, True),
        ):  # fmt: skip
            mine = {name: each for name, each in self._registers.items() if each.is_input is is_input}
            if mine:
                found |= self._read(ask, mine)
        return {name: found[name] for name in self._registers}

    def _read(self, ask: Callable[..., Any], registers: Mapping[str, Register]) -> dict[str, float]:
        first, count = _span(tuple(registers.values()))
        if count > MOST_AT_ONCE:  # far apart: each by itself
            alone = (self._read(ask, {name: each}) for name, each in registers.items())
            return {name: value for each in alone for name, value in each.items()}
        found = self._asked(ask, first, count=count).registers
        if len(found) != count:
            raise DeviceNonsense(self.name, f"answered {len(found)} values, {count} were asked")
        return {name: each.decoded(found[each.address - first], self.name) for name, each in registers.items()}

    def set(self, channel: str, value: float) -> None:
        """Give a channel of the controller another value."""
        if not self._may_set:
            raise DeviceNonsense(self.name, f"its {channel} is never set from here")
        register = self._registers[channel]
        self._asked(self._client.write_register, register.address, register.encoded(value, self.name))

    def close(self) -> None:
        """Hang up, once what is being asked is answered."""
        with self._one_at_a_time:
            self._client.close()

    def _asked(self, ask: Callable[..., Any], *values: int, **more: int) -> Any:
        from pymodbus.exceptions import ModbusException

        with self._one_at_a_time:
            try:
                if not self._client.connected and not self._client.connect():
                    raise DeviceSilent(self.name, f"nothing answers on port {self.port}")
                answer = ask(*values, **more, device_id=UNIT)
            except (ModbusException, OSError) as error:
                self._client.close()
                raise DeviceSilent(self.name, "stopped answering") from error
        if answer.isError():
            raise DeviceNonsense(self.name, f"refuses what it is asked: {answer}")
        return answer


class ModbusServer:
    """Speaks for a device on loopback until it is stopped; the system chooses the port unless one is asked for."""

    def __init__(self, device: Device, registers: Registers, port: int = 0) -> None:
        self._device, self._registers, self._wanted = device, registers, port
        self.port = 0
        self._loop = asyncio.new_event_loop()
        self._ready = threading.Event()
        self._fault: BaseException | None = None
        self._thread = threading.Thread(target=self._run, name="modbus", daemon=True)
        self._thread.start()
        self._ready.wait(10.0)
        if self._fault is not None:
            self._thread.join(10.0)
            raise DeviceSilent(device.name, f"could not be started on port {port}: {self._fault}") from self._fault

    def stop(self) -> None:
        """Hang up on everybody and end."""
        if self._thread.is_alive():
            asyncio.run_coroutine_threadsafe(self._server.shutdown(), self._loop).result(10.0)
            self._loop.call_soon_threadsafe(self._loop.stop)
            self._thread.join(10.0)

    def _run(self) -> None:
        asyncio.set_event_loop(self._loop)
        try:
            self._loop.run_until_complete(self._listen())
        except (OSError, RuntimeError) as error:  # the library raises the latter when a port is taken
            self._fault = error
            self._ready.set()
            self._loop.close()
            return
        self._ready.set()
        self._loop.run_forever()
        self._loop.run_until_complete(self._loop.shutdown_asyncgens())
        self._loop.close()

    async def _listen(self) -> None:
        from pymodbus.server import ModbusTcpServer
        from pymodbus.simulator import DataType, SimData, SimDevice

        first, count = _span(self._registers)
        data = SimData(first, values=[0] * count, datatype=DataType.REGISTERS)
        device = SimDevice(id=UNIT, simdata=[data], action=self._answer)
        self._server: Any = ModbusTcpServer(device, address=("127.0.0.1", self._wanted))
        await self._server.serve_forever(background=True)
        self.port = int(self._server.transport.sockets[0].getsockname()[1])

    async def _answer(
        self, function: int, start: int, address: int, count: int, registers: list[int], written: Any
    ) -> None:
        """Every request sees the device as it is now."""
        for each in self._registers:
            if written is not None and address == each.address:
                self._device.set(each.channel.name, each.decoded(int(written[0]), self._device.name))
        shown = self._device.read()
        for each in self._registers:
            registers[each.address - start] = each.bits(shown[each.channel.name])
