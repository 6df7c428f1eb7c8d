"""A machine on a serial line, simulated on a pseudo-terminal: asked and never told, cut, silent, nonsense, resumed."""

import os
import threading
import unittest

import numpy as np

from kaustos.devices import DeviceFault, DeviceNonsense, DeviceSilent
from kaustos.devices.serial_line import ASKS, SerialMachine
from kaustos.devices.simulated_machine import HEATING_S, Faults, Played, SimulatedLine, SimulatedMachine

JOB = Played(hours=2.0, heats_c={"nozzle": 300.0, "plate": 125.0, "chamber": 80.0}, height_mm=40.0)


class LineTest(unittest.TestCase):
    def setUp(self):
        self.now = 0.0

    def start(self, faults=None):
        """A machine that is asked; where it is to fail it is not waited for as long."""
        machine = SimulatedMachine(JOB, lambda: self.now, np.random.default_rng(5), faults)
        line = SimulatedLine(machine)
        self.addCleanup(line.stop)
        device = SerialMachine(line.port, "Tarn")
        self.addCleanup(device.close)
        if faults is not None:
            device._timeout_s = device._line.timeout = 0.4
        return machine, line, device


class TestAnswers(LineTest):
    def test_it_shows_heats_setpoints_height_and_place_as_hours_pass_in_no_time(self):
        _, _, device = self.start()
        cold = device.read()
        self.assertEqual((cold["nozzle set"], cold["plate set"], cold["chamber set"]), (300.0, 125.0, 80.0))
        self.assertAlmostEqual(cold["chamber"], 21.0, delta=1.0)
        self.now = HEATING_S + 3600.0
        half = device.read()
        self.assertAlmostEqual(half["through the file"], 50.0, delta=0.1)
        self.assertAlmostEqual(half["height"], 20.0, delta=0.1)
        self.assertAlmostEqual(half["chamber"], 80.0 - 59.0 * np.exp(-self.now / 500.0), delta=1.0)
        self.now = HEATING_S + 3.0 * 3600.0
        self.assertEqual(device.read()["nozzle set"], 0.0)

    def test_nothing_but_questions_is_ever_sent_and_nothing_can_be_set(self):
        machine, _, device = self.start()
        for _ in range(5):
            device.read()
            self.now += 60.0
        with self.assertRaisesRegex(DeviceNonsense, "never set from here"):
            device.set("nozzle", 20.0)
        self.assertLessEqual(set(machine.heard), set(ASKS))
        self.assertEqual(set(ASKS), {"M105", "M27", "M114"})

    def test_a_port_in_use_is_refused(self):
        _, line, device = self.start()
        with self.assertRaisesRegex(DeviceSilent, "in use"):
            SerialMachine(line.port, "Tarn", timeout_s=0.2)
        self.assertIn("nozzle", device.read(), "the first one goes on")
        with self.assertRaisesRegex(DeviceSilent, "not there"):
            SerialMachine("/dev/no_such_line", "Tarn", timeout_s=0.2)


class TestFaults(LineTest):
    def test_silence_is_told_and_it_goes_on_afterwards(self):
        _, _, device = self.start(Faults(silent_s=(100.0, 200.0)))
        self.now = 150.0
        with self.assertRaisesRegex(DeviceSilent, "does not answer M105"):
            device.read()
        self.now = 250.0
        self.assertIn("nozzle", device.read())

    def test_nonsense_is_told_with_its_words_and_it_goes_on_afterwards(self):
        _, _, device = self.start(Faults(nonsense_s=(100.0, 200.0)))
        self.now = 150.0
        with self.assertRaisesRegex(DeviceNonsense, "answers .* to M105"):
            device.read()
        self.now = 250.0
        self.assertIn("nozzle", device.read())

    def test_a_cut_line_is_told(self):
        _, _, device = self.start(Faults(cut_s=100.0))
        device.read()
        self.now = 120.0
        for _ in range(3):
            with self.assertRaises(DeviceFault):
                device.read()

    def test_a_lost_heater_and_a_drifting_sensor_show(self):
        _, _, device = self.start(Faults(chamber_lost_s=3_000.0))
        self.now = 3_000.0
        warm = device.read()["chamber"]
        self.now = 3_500.0
        self.assertAlmostEqual(device.read()["chamber"], 21.0 + (warm - 21.0) * np.exp(-1.0), delta=1.0)
        self.now = 0.0
        _, _, other = self.start(Faults(drift_k_h=3.0))
        self.now = 7_200.0
        self.assertAlmostEqual(other.read()["chamber"], 86.0, delta=0.6)

    def test_a_thousand_lines_of_noise_bring_nothing_down(self):
        told = np.random.default_rng(9)
        ours, theirs = os.openpty()
        self.addCleanup(os.close, ours)
        self.addCleanup(os.close, theirs)
        os.write(ours, told.bytes(2_000).replace(b"\x04", b".").replace(b"\x03", b"."))
        with self.assertRaises(DeviceFault):
            SerialMachine(os.ttyname(theirs), "Noise", timeout_s=0.2)

    def test_a_line_that_never_ends_is_given_up_at_one_deadline(self):
        ours, theirs = os.openpty()
        self.addCleanup(os.close, theirs)
        is_over, sent = threading.Event(), []

        def drip():
            while len(sent) < 1_000 and not is_over.wait(0.01):
                sent.append(os.write(ours, b"T:2"))  # never an end of a line, never silent for long

        dripping = threading.Thread(target=drip)
        dripping.start()
        try:
            with self.assertRaisesRegex(DeviceFault, "answers 'T:2T:2"):
                SerialMachine(os.ttyname(theirs), "Drip", timeout_s=0.4)
        finally:
            is_over.set()
            dripping.join()
            os.close(ours)
        self.assertLess(len(sent), 1_000, "it was given up while it still talked")

    def test_what_is_no_question_is_never_sent_even_where_asserts_are_off(self):
        machine, _, device = self.start()
        with self.assertRaisesRegex(DeviceFault, "is asked, and never told"):
            device._asked("M104 S250", None)
        self.assertNotIn("M104 S250", machine.heard)
