"""The head: which recipe, revision, part, polymer and machine; the command field; save, sheet, menu."""

from collections.abc import Mapping

from PySide6.QtCore import QSignalBlocker, QStringListModel, Qt
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import (
    QComboBox,
    QCompleter,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QToolButton,
    QWidget,
)

from kaustos.app.indexes import changed_keys, named
from kaustos.app.records import Records
from kaustos.core.records import RecipeCard
from kaustos.core.review import is_same
from kaustos.ui.commands import COMMANDS, Command, Shell
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.leading import ANSWERS, answering
from kaustos.ui.look.text import Label, Line, as_text
from kaustos.ui.rooms.names import ROOMS

FIELD = "Find (Ctrl+K)"


class Head(Following, QWidget):
    """One row over everything."""

    def __init__(self, desk: Desk, shell: Shell) -> None:
        super().__init__()
        self.setObjectName("head")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._desk, self._shell = desk, shell
        self._shown: tuple[object, object, object] = (None, None, None)  # what the words of now were made from
        self._cards: Mapping[str, RecipeCard] = {}
        self._current: str | None = None
        self._offered: tuple[object, ...] = (None,) * 5
        self.room = QToolButton()
        self.room.setAccessibleName("Room")
        self.room.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.room.setMenu(QMenu(self.room))
        self.room.menu().aboutToShow.connect(self._fill_rooms)
        self.recipe = QComboBox()
        self.recipe.setAccessibleName("Recipe")
        self.recipe.setMinimumWidth(170)
        self.recipe.activated.connect(self._on_recipe)
        self.revision = Label()
        self.revision.setProperty("role", "muted")
        self.machine, self.lot = QComboBox(), QComboBox()
        for box, name in ((self.machine, "machine"), (self.lot, "lot")):
            box.setAccessibleName(name.capitalize())
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)  # lots come and go
            box.activated.connect(lambda _=0, box=box, name=name: self._on_chosen(name, box))
            answering(box, name, f"context.{name}")
        self.command = CommandField(desk, shell)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 6, 10, 6)
        row.setSpacing(8)
        for widget in (self.room, self.recipe, self.revision):
            row.addWidget(widget)
        row.addStretch()
        for words, box in (("on", self.machine), ("from lot", self.lot)):
            label = Label(words)
            label.setProperty("role", "muted")
            row.addWidget(label)
            row.addWidget(box)
        row.addStretch()
        row.addWidget(self.command)
        self.acts = [self._button(name) for name in ("revision.save", "run.start", "sheet.make")]
        for button in self.acts:
            row.addWidget(button)
        row.addWidget(self._menu())
        self.follow_desk(desk)

    def _button(self, name: str) -> QPushButton:
        command = next(each for each in COMMANDS if each.id == name)
        button = QPushButton(command.short or command.title)
        button.setProperty("words", f"{command.title} ({command.keys}). {command.help}")
        button.setToolTip(str(button.property("words")))
        button.clicked.connect(lambda: self._shell.perform(command))
        return button

    def _menu(self) -> QToolButton:
        button = QToolButton()
        button.setText("Menu")
        button.setAccessibleName("All commands")
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu = QMenu(button)
        self.menu.aboutToShow.connect(self.fill_menu)
        button.setMenu(self.menu)
        return button

    def show_field(self, path: str) -> bool:
        """Lead to machine or lot; False where another field is meant."""
        box = next((each for each in (self.machine, self.lot) if path in each.property(ANSWERS)), None)
        if box is not None:
            box.setFocus()
        return box is not None

    def fill_menu(self) -> None:
        """Put every command into the menu."""
        self.menu.clear()
        for action in self._shell.actions_in_order():
            if action is None:
                self.menu.addSeparator()
            else:
                self.menu.addAction(action)

    def refresh(self) -> None:
        """Follow the desk."""
        records = self._desk.workspace.draft.records
        self._show_room()
        begun = self._desk.begun  # revisions are read behind the first picture: the database toolkit is heavy to load
        state = (records, self._desk.workspace.revisions() if begun and records.current else (), begun)
        if all(one is other for one, other in zip(state, self._shown, strict=True)):
            return
        self._shown = state
        for button in self.acts:
            button.setEnabled(self._desk.has_recipe)
            words = str(button.property("words"))
            button.setToolTip(words if self._desk.has_recipe else f"There is no recipe yet (First steps). {words}")
        self._list_recipes(records)
        if not self._desk.has_recipe:
            return
        card = records.card
        self._list_chosen(records, card)
        if begun:
            self._say_maturity(card)

    def _list_recipes(self, records: Records) -> None:
        """Every recipe in use by name; made anew where one came, went, or is called otherwise."""
        if not self._desk.begun and records.current:
            _fill(self.recipe, named([(records.current, records.card)]), records.current)
            return  # the other recipes are read behind the first picture
        before, self._cards = self._cards, records.cards
        differing = changed_keys(before, records.cards)
        if differing is None or self._current != records.current or any(
            _called(before[key]) != _called(records.cards[key]) for key in differing
        ):  # fmt: skip
            self._current = records.current
            kept = ((key, card) for key, card in records.cards.items() if not card.retired or key == records.current)
            _fill(self.recipe, named(kept), records.current)

    def _list_chosen(self, records: Records, card: RecipeCard) -> None:
        """The machines and fitting lots in use; made anew where a table or the choice is another one."""
        state = (records.machines, records.lots, card.machine, card.lot, card.recipe.polymer)
        if is_same(state[2:], self._offered[2:]) and state[0] is self._offered[0] and state[1] is self._offered[1]:
            return
        self._offered = state
        if not self._desk.begun:  # the other lots are read behind the first picture
            self._offered = (None, None, *state[2:])
            lot = records.lots.get(card.lot or "")
            _fill(self.lot, [("no lot", None), *([(lot.name, lot.id)] if lot else [])], card.lot)
            machine = records.machines.get(card.machine or "")
            _fill(
                self.machine, [("no machine", None), *([(machine.name, machine.id)] if machine else [])], card.machine
            )
            return
        machines = [each for each in records.machines.values() if not each.retired or each.id == card.machine]
        _fill(self.machine, [("no machine", None), *((each.name, each.id) for each in machines)], card.machine)
        fitting = (each for each in records.lots.values() if each.polymer == card.recipe.polymer)
        lots = [(each.name, each.id) for each in fitting if not each.retired or each.id == card.lot]
        _fill(self.lot, [("no lot", None), *lots], card.lot)

    def _say_maturity(self, card: RecipeCard) -> None:
        from kaustos.app.runs import maturity_words

        maturity = self._desk.workspace.maturity()
        self.revision.setText(f"{self._shell.revision_words()}\n{maturity.word}")
        self.revision.setToolTip(as_text(f"{card.recipe.part or 'Part not recorded'}\n{maturity_words(maturity)}"))

    def _show_room(self) -> None:
        title = next((room.title for room in ROOMS if room.key == self._shell.room), "Recipe")
        self.room.setText(f"{title} ▾")

    def _fill_rooms(self) -> None:
        menu = self.room.menu()
        menu.clear()
        for room in ROOMS:
            menu.addAction(self._shell.actions_by_id[f"room.{room.key}"])

    def _on_recipe(self) -> None:
        key = self.recipe.currentData()
        self._shell.show_thing("recipe", key)

    def _on_chosen(self, name: str, box: QComboBox) -> None:
        self._desk.tell(
            self._desk.set({f"context.{name}": box.currentData()}, title=f"{name.capitalize()}: {box.currentText()}")
        )


def _called(card: RecipeCard) -> tuple[str, bool]:
    return card.recipe.name, card.retired


def _fill(box: QComboBox, items: list, chosen: str | None) -> None:  # type: ignore[type-arg]
    with QSignalBlocker(box):
        present = [(box.itemText(index), box.itemData(index)) for index in range(box.count())]
        if present != items:
            box.clear()
            for words, key in items:
                box.addItem(words, key)
        keys = [key for _, key in items]
        box.setCurrentIndex(keys.index(chosen) if chosen in keys else 0 if None in keys else -1)


class CommandField(Line):
    """Finds any command, recipe, machine, run or polymer by typing a part of its name."""

    def __init__(self, desk: Desk, shell: Shell) -> None:
        super().__init__()
        self._desk, self._shell = desk, shell
        self.setPlaceholderText(FIELD)
        self.setAccessibleName("Command field")
        self.setFixedWidth(150)
        self.completer_ = QCompleter()
        self.completer_.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.completer_.setFilterMode(Qt.MatchFlag.MatchContains)
        self.setCompleter(self.completer_)
        self.completer_.activated.connect(self._perform)
        self.returnPressed.connect(lambda: self._perform(self.text()))
        self._choices: dict[str, Command | tuple[str, str]] = {}

    @guarded()
    def focusInEvent(self, event: QFocusEvent) -> None:
        self.refresh()
        super().focusInEvent(event)

    def refresh(self) -> None:
        """Know the commands, recipes, machines, runs and polymers of now."""
        from kaustos.app.runs import number_of

        records = self._desk.workspace.draft.records
        found: dict[str, Command | tuple[str, str]] = {command.title: command for command in COMMANDS}
        for key, card in records.cards.items():
            found[f"Open {card.recipe.name or key}"] = ("recipe", key)
        for key, machine in records.machines.items():
            found[f"Machine {machine.name or key}"] = ("machines", key)
        for key, lot in records.lots.items():
            found[f"Lot {lot.name or key}"] = ("stock", key)
        for key, run in records.runs.items():
            of = records.cards.get(run.card)
            found[f"Run {number_of(key)}: {of.recipe.name if of else run.card}"] = ("runs", key)
        for key, polymer in records.polymers.items():
            found[f"Polymer {polymer.name}"] = ("atlas", key)
        self._choices = found
        self.completer_.setModel(QStringListModel([*found], self.completer_))

    def _perform(self, words: str) -> None:
        matches = [name for name in self._choices if words.lower() in name.lower()]
        exact = [name for name in matches if name.lower() == words.lower()]
        if not words:
            return
        if not matches:
            self._desk.messages.note(f"Nothing is called “{words:.40}”.")
            return
        chosen = self._choices[(exact or matches)[0]]
        self.clear()
        if isinstance(chosen, Command):
            self._shell.perform(chosen)
        else:
            self._shell.show_thing(*chosen)
