"""The machine's own panel: what it holds of the open recipe, what is typed back, and what another machine is set to."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLineEdit, QTableWidgetItem, QVBoxLayout

from kaustos.app.level import add_panel_field, align_trials, panel_rows, panel_words, translate_rows, typed_back
from kaustos.core.planning.panel import panel_of
from kaustos.core.records import PANEL_PATHS, ZONES, Machine, PanelField, Place
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label, Line
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, show_records


class PanelPage(MachinePage):
    """The fields on the left; what is typed, typed back and translated on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.fields = LogTable(desk, "Fields of the panel, the last first", ("Setting", "Called", "Range", "Step"),
                               self._cells, 6)  # fmt: skip
        self.setting = choice_of(PANEL_PATHS, "which setting", "Setting of the field")
        self.label, self.low = entry("called", "Called on the panel", 100), entry("from", "Range from", 60)
        self.high, self.step = entry("to", "Range to", 60), entry("step", "Step of the field", 60)
        for line in (self.label, self.low, self.high, self.step):
            line.returnPressed.connect(self._on_field)
        self.letters = Form(desk, ("panel_letters",), "machines", columns=1)
        self.rows = PlainTable(("Setting", "Recipe", "To type", "Typed back", ""))
        self.rows.setAccessibleName("What is typed at the panel")
        self.rows.verticalHeader().setDefaultSectionSize(30)
        self.rows.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.backs: dict[str, QLineEdit] = {}
        self.words, self.verdict = Label(wordWrap=True), Label(wordWrap=True)
        self.check = push("Check what was typed back", self._on_check)
        self.there = QComboBox()
        self.there.setAccessibleName("Carry the settings to")
        self.there.activated.connect(lambda: self._show_translated())
        self.translated = PlainTable(("Setting", "Set here", "Set there", "How sure"))
        self.translated.setAccessibleName("Settings on the other machine")
        self.translated.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.zone = QComboBox()
        self.zone.setAccessibleName("Zone of trials that came out alike")
        for zone in ZONES:
            self.zone.addItem(zone.capitalize(), zone)
        self.same_here, self.same_there = entry("here", "Set here", 64), entry("there", "Set there", 64)
        for line in (self.same_here, self.same_there):
            line.returnPressed.connect(self._on_alike)
        left, right = QVBoxLayout(), QVBoxLayout()
        right.setSpacing(3)
        left.addWidget(self.fields)
        left.addLayout(row_of(self.setting, self.label, self.low, self.high, self.step))
        left.addLayout(row_of(push("Add field", self._on_field)))
        left.addWidget(self.letters)
        left.addWidget(heading("The same came out here and on the machine chosen on the right"))
        left.addLayout(row_of(self.zone, self.same_here, self.same_there, push("Keep as offset", self._on_alike)))
        left.addStretch()
        right.addWidget(heading("The open recipe at this panel"))
        right.addWidget(self.rows, 5)
        right.addWidget(self.words)
        row_check = row_of(self.check, self.verdict)
        row_check.setStretch(1, 1)
        right.addLayout(row_check)
        right.addLayout(row_of("Carry the settings from here to", self.there))
        right.addWidget(self.translated, 3)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(left, 1)
        row.addLayout(right, 1)

    def show_machine(self, machine: Machine) -> None:
        """Show its panel."""
        workspace, wording = self.desk.workspace, self.desk.wording
        self.fields.follow(Place("machines", machine.id, "panel_fields"), machine.panel_fields)
        self.letters.follow(machine.id)
        rows = panel_rows(workspace, machine, wording)
        self.rows.show_rows([(*row[:3], "", row[3]) for row in rows])
        self._show_backs(machine)
        self.words.setText(panel_words(workspace, machine, wording))
        self.verdict.clear()
        others = {key: each for key, each in workspace.draft.records.machines.items()
                  if key != machine.id and not each.retired}  # fmt: skip
        show_records(self.there, "no other machine", others, str(self.there.currentData() or ""))
        self._show_translated()

    def _show_backs(self, machine: Machine) -> None:
        """A line to type into for each setting that the panel holds."""
        recipe = self.desk.workspace.draft.records.card.recipe if self.desk.has_recipe else None
        typed = panel_of(recipe, machine) if recipe is not None else ()
        kept = {path: line.text() for path, line in self.backs.items()}
        self.backs = {}
        for row, each in enumerate(typed):
            self.rows.setItem(row, 3, QTableWidgetItem())
            self.rows.removeCellWidget(row, 3)
            if each.typed is not None:
                line = Line(kept.get(each.path, ""))
                line.setAccessibleName(f"{each.title} typed back")
                line.returnPressed.connect(self._on_check)
                self.rows.setCellWidget(row, 3, line)
                self.backs[each.path] = line

    def _show_translated(self) -> None:
        if self.key is not None:
            there = str(self.there.currentData() or "")
            self.translated.show_rows(translate_rows(self.desk.workspace, self.machine, there, self.desk.wording))

    def _cells(self, each: PanelField) -> tuple[str, ...]:
        wording = self.desk.wording
        ends = ["" if at is None else wording.number(at, "temperature") for at in (each.low, each.high)]
        step = "any" if each.step is None else wording.value(each.step, "temperature_difference")
        return PANEL_PATHS.get(each.path or "", ""), each.label, " to ".join(ends), step

    def _on_field(self) -> None:
        def add() -> None:
            add_panel_field(
                self.desk.workspace, self.key or "", self.setting.currentData() or None, self.label.text(),
                self.number(self.low, "temperature"), self.number(self.high, "temperature"),
                self.number(self.step, "temperature_difference"),
            )  # fmt: skip
            cleared(self.label, self.low, self.high, self.step)

        self.desk.run(add)

    def _on_check(self) -> None:
        def check() -> None:
            wording = self.desk.wording
            values = {path: wording.read(line.text(), "temperature")
                      for path, line in self.backs.items() if line.text().strip()}  # fmt: skip
            faults = typed_back(self.desk.workspace, self.machine, values)
            self.verdict.setText("NOT THE SAME: " + "; ".join(faults) if faults else "The same as it should be.")

        self.desk.run(check)

    def _on_alike(self) -> None:
        def keep() -> None:
            wording = self.desk.wording
            here, there = (wording.read(each.text(), "temperature") for each in (self.same_here, self.same_there))
            words = align_trials(self.desk.workspace, self.key or "", str(self.there.currentData() or ""),
                                 str(self.zone.currentData()), here, there)  # fmt: skip
            cleared(self.same_here, self.same_there)
            self.tell(words)

        self.desk.run(keep)
