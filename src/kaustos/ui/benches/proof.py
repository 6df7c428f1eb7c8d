"""Bench 120: the ladder of tests, what was measured, pulled and tapped, the next trial, what was found before."""

from pathlib import Path

from kaustos.app.pictures import views_of
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.proof_pages import LadderPage, LogPage, SizePage, TrialPage
from kaustos.ui.benches.proof_tests import HandPage, PullPage, TonePage
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form

FIELDS = ("brief.purpose", "brief.load_across", "brief.service_h", "context.lot")


class ProofBench(Bench):
    """What it is for; ladder, curves or sizes; a page for each kind of evidence."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "proof", self.form, Picture(desk, "proof"))
        names = views_of("proof")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.ladder, self.sizes, self.pulls = LadderPage(desk), SizePage(desk), PullPage(desk)
        self.hands, self.tones = HandPage(desk), TonePage(desk)
        self.trial, self.log = TrialPage(desk), LogPage(desk)
        self.switches = self.turn_pages(
            {
                "Ladder": self.ladder,
                "Size": self.sizes,
                "Pull": self.pulls,
                "Hand": self.hands,
                "Tone": self.tones,
                "Trial": self.trial,
                "Log": self.log,
                "Figures": self.figures,
            }
        )

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)

    @property
    def is_pulling(self) -> bool:
        """Whether the page of specimens is shown."""
        return self.pulls.isVisible()

    def take(self, file: Path) -> None:
        """A curve or a recording, dropped or opened."""
        is_sound = file.suffix.lower() == ".wav"
        next(each for each in self.switches if each.text() == ("Tone" if is_sound else "Pull")).click()
        if is_sound:
            self.tones.take(file)
        else:
            self.pulls.take((file,))
