"""What the benches of melt and heat show and do: levers, schools, change-over, and what a map sets."""

from collections.abc import Iterator

from kaustos.app.report import Reviewed
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.planning.reach import is_chamber_heated
from kaustos.core.records import Machine
from kaustos.core.review import Context
from kaustos.core.review.heat import LEVERS, School, WeldLever, WeldMap, ways_of
from kaustos.core.review.melt import change_over_of

MAP_VIEWS = {"Air": "chamber", "Layer time": "layer", "Speed": "speed"}
LEVER_HEADINGS = ("Lever", "Across", "Gain", "Flow", "Leaves", "")
SCHOOL_HEADINGS = ("Beads", "Width", "In the wall", "Flow", "Same speed", "Same flow")
GRADES = {"functional": "functional", "reduced": "reduced", "decorative": "decorative"}


def map_move(machine: Machine | None, record: WeldMap, x: float | None, y: float | None) -> dict[str, float]:
    """What a move on a map sets: the nozzle, and what runs along it where this machine takes that setting."""
    changes: dict[str, float] = {}
    if y is not None:
        changes["melt.nozzle_c"] = float(round(y))
    if x is not None and (record.along != "chamber" or machine is None or is_chamber_heated(machine)):
        changes[record.field] = float(round(x, 1)) if record.along == "layer" else float(round(max(x, 1.0)))
    return changes


def weld_lines(each: Reviewed, wording: Wording) -> Iterator[str]:
    """The weld of a judged recipe in lines: what it keeps, then every lever with what it does."""
    figures = {figure.key: figure for operation in each.review.operations for figure in operation.figures}
    for key in ("heat.weld.share", "heat.weld.contact", "heat.layer.longest", "melt.flow.asked", "melt.flow.hard"):
        yield f"{figures[key].title}: {wording.figure(figures[key])}"
    found = each.context.results.get(LEVERS)
    rows = lever_rows(found.levers, wording) if found is not None else []
    if not rows:
        yield "No lever could be tried: set nozzle, bead, layer and speed."
        return
    yield "\t".join(LEVER_HEADINGS).rstrip()
    for row in rows:
        yield "\t".join(row).rstrip()


CHANGE_HEADINGS = ("Change over", "")
ROUTE_HEADINGS = ("Way", "Hours", "Money", "Why")


def change_rows(workspace: Workspace, context: Context, before: str | None) -> list[tuple[str, ...]]:
    """How the recipe's polymer follows the one that is in the hot end."""
    wording, recipe = workspace.draft.wording, workspace.draft.records.card.recipe
    plan = change_over_of(recipe, context, before)
    if plan is None:
        return [("Nothing to do", "The same polymer, or one of the two is not known; choose what is in it above.")]
    rows = [("From, to", f"{plan.old}, then {plan.new}")]
    if plan.is_possible:
        window = f"{wording.value(plan.low_c, 'temperature')} to {wording.value(plan.high_c, 'temperature')}"
        purge = f"{wording.value(plan.purge_g, 'mass')}, {wording.value(plan.purge_mm, 'length')} of filament"
        rows += [("Flush at", window), ("Purge", purge)]
    else:
        gap = f"{plan.old} and {plan.new} have none: {plan.low_c:.0f} °C is wanted, {plan.high_c:.0f} °C is stood"
        rows += [("Common heat", gap), ("Between", ", ".join(plan.between) or "no polymer of the library leads over")]
    return [*rows, *((str(number), step) for number, step in enumerate(plan.order, 1))]


def route_rows(workspace: Workspace, context: Context) -> list[tuple[str, ...]]:
    """Ways to the part with hours and money, the cheapest that is possible first."""
    wording = workspace.draft.wording
    ways = ways_of(workspace.draft.records.card.recipe, context)
    if ways is None:
        return [("Not known yet", "", "", "Give the part a size, the recipe a polymer, bead, layer and speed.")]
    rows = [
        (
            each.title if each.is_possible else f"{each.title}: no",
            wording.number(each.hours, "duration"),
            wording.number(each.money, "money"),
            each.why,
        )
        for each in ways.routes
    ]
    stock = wording.value(ways.stock_mm, "length")
    near = f"draw {wording.value(round(ways.size_mm), 'length')} × {ways.scale:.3f} for {stock} of stock on each face"
    return [*rows, ("Near its shape", "", "", near)]


def lever_rows(found: tuple[WeldLever, ...], wording: Wording) -> list[tuple[str, ...]]:
    """What a table shows of each lever."""
    return [
        (
            wording.remedy(each.remedy),
            "" if each.share is None else wording.value(round(100.0 * each.share), "share"),
            "" if each.gain is None else f"{100.0 * each.gain:+.0f}",
            "" if each.over_hard is None else wording.value(round(100.0 * each.over_hard), "share"),
            GRADES.get(each.grade or "", ""),
            "helps" if each.is_better else "",
        )
        for each in found
    ]


def school_rows(found: tuple[School, ...], wording: Wording) -> list[tuple[str, ...]]:
    """Both schools of bead width beside what is set."""
    rows = []
    for each in found:
        wall = "" if each.beads is None else f"{each.beads}"
        if each.beads == 0:
            wall = "vanishes"
        elif each.beads and each.open_mm is not None:
            off = wording.value(round(abs(each.open_mm), 2), "length")
            wall += f", {off} {'open' if each.open_mm > 0 else 'over'}"
        flow = "" if each.flow_mm3_s is None else wording.value(each.flow_mm3_s, "flow")
        if each.over_hard is not None:
            flow += f", {100.0 * each.over_hard:.0f} %"
        shares = [
            "" if share is None else wording.value(round(100.0 * share), "share")
            for share in (each.share, each.share_at_flow)
        ]
        rows.append((each.name, wording.value(each.width_mm, "length"), wall, flow, *shares))
    return rows
