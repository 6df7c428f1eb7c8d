"""An open workspace: its records as a draft, autosave, revisions, files in and out."""

import json
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import attrs

from kaustos.app.edits import Change, Draft, Edit
from kaustos.app.exchange import read_file, with_document
from kaustos.app.judge import context_of_records
from kaustos.app.records import RecipeCard, Records
from kaustos.app.settings import Settings
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.records import Lot, Machine, Rules
from kaustos.core.review import Context, Review, review
from kaustos.formats.recipe_file import RecipeDocument, recipe_document, recipe_from, write_recipe
from kaustos.formats.records import from_document, to_document
from kaustos.store import InUse, Revision, Store

Clock = Callable[[], datetime]
STATUSES = {"draft": "draft", "on_trial": "on trial", "released": "released", "withdrawn": "withdrawn"}


def utc_now() -> datetime:
    """The time now, in UTC."""
    return datetime.now(UTC)


class Workspace:
    """What a window or a command works on."""

    def __init__(self, file: Path, settings: Settings | None = None, clock: Clock = utc_now) -> None:
        self.settings, self.clock = settings or Settings(), clock
        self.notice = ""
        try:
            self._store = Store(file, write=True)
        except InUse as error:
            self._store = Store(file, write=False)
            self.notice = str(error)
        try:
            records = _read_records(self._store)
        except BaseException:
            self._store.close()
            raise
        self._saved = records
        self._edits: list[Edit] = []
        self._revisions: dict[str, tuple[Revision, ...]] = {}  # by card, as far as they were asked for
        wording = Wording(self.settings)
        self.draft = Draft(records, wording, self._edits.append, read_only=not self._store.write)

    # ---- what is open

    @property
    def file(self) -> Path:
        """Where the workspace is kept."""
        return self._store.file

    @property
    def unsaved(self) -> bool:
        """Whether the file lags behind the draft."""
        return bool(self._edits) or self.draft.records is not self._saved

    def context(self) -> Context:
        """What the open recipe is judged with."""
        return context_of_records(self.draft.records, self.clock())

    def review(self) -> Review:
        """The judgement of the open recipe."""
        return review(self.draft.records.card.recipe, self.context())

    def use_settings(self, settings: Settings) -> None:
        """Word everything under other settings from now on."""
        self.settings = settings
        self.draft.wording = Wording(settings)

    # ---- keeping

    def autosave(self) -> None:
        """Bring the file up to the draft: every changed record and every edit, all or none."""
        if not self._store.write or not self.unsaved:
            return
        now = _stamp(self.clock())
        edits = [
            {"at_utc": now, "who": self.settings.who, "title": edit.title, "changes": _changes_text(edit.changes)}
            for edit in self._edits
        ]
        records = self.draft.records
        self._store.put_documents(_changed(self._saved, records), now, edits)
        self._saved = records
        self._edits.clear()

    def close(self) -> None:
        """Save and let go of the file."""
        self.autosave()
        self._store.close()

    # ---- revisions

    def save_revision(self, why: str) -> Revision:
        """Save the open recipe as its next revision."""
        self.autosave()
        card = self.draft.records.current or ""
        document = self.document()
        machine = document.machine
        revision = Revision(
            card=card,
            number=max((each.number for each in self.revisions()), default=0) + 1,
            status="draft",
            who=self.settings.who,
            why=why.strip(),
            saved_utc=_stamp(self.clock()),
            polymer=document.recipe.polymer,
            machine=machine.id if isinstance(machine, Machine) else machine,
            grade=self.review().grade.value,
            document=json.dumps(recipe_document(document), ensure_ascii=False),
        )
        self._store.add_revision(revision)
        self._revisions.pop(card, None)
        return revision

    def revisions(self) -> tuple[Revision, ...]:
        """Revisions of the open recipe, newest first."""
        card = self.draft.records.current or ""
        if card not in self._revisions:
            self._revisions[card] = self._store.revisions(card)
        return self._revisions[card]

    def differs_from_last_revision(self) -> bool:
        """Whether the draft says anything that its newest revision does not."""
        found = self.revisions()
        return not found or json.loads(found[0].document) != json.loads(json.dumps(recipe_document(self.document())))

    def history(self) -> tuple[tuple[str, str, str], ...]:
        """The latest edits: when, who, what."""
        return tuple((each.at_utc, each.who, each.title) for each in self._store.history())

    # ---- files

    def document(self) -> RecipeDocument:
        """The open recipe with whole records, to be judged elsewhere."""
        records = self.draft.records
        card = records.card
        return RecipeDocument(
            recipe=card.recipe,
            machine=records.machines.get(card.machine or "", card.machine),
            lot=records.lots.get(card.lot or "", card.lot),
            rules=None if records.rules == Rules() else records.rules,
        )

    def export_recipe(self, file: Path) -> None:
        """Write the open recipe as a recipe file."""
        file.write_text(write_recipe(self.document()), encoding="utf-8")

    def import_recipe(self, file: Path) -> None:
        """Take a recipe file in as a new card with the machine and lot it brings, and open it."""
        if self.draft.read_only:
            raise KaustosError("This workspace is open for reading only; nothing was taken in.")
        self.draft.add_card(with_document(self.draft.records, read_file(file), file.name))

    def machines(self) -> dict[str, Machine]:
        """The shop's machines by id."""
        return dict(self.draft.records.machines)


def _stamp(moment: datetime) -> str:
    return moment.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")


def _changes_text(changes: tuple[Change, ...]) -> str:
    rows = [{"place": each.place, "before": _plain(each.before), "after": _plain(each.after)} for each in changes]
    return json.dumps(rows, ensure_ascii=False)


def _plain(value: object) -> object:
    return to_document(value) if attrs.has(type(value)) else value


# ---- records to documents and back


def _read_records(store: Store) -> Records:
    cards = {key: _card(key, document) for key, document in store.documents("card").items()}
    machines = {key: from_document(Machine, each, f"machine {key}") for key, each in store.documents("machine").items()}
    lots = {key: from_document(Lot, each, f"lot {key}") for key, each in store.documents("lot").items()}
    shop = store.documents("shop").get("shop", {})
    rules = from_document(Rules, shop.get("rules", {}), "rules")
    current = shop.get("current")
    return Records(
        cards=cards, machines=machines, lots=lots, rules=rules,
        current=current if current in cards else next(iter(cards), None),
    )  # fmt: skip


def _card(key: str, document: dict[str, object]) -> RecipeCard:
    found = recipe_from(document, f"recipe {key}")
    return RecipeCard(recipe=found.recipe, machine=_id(found.machine), lot=_id(found.lot))


def _id(record: Machine | Lot | str | None) -> str | None:
    return record if record is None or isinstance(record, str) else record.id


def _changed(before: Records, after: Records) -> list[tuple[str, str, dict[str, object]]]:
    rows: list[tuple[str, str, dict[str, object]]] = []
    for key, card in after.cards.items():
        if before.cards.get(key) != card:
            document = RecipeDocument(recipe=card.recipe, machine=card.machine, lot=card.lot)
            rows.append(("card", key, recipe_document(document)))
    rows += [
        ("machine", key, to_document(each)) for key, each in after.machines.items() if before.machines.get(key) != each
    ]
    rows += [("lot", key, to_document(each)) for key, each in after.lots.items() if before.lots.get(key) != each]
    if (before.rules, before.current) != (after.rules, after.current):
        rows.append(("shop", "shop", {"rules": to_document(after.rules), "current": after.current}))
    return rows


def fill(file: Path, records: Records, clock: Clock = utc_now) -> None:
    """Write records into a new workspace file."""
    store = Store(file, write=True)
    try:
        empty = Records(cards={}, machines={}, lots={})
        store.put_documents(_changed(empty, records), _stamp(clock()))
    finally:
        store.close()


def read_records(file: Path) -> Records:
    """The records of a workspace, read without writing to it."""
    store = Store(file, write=False)
    try:
        return _read_records(store)
    finally:
        store.close()
