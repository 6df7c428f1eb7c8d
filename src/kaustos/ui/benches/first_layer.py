"""Bench 50: the first bead in section, the three conditions, and who looks at layer one."""

from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.probe import SkirtProbe
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form

FIELDS = ("first_layer.gap_mm", "first_layer.nozzle_c", "first_layer.height_mm", "melt.nozzle_c",
          "first_layer.width_mm", "first_layer.bed_c", "first_layer.speed_mm_s", "plate.bed_c",
          "first_layer.slow_layers", "first_layer.look_by")  # fmt: skip


class FirstLayerBench(Bench):
    """Gap, heat and speed; the bead; the skirt as a level probe, or the figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "first_layer", self.form, Picture(desk, "first_layer"))
        self.probe = SkirtProbe(desk)
        self.switches = self.turn_pages({"Figures": self.figures, "Skirt as a probe": self.probe})

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)
