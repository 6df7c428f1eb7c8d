"""The one way to change a record: propose a value for a path; it becomes an edit that can be undone.

Impossible values are refused with a KaustosError and never reach a record; unwise ones enter and are
judged. One drag, or typing in one field, is one edit: proposals of one gesture are joined.
"""

from collections.abc import Callable, Mapping

import attrs

from kaustos.app.quantities import read
from kaustos.app.records import Records, path_of
from kaustos.app.wording import Wording, field_declaration, quantity_of
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.records import POLYMER_VALUES, Datum, check_datum
from kaustos.core.records.quantities import QUANTITIES, check_number, check_text

NONE_FITTED = "none"


@attrs.frozen
class Change:
    """One place with its value before and after."""

    place: str
    before: object
    after: object


@attrs.frozen
class Edit:
    """What one undo takes back."""

    title: str
    changes: tuple[Change, ...]
    card: str | None
    gesture: str = ""

    def reversed(self) -> "Edit":
        """The edit that takes this one back."""
        changes = tuple(Change(each.place, each.after, each.before) for each in reversed(self.changes))
        return attrs.evolve(self, title=f"Undo: {self.title}", changes=changes, gesture="")


Listener = Callable[[], None]
Historian = Callable[[Edit], None]


class Draft:
    """The records being edited, with undo, redo and those who want to hear of a change."""

    def __init__(self, records: Records, wording: Wording, historian: Historian, *, read_only: bool = False) -> None:
        self.records = records
        self.wording = wording
        self.read_only = read_only
        self._historian = historian
        self._done: list[Edit] = []
        self._undone: list[Edit] = []
        self._listeners: list[Listener] = []

    # ---- hearing and showing

    def listen(self, listener: Listener) -> None:
        """Call the listener after every change."""
        self._listeners.append(listener)

    def value(self, path: str) -> object:
        """The value at a path of the open card."""
        return self.records.at(self.records.place(path))

    def text(self, path: str) -> str:
        """The value at a path as it stands in a field, empty where it is not recorded."""
        value, quantity = self.value(path), quantity_of(path)
        if value is None:
            return NONE_FITTED if is_limit(path) and self.value(fitted_path(path)) is False else ""
        if isinstance(value, bool):
            return "yes" if value else "no"
        if isinstance(value, Datum):
            return own_value_text(value, self.wording)
        return self.wording.number(float(str(value)), quantity) if quantity else str(value)

    # ---- changing

    def propose(self, path: str, text: str, gesture: str = "") -> None:
        """Read a person's text and set it; raises a KaustosError where it is no value of the field."""
        if is_limit(path):
            self.set(self._limit(path, text), gesture=gesture)
        elif is_own_value(path):
            self._set_own_value(path, text)
        else:
            self.set({path: self.parsed(path, text)}, gesture=gesture)

    def _limit(self, path: str, text: str) -> dict[str, object]:
        """A part's limit as typed: a temperature, "none" for no such part, empty for not recorded."""
        fitted = fitted_path(path)
        if text.strip().lower() == NONE_FITTED:
            return {fitted: False, path: None}
        value = self.parsed(path, text)
        passive = path_of(path) == "machine.chamber.heater.max_c" and self.value(fitted) is False
        return {path: value, fitted: False if passive else None if value is None else True}

    def _set_own_value(self, path: str, text: str) -> None:
        """An own value of the lot, or of the grade and so of every lot of it."""
        draft_lot = self.records.card.lot
        datum = read_own_value(path, text, self)
        places = [self.records.place(path)]
        if path.startswith("lot.grade_values."):
            rest = path.removeprefix("lot.")
            places = [f"lots/{key}/{rest}" for key in self.records.lots_of_grade(draft_lot or "")]
        changes = tuple(Change(place, self.records.at(place), datum) for place in places)
        title = f"{self.wording.field(path)}: {text.strip() or 'back to the library'}"
        if any(change.before != change.after for change in changes):
            self._apply(Edit(title[:1].upper() + title[1:], changes, self.records.current))

    def parsed(self, path: str, text: str) -> object:
        """The value that a text gives for the field at a path; empty text is "not recorded"."""
        declared, quantity = field_declaration(path), quantity_of(path)
        plain = text.strip()
        if quantity:
            required = path.startswith("rules.")
            if not plain and not required:
                return None
            return self.quantity(plain, quantity)
        if declared is not None and "choices" in declared.metadata:
            if plain and plain not in declared.metadata["choices"]:
                raise FieldError(path, f"{plain!r:.40} is none of {', '.join(declared.metadata['choices'])}")
            return plain or None
        if declared is not None and declared.metadata.get("flag"):
            return {"": None, "yes": True, "no": False}[plain]
        return check_text(self.wording.field(path), plain)

    def quantity(self, text: str, quantity: str) -> float:
        """The value that a text gives in shop units; a bare number is meant in the unit that the user chose."""
        plain = text.strip()
        bare = plain[-1:].isdigit() or plain[-1:] in (".", ",")
        shows_fahrenheit = self.wording.settings.temperature == "°F"
        unit = " F" if bare and shows_fahrenheit and quantity.startswith("temperature") else ""
        return read(plain + unit, quantity)

    def set(self, values: Mapping[str, object], title: str = "", gesture: str = "") -> None:
        """Set values at paths of the open card as one edit."""
        changes = []
        for path, value in values.items():
            if isinstance(value, float) and quantity_of(path):
                check_number(self.wording.field(path), value, str(quantity_of(path)))
            place = self.records.place(path)
            before = self.records.at(place)
            if before != value:
                changes.append(Change(place, before, value))
        if changes:
            self._apply(Edit(title or self._title(values), tuple(changes), self.records.current, gesture))

    def _title(self, values: Mapping[str, object]) -> str:
        path, value = next(iter(values.items()))
        field = self.wording.field(path)
        return f"{field[:1].upper()}{field[1:]}: {self.wording.field_value(path, value)}"

    def _apply(self, edit: Edit) -> None:
        if self.read_only:
            raise KaustosError("This workspace is open for reading only; nothing was changed.")
        records = self.records
        for change in edit.changes:
            records = records.with_at(change.place, change.after)
        self.records = records
        self._remember(edit)
        self._undone.clear()
        self._historian(edit)
        self._announce()

    def _remember(self, edit: Edit) -> None:
        last = self._done[-1] if self._done else None
        if last and edit.gesture and edit.gesture == last.gesture and _places(last) == _places(edit):
            joined = tuple(
                Change(old.place, old.before, new.after) for old, new in zip(last.changes, edit.changes, strict=True)
            )
            self._done[-1] = attrs.evolve(edit, changes=joined)
        else:
            self._done.append(edit)

    # ---- undo and redo

    @property
    def undo_title(self) -> str:
        """What undo would take back, empty for nothing."""
        return self._done[-1].title if self._done else ""

    def undo(self) -> None:
        """Take the last edit back, on the card it was made on."""
        if self._done:
            edit = self._done.pop()
            self._undone.append(edit)
            self._replay(edit.reversed())

    def redo(self) -> None:
        """Do again what was taken back."""
        if self._undone:
            edit = self._undone.pop()
            self._done.append(attrs.evolve(edit, gesture=""))
            self._replay(attrs.evolve(edit, title=f"Redo: {edit.title}"))

    def _replay(self, edit: Edit) -> None:
        records = self.records
        for change in edit.changes:
            records = records.with_at(change.place, change.after)
        current = edit.card if edit.card in records.cards else records.current
        self.records = attrs.evolve(records, current=current)
        self._historian(edit)
        self._announce()

    def open_card(self, card: str) -> None:
        """Show another recipe; not an edit."""
        if card not in self.records.cards:
            raise KaustosError(f"There is no recipe {card!r} in this workspace.")
        self.records = attrs.evolve(self.records, current=card)
        self._announce()

    def add(self, kind: str, key: str, record: object, title: str) -> None:
        """Add a whole record as one edit; undo takes it away again. A new card is opened."""
        self._apply(
            Edit(title, (Change(f"{kind}/{key}", None, record),), key if kind == "cards" else self.records.current)
        )
        if kind == "cards":
            self.open_card(key)

    def take_over(self, records: Records, title: str) -> None:
        """Take over records that hold more than these do, as one edit."""
        changes = tuple(
            Change(f"{kind}/{key}", None, record)
            for kind in ("machines", "lots", "dryers", "runs", "cards")
            for key, record in getattr(records, kind).items()
            if key not in getattr(self.records, kind)
        )
        if changes:
            self._apply(Edit(title, changes, records.current))
        if records.current is not None:
            self.open_card(records.current)

    def reload(self, records: Records) -> None:
        """Show what another window has written; what could be undone here belongs to an older state."""
        self.records = records
        self._done.clear()
        self._undone.clear()
        self._announce()

    def _announce(self) -> None:
        for listener in tuple(self._listeners):
            listener()


def _places(edit: Edit) -> tuple[str, ...]:
    return tuple(change.place for change in edit.changes)


def is_limit(path: str) -> bool:
    """Whether a path names the limit of a machine part."""
    return path_of(path).startswith("machine.") and path.endswith(".max_c")


def fitted_path(path: str) -> str:
    """The path that says whether the part of a limit is fitted."""
    return path.removesuffix("max_c") + "fitted"


def is_own_value(path: str) -> bool:
    """Whether a path names a lot's or a grade's own value of a polymer property."""
    return path_of(path).startswith(("lot.lot_values.", "lot.grade_values."))


def read_own_value(path: str, text: str, draft: Draft) -> Datum | None:
    """An own value as typed, "141" or "141 ± 2"; empty takes it back."""
    key = path.split(".")[-1]
    kind = POLYMER_VALUES[key]
    if not text.strip():
        return None
    middle, _, spread = text.replace("+/-", "±").replace("+-", "±").partition("±")
    value = draft.parsed(path, middle)
    assert isinstance(value, float), "every polymer value is a number"
    width = 0.0
    if spread.strip():
        width = draft.quantity(spread, "temperature_difference" if kind.quantity == "temperature" else kind.quantity)
    lot = draft.records.lots[draft.records.card.lot or ""]
    scope = f"lot {lot.name}" if path.startswith("lot.lot_values.") else f"grade {lot.grade}"
    source = f"own value for {scope}"
    return check_datum(
        key, Datum(value=value, low=value - width, high=value + width, unit=kind.unit, kind="own", source=source)
    )


def own_value_text(datum: Datum, wording: Wording) -> str:
    """An own value as it stands in its field."""
    quantity = next(name for name, each in QUANTITIES.items() if each.unit == datum.unit)
    text = wording.number(datum.value, quantity)
    if datum.high > datum.value:
        width = "temperature_difference" if quantity == "temperature" else quantity
        text += f" ± {wording.number(datum.high - datum.value, width)}"
    return text
