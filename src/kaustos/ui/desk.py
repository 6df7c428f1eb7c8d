"""What the window's widgets share: the open workspace, the review of now, and word of every change."""

from collections.abc import Callable, Mapping

import attrs
from PySide6.QtCore import QObject, QTimer, Signal

from kaustos.app.messages import Messages
from kaustos.app.results import Results
from kaustos.app.settings import Settings
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.review import Advice, Choose, Context, Ladder, Remedy, Review, ladder, review

AUTOSAVE_MS = 800
AUTOSAVE_RETRY_MS = 10_000


class Desk(QObject):
    """The open workspace with its judgement; every widget reads from here and proposes through here."""

    changed = Signal()  # records, review or settings changed
    led = Signal(str)  # the eye is led to a field
    saved = Signal()  # the file caught up, or fell behind

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.messages = Messages()
        self.results = Results()
        self.fault = ""  # why the file could not be written
        self.context: Context
        self.review: Review
        self.ladder: Ladder
        self._autosave = QTimer(self, singleShot=True, interval=AUTOSAVE_MS)
        self._autosave.timeout.connect(self.save_draft)
        workspace.draft.listen(self._on_draft_changed)
        if self.has_recipe:
            self._judge()

    @property
    def has_recipe(self) -> bool:
        """Whether a recipe is open."""
        return self.workspace.draft.records.current is not None

    @property
    def wording(self) -> Wording:
        """Words under the user's settings."""
        return self.workspace.draft.wording

    # ---- proposing

    def propose(self, path: str, text: str, gesture: str = "") -> str:
        """Propose a typed text for a field; the fault in words, empty where it was taken."""
        return self._try(lambda: self.workspace.draft.propose(path, text, gesture))

    def set(self, values: Mapping[str, object], title: str = "", gesture: str = "") -> str:
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

    def close(self) -> None:
        """Save and let go of the file."""
        self._autosave.stop()
        self.workspace.close()

    def _on_draft_changed(self) -> None:
        self._judge()
        if self.workspace.unsaved and not self.workspace.draft.read_only:
            self._autosave.start(AUTOSAVE_MS)
        self.changed.emit()
        self.saved.emit()

    def _judge(self) -> None:
        recipe = self.workspace.draft.records.card.recipe
        self.context = self.workspace.context()
        self.review = review(recipe, self.context)
        self.ladder = ladder(recipe, self.context)
