"""What the window's widgets share: the open workspace, the review of now, and word of every change."""

import logging
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

import attrs
from PySide6.QtCore import QObject, QTimer, Signal

from kaustos.app.messages import Messages
from kaustos.app.records import Address
from kaustos.app.results import Request, Results
from kaustos.app.settings import Settings
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import Recipe
from kaustos.core.review import NOT_JUDGED, Advice, Choose, Context, Ladder, Remedy, Review, ladder, review
from kaustos.core.review.brief import RANKING, rank
from kaustos.core.review.stock import LATER
from kaustos.ui.jobs import Job, Runner, run_on_pool

if TYPE_CHECKING:
    from kaustos.core.review.experience import Tally

FOLLOW_MS = 1_000
AUTOSAVE_MS = 800
AUTOSAVE_RETRY_MS = 10_000


class Desk(QObject):
    """The open workspace with its judgement; every widget reads from here and proposes through here."""

    changed = Signal()  # records, review or settings changed
    led = Signal(str)  # the eye is led to a field
    saved = Signal()  # the file caught up, or fell behind

    def __init__(self, workspace: Workspace, run: Runner = run_on_pool) -> None:
        super().__init__()
        self.workspace, self._run = workspace, run
        self.messages = Messages()
        self.results = Results()
        self.fault = ""  # why the file could not be written
        self.cannot_judge = ""  # what went wrong in judging
        self.context: Context
        self.review: Review
        self.ladder: Ladder
        self._autosave = QTimer(self, singleShot=True, interval=AUTOSAVE_MS)
        self._autosave.timeout.connect(self.save_draft)
        self._follow = QTimer(self, interval=FOLLOW_MS)  # a window that only reads is live
        self._follow.timeout.connect(lambda: self.run(self.workspace.follow))
        self.begun, self._ticket = False, 0
        self._ranked_for: object = None  # what the ranking at hand was made from
        self._ranking: object = None
        self._tallied: object = None  # the runs that were counted
        self.experience: dict[str, Tally] = {}
        workspace.draft.listen(self._on_draft_changed)
        if self.has_recipe:
            self._judge()

    def begin(self) -> None:
        """After the first picture: compute what the judgement can wait for, and follow the writer of the file."""
        self.begun = True
        if self.workspace.draft.read_only:
            self._follow.start()
        if self.has_recipe:
            self._judge()
            self.changed.emit()

    @property
    def has_recipe(self) -> bool:
        """Whether a recipe is open."""
        return self.workspace.draft.records.current is not None

    @property
    def wording(self) -> Wording:
        """Words under the user's settings."""
        return self.workspace.draft.wording

    # ---- proposing

    def propose(self, path: Address, text: str, gesture: str = "") -> str:
        """Propose a typed text for a field; the fault in words, empty where it was taken."""
        return self._try(lambda: self.workspace.draft.propose(path, text, gesture))

    def set(self, values: Mapping[Any, object], title: str = "", gesture: str = "") -> str:
        """Set values as one edit; the fault in words, empty where they were taken."""
        return self._try(lambda: self.workspace.draft.set(values, title, gesture))

    def apply(self, remedy: Remedy) -> None:
        """Carry out a remedy as one edit; an advice is read out instead."""
        if isinstance(remedy, Advice):
            self.messages.note(f"{self.wording.remedy(remedy)}. {self.wording.remedy_text(remedy)}")
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
        self.changed.emit()

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
        self._autosave.stop()
        self._follow.stop()
        self.workspace.close(discard=discard)
        return ""

    def _on_draft_changed(self) -> None:
        if self.workspace.unsaved and not self.workspace.draft.read_only:
            self._autosave.start(AUTOSAVE_MS)  # first of all: what is typed is kept whatever becomes of its judgement
        if self.has_recipe:
            self._judge()
        self.changed.emit()
        self.saved.emit()

    def _judge(self) -> None:
        """Judge the recipe; a fault of ours is told and logged, and never keeps an edit from being saved."""
        try:
            self._judge_now()
        except Exception as fault:
            logging.getLogger("kaustos").exception("a recipe cannot be judged")
            self.cannot_judge = f"This recipe cannot be judged: {type(fault).__name__}: {fault}. Edits are saved."
            self.messages.error(self.cannot_judge)
            if not hasattr(self, "review"):
                self.context, self.review, self.ladder = Context(), NOT_JUDGED, ladder(Recipe(), Context())
            return
        self.cannot_judge = ""

    def _judge_now(self) -> None:
        records = self.workspace.draft.records
        if self.begun and records.runs is not self._tallied:
            from kaustos.app.runs import experience

            self._tallied, self.experience = records.runs, experience(self.workspace)
        recipe = records.card.recipe
        context = self.workspace.context()
        inputs = (recipe.brief, context.shop.machines, context.rules)
        if not self.begun:
            context = attrs.evolve(context, results={LATER: True})
        elif inputs == self._ranked_for and self._ranking is not None:
            context = attrs.evolve(context, results={RANKING: self._ranking})
        elif inputs != self._ranked_for:
            self._rank(inputs, context)
        self.context = context
        self.review = review(recipe, context)
        self.ladder = ladder(recipe, context)

    # ---- what the judgement can wait for

    def _rank(self, inputs: tuple, context: Context) -> None:  # type: ignore[type-arg]
        """Rank the polymers for the brief of now; an answer to an older brief is dropped."""
        self._ranked_for, self._ranking = inputs, None
        brief, machines, rules = inputs
        polymers = context.shop.polymers
        self._ticket = self._ticket + 1
        job = Job(Request(str(self._ticket), lambda: rank(brief, polymers.values(), machines, rules)), self)
        job.finished.connect(self._on_ranked)
        job.failed.connect(self._on_rank_failed)
        QTimer.singleShot(0, job, lambda: self._run(job))

    def _on_rank_failed(self, _: str, fault: str) -> None:
        self.messages.error(fault)

    def _on_ranked(self, ticket: str, ranking: object) -> None:
        sender = self.sender()
        if isinstance(sender, Job):
            sender.deleteLater()
        if ticket == str(self._ticket):
            self._ranking = ranking
            self._judge()
            self.changed.emit()
