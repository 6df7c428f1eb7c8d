"""The recipe and review documents, and the sheet."""

import itertools
import json
import math
import unittest
import xml.etree.ElementTree as ElementTree

from kaustos.app.machine_page import setpoint_rows, spool_rows, steps, watch_rows
from kaustos.app.settings import Settings
from kaustos.app.sheet import sheet_content
from kaustos.app.use import use_class
from kaustos.app.wording import Wording
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import SEEN
from kaustos.core.review import CODES
from kaustos.demo.scenario import RECORDS
from kaustos.formats.json_text import BadJson, read_json, write_json
from kaustos.formats.recipe_file import RecipeDocument, read_recipe, recipe_document, write_recipe
from kaustos.formats.review_file import review_document
from kaustos.formats.sheet import sheet_html, sheet_pdf
from tests.asserting import every
from tests.support import changed, every_card, judged, opened

EXAMPLE = """{"format": "kaustos-recipe", "version": 1,
 "recipe": {"name": "Lid", "polymer": "pei_pc_blend", "brief": {"colour": "sand"}, "plate": {"bed_c": 160.0},
            "first_layer": {"bed_c": 165.0, "nozzle_c": 370.0}, "melt": {"nozzle_c": 365.0},
            "heat": {"chamber_c": 90.0}, "walls": {"count": 3}},
 "context": {"machine": "generic_enclosed", "lot": null, "plate": null, "season": "winter"}}"""


class TestRecipeDocument(unittest.TestCase):
    def test_fields_that_are_not_known_are_written_back(self):
        written = recipe_document(read_recipe(EXAMPLE, "example"))
        self.assertEqual(written["recipe"]["brief"]["colour"], "sand")
        self.assertEqual(written["recipe"]["walls"], {"count": 3})
        self.assertEqual(written["context"]["season"], "winter")
        self.assertEqual(written["context"]["machine"], "generic_enclosed")

    def test_writing_and_reading_give_the_same_document_for_every_demo_recipe(self):
        for name, records in every_card():
            card = records.card
            document = RecipeDocument(
                recipe=card.recipe,
                chosen=records.chosen(card),
                rules=records.rules,
            )
            with self.subTest(name):
                self.assertEqual(read_recipe(write_recipe(document), name), document)

    def test_all_faults_are_reported_at_once_with_their_fields(self):
        text = EXAMPLE.replace("160.0", "-400").replace('"Lid"', "5").replace("365.0", '"hot"').replace("90.0", "1e999")
        with self.assertRaises(FaultList) as caught:
            read_recipe(text, "lid.json")
        places = [fault.split(":")[0] for fault in caught.exception.faults]
        self.assertEqual(places, ["recipe.name", "recipe.plate.bed_c", "recipe.melt.nozzle_c", "recipe.heat.chamber_c"])

    def test_no_number_without_an_end_is_taken_wherever_it_stands(self):
        """Else it is taken in, and can be written out never again."""
        records = opened("turbine_vane")
        whole = json.loads(
            write_recipe(RecipeDocument(recipe=records.card.recipe, chosen=records.chosen(records.card)))
        )
        places = []

        def walk(value, path):
            pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
            for key, each in pairs:
                if type(each) is float:
                    places.append((value, key, f"{path}{key}"))
                walk(each, f"{path}{key}.")

        walk(whole["context"], "context.")
        for holder, key, path in every(places[:: max(len(places) // 16, 1)], 12):
            before = holder[key]
            for odd in (math.nan, math.inf, -math.inf):
                holder[key] = odd
                with self.subTest(path, odd=odd), self.assertRaises(KaustosError):
                    read_recipe(json.dumps(whole), "odd.json")
            holder[key] = before

    def test_a_newer_version_is_read_as_far_as_known(self):
        self.assertTrue(read_recipe(EXAMPLE.replace('"version": 1', '"version": 2'), "example").newer)

    def test_own_values_of_a_lot_are_checked(self):
        lot = {"id": "l", "lot_values": {"glass_transition_c": {
            "value": -400, "low": -400, "high": -400, "unit": "°C", "kind": "own", "source": "x"}, "shine": {
            "value": 1, "low": 1, "high": 1, "unit": "°C", "kind": "own", "source": "x"}}}  # fmt: skip
        text = EXAMPLE.replace('"lot": null', f'"lot": {json.dumps(lot)}')
        with self.assertRaises(FaultList) as caught:
            read_recipe(text, "lid.json")
        self.assertRegex(str(caught.exception), "glass_transition_c: .*absolute zero")
        self.assertRegex(str(caught.exception), "shine: no such polymer value")


class TestJsonText(unittest.TestCase):
    def test_faults_name_line_and_column(self):
        with self.assertRaisesRegex(BadJson, "a.json: line 2, column 6"):
            read_json('{"a": 1,\n"b": oops}', "a.json")

    def test_nothing_that_is_not_finite_is_written(self):
        with self.assertRaises(ValueError):
            write_json({"a": float("nan")})


class TestReviewDocument(unittest.TestCase):
    def test_it_is_whole_and_holds_no_nan(self):
        for name, records in every_card():
            _, _, found = judged(records)
            document = review_document(found, Wording())
            with self.subTest(name):
                self.assertEqual(json.loads(write_json(document)), document)
                self.assertEqual((document["format"], document["version"]), ("kaustos-review", 1))
                self.assertEqual([each["number"] for each in document["operations"]], list(range(10, 130, 10)))
                for operation in document["operations"]:
                    for figure in operation["figures"]:
                        self.assertEqual(figure["state"] == "known", figure["value"] is not None)

    def test_a_finding_says_everything_that_the_window_says(self):
        document = review_document(judged(opened("probe_head_shell"))[2], Wording())
        finding = document["operations"][2]["findings"][0]
        self.assertEqual(
            set(finding),
            {
                "code",
                "severity",
                "text",
                "values",
                "why",
                "source",
                "cost",
                "cost_money",
                "chance",
                "chance_from",
                "stake_money",
                "due_to",
                "field",
                "runs",
                "remedies",
            },
        )
        self.assertEqual(finding["remedies"][0]["changes"], {"heat.chamber_c": 90.0})
        self.assertEqual(finding["remedies"][1]["id"], "crag")


class TestSheet(unittest.TestCase):
    def content(self, card="probe_head_shell", *, appendix=False, **settings):
        recipe, context, found = judged(opened(card))
        return sheet_content(
            recipe,
            context,
            found,
            Wording(Settings(**settings)),
            revision="revision 3",
            printed="now",
            appendix=appendix,
        )

    def test_the_html_is_well_formed_and_says_findings_cautions_and_signatures(self):
        html = sheet_html(self.content())
        start = html.index("<svg")
        ElementTree.fromstring(html[start : html.index("</svg>") + 6])
        for words in (
            "35 K short", "Plastic machine parts creep", "phenols", "Released for the run, date", "no-go",
            "not to be used",
        ):  # fmt: skip
            self.assertIn(words, html)

    def test_what_a_part_may_be_used_for_follows_the_grade_and_the_runs(self):
        uses = [use_class(grade, "proven") for grade in ("no_go", "decorative", "reduced", "functional")]
        self.assertEqual(len(set(uses)), 4)
        self.assertIn("not proven", use_class("functional", "tried"))
        self.assertNotIn("not proven", uses[3])

    def test_the_spool_is_dried_fed_and_ticked_off_as_it_is_planned(self):
        rows = {title: value for title, value, _ in self.content("winch_bracket")["spool"]}
        self.assertEqual(
            (rows["Dried in"], rows["Dryer set to"], rows["Drying time"]), ("Shelf dryer", "80 °C", "12 h, TOO SHORT")
        )
        self.assertEqual((rows["Fed from"], rows["Filament left"]), ("Open air", "360 g"))
        self.assertIn("Secure the free end", sheet_html(self.content("winch_bracket")))
        recipe, context, found = judged(changed(opened("winch_bracket"), {"context.lot": None, "context.dryer": None}))
        bare = {title: value for title, value, _ in spool_rows(recipe, context, found, Wording())}
        self.assertEqual((bare["Dried in"], bare["Filament left"]), ("dryer not recorded", "not recorded"))

    def test_the_first_page_is_whole_for_every_recipe_and_figures_come_only_when_asked_for(self):
        import pypdfium2

        for card in RECORDS.cards:
            content = self.content(card)
            document = pypdfium2.PdfDocument(sheet_pdf(content))
            first, last = (document[at].get_textpage().get_text_range() for at in (0, 1))
            with self.subTest(card):
                for words in ("Set at the machine", "In this order", "Stop the run at", "Released for the run, date"):
                    self.assertIn(words, first)
                self.assertNotIn("Service temperature", first, "the brief is for those who judge")
                self.assertIn("Service temperature", last)
                self.assertEqual((content["pictures"], content["figures"]), ([], []))
            document.close()
        full = self.content("winch_bracket", appendix=True)
        self.assertEqual(len(full["pictures"]), 15)  # the ladder of tests the last
        html = sheet_html(full)
        self.assertIn("Known from", html)
        self.assertNotIn("computing", html.lower())

    def test_setpoints_stand_with_what_they_are_kept_within_and_a_place_for_what_was_shown(self):
        rows = {title: (value, within) for title, value, within, _ in self.content()["setpoints"]}
        polymer = judged(opened("probe_head_shell"))[1].polymer
        low, high = (polymer.value(f"nozzle_{end}_c").value for end in ("low", "high"))
        self.assertEqual(rows["Nozzle"], ("365 °C", f"{low:g} to {high:g} °C"))
        self.assertEqual(rows["Plate"][1], "150 to 160 °C", "what the pair wants, up to the reach of the plate")
        self.assertEqual(rows["Chamber"][1], "out of reach: wants 125 °C at least")
        outside = judged(changed(opened("probe_head_shell"), {"melt.nozzle_c": low - 5.0}))
        rows = {title: within for title, _, within, _ in setpoint_rows(*outside[:2], Wording())}
        self.assertEqual(rows["Nozzle"], f"OUTSIDE {low:g} to {high:g} °C")
        unheated = {title: value for title, value, _, _ in self.content("winch_bracket")["setpoints"]}
        self.assertEqual(unheated["Chamber"], "not heated")

    def test_a_plan_that_is_too_short_or_too_late_says_so_where_the_spool_is_put_in(self):
        rows = {title: value for title, value, _ in self.content("winch_bracket")["spool"]}
        self.assertEqual((rows["Drying time"], rows["Put it in by"]), ("12 h, TOO SHORT", "TOO LATE NOW"))
        good = judged(changed(opened("winch_bracket"), {
            "stock.dryer_h": 48.0, "stock.wanted_utc": "2026-03-05T08:00:00Z"}))  # fmt: skip
        rows = {title: value for title, value, _ in spool_rows(*good, Wording())}
        self.assertEqual(rows["Drying time"], "48 h")
        self.assertIn("03 Mar", rows["Put it in by"])

    def test_the_work_is_told_in_its_order_and_what_to_watch_for_comes_from_the_findings(self):
        recipe, context, review = judged(opened("winch_bracket"))
        told = steps(recipe, context, review, Wording())
        for one, next_one in itertools.pairwise(("Dry the spool", "Read the label", "Plate to", "Nozzle to", "Start,")):
            place = [next(at for at, words in enumerate(told) if words.startswith(each)) for each in (one, next_one)]
            self.assertEqual(place, sorted(place))
        self.assertIn("back to the dryer", " ".join(told))
        self.assertIn("12 h as planned, 33 h as it is wet", told[0], "the plan and what it takes stand together")
        self.assertIn("close the machine", " ".join(told))
        cool = judged(changed(opened("cable_guide"), {"machine.chamber.heater.fitted": False}))
        self.assertNotIn("close the machine", " ".join(steps(*cool, Wording())), "PETG is printed in an open machine")
        seen = {words for words, _ in watch_rows(review, Wording())}
        self.assertTrue(seen)
        shown = {SEEN[what] for finding in review.findings() for what in CODES[finding.code].shows}
        self.assertLessEqual(seen, shown)

    def test_it_follows_the_units_of_the_user(self):
        html = sheet_html(self.content(temperature="°F", decimal="comma"))
        self.assertIn("257 °F", html)
        self.assertNotIn("°C", html.replace("value in °C", ""))

    def test_names_are_escaped(self):
        content = self.content() | {"title": "<script>alert(1)</script>"}
        self.assertNotIn("<script>", sheet_html(content))

    def test_the_pdf_is_made_of_the_same_page(self):
        pdf = sheet_pdf(self.content())
        self.assertTrue(pdf.startswith(b"%PDF-"))
        self.assertGreater(len(pdf), 10_000)
