"""Labels for the parts of the open recipe: what each may be used for goes with it, and a code that a camera reads."""

from pathlib import Path
from typing import Any

from kaustos.app.giving import concession_of
from kaustos.app.use import use_class
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.review import Context, Review
from kaustos.disk.writing import write_whole

MOST = 200  # labels in one file


def part_labels_content(
    workspace: Workspace, context: Context, review: Review, count: int | None = None
) -> dict[str, Any]:
    """A numbered label for each of so many parts, else for those of one run; one of no known lot says so."""
    import segno

    current = workspace.draft.records.current
    if current is None:
        raise KaustosError("Open a recipe: a label says what its parts may be used for.")
    recipe, day = workspace.draft.records.card.recipe, f"{workspace.clock():%Y-%m-%d}"
    count = round(recipe.plate.copies or 1) if count is None else count
    if not 1 <= count <= MOST:
        raise KaustosError(f"{count} labels: from 1 to {MOST} can be written at a time")
    use = ", ".join(filter(None, (use_class(review.grade.value, workspace.maturity().word), concession_of(workspace))))
    lot = context.lot.name if context.lot is not None else "lot not recorded"
    machine = context.machine.name if context.machine is not None else "machine not recorded"
    polymer = context.polymer.name if context.polymer is not None else "polymer not recorded"
    treated = "annealed; by, date" if recipe.brief.history == "annealed" else "as printed; by, date"
    return {
        "title": f"Parts: {recipe.part or recipe.name}",
        "under": f"{recipe.name}, {polymer}. Use: {use}. Tick and sign when it was looked over.",
        "labels": [
            {
                "name": f"{recipe.part or recipe.name}, {place}\u00a0of\u00a0{count}", "test": f"Use: {use}",
                "size": f"{lot}; {machine}, {day}", "state": treated,
                "code": segno.make(f"{current} {day} {place}/{count}", error="m").svg_inline(scale=2),
            }
            for place in range(1, count + 1)
        ],
    }  # fmt: skip


def write_part_labels(
    workspace: Workspace, context: Context, review: Review, file: Path, count: int | None = None
) -> str:
    """Write the labels as PDF."""
    from kaustos.formats.sheet import labels_pdf

    content = part_labels_content(workspace, context, review, count)
    write_whole(file, labels_pdf(content))
    return f"{file.name} is written: {len(content['labels'])} labels. {content['under']}"
