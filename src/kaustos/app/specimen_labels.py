"""The plan of specimens of the open recipe, and their labels with a code that a camera reads."""

from pathlib import Path
from typing import Any

from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.specimen_plan import CODES, Specimen, specimens_for
from kaustos.core.review import Context
from kaustos.disk.writing import write_whole

TESTS = {
    "across": "pulled across the layers", "along": "pulled along the layers", "coupon": "coupon: weigh, measure, tap",
}  # fmt: skip


def plan_of(workspace: Workspace, context: Context) -> tuple[Specimen, ...]:
    """Specimens of the open recipe, labelled by lot and day."""
    if workspace.draft.records.current is None or context.polymer is None:
        raise KaustosError("Open a recipe with its polymer: specimens are printed under its settings.")
    density = context.polymer.value("density_g_cm3")
    lot = context.lot.name.split(",")[0].replace(" ", "") if context.lot is not None else "no-lot"
    day = f"{workspace.clock():%m%d}"
    return specimens_for(f"{lot}-{day}", density.value if density is not None else 1.2)


def plan_words(plan: tuple[Specimen, ...]) -> str:
    """What is printed, in one sentence."""
    counts = {key: sum(each.direction == key for each in plan) for key in CODES}
    grams = sum(each.grams for each in plan)
    pieces = f"{counts['across']} standing, {counts['along']} lying, {counts['coupon']} coupon: {grams:.0f} g"
    return f"{pieces}; label each at the plate, clean every residue off before it is measured: it adds thickness."


def labels_content(workspace: Workspace, context: Context) -> dict[str, Any]:
    """Every label with its code."""
    import segno

    recipe, plan = workspace.draft.records.card.recipe, plan_of(workspace, context)
    state = recipe.brief.moisture or "state not recorded"
    names = [each.name for each in (context.polymer, context.machine) if each is not None]
    return {
        "title": f"Specimens: {recipe.name}",
        "under": f"{', '.join(names)}. {plan_words(plan)}",
        "labels": [
            {
                "name": each.label, "test": TESTS[each.direction], "state": f"{state}; measured by, date",
                "size": " x ".join(f"{one:g}" for one in each.size_mm) + " mm",
                "code": segno.make(f"{each.label} {workspace.draft.records.current}", error="m").svg_inline(scale=2),
            }
            for each in plan
        ],
    }  # fmt: skip


def write_labels(workspace: Workspace, context: Context, file: Path) -> str:
    """Write the labels as PDF."""
    from kaustos.formats.sheet import labels_pdf

    write_whole(file, labels_pdf(labels_content(workspace, context)))
    return f"{file.name} is written. {plan_words(plan_of(workspace, context))}"
