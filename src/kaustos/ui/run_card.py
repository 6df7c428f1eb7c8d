"""The run card at the machine: one step at a time in large type, worked with number keys alone."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

import attrs
from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QShortcut,
)
from PySide6.QtWidgets import (
    QApplication,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.going_on import stop_words
from kaustos.app.quantities import read
from kaustos.app.readings import missing_words
from kaustos.app.run_card import (
    REASONS,
    add_note,
    after_words,
    clock_words,
    close,
    end_early,
    free,
    refuse_waiver,
    standing_of,
    take_back,
    tick,
    waive,
    welded_words,
)
from kaustos.app.run_seen import AFTER_RUN, BROKE, IN_RUN, hand_test, mark, rest
from kaustos.app.runs import number_of
from kaustos.app.wording import hours_words
from kaustos.core.errors import KaustosError
from kaustos.core.records import OFF, OUTCOMES, PHASES, SEEN, STANDS, Place, Run, RunStep
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.files import PHOTOS, local_file
from kaustos.ui.findings import Sentence
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, Line
from kaustos.ui.look.theme import palette
from kaustos.ui.photos import ask_photo, keep_photo

CAPITALS_MM, SMALLEST_MM, TARGET_MM = 10.0, 4.0, 20.0
INCH_MM = 25.4
FEWEST_DPI, MOST_DPI = 72.0, 200.0  # screens that say something else do not know their size
TICK_MS = 1_000
ACROSS = 5  # keys in a row: every number has its place


@attrs.frozen
class Key:
    """What a number key does."""

    digit: int
    words: str
    act: Callable[[], object]


class RunCard(Following, QWidget):
    """One run at its machine; several stand side by side."""

    def __init__(self, desk: Desk, run: str) -> None:
        super().__init__()
        self.desk, self.run = desk, run
        self.setObjectName("body")
        self.setAcceptDrops(True)
        self.resize(1024, 600)
        self.setMinimumSize(800, 480)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.is_asking = False  # something else than the step is shown until the next key
        self._waits_for = ""  # step whose clock runs
        QShortcut(QKeySequence(QKeySequence.StandardKey.Undo), self, self.undo)
        self.keys: dict[int, Key] = {}
        self._taken: Callable[[str], object] | None = None  # takes what is typed
        self.head, self.title, self.clock = Label(), Label(wordWrap=True), Label()
        self.says = Sentence()
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.says.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Ignored)
        self.caution = Label(wordWrap=True)
        self.caution.setProperty("role", "saying")
        self.strip = Strip()
        self.line = Line()
        self.line.setAccessibleName("What is typed")
        self.line.returnPressed.connect(self._on_typed)
        self.grid = QGridLayout()
        self.buttons = {digit: QPushButton() for digit in (*range(1, 10), 0)}
        self.column = QVBoxLayout(self)
        self._lay_out()
        self._timer = QTimer(self, interval=TICK_MS)
        self._timer.timeout.connect(self.show_clock)
        self._timer.start()
        self.follow_desk(desk, at_once=True)
        self.show_step()

    def _lay_out(self) -> None:
        column = self.column
        column.setContentsMargins(16, 8, 16, 10)
        column.setSpacing(6)
        top = QHBoxLayout()
        top.addWidget(self.head)
        top.addStretch()
        top.addWidget(self.strip)
        column.addLayout(top)
        column.addWidget(self.title)
        column.addWidget(self.clock)
        column.addWidget(self.says, 1)
        column.addWidget(self.line)
        column.addWidget(self.caution)
        self.grid.setSpacing(6)
        for at, (digit, button) in enumerate(self.buttons.items()):
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setMinimumWidth(10)
            keeps = button.sizePolicy()
            keeps.setRetainSizeWhenHidden(True)
            button.setSizePolicy(keeps)
            button.clicked.connect(partial(self.press, digit))
            self.grid.addWidget(button, at // ACROSS, at % ACROSS)
            self.grid.setColumnStretch(at % ACROSS, 1)
        column.addLayout(self.grid)
        self.line.hide()

    # ---- sizes, by the density of the screen

    @property
    def mm_px(self) -> float:
        """Pixels of a millimetre on this screen."""
        return min(max(self.screen().physicalDotsPerInchY(), FEWEST_DPI), MOST_DPI) / INCH_MM

    def capitals_px(self, high_mm: float) -> int:
        """The size of type whose capitals are so high."""
        font = QFont(self.font())
        font.setPixelSize(100)
        return round(high_mm * self.mm_px * 100.0 / QFontMetricsF(font).capHeight())

    def _set_sizes(self) -> None:
        title, small = self.capitals_px(CAPITALS_MM), self.capitals_px(3.0)
        for widget, size, weight in (
            (self.head, small, 400), (self.title, title, 600), (self.caution, small, 600),
            (self.line, self.capitals_px(6.0), 400),
        ):  # fmt: skip
            widget.setStyleSheet(f"font-size: {size}px; font-weight: {weight};")
        high = round(TARGET_MM * self.mm_px)
        for button in self.buttons.values():
            size = self.capitals_px(3.6)
            button.setStyleSheet(f"font-size: {size}px; font-weight: 600; min-height: {high}px;")
        self.show_clock()
        self.column.activate()  # then what is said has the place that it gets
        self._fit()

    def _fit(self) -> None:
        """What is said is as large as its place lets it be."""
        wide, high = max(self.says.width(), 100), max(self.says.height(), 20)
        font = QFont(self.font())
        for tenths in range(round(10 * CAPITALS_MM), round(10 * SMALLEST_MM) - 1, -5):
            size = self.capitals_px(tenths / 10.0)
            font.setPixelSize(size)
            room = QRectF(0.0, 0.0, wide, 1e5)
            flags = int(Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft)
            if QFontMetricsF(font).boundingRect(room, flags, Label.text(self.says)).height() <= high:
                break
        self.says.setStyleSheet(f"font-size: {size}px;")

    @guarded()
    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._set_sizes()

    # ---- what is shown

    @property
    def record(self) -> Run | None:
        """The run as it stands; None where it is not in the workspace any more."""
        return self.desk.workspace.draft.records.runs.get(self.run)

    def refresh(self) -> None:
        """Follow the records: another window, or an undo, may have changed them."""
        if self._taken is None and not self.is_asking:
            self.show_step()

    def show_step(self) -> None:
        """The step that is next, and its keys."""
        self._ask(None)
        self.is_asking = False
        run = self.record
        standing = standing_of(run) if run is not None else None
        if run is None or standing is None:
            title = "No run" if run is None else "No steps are kept" if not run.steps else "All done"
            says = OUTCOMES.get((run.outcome if run else None) or "", "")
            self._show(title, says, "", [Key(7, "Back one", self._back)] if run and run.steps else [])
            return
        step = standing.step
        doing = f"{STANDS[step.stands]}: {step.title}" if step.stands is not None else step.title
        if step.key == "close":
            keys = [Key(number, words.partition(",")[0], partial(self._close, each))
                    for number, (each, words) in enumerate(OUTCOMES.items(), start=1)]  # fmt: skip
        else:
            keys = [Key(1, "Done", lambda: self._tick(step)), Key(2, "Go without", lambda: self._ask_why(step))]
            keys.append(Key(3, "Seen", self.show_seen))
        if step.phase != "after":
            keys.append(Key(4, "End it now", self._ask_end))
        if step.phase == "during":
            keys.append(Key(6, "It stands still", self._ask_rest))
        if step.phase == "after":
            keys.append(Key(5, "Break test", self._ask_broke))
        keys += [Key(7, "Back one", self._back), Key(8, "Note", lambda: self._ask_note(step)),
                 Key(9, "Photo", self._photo)]  # fmt: skip
        says = step.says if step.key != "close" else f"{step.says} {missing_words(run)}".strip()
        self._show(doing, says + (f" Note: {step.note}" if step.note else ""), step.caution, keys)

    def _show(self, title: str, says: str, caution: str, keys: list[Key]) -> None:
        run = self.record
        self.title.setText(title)
        self.says.setText(says)
        self.caution.setText(caution)
        self.caution.setVisible(bool(caution))
        self._show_keys([*keys, Key(0, "Leave", self.close)])
        if run is not None:
            records = self.desk.workspace.draft.records
            card, machine = records.cards.get(run.card), records.machines.get(run.machine or "")
            names = [
                f"Run {number_of(run.id)}",
                card.recipe.name if card else run.card,
                machine.name if machine else "",
            ]
            standing = standing_of(run)
            if standing is not None:
                phase = PHASES.get(standing.step.phase or "", "").lower()
                names.append(f"step {standing.place + 1} of {len(run.steps)}, {phase}")
            self.head.setText("    ".join(filter(None, names)))
            self.setWindowTitle(f"Run {number_of(run.id)}: run card")
            self.strip.follow(run)
        self._set_sizes()

    def _show_keys(self, keys: list[Key]) -> None:
        self.keys = {each.digit: each for each in keys}
        for digit, button in self.buttons.items():
            key = self.keys.get(digit)
            button.setText(f"{digit}   {key.words}" if key is not None else "")
            button.setVisible(key is not None)

    def show_clock(self) -> None:
        """What the clock says of the step; it runs by what is kept, so a restart changes nothing."""
        run = self.record
        standing = standing_of(run) if run is not None and not self.is_asking else None
        now = self.desk.workspace.clock()
        words = clock_words(standing, now) if standing is not None else ""
        left = standing.left_s(now) if standing is not None else None
        if left is not None and standing is not None:
            self._ring(standing.step.key, left)
        self.clock.setText(words)
        self.clock.setVisible(bool(words))
        colour = palette().stop if left is not None and left <= 0.0 else palette().accent
        style = f"font-size: {self.capitals_px(CAPITALS_MM)}px; color: {colour};"
        if style != self.clock.styleSheet():  # every second: it is laid out anew for another size or colour alone
            self.clock.setStyleSheet(style)

    def _ring(self, key: str, left_s: float) -> None:
        """Call once when a step comes due while the card stands open."""
        if left_s > 0.0:
            self._waits_for = key
        elif self._waits_for == key:
            self._waits_for = ""
            QApplication.beep()
            QApplication.alert(self)

    def undo(self) -> None:
        """Take the last edit back, a mark or a note too."""
        self.desk.workspace.draft.undo()
        self.show_step()

    # ---- keys

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.show_step()
        elif event.text().isdigit() and int(event.text()) in self.keys:
            self.press(int(event.text()))
        else:
            super().keyPressEvent(event)

    def press(self, digit: int) -> None:
        """What a number key does; what cannot be done is said in large type, and nothing is lost."""
        try:
            self.keys[digit].act()
        except (KaustosError, OSError) as error:
            self.say("That cannot be", str(error))

    def say(self, title: str, words: str) -> None:
        """Say something until the next key."""
        self._ask(None)
        self.is_asking = True
        self._show(title, words, "", [Key(1, "Go on", self.show_step)])

    def _ask_off(self) -> None:
        self.is_asking = True
        keys = [Key(at, words, partial(self._ask_off_c, off)) for at, (off, words) in enumerate(OFF.items(), start=1)]
        self._show("How did it come off?", "What came to harm goes into the plate's log, too.", "",
                   [*keys, Key(7, "Back", self.show_step)])  # fmt: skip

    def _ask_off_c(self, off: str) -> None:
        self._ask(lambda typed: self._free(off, read(typed, "temperature") if typed.strip() else None))
        self.says.setText("How warm was the plate, in °C? Enter: not measured.")

    def _free(self, off: str, plate_c: float | None) -> None:
        free(self.desk.workspace, self.run, off, plate_c)
        self.show_step()
        if off == "stuck":
            self.say("Do not force it", welded_words(self.desk.workspace, self.run))

    def _tick(self, step: RunStep) -> None:
        if step.key == "free":
            self._ask_off()
            return
        tick(self.desk.workspace, self.run, step.key)
        self.show_step()

    def _ask_end(self) -> None:
        self.is_asking = True
        says = "What was still to come until its end is over. Heaters off; cooling and freeing go on from here."
        self._show("End the run here?", says, "", [Key(1, "It ends here", self._end), Key(7, "Back", self.show_step)])

    def _end(self) -> None:
        end_early(self.desk.workspace, self.run)
        self.show_step()

    def _back(self) -> None:
        take_back(self.desk.workspace, self.run)
        self.show_step()

    def _close(self, outcome: str) -> None:
        close(self.desk.workspace, self.run, outcome)
        self.show_step()
        words = after_words(self.desk.workspace, self.run) if outcome != "good" else ""
        if words:
            self.say(OUTCOMES[outcome].partition(",")[0], words)

    def _ask_why(self, step: RunStep) -> None:
        who = self.desk.settings.who
        refuse_waiver(self.desk.workspace, self.run, step.key, who)
        keys = [Key(at, words, partial(self._waive, step, words)) for at, words in enumerate(REASONS, start=1)]
        self.is_asking = True
        self._show(f"Go without: {step.title}?", f"{who} signs for it. Why? If the run fails, it is the first suspect.",
                   "", [*keys, Key(8, "Other: type it", lambda: self._ask(lambda typed: self._waive(step, typed))),
                        Key(7, "Back", self.show_step)])  # fmt: skip

    def _waive(self, step: RunStep, why: str) -> None:
        waive(self.desk.workspace, self.run, step.key, self.desk.settings.who, why)
        self.show_step()

    # ---- what is seen

    def show_seen(self) -> None:
        """What may be seen in a run, one key each."""
        self.is_asking = True
        run = self.record
        is_over = run is not None and bool(run.ended_utc)
        shown = AFTER_RUN if is_over else IN_RUN
        keys = [Key(at, words, partial(self._seen, what)) for at, (what, words) in enumerate(shown.items(), start=1)]
        says = "On the part, now that it is printed." if is_over else "Minute and height come from the clock."
        self._show("What is seen?", says, "", keys)

    def _ask_broke(self) -> None:
        self.is_asking = True
        keys = [Key(at, BROKE[how][0], partial(self._broke, how)) for at, how in enumerate(BROKE, start=1)]
        says = "A corner of it, or a piece printed beside it. Gloves, goggles."
        self._show("Broken by hand, across its layers?", says, "", [*keys, Key(7, "Back", self.show_step)])

    def _broke(self, how: str) -> None:
        self.say("Noted", hand_test(self.desk.workspace, self.run, how))

    def _seen(self, what: str) -> None:
        if what == "corner_lift":
            self._ask(lambda typed: self._mark(what, read(typed, "length") if typed.strip() else None))
            self.says.setText("How far has it lifted, in mm? Enter: not measured.")
        else:
            self._mark(what, None)

    def _mark(self, what: str, lift_mm: float | None) -> None:
        seen = mark(self.desk.workspace, self.run, what, lift_mm)
        run = self.record
        wording = self.desk.wording
        words = [SEEN[what]]
        words += [f"by {wording.value(lift_mm, 'length')}"] if lift_mm is not None else []
        words += [f"after {hours_words(seen.at_h)}"] if seen.at_h is not None else []
        words += [f"at {wording.value(seen.at_mm, 'length')}"] if seen.at_mm is not None else []
        self.say("Noted", f"{' '.join(words)}. {stop_words(self.desk.workspace, run) if run else ''}")

    # ---- what is typed

    def _ask(self, taken: Callable[[str], object] | None) -> None:
        self._taken = taken
        self.line.clear()
        self.line.setVisible(taken is not None)
        if taken is not None:
            self.is_asking = True
            self._show_keys([])
            self.line.setFocus()
        else:
            self.setFocus()

    def _on_typed(self) -> None:
        taken, typed = self._taken, self.line.text()
        if taken is None:
            return
        try:
            taken(typed)
        except KaustosError as error:
            self.says.setText(str(error))  # the line stays, with what was typed
            self._fit()

    def _ask_note(self, step: RunStep) -> None:
        self._ask(lambda typed: self._note(step, typed))
        self.says.setText("A note with this step; Enter keeps it, Escape does not.")

    def _note(self, step: RunStep, typed: str) -> None:
        if typed.strip():
            add_note(self.desk.workspace, self.run, step.key, typed)
        self.show_step()

    def _ask_rest(self) -> None:
        self._ask(lambda typed: self._ask_held(read(typed, "minutes")))
        self.says.setText("For how many minutes has it stood?")

    def _ask_held(self, minutes: float) -> None:
        self._ask(None)
        self.is_asking = True
        self._show("Was the plate kept hot?", f"It stood {minutes:g} min.", "",
                   [Key(1, "Kept hot", lambda: self._resume(minutes, is_held=True)),
                    Key(2, "It went cold", lambda: self._resume(minutes, is_held=False)),
                    Key(7, "Back", self.show_step)])  # fmt: skip

    def _resume(self, minutes: float, *, is_held: bool) -> None:
        if self.record is None:
            raise KaustosError("This run is not in the workspace any more.")
        self.say("Go on, or anew?", rest(self.desk.workspace, self.run, minutes, is_held=is_held))

    # ---- photos

    def _photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.take_photo(file)

    def take_photo(self, file: Path) -> None:
        """Keep a photo with the run."""
        keep_photo(self.desk, Place("runs", self.run), file, f"Run {number_of(self.run)}")
        self.say("Kept", f"Photo {file.name} is with run {number_of(self.run)}.")

    @guarded()
    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    @guarded()
    def dropEvent(self, event: QDropEvent) -> None:
        for url in event.mimeData().urls():
            file = local_file(url)
            try:
                if file.suffix.lower() not in PHOTOS:
                    raise KaustosError(f"{file.name} is no photo; it takes {', '.join(PHOTOS)}.")
                self.take_photo(file)
            except (KaustosError, OSError) as error:
                self.say("That cannot be", str(error))


class Strip(QWidget):
    """All steps as small boxes: filled once done, crossed where it was gone without, framed where it stands."""

    SIDE, GAP = 12.0, 4.0

    def __init__(self) -> None:
        super().__init__()
        self._steps: tuple[RunStep, ...] = ()
        self._now = -1

    def follow(self, run: Run) -> None:
        """Show the steps of a run."""
        standing = standing_of(run)
        self._steps, self._now = run.steps, standing.place if standing is not None else -1
        self.setFixedSize(round(len(run.steps) * (self.SIDE + self.GAP)), round(self.SIDE + 6.0))
        over = sum(each.is_over for each in run.steps)
        self.setAccessibleName(f"{over} of {len(run.steps)} steps are over")
        self.update()

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        painter, colours = QPainter(self), palette()
        for at, step in enumerate(self._steps):
            box = QRectF(at * (self.SIDE + self.GAP) + 1.5, 3.0, self.SIDE - 2.0, self.SIDE - 2.0)
            painter.setPen(QColor(colours.accent if at == self._now else colours.muted))
            done = step.is_over and not (step.waived or step.passed)
            painter.setBrush(QColor(colours.muted) if done else QColor(0, 0, 0, 0))
            painter.drawRect(box)
            if step.waived:
                painter.drawLine(box.bottomLeft(), box.topRight())
            if at == self._now:
                painter.drawRect(box.adjusted(-1.5, -1.5, 1.5, 1.5))
        painter.end()
