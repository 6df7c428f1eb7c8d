"""The agents of the shop: bottles, sticks and batches, each with its card."""

from PySide6.QtWidgets import QFrame, QVBoxLayout

from kaustos.app.clock import read_past
from kaustos.app.plates import agent_names, batch_words, new_agent, steps_of
from kaustos.app.wording import when_words
from kaustos.app.workspace import stamp
from kaustos.core.errors import KaustosError
from kaustos.core.records import BATCH_STATES, AgentBatch, Place
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.kept import KeptPage
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, small_table
from kaustos.ui.tables import Row

FIELDS = ("name", "lot", "mixed_ml", "left_ml", "solids_pct", "state", "price")


class Agents(KeptPage):
    """The list of agents, the chosen one, and the name of a new one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "agent", "agents", ("Agent", "Kind", "Mixed", "Left", "Looks"))
        self.kind = choice_of(agent_names(), "kind not known", "Kind of the new agent")
        self.volume = entry("volume, such as 250 ml", "Volume of the new agent", 150)
        self.lay_out(AgentForm(desk), 520, self.kind, self.volume)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        agents = self._desk.workspace.draft.records.tables["agents"]
        self.show_kept(agents, self._row, lambda _: self._desk.wording, retired=retired)

    def _row(self, batch: AgentBatch) -> Row:
        cells = (
            batch.name, agent_names().get(batch.agent or "", "not known"), when_words(batch.mixed_utc)[:10],
            self._desk.wording.field_value("agent.left_ml", batch.left_ml),
            BATCH_STATES.get(batch.state or "", "") + (", retired" if batch.retired else ""),
        )  # fmt: skip
        return Row(batch.id, cells, (None, None, None, batch.left_ml, None))

    def make_new(self) -> str:
        """Log a bottle or a batch."""
        text = self.volume.text().strip()
        volume = self._desk.wording.read(text, "volume") if text else None
        made = new_agent(self._desk.workspace, self.name.text(), self.kind.currentData() or None, volume)
        self.volume.clear()
        return made


class AgentForm(QFrame):
    """One bottle or batch: what it is, its card for a volume, and the steps by which it is put on."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.agent: str | None = None
        self.kind = choice_of(agent_names(), "kind not known", "Kind of agent")
        self.kind.activated.connect(self._on_kind)
        self.form = Form(desk, FIELDS, "agents")
        self.volume = entry("for a volume, such as 250 ml", "Volume of the batch", 180)
        self.volume.textEdited.connect(lambda _: self._show_card())
        self.mixed = entry("mixed or opened: 6 h ago", "When it was mixed or opened", 190)
        self.mixed.returnPressed.connect(self._on_mixed)
        for widget, field in ((self.kind, "agent"), (self.mixed, "mixed_utc")):
            answering(widget, field)
        self.card = Label(wordWrap=True)
        self.steps = small_table(("Step", "Minutes"), "Steps of putting it on")
        self.steps.setFixedHeight(28 + 6 * 23 + 4)
        self.steps.horizontalHeader().resizeSection(1, 80)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        column.addLayout(row_of("Kind", self.kind))
        column.addWidget(self.form)
        column.addWidget(heading("Batch card"))
        column.addLayout(row_of("For", self.volume, self.mixed, push("Note", self._on_mixed)))
        column.addWidget(self.card)
        column.addWidget(heading("How it is put on: run the steps on the page of the plate"))
        column.addWidget(self.steps)
        column.addStretch()

    def follow(self, key: str | None) -> None:
        """Show another agent."""
        self.setVisible(key is not None)
        self.agent = key
        if key is None:
            return
        batch = self._batch()
        self.form.follow(key)
        self.kind.setCurrentIndex(max(self.kind.findData(batch.agent or ""), 0))
        self.steps.show_rows([(do, f"{minutes:g}" if minutes else "") for do, minutes in steps_of(batch.agent or "")])
        self._show_card()

    def _batch(self) -> AgentBatch:
        found: AgentBatch = self._desk.workspace.draft.records.tables["agents"][self.agent or ""]
        return found

    def _show_card(self) -> None:
        text, wording = self.volume.text().strip(), self._desk.wording
        try:
            volume = wording.read(text, "volume") if text else None
            self.card.setText(batch_words(self._batch(), volume, self._desk.workspace.clock(), wording))
        except KaustosError as fault:
            self.card.setText(str(fault))

    def _on_mixed(self) -> None:
        """Note when it was mixed or opened."""
        if self.agent is None or not self.mixed.text().strip():
            return
        place = Place("agents", self.agent, "mixed_utc")

        def note() -> None:
            moment = stamp(read_past(self.mixed.text(), self._desk.workspace.clock()))
            self._desk.workspace.draft.set({place: moment}, title="Mixed or opened")
            self.mixed.clear()

        self._desk.run(note)

    def _on_kind(self) -> None:
        if self.agent is not None:
            place = Place("agents", self.agent, "agent")
            self._desk.tell(self._desk.set({place: self.kind.currentData() or None}, title="Kind of agent"))
