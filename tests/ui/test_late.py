"""Answers that land late, and in another order: only what they were asked for changes, or one sentence refuses them."""

import re
import time
from pathlib import Path

import attrs
import numpy as np

from kaustos.app.ovens import begin_load
from kaustos.app.runs import start_run
from kaustos.app.standings import KEY as STANDINGS
from kaustos.app.workspace import BACKUP
from kaustos.core.records import Place
from kaustos.core.review import OPERATIONS
from kaustos.demo.bonding import stl_of
from kaustos.devices.simulated_machine import Played, SimulatedLine, SimulatedMachine
from kaustos.formats.csv_tables import write_runs
from kaustos.ui.jobs import POOLED, Pace, run_now
from tests.asserting import every
from tests.core.part.solids import box
from tests.formats.test_job_code import squares
from tests.ui.support import WindowTest

SOURCE = Path(__file__).parents[2] / "src/kaustos"
MINE, OTHER = "winch_bracket", "packer_ring"
OVERHEARD = {  # requests that belong to no record, and who holds them to what is there
    "look": "a device log of its own: tests/ui/test_run_readings.py",
    BACKUP: "the file of the workspace: tests/store/test_copies.py",
}


class LateTest(WindowTest):
    """A window whose jobs wait until the test lands them."""

    def setUp(self):
        super().setUp()
        self.held = []
        self.window = self.open(pace=Pace(self.held.append, *[lambda owner, act: act()] * 2))
        self.desk, self.draft = self.window.desk, self.window.desk.workspace.draft
        self.draft.open_card(MINE)
        self.land()

    def land(self, *, newest_first=False):
        """Let everything land that is on its way, and what is asked for because of it."""
        while self.held:
            run_now(self.held.pop(-1 if newest_first else 0))
            self.app.processEvents()

    def changed_since(self, before):
        """Kind and id of every record that is another now."""
        tables = self.draft.records.tables
        return {
            (kind, key)
            for kind in tables
            for key in {*tables[kind], *before.tables[kind]}
            if tables[kind].get(key) is not before.tables[kind].get(key)
        }

    def text(self, name, *lines):
        file = self.folder / name
        file.write_text("\n".join(lines))
        return file

    # ---- what is asked for: each begins it, and names the records that its answer may change

    def asks_part(self):
        file = self.folder / "mine.stl"
        file.write_bytes(stl_of(box(40.0, 30.0, 12.0), "part"))
        self.window.take_part(file)
        return {("cards", MINE), ("parts", "mine")}

    def asks_job(self):
        self.window.take_job(self.text("mine.gcode", squares()))
        return {("cards", MINE), ("jobs", "mine")}

    def asks_curves(self):
        self.window.show_bench("proof")
        bench = self.window.benches["proof"]
        next(each for each in bench.switches if each.text() == "Pull").click()
        bench.pulls.group.setCurrentIndex(bench.pulls.group.findData("across"))
        bench.pulls.section.setText("10 4")
        rows = [f"{force:.1f},{force / 800.0:.6f}" for force in np.linspace(0.0, 1600.0, 60)]
        self.window.take_evidence(self.text("a.csv", "force [N],strain [%]", *rows))
        bench.pulls.section.setText("20 4")  # typed for the next one
        return {("proofs", "*")}

    def two_runs(self):
        """The room of runs with the first of two that were begun chosen, and their ids."""
        run, other = (start_run(self.desk.workspace, who="A. Tester", why="a test").id for _ in range(2))
        self.window.show_room("runs")
        room = self.window.rooms["runs"]
        room.list.choose(run)
        return room, run, other

    def asks_run_readings(self):
        room, run, other = self.two_runs()
        rows = [f"{10 * n};{40.0 + 0.1 * (n % 3):.1f}" for n in range(300)]
        room.readings.take(self.text("log.csv", "time [s];chamber [°C]", *rows), run)
        room.list.choose(other)
        return {("runs", run)}

    def asks_line(self):
        room, self.run_asked, other = self.two_runs()
        played = Played(hours=1.0, heats_c={"nozzle": 240.0}, height_mm=5.0)
        line = SimulatedLine(SimulatedMachine(played, lambda: 60.0, np.random.default_rng(7)))
        self.addCleanup(line.stop)
        self.readings = room.readings
        self.readings.port.setEditText(line.port)
        self.readings.begin.click()
        room.list.choose(other)
        return set()

    def asks_load_readings(self):
        self.draft.open_card(OTHER)
        self.window.show_room("stock")
        room = self.window.rooms["stock"]
        next(each for each in room.switches if each.text() == "Ovens").click()
        room.ovens.list.choose("oven_o1")
        begin_load(self.desk.workspace, "oven_o1", "")
        load = max(self.draft.records.tables["loads"].values(), key=lambda each: each.started_utc)
        rows = [f"{0.05 * n:.2f};{min(20.0 + 2.0 * n, 200.0):.1f}" for n in range(280)]
        room.ovens.form.take(self.text("load.csv", "time [h];oven [°C]", *rows), load.id)
        self.draft.open_card(MINE)
        return {("loads", load.id)}

    def asks_heat_log(self):
        self.window.show_room("machines")
        room = self.window.rooms["machines"]
        room.list.choose("tarn")
        next(each for each in room.form.switches if each.text() == "Chamber and logs").click()
        rows = [f"{60 * n};{21.0 + 40.0 * (1 - 0.99**n):.2f}" for n in range(120)]
        self.chamber = room.form.page
        self.chamber.take(self.text("warm.csv", "time;beside", *rows))
        room.list.choose("beck")
        return set()

    def asks_intake(self):
        first = next(iter(self.draft.records.runs.values()))
        file = self.folder / "runs.csv"
        file.write_text(write_runs([attrs.evolve(first, id="late", observations=())]), encoding="utf-8")
        self.window.files.take_file(file)
        return {("runs", "late")}

    # ---- what happens meanwhile

    def another_recipe(self):
        self.draft.open_card(OTHER if self.draft.records.current == MINE else MINE)

    def another_room(self):
        self.window.show_room("atlas")

    def an_edit(self):
        self.draft.set({"brief.mass_g": 77.0})

    def another_machine(self):
        self.draft.set({"context.machine": "crag"})


KINDS = {
    "part": LateTest.asks_part, "job": LateTest.asks_job, "curves": LateTest.asks_curves,
    "readings": LateTest.asks_run_readings, "readings of a load": LateTest.asks_load_readings,
    "heat log": LateTest.asks_heat_log, "intake": LateTest.asks_intake, "line": LateTest.asks_line,
}  # fmt: skip
MEANWHILE = (LateTest.another_recipe, LateTest.another_room, LateTest.an_edit, LateTest.another_machine)


class TestWalk(LateTest):
    def test_every_kind_of_request_has_its_case(self):
        found = set()
        for file in SOURCE.rglob("*.py"):
            found |= set(re.findall(r"\bRequest\(\s*\"([^\"]+)\"", file.read_text()))
        self.assertEqual(found, set(KINDS) - {"readings of a load"} | set(OVERHEARD) - {BACKUP})
        keys = {heavy.key for operation in OPERATIONS for heavy in operation.heavy}
        self.assertGreater(len(keys), 4, "and what is computed for a review, below")

    def test_only_what_was_asked_for_changes_whatever_happens_meanwhile(self):
        for kind, asks in KINDS.items():
            for meanwhile in MEANWHILE:
                with self.subTest(kind, meanwhile=meanwhile.__name__):
                    self.close(self.window)
                    self.held.clear()
                    self.file.unlink()  # a fresh demo
                    self.window = self.open(pace=Pace(self.held.append, *[lambda owner, act: act()] * 2))
                    self.desk, self.draft = self.window.desk, self.window.desk.workspace.draft
                    self.draft.open_card(MINE)
                    self.land()
                    may_change = asks(self)
                    meanwhile(self)
                    self.app.processEvents()
                    before, open_now = self.draft.records, self.draft.records.current
                    self.land(newest_first=True)
                    self.look(kind, before, may_change)
                    self.assertEqual(self.draft.records.current, open_now, "what is open stays open")

    def look(self, kind, before, may_change):
        changed = self.changed_since(before)
        if kind == "curves":
            self.assertEqual({each for each, _ in changed}, {"proofs"})
            ((_, key),) = changed
            proof = self.draft.records.tables["proofs"][key]
            self.assertEqual((proof.card, proof.rows[-1].width_mm), (MINE, 10.0))
        elif kind == "line":
            self.assertEqual(changed, set())
            self.assertEqual(self.readings.watch.run, self.run_asked, "not the run that is chosen now")
            self.readings.stop()
        elif kind == "heat log":
            self.assertEqual(changed, set())
            self.assertIsNone(self.chamber.log, "another machine is shown")
            self.window.show_room("machines")
            self.window.rooms["machines"].list.choose("tarn")
            self.assertEqual(self.chamber.log.name, "warm.csv")
        else:
            self.assertEqual(changed & may_change, may_change, self.window.message.text.text())
            self.assertLessEqual(changed, may_change | {("calibrations", each) for _, each in changed})

    def opened_by(self, job):
        """What a job will have opened, once it has run."""
        opened, ask = [], job.request.compute
        job.request = attrs.evolve(job.request, compute=lambda progress: opened.append(ask()) or opened[-1])
        return opened

    def test_a_line_that_nobody_waits_for_any_more_is_let_go(self):
        for meanwhile in (
            lambda: self.readings.errand.cancel.click(),
            lambda: self.draft.set({Place("runs", self.run_asked, "ended_utc"): "2026-03-02T09:00:00Z",
                                    Place("runs", self.run_asked, "outcome"): "good"}),
        ):  # fmt: skip
            self.asks_line()
            job = self.held.pop()
            opened = self.opened_by(job)
            meanwhile()
            job._called_off.clear()  # called off after its last check: the line is open by then
            run_now(job)
            self.app.processEvents()
            self.assertIsNone(self.readings.watch)
            self.assertTrue(opened[0].log.look().fault, "its port is closed")
            self.land()

    def test_what_is_computed_in_any_order_ends_as_the_recipe_that_is_open_is_judged(self):
        for newest_first in (False, True):
            with self.subTest(newest_first=newest_first):
                for card in (MINE, OTHER, "cable_guide", OTHER):
                    self.draft.open_card(card)
                    self.draft.set({"brief.print_h": 9.0 + len(card)})
                    self.app.processEvents()
                self.desk.look_round()
                self.land(newest_first=newest_first)
                review = self.desk.workspace.review()
                self.assertEqual(self.desk.review, review)
                self.assertEqual(self.desk.standings.of(OTHER).grade, review.grade, STANDINGS)


class TestMade(WindowTest):
    """A row that is made in a room at the window's own pace, on which the next turn of the loop lists it."""

    MAKES = (  # page of the stock room, its list, what is typed where, kind of record
        ("Lots on their spools", "lots", lambda page: (page.beginning.name, page.beginning._on_make), "lots"),
        ("Dryers", "dryers", lambda page: (page.name, page._on_make), "dryers"),
        ("Nozzles", "nozzles", lambda page: (page.name, page._on_make), "nozzles"),
        ("Plates", "plates", lambda page: (page.name, page._on_make), "plates"),
        ("Agents", "agents", lambda page: (page.name, page._on_make), "agents"),
        ("Ovens", "ovens", lambda page: (page.name, page._on_make), "ovens"),
        ("Baths", "baths", lambda page: (page.name, page._on_make), "baths"),
    )

    def settled(self, window):
        until = time.monotonic() + 60.0
        while time.monotonic() < until and not (window.desk.queue.is_idle and window.desk.begun):
            self.app.processEvents()
            time.sleep(0.002)
        self.app.processEvents()

    def test_each_thing_that_is_made_is_the_chosen_row_and_until_it_is_listed_no_form_is_open(self):
        window = self.open(pace=POOLED)
        self.settled(window)
        window.show_room("stock")
        room = window.rooms["stock"]
        for title, name, parts, kind in self.MAKES:
            with self.subTest(title):
                next(each for each in room.switches if each.text() == title).click()
                self.settled(window)
                page = getattr(room, name)
                for word in ("First", "Second"):
                    before = set(window.desk.workspace.draft.records.tables[kind])
                    line, make = parts(page)
                    line.setText(word)
                    if kind == "lots":
                        page.beginning.grade.setText("PETG, natural")
                    if kind == "baths":
                        page.kind.setCurrentIndex(1)
                        page.volume.setText("4 l")
                    make()
                    (key,) = set(window.desk.workspace.draft.records.tables[kind]) - before
                    chosen = page.list.chosen_keys()
                    self.assertIn(chosen, ([key], []), "never another one")
                    self.assertTrue(chosen or not page.form.isVisible(), "shut until it is there")
                    self.settled(window)
                    self.assertEqual(page.list.chosen_keys(), [key])
                    self.assertTrue(page.form.isVisible())
        self.close(window)

    def test_a_filter_that_hides_what_is_made_goes_and_a_restored_choice_leaves_it(self):
        window = self.open()
        window.show_room("stock")
        room = window.rooms["stock"]
        next(each for each in room.switches if each.text() == "Nozzles").click()
        page = room.nozzles
        page.list.filter.setText("zzz")
        self.app.processEvents()
        self.assertEqual(page.list.chosen_keys(), [])
        page.name.setText("Fresh")
        page._on_make()
        self.app.processEvents()
        made = next(key for key, each in window.desk.workspace.draft.records.nozzles.items() if each.name == "Fresh")
        self.assertEqual((page.list.chosen_keys(), page.list.filter.text()), ([made], ""))
        page.list.filter.setText("zzz")
        window.desk.set({"brief.mass_g": 71.0})
        self.app.processEvents()
        self.assertEqual(page.list.filter.text(), "zzz")


class TestGone(LateTest):
    def test_an_answer_for_a_recipe_that_is_gone_is_refused_in_one_sentence(self):
        for asks in every((LateTest.asks_part, LateTest.asks_job, LateTest.asks_curves)):
            with self.subTest(asks.__name__):
                self.draft.open_card(MINE)
                asks(self)
                self.draft.open_card(OTHER)
                self.draft.set({Place("cards", MINE): None}, title="gone")
                before = self.draft.records
                self.land()
                self.assertEqual(self.changed_since(before), set())
                self.assertRegex(self.window.message.text.text(), "is gone; nothing was")
                self.draft.undo()

    def test_readings_of_a_run_or_load_that_was_taken_back_are_refused(self):
        for asks, kind in ((LateTest.asks_run_readings, "runs"), (LateTest.asks_load_readings, "loads")):
            with self.subTest(kind):
                ((_, key),) = asks(self)
                self.draft.set({Place(kind, key): None}, title="gone")
                before = self.draft.records
                self.land()
                self.assertEqual(self.changed_since(before), set())
                self.assertRegex(self.window.message.text.text(), "is gone; nothing was kept")
