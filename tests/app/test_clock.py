"""Times as people write them: what is to come, what was, and what is neither."""

import os
import time
import unittest
from datetime import UTC, datetime
from unittest.mock import patch

from kaustos.app.clock import read_moment, read_past
from kaustos.core.errors import KaustosError

NOW = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)  # a Monday


def local(words, read):
    return read(words, NOW).astimezone(UTC).strftime("%Y-%m-%d %H:%M")


class TestClock(unittest.TestCase):
    def test_what_is_to_come(self):
        for words, moment in (
            ("07:30", "2026-03-03 07:30"), ("tomorrow 7.30", "2026-03-03 07:30"),
            ("Thursday 07:30", "2026-03-05 07:30"),
            ("thu at 7:30 am", "2026-03-05 07:30"), ("7:30 pm", "2026-03-02 19:30"), ("12:15 am", "2026-03-03 00:15"),
            ("+6 h", "2026-03-02 14:00"), ("+1,5 h", "2026-03-02 09:30"), ("2026-03-04 06:00", "2026-03-04 06:00"),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertEqual(local(words, read_moment), moment)

    def test_what_was(self):
        for words, moment in (
            ("07:30", "2026-03-02 07:30"), ("09:30", "2026-03-01 09:30"), ("6 h ago", "2026-03-02 02:00"),
            ("-6 h", "2026-03-02 02:00"), ("\u22126 h", "2026-03-02 02:00"), ("3 weeks ago", "2026-02-09 08:00"),
            ("yesterday 16:00", "2026-03-01 16:00"), ("Friday 7.30", "2026-02-27 07:30"),
            ("40 minutes ago", "2026-03-02 07:20"),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertEqual(local(words, read_past), moment)
        self.assertEqual(local("2025-11-01", read_past)[:10], "2025-11-01")

    def test_what_is_no_time_is_told_with_examples(self):
        for words in ("", "7", "25:00", "13:00 am", "someday 07:30", "7:75", "6 h", "2026-02-30", "99999999999 weeks"):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, "is no time; write 07:30"):
                read_moment(words, NOW)

    def test_moments_that_no_shop_sees_are_refused(self):
        for words in ("0001-01-01 07:30", "9999-12-31", "1969-12-31 23:59", "2200-01-01", "+90000000 d"):
            with self.subTest(words), self.assertRaises(KaustosError):
                read_moment(words, NOW)
            with self.subTest(words), self.assertRaises(KaustosError):
                read_past(words.replace("+", "-"), NOW)


BRITAIN, NEW_YORK, SYDNEY = "GMT0BST,M3.5.0/1,M10.5.0", "EST5EDT,M3.2.0,M11.1.0", "AEST-10AEDT,M10.1.0,M4.1.0/3"


class TestChangesOfTheClock(unittest.TestCase):
    """What is typed is the time on the wall of its own day; what is counted in hours is hours."""

    def at(self, zone, now, words, read):
        with patch.dict(os.environ, {"TZ": zone}):
            time.tzset()
            try:
                return read(words, datetime.fromisoformat(now)).astimezone(UTC).strftime("%Y-%m-%d %H:%M")
            finally:
                os.environ.pop("TZ")
                time.tzset()

    def test_both_sides_of_the_change_in_three_zones(self):
        for zone, now, words, read, moment in (
            # the clock goes forward on 29 March 2026 at 01:00 UTC
            (BRITAIN, "2026-03-28T12:00:00+00:00", "tomorrow 07:30", read_moment, "2026-03-29 06:30"),
            (BRITAIN, "2026-03-28T12:00:00+00:00", "2026-03-30 07:30", read_moment, "2026-03-30 06:30"),
            (BRITAIN, "2026-03-28T12:00:00+00:00", "+24 h", read_moment, "2026-03-29 12:00"),
            (BRITAIN, "2026-03-29T12:00:00+00:00", "yesterday 07:30", read_past, "2026-03-28 07:30"),
            (BRITAIN, "2026-03-30T12:00:00+00:00", "Friday 07:30", read_past, "2026-03-27 07:30"),
            (BRITAIN, "2026-03-28T12:00:00+00:00", "tomorrow 00:30", read_moment, "2026-03-29 00:30"),
            # and back on 25 October at 01:00 UTC
            (BRITAIN, "2026-10-24T12:00:00+00:00", "tomorrow 07:30", read_moment, "2026-10-25 07:30"),
            (BRITAIN, "2026-10-25T12:00:00+00:00", "yesterday 07:30", read_past, "2026-10-24 06:30"),
            # forward on 8 March 2026 at 07:00 UTC, back on 1 November at 06:00 UTC
            (NEW_YORK, "2026-03-07T20:00:00+00:00", "Sunday 07:30", read_moment, "2026-03-08 11:30"),
            (NEW_YORK, "2026-03-09T12:00:00+00:00", "2026-03-07 07:30", read_past, "2026-03-07 12:30"),
            (NEW_YORK, "2026-10-31T20:00:00+00:00", "7:30", read_moment, "2026-11-01 12:30"),
            (NEW_YORK, "2026-10-31T20:00:00+00:00", "3 weeks ago", read_past, "2026-10-10 20:00"),
            # back on 5 April 2026, forward on 4 October, both at 16:00 UTC of the day before
            (SYDNEY, "2026-04-04T02:00:00+00:00", "tomorrow 07:30", read_moment, "2026-04-04 21:30"),
            (SYDNEY, "2026-04-06T02:00:00+00:00", "2026-04-04 07:30", read_past, "2026-04-03 20:30"),
            (SYDNEY, "2026-10-03T02:00:00+00:00", "tomorrow 07:30", read_moment, "2026-10-03 20:30"),
        ):
            with self.subTest(zone[:4], now=now, words=words):
                self.assertEqual(self.at(zone, now, words, read), moment)

    def test_a_time_that_the_clock_leaps_over_is_refused_with_the_one_that_follows(self):
        with self.assertRaisesRegex(KaustosError, "01:30 on 2026-03-29 does not exist.*write 02:30"):
            self.at(BRITAIN, "2026-03-28T12:00:00+00:00", "tomorrow 01:30", read_moment)

    def test_a_time_that_comes_twice_is_the_first(self):
        self.assertEqual(
            self.at(BRITAIN, "2026-10-24T12:00:00+00:00", "tomorrow 01:30", read_moment), "2026-10-25 00:30"
        )
