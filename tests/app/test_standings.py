"""Grades of all recipes in the background: what an edit elsewhere changes is told, what was released and fell too."""

from datetime import timedelta
from unittest import mock

from kaustos.app.judge import Judge
from kaustos.app.standings import CAUSES, PIECE, RELEASED, Standings, fallen_words, news_words
from kaustos.core.progress import UNWATCHED, Cancelled
from kaustos.core.records import Place, Stay
from kaustos.core.review import Operation
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW

LIMIT = Place("machines", "tarn", "nozzle.heater.max_c")


FRESH = {  # a spool that is dry today and hangs in the open: the cage just welds
    "cards/sensor_cage/recipe.stock.dryer_h": 0.0, "rules.functional_pct": 45.0, "rules.reduced_pct": 38.0,
    Place("lots", "lot_c042", "stays"): (
        Stay(place="dryer", from_utc="2026-02-26T08:00:00Z", temperature_c=110.0),
        Stay(place="open", from_utc="2026-03-02T07:30:00Z", humidity_pct=60.0),
    ),
}  # fmt: skip


class CalledOff:
    """Somebody who has no time."""

    def check(self):
        raise Cancelled("Called off.")

    def report(self, done, of):
        raise AssertionError("nothing is done any more")


def rounds(standings):
    """Look until all are known; in how many pieces."""
    for pieces in range(1, 100):
        if standings.take(standings.request().compute(UNWATCHED)):
            return pieces
    raise AssertionError("never ends")


class TestStandings(WorkspaceTest):
    def looked(self):
        workspace = self.demo(who="A. Tester")
        standings = Standings(workspace)
        rounds(standings)
        self.assertEqual(standings.news(), (), "a first look is no change")
        return workspace, standings

    def test_each_grade_is_that_of_the_recipe_when_it_is_open(self):
        workspace, standings = self.looked()
        for key in workspace.draft.records.cards:
            workspace.draft.open_card(key)
            with self.subTest(key):
                self.assertEqual(standings.of(key).grade, workspace.review().grade)

    def test_a_lower_limit_tells_which_recipes_it_stops_and_undo_tells_them_back(self):
        workspace, standings = self.looked()
        on_tarn = {key for key, card in workspace.draft.records.cards.items() if card.machine == "tarn"}
        before = {key: standings.of(key).is_no_go for key in on_tarn}
        workspace.draft.set({LIMIT: 200.0})
        rounds(standings)
        news = standings.news()
        self.assertEqual(
            {each.card.recipe.name for each in news},
            {workspace.draft.records.cards[key].recipe.name for key in on_tarn if not before[key]},
        )
        self.assertTrue(all(each.now.is_no_go for each in news))
        self.assertIn(f"{len(news)} recipe", news_words(news, workspace.draft.wording))
        self.assertIn("reduced before, no-go now", news_words(news, workspace.draft.wording))
        workspace.draft.undo()
        rounds(standings)
        back = {each.card.recipe.name: (each.before.grade, each.now.grade) for each in standings.news()}
        self.assertEqual(back, {each.card.recipe.name: (each.now.grade, each.before.grade) for each in news})

    def test_the_recipe_that_was_itself_edited_is_no_news(self):
        workspace, standings = self.looked()
        workspace.draft.open_card("winch_bracket")
        workspace.draft.set({"melt.nozzle_c": 400.0})
        rounds(standings)
        self.assertEqual(standings.of("winch_bracket").grade.value, "no_go")
        self.assertEqual(standings.news(), ())

    def test_what_was_released_falls_with_its_machine_though_the_draft_was_cured(self):
        workspace, standings = self.looked()
        self.assertEqual(standings.fallen(), ())
        (key, *_) = [each for each in workspace.released() if workspace.draft.records.cards[each].machine]
        machine = workspace.draft.records.cards[key].machine
        workspace.draft.set({Place("machines", machine, "nozzle.heater.max_c"): 200.0})
        workspace.draft.open_card(key)
        workspace.draft.set({"melt.nozzle_c": 190.0, "first_layer.nozzle_c": 190.0})
        rounds(standings)
        self.assertIn(key, {each for each in workspace.released() if standings.released(each) in standings.fallen()})
        self.assertIsNot(standings.released(key), standings.of(key), "judged as released, not as drafted")
        self.assertIn("no-go now", fallen_words(standings.fallen()))
        workspace.set_status(workspace.revisions()[0].number, "withdrawn", "the machine cannot")
        rounds(standings)
        self.assertNotIn(key, workspace.released())

    def test_many_recipes_are_judged_a_few_at_a_time_and_the_work_is_called_off_between_them(self):
        workspace, standings = self.looked()
        card = workspace.draft.records.cards["winch_bracket"]
        workspace.draft.set({Place("cards", f"more_{at}"): card for at in range(2 * PIECE + 1)})
        with self.assertRaises(Cancelled):
            standings.request().compute(CalledOff())
        self.assertEqual(rounds(standings), 3)
        self.assertEqual(rounds(standings), 1, "nothing changed, nothing is judged")
        self.assertFalse(any(key.startswith(RELEASED) for key in workspace.draft.records.cards))

    def test_an_edit_of_one_recipe_judges_that_one_again_and_a_plan_on_a_shared_lot_all(self):
        workspace, standings = self.looked()
        judged = []
        at_hand = Judge.at_hand

        def counted(judge, recipe, context, only=None):
            judged.append(recipe.name)
            return at_hand(judge, recipe, context, only)

        for changes, names in (({"melt.nozzle_c": 371.0}, {"Probe head shell"}), ({"brief.runs": 40.0}, None)):
            judged.clear()
            workspace.draft.set(changes)
            with mock.patch.object(Judge, "at_hand", counted):
                rounds(standings)
            every = {card.recipe.name for card in workspace.draft.records.cards.values()}
            with self.subTest(changes=changes):
                self.assertEqual(set(judged), every if names is None else names)

    def test_what_the_clock_did_is_told_apart_from_what_an_edit_did(self):
        for moves, edits, by in ((True, False, "clock"), (False, True, "edit"), (True, True, "either")):
            moment = [NOW]
            workspace = self.demo()
            workspace.clock = lambda moment=moment: moment[0]
            workspace.draft.open_card("wellhead_cover")
            workspace.draft.set(FRESH)
            standings = Standings(workspace)
            rounds(standings)
            standings.news()
            if moves:
                moment[0] += timedelta(days=900)  # every spool and every bottle is old by then
            if edits:
                workspace.draft.set({"rules.functional_pct": 99.0, "rules.reduced_pct": 98.0})
            rounds(standings)
            news = standings.news()
            with self.subTest(by):
                self.assertTrue(news, "something is graded otherwise")
                self.assertEqual({each.by for each in news}, {by})
                self.assertIn(CAUSES[by], news_words(news, workspace.draft.wording))
            while workspace.draft.undo_title:
                workspace.draft.undo()
            workspace.close()

    def test_a_recipe_that_cannot_be_judged_keeps_no_other_from_its_grade(self):
        workspace, standings = self.looked()
        review = Operation.said_of

        def fails(operation, recipe, context):
            if recipe.name == "Winch bracket":
                raise ZeroDivisionError("on purpose")
            return review(operation, recipe, context)

        workspace.draft.set({"rules.headroom_k": 4.0})
        with mock.patch.object(Operation, "said_of", fails), self.assertLogs("kaustos", "ERROR"):
            rounds(standings)
        self.assertEqual(standings.of("winch_bracket").words(workspace.draft.wording), "cannot be judged")
        self.assertIsNotNone(standings.of("packer_ring").grade)
        self.assertIn("a stop stands before, cannot be judged now",
                      news_words(standings.news(), workspace.draft.wording))  # fmt: skip
