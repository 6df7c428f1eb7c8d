"""The grade of every recipe as the shop stands now, judged a few at a time; what an edit elsewhere makes of them."""

import logging
from collections.abc import Callable, Mapping
from datetime import datetime
from functools import partial

import attrs

from kaustos.app.indexes import Indexes
from kaustos.app.judge import Judge, context_of_card
from kaustos.app.results import Request
from kaustos.app.revisions import card_of
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.progress import Progress
from kaustos.core.records import RecipeCard, Rules
from kaustos.core.review import Context, Finding, Shop
from kaustos.core.review.contract import GRADES, Grade

KEY = "standings"
PIECE = 12  # recipes judged between two looks at what the shop is now
NAMED = 3  # recipes of a change that are named, the rest counted
RELEASED = "released "  # before a recipe's key: what was released of it, where the draft says something else


@attrs.frozen
class _Seen:
    """What the standings of all recipes rest on beside each recipe itself; the recipes' own edits leave it equal."""

    shop: Shop = attrs.field(eq=id)
    rules: Rules
    now: datetime
    wanted_g: Mapping[str, float] = attrs.field(hash=False)  # by lot, by the runs still to come of all recipes
    parts: tuple[str, ...]


@attrs.frozen(eq=False)
class Standing:
    """How a recipe is graded, what stands first against it, and what that was judged from."""

    card: RecipeCard
    seen: _Seen
    grade: Grade | None  # None where it cannot be judged
    worst: Finding | None

    @property
    def is_no_go(self) -> bool:
        """Whether it must not be printed as it stands."""
        return self.grade is not None and self.grade.value == "no_go"

    def words(self, wording: Wording) -> str:
        """The grade as lists show it."""
        if self.grade is None:
            return "cannot be judged"
        stops = self.worst is not None and self.worst.severity == "stop" and not self.is_no_go
        return wording.grade(self.grade) + (", a stop stands" if stops else "")

    @property
    def rank(self) -> int:
        """Where it stands among others, the worst first; what cannot be judged before all."""
        return -1 if self.grade is None else GRADES.index(self.grade.value)


def _judged(judge: Judge, card: RecipeCard, seen: _Seen, context_of: Callable[[], Context]) -> Standing:
    """The standing of one recipe; a fault of ours in judging it is logged, and keeps no other from its grade.

    Heavy results are not waited for: they say what else would help, and take nothing from a grade.
    """
    try:
        review = judge.at_hand(card.recipe, context_of()).review
    except Exception:
        logging.getLogger("kaustos").exception("a recipe cannot be judged")
        return Standing(card, seen, None, None)
    return Standing(card, seen, review.grade, next(iter(review.findings()), None))


@attrs.frozen(eq=False)
class Regraded:
    """A recipe that an edit elsewhere, or the clock, gave another grade."""

    card: RecipeCard
    before: Standing
    now: Standing

    @property
    def by(self) -> str:
        """Whose doing it is: edit, clock, or either where both moved between the two judgements."""
        old, new = self.before.seen, self.now.seen
        if old.now == new.now:
            return "edit"
        return "clock" if attrs.evolve(old, now=new.now) == new else "either"


class Standings:
    """Which recipe has which grade now.

    A recipe is judged again when something it reads has changed. The clock counts by days; what it has done is told
    apart from what an edit did.
    """

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._found: dict[str, Standing] = {}
        self._told: Mapping[str, Standing] | None = None  # at the end of the last round
        self._out: tuple[object, dict[str, RecipeCard]] = (None, {})  # what was released, for the documents it was of
        self._judge, self._indexes = Judge(), Indexes()  # of the work away from the window, one piece at a time
        self._day = workspace.clock()

    def of(self, card: str) -> Standing | None:
        """The grade of a recipe as it stands in the draft, None while it is still to be judged."""
        return self._found.get(card)

    def released(self, card: str) -> Standing | None:
        """The grade of what was released of a recipe, None where nothing was or it is still to be judged."""
        if card not in self._releases():
            return None
        return self._found.get(RELEASED + card) or self._found.get(card)

    def request(self) -> Request:
        """Judge the next few recipes that are not judged, or rest on something that has changed."""
        records, shop, now = self._workspace.draft.records, self._workspace.shop(), self._now()
        cards = {key: card for key, card in records.cards.items() if not card.retired}
        for key, card in self._releases().items():
            if key in cards and (card.recipe, card.chosen) != (cards[key].recipe, cards[key].chosen):
                cards[RELEASED + key] = card
        known = dict(self._found)

        def compute(progress: Progress) -> tuple[dict[str, Standing], bool]:
            seen = _Seen(
                shop, records.rules, now, self._indexes.wanted_by_lot(records, shop.runs_done),
                tuple(card.recipe.part for card in records.cards.values()),
            )  # fmt: skip
            before = {id(each.seen): each.seen for each in known.values()}.values()
            seen = next((each for each in before if each == seen), seen)
            found: dict[str, Standing] = {}
            anew = 0
            for key, card in cards.items():
                old = known.get(key)
                if old is not None and old.seen is seen and (old.card is card or _is_as_it_was(old.card, card)):
                    found[key] = old if old.card is card else attrs.evolve(old, card=card)
                    continue
                if anew == PIECE:
                    return found, False
                progress.check()
                progress.report(len(found), len(cards))
                one = key.removeprefix(RELEASED)
                state = card if key != one else None
                found[key] = _judged(
                    self._judge, card, seen,
                    partial(context_of_card, records, one, now, shop, self._indexes, state),
                )  # fmt: skip
                anew += 1
            return found, True

        return Request(KEY, (records, shop, now, len(known)), compute)

    def take(self, answer: tuple[dict[str, Standing], bool]) -> bool:
        """Keep what was judged; whether the round is at its end."""
        found, is_whole = answer
        self._found = dict(found) if is_whole else {**self._found, **found}
        return is_whole

    def news(self) -> tuple[Regraded, ...]:
        """After a round: recipes graded otherwise than after the last, those that were themselves edited left out."""
        before, self._told = self._told, dict(self._found)
        if before is None:
            return ()
        changed = [
            Regraded(now.card, old, now)
            for key, now in self._found.items()
            if (old := before.get(key)) is not None and _said(old.grade) != _said(now.grade) and old.card is now.card
        ]
        return tuple(sorted(changed, key=lambda each: each.now.rank))

    def fallen(self) -> tuple[Standing, ...]:
        """What was released and is no-go as the shop stands now."""
        found = (self.released(key) for key in self._releases())
        return tuple(each for each in found if each is not None and each.is_no_go and not each.card.retired)

    def _releases(self) -> dict[str, RecipeCard]:
        documents = self._workspace.released()
        if self._out[0] is not documents:
            self._out = (documents, {key: card_of(document) for key, document in documents.items()})
        return self._out[1]

    def _now(self) -> datetime:
        now = self._workspace.clock()
        if now.date() != self._day.date():
            self._day = now
        return self._day


def _is_as_it_was(before: RecipeCard, now: RecipeCard) -> bool:
    return (before.recipe, before.chosen) == (now.recipe, now.chosen)


def _said(grade: Grade | None) -> tuple[str, bool]:
    return (grade.value, bool(grade.until_known)) if grade else ("", False)


CAUSES = {
    "edit": "with this edit", "clock": "with the clock, for it is another day",
    "either": "with an edit or the clock, for it is another day too",
}  # fmt: skip


def news_words(news: tuple[Regraded, ...], wording: Wording) -> str:
    """3 recipes change with this edit: Probe head shell, functional before, no-go now; ..."""
    words = []
    for by, cause in CAUSES.items():
        mine = [each for each in news if each.by == by]
        said = [
            f"{_name(each.card)}, {each.before.words(wording)} before, {each.now.words(wording)} now" for each in mine
        ]
        if mine:
            head = f"{len(mine)} recipes change" if len(mine) > 1 else "1 recipe changes"
            words.append(f"{head} {cause}: {_few(said)}.")
    return " ".join([*words, "All recipes (Ctrl+Shift+R) shows why."])


def fallen_words(fallen: tuple[Standing, ...]) -> str:
    """What was released and must not be printed as the shop stands now."""
    is_one = len(fallen) == 1
    head = "A recipe that is released is no-go now" if is_one else f"{len(fallen)} released recipes are no-go now"
    return f"{head}: {_few([_name(each.card) for each in fallen])}. Open {'it' if is_one else 'them'} before printing."


def _name(card: RecipeCard) -> str:
    return card.recipe.name or "Unnamed recipe"


def _few(said: list[str]) -> str:
    rest = len(said) - NAMED
    return "; ".join(said[:NAMED]) + (f"; and {rest} more" if rest > 0 else "")
