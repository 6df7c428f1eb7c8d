"""A week of a shop: five runs, two recipes, two spools, a price changed in between; books, proof and lists follow."""

from datetime import timedelta

from kaustos.app.causes import booking_words
from kaustos.app.going_on import stop_words
from kaustos.app.matters import left_open, settle
from kaustos.app.run_card import close, end_early, free, standing_of, tick
from kaustos.app.run_seen import hand_test, mark, rest
from kaustos.app.runs import open_beside, start_run
from kaustos.core.planning.booking import PURGE_G, booking_of
from kaustos.core.planning.ledger import ledger_of
from kaustos.core.records import Place
from kaustos.core.records.run import RunPiece
from kaustos.core.review.run.preflight import preflight
from tests.app.support import ClockedTest

COVER, CLAMP = "wellhead_cover", "cable_clamp"


class TestWeek(ClockedTest):
    @property
    def records(self):
        return self.draft.records

    def begin(self, card):
        """Open a recipe, start it despite what stands, and lay its first layer."""
        self.draft.open_card(card)
        run = start_run(self.workspace, who="A. Rigg", why="the week's work", took_place=True).id
        while (step := standing_of(self.records.runs[run]).step).key != "look":
            if step.key == "check.matters":
                self.close_all()
            self.tick(run, step.key)
        return run

    def tick(self, run, key):
        """Done; a line of safety that the review still finds is left to the end of the day, not ticked."""
        tick(self.workspace, run, key)

    def close_all(self):
        for key, run in self.records.runs.items():
            for what in left_open(run):
                settle(self.workspace, key, what, "looked at and sound")

    def to_the_end(self, run, hours):
        while (step := standing_of(self.records.runs[run]).step).key != "end":
            tick(self.workspace, run, step.key)
        self.now += timedelta(hours=hours)
        tick(self.workspace, run, "end")

    def free_g(self, lot):
        record = self.records.lots[lot]
        return ledger_of(record, self.workspace.shop().taken_g.get(lot, 0.0)).free_g

    def lines(self, card):
        self.draft.open_card(card)
        context, review = self.workspace.judged_now()
        return {each.key: each.state for each in preflight(review, self.records.card.recipe, context)}

    def test_five_runs(self):
        spools = {card: self.records.cards[card].lot for card in (COVER, CLAMP)}
        before = {lot: self.free_g(lot) for lot in spools.values()}
        booked = dict.fromkeys(spools.values(), 0.0)
        self.draft.open_card(COVER)
        proven = self.workspace.maturity_of(COVER).good

        # Monday: a corner lifts at hour six, by so much that it is stopped there
        run = self.begin(COVER)
        self.draft.set({Place("runs", run, "course"): (
            RunPiece(high_mm=10.0, time=0.25, filament=0.4), RunPiece(high_mm=40.0, time=1.0, filament=1.0),
        )})  # fmt: skip
        self.assertEqual(open_beside(self.workspace, but=run), "")
        self.assertIn("still open on", open_beside(self.workspace))
        self.now += timedelta(hours=6.0)
        mark(self.workspace, run, "corner_lift", lift_mm=2.2)
        self.assertRegex(stop_words(self.workspace, self.records.runs[run]), "^Stop it: a corner has lifted by 2.2 mm")
        end_early(self.workspace, run)
        self.now += timedelta(hours=15.0)
        close(self.workspace, run, "failed")
        lifted = self.records.runs[run]
        self.assertAlmostEqual(lifted.ran_h, 6.0, places=2)
        share = 0.4 + 0.6 * (0.5 - 0.25) / 0.75  # half of its twelve hours
        self.assertAlmostEqual(booking_of(lifted).mass_g, share * lifted.mass_g + PURGE_G, delta=0.5)
        self.assertIn("Booked:", booking_words(self.workspace, lifted))
        booked[spools[COVER]] += booking_of(lifted).mass_g

        # Tuesday: whole, and breaks easily by hand
        self.now += timedelta(hours=9.0)
        run = self.begin(COVER)
        self.to_the_end(run, 12.0)
        hand_test(self.workspace, run, "easily")
        close(self.workspace, run, "failed")
        weak = self.records.runs[run]
        self.assertEqual(booking_of(weak).mass_g, weak.mass_g, "it ran to its end")
        self.assertTrue(any(each.run == run for each in self.records.tables["proofs"].values()))
        booked[spools[COVER]] += booking_of(weak).mass_g
        self.assertEqual(self.workspace.maturity_of(COVER).ended, proven + 2)

        # a price changes: nothing is less proven, the books are what they were
        counts = self.workspace.maturity_of(COVER)
        left = self.free_g(spools[COVER])
        self.draft.open_card(COVER)
        self.draft.set({"machine.rate_per_h": 44.0})
        self.assertEqual(self.workspace.maturity_of(COVER), counts)
        self.assertEqual(self.free_g(spools[COVER]), left)

        # Wednesday: the other recipe stands still for twenty minutes, and its part sticks
        self.now += timedelta(hours=20.0)
        self.assertEqual(self.lines(CLAMP)["matters"], "met")
        run = self.begin(CLAMP)
        self.now += timedelta(hours=0.6)
        rest(self.workspace, run, 20.0, is_held=True)
        self.to_the_end(run, 0.7)
        while standing_of(self.records.runs[run]).step.key != "free":
            tick(self.workspace, run, standing_of(self.records.runs[run]).step.key)
        free(self.workspace, run, "stuck")
        self.now += timedelta(hours=3.0)
        free(self.workspace, run, "hard")
        close(self.workspace, run, "usable")
        stuck = self.records.runs[run]
        self.assertEqual((len(stuck.rests), stuck.off), (1, "hard"))
        booked[spools[CLAMP]] += booking_of(stuck).mass_g
        self.assertEqual(self.lines(CLAMP)["matters"], "not met", "the next one on this plate asks for it")
        self.assertEqual(self.lines(COVER)["matters"], "met", "another machine, another plate")

        # Thursday and Friday: closed with what was found, two good ones
        settle(self.workspace, run, "stuck", "came off after a night in the cold, surface sound")
        self.assertEqual(self.lines(CLAMP)["matters"], "not met", "why it stood is still open")
        settle(self.workspace, run, "stood_still", "the spool had caught; its guide is bent back")
        self.assertEqual(self.lines(CLAMP)["matters"], "met")
        good = self.workspace.maturity_of(CLAMP).good
        for _ in range(2):
            self.now += timedelta(hours=20.0)
            run = self.begin(CLAMP)
            self.to_the_end(run, 1.0)
            close(self.workspace, run, "good")
            self.draft.set({Place("runs", run, "filament"): "dry"})  # weighed: it was not what the log made of it
            booked[spools[CLAMP]] += booking_of(self.records.runs[run]).mass_g
        self.assertEqual(self.workspace.maturity_of(CLAMP).good, good + 2)

        # the end of the week: what is gone from each spool is what its runs were booked with
        for lot, grams in booked.items():
            with self.subTest(lot):
                self.assertAlmostEqual(before[lot] - self.free_g(lot), min(grams, before[lot]), places=6)
        # and all of it stands in the file
        self.workspace.autosave()
        again = self.demo()
        self.assertEqual(again.draft.records.runs, self.records.runs)
