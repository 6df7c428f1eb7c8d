"""What the window's widgets share: the open workspace, the review of now, and word of every change."""

import logging
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, Protocol

import attrs
import shiboken6
from PySide6.QtCore import QObject, QTimer, Signal

from kaustos.app.judge import Judged
from kaustos.app.messages import Messages
from kaustos.app.records import Address
from kaustos.app.results import Request, request_for
from kaustos.app.settings import Settings
from kaustos.app.standings import KEY as STANDINGS
from kaustos.app.standings import Standings, fallen_words, news_words
from kaustos.app.wording import Wording
from kaustos.app.workspace import BACKUP, Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import Recipe
from kaustos.core.review import NOT_JUDGED, OPERATIONS, Advice, Choose, Context, Heavy, Ladder, Remedy, Review, ladder
from kaustos.core.review.contract import Absent
from kaustos.ui.cover import Cover
from kaustos.ui.intake import TakingIn
from kaustos.ui.jobs import POOLED, Pace, Queue

if TYPE_CHECKING:
    from kaustos.core.review.experience import Tally

FOLLOW_MS = 1_000
AUTOSAVE_MS = 800
AUTOSAVE_RETRY_MS = 10_000
BACKUP_MS = 20_000  # of quiet, before the state of the day is kept


class Follower(Protocol):
    """A widget that shows something of the desk: refreshed once a turn while it is shown, else when it is."""

    def isVisible(self) -> bool: ...
    def refresh(self) -> None: ...


class Desk(QObject):
    """The open workspace with its judgement; every widget reads from here and proposes through here."""

    led = Signal(str)  # the eye is led to a field
    asked = Signal(str)  # the answer to a question is to be typed now
    saved = Signal()  # the file caught up, or fell behind

    def __init__(self, workspace: Workspace, pace: Pace = POOLED) -> None:
        super().__init__()
        self.workspace, self.pace = workspace, pace
        self.messages = Messages()
        self.queue = Queue(pace)
        self.queue.landed.connect(self._on_landed)
        self.queue.failed.connect(self.messages.error)
        self.taking_in = TakingIn(workspace, self.messages, pace)
        self.fault = ""  # why the file could not be written
        self.cannot_judge = ""  # what went wrong in judging
        self.shown_first: tuple[str, ...] = ()  # operations that are judged before the first picture stands
        self._autosave = QTimer(self, singleShot=True, interval=AUTOSAVE_MS)
        self._autosave.timeout.connect(self.save_draft)
        self._follow = QTimer(self, interval=FOLLOW_MS)  # a window that only reads is live
        self._follow.timeout.connect(lambda: self.run(self.workspace.follow))
        self.standings = Standings(workspace)
        self._look = QTimer(self, singleShot=True, interval=pace.look_ms or 0)
        self._told_fallen = False  # released recipes that are no-go now: said once, on start
        self._look.timeout.connect(self.look_round)
        self.bench = ""  # the operation that is shown
        self._rest = QTimer(self, singleShot=True, interval=pace.rest_ms)  # runs while something is dragged
        self._rest.timeout.connect(self.announce)
        self._backup = QTimer(self, singleShot=True, interval=BACKUP_MS)
        self._backup.timeout.connect(self.back_up)
        self.begun = self._is_closed = False
        self._followers: list[Follower] = []
        self._behind: set[int] = set()  # followers, by identity, that have not shown the state of now
        self._covers: dict[int, Cover] = {}  # over what could not be shown last time
        self._turn_is_due = self._in_turn = False
        self._judged: Judged | None = None  # None while something has changed since
        self._before = Judged(Context(), NOT_JUDGED, ())
        self._drawn: tuple[Judged, Ladder] | None = None
        self._tallied: tuple[object, str] = (None, "")  # the runs that were counted, and their polymer
        self._tallies: dict[str, Tally] = {}
        workspace.draft.listen(self._on_draft_changed)

    def begin(self) -> None:
        """After the first picture: read the log, judge the rest, and follow the writer of the file."""
        if not shiboken6.isValid(self) or self._is_closed:
            return
        if not self.workspace.read_on():
            self.pace.slowly(self, self.begin)
            return
        self.begun = True
        if words := self.workspace.late_words():
            self.messages.error(words)
        if self.workspace.draft.read_only:
            self._follow.start()
        else:
            self._backup.start()
        self._look_later()
        self.announce()

    @property
    def has_recipe(self) -> bool:
        """Whether a recipe is open."""
        return self.workspace.draft.records.current is not None

    @property
    def wording(self) -> Wording:
        """Words under the user's settings."""
        return self.workspace.draft.wording

    # ---- the judgement of now

    @property
    def context(self) -> Context:
        """What the open recipe is judged with, heavy results as far as they are there."""
        return self._now().context

    @property
    def review(self) -> Review:
        """The judgement of the open recipe, as far as its heavy results are there."""
        return self._now().review

    @property
    def ladder(self) -> Ladder:
        """The heat ladder of the open recipe."""
        found = self._now()
        if self._drawn is None or self._drawn[0] is not found:
            self._drawn = (found, ladder(self._recipe, found.context))
        return self._drawn[1]

    @property
    def experience(self) -> "dict[str, Tally]":
        """How often each finding was right in runs of the polymer, counted once for each state of the log."""
        runs, polymer = self.workspace.draft.records.runs, self._recipe.polymer or ""
        if self.begun and (runs is not self._tallied[0] or polymer != self._tallied[1]):
            from kaustos.app.runs import experience

            self._tallied, self._tallies = (runs, polymer), experience(self.workspace, polymer)
        return self._tallies

    @property
    def _recipe(self) -> Recipe:
        return self.workspace.draft.records.card.recipe if self.has_recipe else Recipe()

    def _now(self) -> Judged:
        if self._judged is None:
            self._judged = self._judge()
        return self._judged

    def _judge(self) -> Judged:
        """Judge the recipe; a fault of ours is told and logged, and never keeps an edit from being saved."""
        if not self.has_recipe:
            return self._before
        try:
            only = self._judged_now()
            context = self.workspace.context(at_first=not self.begun)
            found = self.workspace.judge.at_hand(self._recipe, context, only)
        except Exception as fault:
            logging.getLogger("kaustos").exception("a recipe cannot be judged")
            self.cannot_judge = f"This recipe cannot be judged: {type(fault).__name__}: {fault}. Edits are saved."
            self.messages.error(self.cannot_judge)
            return self._before
        self.cannot_judge = ""
        self._before = found
        return found

    def _judged_now(self) -> tuple[str, ...] | None:
        """Operations judged at this turn, None for all: what takes long waits for a moment of rest in a drag."""
        if not self.begun:
            return self.shown_first
        if not self._rest.isActive():
            return None
        return tuple(each.key for each in OPERATIONS if not each.is_slow or each.key == self.bench)

    def heavy(self, heavy: Heavy) -> tuple[Request, Any]:
        """A heavy result of now with its request; None where it is on its way, having been asked for."""
        request = request_for(heavy, self._recipe, self.context)
        found = self.workspace.judge.results.get(request.key, request.inputs)
        if found is None and self.begun:
            self.queue.ask(request)
            found = self.workspace.judge.results.get(request.key, request.inputs)  # where jobs run at once
        return request, found

    def _look_later(self) -> None:
        if self.pace.look_ms is not None:
            self._look.start()

    def look_round(self) -> None:
        """Bring up the grades of all recipes, away from the window."""
        self.queue.ask(self.standings.request())

    def back_up(self) -> None:
        """Keep the state of the day, away from the window, once a day."""
        self.queue.ask(self.workspace.backup_request())

    def _on_standings(self, answer: Any) -> None:
        if not self.standings.take(answer):
            if not self._look.isActive():  # while there is an edit after the other, the next piece waits for the quiet
                self.look_round()
            return
        news = self.standings.news()
        if news:
            self.messages.note(news_words(news, self.wording))
        elif not self._told_fallen and (fallen := self.standings.fallen()):
            self.messages.error(fallen_words(fallen))
        self._told_fallen = True
        self.announce()

    def _on_landed(self, request: Request, result: object) -> None:
        if request.key == STANDINGS:
            self._on_standings(result)
            return
        if request.key == BACKUP:
            self.saved.emit()
            return
        self.workspace.judge.results.put(request.key, request.inputs, result)
        self._judged = None
        self.announce()

    # ---- following

    def follow(self, follower: Follower) -> None:
        """Refresh a widget once a turn of the event loop after something changed, while it is shown."""
        self._followers.append(follower)
        self._behind.add(id(follower))

    def bring_up(self, follower: Follower) -> None:
        """A widget that is shown again catches up with what it missed."""
        if id(follower) in self._behind:
            self._behind.discard(id(follower))
            cover = self._covers.pop(id(follower), None)
            try:
                follower.refresh()
            except Exception as fault:
                logging.getLogger("kaustos").exception("a part of the window cannot be shown")
                words = f"{type(follower).__name__} cannot be shown: {type(fault).__name__}. Edits are saved."
                self.messages.error(words)
                self._covers[id(follower)] = cover or Cover(follower, words)  # type: ignore[arg-type]  # a widget
            else:
                if cover is not None:
                    cover.deleteLater()

    def announce(self) -> None:
        """Something changed: all that is shown follows in the next turn, all that is hidden when it is shown."""
        self._judged = None
        self._turn_is_due = True
        if not self._in_turn:
            self.pace.later(self, self._turn)

    def _turn(self) -> None:
        if self._in_turn:
            return
        self._in_turn = True
        try:
            while self._turn_is_due:
                self._turn_is_due = False
                self._followers = [each for each in self._followers if shiboken6.isValid(each)]
                self._behind = {id(each) for each in self._followers}
                if self.begun:
                    for request in self._now().wanted:
                        self.queue.ask(request)
                for each in tuple(self._followers):
                    if not self._turn_is_due and each.isVisible():
                        self.bring_up(each)
        finally:
            self._in_turn = False

    # ---- proposing

    def propose(self, path: Address, text: str, gesture: str = "") -> str:
        """Propose a typed text for a field; the fault in words, empty where it was taken."""
        self._begin_rest(gesture)
        return self._try(lambda: self.workspace.draft.propose(path, text, gesture))

    @property
    def is_dragging(self) -> bool:
        """Whether something is dragged, so that what takes long waits."""
        return self._rest.isActive()

    def judge_whole(self) -> None:
        """Judge now what a drag has put off: before anything is done that rests on the judgement."""
        if self._rest.isActive():
            self._rest.stop()
            self.announce()

    def _begin_rest(self, gesture: str) -> None:
        if gesture and self.pace.rest_ms:
            self._rest.start()
        else:
            self._rest.stop()

    def set(self, values: Mapping[Any, object], title: str = "", gesture: str = "") -> str:
        """Set values as one edit; the fault in words, empty where they were taken."""
        self._begin_rest(gesture)
        return self._try(lambda: self.workspace.draft.set(values, title, gesture))

    def apply(self, remedy: Remedy | Absent) -> None:
        """Carry out a remedy as one edit; an advice is read out instead."""
        self.judge_whole()
        if isinstance(remedy, Absent):
            self.messages.note("The shop's other machines, dryers and lots are still being tried.")
            return
        if isinstance(remedy, Advice):
            self.messages.note(f"{self.wording.remedy(remedy)}. {self.wording.remedy_text(remedy)}")
            if remedy.field:
                self.asked.emit(remedy.field)
            return
        values: dict[str, object] = dict(remedy.changes)
        if isinstance(remedy, Choose):
            values = {f"context.{remedy.what}": remedy.id, **values}
        self.tell(self.set(values, title=self.wording.remedy(remedy)))

    def tell(self, fault: str) -> None:
        """Show a fault that has no field of its own."""
        if fault:
            self.messages.error(fault)

    def run(self, act: Callable[[], object]) -> None:
        """Run a command; what the user can act on becomes a message."""
        self.judge_whole()
        self.tell(self._try(act))

    def _try(self, act: Callable[[], object]) -> str:
        try:
            act()
        except (KaustosError, OSError) as error:
            return str(error)
        return ""

    # ---- settings

    def use(self, **values: str) -> None:
        """Put other settings in force."""
        settings = attrs.evolve(self.workspace.settings, **values)
        self.workspace.use_settings(settings)
        self.announce()

    @property
    def settings(self) -> Settings:
        """The settings in force."""
        return self.workspace.settings

    # ---- keeping

    def save_draft(self) -> None:
        """Bring the file up to the draft; a fault stays shown until it succeeds."""
        fault = self._try(self.workspace.autosave)
        if fault and fault != self.fault:
            self.messages.error(fault)
        self.fault = fault
        if fault:
            self._autosave.start(AUTOSAVE_RETRY_MS)
        self.saved.emit()

    def close(self, *, discard: bool = False) -> str:
        """Save and let go of the file; why it could not be saved, empty where it was or is to be discarded."""
        fault = "" if discard else self._try(self.workspace.autosave)
        if fault:
            return fault
        self._is_closed = True
        self._autosave.stop()
        self._look.stop()
        self._rest.stop()
        self._backup.stop()
        self._follow.stop()
        self.taking_in.stop()
        self.queue.stop()
        self.workspace.close(discard=discard)
        return ""

    def _on_draft_changed(self) -> None:
        if self.workspace.unsaved and not self.workspace.draft.read_only:
            self._autosave.start(AUTOSAVE_MS)  # first of all: what is typed is kept whatever becomes of its judgement
        if self.begun:
            self._look_later()
            self._backup.start()
        self.announce()
        self.saved.emit()
