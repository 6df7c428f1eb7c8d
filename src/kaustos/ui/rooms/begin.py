"""First steps: machine, dryer, spool, recipe, each made here, ticked when it is there, with what it unlocks."""

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from kaustos.app.beginning import begin_recipe, first_steps
from kaustos.app.own_polymers import new_polymer
from kaustos.app.recipes import new_machine
from kaustos.app.stock import PolymerAsked, check_lot, new_dryer, new_lot
from kaustos.library import load
from kaustos.ui.commands import Shell
from kaustos.ui.faults import guarded
from kaustos.ui.look import StandingMark
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.parts import entry, push
from kaustos.ui.rooms.room import Room


class StepFrame(QFrame):
    """One step: its tick, what it unlocks, the entries that make it; Enter goes on, and makes it at the last one."""

    def __init__(self, key: str, lines: list[QWidget], make: Callable[[], object]) -> None:
        super().__init__()
        self.key, self.lines = key, lines
        self.mark, self.title, self.unlocks = StandingMark(), Label(), Label(wordWrap=True)
        self.title.setProperty("role", "heading")
        self.unlocks.setProperty("role", "muted")
        self.make = push("Make", make)
        top, row = QHBoxLayout(), QHBoxLayout()
        top.addWidget(self.mark)
        top.addWidget(self.title)
        top.addWidget(self.unlocks, 1)
        for line in (*lines, self.make):
            row.addWidget(line)
        row.addStretch()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 8)
        column.addLayout(top)
        column.addLayout(row)
        typed = [each for each in lines if isinstance(each, QLineEdit)]
        for line, following in zip(typed, [*typed[1:], None], strict=True):
            line.returnPressed.connect(following.setFocus if following is not None else make)

    def begin(self) -> None:
        """Go to its first entry."""
        self.lines[0].setFocus()


class Which(QComboBox):
    """Choices that the arrow keys go through, and Enter takes."""

    taken = Signal()

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit()
            return
        super().keyPressEvent(event)


class BeginRoom(Room):
    """The four steps, and the way to the example firm."""

    def __init__(self, shell: Shell) -> None:
        super().__init__(shell.desk, "First steps", "Four steps to a judged recipe; each can be done later too.", "")
        self.empty.hide()
        self._shell = shell
        self.example = self.button("Open the example firm", shell.files.open_example, "A made-up firm to look round in")
        self.example.setVisible(shell.files.has_example)
        self.machine, self.like = entry("Name of the machine", "Name of the machine", 220), QComboBox()
        self.like.setAccessibleName("Like which machine")
        for key, each in load().machines.items():
            self.like.addItem(f"like: {each.name}", key)
        self.like.addItem("like none: limits are typed", "")
        self.dryer = entry("Name of the dryer", "Name of the dryer", 220)
        self.hottest = entry("hottest, such as 85 °C", "How hot the dryer gets", 150)
        self.lot = entry("Lot number", "Lot number of the spool", 140)
        self.grade = entry("Grade, such as PA6-CF", "Grade on the label", 220)
        self.colour = entry("Colour", "Colour of the spool", 110)
        self.which = Which()
        self.which.setAccessibleName("Which polymer the grade is, or is made from")
        self.which.hide()
        self.grade.textEdited.connect(lambda _: self.which.hide())
        self.recipe = entry("Name of the recipe", "Name of the new recipe", 320)
        makers: dict[str, tuple[list[QWidget], Callable[[], object]]] = {
            "machine": ([self.machine, self.like], self._machine), "dryer": ([self.dryer, self.hottest], self._dryer),
            "lot": ([self.lot, self.grade, self.colour, self.which], self._lot),
            "recipe": ([self.recipe], self._recipe),
        }  # fmt: skip
        self.steps = {key: StepFrame(key, lines, self._made(key, make)) for key, (lines, make) in makers.items()}
        self.which.taken.connect(self.steps["lot"].make.click)
        for frame in self.steps.values():
            self.column.addWidget(frame)
        self.column.addStretch()
        self.refresh()

    def refresh(self) -> None:
        """Follow the desk."""
        for number, step in enumerate(first_steps(self.desk.workspace), start=1):
            frame = self.steps[step.key]
            frame.mark.show_standing("clear" if step.done else "open")
            frame.title.setText(f"{number} {step.title}" + (f": {step.done}" if step.done else ""))
            frame.unlocks.setText(step.unlocks)

    def begin(self) -> None:
        """Go to the first step that is not done."""
        waiting = [step.key for step in first_steps(self.desk.workspace) if not step.done]
        self.steps[waiting[0] if waiting else "recipe"].begin()

    def _made(self, key: str, make: Callable[[], object]) -> Callable[[], object]:
        """Make what a step asks for, and go on to the next one that is not done."""

        def act() -> None:
            def go() -> None:
                make()
                for line in self.steps[key].lines:
                    if isinstance(line, QLineEdit):
                        line.clear()
                if key != "recipe":
                    self.begin()

            self.desk.run(go)

        return act

    def _machine(self) -> None:
        new_machine(self.desk.workspace, self.machine.text(), self.like.currentData() or None)

    def _dryer(self) -> None:
        text = self.hottest.text().strip()
        new_dryer(self.desk.workspace, self.dryer.text(), self.desk.wording.read(text, "temperature") if text else None)

    def _lot(self) -> None:
        workspace, grade = self.desk.workspace, self.grade.text()
        polymer, based_on, filler = self._said if self.which.isVisible() else (None, None, None)
        check_lot(workspace, self.lot.text(), grade)
        if based_on is not None:
            polymer = new_polymer(workspace, grade, based_on, filler=filler)
        try:
            new_lot(workspace, self.lot.text(), grade, self.colour.text(), polymer)
        except PolymerAsked as asked:
            self._ask_which(asked)
            raise
        self.which.hide()
        if polymer is not None:
            name = workspace.draft.records.polymers[polymer].name
            self.desk.messages.note(f"{grade.strip()} is kept as {name}; its label's values go with the lot.")

    @property
    def _said(self) -> tuple[str | None, str | None, str | None]:
        found = self.which.currentData() or (None, None, None)
        return found[0], found[1], found[2]

    def _ask_which(self, asked: PolymerAsked) -> None:
        """Let somebody say in place which polymer a grade is, those first that its name may mean."""
        library = load().polymers
        keys = dict.fromkeys((*asked.spelled.polymers, *sorted(library, key=lambda key: library[key].name)))
        self.which.clear()
        self.which.addItem("choose the polymer", None)
        for key in keys:
            is_likely = key in asked.spelled.polymers
            if is_likely and not asked.spelled.unsure:
                self.which.addItem(f"it is {library[key].name}", (key, None, None))
            else:
                self.which.addItem(f"a grade of ours, from {library[key].name}", (None, key, asked.filler))
        self.which.show()
        self.which.setFocus()

    def _recipe(self) -> None:
        begin_recipe_and_land(self._shell, self.recipe.text(), None, None)


def begin_recipe_and_land(shell: Shell, name: str, polymer: str | None, machine: str | None) -> None:
    """Make a recipe with setpoints to start from, and land on bench 10."""
    _, proposed = begin_recipe(shell.desk.workspace, name, polymer, machine)
    shell.show_bench("brief")
    if proposed:
        shell.desk.messages.note(
            "Setpoints to start from are entered: the middle of each window, as far as machine and dryer reach. Ctrl+Z "
            "takes them back, Ctrl+B shows where each is from."
        )
