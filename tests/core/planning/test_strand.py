"""What a purged strand tells: more signs never make it drier, and it speaks only for the spool as it is."""

import itertools
import unittest
from datetime import UTC, datetime, timedelta

import attrs

from kaustos.core.planning.strand import is_clean, strand_that_tells, verdict_of
from kaustos.core.records import STRAND_SIGNS, Lot, Stay, StrandCheck
from kaustos.library import load
from tests.asserting import every

ORDER = ("dry", "suspect", "wet")
SHOWS, SILENT = load().polymers["pa_cf"], load().polymers["pei_pc_blend"]
NOON = datetime(2026, 3, 2, 12, 0, tzinfo=UTC)


def lot(*signs, age_h=1.0, dried_h=None):
    """A lot with one strand, and perhaps a dryer after or before it."""
    stays = ()
    if dried_h is not None:
        stays = (Stay(place="dryer", from_utc=(NOON - timedelta(hours=dried_h)).isoformat()),)
    strand = StrandCheck(at_utc=(NOON - timedelta(hours=age_h)).isoformat(), signs=signs)
    return Lot(id="a", stays=stays, strands=(strand,))


class TestVerdict(unittest.TestCase):
    def test_another_sign_never_makes_it_drier(self):
        for count in range(len(STRAND_SIGNS)):
            for signs in every(itertools.combinations(STRAND_SIGNS, count)):
                before = ORDER.index(verdict_of(signs))
                for more in every(set(STRAND_SIGNS) - set(signs)):
                    self.assertGreaterEqual(ORDER.index(verdict_of((*signs, more))), before)

    def test_steam_alone_is_wet_and_what_heat_does_too_is_a_suspicion(self):
        words = {sign: verdict_of((sign,)) for sign in STRAND_SIGNS}
        self.assertEqual({sign for sign, word in words.items() if word == "wet"}, {"bubbles", "vapour"})
        self.assertEqual({word for word in words.values() if word != "wet"}, {"suspect"})
        self.assertEqual(verdict_of(()), "dry")
        self.assertEqual(verdict_of(("dull", "thin")), "suspect")
        self.assertEqual(verdict_of(("dull", "thin", "colour")), "wet", "three together")


class TestTells(unittest.TestCase):
    def test_a_dryer_since_then_takes_the_word_from_it(self):
        self.assertIsNotNone(strand_that_tells(lot("vapour", dried_h=2.0), SHOWS))
        self.assertIsNone(strand_that_tells(lot("vapour", dried_h=0.5), SHOWS))
        self.assertIsNotNone(strand_that_tells(lot("vapour", dried_h=1.0), SHOWS), "looked at as it went in")
        since = (Stay(place="open", from_utc=NOON.isoformat()), Stay(place="dryer"))
        there = attrs.evolve(lot("vapour"), stays=since)
        self.assertIsNotNone(strand_that_tells(there, SHOWS), "the room dries nothing, a dryer of no day says nothing")

    def test_a_polymer_that_shows_nothing_is_not_asked(self):
        self.assertEqual(SILENT.wet_signs, "")
        self.assertIsNone(strand_that_tells(lot(), SILENT))
        self.assertIsNone(strand_that_tells(attrs.evolve(lot(), strands=()), SHOWS))

    def test_a_clean_strand_speaks_for_a_day(self):
        for age, clean in ((0.0, True), (23.9, True), (24.0, True), (24.1, False)):
            self.assertEqual(is_clean(strand_that_tells(lot(age_h=age), SHOWS), NOON), clean)
        self.assertFalse(is_clean(strand_that_tells(lot("dull"), SHOWS), NOON))
        self.assertFalse(is_clean(None, NOON))
