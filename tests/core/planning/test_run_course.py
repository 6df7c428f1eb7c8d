"""How far a run had come: by hand on three pieces, conserved whatever the file, and without a file as time goes."""

import random
import unittest

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.planning.booking import HEAT_UP_H, PURGE_G, booking_of
from kaustos.core.planning.run_course import PIECES, course_of, hour_at, share_fed
from kaustos.core.records import JobFile, Run, RunPiece

# a solid foot of 2 mm: 10 layers of 60 s at 5 mm/s, then walls of 8 mm: 40 layers of 30 s at 1 mm/s
FILE = JobFile(id="j", heights_mm=(2.0, 6.0, 10.0), seconds=(60.0, 30.0, 30.0), layers=(10.0, 20.0, 20.0),
               feeds_mm_s=(5.0, 1.0, 1.0))  # fmt: skip
RUN = Run(id="r", card="c", revision=1.0, mass_g=210.0, planned_h=6.0, course=course_of(FILE), outcome="failed")


class TestCourse(unittest.TestCase):
    def test_by_hand(self):
        wanted = ((2.0, 600 / 1800, 3000 / 4200), (6.0, 1200 / 1800, 3600 / 4200), (10.0, 1.0, 1.0))
        for found, (high, time, filament) in zip(RUN.course, wanted, strict=True):
            self.assertEqual(found.high_mm, high)
            self.assertAlmostEqual(found.time, time)
            self.assertAlmostEqual(found.filament, filament)

    def test_a_third_of_the_time_is_five_sevenths_of_the_filament(self):
        self.assertAlmostEqual(share_fed(RUN, 1.0 / 3.0), 5.0 / 7.0)
        self.assertAlmostEqual(share_fed(RUN, 0.5), 5.0 / 7.0 + 0.5 / 7.0)
        self.assertAlmostEqual(hour_at(RUN, 2.0), 2.0)
        self.assertAlmostEqual(hour_at(RUN, 4.0), 3.0)
        self.assertEqual((hour_at(RUN, 99.0), share_fed(RUN, 9.0)), (6.0, 1.0))
        self.assertEqual((hour_at(RUN, -1.0), share_fed(RUN, 0.0)), (0.0, 0.0))

    def test_any_file_ends_whole_and_never_falls_back(self):
        rng = random.Random(20260302)
        for count in (1, 2, PIECES, PIECES + 1, 700):
            heights = sorted(rng.uniform(0.1, 300.0) for _ in range(count))
            file = attrs.evolve(
                FILE, heights_mm=tuple(heights), seconds=tuple(rng.uniform(1.0, 90.0) for _ in heights),
                layers=tuple(float(rng.randint(1, 9)) for _ in heights),
                feeds_mm_s=tuple(rng.uniform(0.0, 6.0) for _ in heights),
            )  # fmt: skip
            course = course_of(file)
            with self.subTest(count):
                self.assertLessEqual(len(course), PIECES)
                last = course[-1]
                self.assertEqual((last.time, last.filament, last.high_mm), (1.0, 1.0, heights[-1]))
                shares = [share_fed(attrs.evolve(RUN, course=course), each / 50.0) for each in range(51)]
                self.assertEqual(shares, sorted(shares))

    def test_a_file_that_lays_nothing_has_none_and_a_piece_that_cannot_be_is_refused(self):
        self.assertEqual(course_of(JobFile(id="j")), ())
        self.assertEqual(course_of(attrs.evolve(FILE, feeds_mm_s=(0.0, 0.0, 0.0))), ())
        for wrong in ({"time": 1.1}, {"filament": float("nan")}, {"high_mm": -1.0}, {"high_mm": float("inf")}):
            with self.subTest(wrong), self.assertRaises(FieldError):
                RunPiece(**{"high_mm": 1.0, "time": 0.5, "filament": 0.5, **wrong})


class TestBooking(unittest.TestCase):
    def test_cut_short_it_books_what_its_file_had_fed_by_then(self):
        found = booking_of(attrs.evolve(RUN, ran_h=2.0))
        self.assertAlmostEqual(found.mass_g, 210.0 * 5.0 / 7.0 + PURGE_G)
        self.assertAlmostEqual(found.hours, 2.0 + HEAT_UP_H)
        without = booking_of(attrs.evolve(RUN, ran_h=2.0, course=()))
        self.assertAlmostEqual(without.mass_g, 210.0 / 3.0 + PURGE_G, msg="as time goes")

    def test_never_more_than_the_whole_and_a_good_one_is_whole(self):
        self.assertEqual(booking_of(attrs.evolve(RUN, ran_h=5.99)).mass_g, 210.0)
        for outcome in ("good", "usable"):
            whole = booking_of(attrs.evolve(RUN, ran_h=2.0, outcome=outcome))
            self.assertEqual((whole.mass_g, whole.hours), (210.0, 2.0 + HEAT_UP_H), "the hours that it took")
