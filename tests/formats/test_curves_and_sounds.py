"""Curves of testing machines and recordings of tapped bars: read, and what is none of either named."""

import struct
import tempfile
import unittest
from pathlib import Path

import numpy as np
from scipy.io import wavfile

from kaustos.core.errors import KaustosError
from kaustos.formats.curve_file import read_curve
from kaustos.formats.recording import read_recording


class FileTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)

    def file(self, name, content):
        found = self.folder / name
        found.write_bytes(content if isinstance(content, bytes) else content.encode())
        return found


class TestCurves(FileTest):
    def curve(self, *lines):
        return self.file("a1.csv", "\n".join(lines))

    def test_units_are_converted_and_commas_read(self):
        found = read_curve(self.curve("force [kN];strain [%]", *(f"0,{n}00;{n},5" for n in range(1, 7))))
        np.testing.assert_allclose(found.force_n, [100.0 * n for n in range(1, 7)])
        np.testing.assert_allclose(found.strain, [(n + 0.5) / 100.0 for n in range(1, 7)])
        self.assertIsNone(found.travel_mm)

    def test_other_columns_are_left_alone(self):
        lines = ["time [s],load [N],extension [mm],remark", *(f"{n},{10 * n},{0.1 * n},x" for n in range(8))]
        found = read_curve(self.curve(*lines))
        self.assertAlmostEqual(found.travel_mm[3], 0.3)

    def test_every_fault_is_named_with_its_line(self):
        for lines, words in (
            (["force,strain [%]", "1,2"], r"line 1, column force: has no unit; write force \[n\]"),
            (["force [lb],strain [%]", "1,2"], r"line 1, column force: \[lb\] is none of n, kn"),
            (["force [N],strain [%]", *("1,2",) * 4, "x,3"], r"line 6, column force"),
            (["force [N],strain [%]", *("1,2",) * 4, ",3"], r"line 6, column force: is empty"),
            (["travel [mm]", *("1",) * 6], r"no column is called force"),
            (["force [N],strain [%]", "1,2"], r"1 points; a curve wants at least 5"),
            (["force [N],load [N],strain [%]", *("1,1,2",) * 6], r"two columns say the same"),
            ([""], "is empty"),
        ):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                read_curve(self.curve(*lines))


class TestRecordings(FileTest):
    def wav(self, samples, rate=16_000):
        file = self.folder / "tap.wav"
        wavfile.write(file, rate, samples)
        return file

    def test_every_depth_is_full_scale_one(self):
        tone = np.sin(np.arange(4_000) * 0.3)
        depths = ((np.int16, 32_767, 0), (np.int32, 2**31 - 1, 0), (np.float32, 1.0, 0), (np.uint8, 127, 128))
        for kind, scale, off in depths:
            found = read_recording(self.wav((tone * scale + off).astype(kind)))
            with self.subTest(kind.__name__):
                np.testing.assert_allclose(found.samples, tone, atol=0.02)
                self.assertEqual(found.rate_hz, 16_000.0)

    def test_the_loudest_of_several_channels_is_taken(self):
        tone = np.sin(np.arange(2_000) * 0.2)
        both = np.stack([0.01 * tone, tone], axis=1).astype(np.float32)
        np.testing.assert_allclose(read_recording(self.wav(both)).samples, tone, atol=1e-6)

    def test_what_is_none_is_named(self):
        head = b"RIFF" + struct.pack("<I", 36) + b"WAVEfmt "
        for name, content, words in (
            ("empty.wav", b"", "is empty"), ("notes.wav", b"not a sound at all", "is no WAV"),
            ("cut.wav", head, "broken WAV"), ("cut2.wav", head + b"\x10\0\0\0\x01\0\x01\0", "broken WAV"),
        ):  # fmt: skip
            with self.subTest(name), self.assertRaisesRegex(KaustosError, words):
                read_recording(self.file(name, content))
        with self.assertRaisesRegex(KaustosError, "no length"):
            read_recording(self.wav(np.zeros(0, np.int16)))
        with self.assertRaisesRegex(KaustosError, "less than 120 s"):
            read_recording(self.wav(np.zeros(8_000 * 121, np.int16), 8_000))
