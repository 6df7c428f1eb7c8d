"""The list before a start, made from what the operations demand: met, not met or unknown, with the figure."""

from collections.abc import Mapping

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Absent, Context, Figure, Finding, Review

STATES = ("not met", "unknown", "met")


@attrs.frozen(kw_only=True)
class Check:
    """One line of the list."""

    key: str
    title: str
    state: str  # one of STATES
    findings: tuple[Finding, ...]
    missing: tuple[str, ...]  # fields that nobody recorded
    figure: Figure | None


@attrs.frozen(kw_only=True)
class _Line:
    key: str
    title: str
    codes: tuple[str, ...]  # beginnings
    fields: tuple[str, ...]  # that are to be known; with a dot at its end all that begin so
    figure: str = ""


LINES = (
    _Line(key="matters", title="Nothing that earlier runs left open", codes=("run.matter.",), fields=()),
    _Line(key="dry", title="Spool dry until the end",
          codes=("stock.moisture.", "stock.exposure.", "stock.waiting.", "stock.drying.", "stock.dryer.",
                 "stock.strand.", "stock.spool.", "stock.desiccant."),
          fields=("lot.stays", "context.lot", "stock.dryer_c", "stock.dryer_h"), figure="stock.moisture.start"),
    _Line(key="enough", title="Enough on the spool", codes=("stock.mass.", "stock.lot.planned", "stock.lot.low"),
          fields=("context.lot", "lot.net_g", "lot.tare_g", "brief.mass_g"), figure="stock.mass.left"),
    _Line(key="right", title="The right spool, known here",
          codes=("stock.lot.other_polymer", "stock.lot.elsewhere", "stock.lot.unqualified", "machine.strand."),
          fields=("context.lot", "polymer")),
    _Line(key="plate", title="Plate and agent ready",
          codes=("plate.item.", "plate.film.", "plate.agent.", "plate.surface.", "plate.limit."),
          fields=("context.plate", "plate.cleaned"), figure="plate.bond.lifts"),
    _Line(key="nozzle", title="Nozzle lasts this job",
          codes=("machine.nozzle.w", "machine.nozzle.look_due", "machine.nozzle.not_fitted",
                 "machine.nozzle.bore_small", "machine.nozzle.unchecked", "melt.change."),
          fields=("context.nozzle", "nozzle.")),
    _Line(key="calibrated", title="Offsets and calibrations in force",
          codes=("machine.calibration.", "machine.gap.", "machine.plate.tilt", "machine.plate.sag",
                 "machine.plate.cold_probed", "melt.multiplier.", "melt.ladder."),
          fields=("machine.offsets", "machine.grids")),
    _Line(key="sensors", title="Sensors agree",
          codes=("machine.nozzle.reads_off", "machine.plate.reads_off", "machine.chamber.reads_off",
                 "machine.nozzle.wrong_table", "machine.plate.wrong_table", "machine.chamber.wrong_table",
                 "machine.chamber.never_measured"),
          fields=("machine.nozzle.sensor", "machine.plate.sensor")),
    _Line(key="reach", title="The machine gets there and stays whole",
          codes=("machine.nozzle.liner", "machine.nozzle.beyond", "machine.nozzle.decomposition",
                 "machine.plate.beyond", "machine.plate.magnet", "machine.plate.backing", "machine.chamber.beyond",
                 "machine.chamber.expected", "machine.chamber.parts", "machine.chamber.electronics", "machine.near.",
                 "machine.site.", "machine.size."),
          fields=("machine", "machine.nozzle.liner", "machine.chamber.plastics")),
    _Line(key="soak", title="Soak planned", codes=("heat.soak.",), fields=("heat.soak_min",),
          figure="heat.soak.needed"),
    _Line(key="supports", title="Supports and feet as decided", codes=("supports.",), fields=("supports.way", "bath.")),
    _Line(key="file", title="File and recipe say the same", codes=("run.job.",), fields=("context.job",),
          figure="run.time.hours"),
    _Line(key="somebody", title="Somebody looks at layer one", codes=("first_layer.look.", "run.day."),
          fields=("first_layer.look_by", "machine.timer_h"), figure="first_layer.look.due"),
)  # fmt: skip


def preflight(review: Review, recipe: Recipe, context: Context) -> tuple[Check, ...]:
    """Every line with what stands against it; what nobody recorded is unknown, never met."""
    findings = review.findings()
    figures: Mapping[str, Figure] = {each.key: each for operation in review.operations for each in operation.figures}
    missing = tuple(each.field for each in review.completeness.missing)
    return tuple(_checked(line, findings, missing, figures) for line in LINES)


def _is_meant(field: str, of_line: str) -> bool:
    return field == of_line or (of_line.endswith(".") and field.startswith(of_line))


def _checked(
    line: _Line, findings: tuple[Finding, ...], missing: tuple[str, ...], figures: Mapping[str, Figure]
) -> Check:
    against = tuple(each for each in findings if each.code.startswith(line.codes))
    unknown = tuple(each for each in missing if any(_is_meant(each, field) for field in line.fields))
    figure = figures.get(line.figure)
    if figure is not None and isinstance(figure.value, Absent):
        figure = None
    state = "not met" if against else "unknown" if unknown else "met"
    return Check(key=line.key, title=line.title, state=state, findings=against, missing=unknown, figure=figure)
