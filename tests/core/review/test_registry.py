"""Walks the registries: nothing in them is a toy."""

import importlib
import json
import os
import unittest
from pathlib import Path

import attrs

from kaustos.app.settings import Settings
from kaustos.app.wording import Wording
from kaustos.core.records import (
    POLYMER_VALUES,
    Datum,
    Dryer,
    Lot,
    Machine,
    Recipe,
    Reserve,
    Run,
    StrandCheck,
    deflection_key,
)
from kaustos.core.records.quantities import QUANTITIES
from kaustos.core.records.recipe import AnnealStep
from kaustos.core.review import CODES, OPERATIONS, Choose, Estimate, Set
from kaustos.core.review.contract import Absent
from kaustos.demo.scenario import RECORDS
from tests.core.review.cases import CASES
from tests.support import changed, codes_of, every_card, judged, opened

DESCRIPTIVE = {  # fields that no review reads, with the reason
    "name": "names the recipe",
    "part": "names the part",
    "brief.why": "the decision in words, beside what the log says of last time",
    "brief.rejected": "the same",
    "lot.name": "names the lot",
    "lot.opened_utc": "a date that is shown; what the air did to it stands in its stays",
    "lot.photos": "pictures of the label, looked at by people",
    "dryer.name": "names the dryer",
    "dryer.retired": "takes the dryer out of the lists",
    "machine.name": "names the machine: shown in findings, judged by none",
    "machine.retired": "takes the machine out of the lists, not out of what was printed on it",
}
NONE_IS_AN_ANSWER = ("anneal.steps", "stock.wanted_utc", "brief.margin_signed", "brief.why",
                     "brief.rejected", "lot.reserves", "lot.strands",
                     "lot.ordered_g", "lot.ordered_utc", "lot.received_utc", "lot.loaded_on",
                     "lot.retired")  # fmt: skip
SHOWN_ONLY = ("fan_low", "fan_high", "abrasion")  # on the Brief as figures that say so when unknown; judged by none
OWN_LOT = "lot.lot_values."
HINTS = Path(__file__).with_name("field_hints.json")
SHORT = r"( K|(K|°F) (short|spare)|°[CF]|not known|dry now|never|\d min|\d h( \d\d)?|\d d)$"


def missing_fields(recipe, context):
    return {each.field for operation in OPERATIONS for each in operation.review(recipe, context).missing}


def fields():
    """Every declared field of recipe and machine, and every polymer value by way of the lot."""
    for section in attrs.fields(Recipe):
        if attrs.has(section.type):
            yield from (f"{section.name}.{each.name}" for each in attrs.fields(section.type) if each.name != "extra")
        elif section.name != "extra":
            yield section.name
    for zone in attrs.fields(Machine):
        if attrs.has(zone.type):
            for part in attrs.fields(zone.type):
                if part.name != "extra":
                    inside = (each.name for each in attrs.fields(part.type) if each.name != "extra")
                    yield from (f"machine.{zone.name}.{part.name}.{name}" for name in inside)
        elif zone.name not in ("id", "extra"):
            yield f"machine.{zone.name}"
    for head, record in (("lot", Lot), ("dryer", Dryer)):
        left_out = ("id", "extra", "polymer", "lot_values", "grade_values")
        yield from (f"{head}.{each.name}" for each in attrs.fields(record) if each.name not in left_out)
    yield from (f"{OWN_LOT}{key}" for key in POLYMER_VALUES)
    yield from (f"rules.{each.name}" for each in attrs.fields(type(RECORDS.rules)) if each.name != "extra")


def is_descriptive(path):
    return path in DESCRIPTIVE or (path.startswith("machine.") and path.endswith(".name"))


def others(path, value):
    """Legal values that are not the present one."""
    if path.startswith(OWN_LOT):
        unit = QUANTITIES[POLYMER_VALUES[path.removeprefix(OWN_LOT)].quantity].unit
        return [Datum(value=each, low=each, high=each, unit=unit, kind="own", source="test") for each in (60.0, 250.0)]
    if path == "brief.margin_signed":
        return ["R. Askew: a test piece"]
    if path == "anneal.steps":
        return [(), (AnnealStep(temperature_c=100.0, hold_h=1.0),)]
    if path == "polymer":
        return ["pc", "petg"]
    if path in ("lot.stays", "lot.weighings"):
        return [()]
    if path == "lot.strands":
        return [(), (StrandCheck(at_utc="2026-03-02T07:00:00Z", signs=("vapour",)),)]
    if path == "lot.reserves":
        return [(Reserve(grams=100.0, purpose="test"),)]
    if path in ("lot.grade", "lot.colour", "lot.loaded_on"):
        return ["other"]
    if path.endswith("_utc"):
        return ["2026-01-01T08:00:00Z", "2026-03-01T08:00:00Z"]
    if path.endswith(
        (
            ".recycled",
            ".fitted",
            ".load_across",
            ".outdoor",
            ".clear",
            ".glued",
            ".painted",
            ".sanded",
            ".inserts",
            ".slides",
            "lot.retired",
        )
    ):
        return [not value]
    words = {"basis": ["proven", "claimed", "rated"], "purpose": ["ornament", "safety"],
             "history": ["annealed", "as_printed"], "character": ["tough", "rubbery"],
             "moisture": ["conditioned", "dry"],
             "chemical": ["ketones", "none"], "look": ["gloss", "matt"],
             "diameter": ["2.85"], "feeds": ["2.85"], "flange": ["card", "polystyrene"], "feed": ["open", "heated"],
             "ingredients": ["secret"], "filler": ["glow", "wood"],
             "wait_in": ["open", "sealed"], "air": ["vacuum", "room", "dry"]}  # fmt: skip
    if path.split(".")[-1] not in words:
        base = value or 10.0
        if path in ("rules.liner_stop_c", "rules.dew_point_c"):
            return [200.0, 180.0] if path == "rules.liner_stop_c" else [2.0, 15.0]
        return [base * 0.9, base * 0.5, base * 1.1, base + 40.0]
    return words[path.split(".")[-1]]


def blank(path):
    """A field as it is when it is not recorded."""
    if path in ("lot.stays", "lot.weighings"):
        return ()
    return "" if path in ("lot.grade", "lot.colour", "lot.desiccant_utc") else None


def judgement(records):
    _, _, found = judged(records)
    return [(each.figures, each.findings, each.cautions, each.caps) for each in found.operations], found.grade


def missing(records):
    return judged(records)[2].completeness.missing


class TestEveryFieldIsAlive(unittest.TestCase):
    def contexts(self):
        """Cases and demo recipes in which something is to move, by name."""
        found = {code: changed(opened(card, machine), raising) for code, (card, machine, raising, _) in CASES.items()}
        found |= dict(every_card())
        ordered = {"brief.runs": 9.0, "lot.ordered_g": 300.0, "lot.ordered_utc": "2026-02-25T08:00:00Z"}
        return found | {
            "no machine hour": changed(opened("sensor_cage"), {"machine.rate_per_h": None}),
            "nothing logged": changed(opened("winch_bracket"), {"lot.weighings": (), "lot.stays": ()}),
            "vacuum": changed(opened("winch_bracket"), {"context.dryer": "pot"}),
            "ordered": changed(opened("centraliser_blade"), ordered),
        }

    def test_every_field_moves_the_review_in_some_demo_context(self):
        """The context in which a field moved last time is tried first; KAUSTOS_RECORD=1 keeps where it moves now."""
        contexts, hints, found = self.contexts(), json.loads(HINTS.read_text()), {}
        for path in fields():
            if is_descriptive(path) or path.startswith(f"{OWN_LOT}deflection"):
                continue
            first = hints.get(path)
            names = sorted(contexts, key=lambda name: (name != first, not name.startswith(path.split(".")[0])))
            found[path] = next((name for name in names if self.moves(contexts[name], path)), None)
            with self.subTest(path):
                self.assertIsNotNone(found[path], "no other value changes anything: a toy")
        if os.environ.get("KAUSTOS_RECORD"):
            HINTS.write_text(json.dumps(found, indent=0) + "\n")

    def moves(self, records, path):
        """Whether another value changes what is said."""
        before = judgement(records)
        tried = others(path, records.at(records.place(path)))
        return any(judgement(changed(records, {path: other})) != before for other in tried)

    def test_every_deflection_temperature_moves_the_review_of_its_state(self):
        for stress in (0.45, 1.8):
            for history in ("as_printed", "annealed"):
                for moisture in ("dry", "conditioned"):
                    state = {"brief.stress_mpa": stress, "brief.history": history, "brief.moisture": moisture}
                    records = changed(opened("sensor_cage"), state)
                    path = OWN_LOT + deflection_key(stress, history, moisture)
                    with self.subTest(path):
                        after = [judgement(changed(records, {path: other})) for other in others(path, None)]
                        self.assertTrue(all(each != judgement(records) for each in after))

    def test_every_field_set_to_not_recorded_changes_completeness(self):
        for path in fields():
            if is_descriptive(path) or path.startswith((OWN_LOT, "rules.")) or path in NONE_IS_AN_ANSWER:
                continue
            with self.subTest(path):
                recorded = (each for _, each in every_card() if each.at(each.place(path)) is not None)
                self.assertTrue(any(missing(each) != missing(changed(each, {path: blank(path)})) for each in recorded))

    def test_a_polymer_value_that_is_missing_is_listed(self):
        recipe, context, _ = judged(opened("probe_head_shell"))
        recorded = [key for key in context.polymer.values if key not in SHOWN_ONLY and not key.startswith("deflection")]
        self.assertGreater(len(recorded), 15)
        for key in recorded:
            values = {other: datum for other, datum in context.polymer.values.items() if other != key}
            without = attrs.evolve(context, polymer=attrs.evolve(context.polymer, values=values))
            with self.subTest(without=key):
                self.assertNotIn(f"polymer.{key}", missing_fields(recipe, context))
                self.assertIn(f"polymer.{key}", missing_fields(recipe, without))

    def test_known_and_missing_add_up_to_what_is_asked(self):
        for name, records in every_card():
            for path in (None, "context.machine", "polymer", "brief.service_c"):
                with self.subTest(name, without=path):
                    _, _, found = judged(changed(records, {path: None}) if path else records)
                    names = [each.field for each in found.completeness.missing]
                    self.assertEqual(len(names), len(set(names)), "a field is missed twice")
                    self.assertGreaterEqual(found.completeness.known, 0)
                    self.assertEqual(found.completeness.known + len(names), found.completeness.asked)


class TestEveryFindingCanBeRaisedAndCured(unittest.TestCase):
    def test_every_code_has_a_case(self):
        self.assertEqual(set(CASES), set(CODES))

    def test_every_code_is_raised_by_its_case_and_not_by_a_near_one(self):
        for code, (card, machine, raising, near) in CASES.items():
            with self.subTest(code):
                self.assertIn(code, codes_of(changed(opened(card, machine), raising)))
                self.assertNotIn(code, codes_of(changed(opened(card, machine), near)))

    def test_every_remedy_takes_its_finding_away_or_lowers_it_and_raises_no_stop_that_it_does_not_name(self):
        for code, (card, machine, raising, _) in CASES.items():
            with self.subTest(code):
                assert_remedies_hold(self, changed(opened(card, machine), raising))

    def test_every_finding_offers_something(self):
        for code, (card, machine, raising, _) in CASES.items():
            _, _, found = judged(changed(opened(card, machine), raising))
            for finding in found.findings():
                with self.subTest(code, finding=finding.code):
                    self.assertTrue(finding.remedies)


def assert_remedies_hold(case, records):
    """Apply every Set and Choose of every finding, and look what it leaves."""
    _, _, found = judged(records)
    stops = {each.code for each in found.findings() if each.severity == "stop"}
    for finding in found.findings():
        for remedy in finding.remedies:
            if not isinstance(remedy, (Set, Choose)):
                continue
            values = dict(remedy.changes)
            if isinstance(remedy, Choose):
                values = {f"context.{remedy.what}": remedy.id, **values}
            _, _, after = judged(changed(records, values))
            left = {each.code: each for each in after.findings()}
            same = left.get(finding.code)
            title = Wording().remedy(remedy)
            message = f"{finding.code} {finding.field}: {title}"
            if same is not None:
                case.assertTrue(_lower(same, finding), message)
            new = {key for key, each in left.items() if each.severity == "stop"} - stops
            unnamed = {key for key in new if not (key.endswith("below_window") and "below the window" in title)}
            case.assertFalse(unnamed, f"{message}: {unnamed}")
            back = {path: records.at(records.place(path)) for path in remedy.changes}
            undone = [each for finding in after.findings() for each in finding.remedies
                      if isinstance(each, Set) and {**back, **each.changes} == back and each.changes]  # fmt: skip
            case.assertFalse(undone, f"{message} is undone by {[each.title for each in undone]}")


def _lower(after, before):
    if (after.severity, before.severity) == ("watch", "stop"):
        return True
    return after.severity == before.severity and after.values.get("gap", 0.0) < before.values.get("gap", 0.0)


class TestNoFigureIsConstant(unittest.TestCase):
    def test_every_figure_takes_several_values_over_demo_recipes_and_machines(self):
        seen = {}
        run = Run(id="r", card="cable_clamp", revision=1.0, polymer="petg", machine="beck", outcome="good")
        logged = changed(opened("cable_clamp"), {"runs/r": run})
        guide = attrs.evolve(logged, current="cable_guide")
        for records in (*(each for _, each in every_card()), logged, guide):
            for operation in judged(records)[2].operations:
                for figure in operation.figures:
                    value = figure.value.value if isinstance(figure.value, Estimate) else figure.value
                    seen.setdefault(figure.key, set()).add(value)
        for key, values in seen.items():
            with self.subTest(key):
                self.assertGreater(len(values - set(Absent)), 1)

    def test_every_figure_is_a_band_round_its_value_with_method_and_source(self):
        for name, records in every_card():
            for operation in judged(records)[2].operations:
                for figure in operation.figures:
                    if isinstance(figure.value, Estimate):
                        with self.subTest(name, figure=figure.key):
                            self.assertLessEqual(figure.value.low, figure.value.value)
                            self.assertLessEqual(figure.value.value, figure.value.high)
                            self.assertTrue(figure.value.method and figure.value.source and figure.value.unit)


class TestRegistryIsWhole(unittest.TestCase):
    def test_every_operation_has_module_bench_short_title_and_section(self):
        self.assertEqual([each.number for each in OPERATIONS], sorted(each.number for each in OPERATIONS))
        for operation in OPERATIONS:
            with self.subTest(operation.key):
                importlib.import_module(f"kaustos.core.review.{operation.key}")
                importlib.import_module(f"kaustos.ui.benches.{operation.key}")
                self.assertLessEqual(len(operation.short), 11)
                self.assertRegex(operation.section, r"^[A-Z].*[?.]$")

    def test_every_code_is_whole_and_named_after_its_operation(self):
        for operation in OPERATIONS:
            for code in operation.codes:
                with self.subTest(code.code):
                    self.assertEqual(code.code.split(".")[0], operation.key)
                    self.assertEqual(len(code.code.split(".")), 3)
                    self.assertTrue(code.text and code.why and code.source and code.cost)
                    self.assertIn("{cost:money}", code.cost)
                    self.assertIn(code.severity, ("stop", "watch"))

    def test_keys_of_figures_cautions_and_headlines_start_with_the_operation(self):
        for name, records in every_card():
            for operation, found in zip(OPERATIONS, judged(records)[2].operations, strict=True):
                with self.subTest(name, operation=operation.key):
                    keys = [each.key for each in found.figures] + [each.code for each in found.cautions]
                    self.assertTrue(all(key.startswith(f"{operation.key}.") for key in keys))
                    self.assertIn(found.headline, [each.key for each in found.figures])

    def test_every_sentence_can_be_worded_in_both_units_and_tiles_are_short(self):
        for settings in (Settings(), Settings(temperature="°F", decimal="comma", currency="$")):
            wording = Wording(settings)
            for code, (card, machine, raising, _) in CASES.items():
                _, _, found = judged(changed(opened(card, machine), raising))
                with self.subTest(code, unit=settings.temperature):
                    for finding in found.findings():
                        words = [wording.text(finding), wording.cost(finding)]
                        words += [wording.remedy(each) + wording.remedy_text(each) for each in finding.remedies]
                        self.assertFalse([each for each in words if "{" in each or "None" in each])
                    for operation in found.operations:
                        self.assertLessEqual(len(wording.tile(operation)), 11)
                        self.assertRegex(wording.tile(operation), SHORT)
