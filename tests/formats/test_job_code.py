"""Job files: lengths, times and boxes beside a second reader; pieces, remarks, oddities and what is no job file."""

import math
import random
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from kaustos.core.errors import KaustosError
from kaustos.core.planning.motion import Planned
from kaustos.formats.job_code import read_job
from tests.formats.plain_job import read_plainly

SURE = Planned(accel_mm_s2=(1_500.0,) * 3, corner_mm_s=(8.0,) * 3)
HEAD = "M140 S60\nM104 S240\nG28\nG90\nM190 S60\nM109 S240\n"


def read(text, pieces=None, planned=SURE):
    data = text.encode()
    cuts = sorted(pieces or ())
    return read_job([data[a:b] for a, b in zip([0, *cuts], [*cuts, len(data)], strict=True)], "job.gcode", planned)


def square(size, z, feed="M83", start=""):
    lines = [f"G1 Z{z} F600", "G1 X0 Y0 F6000", start, "G1 F1800"]
    extruded = 0.0
    for x, y in ((size, 0), (size, size), (0, size), (0, 0)):
        extruded += size * 0.04
        amount = size * 0.04 if feed == "M83" else extruded
        lines.append(f"G1 X{x:.3f} Y{y:.3f} E{amount:.5f}")
    return [*lines, "G1 E-0.8 F2100" if feed == "M83" else f"G1 E{extruded - 0.8:.5f} F2100"]


def squares(feed="M83", count=5):
    lines = [HEAD.strip(), feed]
    for n in range(count):
        lines += ["G92 E0", *square(40.0 + n, round(0.2 * (n + 1), 3), feed)]
    return "\n".join(lines) + "\n"


def spiral(turns=20):
    points = [(20 * math.cos(n / 8) + 60, 20 * math.sin(n / 8) + 60, 0.2 + n * 0.004) for n in range(turns * 50)]
    return HEAD + "M83\nG1 F3000\n" + "".join(f"G1 X{x:.4f} Y{y:.4f} Z{z:.4f} E0.08\n" for x, y, z in points)


ARCS = (
    HEAD
    + """M83
G1 Z0.2 F600
G1 X10 Y10 F3000
G3 X30 Y10 I10 J0 E0.9 F1500
G2 X10 Y10 R10 E0.9
G2 X10 Y10 I5 J5 E1.2
G3 X12 Y14 Z0.6 I2 J2 E0.4
G18
G2 X20 Z4 I3 K1 E0.4
G17
G1 X0 Y0 E1
"""
)
INCHES = HEAD + "G20\nG91\nG1 Z0.01 F20\nM83\n" + "G1 X1 E0.05 F60\nG1 Y1 E0.05\nG1 X-1 E0.05\nG1 Y-1 E0.05\n" * 3
TOOLS = squares() + "T1\nG92 E0\n" + "\n".join(square(30.0, 1.4)) + "\nT0\nM221 S95\n" + "\n".join(square(25.0, 1.6))
VOLUMES = "M200 D1.75\n" + squares().replace("E1.", "E3.")
ODD = (
    HEAD + "M83\nN12 G1 X10 Y10 E.5 F1200*33\nG1X20Y10E.5\ng1 x20 y20 e0.5 ; E9\nG1 (E4) X5 Y5 E0.25\nM204 P900 T2000\n"
    "G1 X50 E1\nM204 S700\nM220 S50\nG1 Y50 E1\nG4 P250\nG1 X0 E1\nM600\nG1 Y0 E1\nG10\nG0 X9\nG11\nG1 X1 Y1 E0.2\n"
    "SET_THINGS VALUE=4\nM9000 S1\nG77\nG1 X Y5 E0.1\nG90 G1 X8 E0.1\n"
)
FILES = {
    "squares, relative": squares(), "squares, absolute": squares("M82"), "spiral": spiral(), "arcs": ARCS,
    "inches": INCHES, "tools": TOOLS, "volumes": VOLUMES,
}  # fmt: skip


class TestBesideASecondReader(unittest.TestCase):
    def test_lengths_times_and_boxes_are_the_same(self):
        for name, text in FILES.items():
            filament, seconds, low, high = read_plainly(text)
            found = read(text)
            with self.subTest(name):
                self.assertEqual(set(found.filament_mm), set(filament))
                for tool, length in filament.items():
                    self.assertAlmostEqual(found.filament_mm[tool], length, delta=1e-9 * max(length, 1.0))
                close = 1e-4 if name == "arcs" else 1e-6 * seconds  # chains of chords are shorter than arcs
                self.assertAlmostEqual(found.seconds[1], seconds, delta=close)
                for mine, theirs in zip((*found.low_mm, *found.high_mm), (*low, *high), strict=True):
                    self.assertAlmostEqual(mine, theirs, places=6)
                self.assertAlmostEqual(sum(each.seconds[1] for each in found.layers), seconds, delta=close)
                total = sum(each.filament_mm for each in found.layers)
                self.assertAlmostEqual(total, sum(filament.values()), delta=1e-9 * max(total, 1.0))

    def test_what_is_written_is_what_is_laid(self):
        found = read(squares(count=3))
        written = sum((40 + n) * 4 * 0.04 - 0.8 for n in range(3))
        self.assertAlmostEqual(found.filament_mm[0], written, places=9)
        self.assertEqual([each.z_mm for each in found.layers if each.path_mm], [0.2, 0.4, 0.6])
        self.assertEqual([each.path_mm for each in found.layers if each.path_mm], [160.0, 164.0, 168.0])
        self.assertEqual({each.nozzle_c for each in found.layers if each.path_mm}, {240.0})
        self.assertAlmostEqual(found.layers[-1].fastest_mm_s, 0.04 * 30.0, places=6)

    def test_one_long_move_takes_what_a_trapezoid_takes(self):
        """120 mm at 60 mm/s from rest to rest with 1,500 mm/s²: 120 / 60 + 60 / 1,500."""
        found = read("M83\nG1 Z0.2 F60000\nG4 P0\nG1 X120 E3 F3600\n")
        still = read("M83\nG1 Z0.2 F60000\nG4 P0\n G1 X60 E3 F3600\nG4 P0\nG1 X120 E3\n")
        rise = 2.0 * math.sqrt(0.2 / 1_500.0)
        self.assertAlmostEqual(found.seconds[1], rise + 2.04, places=7)
        self.assertAlmostEqual(still.seconds[1], rise + 2.08, places=7)

    def test_a_slower_or_stiffer_machine_is_never_quicker(self):
        for text in FILES.values():
            times = [
                read(text, planned=Planned(accel_mm_s2=(a,) * 3, corner_mm_s=(c,) * 3)).seconds[1]
                for a, c in ((5_000.0, 15.0), (1_500.0, 15.0), (1_500.0, 4.0), (300.0, 4.0))
            ]
            self.assertEqual(times, sorted(times))
        band = read(squares(), planned=Planned()).seconds
        self.assertLess(band[0], band[1])
        self.assertLess(band[1], band[2])


class TestPieces(unittest.TestCase):
    def test_cut_anywhere_it_says_the_same(self):
        draws = random.Random(7)
        for name, text in {**FILES, "odd": ODD}.items():
            whole = read(text)
            for _ in range(6):
                cuts = {draws.randrange(1, len(text)) for _ in range(draws.randrange(1, 9))}
                with self.subTest(name, cuts=cuts):
                    self.assertEqual(read(text, cuts), whole)

    def test_a_remark_changes_the_bytes_and_not_the_moves_a_move_both(self):
        plain, told = read(squares()), read("; made on Monday\n" + squares().replace("G92 E0", "G92 E0 ; layer"))
        self.assertEqual(plain.moves_sha256, told.moves_sha256)
        self.assertNotEqual(plain.sha256, told.sha256)
        self.assertNotEqual(read(squares().replace("X41.000", "X41.001")).moves_sha256, plain.moves_sha256)
        self.assertNotEqual(read(squares().replace("S240", "S245")).moves_sha256, plain.moves_sha256)


class TestOddities(unittest.TestCase):
    def test_numbers_of_lines_checksums_capitals_and_several_codes_in_a_line_are_read(self):
        found = read(ODD)
        self.assertAlmostEqual(found.filament_mm[0], 0.5 * 3 + 0.25 + 4.0 + 0.2 + 0.1 + 0.1)
        self.assertEqual(dict(found.unknown), {"SET_THINGS": 1, "M9000": 1, "G77": 1})
        self.assertEqual([(each.word, each.line) for each in found.pauses], [("M600", 19)])
        self.assertTrue(found.accel_told and found.homed)

    def test_heats_of_a_nozzle_that_rests_are_not_those_of_the_one_that_prints(self):
        layer = "G1 Z{0} F600\nG1 X0 Y0\nG1 X40 E1 F1800\nG1 Y40 E1\n"
        heats = "M104 S290\nM104 T1 S180\nM140 S120\n"
        found = read("M83\n" + heats + layer.format(0.2) + "T1\n" + layer.format(0.4) + "T0\n" + layer.format(0.6))
        self.assertEqual([each.nozzle_c for each in found.layers if each.path_mm], [290.0, 180.0, 290.0])
        one = read("M83\nM104 S250\n" + layer.format(0.2) + "T1\n" + layer.format(0.4))
        self.assertEqual(
            [each.nozzle_c for each in one.layers if each.path_mm], [250.0, 250.0], "one nozzle, two feeds"
        )

    def test_homing_after_something_was_laid_is_no_homing_before_it(self):
        move = "M83\nG1 Z0.2 F600\nG1 X40 E1 F1800\n"
        self.assertEqual([read(each).homed for each in ("G28\n" + move, move + "G28\n", move)], [True, False, False])

    def test_a_remark_is_not_believed(self):
        self.assertEqual(read(squares() + "; filament used: 9 km\n;TIME:1\n").filament_mm, read(squares()).filament_mm)

    def test_what_is_no_job_file_is_named_with_its_line(self):
        for text, words in (
            ("G1 X1\n" + "x" * (2 << 20), "line 2: is longer"),
            ("G28\nG1 X10\nM104 S200\n", "no move lays filament"),
            ("", "no move lays filament"),
            ("PK\x03\x04\0\0", "holds bytes that are no text"),
            ("G1 X0 E-5\nG1 X10 E-5\n", "no move lays filament"),
        ):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, f"job.gcode.*{words}"):
                read(text)

    @settings(max_examples=120)
    @given(st.randoms(use_true_random=False), st.sampled_from([*FILES, "odd"]))
    def test_whatever_a_file_has_become_it_is_read_or_refused(self, draws, name):
        text = bytearray(({**FILES, "odd": ODD}[name])[:4_000].encode())
        for _ in range(draws.randrange(1, 12)):
            at = draws.randrange(len(text))
            what = draws.randrange(4)
            if what == 0:
                text[at] = draws.randrange(1, 256)
            elif what == 1:
                del text[at : at + draws.randrange(1, 40)]
            elif what == 2:
                text[at:at] = bytes(
                    draws.choice(b"XYZEFGMST0123456789.-+ \n;*()") for _ in range(draws.randrange(1, 9))
                )
            else:
                text[at:at] = draws.choice(
                    [b"E1e9", b"9" * 40, b"\n\n", b"G2 I0 J0\n", b"M200 D0\n", b"F-1 ", b"M221 S-9\n"]
                )
            text = text or bytearray(b"G")
        try:
            found = read_job([bytes(text)], "job.gcode", SURE)
        except KaustosError:
            return
        self.assertTrue(all(math.isfinite(each) for each in (*found.seconds, *found.low_mm, *found.high_mm)))
        self.assertTrue(all(each >= 0.0 for each in found.seconds))
