"""Records check themselves; paths find and replace values without touching the original."""

import math
import unittest

import attrs

from kaustos.core.errors import FaultList, FieldError, KaustosError
from kaustos.core.records import (
    CHOSEN,
    Datum,
    JobFile,
    Lot,
    Machine,
    Part,
    Polymer,
    Recipe,
    Rules,
    Stay,
    check_datum,
    with_own_values,
)
from kaustos.core.records.fields import declaration, value_at, with_value
from kaustos.core.records.machine import MACHINE_LOGS
from kaustos.core.records.quantities import QUANTITIES, check_number, check_text
from kaustos.core.records.recipe import Brief, Plate
from kaustos.core.records.surfaces import COMES_OFF, HOLDS, Pair
from kaustos.library import load
from tests.asserting import every

TRAITS = load().polymers["pc"].traits


def datum(value=100.0, low=None, high=None, **more):
    words = {"unit": "°C", "kind": "own", "source": "test"} | more
    return Datum(value=value, low=value if low is None else low, high=value if high is None else high, **words)


LISTS = ("near", "stack", "panel_fields")  # records of a machine, each with titles of its own


def is_part(field):
    """Whether a field holds a record."""
    return isinstance(field.type, type) and attrs.has(field.type)


class TestJobFile(unittest.TestCase):
    def test_a_tool_that_feeds_nothing_is_none_of_its_tools(self):
        for fed, tools in (({}, 0), ({"0": 0.0}, 0), ({"0": 812.0, "1": 0.0}, 1), ({"0": 812.0, "1": 40.0}, 2)):
            with self.subTest(fed):
                self.assertEqual(JobFile(id="j", filament_mm=fed).tools, tools)

    def test_its_box_is_as_large_as_its_corners_are_apart(self):
        found = JobFile(id="j", low_mm=(10.0, -5.0, 0.2), high_mm=(110.0, 45.0, 30.2))
        self.assertEqual(found.size_mm, (100.0, 50.0, 30.0))


class TestQuantities(unittest.TestCase):
    def test_what_is_impossible_is_refused_for_every_quantity(self):
        for name, quantity in QUANTITIES.items():
            for value in (math.nan, math.inf, -math.inf, quantity.low - 1.0, quantity.high * 1.01):
                with self.subTest(name, value=value), self.assertRaises(FieldError):
                    check_number("field", value, name)
            self.assertEqual(check_number("field", quantity.low, name), quantity.low)

    def test_each_ends_where_physics_or_a_shop_ends(self):
        ends = {
            "temperature": (-273.15, 5000.0), "temperature_difference": (-5000.0, 5000.0), "share": (0.0, 100.0),
            "moisture": (0.0, 100.0), "density": (0.0, 30.0), "length": (0.0, 1e6), "mass": (0.0, 1e7),
            "duration": (0.0, 1e5), "stress": (0.0, 1e5), "pressure": (0.0, 1e5), "ratio": (0.0, 1e6),
        }  # fmt: skip
        for name, (low, high) in ends.items():
            with self.subTest(name):
                self.assertEqual([check_number("field", each, name) for each in (low, high)], [low, high])
                for beyond in (math.nextafter(low, -math.inf), math.nextafter(high, math.inf)):
                    with self.assertRaises(FieldError):
                        check_number("field", beyond, name)

    def test_absolute_zero_is_named_and_is_itself_possible(self):
        self.assertEqual(check_number("bed_c", -273.15, "temperature"), -273.15)
        with self.assertRaisesRegex(FieldError, "bed_c: -273.16 °C is not possible: below absolute zero"):
            check_number("bed_c", -273.16, "temperature")

    def test_long_texts_are_refused_with_their_length(self):
        self.assertEqual(check_text("name", "x" * 200), "x" * 200)
        with self.assertRaisesRegex(FieldError, "name: 201 characters; at most 200"):
            check_text("name", "x" * 201)


class TestRecords(unittest.TestCase):
    def test_a_record_refuses_what_its_fields_cannot_hold(self):
        for make in (
            lambda: Plate(bed_c=-300.0),
            lambda: Brief(purpose="bragging"),
            lambda: Brief(mass_g=-1.0),
            lambda: Brief(print_h=math.nan),
            lambda: Part(basis="hearsay"),
            lambda: Machine(id="m", rate_per_h=-1.0),
            lambda: Recipe(name="x" * 500),
            lambda: Rules(headroom_k=-1.0),
            lambda: Rules(reduced_within_k=math.nan),
            lambda: Rules(liner_stop_c=math.nan),
            lambda: Stay(place="open", from_utc="yesterday"),
            lambda: Stay(place="open", from_utc="2026-02-30T08:00:00Z"),
            lambda: Stay(place="open", from_utc="2026-03-01T08:00:00"),  # of which time zone?
        ):
            with self.assertRaises(FieldError):
                make()

    def test_records_are_frozen(self):
        with self.assertRaises(attrs.exceptions.FrozenInstanceError):
            Plate(bed_c=100.0).bed_c = 120.0

    def test_every_number_says_its_quantity_and_every_field_its_title(self):
        for record in (Brief, Plate, Part, Machine):
            left_out = ("extra", "id", "retired", *LISTS, *MACHINE_LOGS)
            looked = (each for each in attrs.fields(record) if each.name not in left_out and not is_part(each))
            for field in every(looked):
                with self.subTest(record.__name__, field=field.name):
                    self.assertTrue(field.metadata["title"])
                    if field.type == float | None:
                        self.assertIn(field.metadata["quantity"], QUANTITIES)


class TestPairs(unittest.TestCase):
    def test_what_practice_says_of_a_pair_is_in_its_own_words(self):
        for word in COMES_OFF:
            self.assertEqual(Pair(families=("abs",), holds=next(iter(HOLDS)), comes_off=word).leaves, word)
        for odd in ({"comes_off": "somehow"}, {"kind": "hearsay"}, {"rival": "somehow", "doubt": "both are said"},
                    {"rival": next(iter(HOLDS)), "doubt": " "}, {"bed_c": (80.0, 80.0)}):  # fmt: skip
            with self.subTest(odd), self.assertRaises(FieldError) as told:
                Pair(families=("abs",), holds=next(iter(HOLDS)), **odd)
            self.assertEqual(told.exception.field, next(iter(odd)))


class TestRules(unittest.TestCase):
    def test_a_shop_begins_with_what_is_usual(self):
        usual = {"reduced_within_k": 15.0, "functional_pct": 50.0, "reduced_pct": 30.0,
                 "core_short_pct": 5.0, "headroom_k": 3.0, "foot_sag_k": 10.0, "extrusion_k": 90.0,
                 "crystals_k": 15.0, "liner_stop_c": 240.0,
                 "start_in_window_pct": 50.0, "start_below_glass_k": 0.0, "start_first_k": 0.0, "fan_after_runs": 0.0,
                 "start_clips": 0.0, "start_coats": 1.0, "mix_from_ml": 0.0, "room_c": 21.0,
                 "dew_point_c": 10.0, "scale_g": 1.0,
                 "staffed_from_h": 8.0, "staffed_to_h": 17.0, "staffed_days": 5.0,
                 "desiccant_g": 100.0, "release_runs": 3.0, "release_shapes": 2.0, "release_names": 1.0,
                 "weigh_price": 1.0, "weigh_margin": 0.3, "weigh_ease": 0.5,
                 "wage_per_h": 45.0, "machine_per_h": 4.0, "energy_per_kwh": 0.3}  # fmt: skip
        self.assertEqual(attrs.asdict(Rules()), usual | {"extra": {}})

    def test_the_dew_point_may_be_the_room_s_and_the_liner_s_stop_the_hard_one_but_no_more(self):
        self.assertEqual(Rules(dew_point_c=21.0).dew_point_c, 21.0)
        self.assertEqual(Rules(liner_stop_c=240.0).liner_stop_c, 240.0)
        for more in ({"dew_point_c": 21.01}, {"liner_stop_c": 240.01}):
            with self.subTest(more), self.assertRaises(FieldError):
                Rules(**more)


class TestPaths(unittest.TestCase):
    def test_no_field_of_a_chosen_record_hides_behind_one_of_the_recipe(self):
        sections = {each.name: each.type for each in attrs.fields(Recipe) if attrs.has(each.type)}
        shared = [kind for kind in CHOSEN if kind.one in sections]
        self.assertIn("plate", [kind.one for kind in shared])
        for kind in shared:
            own = {each.name for each in attrs.fields(kind.record)} - {"extra"}
            section = {each.name for each in attrs.fields(sections[kind.one])}
            self.assertEqual(own & section, set(), f"{kind.one}.* would mean both")

    def test_a_value_is_found_and_replaced_below_records_and_mappings(self):
        recipe = Recipe(plate=Plate(bed_c=100.0))
        changed = with_value(recipe, "plate.bed_c", 120.0)
        self.assertEqual((value_at(recipe, "plate.bed_c"), value_at(changed, "plate.bed_c")), (100.0, 120.0))
        lot = with_value(Lot(id="l"), "lot_values.glass_transition_c", datum())
        self.assertEqual(value_at(lot, "lot_values.glass_transition_c").value, 100.0)
        self.assertEqual(with_value(lot, "lot_values.glass_transition_c", None).lot_values, {})
        self.assertIsNone(value_at(lot, "lot_values.decomposition_c"))

    def test_declarations_are_found_by_path(self):
        self.assertEqual(declaration(Recipe, "melt.nozzle_c").metadata["quantity"], "temperature")
        self.assertEqual(declaration(Machine, "nozzle.liner.price").metadata["quantity"], "money")
        for path in ("melt.colour", "nozzle", "walls.count", "name.length"):
            self.assertIsNone((declaration(Recipe, path) or attrs.fields_dict(Recipe).get("")), path)


class TestDatum(unittest.TestCase):
    def test_its_range_must_hold_its_value_and_its_source_must_be_named(self):
        for make in (lambda: datum(100.0, low=101.0), lambda: datum(100.0, high=99.0), lambda: datum(source=" "),
                     lambda: datum(kind="rumour"), lambda: datum(math.nan)):  # fmt: skip
            with self.assertRaises(FieldError):
                make()

    def test_an_impossible_temperature_is_named_by_its_key(self):
        with self.assertRaisesRegex(FieldError, "glass_transition_c: -400"):
            check_datum("glass_transition_c", datum(-400.0))

    def test_own_values_leave_the_others_alone(self):
        polymer = Polymer(id="p", name="P", structure="amorphous", weld_class="amorphous", emissions="",
                          traits=TRAITS,
                          values={"glass_transition_c": datum(100.0), "decomposition_c": datum(300.0)})  # fmt: skip
        graded = Lot(id="l", grade_values={"glass_transition_c": datum(98.0), "decomposition_c": datum(290.0)},
                     lot_values={"glass_transition_c": datum(97.0)})  # fmt: skip
        found = with_own_values(polymer, graded)
        self.assertEqual((found.value("glass_transition_c").value, found.value("decomposition_c").value), (97.0, 290.0))
        self.assertEqual(polymer.value("glass_transition_c").value, 100.0)
        self.assertIs(with_own_values(polymer, None), polymer)


class TestErrors(unittest.TestCase):
    def test_a_list_of_faults_shows_fifty_and_counts_the_rest(self):
        text = str(FaultList("file", tuple(f"fault {number}" for number in range(60))))
        self.assertIn("fault 49", text)
        self.assertNotIn("fault 50", text)
        self.assertIn("10 more", text)

    def test_errors_survive_pickling(self):
        import pickle

        for error in (FieldError("a", "b"), FaultList("file", ("x",))):
            again = pickle.loads(pickle.dumps(error))
            self.assertEqual((str(again), isinstance(again, KaustosError)), (str(error), True))
