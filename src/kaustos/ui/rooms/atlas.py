"""The atlas: all polymers side by side, each value with its range and source, by what this shop can reach."""

import attrs
from PySide6.QtWidgets import QComboBox, QHeaderView

from kaustos.core.memo import by_identity
from kaustos.core.records import (
    CHEMICALS,
    CLARITIES,
    FINISHES,
    OUTDOOR,
    POLYMER_VALUES,
    STRUCTURES,
    WELD_CLASSES,
    Datum,
    Lot,
    Place,
    Polymer,
    with_own_values,
)
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.records.quantities import BY_UNIT
from kaustos.core.review.brief import lack_of
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.leading import lead
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.own_polymer import MakePolymer, OwnPolymerForm
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row

ONE = ("Value", "Typical (range)", "Known from", "In doubt, or the other value")
MOST = 4  # beside one another
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


NAMED = 6  # machines by name in a cell, the others counted


def _some_of(names: list[str]) -> str:
    if not names:
        return "none of ours"
    more = len(names) - NAMED
    return ", ".join(names[:NAMED]) + (f" and {more} more" if more > 0 else "")


@by_identity(512)
def _as_grade(generic: Polymer, lot: Lot) -> Polymer:
    """A polymer as the grade of a lot is known, without what is known of the lot alone."""
    return with_own_values(generic, attrs.evolve(lot, lot_values={}))


class AtlasRoom(Room):
    """The list of polymers and own grades, and every value of the chosen one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(
            desk,
            "Atlas",
            "Generic polymers and yours; ? marks doubt. Choose up to four to compare. HDT by load, MPa; price per kg.",
            "",
        )
        self.reached = QComboBox()
        self.reached.setAccessibleName("Show polymers that can be run on")
        self.reached.activated.connect(self.refresh)
        self.top.addWidget(Label("Runs on"))
        self.top.addWidget(self.reached)
        self.list = Listing(desk, "polymers", ("Polymer", *(words for words, _ in SHOWN), "Runs on"), 0)
        self.list.chosen.connect(self._on_chosen)
        self.heading = Label()
        self.heading.setProperty("role", "heading")
        self.traits = Label(wordWrap=True)
        self.values = PlainTable(ONE)
        self.values.setAccessibleName("Values of the chosen polymer")
        self.making = MakePolymer(desk, self._chosen, self.choose)
        self.own = OwnPolymerForm(desk, self._chosen_value)
        self.column.addWidget(self.list, 3)
        self.column.addWidget(self.heading)
        self.column.addWidget(self.traits)
        self.column.addWidget(self.values, 2)
        self.column.addWidget(self.own)
        self.column.addWidget(self.making)
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
        self._polymers = dict(records.polymers) | self._own_grades()
        on, keys = {}, []
        for key, polymer in self._polymers.items():
            on[key] = [each for each in machines if not lack_of(each, polymer, records.rules).zones]
            wanted = self.reached.currentData()
            if not wanted or (wanted == "*" and on[key]) or wanted in [each.id for each in on[key]]:
                keys.append(key)
        shown = self._polymers
        self.show_empty(False)
        self.list.show_keys(
            tuple(keys),
            lambda key: self._row(key, shown[key], [each.name for each in on[key]]),
            lambda key: (shown[key], tuple(each.name for each in on[key]), self.desk.wording),
        )
        if keys:
            recipe = records.card.recipe if records.current else None
            self.list.choose_first(recipe.polymer if recipe and recipe.polymer in keys else keys[0])
        self._on_chosen()

    def choose(self, key: str) -> None:
        """Show one polymer."""
        self.reached.setCurrentIndex(0)
        self.list.filter.clear()
        self.refresh()
        self.list.choose(key)

    def lead_to(self, place: Place) -> bool:
        """Set the focus into what takes a value of a polymer of ours."""
        self.choose(place.key)
        return lead(self.own, (), place, self.desk.workspace.draft.records)

    def _own_grades(self) -> dict[str, Polymer]:
        """Grades of the shop under their own values, one for each name of a grade."""
        found = {}
        self._names = {}
        polymers = self.desk.workspace.draft.records.polymers
        graded = {lot.grade: lot for lot in self.desk.workspace.draft.records.lots.values() if lot.grade_values}
        for grade, lot in graded.items():
            generic = polymers.get(lot.polymer or "")
            if generic is not None and grade:
                found[f"grade/{grade}"] = _as_grade(generic, lot)
                self._names[f"grade/{grade}"] = f"{grade} (own grade of {generic.name})"
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
        return Row(key, (name, *cells, _some_of(runs_on)), (None, *sort, float(len(runs_on))))

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

    def _chosen_value(self) -> str | None:
        row = self.values.currentRow()
        return list(POLYMER_VALUES)[row] if 0 <= row < len(POLYMER_VALUES) else None

    def _on_chosen(self) -> None:
        keys = [key for key in self.list.chosen_keys() if key in self._polymers][:MOST]
        own = self.desk.workspace.draft.records.own_polymers
        alone = keys[0] if len(keys) == 1 else None
        for widget in (self.heading, self.values):
            widget.setVisible(bool(keys))
        self.traits.setVisible(alone is not None)
        self.own.setVisible(alone in own)
        if alone is not None:
            self._show_one(alone, self._polymers[alone])
            if alone in own:
                self.own.follow(alone)
        elif keys:
            self._show_beside(keys)

    def _show_one(self, key: str, polymer: Polymer) -> None:
        weld = "" if polymer.structure == "amorphous" else f", {WELD_CLASSES[polymer.weld_class]}"
        own = self.desk.workspace.draft.records.own_polymers.get(key)
        base = self._polymers.get(own.based_on or "") if own else None
        of = f", of ours, derived from {base.name}" if base else ", of ours" if own else ""
        self.heading.setText(f"{self._name(key, polymer)}{of}: {STRUCTURES[polymer.structure].lower()}{weld}")
        self.traits.setText(_trait_words(polymer))
        self._headed(ONE, (330, 190, 330))
        opinions = own.opinions if own else {}
        self.values.show_rows([self._value_row(polymer, value, opinions.get(value)) for value in POLYMER_VALUES])

    def _show_beside(self, keys: list[str]) -> None:
        """Values side by side, one column for each polymer."""
        polymers = [self._polymers[key] for key in keys]
        names = [self._name(key, polymer) for key, polymer in zip(keys, polymers, strict=True)]
        self.heading.setText(" beside ".join(names))
        self._headed(("Value", *names), (330, *[220] * (len(names) - 1)))
        rows = [
            (POLYMER_VALUES[value].title, *(self._value_words(each.value(value))[0] for each in polymers))
            for value in POLYMER_VALUES
        ]
        rows.insert(0, ("Structure", *(STRUCTURES[each.structure] for each in polymers)))
        rows.append(("Gives off", *(each.emissions for each in polymers)))
        self.values.show_rows(rows)

    def _headed(self, headings: tuple[str, ...], widths: tuple[int, ...]) -> None:
        self.values.setColumnCount(len(headings))
        self.values.setHorizontalHeaderLabels(list(headings))
        header = self.values.horizontalHeader()
        for column, width in enumerate(widths):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Interactive)
            header.resizeSection(column, width)
        header.setSectionResizeMode(len(headings) - 1, QHeaderView.ResizeMode.Stretch)

    def _value_row(self, polymer: Polymer, key: str, opinion: Datum | None) -> tuple[str, str, str, str]:
        words, known = self._value_words(polymer.value(key))
        datum = polymer.value(key)
        doubt = datum.doubt if datum else ""
        if opinion is not None:
            other, where = self._value_words(opinion)
            doubt = f"the other value: {other}, {where}"
        return POLYMER_VALUES[key].title, words, known, doubt

    def _value_words(self, datum: Datum | None) -> tuple[str, str]:
        wording = self.desk.wording
        if datum is None:
            return "not known", ""
        quantity = BY_UNIT[datum.unit]
        low, high = wording.number(datum.low, quantity), wording.number(datum.high, quantity)
        typical = wording.value(datum.value, quantity)
        if datum.rival is not None:
            typical = f"{wording.number(datum.value, quantity)} or {wording.value(datum.rival, quantity)}"
        return f"{typical} ({low} to {high})", f"{datum.kind}: {datum.source}"


def _trait_words(polymer: Polymer) -> str:
    traits = polymer.traits
    attacked = ", ".join(CHEMICALS[each].lower() for each in traits.attacked_by)
    words = [
        f"It {OUTDOOR[traits.outdoor]}", f"looks {CLARITIES[traits.clarity]} and {FINISHES[traits.finish]}",
        f"is attacked by {attacked}" if attacked else "is attacked by none of the usual",
        *(HANDLINGS[each] for each in traits.goes_badly),
        f"gives off {polymer.emissions}",
    ]  # fmt: skip
    return f"{'; '.join(words)} ({traits.kind}). {' '.join(polymer.cautions)}".strip()
