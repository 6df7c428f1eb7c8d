"""Small losses of data that were found by attack: each stays mended."""

import contextlib
import functools
import json
import os
import shutil
import sqlite3
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

import attrs

from kaustos.app.intake import intake_of_all, put_all_in, take_all, take_table
from kaustos.app.revisions import is_damaged
from kaustos.app.runs import number_of, sorted_as, start_run
from kaustos.app.settings import Settings
from kaustos.app.tables import recipes_csv, runs_csv
from kaustos.app.workspace import Workspace, fill
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.records import KINDS, Photo, Place, Run, Stay, check_id
from kaustos.formats.csv_tables import read_recipes, read_table
from kaustos.formats.curve_file import read_curve
from kaustos.formats.job_code import read_job
from kaustos.formats.json_text import read_json
from kaustos.formats.lots_csv import read_lots, write_lots
from kaustos.formats.recipe_file import read_recipe
from kaustos.store.reader import readable_copy
from tests.support import NOW, RECORDS, changed, demo_bytes, opened, with_offers

DOCS = Path(__file__).parents[2] / "docs"
EXAMPLE = json.dumps({"format": "kaustos-recipe", "version": 1, "recipe": {"name": "Lid"}, "context": {}})


class FolderTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)

    def workspace(self, name="shop.kaustos", records=RECORDS):
        file = self.folder / name
        if not file.exists():
            fill(file, records, lambda: NOW)
        workspace = Workspace(file, Settings(who="A. Tester"), lambda: NOW)
        self.addCleanup(workspace.close)
        return workspace


class TestKept(FolderTest):
    def test_a_file_of_exactly_the_largest_size_is_kept_and_one_byte_more_is_refused(self):
        workspace, photo = self.workspace(), self.folder / "plate.png"
        photo.write_bytes(b"x" * 1000)
        with patch("kaustos.app.workspace.LARGEST_ATTACHMENT", 1000):
            self.assertEqual(workspace.attachment(workspace.attach(photo)), b"x" * 1000)
            photo.write_bytes(b"x" * 1001)
            with self.assertRaisesRegex(KaustosError, "plate.png"):
                workspace.attach(photo)

    def test_what_a_later_version_wrote_beside_a_recipe_is_there_after_opening_again(self):
        card = attrs.evolve(RECORDS.cards["cable_guide"], extra={"drawn_by": "later"}, retired=True)
        records = RECORDS.with_tables(cards={**RECORDS.cards, "cable_guide": card})
        self.workspace("later.kaustos", records).close()
        kept = self.workspace("later.kaustos").draft.records.cards["cable_guide"]
        self.assertEqual((dict(kept.extra), kept.retired), ({"drawn_by": "later"}, True))


class TestRuns(FolderTest):
    def test_a_runs_table_with_an_empty_setting_is_refused_with_its_line(self):
        workspace = self.workspace()
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        text = runs_csv(workspace).replace(run.id, "run_9001").replace(",,,", ",melt.nozzle_c=,,", 1)
        lines = text.splitlines()
        place = lines[0].split(",").index("settings")
        cells = lines[1].split(",")
        cells[place] = "melt.nozzle_c="
        file = self.folder / "runs.csv"
        file.write_text("\n".join([lines[0], ",".join(cells)]))
        with self.assertRaisesRegex(KaustosError, "line 2: column settings: 'melt.nozzle_c' has no value"):
            take_table(workspace, file)

    def test_a_setting_that_is_no_number_never_enters_a_run(self):
        for value in (None, float("nan"), float("inf"), "250"):
            with self.subTest(value), self.assertRaises(FieldError):
                Run(id="r", card="c", revision=1.0, settings={"melt.nozzle_c": value})

    def test_a_workspace_that_holds_an_empty_setting_opens_again(self):
        records = RECORDS.with_tables(runs={"run_0001": Run(id="run_0001", card="winch_bracket", revision=1.0)})
        workspace = self.workspace(records=records)
        document = workspace._store.documents()["run"]["run_0001"] | {"settings": {"melt.nozzle_c": None}}
        workspace._store.put_documents([("run", "run_0001", document)], "2026-03-02T08:00:00.000000Z")
        workspace.close()
        again = Workspace(workspace.file, Settings(), lambda: NOW)
        self.addCleanup(again.close)
        self.assertEqual(again.draft.records.runs["run_0001"].settings, {})

    def test_ids_of_runs_from_elsewhere_are_never_parsed_as_numbers(self):
        odd = ("run_", "run_x", "shift-7", "run_\u0663", "run_" + "9" * 400, "run_1e5", "7")
        runs = {key: Run(id=key, card="winch_bracket", revision=1.0) for key in odd}
        workspace = self.workspace(records=RECORDS.with_tables(runs=runs))
        self.assertEqual(start_run(workspace, who="A. Tester", why="trial", took_place=True).id, "run_0001")
        self.assertTrue(all(isinstance(sorted_as(key), float) and number_of(key) for key in odd))


class TestPaths(FolderTest):
    def test_odd_signs_in_a_name_open_the_very_file_that_is_named(self):
        names = [
            "Shop #1",
            "Shop #2",
            "50%41",
            "what?",
            "a&mode=ro",
            "tab\there",
            "line\nbreak",
            "it's “so”",
            "a;b",
            "ä+b",
        ]
        for place, name in enumerate(names):
            workspace = self.workspace(f"{name}.kaustos")
            workspace.draft.set({Place("cards", "winch_bracket", "recipe.brief.mass_g"): 100.0 + place})
            workspace.close()
        for place, name in enumerate(names):
            with self.subTest(name):
                again = self.workspace(f"{name}.kaustos")
                self.assertEqual(again.draft.records.cards["winch_bracket"].recipe.brief.mass_g, 100.0 + place)
                again.close()
        left = {each.name for each in self.folder.iterdir() if not each.name.endswith(".lock")}
        self.assertEqual(left, {f"{name}.kaustos" for name in names})


class TestWhatCannotBeKept(FolderTest):
    def test_nan_and_infinity_in_unknown_keys_are_refused_with_their_place(self):
        for word in ("NaN", "Infinity", "-Infinity"):
            for text, place in (
                (EXAMPLE.replace('"Lid"', f'"Lid", "walls": {{"count": [{word}]}}'), "recipe.walls.count"),
                (EXAMPLE.replace('"context": {', f'"context": {{"season": {word}'), "context.season"),
            ):
                with self.subTest(text), self.assertRaisesRegex(KaustosError, f"{place}.*finite"):
                    read_recipe(text, "lid.json")

    def test_half_signs_are_refused_at_every_reader(self):
        with self.assertRaisesRegex(KaustosError, "half a sign"):
            read_json(EXAMPLE.replace("Lid", "L\\ud800id"), "lid.json")
        workspace = self.workspace()
        with self.assertRaisesRegex(KaustosError, "half a sign"):
            workspace.draft.propose("name", "Lid \udfff")
        self.assertFalse(workspace.unsaved)

    def test_new_ids_are_checked_and_stored_ones_stay_readable(self):
        for key in ("", " ", "a/b", "x" * 81, "a\nb", "a\u202eb"):
            with self.subTest(key), self.assertRaises(FieldError):
                check_id("id", key)
        odd = attrs.evolve(RECORDS.machines["crag"], id="a/b")
        workspace = self.workspace(records=RECORDS.with_tables(machines={**RECORDS.machines, "a/b": odd}))
        workspace.draft.set({Place("machines", "a/b", "name"): "Odd"})
        workspace.close()
        again = Workspace(workspace.file, Settings(), lambda: NOW)
        self.addCleanup(again.close)
        self.assertEqual(again.draft.records.machines["a/b"].name, "Odd")
        self.assertEqual(again.draft.value("machines/a/b/name"), "Odd")

    def test_an_own_value_without_its_number_is_refused_beside_its_field(self):
        workspace = self.workspace()
        for text in ("± 5", " +- 2"):
            with self.subTest(text), self.assertRaisesRegex(KaustosError, "value itself is missing"):
                workspace.draft.propose("lot.lot_values.glass_transition_c", text)

    def test_kinds_of_a_newer_version_are_kept_and_written_back(self):
        workspace = self.workspace()
        plates = {"p1": {"id": "p1", "flatness": [0.1, {"deep": True}]}}
        workspace._store.put_documents([("jig", "p1", plates["p1"])], "2026-03-02T08:00:00.000000Z")
        workspace.close()
        again = Workspace(workspace.file, Settings(), lambda: NOW)
        self.addCleanup(again.close)
        again.draft.propose("name", "Changed")
        again.autosave()
        copy = self.folder / "copy.kaustos"
        fill(copy, again.draft.records, lambda: NOW)
        for file in (again.file, copy):
            other = Workspace(file, Settings(), lambda: NOW, write=False)
            self.assertEqual(other.draft.records.foreign, {"jig": plates})
            other.close()

    def test_a_copy_holds_what_is_on_the_screen_when_the_file_cannot_be_written(self):
        workspace = self.workspace()
        workspace.draft.propose("name", "Not in the file yet")
        copy = self.folder / "copy.kaustos"
        workspace.save_copy(copy)
        self.assertTrue(workspace.unsaved)
        other = Workspace(copy, Settings(), lambda: NOW)
        self.addCleanup(other.close)
        self.assertEqual(other.draft.records.card.recipe.name, "Not in the file yet")
        self.assertEqual(other.history()[0][2], "Recipe: Not in the file yet")


class TestFormatsKeepTheirPromise(FolderTest):
    def test_what_is_not_known_survives_import_and_export_at_every_level(self):
        document = json.loads((DOCS / "example.json").read_text(encoding="utf-8"))
        marked = with_marks(document)
        file, out = self.folder / "marked.json", self.folder / "out.json"
        file.write_text(json.dumps(marked), encoding="utf-8")
        workspace = self.workspace()
        workspace.import_recipe(file)
        workspace.close()
        again = self.workspace()
        again.export_recipe(out)
        found = json.loads(out.read_text(encoding="utf-8"))
        lost = [path for path in marks_of(marked) if path not in marks_of(found)]
        self.assertGreater(len(marks_of(marked)), 25)
        self.assertEqual(lost, [])

    def test_a_recipe_file_carries_the_photos_of_its_lot_alone_and_among_others(self):
        workspace, photo = self.workspace(), self.folder / "label.png"
        photo.write_bytes(b"the label of the spool" * 999)
        lot = workspace.draft.records.card.lot
        key = workspace.attach(photo)
        workspace.draft.set({Place("lots", lot, "photos"): (Photo(sha256=key, name="label.png"),)}, title="Photo")
        file = self.folder / "with_photo.json"
        self.assertEqual(workspace.export_recipe(file), "")
        for number, take in enumerate((lambda to: to.import_recipe(file), lambda to: take_all(to, [file, file]))):
            empty = self.workspace(f"empty{number}.kaustos", RECORDS.with_tables(cards={}, lots={}, machines={}))
            take(empty)
            self.assertEqual(empty.attachment(key), photo.read_bytes())
        spoiled = file.read_text(encoding="utf-8").replace(key, "0" * 64)
        file.write_text(spoiled, encoding="utf-8")
        with self.assertRaisesRegex(KaustosError, "photos.0000000000000000: is not the content"):
            workspace.import_recipe(file)

    def test_cells_of_any_length_that_we_wrote_are_read_back(self):
        lot = RECORDS.lots["lot_c042"]
        stays = tuple(Stay(place="sealed", from_utc=f"20{10 + n // 300}-01-01T08:00:00Z") for n in range(4_500))
        text = write_lots([attrs.evolve(lot, stays=stays)])
        self.assertGreater(max(map(len, text.split(","))), 131_072)
        ((_, found),) = read_lots(read_table(text, "lots.csv"))
        self.assertEqual(found.stays, stays)

    def test_files_are_checked_again_where_the_records_have_changed_meanwhile(self):
        workspace, first, second = self.workspace(), self.folder / "a.csv", self.folder / "b.json"
        lots = [attrs.evolve(each, id=f"new_{key}") for key, each in RECORDS.lots.items()]
        first.write_text(write_lots(lots), encoding="utf-8")
        workspace.export_recipe(second)
        wanted = intake_of_all(workspace, [first, second])
        taken = wanted()
        workspace.draft.add("lots", lots[0].id, lots[0], "Made meanwhile")
        before = workspace.draft.records
        with self.assertRaisesRegex(KaustosError, "is there already"):
            put_all_in(workspace, wanted, taken)
        self.assertIs(workspace.draft.records, before)


class TestDoors(FolderTest):
    """One sentence with line or field, or what can be read; nothing is left behind."""

    def file(self, name, content):
        file = self.folder / name
        file.write_bytes(content if isinstance(content, bytes) else content.encode())
        return file

    def test_heats_that_no_machine_has_are_refused_by_line(self):
        for word in ("M104 S99999", "M140 S-40", "M109 R" + "9" * 400, "M141 S1500"):
            with (
                self.subTest(word[:12]),
                self.assertRaisesRegex(KaustosError, "a.gcode: line 2: a heat that no machine"),
            ):
                read_job([f"G28\n{word}\nG1 X1 Y1 Z0.2 F600 E1\n".encode()], "a.gcode")
        found = read_job([b"M104 S450\nM140 S0\nG1 X1 Y1 Z0.2 F600 E1\nG1 X9 E2\n"], "a.gcode")
        self.assertEqual((found.layers[0].nozzle_c, found.layers[0].plate_c), (450.0, 0.0))

    def test_tables_of_separators_only_are_refused_in_a_sentence(self):
        workspace = self.workspace()
        for text in (",,,\n,,,\n", ";;;;\n", ","):
            for read in (functools.partial(take_table, workspace), read_curve):
                with self.subTest(text), self.assertRaisesRegex(KaustosError, "t.csv: holds separators and nothing"):
                    read(self.file("t.csv", text))

    def test_numbers_of_thousands_of_digits_are_refused_beside_their_field(self):
        draft = self.workspace().draft
        draft.open_card("winch_bracket")
        before = draft.records
        for text in ("1/" + "3" * 5000, "3" * 5000 + "/7", "9" * 5000, "1e" + "9" * 60):
            with self.subTest(text[:9]), self.assertRaises(KaustosError) as told:
                draft.propose("melt.width_mm", text)
            self.assertLess(len(str(told.exception)), 200)
        self.assertIs(draft.records, before)

    def test_a_damaged_revision_is_told_and_hides_nothing_else(self):
        file = self.folder / "demo.kaustos"
        for text in ("[]", "null", '{"x":', '{"recipe": 5}', "{}"):
            file.write_bytes(demo_bytes())
            with contextlib.closing(sqlite3.connect(file)) as connection:
                connection.execute("UPDATE revisions SET document = ? WHERE card = 'wellhead_cover'", (text,))
                connection.commit()
            workspace = Workspace(file, Settings(who="A. Tester"), lambda: NOW)
            with self.subTest(text), contextlib.closing(workspace):
                workspace.draft.open_card("wellhead_cover")
                workspace.judged()
                self.assertEqual(workspace.maturity().word, "untried", "nobody knows under which settings it ran")
                self.assertTrue(all(is_damaged(each.document) for each in workspace.revisions()))
                self.assertTrue(workspace.differs_from_last_revision())
                with self.assertRaisesRegex(KaustosError, "revision 1"):
                    workspace.set_status(1, "released", "all good")
                self.assertFalse(is_damaged(workspace.save_revision("anew").document))

    def test_an_empty_file_says_that_it_is_empty_and_a_refused_path_gets_no_lock(self):
        for name, content, words in (
            ("empty.kaustos", b"", "is empty"),
            ("text.kaustos", b"words " * 99, "is not a K"),
        ):
            file = self.file(name, content)
            with self.subTest(name), self.assertRaisesRegex(KaustosError, words):
                Workspace(file, Settings(), lambda: NOW)
            self.assertEqual([each.name for each in self.folder.glob(f"{name}*")], [name])
            self.assertEqual(file.read_bytes(), content)

    def test_what_a_killed_process_left_goes_at_the_next_start_and_what_is_young_stays(self):
        self.workspace().close()
        old, young, other = (self.file(name, b"x") for name in (
            f".kaustos-{'a' * 16}.new", f".kaustos-{'b' * 16}.new", ".kaustos-notes.new"))  # fmt: skip
        for each in (old, other):
            os.utime(each, (1e9, 1e9))
        gone, mine = (Path(tempfile.mkdtemp(prefix=f"kaustos-reading-{pid}-")) for pid in (999_999_999, os.getpid()))
        self.addCleanup(shutil.rmtree, mine)
        self.workspace()
        readable_copy(self.folder / "shop.kaustos")[0].close()
        self.assertEqual([each.exists() for each in (old, young, other, gone, mine)], [False, True, True, False, True])

    def test_a_name_with_a_carriage_return_comes_back_from_every_export(self):
        workspace = self.workspace()
        workspace.draft.open_card("cable_guide")
        workspace.draft.set({"name": "Guide\rof the winch"}, title="Name")
        out = self.folder / "guide.json"
        workspace.export_recipe(out)
        self.assertEqual(read_recipe(out.read_text(encoding="utf-8"), "g").recipe.name, "Guide\rof the winch")
        rows = read_recipes(read_table(recipes_csv(workspace), "recipes.csv"))
        self.assertIn("Guide\rof the winch", {recipe.name for _, recipe, _ in rows})


LATER = {"deep": [1, None, "x"]}


def with_marks(value, key=""):
    """A document with a key in each of its objects that nobody knows, but for those whose keys are ids."""
    if isinstance(value, dict):
        marked = {name: with_marks(each, name) for name, each in value.items()}
        return marked if key.endswith("_values") else {**marked, "from_later": LATER}
    return [with_marks(each) for each in value] if isinstance(value, list) else value


def marks_of(value, path=""):
    """The places at which such keys stand."""
    if isinstance(value, list):
        return [each for at, inner in enumerate(value) for each in marks_of(inner, f"{path}[{at}]")]
    if not isinstance(value, dict):
        return []
    inside = [
        each for name, inner in value.items() if name != "from_later" for each in marks_of(inner, f"{path}.{name}")
    ]
    return inside + [path] * (value.get("from_later") == LATER)


class TestWaiting(unittest.TestCase):
    def test_no_time_of_waiting_raises(self):
        for hours in (0.0, 1.0, 239.0, 241.0, 310.0, 1e4, 1e5):
            for card, humidity in (("probe_head_shell", 12.0), ("cable_guide", 22.5)):  # over the limit on the 11th day
                changes = {"stock.dryer_h": 40.0, "stock.wait_h": hours, "stock.wait_in": "dry_box",
                           "lot.box_humidity_pct": humidity}  # fmt: skip
                with self.subTest(hours, card=card):
                    self.assertEqual(len(with_offers(changed(opened(card), changes), "stock").operations), 12)
            for place in ("open", "dry_box", "heated", "sealed"):
                for humidity in (None, 12.0, 22.0, 30.0):
                    changes = {"stock.dryer_h": 30.0, "stock.wait_h": hours, "stock.wait_in": place,
                               "lot.box_humidity_pct": humidity, "lot.feed": "dry_box"}  # fmt: skip
                    with self.subTest(hours, place=place, humidity=humidity):
                        found = with_offers(changed(opened("winch_bracket"), changes), "stock")
                        self.assertEqual(len(found.operations), 12)


class TestKindsAreOneTable(unittest.TestCase):
    def test_every_kind_has_a_table_words_of_its_own_and_an_id(self):
        self.assertEqual(len({kind.one for kind in KINDS} | {kind.many for kind in KINDS}), 2 * len(KINDS))
        for kind in KINDS:
            with self.subTest(kind.one):
                self.assertIn(kind.many, RECORDS.tables)
                names = [field.name for field in attrs.fields(kind.record)]
                self.assertTrue("id" in names or kind.one == "card")
                self.assertIn("retired", names)
                self.assertIn("extra", names)
