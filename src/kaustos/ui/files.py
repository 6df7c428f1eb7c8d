"""Files of the window: sheets, recipes, tables and photos in and out, workspaces opened and restored."""

import logging
import os
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any, Protocol
from urllib.parse import unquote_to_bytes

import attrs
from PySide6.QtCore import QByteArray, QMimeData, QUrl
from PySide6.QtWidgets import QFileDialog, QWidget

from kaustos.app.recent import load_last_use, save_last_use
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of, write_whole
from kaustos.ui.desk import Desk

PHOTOS = (".png", ".jpg", ".jpeg")
WORKSPACE_FILES = "Kaustos workspace (*.kaustos)"
PART_FILES = (".stl", ".3mf", ".obj")
LOG_FILES = (".txt", ".tsv", ".log")
JOB_FILES = (".gcode", ".gco", ".g", ".nc", ".ngc")
TAKEN = (
    "recipes (.json), tables (.csv), workspaces (.kaustos), parts (.stl, .3mf, .obj), job files (.gcode), recordings "
    "(.wav), logs (.csv, .txt, .tsv, .log) and photos"
)


class Host(Protocol):
    """What files need of the window."""

    @property
    def desk(self) -> Desk: ...
    @property
    def frame(self) -> QWidget: ...
    @property
    def room(self) -> str: ...
    @property
    def rooms(self) -> Mapping[str, Any]: ...
    def show_room(self, key: str) -> None: ...
    def take_part(self, file: Path) -> None: ...
    def take_job(self, file: Path) -> None: ...
    def take_evidence(self, file: Path) -> None: ...
    def take_log(self, file: Path) -> None: ...
    @property
    def takes_curves(self) -> bool: ...
    def finish_typing(self) -> None: ...
    def revision_words(self) -> str: ...
    def let_go(self) -> bool: ...


Opener = Callable[[Path], Host]
Example = Callable[[], Path]


class Files:
    """What a window does with files."""

    def __init__(
        self, window: Host, opener: Opener | None, last_use_file: Path | None, example: Example | None = None
    ) -> None:
        self._window, self._opener, self._last_use_file = window, opener, last_use_file
        self._example = example
        self._desk = window.desk

    # ---- the sheet

    def print_sheet(self) -> None:
        """Print the sheet by the usual dialog."""
        from kaustos.ui.printing import ask_printer

        self._window.finish_typing()
        ask_printer(self._window.frame, self._sheet_pdf())

    def make_sheet(self, *, appendix: bool = False) -> None:
        """Write the sheet where the user says, with pictures, figures and sources where they are wanted."""
        name, _ = QFileDialog.getSaveFileName(
            self._window.frame, "Make sheet", self._file_name(".pdf"), "Sheet (*.pdf *.html)"
        )
        if name:
            self.write_sheet(Path(name), appendix=appendix)

    def write_sheet(self, file: Path, *, appendix: bool = False) -> None:
        """Write the sheet as PDF or HTML."""
        if file.suffix == ".html":
            from kaustos.formats.sheet import sheet_html

            write_whole(file, sheet_html(self._sheet_content(appendix=appendix)))
        else:
            write_whole(file, self._sheet_pdf(appendix=appendix))
        self._desk.messages.note(f"The sheet is in {file}.")

    def _sheet_pdf(self, *, appendix: bool = False) -> bytes:
        from kaustos.formats.sheet import sheet_pdf

        return sheet_pdf(self._sheet_content(appendix=appendix))

    def _sheet_content(self, *, appendix: bool) -> dict[str, Any]:
        from kaustos.app.sheet import sheet_content

        desk, workspace = self._desk, self._desk.workspace
        if not desk.has_recipe:
            raise KaustosError("There is no recipe to make a sheet of yet.")
        printed = workspace.clock().astimezone().strftime("%Y-%m-%d %H:%M")
        context, found = workspace.judged()  # to the end: "computing" is never printed
        return sheet_content(
            workspace.draft.records.card.recipe, context, found, desk.wording,
            revision=self._window.revision_words(), printed=printed,
            maturity=workspace.maturity().word, appendix=appendix,
        )  # fmt: skip

    # ---- copies

    def save_copy(self) -> bool:
        """Write a copy of what is on the screen where the user says; whether one was written."""
        name, _ = QFileDialog.getSaveFileName(
            self._window.frame, "Save a copy", f"{self._desk.workspace.file.stem}-copy.kaustos", WORKSPACE_FILES
        )
        if not name:
            return False
        left_out = self._desk.workspace.save_copy(named(name))
        words = f"A copy is in {named(name)}. {left_out}".strip()
        (self._desk.messages.error if left_out else self._desk.messages.note)(words)
        return True

    def write_anew(self) -> None:
        """Put what is open under its name again, after the file was deleted, moved or replaced."""
        words = self._desk.workspace.write_anew()
        self._desk.save_draft()
        self._desk.messages.note(words)

    # ---- recipes and tables

    def open_recipe_file(self) -> None:
        """Take in a recipe file or a table."""
        name, _ = QFileDialog.getOpenFileName(
            self._window.frame, "Take in recipes, runs or lots", "", "Recipes and tables (*.json *.csv)"
        )
        if name:
            self.take_file(Path(name))

    def take_in(self, file: Path) -> None:
        """Add the recipe of a file and open it."""
        self._desk.workspace.import_recipe(file)
        self._window.show_room("recipe")
        self._desk.messages.note(f"{name_of(file)} is taken in as a recipe of this workspace.")

    def stop_taking_in(self) -> None:
        """Call off the table that is being read."""
        self._desk.taking_in.call_off()

    def export_recipe(self) -> None:
        """Write the open recipe as JSON."""
        name, _ = QFileDialog.getSaveFileName(
            self._window.frame, "Write recipe file", self._file_name(".json"), "Recipe (*.json)"
        )
        if name:
            left_out = self._desk.workspace.export_recipe(Path(name))
            self._desk.messages.note(f"The recipe is in {name}. {left_out}".strip())

    def export_tables(self) -> None:
        """Write all recipes, runs and lots as CSV files into a folder."""
        name = QFileDialog.getExistingDirectory(self._window.frame, "Write tables into")
        if name:
            from kaustos.app.tables import write_tables

            files = write_tables(self._desk.workspace, Path(name))
            self._desk.messages.note(f"Written: {', '.join(str(file) for file in files)}.")

    def _file_name(self, suffix: str) -> str:
        return f"{self._desk.workspace.draft.records.current or 'recipe'}{suffix}"

    # ---- dropped

    def take_dropped(self, data: QMimeData) -> None:
        """Take each dropped file in, or refuse it by name."""
        files = [local_file(url) for url in data.urls()]
        tables = [each for each in files if each.suffix.lower() in (".json", ".csv")]
        if len(tables) > 1:
            self._desk.taking_in.take(*tables)
            files = [each for each in files if each not in tables]
        for file in files:
            self.take_file(file)

    def take_file(self, file: Path) -> None:
        """Take a file in by its kind, or refuse it by name."""
        kind = file.suffix.lower()
        if kind == ".json":
            self._desk.run(lambda: self.take_in(file))
        elif kind == ".csv" and self._window.takes_curves:
            self._window.take_evidence(file)
        elif kind == ".csv":
            self._desk.run(lambda: self._take_table(file))
        elif kind in LOG_FILES:
            self._window.take_log(file)
        elif kind == ".wav":
            self._window.take_evidence(file)
        elif kind == ".kaustos":
            self._desk.run(lambda: self.open_workspace(file))
        elif kind in PART_FILES:
            self._window.take_part(file)
        elif kind in JOB_FILES:
            self._window.take_job(file)
        elif kind in PHOTOS and self._window.room in ("runs", "stock"):
            room = self._window.rooms[self._window.room]
            self._desk.run(lambda: room.take_photo(file))
        elif kind in PHOTOS:
            self._desk.messages.error(
                f"{name_of(file)}: a photo belongs to a run or a lot; drop it in their rooms (Ctrl+4, Ctrl+2)."
            )
        else:
            self._desk.messages.error(f"{name_of(file)}: only {TAKEN} are taken.")

    def _take_table(self, file: Path) -> None:
        from kaustos.app.intake import brings_records
        from kaustos.formats.temperature_log import looks_like_log

        if not file.is_file() or brings_records(file) or not looks_like_log(file):
            self._desk.taking_in.take(file)  # which says what is wrong with it
        else:
            self._window.take_log(file)

    # ---- workspaces

    def recent(self) -> tuple[str, ...]:
        """Workspaces opened lately."""
        return load_last_use(self._last_use_file).recent if self._last_use_file else ()

    @property
    def has_example(self) -> bool:
        """Whether there is an example firm to open."""
        return self._example is not None

    def open_example(self) -> None:
        """Open the example firm in the place of this workspace."""
        if self._example is not None:
            self.open_workspace(self._example())

    def open_workspace(self, file: Path) -> None:
        """Open another workspace in the place of this one; this one stays where the other cannot be opened."""
        if file.absolute() == self._desk.workspace.file.absolute():
            self._desk.messages.note(f"{name_of(file)} is the workspace that is open.")
        elif self._opener is not None:
            self._opener(file)
            self._window.frame.close()

    def restore_from(self, backup: Path) -> None:
        """Bring this workspace to the state of a copy; the state now is kept beside it."""
        from kaustos.app.restore import restore

        workspace = self._desk.workspace
        if workspace.draft.read_only or self._opener is None:
            raise KaustosError("This workspace is open for reading only; nothing was restored.")
        if not self._window.let_go():
            return  # what is not saved comes first; the window asks
        fault, words = "", ""
        try:
            words = restore(workspace.file, backup, workspace.clock())
        except (KaustosError, OSError) as error:
            fault = str(error)
        opened = self._opener(workspace.file)
        self._window.frame.close()
        if fault:
            opened.desk.messages.error(fault)
        else:
            opened.desk.messages.note(words)

    def remember(self) -> None:
        """Keep which workspace was open and how the window stood."""
        if self._last_use_file is None:
            return
        use = load_last_use(self._last_use_file).opened(self._desk.workspace.file)
        state = bytes(self._window.frame.saveGeometry().toBase64().data()).decode()
        try:
            save_last_use(self._last_use_file, attrs.evolve(use, window=state))
        except (KaustosError, OSError) as error:
            logging.getLogger("kaustos").warning("last use could not be kept: %s", error)

    def recall(self) -> None:
        """Stand as the window stood when it was closed last."""
        state = load_last_use(self._last_use_file).window if self._last_use_file else ""
        if state:
            self._window.frame.restoreGeometry(QByteArray.fromBase64(state.encode()))

    def report_error(self) -> None:
        """Save what a developer needs to find a fault: version, system, log; no recipe of the shop."""
        name, _ = QFileDialog.getSaveFileName(
            self._window.frame, "Save error report", "kaustos-report.txt", "Text (*.txt)"
        )
        if name:
            from kaustos.ui.faults import write_report

            write_report(Path(name))
            self._desk.messages.note(f"The report is in {name}. Read it before you pass it on.")


def local_file(url: QUrl) -> Path:
    """The file that an address means, also where its name is no text."""
    raw = bytes(url.path(QUrl.ComponentFormattingOption.FullyEncoded).encode())
    return Path(os.fsdecode(unquote_to_bytes(raw)))


def named(name: str) -> Path:
    """The file that a person means by a name, with the ending of a workspace where none is given."""
    file = Path(name)
    return file if file.suffix else file.with_suffix(".kaustos")
