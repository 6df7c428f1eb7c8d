"""Readings of a run: a simulated machine watched to its end, a logger's file, what is wrong and what is missing."""

from datetime import UTC, datetime, timedelta

import attrs
import numpy as np
from typer.testing import CliRunner

from kaustos.app.cursor import along_run, read_then, spot_words
from kaustos.app.device_log import DeviceLog
from kaustos.app.readings import (
    Watch,
    keep_readings,
    line_of,
    missing_words,
    reading_of,
    readings_words,
    watch_simulated,
)
from kaustos.app.run_card import tick, waive
from kaustos.app.runs import start_run
from kaustos.app.tables import runs_csv
from kaustos.cli import app
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.records import Place, RunSensor
from kaustos.core.review.plate.cooling import cooling_case
from kaustos.devices.serial_line import SerialMachine
from kaustos.devices.simulated_machine import PLATE_COOLS_S, TAUS_S, Faults, Played, SimulatedLine, SimulatedMachine
from kaustos.formats.csv_tables import read_runs, read_table
from tests.app.test_run_card import CardTest
from tests.support import recipe_and_context


class ReadingsTest(CardTest):
    def play(self, faults=None, hours=1.5, every_s=20.0, after_h=0.0):
        """A whole run of a simulated machine, looked at as a watch does, in no time."""
        seconds = [0.0]
        machine = SimulatedMachine(
            Played(hours=hours, heats_c=dict(self.run_.hot), height_mm=27.0),
            lambda: seconds[0],
            np.random.default_rng(8),
            faults,
        )
        line = SimulatedLine(machine)
        self.addCleanup(line.stop)
        device = SerialMachine(line.port, "Tarn")
        self.addCleanup(device.close)
        if faults is not None:
            device._timeout_s = device._line.timeout = 0.2  # silence is not waited for as long
        begun = datetime(2026, 3, 2, 8, tzinfo=UTC)
        log = DeviceLog((device,), self.folder / "watched.csv", lambda: begun + timedelta(seconds=seconds[0]))
        while seconds[0] < 900.0 + 3600.0 * (hours + after_h):
            log.look()
            seconds[0] += every_s
        return self.folder / "watched.csv", machine

    def read(self, file):
        return reading_of(self.workspace, self.id, file)()

    def sensors(self, file):
        return {each.zone: each for each in self.read(file)}


class TestWatched(ReadingsTest):
    def test_a_sound_run_got_there_and_stayed(self):
        file, _ = self.play()
        words = keep_readings(self.workspace, self.id, self.read(file), file)
        self.assertRegex(words, r"^3 sensors over 1 h 4\d: each got there and stayed\.$")
        self.assertEqual({each.name for each in self.run_.sensors}, {"nozzle", "plate", "chamber"})
        self.assertEqual(self.run_.observations, ())
        self.assertIsNotNone(self.workspace.attachment(self.run_.readings))
        self.workspace.draft.undo()
        self.assertEqual(self.run_.sensors, ())

    def test_steps_and_sensors_come_back_out_of_a_table_as_they_went(self):
        file, _ = self.play()
        keep_readings(self.workspace, self.id, self.read(file), file)
        waive(self.workspace, self.id, "check.dry", "B. Fell", "no time; none")
        back = {each.id: each for each in read_runs(read_table(runs_csv(self.workspace), "runs.csv"))}[self.id]
        self.assertEqual((back.steps, back.sensors), (self.run_.steps, self.run_.sensors))
        for cell, words in (("[", "is no JSON"), ("{}", "must be a list"), ('[{"title":"a"}]', "key: is missing")):
            quoted = cell.replace('"', '""')
            text = f'id,card,revision,started_utc,steps\nr,c,1,2026-03-02T08:00:00Z,"{quoted}"'
            with self.subTest(cell), self.assertRaisesRegex(KaustosError, words):
                read_runs(read_table(text, "t.csv"))

    def test_a_lost_chamber_heater_is_found_and_goes_into_what_was_seen(self):
        file, _ = self.play(Faults(chamber_lost_s=4_000.0))
        words = keep_readings(self.workspace, self.id, self.read(file), file)
        self.assertRegex(words, r"^chamber fell short by [45]\d(\.\d+)? K for 3\d(\.\d)? min")
        self.assertEqual(self.run_.observations[-1].what, "short_of_heat")
        keep_readings(self.workspace, self.id, self.read(file), file)
        self.assertEqual(len(self.run_.observations), 1, "once")

    def test_silence_and_nonsense_are_gaps_and_the_rest_is_kept(self):
        file, _ = self.play(Faults(silent_s=(3_000.0, 3_300.0), nonsense_s=(4_000.0, 4_400.0)), every_s=30.0)
        found = self.sensors(file)
        self.assertEqual(found["nozzle"].says, ("gaps",))
        self.assertAlmostEqual(found["nozzle"].gap_min, 7.0, delta=0.6)
        self.assertIn("does not answer", file.read_text())

    def test_a_drifting_sensor_is_told_by_its_slope(self):
        found = self.sensors(self.play(Faults(drift_k_h=-3.0), hours=3.0, every_s=40.0)[0])
        self.assertAlmostEqual(found["chamber"].drift_k_h, -3.0, delta=0.2)
        self.assertIsNone(found["plate"].drift_k_h)

    def test_how_the_plate_cooled_is_learned_and_rules_what_comes_next(self):
        before = cooling_case(*recipe_and_context(self.workspace.draft.records)).opened.until.value
        file, _ = self.play(after_h=0.7)
        words = keep_readings(self.workspace, self.id, self.read(file), file)
        self.assertIn("cooling is reckoned with that", words)
        kept = [each for each in self.workspace.draft.records.calibrations.values() if each.kind == "plate_cooling"]
        self.assertAlmostEqual(1.0 / kept[0].values["rate_per_min"], PLATE_COOLS_S / 60.0, delta=0.3)
        now = cooling_case(*recipe_and_context(self.workspace.draft.records)).opened.until.value
        self.assertLess(now, 0.85 * before, "the stand-in cools quickly")

    def test_the_same_file_teaches_once_and_a_short_one_says_of_how_much_nothing_is_known(self):
        file, _ = self.play(after_h=0.7)
        for _ in range(2):
            keep_readings(self.workspace, self.id, self.read(file), file)
        kept = [each for each in self.workspace.draft.records.calibrations.values() if each.kind == "plate_cooling"]
        self.assertEqual(len(kept), 1)
        self.workspace.draft.set({Place("runs", self.id, "planned_h"): 12.0})
        self.assertRegex(readings_words(self.run_, self.workspace.draft.wording), r"over 2 h 2[0-9] of 12 h: each got")

    def test_a_height_leads_to_what_the_sensors_showed_then(self):
        self.tick_until("look")
        file, _ = self.play(Faults(chamber_lost_s=1_000.0))
        keep_readings(self.workspace, self.id, self.read(file), file)
        begun = self.run_.sensors[0].from_utc
        self.assertEqual(datetime.fromisoformat(begun), datetime(2026, 3, 2, 8, tzinfo=UTC))
        moved = datetime(2026, 3, 2, 8, 15, tzinfo=UTC).isoformat()
        run = attrs.evolve(self.run_, started_utc=moved)
        shown = dict(read_then(run, 0.5))
        wanted = run.hot["chamber"]
        warm = wanted - (wanted - 21.0) * np.exp(-1_000.0 / TAUS_S["chamber"])
        self.assertAlmostEqual(shown["chamber"], 21.0 + (warm - 21.0) * np.exp(-1_700.0 / TAUS_S["chamber"]), delta=1.5)
        along = along_run(self.workspace, run)
        self.assertRegex(spot_words(self.workspace, along.at_hour(0.5), run), r"chamber [23]\d(\.\d)? °C$")
        self.assertEqual(read_then(run, 400.0), [])

    def test_the_thin_course_follows_the_whole_one(self):
        found = self.sensors(self.play()[0])["plate"]
        self.assertLessEqual(len(found.hours), 200)
        late = [c for h, c in zip(found.hours, found.shown_c, strict=True) if h > 0.6]
        self.assertAlmostEqual(float(np.mean(late)), self.run_.hot["plate"], delta=0.5)
        self.assertEqual(set(found.set_c), {self.run_.hot["plate"]})


class TestWatching(ReadingsTest):
    def test_a_simulated_machine_is_watched_and_let_go(self):
        seconds = [0.0]
        watch = watch_simulated(self.workspace, self.id, lambda: seconds[0], self.folder / "w.csv", lambda: self.now)
        seconds[0] = 900.0
        entry = watch.log.look()
        self.assertEqual(entry.value("nozzle set"), self.run_.hot["nozzle"])
        watch.stop()
        self.assertTrue(watch.log.look().fault, "the line is let go")
        self.assertIsInstance(watch, Watch)

    def test_a_line_is_not_opened_once_it_prints(self):
        self.tick_until("start")
        with self.assertRaisesRegex(KaustosError, "cannot be opened"):
            line_of(self.workspace, self.id, "/dev/no_line", self.folder / "x.csv")()
        tick(self.workspace, self.id, "start")
        with self.assertRaisesRegex(KaustosError, "can reset its board"):
            line_of(self.workspace, self.id, "/dev/no_line", self.folder / "x.csv")


class TestLogger(ReadingsTest):
    def logger(self, chamber, name="logger.csv", heading="time [s];chamber air [°C];TC2 [°C]"):
        file = self.folder / name
        at = np.arange(0.0, 3600.0 * 2.0, 10.0)
        rows = [f"{t:.0f};{chamber(t):.2f};{chamber(t) - 4.0:.2f}" for t in at]
        file.write_text("\n".join([heading, *rows]))
        return file

    def test_beside_the_part_it_is_judged_by_what_the_run_wanted_until_its_end(self):
        wanted = self.run_.hot["chamber"]

        def course(seconds):
            warm = wanted - (wanted - 21.0) * np.exp(-seconds / 300.0) + 0.05 * np.sin(seconds)
            return warm if seconds < 5_400.0 else 21.0 + (wanted - 21.0) * np.exp(-(seconds - 5_400.0) / 900.0)

        found = self.sensors(self.logger(course))
        self.assertEqual(found["chamber"].says, (), "cooling after its end is no failing heater")
        self.assertEqual(found[None].name, "TC2")
        self.assertEqual(found[None].set_c, ())
        low = self.sensors(self.logger(lambda seconds: course(seconds) - 12.0))
        self.assertEqual(low["chamber"].says, ("never",))

    def test_a_hotter_first_layer_is_no_heater_that_falls_short(self):
        card = self.workspace.draft.records.card.recipe
        self.assertEqual((card.first_layer.bed_c, card.plate.bed_c), (128.0, 125.0))
        self.workspace.draft.set({"first_layer.bed_c": 115.0, "plate.bed_c": 100.0})
        self.id = start_run(self.workspace, who="A. Rigg", why="a test").id
        file = self.folder / "plate.csv"
        shown = [115.0 if n < 40 else 100.0 + 0.1 * (n % 3) for n in range(300)]
        file.write_text("time [s];plate [°C]\n" + "\n".join(f"{10 * n};{each}" for n, each in enumerate(shown)))
        self.assertEqual(self.sensors(file)["plate"].says, ())

    def test_a_thermocouple_beside_the_part_drifts_only_while_the_zones_are_at_rest(self):
        wanted = self.run_.hot["chamber"]
        warming = self.logger(lambda s: wanted - (wanted - 21.0) * np.exp(-s / 900.0) + 0.05 * np.sin(s))
        found = self.sensors(warming)
        self.assertIsNone(found[None].drift_k_h, "it warmed with the air")
        alone = self.folder / "alone.csv"
        alone.write_text("time [s];TC9 [°C]\n" + "\n".join(f"{10 * n};{20 + 0.1 * n:.2f}" for n in range(700)))
        self.assertIsNone(self.sensors(alone)[None].drift_k_h, "nobody says when it was at rest")

    def test_from_the_command_line(self):
        file = self.logger(lambda seconds: 70.0 + 0.1 * np.sin(seconds))
        self.workspace.autosave()
        told = CliRunner().invoke(app, ["readings", str(file), "13", "--workspace", str(self.workspace.file)]).stdout
        self.assertIn("chamber air\tnever", told)
        self.assertIn("chamber air never got there", told)

    def test_bad_files_are_named_and_nothing_is_kept(self):
        for name, content, words in (
            ("empty.csv", "", "empty.csv"),
            ("words.csv", "time [s];chamber [°C]\n0;warm\n1;hot\n", "words.csv"),
            ("high.csv", "time [s];height [mm]\n0;1\n1;2\n2;3\n", "no column of it holds temperatures"),
        ):
            file = self.folder / name
            file.write_text(content)
            with self.subTest(name), self.assertRaisesRegex(KaustosError, words):
                self.read(file)
        self.assertEqual(self.run_.sensors, ())


class TestMissing(ReadingsTest):
    def test_what_nobody_recorded_is_listed_and_goes_as_it_is_recorded(self):
        words = missing_words(self.run_)
        for each in ("readings of the chamber", "how the part came off", "a photo", "steps of the card"):
            self.assertIn(each, words)
        file, _ = self.play()
        keep_readings(self.workspace, self.id, self.read(file), file)
        self.tick_until("close")
        self.assertNotIn("readings of", missing_words(self.run_))
        self.assertNotIn("steps of the card", missing_words(self.run_))

    def test_nothing_read_says_nothing_and_a_sensor_must_be_whole(self):
        wording = self.workspace.draft.wording
        self.assertEqual(readings_words(self.run_, wording), "")
        for changes in ({"shown_c": (1.0, 2.0)}, {"set_c": (1.0, 2.0)}, {"says": ("odd",)}):
            with self.subTest(changes), self.assertRaises(FieldError):
                attrs.evolve(RunSensor(name="a", hours=(0.0,), shown_c=(20.0,)), **changes)
