"""All recipes of the workspace: found, opened, begun, copied, renamed, retired."""

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QHBoxLayout, QPushButton

from kaustos.app.recipes import copy_recipe, retire
from kaustos.app.wording import GRADE_WORDS
from kaustos.app.workspace import STATUSES
from kaustos.core.records import CHOSEN, RecipeCard
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label, Line
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row

HEADINGS = ("Recipe", "Part", "Polymer", "Machine", "Revision", "Grade kept", "Grade now", "Runs prove")
GRADE_NOW = HEADINGS.index("Grade now")


class RecipesRoom(Room):
    """The list, a strip to begin a recipe, and a strip to name the chosen one."""

    def __init__(
        self, desk: Desk, open_recipe: Callable[[], object], begun: Callable[[str, str | None, str | None], object]
    ) -> None:
        super().__init__(
            desk, "All recipes", "Enter opens one.",
            "There is no recipe yet. Name the first one below, choose its polymer and machine, and press Make.",
        )  # fmt: skip
        self._open = open_recipe
        self.retired = QCheckBox("Show retired")
        self.retired.toggled.connect(self.refresh)
        self.top.addWidget(self.retired)
        self.copying = self.button("Copy", self._on_copy, "A second recipe that starts from the chosen one")
        self.retiring = self.button("Retire", self._on_retire, "Out of the lists; nothing is deleted")
        self.list = Listing(desk, "recipes", HEADINGS, 1)
        self.list.opened.connect(self._on_opened)
        self.list.chosen.connect(self._on_chosen)
        self.column.addWidget(self.list, 1)
        self.naming = Form(desk, ("recipe.name", "recipe.part"), "cards")
        self.column.addWidget(self.naming)
        self.beginning = _Beginning(desk, begun)
        self.column.addWidget(self.beginning)

    def refresh(self) -> None:
        """Follow the desk."""
        records = self.desk.workspace.draft.records
        cards = {key: card for key, card in records.cards.items() if self.retired.isChecked() or not card.retired}
        self.show_empty(not records.cards, self.list, self.naming)
        self.list.show_keys(
            tuple(cards), lambda key: self._row(key, cards[key]), lambda key: self._made_of(key, cards[key])
        )
        self.beginning.refresh()
        self._on_chosen()

    def _made_of(self, key: str, card: RecipeCard) -> tuple[object, ...]:
        """What the row of a recipe rests on."""
        workspace, records = self.desk.workspace, self.desk.workspace.draft.records
        chosen = tuple(records.tables[kind.many].get(card.chosen.get(kind.one, "")) for kind in CHOSEN)
        return (
            card, *chosen, records.rules, records.own_polymers, workspace.revisions_of(key), self.desk.wording,
            self.desk.standings.of(key), self.desk.standings.released(key),
            tuple(workspace.indexes.runs_of(records.runs, key)),
        )  # fmt: skip

    def _row(self, key: str, card: RecipeCard) -> Row:
        workspace = self.desk.workspace
        records = workspace.draft.records
        machine = records.machines.get(card.machine or "")
        newest = next(iter(workspace.revisions_of(key)), None)
        polymer = records.polymers.get(card.recipe.polymer or "")
        revision = f"{newest.number}, {STATUSES[newest.status]}" if newest else "not saved yet"
        name = (card.recipe.name or "Unnamed recipe") + (" (retired)" if card.retired else "")
        now, out = self.desk.standings.of(key), self.desk.standings.released(key)
        stands = now.words(self.desk.wording) if now else "" if card.retired else "being judged"
        if now and out and out is not now:
            stands += f"; released: {out.words(self.desk.wording)}"
        why = workspace.draft.wording.text(now.worst) if now and now.worst else ""
        cells = (
            name, card.recipe.part or "not recorded", polymer.name if polymer else "not recorded",
            machine.name if machine else "not recorded", revision, GRADE_WORDS[newest.grade] if newest else "",
            stands, workspace.maturity_of(key).word,
        )  # fmt: skip
        order = float(now.rank) if now else None
        return Row(key, cells, sort=(*[None] * GRADE_NOW, order), tip=why)

    def begin(self) -> None:
        """Go to the name of a new recipe."""
        self.beginning.name.setFocus()

    def _chosen(self) -> str | None:
        return next(iter(self.list.chosen_keys()), None)

    def _on_chosen(self) -> None:
        key = self._chosen()
        self.naming.setVisible(key is not None)
        if key is not None:
            self.naming.follow(key)
        for button in (self.copying, self.retiring):
            button.setEnabled(key is not None)
        if key is not None:
            retired = self.desk.workspace.draft.records.cards[key].retired
            self.retiring.setText("Bring back" if retired else "Retire")

    def _on_opened(self, key: str) -> None:
        self.desk.run(lambda: self.desk.workspace.draft.open_card(key))
        self._open()

    def _on_copy(self) -> None:
        key = self._chosen()
        if key is not None:
            self.list.choose(copy_recipe(self.desk.workspace, key))

    def _on_retire(self) -> None:
        key = self._chosen()
        if key is not None:
            retired = self.desk.workspace.draft.records.cards[key].retired
            retire(self.desk.workspace, "cards", key, retired=not retired)


class _Beginning(QFrame):
    """Begins a recipe from a name, a polymer and a machine; setpoints to start from come as an edit of their own."""

    def __init__(self, desk: Desk, make: Callable[[str, str | None, str | None], object]) -> None:
        super().__init__()
        self._desk, self._make = desk, make
        self.name = Line()
        self.name.setPlaceholderText("Name of the new recipe")
        self.name.setAccessibleName("Name of the new recipe")
        self.name.setMaxLength(200)
        self.polymer, self.machine = QComboBox(), QComboBox()
        self.polymer.setAccessibleName("Polymer of the new recipe")
        self.machine.setAccessibleName("Machine of the new recipe")
        make_it = QPushButton("Make")
        make_it.clicked.connect(self._on_make)
        self.name.returnPressed.connect(self._on_make)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(Label("New recipe"))
        row.addWidget(self.name, 1)
        for words, box in (("of", self.polymer), ("on", self.machine)):
            row.addWidget(Label(words))
            row.addWidget(box)
        row.addWidget(make_it)

    def refresh(self) -> None:
        """Know the polymers and machines of now."""
        polymers = sorted((each.name, key) for key, each in self._desk.workspace.draft.records.polymers.items())
        machines = [(each.name, key) for key, each in self._desk.workspace.draft.records.machines.items()
                    if not each.retired]  # fmt: skip
        for box, items in ((self.polymer, polymers), (self.machine, machines)):
            wanted = [("not chosen yet", ""), *items]
            if [(box.itemText(at), box.itemData(at)) for at in range(box.count())] != wanted:
                box.clear()
                for words, key in wanted:
                    box.addItem(words, key)

    def _on_make(self) -> None:
        name, polymer, machine = self.name.text(), self.polymer.currentData(), self.machine.currentData()

        def make() -> None:
            self._make(name, polymer or None, machine or None)
            self.name.clear()

        self._desk.run(make)
