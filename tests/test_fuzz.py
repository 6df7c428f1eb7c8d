"""A fixed small count at every door; python -m tests.fuzz tries more."""

import unittest

from tests.fuzz import DOORS, tried

COUNTS = {
    "recipes": 150,
    "tables": 150,
    "typed": 300,
    "workspaces": 60,
    "judgements": 40,
    "library": 100,
    "settings": 100,
    "controllers": 500,
    "serial": 300,
}


class TestDoors(unittest.TestCase):
    def test_every_door_refuses_in_words_or_takes_what_it_can_give_back(self):
        self.assertEqual(set(COUNTS), set(DOORS))
        for door, count in COUNTS.items():
            with self.subTest(door):
                found = tried(door, count, 1)
                self.assertEqual(found.faults[:3], [])
                self.assertLess(found.refused, count, "nothing was taken: what is tried is too wild to tell anything")
