"""Takes recipes, runs and lots out of a workspace as CSV, and recipes as files."""

import hashlib
from pathlib import Path
from urllib.parse import quote

from kaustos.app.workspace import Workspace
from kaustos.disk import write_all_new
from kaustos.formats.csv_tables import write_recipes, write_runs
from kaustos.formats.lots_csv import write_lots
from kaustos.formats.recipe_file import write_recipe

LONGEST_NAME = 120  # signs of a file name, well below what file systems take


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
    return write_all_new(_tables(workspace, folder))


def _tables(workspace: Workspace, folder: Path) -> dict[Path, str]:
    texts = {"recipes.csv": recipes_csv, "runs.csv": runs_csv, "lots.csv": lots_csv}
    return {folder / name: text(workspace) for name, text in texts.items()} | _unread(workspace, folder)


def _unread(workspace: Workspace, folder: Path) -> dict[Path, str]:
    """What cannot be read as the text that it is, in one file."""
    parts = (f"{each.kind} {each.key}: {each.fault}\n{each.text}\n" for each in workspace.unread)
    return {folder / "cannot-be-read.txt": "\n".join(parts)} if workspace.unread else {}


def write_everything(workspace: Workspace, folder: Path) -> tuple[Path, ...]:
    """Write all tables and every recipe as a file of its own, all or none."""
    return write_all_new({**_tables(workspace, folder), **_recipes(workspace, folder)})


def _recipes(workspace: Workspace, folder: Path) -> dict[Path, str]:
    cards = workspace.draft.records.cards
    return {folder / f"{file_name(key)}.json": write_recipe(workspace.document(key)) for key in cards}


def file_name(key: str) -> str:
    """An id as the name of a file in the folder that was named and in no other: odd signs encoded, never hidden."""
    name = quote(key, safe=" ", encoding="utf-8", errors="surrogatepass").replace(".", "%2E")
    if len(name) <= LONGEST_NAME:
        return name
    return f"{name[:LONGEST_NAME]}-{hashlib.sha256(key.encode(errors='surrogatepass')).hexdigest()[:8]}"
