"""The report of a recipe's evidence: what it is, what proves it, where each figure is from, room for signatures."""

import base64
from pathlib import Path
from typing import Any

from kaustos.app.evidence import (
    HAND_HEADINGS,
    LADDER_HEADINGS,
    LOG_HEADINGS,
    PULL_HEADINGS,
    SIZE_HEADINGS,
    TONE_HEADINGS,
    hand_rows,
    ladder_rows,
    log_rows,
    pull_rows,
    pull_words,
    release_words,
    size_rows,
    tone_rows,
)
from kaustos.app.machine_page import setpoint_rows, titled
from kaustos.app.pictures import Box, drawing_of, views_of
from kaustos.app.wording import when_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.records.fields import value_at
from kaustos.core.review import Context, Review
from kaustos.core.review.proof import picture
from kaustos.disk.writing import write_whole

SETTINGS = (
    "brief.purpose", "brief.service_c", "brief.service_h", "brief.stress_mpa", "brief.history", "brief.moisture",
)  # fmt: skip
PICTURE = (620.0, 250.0)
MOST_PHOTOS, LARGEST_PHOTO = 8, 4_000_000
KINDS = {b"\x89PNG": "image/png", b"\xff\xd8\xff": "image/jpeg"}


def report_content(workspace: Workspace, context: Context, review: Review) -> dict[str, Any]:
    """Every word and number of the report."""
    from kaustos.formats.sheet import SvgPen

    records, wording = workspace.draft.records, workspace.draft.wording
    recipe, record = records.card.recipe, picture(records.card.recipe, context)
    pictures = []
    for view in views_of("proof"):
        if view not in record.empty_views:
            pen = SvgPen(*PICTURE, view)
            drawing_of("proof", view)(pen, Box(0.0, 0.0, *PICTURE), record, wording)
            pictures.append((view, pen.svg(170.0)))
    chosen = [each.name for each in (context.polymer, context.machine, context.lot) if each is not None]
    revisions = workspace.revisions()
    revision = f"revision {revisions[0].number:.0f}" if revisions else "not saved yet"
    return {
        "title": f"Evidence: {recipe.name or 'unnamed recipe'}",
        "under": f"{recipe.part or 'part not recorded'}; {', '.join(chosen)}; {revision}; "
                 f"printed {when_words(stamp(workspace.clock()))}",
        "use": f"Grade: {wording.grade(review.grade)}. {release_words(workspace, review)}",
        "settings": [
            *((titled(wording, path), wording.field_value(path, value_at(recipe, path))) for path in SETTINGS),
            *((name, ", ".join(str(one) for one in rest if one))
              for name, *rest in setpoint_rows(recipe, context, wording)),
        ],
        "tables": [
            ("Ladder of tests", "", LADDER_HEADINGS, ladder_rows(context, workspace)),
            ("Sizes", "", SIZE_HEADINGS, size_rows(context, workspace)),
            ("Specimens", pull_words(context, workspace), PULL_HEADINGS, pull_rows(context, workspace)),
            ("By hand, comparative only; looked over", "", HAND_HEADINGS, hand_rows(context)),
            ("Coupons that were tapped", "", TONE_HEADINGS, tone_rows(context, workspace)),
            ("Dead ends, finds, parts in service", "", LOG_HEADINGS, log_rows(context, workspace)),
        ],
        "pictures": pictures,
        "figures": [
            (each.title, wording.figure(each), wording.origin(each))
            for operation in review.operations if operation.number in (70, 110, 120) for each in operation.figures
        ],
        "findings": [(each.severity, wording.text(each)) for each in review.findings()],
        "photos": _photos(workspace, context),
    }  # fmt: skip


def _photos(workspace: Workspace, context: Context) -> list[str]:
    """Photos of the evidence and of the recipe's runs, as data; what is no picture or too large is left out."""
    records = workspace.draft.records
    runs = workspace.indexes.runs_of(records.runs, str(records.current))
    photos = [photo for proof in context.proofs for photo in proof.photos]
    photos += [photo for run in runs for photo in run.photos]
    found = []
    for photo in photos[:MOST_PHOTOS]:
        content = workspace.attachment(photo.sha256) or b""
        kind = next((kind for head, kind in KINDS.items() if content.startswith(head)), None)
        if kind is not None and len(content) <= LARGEST_PHOTO:
            found.append(f"data:{kind};base64,{base64.b64encode(content).decode()}")
    return found


def write_report(workspace: Workspace, context: Context, review: Review, file: Path) -> str:
    """Write the report as PDF."""
    from kaustos.formats.sheet import evidence_pdf

    write_whole(file, evidence_pdf(report_content(workspace, context, review)))
    return f"{file.name} is written."
