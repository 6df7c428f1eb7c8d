"""The one way to change a record: propose a value for a path; it becomes an edit that can be undone.

Impossible values are refused with a KaustosError and never reach a record; unwise ones enter and are
judged. One drag, or typing in one field, is one edit: proposals of one gesture are joined.
"""

from collections.abc import Callable, Mapping
from typing import Any

import attrs

from kaustos.app.field_kinds import kind_of, quantity_of
from kaustos.app.records import Address, Records
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.records import KINDS, Place
from kaustos.core.records.quantities import check_number


@attrs.frozen
class Change:
    """One place with its value before and after."""

    place: Place
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

    def value(self, address: Address) -> object:
        """The value at an address."""
        return self.records.at(self.records.place(address))

    def text(self, address: Address) -> str:
        """The value at an address as it stands in a field, empty where it is not recorded."""
        place = self.records.place(address)
        return kind_of(place.path).shown(self.records, self.wording, place)

    # ---- changing

    def propose(self, address: Address, text: str, gesture: str = "") -> None:
        """Read a person's text and set it; raises a KaustosError where it is no value of the field."""
        place = self.records.place(address)
        self.set(kind_of(place.path).read(self.records, self.wording, place, text), gesture=gesture)

    def set(self, values: Mapping[Any, object], title: str = "", gesture: str = "", card: str | None = None) -> None:
        """Set values at addresses as one edit; as a named recipe sees them, else as the open one does.

        An answer that lands late names the recipe that it was asked for: by then another may be open.
        """
        changes, seen = [], self.records.seen_by(card)
        for address, value in values.items():
            place = seen.place(address)
            if isinstance(value, float) and (quantity := quantity_of(place.path)):
                check_number(self.wording.field(place.path), value, quantity)
            before = self.records.at(place)
            if before != value:
                changes.append(Change(place, before, value))
        if changes:
            words = title or self._title(seen.place(next(iter(values))), next(iter(values.values())))
            self._apply(Edit(words, tuple(changes), seen.current, gesture))

    def _title(self, place: Place, value: object) -> str:
        field = self.wording.field(place.path)
        return f"{field[:1].upper()}{field[1:]}: {self.wording.field_value(place.path, value)}"

    def _apply(self, edit: Edit) -> None:
        if self.read_only:
            raise KaustosError("This workspace is open for reading only; nothing was changed.")
        self.records = self.records.with_all({change.place: change.after for change in edit.changes})
        self._remember(edit)
        self._undone.clear()
        self._historian(edit)
        self._announce()

    def _remember(self, edit: Edit) -> None:
        last = self._done[-1] if self._done else None
        if last and edit.gesture and edit.gesture == last.gesture and last.card == edit.card:
            joined = {change.place: change for change in last.changes}
            for new in edit.changes:
                old = joined.get(new.place, new)
                joined[new.place] = Change(new.place, old.before, new.after)
            self._done[-1] = attrs.evolve(edit, changes=tuple(joined.values()))
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
        records = self.records.with_all({change.place: change.after for change in edit.changes})
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
            Edit(title, (Change(Place(kind, key), None, record),), key if kind == "cards" else self.records.current)
        )
        if kind == "cards":
            self.open_card(key)

    def take_over(self, records: Records, title: str) -> None:
        """Take over records that hold more than these do, as one edit."""
        changes = tuple(
            Change(Place(kind.many, key), None, record)
            for kind in KINDS
            for key, record in records.tables[kind.many].items()
            if key not in self.records.tables[kind.many]
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
