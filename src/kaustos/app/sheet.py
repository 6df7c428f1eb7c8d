"""Puts together what the sheet says; formats/sheet lays it out."""

from typing import Any

from kaustos.app.stops import stops_of
from kaustos.app.wording import Wording, when_words
from kaustos.core.planning.reach import is_chamber_heated
from kaustos.core.records import Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review import CODES, OPERATIONS, Context, Review, ladder
from kaustos.core.review.machine import CHAMBER

SETTINGS = (
    "first_layer.nozzle_c", "melt.nozzle_c", "first_layer.bed_c", "plate.bed_c", "heat.chamber_c",
    "brief.service_c", "brief.margin_k", "brief.stress_mpa", "brief.history", "brief.moisture", "brief.purpose",
)  # fmt: skip


LADDER, PICTURE = (372.0, 300.0), (620.0, 250.0)  # width and height as the pen draws


def sheet_content(
    recipe: Recipe, context: Context, review: Review, wording: Wording, *, revision: str, printed: str
) -> dict[str, Any]:
    """Every word and number of the sheet."""
    grade = review.grade
    return {
        "title": recipe.name or "Unnamed recipe",
        "part": recipe.part or "part not recorded",
        "polymer": context.polymer.name if context.polymer else "polymer not recorded",
        "machine": context.machine.name if context.machine else "machine not recorded",
        "lot": context.lot.name if context.lot else "",
        "revision": revision,
        "printed": printed,
        "grade": wording.grade(grade),
        **_stop_rule(review),
        "grade_because": "; ".join(_reasons(review, wording)),
        "until_known": ", ".join(wording.field(path) for path in grade.until_known),
        "ladder": _ladder(recipe, context, wording),
        "pictures": _pictures(recipe, context, wording),
        "settings": [(_title(wording, path), _set_to(wording, recipe, context, path)) for path in SETTINGS],
        "run": run_rows(recipe, review, wording),
        "spool": spool_rows(recipe, context, review, wording),
        "findings": [
            {
                "severity": finding.severity,
                "text": wording.text(finding),
                "why": CODES[finding.code].why,
                "cost": wording.cost(finding),
                "remedies": "; ".join(wording.remedy(remedy) for remedy in finding.remedies),
            }
            for finding in review.findings()
        ],
        "missing": ", ".join(wording.field(each.field) for each in review.completeness.missing),
        "figures": [
            (figure.title, wording.figure(figure), wording.origin(figure))
            for operation in review.operations
            for figure in operation.figures
        ],
        "ticks": SPOOL_TICKS,
        "cautions": [caution.text for operation in review.operations for caution in operation.cautions],
    }


def _set_to(wording: Wording, recipe: Recipe, context: Context, path: str) -> str:
    """What is entered at the panel; a chamber that nothing heats takes no setting."""
    if path == CHAMBER and not is_chamber_heated(context.machine):
        return "not heated: nothing to set"
    return wording.field_value(path, value_at(recipe, path))


def _stop_rule(review: Review) -> dict[str, str]:
    """What a stop means at the machine."""
    stops = stops_of(review)
    if not stops:
        return {"stop_words": "", "stop_rule": ""}
    if CODES[stops[0].code].is_safety:
        return {
            "stop_words": "NOT TO BE RUN.",
            "stop_rule": "People or machine would come to harm: cure the stop first.",
        }
    return {"stop_words": "A stop stands.", "stop_rule": "Run only when somebody has signed for it, with a reason."}


def _ladder(recipe: Recipe, context: Context, wording: Wording) -> str:
    from kaustos.app.pictures import Box
    from kaustos.app.pictures.ladder import draw_ladder
    from kaustos.formats.sheet import SvgPen

    pen = SvgPen(*LADDER, "Heat ladder")
    draw_ladder(pen, Box(0.0, 0.0, *LADDER), ladder(recipe, context), wording)
    return pen.svg(82.0)


def _pictures(recipe: Recipe, context: Context, wording: Wording) -> list[tuple[str, str]]:
    """The picture of every operation, as its bench shows it."""
    from kaustos.app.pictures import Box, drawing_of
    from kaustos.formats.sheet import SvgPen

    found = []
    for operation in OPERATIONS:
        record = operation.picture(recipe, context)
        if record.is_empty:
            continue
        pen = SvgPen(*PICTURE, f"{operation.number} {operation.title}")
        drawing_of(operation.key)(pen, Box(0.0, 0.0, *PICTURE), record, wording)
        found.append((f"{operation.number} {operation.title}", pen.svg(150.0)))
    return found


def run_rows(recipe: Recipe, review: Review, wording: Wording) -> list[tuple[str, str]]:
    """Mass, time, energy and cost of the run."""
    figures = {figure.key: figure for operation in review.operations for figure in operation.figures}
    return [
        ("Mass", wording.field_value("brief.mass_g", recipe.brief.mass_g)),
        ("Time", wording.field_value("brief.print_h", recipe.brief.print_h)),
        *(
            (title, wording.figure(figures[key], band=band))
            for title, key, band in (("Energy", "machine.run.energy", False), ("Cost", "brief.run.cost", True))
            if key in figures
        ),
    ]


SPOOL_FIGURES = {
    "stock.drying.time": "From now to the printing limit, deepest turn",
    "stock.waiting.lasts": "May wait for its print for",
    "stock.exposure.lasts": "May hang in its feed for",
    "stock.mass.left": "Filament left",
}
SPOOL_TICKS = (
    "Label read: grade, colour and lot as above",
    "Free end secured; the spool turns freely, no turn lies under another",
)


def spool_rows(recipe: Recipe, context: Context, review: Review, wording: Wording) -> list[tuple[str, str]]:
    """How the spool is dried, where it waits and hangs, and how long that lasts."""
    figures = {figure.key: figure for operation in review.operations for figure in operation.figures}
    planned = [f"stock.{name}" for name in ("dryer_c", "dryer_h", "wait_h", "wait_in")]
    rows = [("Dried in", context.dryer.name if context.dryer else "dryer not recorded")]
    if recipe.stock.wanted_utc:
        rows.append(("Wanted dry at", when_words(recipe.stock.wanted_utc)))
        rows.append(("Put it in by", wording.figure(figures["stock.drying.start"])))
    rows += [(_title(wording, path), wording.field_value(path, value_at(recipe, path))) for path in planned]
    if context.lot:
        rows.append(("Fed from", wording.field_value("lot.feed", context.lot.feed)))
    return rows + [(title, wording.figure(figures[key], band=False)) for key, title in SPOOL_FIGURES.items()]


def _reasons(review: Review, wording: Wording) -> list[str]:
    return list(
        dict.fromkeys(
            wording.text(finding).rstrip(".") for finding in review.findings() if finding.code in review.grade.because
        )
    )


def _title(wording: Wording, path: str) -> str:
    title = wording.field(path)
    return title[:1].upper() + title[1:]
