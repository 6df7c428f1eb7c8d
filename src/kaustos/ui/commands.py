"""All commands as data; menu, keys and the command field are made from this list."""

from collections.abc import Callable
from typing import Protocol

import attrs
from PySide6.QtGui import QAction


class Shell(Protocol):
    """What commands act on."""

    def perform(self, command: "Command") -> None: ...
    def actions_in_order(self) -> list[QAction | None]: ...
    def revision_words(self) -> str: ...
    def save_revision(self) -> None: ...
    def show_revisions(self) -> None: ...
    def make_sheet(self) -> None: ...
    def open_recipe_file(self) -> None: ...
    def export_recipe(self) -> None: ...
    def undo(self) -> None: ...
    def redo(self) -> None: ...
    def next_finding(self) -> None: ...
    def previous_finding(self) -> None: ...
    def apply_remedy(self, number: int) -> None: ...
    def focus_commands(self) -> None: ...
    def focus_ladder(self) -> None: ...
    def show_operation(self, number: int) -> None: ...
    def explain(self) -> None: ...
    def toggle_theme(self) -> None: ...
    def edit_settings(self) -> None: ...
    def edit_rules(self) -> None: ...
    def about(self) -> None: ...
    def close(self) -> bool: ...


@attrs.frozen
class Command:
    """One thing the user can do."""

    id: str
    title: str
    help: str
    keys: str
    run: Callable[[Shell], object]
    group: str
    short: str = ""


def _remedy(number: int) -> Callable[[Shell], object]:
    return lambda shell: shell.apply_remedy(number)


COMMANDS = (
    Command("revision.save", "Save revision", "Keep this state with who and why.", "Ctrl+S",
            lambda shell: shell.save_revision(), "recipe"),
    Command("revision.list", "Revisions", "All saved states and what differs between them.", "Ctrl+R",
            lambda shell: shell.show_revisions(), "recipe"),
    Command("sheet.make", "Make sheet", "Write the recipe's sheet as PDF or HTML.", "Ctrl+P",
            lambda shell: shell.make_sheet(), "recipe", "Sheet"),
    Command("recipe.take_in", "Take in recipe file", "Add a recipe from a JSON file.", "Ctrl+O",
            lambda shell: shell.open_recipe_file(), "recipe"),
    Command("recipe.export", "Write recipe file", "Write the open recipe as JSON.", "Ctrl+E",
            lambda shell: shell.export_recipe(), "recipe"),
    Command("edit.undo", "Undo", "Take the last edit back.", "Ctrl+Z", lambda shell: shell.undo(), "edit"),
    Command("edit.redo", "Redo", "Do again what was taken back.", "Ctrl+Shift+Z", lambda shell: shell.redo(), "edit"),
    Command("finding.next", "Next finding", "Choose the next finding.", "Alt+Down",
            lambda shell: shell.next_finding(), "findings"),
    Command("finding.previous", "Previous finding", "Choose the finding before.", "Alt+Up",
            lambda shell: shell.previous_finding(), "findings"),
    *(
        Command(f"finding.remedy_{number}", f"Apply remedy {number}", "Apply this remedy of the chosen finding.",
                f"Alt+{number}", _remedy(number - 1), "findings")
        for number in range(1, 6)
    ),
    Command("go.brief", "Go to 10 Brief", "Show the bench of the brief.", "Ctrl+F1",
            lambda shell: shell.show_operation(10), "go"),
    Command("go.machine", "Go to 30 Machine", "Show the bench of the machine.", "Ctrl+F2",
            lambda shell: shell.show_operation(30), "go"),
    Command("go.ladder", "Go to the heat ladder", "Focus the first mark; Tab goes on.", "Ctrl+L",
            lambda shell: shell.focus_ladder(), "go"),
    Command("go.commands", "Find command or recipe", "Type a part of its name.", "Ctrl+K",
            lambda shell: shell.focus_commands(), "go"),
    Command("help.explain", "Explain", "Say what the thing under the cursor is.", "F1",
            lambda shell: shell.explain(), "help"),
    Command("view.theme", "Light or dark", "Switch the theme.", "Ctrl+T", lambda shell: shell.toggle_theme(), "help"),
    Command("app.settings", "Settings", "Who I am, units, decimal mark, currency, theme.", "Ctrl+,",
            lambda shell: shell.edit_settings(), "help"),
    Command("app.rules", "Rules of judgement", "The shop's thresholds, all editable.", "Ctrl+J",
            lambda shell: shell.edit_rules(), "help"),
    Command("app.about", "About", "Version and licences.", "", lambda shell: shell.about(), "help"),
    Command("app.close", "Close", "Save and close the window.", "Ctrl+Q", lambda shell: shell.close(), "app"),
)  # fmt: skip
assert len({command.id for command in COMMANDS}) == len(COMMANDS), "a command id stands twice"
