"""The atlas: all polymers side by side, each value with its range and source, by what this shop can reach."""

import attrs
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QHeaderView, QLabel, QLineEdit, QPushButton

from kaustos.app.recipes import new_grade
from kaustos.core.records import (
    CHEMICALS,
    CLARITIES,
    FINISHES,
    OUTDOOR,
    POLYMER_VALUES,
    STRUCTURES,
    WELD_CLASSES,
    Datum,
    Polymer,
    with_own_values,
)
from kaustos.core.records.quantities import BY_UNIT
from kaustos.core.review.brief import lack_of
from kaustos.library import load
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row

SHOWN = (
    ("Glass", "glass_transition_c"),
    ("Melting", "melting_c"),
    ("Decomp.", "decomposition_c"),
    ("Nozzle", "nozzle_low_c"),
    ("Plate", "plate_low_c"),
    ("Chamber", "chamber_low_c"),
    ("Dryer", "dryer_low_c"),
    ("HDT 0.45", "deflection_045_as_printed_dry_c"),
    ("HDT 1.8", "deflection_180_as_printed_dry_c"),
    ("Density", "density_g_cm3"),
    ("Price", "price_per_kg"),
)


class AtlasRoom(Room):
    """The list of polymers and own grades, and every value of the chosen one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(
            desk,
            "Atlas",
            "Typical of generic polymers, and your own grades; ? marks doubt. HDT by load in MPa; g/cm³; price per kg.",
            "",
        )
        self.reached = QComboBox()
        self.reached.setAccessibleName("Show polymers that can be run on")
        self.reached.activated.connect(self.refresh)
        self.top.addWidget(QLabel("Runs on"))
        self.top.addWidget(self.reached)
        self.list = Listing(desk, "polymers", ("Polymer", *(words for words, _ in SHOWN), "Runs on"), 0)
        self.list.chosen.connect(self._on_chosen)
        self.heading = QLabel()
        self.heading.setProperty("role", "heading")
        self.traits = QLabel(wordWrap=True)
        self.values = PlainTable(("Value", "Typical (range)", "Known from", "In doubt"))
        self.values.setAccessibleName("Values of the chosen polymer")
        header = self.values.horizontalHeader()
        for column, width in ((0, 330), (1, 190), (2, 330)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.deriving = _Deriving(desk, self._chosen)
        self.column.addWidget(self.list, 3)
        self.column.addWidget(self.heading)
        self.column.addWidget(self.traits)
        self.column.addWidget(self.values, 2)
        self.column.addWidget(self.deriving)
        self._polymers: dict[str, Polymer] = {}
        self._names: dict[str, str] = {}

    def refresh(self) -> None:
        """Follow the desk."""
        records = self.desk.workspace.draft.records
        machines = [each for each in records.machines.values() if not each.retired]
        items = [("any or none", ""), ("one of ours", "*"), *[(each.name, each.id) for each in machines]]
        if [self.reached.itemData(at) for at in range(self.reached.count())] != [key for _, key in items]:
            self.reached.clear()
            for words, key in items:
                self.reached.addItem(words, key)
        self._polymers = dict(load().polymers) | self._own_grades()
        rows = []
        for key, polymer in self._polymers.items():
            runs_on = [each for each in machines if not lack_of(each, polymer, records.rules).zones]
            wanted = self.reached.currentData()
            if not wanted or (wanted == "*" and runs_on) or wanted in [each.id for each in runs_on]:
                rows.append(self._row(key, polymer, [each.name for each in runs_on]))
        self.show_empty(False)
        self.list.show_rows(rows)
        if rows and not self.list.chosen_keys():
            recipe = records.card.recipe if records.current else None
            keys = [row.key for row in rows]
            self.list.choose(recipe.polymer if recipe and recipe.polymer in keys else keys[0])
        self._on_chosen()

    def choose(self, key: str) -> None:
        """Show one polymer."""
        self.reached.setCurrentIndex(0)
        self.list.filter.clear()
        self.refresh()
        self.list.choose(key)

    def _own_grades(self) -> dict[str, Polymer]:
        """Grades of the shop under their own values, one for each name of a grade."""
        found = {}
        self._names = {}
        for lot in self.desk.workspace.draft.records.lots.values():
            generic = load().polymers.get(lot.polymer or "")
            if generic is not None and lot.grade:
                found[f"grade/{lot.grade}"] = with_own_values(generic, attrs.evolve(lot, lot_values={}))
                self._names[f"grade/{lot.grade}"] = f"{lot.grade} (own grade of {generic.name})"
        return found

    def _name(self, key: str, polymer: Polymer) -> str:
        return self._names.get(key, polymer.name)

    def _row(self, key: str, polymer: Polymer, runs_on: list[str]) -> Row:
        cells, sort = [], []
        for _, value in SHOWN:
            datum = polymer.value(value)
            cells.append(self._short(polymer, value, datum))
            sort.append(datum.value if datum else None)
        name = self._name(key, polymer)
        return Row(key, (name, *cells, ", ".join(runs_on) or "none of ours"), (None, *sort, None))

    def _short(self, polymer: Polymer, key: str, datum: Datum | None) -> str:
        if datum is None:
            return "none" if key == "melting_c" and polymer.structure == "amorphous" else "unknown"
        wording, quantity = self.desk.wording, BY_UNIT[datum.unit]
        text = wording.number(datum.value, quantity)
        high = polymer.value(key.replace("_low_c", "_high_c")) if key.endswith("_low_c") else None
        if high:
            text += f"-{wording.number(high.value, quantity)}"
        return text + (" ?" if datum.doubt else "")

    def _chosen(self) -> str | None:
        return next(iter(self.list.chosen_keys()), None)

    def _on_chosen(self) -> None:
        key = self._chosen()
        polymer = self._polymers.get(key or "")
        for widget in (self.heading, self.traits, self.values):
            widget.setVisible(polymer is not None)
        if polymer is None or key is None:
            return
        weld = "" if polymer.structure == "amorphous" else f", {WELD_CLASSES[polymer.weld_class]}"
        self.heading.setText(f"{self._name(key, polymer)}: {STRUCTURES[polymer.structure].lower()}{weld}")
        self.traits.setText(_trait_words(polymer))
        self.values.show_rows([self._value_row(polymer, value) for value in POLYMER_VALUES])

    def _value_row(self, polymer: Polymer, key: str) -> tuple[str, str, str, str]:
        wording, datum = self.desk.wording, polymer.value(key)
        title = POLYMER_VALUES[key].title
        if datum is None:
            return title, "not known", "", ""
        quantity = BY_UNIT[datum.unit]
        low, high = wording.number(datum.low, quantity), wording.number(datum.high, quantity)
        typical = wording.value(datum.value, quantity)
        if datum.rival is not None:
            typical = f"{wording.number(datum.value, quantity)} or {wording.value(datum.rival, quantity)}"
        return title, f"{typical} ({low} to {high})", f"{datum.kind}: {datum.source}", datum.doubt


def _trait_words(polymer: Polymer) -> str:
    traits = polymer.traits
    attacked = ", ".join(CHEMICALS[each].lower() for each in traits.attacked_by)
    words = [
        f"It {OUTDOOR[traits.outdoor]}", f"looks {CLARITIES[traits.clarity]} and {FINISHES[traits.finish]}",
        f"is attacked by {attacked}" if attacked else "is attacked by none of the usual",
        f"gives off {polymer.emissions}",
    ]  # fmt: skip
    return f"{'; '.join(words)} ({traits.kind}). {' '.join(polymer.cautions)}".strip()


class _Deriving(QFrame):
    """Derives an own grade, and a first lot of it, from the chosen polymer."""

    def __init__(self, desk: Desk, chosen) -> None:  # type: ignore[no-untyped-def]
        super().__init__()
        self._desk, self._chosen = desk, chosen
        self.grade, self.lot = QLineEdit(), QLineEdit()
        for line, words in ((self.grade, "Name of the grade"), (self.lot, "First lot")):
            line.setPlaceholderText(words)
            line.setAccessibleName(words)
            line.setMaxLength(200)
        make = QPushButton("Derive from the chosen polymer")
        make.clicked.connect(self._on_make)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for widget in (QLabel("Own grade"), self.grade, self.lot, make):
            row.addWidget(widget)
        note = QLabel("Its own values are typed on the bench of 10 Brief.")
        note.setProperty("role", "muted")
        row.addWidget(note)
        row.addStretch()

    def _on_make(self) -> None:
        def make() -> None:
            new_grade(self._desk.workspace, self.grade.text(), self.lot.text(), self._chosen())
            self._desk.messages.note(f"{self.grade.text().strip()} is a grade of this shop now.")
            self.grade.clear()
            self.lot.clear()

        self._desk.run(make)
