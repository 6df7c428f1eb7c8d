"""Puts together what the sheet says; formats/sheet lays it out."""

from typing import Any

from kaustos.app.machine_page import ALWAYS_STOP, setpoint_rows, spool_rows, steps, titled, watch_rows
from kaustos.app.stops import stops_of
from kaustos.app.use import use_class
from kaustos.app.wording import Wording
from kaustos.core.records import Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review import CODES, OPERATIONS, Context, Review, ladder
from kaustos.core.review.filed import as_filed

BRIEF = (
    "brief.purpose", "brief.service_c", "brief.service_h", "brief.margin_k", "brief.stress_mpa", "brief.history",
    "brief.moisture",
)  # fmt: skip
SAID = 2  # stops that the first page says in full
LADDER, PICTURE = (372.0, 300.0), (620.0, 250.0)  # width and height as the pen draws


def sheet_content(
    recipe: Recipe, context: Context, review: Review, wording: Wording, *, revision: str, printed: str,
    maturity: str = "", appendix: bool = False,
) -> dict[str, Any]:  # fmt: skip
    """Every word and number of the sheet: first what the machine needs, then the judgement, figures where asked for."""
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
        "use": use_class(grade.value, maturity),
        **_stop_rule(review, wording),
        "grade_because": "; ".join(_reasons(review, wording)),
        "until_known": ", ".join(wording.field(path) for path in grade.until_known),
        "ladder": _ladder(recipe, context, wording),
        "pictures": _pictures(recipe, context, wording) if appendix else [],
        "setpoints": setpoint_rows(recipe, context, wording),
        "steps": steps(recipe, context, review, wording),
        "watch": watch_rows(review, wording),
        "always_stop": ALWAYS_STOP,
        "decision": _decision(recipe, review, wording),
        "brief": [(titled(wording, path), wording.field_value(path, value_at(recipe, path))) for path in BRIEF],
        "run": run_rows(recipe, context, review, wording),
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
        ] if appendix else [],
        "cautions": [caution.text for operation in review.operations for caution in operation.cautions],
    }  # fmt: skip


def _stop_rule(review: Review, wording: Wording) -> dict[str, str]:
    """What a stop means at the machine."""
    stops = stops_of(review)
    if not stops:
        return {"stop_words": "", "stop_rule": "", "stop_said": ""}
    said = " ".join(wording.text(each) for each in stops[:SAID])
    if CODES[stops[0].code].is_safety:
        return {
            "stop_words": "NOT TO BE RUN.",
            "stop_rule": "People or machine would come to harm: cure the stop first.",
            "stop_said": said,
        }
    return {
        "stop_words": "A stop stands.",
        "stop_rule": "Run only when somebody has signed for it, with a reason.",
        "stop_said": said,
    }


def _ladder(recipe: Recipe, context: Context, wording: Wording) -> str:
    from kaustos.app.pictures import Box
    from kaustos.app.pictures.ladder import draw_ladder
    from kaustos.formats.sheet import SvgPen

    pen = SvgPen(*LADDER, "Heat ladder")
    draw_ladder(pen, Box(0.0, 0.0, *LADDER), ladder(recipe, context), wording)
    return pen.svg(82.0)


def _pictures(recipe: Recipe, context: Context, wording: Wording) -> list[tuple[str, str]]:
    """The picture of every operation, each view as its bench shows it."""
    from kaustos.app.pictures import Box, drawing_of, views_of
    from kaustos.formats.sheet import SvgPen

    found = []
    for operation in OPERATIONS:
        record = operation.picture(recipe, context)
        if record.is_empty:
            continue
        for view in views_of(operation.key):
            if view in getattr(record, "empty_views", ()):
                continue
            title = f"{operation.number} {operation.title}" + (f", {view.lower()}" if view else "")
            pen = SvgPen(*PICTURE, title)
            drawing_of(operation.key, view)(pen, Box(0.0, 0.0, *PICTURE), record, wording)
            found.append((title, pen.svg(150.0)))
    return found


def run_rows(recipe: Recipe, context: Context, review: Review, wording: Wording) -> list[tuple[str, str]]:
    """Mass, time, energy and cost of the run."""
    figures = {figure.key: figure for operation in review.operations for figure in operation.figures}
    brief = as_filed(recipe, context).brief
    return [
        ("Mass", wording.field_value("brief.mass_g", brief.mass_g)),
        ("Time", wording.field_value("brief.print_h", brief.print_h)),
        *(
            (title, wording.figure(figures[key], band=band))
            for title, key, band in (("Energy", "machine.run.energy", False), ("Cost", "brief.run.cost", True))
            if key in figures
        ),
    ]


def _decision(recipe: Recipe, review: Review, wording: Wording) -> list[tuple[str, str]]:
    """Why this polymer, what was rejected, and how it went last time; what nobody has said is left out."""
    figures = {figure.key: figure for operation in review.operations for figure in operation.figures}
    rows = [(titled(wording, path), value_at(recipe, path)) for path in ("brief.why", "brief.rejected")]
    rows += [
        (figures[key].title, wording.figure(figures[key]))
        for key in ("brief.last.part", "brief.last.polymer") if isinstance(figures[key].value, str)
    ]  # fmt: skip
    return [(title, words) for title, words in rows if words]


def _reasons(review: Review, wording: Wording) -> list[str]:
    return list(
        dict.fromkeys(
            wording.text(finding).rstrip(".") for finding in review.findings() if finding.code in review.grade.because
        )
    )
