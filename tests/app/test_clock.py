"""Times as people write them: what is to come, what was, and what is neither."""

import unittest
from datetime import UTC, datetime

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


if __name__ == "__main__":
    unittest.main()
