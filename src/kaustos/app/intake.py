"""Takes tables of recipes, runs and lots into a workspace, as one edit each; nothing that is there is written over.

Reading may take long and touches nothing: an intake holds all that it needs. What it read is then put into the
workspace, where it is checked once more if the records have changed meanwhile.
"""

import re
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.exchange import read_file, with_document
from kaustos.app.records import Records, free_key
from kaustos.app.stock import polymer_meant, settled_spellings
from kaustos.app.workspace import Workspace
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.core.records import CHOSEN, Lot, RecipeCard, Run, check_id
from kaustos.disk import name_of, read_text
from kaustos.formats.csv_tables import RecipeRow, Table, read_recipes, read_runs, read_table
from kaustos.formats.lots_csv import NEEDED, read_lots
from kaustos.formats.recipe_file import RecipeDocument

_HEAD = 65_536  # bytes in which a heading ends
Revisions = frozenset[tuple[str, float]]  # recipe and number of each that is kept
Found = Mapping[str, Any]  # new records by id


@attrs.frozen
class _Shape:
    """One kind of table: how it is told by its columns, read, and checked against what is there."""

    many: str  # the kind of record it brings
    word: str
    columns: tuple[str, ...]
    read: Callable[[Table, Progress], Any]
    checked: Callable[[Any, Table, Records, Revisions], Found]


@attrs.frozen(eq=False)
class Taken:
    """What an intake read, checked against the records it began with."""

    table: Table
    shape: _Shape
    rows: Any
    found: Found
    records: Records


@attrs.frozen(eq=False)
class Intake:
    """A file to be read, with the records and revisions it is checked against."""

    file: Path
    records: Records
    revisions: Revisions

    def __call__(self, progress: Progress = UNWATCHED) -> Taken:
        """Read the file, and check every line of it."""
        progress.check()
        table = read_table(read_text(self.file), name_of(self.file))
        shape = next((each for each in _SHAPES if table.has(*each.columns)), None)
        if shape is None:
            raise KaustosError(
                f"{name_of(self.file)}: line 1: has the columns neither of recipes, runs nor lots (see docs/formats.md)"
            )
        rows = shape.read(table, progress)
        return Taken(table, shape, rows, shape.checked(rows, table, self.records, self.revisions), self.records)


def brings_records(file: Path) -> bool:
    """Whether a table has the columns of recipes, runs or lots; a logger's file has not, and is read as a log."""
    with file.open("rb") as stream:
        head = stream.read(_HEAD).decode("utf-8-sig", "replace")
    line = head.replace("\r", "\n").partition("\n")[0]
    names = {each.strip().strip('"') for each in re.split(r"[,;\t]", line)}
    return any(names.issuperset(shape.columns) for shape in _SHAPES)


def intake(workspace: Workspace, file: Path) -> Intake:
    """What it takes to read a file for a workspace."""
    if workspace.draft.read_only:
        raise KaustosError("This workspace is open for reading only; nothing was taken in.")
    return Intake(file, workspace.draft.records, workspace.kept_revisions())


def put_in(workspace: Workspace, taken: Taken) -> str:
    """Put what was read into the workspace as one edit; what was taken, in words."""
    records, shape, found = workspace.draft.records, taken.shape, taken.found
    if records.tables != taken.records.tables:
        found = shape.checked(taken.rows, taken.table, records, workspace.kept_revisions())
    tables = {shape.many: {**records.tables[shape.many], **found}}
    workspace.draft.take_over(records.with_tables(**tables), f"Taken in: {taken.table.name}")
    return f"{len(found)} {shape.word} are taken in from {taken.table.name}."


def take_table(workspace: Workspace, file: Path) -> str:
    """Bring a file in at once; what was taken, in words."""
    return put_in(workspace, intake(workspace, file)())


@attrs.frozen(eq=False)
class Together:
    """What several files brought: the records with it, and the recipe files for their photos."""

    records: Records
    documents: tuple[RecipeDocument, ...]


@attrs.frozen(eq=False)
class IntakeOfAll:
    """Several files to be read one upon the other; of all of them or of none something is taken in."""

    files: tuple[Path, ...]
    records: Records
    revisions: Revisions

    def __call__(self, progress: Progress = UNWATCHED) -> Together:
        """The records with what every file brings; the first fault names its file and ends it."""
        records, documents = self.records, list[RecipeDocument]()
        for file in self.files:
            progress.check()
            if file.suffix.lower() == ".csv":
                taken = Intake(file, records, self.revisions)(progress)
                records = records.with_tables(**{taken.shape.many: {**records.tables[taken.shape.many], **taken.found}})
            else:
                documents.append(read_file(file))
                records = with_document(records, documents[-1], name_of(file))
        return Together(records, tuple(documents))


def intake_of_all(workspace: Workspace, files: Sequence[Path]) -> IntakeOfAll:
    """What it takes to read several files for a workspace."""
    one = intake(workspace, files[0])
    return IntakeOfAll(tuple(files), one.records, one.revisions)


def put_all_in(workspace: Workspace, wanted: IntakeOfAll, found: Together) -> str:
    """Put what was read into the workspace as one edit, read again where the records have changed meanwhile."""
    present = workspace.draft.records
    if present.tables != wanted.records.tables:
        found = IntakeOfAll(wanted.files, present, workspace.kept_revisions())()
    for document in found.documents:
        workspace.keep_along(document)
    names = ", ".join(name_of(file) for file in wanted.files)
    workspace.draft.take_over(found.records, f"Taken in: {names:.150}")
    return f"{names} is taken in." if len(wanted.files) == 1 else f"{len(wanted.files)} files are taken in: {names}."


def take_all(workspace: Workspace, files: Sequence[Path]) -> str:
    """Bring files in at once, all or none; what was taken, in words."""
    if len(files) == 1 and files[0].suffix.lower() == ".csv":
        return take_table(workspace, files[0])
    wanted = intake_of_all(workspace, files)
    return put_all_in(workspace, wanted, wanted())


def _checked_recipes(rows: tuple[RecipeRow, ...], table: Table, records: Records, revisions: Revisions) -> Found:
    new: dict[str, RecipeCard] = {}
    taken, faults = dict(records.cards), []
    for (line, _), (key, recipe, chosen) in zip(table.lines, rows, strict=True):
        if recipe.polymer is not None and recipe.polymer not in records.polymers:
            faults.append(f"line {line}, column polymer: no polymer {recipe.polymer!r:.60} in the library")
        for kind in CHOSEN:
            meant = chosen.get(kind.one)
            if meant is not None and meant not in records.tables[kind.many]:
                faults.append(f"line {line}, column {kind.one}: no {kind.title} {meant!r:.60} in this workspace")
        free = free_key(taken, key or recipe.name, "recipe")
        taken[free] = new[free] = RecipeCard(recipe=recipe, chosen=chosen)
    if faults:
        raise FaultList(table.name, tuple(faults))
    return new


def _checked_runs(rows: tuple[Run, ...], table: Table, records: Records, revisions: Revisions) -> Found:
    faults = []
    for run in rows:
        check_id(f"{table.name}: run", run.id)
        if run.id in records.runs:
            faults.append(f"run {run.id} is in this workspace already")
        elif (run.card, run.revision) not in revisions:
            faults.append(f"run {run.id}: recipe {run.card!r:.60} has no revision {run.revision:g} here")
    if faults:
        raise FaultList(table.name, tuple(faults))
    return {run.id: run for run in rows}


def _checked_lots(rows: tuple[tuple[int, Lot], ...], table: Table, records: Records, revisions: Revisions) -> Found:
    new: dict[str, Lot] = {}
    faults = []
    known = settled_spellings(records)
    for line, lot in rows:
        check_id(f"{table.name}: line {line}, column id", lot.id)
        if lot.id in records.lots or lot.id in new:
            faults.append(f"line {line}: lot {lot.id!r:.60} is there already")
        if lot.loaded_on is not None and lot.loaded_on not in records.machines:
            faults.append(f"line {line}, column loaded_on: no machine {lot.loaded_on!r:.60} in this workspace")
        try:
            new[lot.id] = attrs.evolve(lot, polymer=lot.polymer or polymer_meant(lot.grade, known))
        except KaustosError as error:
            faults.append(f"line {line}, column polymer: {error}")
        if lot.polymer is not None and lot.polymer not in records.polymers:
            faults.append(f"line {line}, column polymer: no polymer {lot.polymer!r:.60} in the library")
    if faults:
        raise FaultList(table.name, tuple(faults))
    return new


_SHAPES = (
    _Shape("runs", "runs", ("id", "revision", "card"), read_runs, _checked_runs),
    _Shape("cards", "recipes", ("id", "polymer", "brief.service_c"), read_recipes, _checked_recipes),
    _Shape("lots", "lots", NEEDED, read_lots, _checked_lots),
)
