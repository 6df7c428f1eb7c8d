"""Planes through probed plates, kept offsets that jump, and what a panel makes of a setting."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from kaustos.core.physics.level import plane_through
from kaustos.core.planning.flatness import flatness_of, jump_of
from kaustos.core.planning.panel import panel_of, rounded, short_name, translated
from kaustos.core.records import GapOffset, Machine, PanelField, ProbeGrid, ProbePoint, Recipe
from kaustos.core.records.recipe import Melt

CORNERS = [(x, y) for x in (0.0, 100.0, 200.0) for y in (0.0, 100.0, 200.0)]


def probed(height, pitch=0.5):
    points = tuple(ProbePoint(x_mm=x, y_mm=y, z_mm=height(x, y)) for x, y in CORNERS)
    return Machine(id="m", grids=(ProbeGrid(points=points),), screw_pitch_mm=pitch)


class TestPlate(unittest.TestCase):
    @given(st.floats(-1e-2, 1e-2), st.floats(-1e-2, 1e-2), st.floats(-1.0, 1.0))
    def test_a_plane_leaves_nothing_over(self, along, across, height):
        x, y = np.array(CORNERS).T / 1e3
        found = plane_through(x, y, height + along * x + across * y)
        self.assertAlmostEqual(found.slope_x, along, delta=1e-9)
        self.assertAlmostEqual(found.slope_y, across, delta=1e-9)
        self.assertLess(float(np.abs(found.residual).max()), 1e-9)

    def test_tilt_and_sag_are_told_apart(self):
        flat = flatness_of(probed(lambda x, y: 0.001 * x))
        self.assertAlmostEqual(flat.tilt_mm, 0.2, 9)
        self.assertAlmostEqual(flat.sag_mm, 0.0, 9)
        sunk = flatness_of(probed(lambda x, y: -0.18 if x == y == 100.0 else 0.0))
        self.assertAlmostEqual(sunk.tilt_mm, 0.0, 9)
        self.assertAlmostEqual(sunk.sag_mm, 0.18, 9)

    def test_turning_the_screws_as_said_takes_the_tilt_away(self):
        machine = probed(lambda x, y: 0.12 * x / 200.0 - 0.06 * y / 200.0)
        turns = dict(flatness_of(machine).turns)
        heights = {"front left": 0.0, "back left": -0.06, "front right": 0.12, "back right": 0.06}
        after = {corner: height + 0.5 * turns[corner] for corner, height in heights.items()}
        self.assertAlmostEqual(max(after.values()), min(after.values()), 9)
        self.assertAlmostEqual(turns["front left"], 0.03 / 0.5, 9)

    def test_points_in_one_line_or_too_few_tell_nothing(self):
        line = tuple(ProbePoint(x_mm=x, y_mm=0.0, z_mm=0.0) for x in (0.0, 50.0, 100.0, 150.0))
        for points in (line, line[:3], ()):
            self.assertIsNone(flatness_of(Machine(id="m", grids=(ProbeGrid(points=points),))))

    def test_a_jump_is_that_from_what_was_before(self):
        offsets = tuple(GapOffset(offset_mm=each) for each in (-1.80, -1.82, -1.81, 1.90))
        self.assertEqual(jump_of(offsets), (1.90, -1.81))
        self.assertIsNone(jump_of(offsets[:1]))


class TestPanel(unittest.TestCase):
    @given(st.floats(0.0, 500.0), st.sampled_from([0.5, 1.0, 5.0, 10.0]))
    def test_rounding_goes_to_the_nearest_step(self, value, step):
        found = rounded(value, step)
        self.assertLessEqual(abs(found - value), step / 2.0 + 1e-6)
        self.assertAlmostEqual(found / step, round(found / step), 6)

    def test_a_setting_beyond_the_range_or_without_a_field_is_not_typed(self):
        recipe = Recipe(melt=Melt(nozzle_c=303.0))
        fields = (PanelField(path="melt.nozzle_c", high=300.0, step=1.0),)
        (typed,) = panel_of(recipe, Machine(id="m", panel_fields=fields))
        self.assertIsNone(typed.typed)
        self.assertIn("ends at 300", typed.fault)
        other = panel_of(recipe, Machine(id="m", panel_fields=(PanelField(path="plate.bed_c"),)))
        self.assertIn("no such field", other[-1].fault)

    def test_names_are_short_plain_and_unlike_those_that_are_there(self):
        taken = []
        for name in ("Probe head shell", "Probe head shell 2", "Probe hèad", "---"):
            found = short_name(name, 8.0, taken)
            self.assertLessEqual(len(found), 8)
            self.assertRegex(found, r"^[A-Z0-9-]+$")
            self.assertNotIn(found, taken)
            taken.append(found)
        self.assertEqual(short_name("Probe", 2.0, ["PR"]), "P-2", "one letter of the name at least")
        self.assertEqual(short_name("Probe head", None, ["PROBE-HEAD"]), "PROBE-HEAD-2", "nothing is cut without need")

    def test_there_and_back_is_the_same_setting(self):
        there = translated(250.0, 4.0, -6.0)
        self.assertEqual((there, translated(there, -6.0, 4.0)), (260.0, 250.0))


if __name__ == "__main__":
    unittest.main()
