"""Tables that others wrote: units in headings are read or refused, a comma is what the whole table shows."""

import unittest

from kaustos.core.errors import KaustosError
from kaustos.formats.csv_tables import number, read_recipes, read_runs, read_table
from kaustos.formats.lots_csv import read_lots


def recipes(text):
    return {key: recipe for key, recipe, _ in read_recipes(read_table(text, "recipes.csv"))}


WHEN = "2026-03-02T08:00:00Z"


class TestUnits(unittest.TestCase):
    def test_a_unit_in_a_heading_is_read_and_one_of_another_quantity_refused(self):
        for unit, cell, celsius in (
            ("°C", "245", 245.0),
            ("°F", "473", 245.0),
            ("K", "518.15", 245.0),
            ("", "245", 245.0),
        ):
            heading = f"melt.nozzle_c [{unit}]" if unit else "melt.nozzle_c"
            with self.subTest(unit):
                found = recipes(f"id,name,{heading}\na,Lid,{cell}\n")
                self.assertAlmostEqual(found["a"].melt.nozzle_c, celsius)
        with self.assertRaisesRegex(KaustosError, r"column melt.nozzle_c: \[bar\] is no unit of it; write \[°C\]"):
            recipes("id,name,melt.nozzle_c [bar]\na,Lid,3\n")
        with self.assertRaisesRegex(KaustosError, r"column anneal.steps: must be in \[°C@h@K/h\]"):
            recipes("id,name,anneal.steps [°F@h]\na,Lid,300@2\n")

    def test_runs_and_lots_too(self):
        head = "id,card,revision,started_utc,mass_g [kg],seen.what,seen.at_h [min]"
        (run,) = read_runs(read_table(f"{head}\nr1,c,1,{WHEN},0.25,warped,90\n", "runs.csv"))
        self.assertEqual((run.mass_g, run.observations[0].at_h), (250.0, 1.5))
        ((_, lot),) = read_lots(read_table("id,name,grade,polymer,tare_g [kg]\nl,L,PC,pc,0.23\n", "lots.csv"))
        self.assertAlmostEqual(lot.tare_g, 230.0)
        with self.assertRaisesRegex(KaustosError, r"column tare_g: \[°C\] is no unit of it"):
            read_lots(read_table("id,name,grade,polymer,tare_g [°C]\nl,L,PC,pc,230\n", "lots.csv"))


class TestComma(unittest.TestCase):
    def mass(self, text):
        (run, *_) = read_runs(read_table(text, "runs.csv"))
        return run.mass_g

    def test_what_a_comma_is_comes_from_the_whole_table(self):
        head = "id,card,revision,started_utc,mass_g,hours_lost"
        for lines, mass in (
            (f'{head}\na,c,1,{WHEN},"1,250",\nb,c,1,{WHEN},"0,5",\n', 1.25),  # a leading 0 elsewhere
            (f'{head}\na,c,1,{WHEN},"1,250",\nb,c,1,{WHEN},"12,75",\n', 1.25),  # two places elsewhere
            (f'{head}\na,c,1,{WHEN},"1,250",\nb,c,1,{WHEN},"1,250.5",\n', 1250.0),  # a point behind groups elsewhere
            (f'{head}\na,c,1,{WHEN},"1,250,000.5",\n', 1250000.5),
            (
                f"id;card;revision;started_utc;mass_g\na;c;1;{WHEN};1,250\n",
                1.25,
            ),  # semicolons leave the comma to numbers
        ):
            with self.subTest(lines):
                self.assertEqual(self.mass(lines), mass)
        with self.assertRaisesRegex(KaustosError, "line 2: '1,250' may be 1250 or 1.250: write it so"):
            self.mass(f'{head}\na,c,1,{WHEN},"1,250",\n')

    def test_digits_are_plain_digits_and_a_number_is_finite(self):
        for text in ("nan", "inf", "-Infinity", "1_000", "\u0663", "\u00b2", "0x10", "1e", "--5", "5.5.5"):
            with self.subTest(text), self.assertRaisesRegex(KaustosError, "is not a number"):
                number(text)
        self.assertEqual(
            [number(each) for each in ("5", "-0,5", ".5", "1e3", "+2.", "")], [5.0, -0.5, 0.5, 1e3, 2.0, None]
        )
