"""Relative humidity and dew point typed either way, against steam tables."""

import unittest

from kaustos.app.edits import Draft
from kaustos.app.humid import read_dew_point, read_humidity
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from tests.support import opened


class TestEitherReading(unittest.TestCase):
    def test_a_dew_point_is_read_where_a_share_is_kept(self):
        # saturation pressures of steam tables: 1.228 kPa at 10 °C, 2.339 at 20, 47.41 at 80, 101.4 at 100
        for text, air_c, share in (("45 %", 20.0, 45.0), ("10 °C", 20.0, 52.5), ("dp 10 C", 80.0, 2.59),
                                   ("dew point 50 °F", 20.0, 52.5)):  # fmt: skip
            with self.subTest(text, air=air_c):
                self.assertAlmostEqual(read_humidity(text, air_c), share, delta=0.02 * share)

    def test_a_share_is_read_where_a_dew_point_is_kept(self):
        for text, air_c, dew in (("12 °C", 20.0, 12.0), ("52.5 %", 20.0, 10.0), ("2.59 %", 80.0, 10.0)):
            with self.subTest(text):
                self.assertAlmostEqual(read_dew_point(text, air_c), dew, delta=0.2)

    def test_what_cannot_be_is_refused_with_its_reason(self):
        for read, text in ((read_humidity, "30 °C"), (read_humidity, "120 %"), (read_humidity, "damp"),
                           (read_dew_point, "0 %"), (read_dew_point, "wet")):  # fmt: skip
            with self.subTest(text), self.assertRaises(KaustosError):
                read(text, 20.0)

    def test_every_field_of_humidity_takes_both(self):
        draft = Draft(opened("winch_bracket"), Wording(), lambda edit: None)
        draft.propose("lot.box_humidity_pct", "-5 °C")
        self.assertAlmostEqual(draft.value("lot.box_humidity_pct"), 100.0 * 0.4215 / 2.487, delta=0.4)  # at 21 °C
        draft.propose("rules.dew_point_c", "50 %")
        self.assertAlmostEqual(draft.value("rules.dew_point_c"), 10.2, delta=0.15)
        draft.propose("dryer.dew_point_c", "-30 °C")
        self.assertEqual(draft.value("dryer.dew_point_c"), -30.0)


if __name__ == "__main__":
    unittest.main()
