"""Bench 110: the anneal by typing or dragging, what it makes of size, and the work that is left by hand."""

import itertools

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QHeaderView, QPushButton, QScrollArea, QVBoxLayout, QWidget

from kaustos.app.annealing import (
    MOST_STEPS,
    QUARTER_H,
    SIZE_HEADINGS,
    STEP_FIELDS,
    WORK_HEADINGS,
    dragged,
    drop_last,
    plan,
    size_rows,
    waits_words,
    work_rows,
)
from kaustos.app.pictures import Box
from kaustos.app.pictures.anneal import NEAR, AnnealScale
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.fields import FieldBox
from kaustos.ui.following import Following
from kaustos.ui.forms import NUMBER_WIDTH, Form
from kaustos.ui.look import palette
from kaustos.ui.look.text import Label

FIELDS = (
    "anneal.where", "context.oven", "anneal.packed", "anneal.pack_mm", "anneal.wall_mm", "anneal.cool_k_h",
    "anneal.out_c", "brief.history",
)  # fmt: skip
OF_WORK = (
    "brief.glued", "brief.inserts", "brief.painted", "brief.sanded",
    "anneal.joint_mpa", "anneal.joint_wanted_mpa", "anneal.cure_h", "anneal.patch",
)  # fmt: skip
_gestures = itertools.count(1)
_KEYS = {
    Qt.Key.Key_Up: (0.0, 1.0), Qt.Key.Key_Down: (0.0, -1.0), Qt.Key.Key_Right: (QUARTER_H, 0.0),
    Qt.Key.Key_Left: (-QUARTER_H, 0.0),
}  # fmt: skip


class AnnealBench(Bench):
    """Where, how it lies, how thick; the programme over its hours; steps, work, size, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "anneal", self.form, AnnealPad(desk))
        self.programme, self.work, self.growth = ProgrammePage(desk), WorkTable(desk), SizePage(desk)
        self.joints, joints = Form(desk, OF_WORK), QWidget()
        beside = QVBoxLayout(joints)
        beside.setContentsMargins(0, 0, 0, 0)
        beside.addWidget(self.joints)
        beside.addStretch()
        self.switches = self.turn_pages(
            {
                "Programme": self.programme,
                "Afterwards": self.work,
                "Joints": joints,
                "Size": self.growth,
                "Figures": self.figures,
            }
        )

    def refresh(self) -> None:
        """Show what the place that is set asks for."""
        if not self.desk.has_recipe:
            return
        anneal = self.desk.workspace.draft.records.card.recipe.anneal
        self._show("context.oven", wanted=anneal.where != "machine")
        self._show("anneal.packed", wanted=anneal.where != "machine")
        self._show("anneal.pack_mm", wanted=anneal.packed in ("jig", "sand"))

    def _show(self, field: str, *, wanted: bool) -> None:
        self.form.boxes[field].setVisible(wanted)
        self.form.titles[field].setVisible(wanted)

    def show_field(self, path: str) -> bool:
        """Lead to an input, one on a page below too."""
        if path.startswith("anneal.steps"):
            self.switches[0].click()
            return self.programme.show_field(path)
        if path in OF_WORK:
            self.switches[2].click()
            return self.joints.show_field(path)
        if path in self.form.boxes:
            self._show(path, wanted=True)
        return self.form.show_field(path)


class AnnealPad(Picture):
    """The picture of operation 110; the end of every hold can be dragged, or moved by the arrow keys."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "anneal")
        self._gesture, self._held, self.chosen = "", False, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(
            "Anneal over its hours: up and down moves the hold, left and right its hours, Shift five times as far, "
            "Page up and Page down choose the step"
        )

    @property
    def scale(self) -> AnnealScale | None:
        """Where corners lie; None while there is nothing."""
        if self._shown is None or self._shown.is_empty:
            return None
        return AnnealScale(self._shown, Box(0.0, 0.0, float(self.width()), float(self.height())))

    @guarded()
    def mousePressEvent(self, event: QMouseEvent) -> None:
        scale = self.scale
        if event.button() != Qt.MouseButton.LeftButton or scale is None:
            return
        for number, node in enumerate(scale.record.nodes):
            at = QPointF(*scale.place_of(node.hours, node.celsius))
            if (event.position() - at).manhattanLength() <= NEAR:
                self._held, self.chosen, self._gesture = True, number, f"anneal {next(_gestures)}"
                self.setCursor(Qt.CursorShape.ClosedHandCursor)

    @guarded()
    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        scale = self.scale
        if self._held and scale is not None:
            self._go(*scale.at(event.position().x(), event.position().y()))

    @guarded()
    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held, self._gesture = False, ""
        self.unsetCursor()

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        scale, key = self.scale, Qt.Key(event.key())
        if scale is None or not scale.record.nodes:
            super().keyPressEvent(event)
            return
        last = len(scale.record.nodes) - 1
        if key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self.chosen = min(max(self.chosen + (1 if key == Qt.Key.Key_PageDown else -1), 0), last)
            self.update()
        elif key in _KEYS:
            times = 5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            node, (hours, kelvin) = scale.record.nodes[min(self.chosen, last)], _KEYS[key]
            self._go(node.hours + times * hours if hours else None, node.celsius + times * kelvin if kelvin else None)
        else:
            super().keyPressEvent(event)

    def _go(self, hours: float | None, celsius: float | None) -> None:
        steps = self._desk.workspace.draft.records.card.recipe.anneal.steps
        place = min(self.chosen, len(self._shown.nodes) - 1)
        if place >= 0 and self.is_current and self._shown.nodes[place].step < len(steps):
            changes = dragged(self._shown, steps, place, hours, celsius)
            self._desk.tell(self._desk.set(changes, gesture=self._gesture))

    @guarded()
    def focusInEvent(self, event: QFocusEvent) -> None:
        self._gesture = f"anneal keys {next(_gestures)}"
        super().focusInEvent(event)
        self.update()

    @guarded()
    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        scale = self.scale
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(QColor(palette().accent), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
            if scale is not None and self.chosen < len(scale.record.nodes):
                node = scale.record.nodes[self.chosen]
                x, y = scale.place_of(node.hours, node.celsius)
                painter.drawEllipse(QPointF(x, y), 9.0, 9.0)


class ProgrammePage(Following, QWidget):
    """A row for every step and one more to type the next into; the programme planned by its button."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.words = Label(wordWrap=True)
        self.boxes: dict[str, FieldBox] = {}
        self._rows: list[tuple[QWidget, ...]] = []
        inside = QWidget()
        self.grid = QGridLayout(inside)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setVerticalSpacing(3)
        for column, (_, title) in enumerate(STEP_FIELDS, 1):
            self.grid.addWidget(Label(title), 0, column)
        self.grid.setColumnStretch(len(STEP_FIELDS) + 1, 1)
        self.grid.setRowStretch(MOST_STEPS + 1, 1)
        area = QScrollArea(widgetResizable=True)
        area.setWidget(inside)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.plan, self.drop = QPushButton("Plan it"), QPushButton("Take the last out")
        self.plan.setToolTip("Hold, hours, ramp and packing that polymer, section and place ask for; one undo")
        self.plan.clicked.connect(lambda: desk.run(self._on_plan))
        self.drop.clicked.connect(lambda: desk.run(lambda: desk.messages.note(drop_last(desk.workspace))))
        row = QHBoxLayout()
        row.addWidget(self.words, 1)
        row.addWidget(self.plan)
        row.addWidget(self.drop)
        column_ = QVBoxLayout(self)
        column_.setContentsMargins(0, 0, 0, 0)
        column_.addLayout(row)
        column_.addWidget(area, 1)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the recipe: rows as many as there are steps, and one."""
        if not self._desk.has_recipe:
            return
        steps = self._desk.workspace.draft.records.card.recipe.anneal.steps
        wanted = min(len(steps) + 1, MOST_STEPS)
        while len(self._rows) < wanted:
            self._add_row(len(self._rows))
        for place, row in enumerate(self._rows):
            for widget in row:
                widget.setVisible(place < wanted)
        self.drop.setEnabled(bool(steps))
        self.words.setText(waits_words(self._desk.context, self._desk.workspace))

    def _add_row(self, place: int) -> None:
        widgets: list[QWidget] = [Label(str(place + 1))]
        for name, title in STEP_FIELDS:
            path = f"anneal.steps.{place}.{name}"
            box = FieldBox(self._desk, path, NUMBER_WIDTH)
            box.setAccessibleName(f"Step {place + 1}: {title}")
            self.boxes[path] = box
            widgets.append(box)
        for column, widget in enumerate(widgets):
            self.grid.addWidget(widget, place + 1, column)
        self._rows.append(tuple(widgets))

    def _on_plan(self) -> None:
        self._desk.apply(plan(self._desk.workspace, self._desk.context))

    def show_field(self, path: str) -> bool:
        """Lead to the box of a step; the first where the whole programme is meant."""
        box = self.boxes.get(path) or self.boxes.get("anneal.steps.0.temperature_c")
        if box is None:
            return False
        box.edit.setFocus()
        return True


class WorkTable(Following, PlainTable):
    """The work by hand, in its order."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(WORK_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Work by hand afterwards")
        header = self.horizontalHeader()
        for column, width in ((0, 176), (1, 56), (2, 92)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow recipe and part."""
        if self._desk.has_recipe:
            rows = work_rows(self._desk.context, self._desk.workspace)
            self.show_rows(rows or [("Nothing is left to do", "", "", "")])


class SizePage(Following, PlainTable):
    """What the anneal does to size, by own coupons or practice, and the scale to print at."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(SIZE_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Growth by the anneal, and the scale to print at")
        self.setToolTip("Coupons are measured with their load: room Stock, page Ovens")
        header = self.horizontalHeader()
        for column, width in ((0, 116), (1, 64), (2, 136), (3, 62)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow polymer and loads."""
        if self._desk.has_recipe:
            rows = size_rows(self._desk.context, self._desk.wording)
            self.show_rows(rows or [("", "", "no polymer yet", "", "")])
