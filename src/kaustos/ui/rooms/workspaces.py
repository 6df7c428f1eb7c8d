"""Workspaces: begun, opened, copied, restored; what was done in this one lately."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from kaustos.app.clock import moment_words
from kaustos.app.wording import when_words
from kaustos.disk import name_of
from kaustos.ui.desk import Desk
from kaustos.ui.files import WORKSPACE_FILES as FILES
from kaustos.ui.files import Files, named
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row


class WorkspacesRoom(Room):
    """Recent workspaces above, the history of this one below."""

    def __init__(self, desk: Desk, files: Files) -> None:
        super().__init__(desk, "Workspaces", "One file each; Enter opens one.", "")
        self.empty.hide()
        self._files = files
        self.button("New", self.ask_new, "Begin an empty workspace")
        self.button("Open", self.ask_open, "Open a workspace file")
        self.button("Save a copy", self.ask_copy, "Write a copy of this workspace as it stands now")
        self.button("Restore", self.ask_restore, "Bring this workspace to the state of a copy; the state now is kept")
        self.list = Listing(desk, "workspaces", ("Workspace", "Folder", "State"), 1)
        self.list.opened.connect(lambda key: self.desk.run(lambda: files.open_workspace(Path(key))))
        label = Label("What was done here, the latest first")
        label.setProperty("role", "heading")
        self.history = Listing(desk, "history", ("When", "Who", "What"), 2)
        kept = Label("Earlier states of this workspace: one for each day of use, and one before each restore")
        kept.setProperty("role", "heading")
        self.backups = Listing(desk, "backups", ("Kept", "Why", "Size", "File"), 3)
        self.backups.opened.connect(lambda key: self.desk.run(lambda: files.restore_from(Path(key))))
        self.column.addWidget(self.list, 2)
        self.column.addWidget(kept)
        self.column.addWidget(self.backups, 2)
        self.column.addWidget(label)
        self.column.addWidget(self.history, 3)

    def refresh(self) -> None:
        """Follow the desk."""
        mine = str(self.desk.workspace.file.absolute())
        rows = []
        for name in dict.fromkeys((mine, *self._files.recent())):
            file = Path(name)
            state = "open now" if name == mine else "" if file.exists() else "not there any more"
            rows.append(Row(name, (file.stem, str(file.parent), state)))
        self.list.show_rows(rows)
        self.backups.show_rows(
            [
                Row(
                    str(each.file),
                    (moment_words(each.at), each.why, f"{each.size / 1e6:.1f} MB", name_of(each.file)),
                    (each.at.timestamp(), each.why, float(each.size)),
                )
                for each in self.desk.workspace.backups()
            ]
        )
        entries = self.desk.workspace.history()
        self.history.show_rows(
            [
                Row(str(place), (when_words(when), who or "not recorded", what), (when,))
                for place, (when, who, what) in enumerate(entries)
            ]
        )

    def ask_new(self) -> None:
        """Begin an empty workspace where the user says."""
        name, _ = QFileDialog.getSaveFileName(self, "New workspace", "shop.kaustos", FILES)
        if name:
            self._files.open_workspace(named(name))

    def ask_open(self) -> None:
        """Open a workspace file."""
        name, _ = QFileDialog.getOpenFileName(self, "Open workspace", "", FILES)
        if name:
            self._files.open_workspace(Path(name))

    def ask_copy(self) -> None:
        """Write a copy where the user says."""
        self._files.save_copy()

    def ask_restore(self) -> None:
        """Choose the copy to go back to; choosing it is the confirmation, and the state now is kept beside."""
        name, _ = QFileDialog.getOpenFileName(self, "Restore this workspace from a copy", "", "Copies (*)")
        if name:
            self._files.restore_from(Path(name))
