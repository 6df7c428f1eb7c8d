"""Takes recipes, runs and lots out of a workspace as CSV, and brings them in; nothing that is there is written over."""

from pathlib import Path

import attrs

from kaustos.app.records import free_key
from kaustos.app.stock import polymer_meant, settled_spellings
from kaustos.app.workspace import Workspace
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import CHOSEN, RecipeCard, check_id
from kaustos.formats.csv_tables import Table, read_recipes, read_runs, read_table, write_recipes, write_runs
from kaustos.formats.lots_csv import NEEDED, read_lots, write_lots
from kaustos.formats.recipe_file import write_recipe
from kaustos.library import load


def recipes_csv(workspace: Workspace) -> str:
    """All recipes of the workspace."""
    cards = workspace.draft.records.cards
    return write_recipes((key, card.recipe, card.chosen) for key, card in cards.items())


def runs_csv(workspace: Workspace) -> str:
    """All runs of the workspace."""
    return write_runs(workspace.draft.records.runs.values())


def lots_csv(workspace: Workspace) -> str:
    """All lots of the workspace."""
    return write_lots(workspace.draft.records.lots.values())


def write_tables(workspace: Workspace, folder: Path) -> tuple[Path, ...]:
    """Write recipes.csv, runs.csv and lots.csv into a folder; files that are there already are left and named."""
    texts = {"recipes.csv": recipes_csv, "runs.csv": runs_csv, "lots.csv": lots_csv}
    files = tuple(folder / name for name in texts)
    present = [file for file in files if file.exists()]
    if present:
        raise KaustosError(f"{', '.join(str(file) for file in present)}: is there already; nothing was written")
    for file, text in zip(files, texts.values(), strict=True):
        file.write_text(text(workspace), encoding="utf-8")
    return files


def write_recipe_files(workspace: Workspace, folder: Path) -> tuple[Path, ...]:
    """Write every recipe as a file of its own, with the machine and lot it is judged with."""
    files = []
    for key in workspace.draft.records.cards:
        file = folder / f"{key}.json"
        file.write_text(write_recipe(workspace.document(key)), encoding="utf-8")
        files.append(file)
    return tuple(files)


def take_table(workspace: Workspace, file: Path) -> str:
    """Bring a CSV file in: recipes, runs or lots, told by their columns; what was taken, in words."""
    if workspace.draft.read_only:
        raise KaustosError("This workspace is open for reading only; nothing was taken in.")
    table = read_table(_text(file), file.name)
    if table.has("id", "revision", "card"):
        return _take_runs(workspace, table)
    if table.has("id", "polymer", "brief.service_c"):
        return _take_recipes(workspace, table)
    if table.has(*NEEDED):
        return _take_lots(workspace, table)
    raise KaustosError(f"{file.name}: line 1: has the columns neither of recipes, runs nor lots (see docs/formats.md)")


def _text(file: Path) -> str:
    try:
        return file.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError as error:
        raise KaustosError(f"{file.name}: is not UTF-8 text (byte {error.start})") from error
    except OSError as error:
        raise KaustosError(f"{file.name}: cannot be read: {error.strerror}") from error


def _take_recipes(workspace: Workspace, table: Table) -> str:
    records = workspace.draft.records
    before, cards = len(records.cards), dict(records.cards)
    faults = []
    for (line, _), (key, recipe, chosen) in zip(table.lines, read_recipes(table), strict=True):
        if recipe.polymer is not None and recipe.polymer not in load().polymers:
            faults.append(f"line {line}, column polymer: no polymer {recipe.polymer!r:.60} in the library")
        for kind in CHOSEN:
            found = chosen.get(kind.one)
            if found is not None and found not in records.tables[kind.many]:
                faults.append(f"line {line}, column {kind.one}: no {kind.title} {found!r:.60} in this workspace")
        cards[free_key(cards, key or recipe.name, "recipe")] = RecipeCard(recipe=recipe, chosen=chosen)
    if faults:
        raise FaultList(table.name, tuple(faults))
    records = records.with_tables(cards=cards)
    workspace.draft.take_over(records, f"Taken in: {table.name}")
    return f"{len(records.cards) - before} recipes are taken in from {table.name}."


def _take_runs(workspace: Workspace, table: Table) -> str:
    records = workspace.draft.records
    new, faults = {}, []
    for run in read_runs(table):
        check_id(f"{table.name}: run", run.id)
        if run.id in records.runs:
            faults.append(f"run {run.id} is in this workspace already")
        elif workspace.revision(run.card, run.revision) is None:
            faults.append(f"run {run.id}: recipe {run.card!r:.60} has no revision {run.revision:g} here")
        new[run.id] = run
    if faults:
        raise FaultList(table.name, tuple(faults))
    workspace.draft.take_over(records.with_tables(runs={**records.runs, **new}), f"Taken in: {table.name}")
    return f"{len(new)} runs are taken in from {table.name}."


def _take_lots(workspace: Workspace, table: Table) -> str:
    records = workspace.draft.records
    new, faults = {}, []
    known = settled_spellings(records.lots)
    for line, lot in read_lots(table):
        check_id(f"{table.name}: line {line}, column id", lot.id)
        if lot.id in records.lots or lot.id in new:
            faults.append(f"line {line}: lot {lot.id!r:.60} is there already")
        if lot.loaded_on is not None and lot.loaded_on not in records.machines:
            faults.append(f"line {line}, column loaded_on: no machine {lot.loaded_on!r:.60} in this workspace")
        try:
            new[lot.id] = attrs.evolve(lot, polymer=lot.polymer or polymer_meant(lot.grade, known))
        except KaustosError as error:
            faults.append(f"line {line}, column polymer: {error}")
        if lot.polymer is not None and lot.polymer not in load().polymers:
            faults.append(f"line {line}, column polymer: no polymer {lot.polymer!r:.60} in the library")
    if faults:
        raise FaultList(table.name, tuple(faults))
    workspace.draft.take_over(records.with_tables(lots={**records.lots, **new}), f"Taken in: {table.name}")
    return f"{len(new)} lots are taken in from {table.name}."
