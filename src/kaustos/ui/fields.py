"""Widgets that show one field of the draft and propose another value for it; nothing else."""

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from kaustos.app.field_kinds import choices_of, quantity_of
from kaustos.app.records import Address, path_of
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.records import declared
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, Line

NOT_RECORDED = "not recorded"


class _Edit(Line):
    """A line that gives its text back on Esc."""

    def __init__(self, owner: "FieldBox") -> None:
        super().__init__()
        self._owner = owner

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.isModified():
            self._owner.show_value()
            return
        super().keyPressEvent(event)

    @guarded()
    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if event.reason() in (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason):
            self.selectAll()


class FieldBox(Following, QWidget):
    """A number or a text of the draft, typed in any unit; a text that is no value stays, marked."""

    def __init__(self, desk: Desk, path: Address, width: int = 92) -> None:
        super().__init__()
        self._desk, self.path = desk, path
        self._showing: tuple[Address, str, Wording] | None = None
        self.edit = _Edit(self)
        self.edit.setProperty("fault", "false")
        self.edit.setPlaceholderText(NOT_RECORDED)
        if width:
            self.edit.setFixedWidth(width)
        self.edit.editingFinished.connect(self._on_edited)
        self.unit = Label()
        self.unit.setProperty("role", "muted")
        self.fault: Label | None = None  # made when there is something to say
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(5)
        row.addWidget(self.edit)
        row.addWidget(self.unit)
        if width:
            row.addStretch()
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(1)
        self._column.addLayout(row)
        self.follow_desk(desk, at_once=True)
        desk.led.connect(self._on_led)

    def follow(self, path: Address) -> None:
        """Show another field from now on."""
        self.path = path
        self.show_value()

    def show_value(self) -> None:
        """Show what the draft holds."""
        text, wording = _value_of(self._desk, self.path), self._desk.wording
        state = (self.path, text, wording)
        if state == self._showing and not self.edit.isModified() and self.edit.text() == text:
            return
        self._mark("")
        with QSignalBlocker(self.edit):
            self.edit.setText(text)
            self.edit.setCursorPosition(len(text) if self.edit.hasFocus() else 0)  # words are read from their beginning
            self.edit.setModified(False)
        if self._showing is None or self._showing[0] != self.path or self._showing[2] != wording:
            quantity = quantity_of(path_of(self.path))
            self.unit.setText(wording.unit(quantity) if quantity else "")
            self.unit.setVisible(bool(quantity))
            self.edit.setAccessibleName(wording.field(path_of(self.path)))
            self.edit.setWhatsThis(_explanation(self._desk, self.path))
        self._showing = state

    def refresh(self) -> None:
        """Follow the draft, unless somebody is typing."""
        if self.edit.property("fault") != "true" or not self.edit.hasFocus():
            if self.edit.hasFocus() and self.edit.isModified():
                return
            self.show_value()

    def _on_edited(self) -> None:
        if not self.edit.isModified():
            return
        fault = self._desk.propose(self.path, self.edit.text())
        if fault:
            self._mark(fault)
        else:
            self.show_value()

    def _mark(self, fault: str) -> None:
        marked = "true" if fault else "false"
        if self.edit.property("fault") != marked:
            self.edit.setProperty("fault", marked)
            self.edit.style().polish(self.edit)
        if fault and self.fault is None:
            self.fault = Label(wordWrap=True)
            self.fault.setProperty("role", "fault")
            self._column.addWidget(self.fault)
        if self.fault is not None:
            self.fault.setText(fault)
            self.fault.setVisible(bool(fault))

    def _on_led(self, path: str) -> None:
        if path == self.path and self.isVisible():
            self.edit.selectAll()


class ChoiceBox(Following, QComboBox):
    """One word out of a few, or not recorded."""

    def __init__(self, desk: Desk, path: Address, choices: dict[str, str] | None = None) -> None:
        super().__init__()
        self._desk, self.path = desk, path
        self._showing: tuple[Address, Wording] | None = None
        found = declared(path_of(path))
        self._is_flag = found is not None and "flag" in found.metadata
        words = {"yes": "Yes", "no": "No"} if self._is_flag else choices
        if words is None:
            words = dict(choices_of(path_of(path)))
        self.addItem(NOT_RECORDED, "")
        for key, title in words.items():
            self.addItem(title, key)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.activated.connect(self._on_chosen)
        self.follow_desk(desk, at_once=True)

    def follow(self, path: Address) -> None:
        """Show another field from now on."""
        self.path = path
        self.show_value()

    def show_value(self) -> None:
        """Show what the draft holds."""
        place = max(self.findData(_value_of(self._desk, self.path)), 0)
        if place != self.currentIndex():
            with QSignalBlocker(self):
                self.setCurrentIndex(place)
        state = (self.path, self._desk.wording)
        if state != self._showing:
            self.setAccessibleName(self._desk.wording.field(path_of(self.path)))
            self.setWhatsThis(_explanation(self._desk, self.path))
            self._showing = state

    def refresh(self) -> None:
        """Follow the draft."""
        self.show_value()

    def _on_chosen(self) -> None:
        data = self.currentData()
        fault = self._desk.propose(self.path, data) if self._is_flag else self._desk.set({self.path: data or None})
        self._desk.tell(fault)
        if fault:
            self.show_value()

    @guarded()
    def wheelEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        event.ignore()  # a wheel over a form scrolls the form, it changes no value


def _value_of(desk: Desk, path: Address) -> str:
    try:
        return desk.workspace.draft.text(path)
    except KaustosError:
        return ""  # no recipe is open, or no machine or lot is chosen: its fields are empty


def _explanation(desk: Desk, address: Address) -> str:
    path = path_of(address)
    found, quantity = declared(path), quantity_of(path)
    title = desk.wording.field(path)
    help_line = str(found.metadata.get("help", "")) if found else ""
    examples = {
        "temperature": "85 C, 302 F or 358 K",
        "temperature_difference": "20 K or 36 F",
        "duration": "2 h 30, 2:30 or 150 min",
        "mass": "210 g, 0.21 kg or 7.4 oz",
        "stress": "0.45 MPa or 65 psi",
    }.get(quantity or "", "")
    typed = f" Typed as {examples}; a bare number is in {desk.wording.unit(quantity)}." if examples and quantity else ""
    return f"{title[:1].upper()}{title[1:]}. {help_line}{'.' if help_line else ''}{typed} Empty means not recorded."
