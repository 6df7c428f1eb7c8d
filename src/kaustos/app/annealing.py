"""What the bench of annealing shows and does: steps typed, dragged, planned; the list of work; growth by coupons."""

from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.growth import AXES, growth_of, print_at
from kaustos.core.records import AnnealStep, Place
from kaustos.core.review import Context, Set
from kaustos.core.review.anneal import AnnealPicture, anneal_case, work_list
from kaustos.core.review.anneal.remedies import planned

WORK_HEADINGS = ("Step", "Work", "Waits", "Tools, care")
SIZE_HEADINGS = ("", "Grows", "Between", "Print at", "Known from")
STEP_FIELDS = (("ramp_k_h", "Ramp"), ("temperature_c", "Hold at"), ("hold_h", "for, core there"))
MOST_STEPS = 6
QUARTER_H = 0.25


def work_rows(context: Context, workspace: Workspace) -> list[tuple[str, ...]]:
    """Everything that is done to the part behind the plate, in its order."""
    wording = workspace.draft.wording
    return [
        (
            each.what,
            "" if each.minutes is None else wording.value(round(each.minutes.value), "minutes"),
            "" if each.waits is None else _between(each.waits.low, each.waits.high),
            each.tools,
        )
        for each in work_list(workspace.draft.records.card.recipe, context)
    ]


def _between(low: float, high: float) -> str:
    first, last = hours_words(low), hours_words(high)
    return first if first == last else f"{first} to {last}"


def size_rows(context: Context, wording: Wording) -> list[tuple[str, ...]]:
    """What an anneal does to size along each axis, and the scale to print at."""
    if context.polymer is None:
        return []
    rows: list[tuple[str, ...]] = []
    for axis, words in AXES.items():
        growth = growth_of(context.loads, context.polymer, axis)
        if growth is None:
            continue
        signed = f"{growth.value:+.2f} %".replace("-", "−")
        band = f"{growth.low:+.2f} to {growth.high:+.2f} %".replace("-", "−")
        rows.append((words.capitalize(), signed, band, f"{print_at(growth).value:.4f}", growth.method))
    return rows


def waits_words(context: Context, workspace: Workspace) -> str:
    """How the hours of the programme come about: until the core is there, held, cooled."""
    case = anneal_case(workspace.draft.records.card.recipe, context)
    found, programme = case.found, case.programme
    if programme is None:
        return "No hold yet. Hours count from when the core is there; how long that takes is worked out."
    if found is None:
        return "Type its thickest section, or open its file: how long the core takes hangs on it."
    waits = ", ".join(hours_words(each) for each in found.waits_h)
    assert case.wall is not None
    whose = {"typed": "typed", "file": "at most, by its file", "size": "its smallest side, less is likely"}
    wall = workspace.draft.wording.value(round(case.wall.mm, 1), "length")
    return f"Core of {wall} ({whose[case.wall.by]}) there after {waits} more; {hours_words(found.hours)} in all."


def plan(workspace: Workspace, context: Context) -> Set:
    """The programme that the polymer, section and place ask for, as one edit."""
    found = planned(workspace.draft.records.card.recipe, context)
    if found is None:
        raise KaustosError("Its polymer's transitions, heat data and its thickest section are wanted for that.")
    return found


def drop_last(workspace: Workspace) -> str:
    """Take the last step out."""
    records = workspace.draft.records
    steps = records.card.recipe.anneal.steps
    if not steps:
        raise KaustosError("There is no step to take out.")
    place = Place("cards", str(records.current), "recipe.anneal.steps")
    workspace.draft.set({place: steps[:-1]}, title=f"Anneal: step {len(steps)} taken out")
    return f"Step {len(steps)} taken out."


def dragged(
    record: AnnealPicture, steps: tuple[AnnealStep, ...], number: int, hours: float | None, celsius: float | None
) -> dict[str, float]:  # fmt: skip
    """What dragging a corner sets: its hold to whole kelvins, its hours to quarters; nothing for what stands so."""
    node = record.nodes[number]
    changes: dict[str, float] = {}
    if celsius is not None:
        changes[f"anneal.steps.{node.step}.temperature_c"] = float(max(round(celsius), round(record.room_c)))
    if hours is not None:
        held = (steps[node.step].hold_h or 0.0) + hours - node.hours
        changes[f"anneal.steps.{node.step}.hold_h"] = max(round(held / QUARTER_H) * QUARTER_H, 0.0)
    return changes
