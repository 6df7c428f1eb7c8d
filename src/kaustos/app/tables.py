"""Takes recipes, runs and lots out of a workspace as CSV, and recipes as files."""

from pathlib import Path

from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.formats.csv_tables import write_recipes, write_runs
from kaustos.formats.lots_csv import write_lots
from kaustos.formats.recipe_file import write_recipe


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
    return (*files, *_write_unread(workspace, folder))


def _write_unread(workspace: Workspace, folder: Path) -> tuple[Path, ...]:
    """What cannot be read as the text that it is, in one file."""
    if not workspace.unread:
        return ()
    file = folder / "cannot-be-read.txt"
    parts = (f"{each.kind} {each.key}: {each.fault}\n{each.text}\n" for each in workspace.unread)
    file.write_text("\n".join(parts), encoding="utf-8", errors="backslashreplace")
    return (file,)


def write_recipe_files(workspace: Workspace, folder: Path) -> tuple[Path, ...]:
    """Write every recipe as a file of its own, with the machine and lot it is judged with."""
    files = []
    for key in workspace.draft.records.cards:
        file = folder / f"{key}.json"
        file.write_text(write_recipe(workspace.document(key)), encoding="utf-8")
        files.append(file)
    return tuple(files)
