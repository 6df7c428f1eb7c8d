"""An open workspace: its records as a draft, autosave, revisions, files in and out."""

import functools
import json
import logging
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

import attrs

from kaustos.app.edits import Change, Draft, Edit
from kaustos.app.exchange import photos_along, read_file, with_document
from kaustos.app.indexes import Indexes
from kaustos.app.judge import Judge, context_of_records, judge_document, shop_of
from kaustos.app.records import Records
from kaustos.app.results import Request
from kaustos.app.revisions import leaves, leaves_of, plain_of
from kaustos.app.settings import Settings
from kaustos.app.stops import signed
from kaustos.app.stored import (
    LATE,
    Late,
    Row,
    Unread,
    changed,
    document_of,
    not_readable,
    read_store,
    read_whole,
    unread_words,
    without,
)
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.records import KINDS, Machine, Rules
from kaustos.core.review import Context, Past, Review, Shop
from kaustos.disk import name_of, read_bytes, write_whole
from kaustos.formats.recipe_file import RecipeDocument, recipe_document, recipe_from, write_recipe
from kaustos.store import (
    Backup,
    InUse,
    NotWritable,
    Revision,
    SourceLost,
    StatusEntry,
    Store,
    StoreError,
    back_up,
    backups_of,
)

if TYPE_CHECKING:  # loads arithmetic that the first window does without
    from kaustos.core.review.experience import Maturity

Clock = Callable[[], datetime]
STATUSES = {"draft": "draft", "on_trial": "on trial", "released": "released", "withdrawn": "withdrawn"}


LARGEST_ATTACHMENT = 25_000_000
MOST_ALONG = 20_000_000  # bytes of photos in a recipe file
BACKUP = "workspace.backup"  # key of the request


def utc_now() -> datetime:
    """The time now, in UTC."""
    return datetime.now(UTC)


class Workspace:
    """What a window or a command works on."""

    def __init__(
        self, file: Path, settings: Settings | None = None, clock: Clock = utc_now, *, write: bool = True
    ) -> None:
        self.settings, self.clock = settings or Settings(), clock
        self.notice = ""
        self.judge, self.indexes = Judge(), Indexes()
        try:
            self._store = Store(file, write=write)
        except (InUse, NotWritable) as error:
            self._store = _read_only(file, error)
            self.notice = _read_only_words(error, self._store)
        try:
            records, self._unread = read_store(self._store)
        except BaseException:
            self._store.close()
            raise
        self.notice = " ".join(filter(None, (self.notice, unread_words(self._unread))))
        self._saved = records
        self._late = _late_of(records)
        self._edits: list[Edit] = []
        self._revisions: dict[str, tuple[Revision, ...]] = {}  # by card, as far as they were asked for
        self._out: dict[str, str] | None = None
        self._version = self._store.version()
        self._proven: tuple[Records, Maturity] | None = None  # what runs prove, for the records it was found in
        self._shop: tuple[tuple[object, ...], Shop] | None = None  # what the shop has, for the records it was made of
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

    @property
    def unread(self) -> tuple[Unread, ...]:
        """Stored records that cannot be read, of the log as far as it has been read."""
        return (*self._unread, *(each for table in self._late for each in table.unread))

    def read_on(self) -> bool:
        """Read for a slice of time of what the first picture did not need; whether all is read."""
        return all(table.read_some() for table in self._late)

    def late_words(self) -> str:
        """What of it could not be read, empty for nothing."""
        return unread_words(tuple(each for table in self._late for each in table.unread))

    def context(self, *, at_first: bool = False) -> Context:
        """What the open recipe is judged with; for the first picture without log and other recipes."""
        records = self.draft.records
        if at_first and records.current:
            lot = records.lots.get(records.card.lot or "")
            alone = records.with_tables(
                cards={records.current: records.card}, lots={lot.id: lot} if lot else {}, runs={}
            )
            return context_of_records(alone, self.clock())
        found, proven = context_of_records(records, self.clock(), self.shop(), self.indexes), self.maturity()
        past = attrs.evolve(found.past or Past(), same=proven.good, same_shapes=proven.shapes)
        return attrs.evolve(found, past=past)

    def maturity(self) -> "Maturity":
        """How far runs prove the open recipe as it stands; worked out once for each state of the draft."""
        records = self.draft.records
        if self._proven is None or self._proven[0] is not records:
            self._proven = (records, self.maturity_of(records.current or ""))
        return self._proven[1]

    def maturity_of(self, card: str) -> "Maturity":
        """How far the runs of a recipe prove it as it stands: same settings, same machine configuration."""
        return self.maturity_under(card, lambda: leaves_of(self.document(card)))

    def maturity_under(self, card: str, settings: Callable[[], Mapping[str, Any]]) -> "Maturity":
        """How far the runs of a recipe prove it under some settings."""
        from kaustos.app.maturity import maturity_under

        records = self.draft.records
        runs = self.indexes.runs_of(records.runs, card)
        return maturity_under(runs, settings, lambda run: self.revision(run.card, run.revision), records.rules)

    def shop(self) -> Shop:
        """What else the shop could use."""
        records = self.draft.records
        if self._shop is None or self._shop[0] != _shop_parts(records):
            self._shop = (_shop_parts(records), shop_of(records, self.indexes))
        return self._shop[1]

    def review(self) -> Review:
        """The judgement of the open recipe, to the end."""
        return self.judged()[1]

    def judged(self) -> tuple[Context, Review]:
        """The judgement of the open recipe to the end, with the context it was made in."""
        return self.judge.to_the_end(self.draft.records.card.recipe, self.context())

    def judged_now(self) -> tuple[Context, Review]:
        """The same without waiting for what takes long: findings and grade are whole, offers may be missing."""
        found = self.judge.at_hand(self.draft.records.card.recipe, self.context())
        return found.context, found.review

    def use_settings(self, settings: Settings) -> None:
        """Word everything under other settings from now on."""
        self.settings = settings
        self.draft.wording = Wording(settings)

    # ---- keeping

    def autosave(self) -> None:
        """Bring the file up to the draft: every changed record and every edit, all or none."""
        if not self._store.write or not self.unsaved:
            return
        records = self.draft.records
        rows, now, edits = self._to_save()
        faults = {at: fault for at, row in enumerate(rows) if (fault := not_readable(row, self.unread))}
        self._store.put_documents([row for at, row in enumerate(rows) if at not in faults], now, edits)
        self._saved = without(records, self._saved, [rows[at] for at in faults]) if faults else records
        self._edits.clear()
        if faults:
            raise KaustosError(f"Not all could be saved: {'; '.join(faults.values())}. All else is saved.")

    def _to_save(self) -> tuple[list[Row], str, list[dict[str, str]]]:
        """What the file lags behind by: documents, moment, edits."""
        now = stamp(self.clock())
        edits = [
            {"at_utc": now, "who": self.settings.who, "title": edit.title, "changes": _changes_text(edit.changes)}
            for edit in self._edits
        ]
        return changed(self._saved, self.draft.records), now, edits

    def close(self, *, discard: bool = False) -> None:
        """Save, unless what is not saved is to be discarded, and let go of the file."""
        if not discard:
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
            saved_utc=stamp(self.clock()),
            polymer=document.recipe.polymer,
            machine=machine.id if isinstance(machine, Machine) else machine,
            grade=self.judged_now()[1].grade.value,
            document=json.dumps(recipe_document(document), ensure_ascii=False),
        )
        self._store.add_revision(revision)
        self._revisions.pop(card, None)
        return revision

    def revisions(self) -> tuple[Revision, ...]:
        """Revisions of the open recipe, newest first."""
        return self.revisions_of(self.draft.records.current or "")

    def revisions_of(self, card: str) -> tuple[Revision, ...]:
        """Revisions of any recipe, newest first."""
        if card not in self._revisions:
            self._revisions[card] = self._store.revisions(card)
        return self._revisions[card]

    def released(self) -> dict[str, str]:
        """The document of the newest released revision of every recipe that has one."""
        if self._out is None:
            self._out = self._store.released()
        return self._out

    def kept_revisions(self) -> frozenset[tuple[str, float]]:
        """Recipe and number of every revision that is kept."""
        return self._store.kept_revisions()

    def differs_from_last_revision(self) -> bool:
        """Whether the draft says anything that its newest revision does not."""
        found = self.revisions()
        if not found:
            return True
        return _leaves_of(found[0].document) != leaves_of(self.document())

    def revision(self, card: str, number: float) -> Revision | None:
        """One revision of any recipe."""
        return next((each for each in self.revisions_of(card) if each.number == number), None)

    def set_status(self, number: int, status: str, why: str) -> None:
        """Give a revision of the open recipe another status; withdrawing needs a reason."""
        if status not in STATUSES:
            raise KaustosError(f"{status!r} is no status; known: {', '.join(STATUSES.values())}")
        if status == "withdrawn" and not why.strip():
            raise KaustosError("Withdrawing a revision needs a reason, for those who printed from it.")
        card = self.draft.records.current or ""
        if status == "released":
            why = self._released(card, number, why)
        entry = StatusEntry(
            number=number, status=status, who=self.settings.who, why=why.strip(), at_utc=stamp(self.clock())
        )
        self._store.set_status(card, number, entry)
        self._revisions.pop(card, None)
        self._out = None

    def _released(self, card: str, number: int, why: str) -> str:
        """Why a revision is released; despite a stop with the name of who answers for it."""
        found = self.revision(card, number)
        if found is None:
            raise KaustosError(f"There is no revision {number} to release.")
        document = recipe_from(plain_of(found.document), f"revision {number}")
        _, review = judge_document(document, f"revision {number}", self.draft.records, self.clock())
        return signed(f"Releasing revision {number}", review, self.draft.wording, self.settings.who, why) or why

    def statuses(self, card: str | None = None) -> tuple[StatusEntry, ...]:
        """Changes of status of the open recipe's revisions, the newest first."""
        return self._store.statuses(card or self.draft.records.current or "")

    def history(self) -> tuple[tuple[str, str, str], ...]:
        """The latest edits: when, who, what."""
        return tuple((each.at_utc, each.who, each.title) for each in self._store.history())

    # ---- files

    def document(self, key: str = "") -> RecipeDocument:
        """A recipe, the open one where none is named, with whole records, to be judged elsewhere."""
        records = self.draft.records
        card = records.cards[key] if key else records.card
        return RecipeDocument(
            recipe=card.recipe,
            chosen={**card.chosen, **records.chosen(card)},
            rules=None if records.rules == Rules() else records.rules,
            own_polymer=records.own_polymers.get(card.recipe.polymer or ""),
            extra_context=dict(card.extra),
            beside=dict(card.beside),
        )

    def export_recipe(self, file: Path) -> str:
        """Write the open recipe as a recipe file, with the photos of its records; what is left out, in words."""
        document, photos, left = self.document(), dict[str, bytes](), []
        for photo in photos_along(document):
            content = self.attachment(photo.sha256)
            if content is None or sum(map(len, photos.values())) + len(content) > MOST_ALONG:
                left.append(photo.name)
            else:
                photos[photo.sha256] = content
        write_whole(file, write_recipe(attrs.evolve(document, photos=photos)))
        return f"Without {len(left)} photos, for which there was no room: {', '.join(left):.200}." if left else ""

    def import_recipe(self, file: Path) -> None:
        """Take a recipe file in as a new card with the machine and lot it brings, and open it."""
        if self.draft.read_only:
            raise KaustosError("This workspace is open for reading only; nothing was taken in.")
        document = read_file(file)
        taken = with_document(self.draft.records, document, name_of(file))
        self.keep_along(document)
        self.draft.take_over(taken, f"Taken in: {name_of(file)}")

    def keep_along(self, document: RecipeDocument) -> None:
        """Keep the photos that came with a recipe file, under the names that its records give them."""
        names = {photo.sha256: photo.name for photo in photos_along(document)}
        for key, content in document.photos.items():
            if key in names:
                self.keep(names[key], content)

    def attach(self, file: Path) -> str:
        """Keep a file in the workspace; its fingerprint."""
        content = read_bytes(file, LARGEST_ATTACHMENT)
        return self._store.attach(name_of(file), content, stamp(self.clock()))

    def keep(self, name: str, content: bytes) -> str:
        """Keep what is in a file that was read already, and give its fingerprint."""
        return self._store.attach(name, content, stamp(self.clock()))

    def attachment(self, key: str) -> bytes | None:
        """The content of a kept file."""
        return self._store.attachment(key)

    def save_copy(self, target: Path) -> str:
        """Write a copy of the workspace as it stands on the screen, also where its own file cannot be read any more.

        What had to be left out, in words; empty for nothing.
        """
        left = ""
        try:
            self._store.copy_to(target)
        except SourceLost as fault:
            fill(target, self._at_hand(), self.clock)
            left = f"Revisions, photos and what was not read yet are not in it: {fault.problem}."
        if not self.unsaved:
            return left
        copy = Store(target, write=True)
        try:
            rows, now, edits = self._to_save()
            faults = [not_readable(row, self.unread) for row in rows]
            copy.put_documents([row for row, fault in zip(rows, faults, strict=True) if not fault], now, edits)
        finally:
            copy.close()
        return " ".join(filter(None, (left, *faults)))

    def _at_hand(self) -> Records:
        """The records as far as they are read, for a file that can be read no more."""
        late = {name: table for name in LATE if isinstance(table := self.draft.records.tables[name], Late)}
        return self.draft.records.with_tables(**{name: table.at_hand for name, table in late.items()})

    @property
    def is_displaced(self) -> bool:
        """Whether the file was deleted, moved, replaced or written by another since it was opened."""
        return self._store.write and self._store.is_displaced

    def write_anew(self) -> str:
        """Put what is open under its name again, after the file was deleted, moved or replaced; what was done."""
        if self.draft.read_only:
            raise KaustosError("This workspace is open for reading only; nothing was written.")
        kept = self._store.write_anew()
        self._saved = Records.of()  # whatever stands there now, all that is open is written
        self.autosave()
        beside = f" What stood there is kept as {name_of(kept)}." if kept else ""
        return f"{name_of(self.file)} is written anew.{beside}"

    # ---- backups

    def backups(self) -> tuple[Backup, ...]:
        """Earlier states of this workspace beside it, the newest first."""
        return backups_of(self.file)

    def backup_request(self) -> Request:
        """Keep the state of this day, where it is not kept yet; the file it is in, None where there is one already."""
        file, now = self.file, self.clock()
        return Request(BACKUP, (file, now.astimezone().date()), lambda _: back_up(file, now))

    def follow(self) -> bool:
        """For a window that only reads: show what the writer has written since; whether there was anything."""
        version = self._store.version()
        if version == self._version:
            return False
        self._version = version
        self._revisions.clear()
        self._out = None
        current = self.draft.records.current
        records, self._unread = read_store(self._store)
        if current in records.cards:
            records = attrs.evolve(records, current=current)
        self._saved = records
        self._late = _late_of(records)
        self.draft.reload(records)
        return True

    def machines(self) -> dict[str, Machine]:
        """The shop's machines by id."""
        return dict(self.draft.records.machines)


@functools.lru_cache(maxsize=64)
def _leaves_of(document: str) -> dict[str, object]:
    return dict(leaves(plain_of(document)))


def _shop_parts(records: Records) -> tuple[object, ...]:
    return tuple(records.tables[kind.many] for kind in KINDS if kind.many != "cards")


def stamp(moment: datetime) -> str:
    """A moment as it is stored, in UTC."""
    return moment.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")


def _changes_text(changes: tuple[Change, ...]) -> str:
    rows = [{"place": str(each.place), "before": _plain(each.before), "after": _plain(each.after)} for each in changes]
    return json.dumps(rows, ensure_ascii=False)


def _plain(value: object) -> object:
    if isinstance(value, tuple):
        return [_plain(each) for each in value]
    if isinstance(value, dict):
        return {key: _plain(each) for key, each in value.items()}
    return document_of(value) if attrs.has(type(value)) else value


def _late_of(records: Records) -> tuple[Late, ...]:
    """The tables of a file that are read behind the first picture."""
    return tuple(table for name in LATE if isinstance(table := records.tables[name], Late))


def _read_only(file: Path, fault: StoreError) -> Store:
    """The same file for reading; where it cannot be read either, why it could not be written is told too."""
    try:
        return Store(file, write=False)
    except StoreError as error:
        raise fault if isinstance(fault, NotWritable) and not file.exists() else error from fault


def _read_only_words(fault: StoreError, store: Store) -> str:
    why = str(fault) if isinstance(fault, InUse) else f"{fault}: it is open for reading only"
    return f"{why}. A copy of it is shown, as it stood when it was opened." if store.is_copy else why


def fill(file: Path, records: Records, clock: Clock = utc_now) -> None:
    """Write records into a new workspace file."""
    store = Store(file, write=True)
    try:
        store.put_documents(changed(Records.of(), records), stamp(clock()))
    finally:
        store.close()


@contextmanager
def reading(file: Path) -> Iterator[Workspace]:
    """A workspace to read, whoever else may be writing it."""
    workspace = Workspace(file, write=False)
    try:
        yield workspace
    finally:
        workspace.close()


def read_records(file: Path) -> Records:
    """The records of a workspace, read without writing to it."""
    store = Store(file, write=False)
    try:
        records, unread = read_whole(store)
        if unread:
            logging.getLogger("kaustos").warning("%s", unread_words(unread))
        return records
    finally:
        store.close()
