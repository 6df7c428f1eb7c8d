"""Bench 40: the plate from above or the axis of grip, and below it what each lever does."""

from pathlib import Path

from kaustos.app.pictures import views_of
from kaustos.app.plates import LEVER_HEADINGS, PAIR_HEADINGS, lever_rows, pair_rows
from kaustos.core.review.plate import LEVERS
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.choices import ChoiceTable
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.part_page import PartPage
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form

FIELDS = ("context.plate", "context.agent", "context.part", "plate.anchor", "plate.brim_mm", "plate.copies",
          "plate.clips", "plate.release")  # fmt: skip
MORE = ("plate.coats", "melt.infill_pct", "plate.raft_mm", "plate.apart_mm")


class PlateBench(Bench):
    """Plate, agent, part and anchor; the plate or the axis; levers or figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "plate", self.form, Picture(desk, "plate"))
        names = views_of("plate")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.levers = LeverTable(desk)
        self.part = PartPage(desk)
        self.more = Form(desk, MORE)
        self.pairs = PairTable(desk)
        pages = {"Levers": self.levers, "Part": self.part, "Pairs": self.pairs, "More": self.more,
                 "Figures": self.figures}  # fmt: skip
        self.switches = self.turn_pages(pages)

    def take_part(self, file: Path) -> None:
        """Measure a part file that was dropped on the window."""
        self.switches[1].click()
        self.part.take(file)

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        if path in ("part", "part.shape"):
            self.switches[1].click()
            self.part.open.setFocus()
            return True
        path = "context.plate" if path == "plate" else path
        if path in MORE:
            self.switches[3].click()
            return self.more.show_field(path)
        return self.form.show_field(path)


class PairTable(Following, PlainTable):
    """What is known of this polymer on every surface, bare and under every agent."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(PAIR_HEADINGS)
        self._desk = desk
        self.setAccessibleName("What is known of this polymer on every surface")
        header = self.horizontalHeader()
        for column, width in ((0, 122), (1, 96), (2, 80), (3, 76), (4, 54), (5, 44)):
            header.resizeSection(column, width)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the recipe's polymer and the runs."""
        if self._desk.has_recipe:
            self.show_rows(pair_rows(self._desk.workspace, self._desk.wording))


class LeverTable(Following, ChoiceTable):
    """What each lever of anchor, heat, plate and agent would do; Enter pulls one."""

    def __init__(self, desk: Desk) -> None:
        widths = ((1, 66), (2, 74), (3, 52), (4, 56), (5, 50))
        super().__init__(desk, "What each lever would do", LEVER_HEADINGS, widths)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow what was tried."""
        if not self._desk.has_recipe:
            return
        found = self._desk.context.results.get(LEVERS)
        if found is None:
            self._remedies = ()
            self.show_rows([("computing", "", "", "", "", "")])
            return
        levers, rows = lever_rows(found, self._desk.wording)
        self._remedies = tuple(lever.remedy for lever in levers)
        self.show_rows(rows or [("Choose a plate and set nozzle and plate to see what helps", "", "", "", "", "")])
