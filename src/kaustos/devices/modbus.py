"""A dryer over Modbus TCP: the client that reads it, and the server that a simulated one speaks through.

What lies in which holding register stands in registers.py.
"""

import asyncio
import logging
import threading
from collections.abc import Callable
from typing import Any

from kaustos.devices.errors import DeviceNonsense, DeviceSilent
from kaustos.devices.protocols import DryerReading, DryingDevice
from kaustos.devices.registers import DRYER, SETPOINT

UNIT, NAME = 1, "Simulated dryer"
TIMEOUT_S = 1.0


class ModbusDryer:
    """Reads a dryer's controller; connects again by itself after a cut."""

    def __init__(self, host: str, port: int, name: str = "Dryer", timeout_s: float = TIMEOUT_S) -> None:
        from pymodbus.client import ModbusTcpClient

        logging.getLogger("pymodbus").setLevel(logging.CRITICAL)  # its faults are ours to tell
        self.name, self.port = name, port
        self._one_at_a_time = threading.Lock()
        self._client = ModbusTcpClient(host, port=port, timeout=timeout_s, retries=0)

    def read(self) -> DryerReading:
        """What the controller shows; silence and nonsense raise."""
        registers = self._asked(self._client.read_holding_registers, 0, count=len(DRYER)).registers
        if len(registers) != len(DRYER):
            raise DeviceNonsense(self.name, f"answered {len(registers)} values, {len(DRYER)} were asked")
        shown = {each.name: each.decoded(registers[each.address], self.name) for each in DRYER}
        return DryerReading(shown["temperature"], shown["setpoint"], shown["humidity"])

    def set_temperature(self, celsius: float) -> None:
        """Give the controller another setpoint."""
        self._asked(self._client.write_register, SETPOINT.address, SETPOINT.encoded(celsius, self.name))

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

    def __init__(self, device: DryingDevice, port: int = 0) -> None:
        self._device, self._wanted = device, port
        self.port = 0
        self._loop = asyncio.new_event_loop()
        self._ready = threading.Event()
        self._fault: BaseException | None = None
        self._thread = threading.Thread(target=self._run, name="modbus", daemon=True)
        self._thread.start()
        self._ready.wait(10.0)
        if self._fault is not None:
            self._thread.join(10.0)
            raise DeviceSilent(NAME, f"could not be started on port {port}: {self._fault}") from self._fault

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

        data = SimData(0, values=[0] * len(DRYER), datatype=DataType.REGISTERS)
        device = SimDevice(id=UNIT, simdata=[data], action=self._answer)
        self._server: Any = ModbusTcpServer(device, address=("127.0.0.1", self._wanted))
        await self._server.serve_forever(background=True)
        self.port = int(self._server.transport.sockets[0].getsockname()[1])

    async def _answer(
        self, function: int, start: int, address: int, count: int, registers: list[int], written: Any
    ) -> None:
        """Every request sees the device as it is now."""
        if written is not None and address == SETPOINT.address:
            self._device.set_temperature(SETPOINT.decoded(int(written[0]), NAME))
        shown = self._device.read()
        values = {"setpoint": shown.setpoint_c, "temperature": shown.temperature_c, "humidity": shown.humidity_pct}
        for each in DRYER:
            registers[each.address] = each.bits(values[each.name])
