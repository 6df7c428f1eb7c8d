"""Recipes and runs out as CSV and in again; what was used last."""

import attrs

from kaustos.app.intake import take_table
from kaustos.app.recent import LastUse, load_last_use, save_last_use
from kaustos.app.tables import lots_csv, recipes_csv, runs_csv, write_tables
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import Reserve
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW


class TestTables(WorkspaceTest):
    def other(self):
        """A workspace with the demo's machines, lots and revisions, but no cards of its own to clash with."""
        workspace = self.demo()
        copy = self.folder / "other.kaustos"
        workspace.save_copy(copy)
        found = Workspace(copy, clock=lambda: NOW)
        self.addCleanup(self.quietly, found)
        return workspace, found

    def test_recipes_come_back_as_they_went(self):
        workspace, other = self.other()
        recipes, *_ = write_tables(workspace, self.folder)
        words = take_table(other, recipes)
        self.assertEqual(words, "9 recipes are taken in from recipes.csv.")
        for key, card in workspace.draft.records.cards.items():
            with self.subTest(key):
                self.assertEqual(other.draft.records.cards[f"{key}_2"], card)
        other.draft.undo()
        self.assertEqual(len(other.draft.records.cards), 9, "one undo takes all of them back")

    def test_runs_come_back_as_they_went_one_line_for_each_observation(self):
        workspace, other = self.other()
        text = runs_csv(workspace)
        observed = sum(max(1, len(run.observations)) for run in workspace.draft.records.runs.values())
        self.assertEqual(len(text.splitlines()), 1 + observed)
        file = self.folder / "runs.csv"
        file.write_text(text.replace("run_", "run_9"))
        take_table(other, file)
        for key, run in workspace.draft.records.runs.items():
            back = other.draft.records.runs[key.replace("run_", "run_9")]
            with self.subTest(key):
                self.assertEqual(attrs.evolve(back, id=key, photos=run.photos, readings=run.readings), run)

    def test_lots_come_back_as_they_went_but_for_own_values(self):
        workspace = self.demo()
        file = self.folder / "lots.csv"
        odd = Reserve(grams=1.5, purpose="50 % slurry; Ann @ bench 2", at_utc="2026-02-20T08:00:00Z")
        workspace.draft.set({"lots/lot_c042/reserves": (odd,)})
        file.write_text(lots_csv(workspace).replace("lot_", "spool_"), encoding="utf-8")
        self.assertEqual(take_table(workspace, file), "9 lots are taken in from lots.csv.")
        for key, lot in workspace.draft.records.lots.items():
            if key.startswith("lot_"):
                back = workspace.draft.records.lots[key.replace("lot_", "spool_")]
                with self.subTest(key):
                    self.assertEqual(attrs.evolve(back, id=key), lot)
        workspace.draft.undo()
        self.assertEqual(len(workspace.draft.records.lots), 9)

    def test_a_lot_without_polymer_is_found_by_its_grade_in_a_spreadsheet_s_commas(self):
        workspace = self.demo()
        file = self.folder / "lots.csv"
        file.write_text("id;name;grade;polymer;tare_g;weighings\nz;Z-1;PA6 CF20;;230,5;2026-02-01T08:00:00Z@1000,5@1\n")
        take_table(workspace, file)
        lot = workspace.draft.records.lots["z"]
        self.assertEqual((lot.polymer, lot.weighed_g), ("pa_cf", 770.0))

    def test_bad_lots_are_refused_with_line_and_column(self):
        workspace = self.demo()
        before = workspace.draft.records
        head = "id,name,grade,polymer,tare_g,stays,weighings,loaded_on,strands,lot_values\n"
        for line, words in (
            ("a,A,PC,pc,-5,,,", "line 2, column tare_g: .*not possible"),
            ("a,A,PC,pc,230,,2026-02-01T08:00:00Z@200@1,", "line 2, column weighings: 200 g is less than the empty"),
            ("a,A,PC,pc,,open@2026-02-01T08:00:00Z@21@140,,", "line 2, column stays: .*more than 100"),
            ("a,A,PC,pc,,loft@2026-02-01T08:00:00Z@21@40,,", "line 2, column stays: .*'loft' is none of"),
            ("a,A,PC,pc,,open@yesterday@21@40,,", "line 2, column stays: from_utc: 'yesterday' is no moment"),
            ("a,A,PC,pc,,open@2026-02-01 08:00@21@40,,", "line 2, column stays: .*time zone"),
            ("a,A,PC,pc,,open@2026-02-01T08:00:00Z,,", "line 2, column stays: .*2 parts, 4 are needed"),
            ("a,A,PC,pc,,open@2026-02-02T08:00:00Z@@;sealed@2026-02-01T08:00:00Z@@,,", "does not run backwards"),
            ("a,A,PC,pc,,,,,2026-02-01T08:00:00Z@steam", "line 2, column strands: .*'steam' is none of"),
            ("a,A,PC,pc,,,,,now@vapour", "line 2, column strands: .*'now' is no moment"),
            ("a,A,PC,pc,,,,,,gloss@1@1@1@own@x@", "line 2, column lot_values: 'gloss' is no value"),
            ("a,A,PC,pc,,,,,,nozzle_low_c@1@2@3@own@x@", "line 2, column lot_values: .*must not fall"),
            ("a,A,PC,pc,,,,,,nozzle_low_c@-300@-300@-300@own@x@", "line 2, column lot_values: .*absolute zero"),
            ("a,A,PC,pc,,,,,,nozzle_low_c@@1@2@own@x@", "line 2, column lot_values: .*number is missing"),
            ("a,A,PC,pc,,,,,,nozzle_low_c@1@1@1@rumour@x@", "line 2, column lot_values: .*'rumour' is none of"),
            ("a,A,Nylon,,,,,", "line 2, column polymer: .*PA6 or PA12"),
            ("a,A,PC,goo,,,,", "line 2, column polymer: no polymer 'goo'"),
            ("a,A,PC,pc,,,,moon", "line 2, column loaded_on: no machine 'moon'"),
            ("a,,PC,pc,,,,", "line 2: a lot needs id, name and grade"),
            ("lot_n061,A,PC,pc,,,,", "line 2: lot 'lot_n061' is there already"),
        ):
            file = self.folder / "lots.csv"
            line += "," * (head.count(",") - line.count(","))
            file.write_text(head + line + "\n")
            with self.subTest(line), self.assertRaisesRegex(KaustosError, words):
                take_table(workspace, file)
            self.assertIs(workspace.draft.records, before)

    def test_semicolons_and_decimal_commas_of_a_spreadsheet_are_read(self):
        workspace = self.demo()
        file = self.folder / "recipes.csv"
        file.write_text("id;name;polymer;brief.service_c [°C];melt.nozzle_c\nx;Lid;pc;85,5;280\n", encoding="utf-8-sig")
        take_table(workspace, file)
        recipe = workspace.draft.records.cards["x"].recipe
        self.assertEqual((recipe.brief.service_c, recipe.melt.nozzle_c), (85.5, 280.0))

    def test_bad_tables_are_refused_with_line_and_column_and_nothing_is_taken(self):
        workspace = self.demo()
        before = workspace.draft.records
        recipes = recipes_csv(workspace)
        runs = runs_csv(workspace)
        for text, words in (
            ("", "is empty"),
            ("a,b\n1,2\n", "columns neither of recipes, runs nor lots"),
            ("id,id\n1,2\n", "line 1: column id stands twice"),
            ("id,polymer,brief.service_c\nx,pc\n", "line 2: has 2 cells, the heading has 3"),
            ("id,polymer,brief.service_c\nx,pc,hot\n", "line 2, column brief.service_c: 'hot' is not a number"),
            ("id,polymer,brief.service_c\nx,pc,-300\n", "line 2, column brief.service_c: .*below absolute zero"),
            ("id,polymer,brief.service_c\nx,pc,nan\n", "line 2, column brief.service_c: .*is not a number"),
            ("id,polymer,brief.service_c\nx,goo,80\n", "line 2, column polymer: no polymer 'goo'"),
            ("id,polymer,brief.service_c,machine\nx,pc,80,moon\n", "line 2, column machine: no machine 'moon'"),
            (recipes.replace(",yes,", ",maybe,", 1), "must be yes, no or empty"),
            (recipes.replace("loaded", "heavy", 1), "'heavy' is none of"),
            (runs.replace(",failed,", ",lost,", 1), "line 3: outcome: 'lost' is none of"),
            (runs, "run run_0001 is in this workspace already"),
            (runs.replace("run_0001,wellhead_cover,1", "run_0099,wellhead_cover,8", 1), "has no revision 8 here"),
            ('id,polymer,brief.service_c\n"x,pc,80\n', "line 2"),
        ):
            file = self.folder / "bad.csv"
            file.write_text(text)
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                take_table(workspace, file)
        file.write_bytes(b"\xff\xfe")
        with self.assertRaisesRegex(KaustosError, "not UTF-8"):
            take_table(workspace, file)
        self.assertIs(workspace.draft.records, before)

    def test_tables_never_write_over_a_file(self):
        workspace = self.demo()
        (self.folder / "runs.csv").write_text("mine")
        with self.assertRaisesRegex(KaustosError, "runs.csv: is there already"):
            write_tables(workspace, self.folder)
        self.assertEqual((self.folder / "runs.csv").read_text(), "mine")


class TestLastUse(WorkspaceTest):
    def test_the_latest_workspace_stands_first_and_a_broken_file_is_no_fault(self):
        file = self.folder / "state" / "last-use.json"
        use = LastUse().opened(self.folder / "a").opened(self.folder / "b").opened(self.folder / "a")
        save_last_use(file, use)
        self.assertEqual([each[-1] for each in load_last_use(file).recent], ["a", "b"])
        for content in ("{", "[]", '{"recent": 5}'):
            file.write_text(content)
            self.assertEqual(load_last_use(file), LastUse())
