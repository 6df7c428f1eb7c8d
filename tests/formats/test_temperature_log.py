"""Logs of temperatures as loggers write them, and everything that is wrong with some."""

import tempfile
import unittest
from pathlib import Path

import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.progress import Cancelled
from kaustos.formats.temperature_log import read_log


class LogTest(unittest.TestCase):
    def read(self, text, progress=None):
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "log.csv"
            file.write_text(text, encoding="utf-8")
            return read_log(file) if progress is None else read_log(file, progress)

    def refused(self, text, words):
        with self.assertRaises(KaustosError) as caught:
            self.read(text)
        self.assertRegex(str(caught.exception), words)
        self.assertIn("log.csv", str(caught.exception))


class TestReading(LogTest):
    def test_every_separator_decimal_and_way_of_writing_time(self):
        for text in (
            "time,TC1,TC2\n2026-03-01 08:00:00,21.5,20\n2026-03-01 08:01:00,22.5,20\n",
            "Zeit;TC1;TC2\n01.03.2026 08:00:00;21,5;20,0\n01.03.2026 08:01:00;22,5;20,0\n",
            "t [s]\tTC1\tTC2\n0\t21.5\t20\n60\t22.5\t20\n",
            "elapsed_min|TC1|TC2\n0|21.5|20\n1|22.5|20\n",
            "timestamp,TC1,TC2\n2026-03-01T08:00:00Z,21.5,20\n2026-03-01T08:01:00Z,22.5,20\n",
            "# a logger\n# of ours\ntime;TC1;TC2\n08:00:00;21.5;20\n08:01:00;22.5;20\n",
            "time,TC1 [F],TC2\n0,70.7,20\n60,72.5,20\n",
        ):
            with self.subTest(text[:30]):
                log = self.read(text)
                first = next(iter(log.readings.values()))
                np.testing.assert_allclose(log.seconds, [0.0, 60.0])
                np.testing.assert_allclose(first, [21.5, 22.5])

    def test_a_file_without_headings_and_one_with_gaps(self):
        log = self.read("0,20.0,21.0\n10,,21.5\n20,22.0,---\n")
        self.assertEqual(list(log.readings), ["sensor 1", "sensor 2"])
        self.assertTrue(np.isnan(log.readings["sensor 1"][1]) and np.isnan(log.readings["sensor 2"][2]))

    def test_power_and_duty_stand_apart_from_temperatures(self):
        log = self.read("time,air,heater power [W],fan duty\n0,20,150,40\n10,21,150,50\n")
        self.assertEqual(list(log.readings), ["air"])
        np.testing.assert_allclose(log.power_w, [150.0, 150.0])
        np.testing.assert_allclose(log.duty_pct, [40.0, 50.0])

    def test_a_log_of_clock_times_may_pass_midnight(self):
        log = self.read("time,a\n23:59:30,20\n00:00:30,21\n00:01:30,22\n")
        np.testing.assert_allclose(log.seconds, [0.0, 60.0, 120.0])

    def test_the_log_of_our_own_devices_is_read(self):
        log = self.read("at_utc,Simulated logger: TC1 [°C],Simulated logger: power [W],fault\n"
                        "2026-03-01T08:00:00.100000+00:00,21.0,220.0,\n"
                        "2026-03-01T08:00:01.200000+00:00,21.4,220.0,\n")  # fmt: skip
        self.assertEqual(list(log.readings), ["Simulated logger: TC1 [°C]"])
        self.assertAlmostEqual(log.seconds[1], 1.1, delta=1e-5)

    def test_it_can_be_called_off(self):
        class Off:
            def check(self):
                raise Cancelled("Called off.")

            def report(self, done, of):
                pass

        with self.assertRaises(Cancelled):
            self.read("time,a\n0,20\n10,21\n", Off())


class TestRefusals(LogTest):
    def test_what_is_wrong_is_named_with_its_line(self):
        for text, words in (
            ("", "holds nothing"),
            ("\n\n", "holds nothing"),
            ("time,TC1\n", "no readings"),
            ("only one\n1\n2\n", "one column only"),
            ("time,TC1,TC1\n0,20,21\n10,21,22\n", "TC1 stands twice"),
            ("time,TC1\n0,20\n10,warm\n20,22\n30,23\n", "line 3, column TC1: 'warm' is no number"),
            ("time,TC1\n2026-03-01 08:00:00,20\n2026-03-01 07:00:00,21\n", "line 3: its time lies before"),
            ("time,TC1\n0,20\n20,21\n10,22\n", "line 4: its time lies before"),
            ("time,TC1\n2026-03-01 08:00:00,20\nyesterday,21\n2026-03-01 08:02:00,22\n", "line 3: 'yesterday'"),
            ("time,TC1\n5,20\n5,21\n", "of one moment"),
            ("time,note\n0,cold\n10,warm\n", "no column of temperatures"),
        ):
            with self.subTest(text[:40]):
                self.refused(text, words)

    def test_a_picture_is_no_log(self):
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "log.csv"
            file.write_bytes(b"\x89PNG\x00\x00\x01" * 40)
            with self.assertRaisesRegex(KaustosError, "is no text"):
                read_log(file)


if __name__ == "__main__":
    unittest.main()
