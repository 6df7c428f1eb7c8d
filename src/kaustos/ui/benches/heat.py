"""Bench 70: the weld over what can be set, heat along the height; what each lever buys, and what was measured."""

from kaustos.app.pictures import views_of
from kaustos.app.welds import LEVER_HEADINGS, SCHOOL_HEADINGS, lever_rows, school_rows
from kaustos.core.review.heat import LEVERS
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.choices import ChoiceTable
from kaustos.ui.benches.measuring import RatioPage
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.benches.weld_map import WeldMapPicture
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form

FIELDS = ("heat.chamber_c", "melt.nozzle_c", "heat.fan_pct", "heat.least_layer_s", "heat.soak_min", "plate.copies")


class HeatBench(Bench):
    """Air, fan and times; maps and profile; levers, the ratio that was measured, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "heat", self.form, WeldMapPicture(desk))
        names = views_of("heat")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.levers = WeldLeverTable(desk)
        self.schools = SchoolTable(desk, self.picture)
        self.ratio = RatioPage(desk)
        self.switches = self.turn_pages(
            {"Levers": self.levers, "Schools": self.schools, "Measured": self.ratio, "Figures": self.figures}
        )

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class WeldLeverTable(Following, ChoiceTable):
    """What each lever would do to the weld; Enter pulls one."""

    def __init__(self, desk: Desk) -> None:
        widths = ((1, 54), (2, 44), (3, 48), (4, 80), (5, 46))
        super().__init__(desk, "What each lever would do to the weld", LEVER_HEADINGS, widths)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow what was tried."""
        if not self._desk.has_recipe:
            return
        found = self._desk.context.results.get(LEVERS)
        levers = found.levers if found is not None else ()
        self._remedies = tuple(lever.remedy for lever in levers)
        waiting = "computing" if found is None else "Set nozzle, bead and machine to see what helps"
        self.show_rows(lever_rows(levers, self._desk.wording) or [(waiting, "", "", "", "", "")])


class SchoolTable(ChoiceTable):
    """Wide beads and beads as the bore beside what is set; Enter takes one."""

    def __init__(self, desk: Desk, picture: Picture) -> None:
        widths = ((1, 62), (2, 104), (3, 104), (4, 78), (5, 70))
        super().__init__(desk, "Schools of bead width", SCHOOL_HEADINGS, widths)
        self._picture = picture
        picture.shown.connect(self.refresh)

    def refresh(self) -> None:
        """Follow what was tried with the picture."""
        record = self._picture.record
        schools = record.schools if record is not None else ()
        self._remedies = tuple(school.remedy for school in schools)
        nothing = ("Set nozzle, bead and layer to compare", "", "", "", "", "")
        self.show_rows(school_rows(schools, self._desk.wording) or [nothing])
