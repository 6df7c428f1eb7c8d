"""Simulated devices against closed forms, and a dryer over Modbus that is cut, comes back and talks nonsense."""

import socket
import tempfile
import threading
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from kaustos.app.device_log import DeviceLog
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.devices import (
    GROSS,
    Channel,
    DeviceFault,
    DeviceNonsense,
    DeviceSilent,
    SimulatedDryer,
    SimulatedLogger,
    SimulatedScale,
    drying_spool,
)
from kaustos.devices.channels import CHAMBER, CHAMBER_SET
from kaustos.devices.modbus import ModbusDevice, ModbusServer
from kaustos.devices.registers import DRYER, Register, controller_at
from kaustos.devices.simulated import CAPACITY_J_K, HEATER_W, HOTTEST_C, LOSS_W_K


class Clock:
    """Time that passes when it is told to."""

    def __init__(self):
        self.now = 0.0

    def __call__(self):
        return self.now


AIR = Channel(name="air", quantity="temperature", low=-40.0, high=500.0)
CORE = Channel(name="core", quantity="temperature", low=-40.0, high=500.0)
NAMES = ("setpoint", "temperature", "humidity")
CHANNELS = tuple(each.channel for each in DRYER)


def reading(temperature, setpoint, humidity):
    return dict(zip(NAMES, (setpoint, temperature, humidity), strict=True))


class Shows:
    """A device that shows what it is told to show."""

    name, channels = "Bench dryer", CHANNELS

    def __init__(self, *values):
        self.reading = reading(*values)
        self.was_set = []

    def read(self):
        return self.reading

    def set(self, channel, value):
        self.was_set.append((channel, value))


class TestSimulated(unittest.TestCase):
    def dryer(self):
        self.clock = Clock()
        return SimulatedDryer(self.clock, np.random.default_rng(5))

    def test_it_warms_as_a_first_order_body_and_then_holds(self):
        dryer = self.dryer()
        dryer.set("setpoint", 95.0)
        self.clock.now = 600.0
        warm = 21.0 + HEATER_W / LOSS_W_K * (1.0 - np.exp(-600.0 * LOSS_W_K / CAPACITY_J_K))
        self.assertAlmostEqual(dryer.read()["temperature"], warm, delta=1.0)
        self.clock.now = 6 * 3600.0
        self.assertAlmostEqual(dryer.read()["temperature"], 95.0, delta=1.0)

    def test_it_cools_to_the_room_and_its_air_gets_moister(self):
        dryer = self.dryer()
        dryer.set("setpoint", 80.0)
        self.clock.now = 3600.0
        hot = dryer.read()
        dryer.set("setpoint", 0.0)
        self.clock.now += 10 * 3600.0
        cold = dryer.read()
        self.assertAlmostEqual(cold["temperature"], 21.0, delta=0.5)
        self.assertAlmostEqual(cold["humidity"], 100.0 * 1228.0 / 2488.0, delta=0.5)  # tables: 10 °C, 21 °C
        self.assertAlmostEqual(hot["humidity"], 100.0 * 1228.0 / 47_414.0, delta=0.15)  # 80 °C

    def test_its_dial_has_an_end(self):
        dryer = self.dryer()
        dryer.set("setpoint", 300.0)
        self.assertEqual(dryer.read()["setpoint"], HOTTEST_C)

    def test_the_same_seed_shows_the_same(self):
        shown = [SimulatedDryer(Clock(), np.random.default_rng(9)).read() for _ in range(2)]
        self.assertEqual(*shown)

    def test_a_scale_shows_its_load_within_its_spread_in_its_divisions(self):
        clock = Clock()
        scale = SimulatedScale(clock, np.random.default_rng(3), lambda now: 1000.0 - now / 100.0, 0.5, 0.2)
        shown = np.array([scale.read()["gross"] for _ in range(400)])
        self.assertAlmostEqual(shown.mean(), 1000.0, delta=4 * 0.5 / 20.0)
        self.assertAlmostEqual(shown.std(), 0.5, delta=0.08)
        self.assertTrue(np.allclose(shown / 0.2, np.round(shown / 0.2)))
        drying = SimulatedScale(Clock(), np.random.default_rng(3), drying_spool(1000.0, 5.0, 100.0), 0.0)
        self.assertEqual(drying.read()["gross"], 1005.0)
        clock.now = 40_000.0
        self.assertAlmostEqual(scale.read()["gross"], 600.0, delta=2.5)


class TestLogger(unittest.TestCase):
    def test_three_thermocouples_and_power_warm_as_the_box_does_and_stand_apart(self):
        clock = Clock()
        logger = SimulatedLogger(clock, np.random.default_rng(3))
        first = logger.read()
        clock.now += 3_600.0
        last = logger.read()
        self.assertEqual(set(last), {"TC1", "TC2", "TC3", "power"})
        self.assertLess(max(abs(first[f"TC{n}"] - 21.0) for n in (1, 2, 3)), 3.5)
        rest = 21.0 + 220.0 / (0.1 + 1.0 / (1.0 / 12.0 + 1.0 / 7.0))  # leaks beside two resistances in a row
        self.assertAlmostEqual(last["TC1"], rest, delta=1.0)
        self.assertTrue(last["TC2"] < last["TC1"] < last["TC3"])
        with self.assertRaises(DeviceNonsense):
            logger.set("TC1", 40.0)


class TestModbus(unittest.TestCase):
    def setUp(self):
        self.threads = set(threading.enumerate())
        self.addCleanup(lambda: self.assertEqual(set(threading.enumerate()) - self.threads, set()))

    def serve(self, device, port=0):
        server = ModbusServer(device, DRYER, port)
        self.addCleanup(server.stop)
        return server

    def client(self, port, **more):
        client = ModbusDevice("127.0.0.1", port, "Bench dryer", DRYER, **more)
        self.addCleanup(client.close)
        return client

    def test_what_the_device_shows_arrives_below_zero_too_and_a_setpoint_goes_back(self):
        device = Shows(-12.3, 85.0, 4.5)
        client = self.client(self.serve(device).port)
        self.assertEqual(client.read(), device.reading)
        client.set("setpoint", 72.5)
        self.assertEqual(device.was_set, [("setpoint", 72.5)])

    def test_a_cut_is_told_and_the_next_look_after_it_comes_back_succeeds(self):
        device = Shows(60.0, 65.0, 8.0)
        server = self.serve(device)
        client = self.client(server.port)
        client.read()
        server.stop()
        for _ in range(2):
            with self.assertRaisesRegex(DeviceSilent, "Bench dryer"):
                client.read()
        self.serve(device, server.port)
        self.assertEqual(client.read(), device.reading)

    def test_impossible_values_are_refused_and_say_which(self):
        for values, words in (((900.0, 60.0, 5.0), "temperature of 900"), ((60.0, -90.0, 5.0), "setpoint of -90"),
                              ((60.0, 65.0, 140.0), "humidity of 140")):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(DeviceNonsense, words):
                self.client(self.serve(Shows(*values)).port).read()

    def test_a_table_of_registers_with_gaps_is_all_that_another_device_needs(self):
        table = (Register(channel=AIR, address=40, scale=10.0), Register(channel=CORE, address=47, scale=2.0))

        class Oven(Shows):
            name, channels = "Oven", (AIR, CORE)

            def __init__(self):
                self.reading, self.was_set = {"air": 182.5, "core": -3.5}, []

        oven = Oven()
        server = ModbusServer(oven, table)
        self.addCleanup(server.stop)
        client = ModbusDevice("127.0.0.1", server.port, "Oven", table)
        self.addCleanup(client.close)
        self.assertEqual((client.read(), client.channels), (oven.reading, oven.channels))
        client.set("core", 12.5)
        self.assertEqual(oven.was_set, [("core", 12.5)])

    def test_a_port_that_listens_and_says_nothing_is_silent(self):
        with socket.create_server(("127.0.0.1", 0)) as mute, self.assertRaises(DeviceSilent):
            self.client(mute.getsockname()[1], timeout_s=0.1).read()

    def test_a_taken_port_is_told(self):
        with (
            socket.create_server(("127.0.0.1", 0)) as taken,
            self.assertRaisesRegex(DeviceSilent, "be started on port"),
        ):
            ModbusServer(Shows(60.0, 65.0, 8.0), DRYER, taken.getsockname()[1])


class TestChamber(unittest.TestCase):
    def test_it_is_read_by_functions_three_and_four_and_never_set(self):
        class Space(Shows):
            channels = (CHAMBER, CHAMBER_SET)

            def read(self):
                return {"chamber": 78.4, "chamber set": 80.0}

        _, _, table = controller_at("127.0.0.1:502 h3/10 h1/10")
        server = ModbusServer(Space(0.0, 0.0, 0.0), table)
        self.addCleanup(server.stop)
        for words in (f"127.0.0.1:{server.port} h3/10 h1/10", f"127.0.0.1:{server.port} i3/10 h1/10"):
            host, port, registers = controller_at(words)
            device = ModbusDevice(host, port, "Tarn chamber", registers, may_set=False)
            self.addCleanup(device.close)
            with self.subTest(words):
                self.assertEqual(device.read(), {"chamber": 78.4, "chamber set": 80.0})
                with self.assertRaisesRegex(DeviceNonsense, "never set from here"):
                    device.set("chamber set", 20.0)

    def test_what_is_no_place_of_a_controller_is_named(self):
        for words in ("", "host", "host:502", "host:502 1/10", "host:502 h1", "host:502 h1/10000", "a b:1 h1/10"):
            with self.subTest(words), self.assertRaises(KaustosError):
                controller_at(words)


class TestLog(unittest.TestCase):
    def test_readings_and_faults_stand_in_the_file_and_the_log_goes_on(self):
        clock, answers = datetime(2026, 3, 2, 8, tzinfo=UTC), [reading(59.8, 60.0, 9.0)]

        class Flaky:
            name, channels = "Bench dryer", CHANNELS

            def read(self):
                if not answers:
                    raise DeviceSilent("Bench dryer", "nothing answers, port 502")
                return answers.pop()

        scale = SimulatedScale(Clock(), np.random.default_rng(1), lambda _: 1000.0, 0.0)
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "devices" / "dryer.csv"
            log = DeviceLog((Flaky(), scale), file, lambda: clock)
            log.look()
            fault = log.look()
            answers.append(reading(60.1, 60.0, 9.0))
            clock += timedelta(seconds=5)
            log.look()
            self.assertEqual((fault.value("temperature"), fault.value("gross")), (None, 1000.0))
            self.assertEqual(
                file.read_text(encoding="utf-8").splitlines(),
                [
                    "at_utc,Bench dryer: setpoint [°C],Bench dryer: temperature [°C],Bench dryer: humidity [%],"
                    "Simulated scale: gross [g],fault",
                    "2026-03-02T08:00:00+00:00,60.0,59.8,9.0,1000.0,",
                    '2026-03-02T08:00:00+00:00,,,,1000.0,"Bench dryer: nothing answers, port 502"',
                    "2026-03-02T08:00:05+00:00,60.0,60.1,9.0,1000.0,",
                ],
            )
            self.assertEqual([len(entry.shown) for entry in log.entries], [4, 1, 4])
            self.assertEqual(
                fault.words(Wording()), "Bench dryer: nothing answers, port 502; Simulated scale: gross 1000 g"
            )

    def test_any_number_of_devices_stands_in_one_log_each_by_its_name(self):
        class Oven(Shows):
            def __init__(self, name):
                self.name, self.channels = name, (AIR, CORE)

            def read(self):
                return {"air": 150.0 + len(self.name), "core": 20.0}

        log = DeviceLog((Oven("A"), Shows(60.0, 65.0, 8.0), Oven("BB")), None, lambda: datetime(2026, 3, 2, tzinfo=UTC))
        entry = log.look()
        self.assertEqual([(each.device, each.value) for each in entry.shown if each.channel is AIR],
                         [("A", 151.0), ("BB", 152.0)])  # fmt: skip
        self.assertEqual(
            entry.words(Wording()),
            "A: air 151 °C, core 20 °C; Bench dryer: setpoint 65 °C, temperature 60 °C, humidity 8 %; "
            "BB: air 152 °C, core 20 °C",
        )

    def test_a_log_that_cannot_be_written_says_so_and_the_looking_goes_on(self):
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "dryer.csv"
            log = DeviceLog((Shows(60.0, 65.0, 8.0),), file, lambda: datetime(2026, 3, 2, tzinfo=UTC))
            file.unlink()
            file.mkdir()
            entry = log.look()
            self.assertIn("the log cannot be written", entry.fault)
            self.assertEqual((entry.value("temperature"), log.entries), (60.0, [entry]))


class TestRegisters(unittest.TestCase):
    def test_a_setpoint_that_does_not_fit_is_refused_and_never_wraps(self):
        sent = []
        dryer = ModbusDevice("127.0.0.1", 1, "Dryer", DRYER)
        dryer._asked = lambda ask, *values, **more: sent.append(values)
        for celsius in (5000.0, 400.1, -40.1, float("nan"), float("inf"), 3276.8):
            with self.subTest(celsius), self.assertRaisesRegex(DeviceFault, "takes a setpoint of -40 to 400 °C"):
                dryer.set("setpoint", celsius)
        self.assertEqual(sent, [])
        dryer.set("setpoint", -12.5)
        self.assertEqual(sent, [(0, 0x10000 - 125)])
        dryer.close()

    def test_every_value_of_a_register_comes_back_to_a_step(self):
        for each in DRYER:
            for share in (0.0, 0.123, 0.5, 1.0):
                value = each.channel.low + share * (each.channel.high - each.channel.low)
                with self.subTest(each.channel.name, value=value):
                    self.assertAlmostEqual(each.decoded(each.encoded(value, "d"), "d"), value, delta=0.5 / each.scale)
            with self.assertRaises(DeviceFault):
                each.decoded(0x7FFF, "d")

    def test_a_range_that_no_register_holds_is_refused_when_the_table_is_made(self):
        for low, high, scale in ((0.0, 5000.0, 10.0), (10.0, 0.0, 1.0), (-40000.0, 0.0, 1.0)):
            with self.subTest(low=low, high=high), self.assertRaises(ValueError):
                channel = Channel(name="x", quantity="ratio", low=low, high=high)
                Register(channel=channel, address=0, scale=scale)

    def test_every_channel_has_a_quantity_and_says_its_unit(self):
        units = {"setpoint": "°C", "temperature": "°C", "humidity": "%", "gross": "g"}
        self.assertEqual({each.name: each.unit for each in (*CHANNELS, GROSS)}, units)

    def test_what_is_measured_cannot_be_set(self):
        dryer = SimulatedDryer(Clock(), np.random.default_rng(1))
        scale = SimulatedScale(Clock(), np.random.default_rng(1), lambda _: 1.0)
        for device, channel in ((dryer, "temperature"), (dryer, "humidity"), (scale, "gross")):
            with self.subTest(channel), self.assertRaisesRegex(DeviceNonsense, f"its {channel} cannot be set"):
                device.set(channel, 5.0)
