"""The log: every run with what was seen, beside what the review had foretold; two runs compared."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.causes import HEADINGS as CAUSE_HEADINGS
from kaustos.app.causes import AfterRun, after_run, booking_words, take_trial
from kaustos.app.comparing import compare_runs
from kaustos.app.cursor import along_run, spot_of, spot_words
from kaustos.app.matters import left_open, matter_words, settle
from kaustos.app.recipes import retire
from kaustos.app.records import Records
from kaustos.app.run_seen import rest_words
from kaustos.app.runs import change_of_spool, number_of, open_beside, seen_words, sorted_as, start_run
from kaustos.app.wording import Wording, when_words
from kaustos.core.errors import KaustosError
from kaustos.core.records import (
    FILAMENTS,
    OUTCOMES,
    PLACES,
    RUN_KINDS,
    SEEN,
    Machine,
    Observation,
    Place,
    RecipeCard,
    Run,
)
from kaustos.core.review import CODES
from kaustos.core.review.experience import judge_run
from kaustos.core.review.run.along import Along
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.photos import PhotoLabel, ask_photo, keep_photo
from kaustos.ui.rooms.parts import entry, push, row_of
from kaustos.ui.rooms.room import Room
from kaustos.ui.rooms.run_form import RunForm
from kaustos.ui.rooms.run_readings import RunReadings
from kaustos.ui.tables import Listing, Row


class RunsRoom(Room):
    """The list, the form of the chosen run, and what the log says of the review."""

    def __init__(self, desk: Desk, open_recipe: Callable[[], object], open_card: Callable[[], object]) -> None:
        super().__init__(
            desk, "Runs", "Choose two to compare them.",
            "No run is logged yet. Open a recipe and press Ctrl+G: its state is kept as a revision, and the run hangs "
            "on it.",
        )  # fmt: skip
        self.photo = self.button("Add photo", self._on_photo)
        self.card = self.button("Run card", lambda: open_card(), "At the machine: one step at a time, by number keys")
        self.printing = self.button("Print card", self._on_print, "The steps of the run on one page")
        self.retiring = self.button("Retire", self._on_retire, "Out of the counts; nothing is deleted")
        self.list = Listing(
            desk, "runs", ("No", "Recipe, revision", "Machine", "Started", "Filament", "Outcome", "Seen"), 6
        )  # fmt: skip
        self.list.chosen.connect(self._on_chosen)
        self._made_of: tuple[object, ...] = (None,) * 4  # what the list was made of
        self.form = RunForm(desk)
        self.detail = _Detail(desk)
        self.next = _Next(desk, open_recipe)
        self.comparison, self.readings = _Comparison(desk), RunReadings(desk)
        inside = QWidget()
        right = QVBoxLayout(inside)
        right.setContentsMargins(0, 0, 6, 0)
        for widget in (
            self.detail.title,
            self.detail.settling,
            self.next,
            self.form,
            self.detail,
            self.readings,
            self.comparison,
        ):
            right.addWidget(widget)
        right.addStretch()
        self.area = QScrollArea(widgetResizable=True)
        self.area.setWidget(inside)
        self.area.setFixedWidth(524)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        middle = QHBoxLayout()
        middle.setSpacing(12)
        middle.addWidget(self.list, 1)
        middle.addWidget(self.area)
        self.column.addLayout(middle, 1)

    def refresh(self) -> None:
        """Follow the desk."""
        records, wording = self.desk.workspace.draft.records, self.desk.wording
        made_of = (records.runs, records.cards, records.machines, wording)
        if all(one is other for one, other in zip(made_of, self._made_of, strict=True)):
            self._on_chosen()
            return
        self._made_of = made_of
        runs = {key: run for key, run in records.runs.items() if not run.retired}
        self.show_empty(not runs, self.list, self.area)
        self.list.show_keys(
            tuple(reversed(runs)),
            lambda key: _row(runs[key], records, wording),
            lambda key: (runs[key], *_beside(runs[key], records), wording),
        )
        if runs:
            self.list.choose_first(next(reversed(runs)))
        self._on_chosen()

    def start(self, who: str, why: str) -> None:
        """Begin a run of the open recipe and show it; a stop that stands is signed for."""
        words = " ".join(filter(None, (open_beside(self.desk.workspace), change_of_spool(self.desk.workspace))))
        run = start_run(self.desk.workspace, who=who, why=why)
        if words:
            self.desk.messages.note(words)
        self.refresh()
        self.choose(run.id)

    def choose(self, key: str) -> None:
        """Show one run."""
        self.list.filter.clear()
        self.list.choose(key)
        self._on_chosen()

    def take_photo(self, file: Path) -> None:
        """Keep a photo with the chosen run."""
        run = self.form.run
        if run is None:
            raise KaustosError("Choose the run that the photo belongs to.")
        keep_photo(self.desk, Place("runs", run), file, f"Run {number_of(run)}")

    @property
    def takes_log(self) -> bool:
        """Whether one run is chosen, which a logger's file belongs to."""
        return self.readings.isVisibleTo(self)

    def take_log(self, file: Path) -> None:
        """Keep a logger's file with the run that is chosen."""
        self.readings.take_chosen(file)

    def _on_chosen(self) -> None:
        keys = [key for key in self.list.chosen_keys() if key in self.desk.workspace.draft.records.runs]
        runs = [self.desk.workspace.draft.records.runs[key] for key in keys]
        for button in (self.photo, self.retiring):
            button.setEnabled(len(runs) == 1)
        for button in (self.card, self.printing):
            button.setEnabled(len(runs) == 1 and bool(runs[0].steps))
        for widget in (self.form, self.detail, self.readings):
            widget.setVisible(len(runs) == 1)
        self.comparison.setVisible(len(runs) == 2)
        self.next.follow(runs[0] if len(runs) == 1 else None)
        if len(runs) == 1:
            self.form.follow(runs[0])
            self.detail.follow(runs[0])
            self.readings.follow(runs[0])
        elif len(runs) == 2:
            self.detail.settling.hide()
            self.detail.title.setText(f"Run {number_of(runs[1].id)} against run {number_of(runs[0].id)}")
            self.desk.run(lambda: self.comparison.follow(runs[1], runs[0]))
        else:
            self.detail.settling.hide()
            self.detail.title.setText("Choose one run, or two to compare" if runs or keys else "")

    def _on_photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.desk.run(lambda: self.take_photo(file))

    def _on_print(self) -> None:
        from kaustos.app.run_card import card_content
        from kaustos.formats.sheet import card_pdf
        from kaustos.ui.printing import ask_printer

        run = self.desk.workspace.draft.records.runs[self.form.run or ""]
        ask_printer(self, card_pdf(card_content(self.desk.workspace, run)))

    def _on_retire(self) -> None:
        for key in self.list.chosen_keys():
            retire(self.desk.workspace, "runs", key)


def _beside(run: Run, records: Records) -> tuple[RecipeCard | None, Machine | None]:
    """The recipe and the machine that are named beside a run."""
    return records.cards.get(run.card), records.machines.get(run.machine or "")


def _row(run: Run, records: Records, wording: Wording) -> Row:
    card, machine = _beside(run, records)
    lost = [
        wording.value(value, quantity)
        for value, quantity in ((run.hours_lost, "duration"), (run.money_lost, "money"))
        if value
    ]
    cells = (
        number_of(run.id), f"{card.recipe.name if card else run.card}, {run.revision:g}",
        machine.name if machine else "not recorded", when_words(run.started_utc)[:10],
        _filament(run), _outcome(run), seen_words(run),
    )  # fmt: skip
    kind = RUN_KINDS.get(run.kind or "", "not recorded")
    tip = f"{kind}, started {when_words(run.started_utc)}\n{seen_words(run) or 'Nothing seen'}"
    tip += f"\nLost: {', '.join(lost)}" if lost else ""
    tip += f"\nDespite a stop, {run.despite}" if run.despite else ""
    return Row(run.id, cells, (sorted_as(run.id),), tip)


class _Detail(QFrame):
    """What was seen, who had foretold it, and what was foretold in vain."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.title = Label(wordWrap=True)
        self.title.setProperty("role", "heading")
        self.judged = PlainTable(("In the run", "What the review had said when it began"))
        self.judged.setAccessibleName("The run beside the review")
        self.judged.setWordWrap(True)
        self.judged.horizontalHeader().resizeSection(0, 220)
        self.judged.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.judged.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.judged.setMinimumHeight(150)
        self.pictures = PhotoLabel(desk)
        self.matter = QComboBox()
        self.matter.setAccessibleName("What the run left open")
        self.matter.setFixedWidth(168)
        self.proof = entry("what was found, by whom", "What closes it", 186)
        self.proof.returnPressed.connect(self._on_settle)
        self.settling = QWidget()
        settling = row_of("Open", self.matter, self.proof, push("Close it", self._on_settle))
        settling.setContentsMargins(0, 0, 0, 0)
        self.settling.setLayout(settling)
        self._run: str | None = None
        self._rests_on: tuple[object, ...] = (None,) * 4
        self._known: Along | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.judged)
        column.addWidget(self.pictures)

    def follow(self, run: Run) -> None:
        """Show a run."""
        state = OUTCOMES[run.outcome] if run.outcome else "running"
        words = [f"Run {number_of(run.id)}, revision {run.revision:g}: {state}"]
        words += [f"Despite a stop, {run.despite}"] if run.despite else []
        booked = booking_words(self._desk.workspace, run)
        words += [booked] if booked else []
        words += [*rest_words(run, self._desk.workspace), *matter_words(run)]
        self.title.setText("\n".join(words))
        rows = _judged_rows(run, self._desk, self._along(run))
        self.judged.show_rows(rows or [("Nothing was seen", "and nothing was foretold")])
        self.pictures.follow(run.photos)
        self._show_open(run)

    def _show_open(self, run: Run) -> None:
        self._run, still = run.id, left_open(run)
        self.settling.setVisible(bool(still))
        if [self.matter.itemData(at) for at in range(self.matter.count())] != [*still]:
            self.matter.clear()
            for what, kind in still.items():
                self.matter.addItem(kind.words, what)

    def _on_settle(self) -> None:
        def close() -> None:
            run, what = self._run or "", str(self.matter.currentData())
            self._desk.messages.note(settle(self._desk.workspace, run, what, self.proof.text()))
            self.proof.clear()

        self._desk.run(close)

    def _along(self, run: Run) -> Along | None:
        """The run along its height, where something in it has a place; worked out once for what it rests on."""
        if not any(each.at_h is not None or each.at_mm is not None for each in run.observations):
            return None
        records = self._desk.workspace.draft.records
        rests_on = (run, records.machines, records.tables["jobs"], records.rules)
        if any(one is not other for one, other in zip(rests_on, self._rests_on, strict=True)):
            self._rests_on, self._known = rests_on, along_run(self._desk.workspace, run)
        return self._known


class _Next(QFrame):
    """After a run in which something went wrong: the one trial that comes next, and the causes behind it."""

    def __init__(self, desk: Desk, open_recipe: Callable[[], object]) -> None:
        super().__init__()
        self._desk, self._open = desk, open_recipe
        self._run: Run | None = None
        self._found: AfterRun | None = None
        self.setObjectName("panel")
        self.trial = Label(wordWrap=True)
        self.trial.setProperty("role", "saying")
        self.expected = Label(wordWrap=True)
        self.expected.setProperty("role", "muted")
        self.take = QPushButton("Take it into the recipe")
        self.take.setToolTip("The settings as they were run, with this one change; undone as one step")
        self.take.clicked.connect(self._on_take)
        self.causes = PlainTable(CAUSE_HEADINGS)
        self.causes.setAccessibleName("Causes of what was seen")
        self.causes.setWordWrap(True)
        self.causes.horizontalHeader().resizeSection(0, 170)
        self.causes.horizontalHeader().resizeSection(1, 76)
        self.causes.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.causes.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 6)
        column.setSpacing(4)
        line = QHBoxLayout()
        line.addWidget(self.trial, 1)
        line.addWidget(self.take)
        column.addLayout(line)
        column.addWidget(self.expected)
        column.addWidget(self.causes)

    def follow(self, run: Run | None) -> None:
        """Show what a run asks for next; nothing where nothing went wrong."""
        self._run = run
        went_wrong = run is not None and run.is_ended and run.outcome != "good"
        self._found = after_run(self._desk.workspace, run) if run is not None and went_wrong else None
        self.setVisible(self._found is not None)
        if self._found is not None:
            self.trial.setText(f"Next trial: {self._found.trial}")
            self.expected.setText(self._found.expected)
            self.expected.setVisible(bool(self._found.expected))
            self.take.setVisible(bool(self._found.changes))
            self.causes.show_rows(list(self._found.rows))
            self.causes.setFixedHeight(min(44 + 30 * len(self._found.rows), 190))

    def _on_take(self) -> None:
        run, found = self._run, self._found
        if run is not None and found is not None:

            def take() -> None:
                take_trial(self._desk.workspace, run, found)
                self._open()

            self._desk.run(take)


class _Comparison(QFrame):
    """What differs between two runs, and what that tells."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.verdict = Label(wordWrap=True)
        self.verdict.setProperty("role", "saying")
        self.differing = PlainTable(("Field", "First", "Second"))
        self.differing.setAccessibleName("What differs between the runs")
        self.differing.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.differing.setMinimumHeight(200)
        self.differing.setWordWrap(True)  # what was seen or gone without is a sentence
        self.differing.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.verdict)
        column.addWidget(self.differing)

    def follow(self, first: Run, second: Run) -> None:
        """Compare two runs; nothing of two others stays where these cannot be."""
        self.verdict.setText("")
        self.differing.show_rows([])
        found = compare_runs(self._desk.workspace, first, second)
        self.verdict.setText(found.verdict)
        ends = [("outcome", *(OUTCOMES.get(run.outcome or "", "running") for run in (first, second))),
                ("filament", _filament(first), _filament(second)),
                ("seen", seen_words(first) or "nothing", seen_words(second) or "nothing")]  # fmt: skip
        self.differing.show_rows([*found.differing, *ends])


def _outcome(run: Run) -> str:
    words = OUTCOMES[run.outcome].partition(",")[0] if run.outcome else "running"
    return f"{words}, despite a stop" if run.despite else words


def _filament(run: Run) -> str:
    return FILAMENTS.get(run.filament or "", "not recorded").lower()


def _judged_rows(run: Run, desk: Desk, along: Along | None) -> list[tuple[str, str]]:
    judged = judge_run(run)
    rows = [
        (_observed(run, what, desk, along), "Foretold by: " + "; ".join(_code_words(code) for code in codes))
        for what, codes in judged.foretold
    ]
    rows += [(_observed(run, what, desk, along), "Not foretold") for what in judged.not_foretold]
    if run.is_ended:
        rows += [("Not seen", f"Foretold, but absent: {_code_words(code)}") for code in judged.absent]
    silent = [CODES[code] for code in run.foretold if code in CODES and CODES[code].silent]
    return rows + [("Cannot tell", f"{code.title}: {code.silent}") for code in silent]


def _code_words(code: str) -> str:
    """A finding without its numbers, as it is spoken of in the log."""
    return CODES[code].title if code in CODES else code


def _observed(run: Run, what: str, desk: Desk, along: Along | None) -> str:
    every = [each for each in run.observations if each.what == what]
    return "; ".join(_observation_words(each, run, desk, along) for each in every)


def _observation_words(seen: Observation, run: Run, desk: Desk, along: Along | None) -> str:
    wording = desk.wording
    words = [SEEN[seen.what]]
    words += [PLACES[seen.where].lower()] if seen.where else []
    words += [f"at {wording.value(seen.at_h, 'duration')}"] if seen.at_h is not None else []
    words += [f"at {wording.value(seen.at_mm, 'length')} height"] if seen.at_mm is not None else []
    words += [f"by {wording.value(seen.lift_mm, 'length')}"] if seen.lift_mm is not None else []
    words += [seen.note] if seen.note else []
    spot = spot_of(along, seen) if along is not None else None
    return ", ".join(words) + (f": {spot_words(desk.workspace, spot, run, seen)}" if spot is not None else "")
