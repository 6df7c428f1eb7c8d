"""Whether the plate is level where it counts, whether the kept offset stands, what the panel makes of the recipe."""

from collections.abc import Callable, Iterator

from kaustos.core.planning.flatness import COLD_K, JUMP_MM, SAG_MM, TILT_MM, flatness_of, jump_of
from kaustos.core.planning.panel import panel_of
from kaustos.core.records import Machine, Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Advice, Context, Finding
from kaustos.core.review.machine.finder import finder
from kaustos.core.review.machine.level_codes import LEVEL_CODES

_found = finder(LEVEL_CODES)
Values = dict[str, float | str | None]
Judge = Callable[[Recipe, Context], tuple[Finding, ...]]


def level_findings(recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What stands against plate and offset, as far as they were probed and kept."""
    machine = context.machine
    if machine is None:
        return
    yield from _jumped(recipe, context, machine)
    yield from _level(recipe, context, machine)


def _jumped(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    found = jump_of(machine.offsets)
    if found is None or abs(found[0] - found[1]) < JUMP_MM:
        return
    look = Advice(
        "Do not start: measure the offset anew, cold and slowly",
        "With a sheet of known thickness between nozzle and plate, a hand at the power. If the new one is right, "
        "because a probe or a nozzle was changed, log that change and take the old offsets out.",
    )
    values: Values = {"now": found[0], "before": found[1], "jump": abs(found[0] - found[1])}
    yield _found(recipe, context, "machine.gap.jumped", "machine.offsets", (look,), values)


def _level(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    flat = flatness_of(machine)
    if flat is None:
        return
    date, plate = flat.grid.at_utc[:10], recipe.plate.bed_c
    if flat.sag_mm > SAG_MM:
        shim = Advice(
            "Shim it, let a mesh follow it, or change the plate", "Where it lies low stands on the map of the plate."
        )
        yield _found(recipe, context, "machine.plate.sag", "machine.grids", (shim,),
                     {"sag": flat.sag_mm, "most": SAG_MM, "date": date})  # fmt: skip
    if flat.tilt_mm > TILT_MM:
        turns = (
            ", ".join(f"{name} {turn:+.2f}" for name, turn in flat.turns) or "the pitch of its screws is not recorded"
        )
        screw = Advice("Turn its screws, hot and soaked", f"Turns that lift: {turns}. Then probe it again.")
        yield _found(recipe, context, "machine.plate.tilt", "machine.grids", (screw,),
                     {"tilt": flat.tilt_mm, "most": TILT_MM, "date": date})  # fmt: skip
    probed = flat.grid.plate_c
    if plate is not None and (probed is None or abs(probed - plate) > COLD_K):
        again = Advice("Probe it again at the heat of the run, soaked", "Log the heat with it.")
        words = "a heat that is not recorded" if probed is None else f"{probed:g} °C"
        yield _found(recipe, context, "machine.plate.cold_probed", "machine.grids", (again,),
                     {"probed": words, "plate": plate})  # fmt: skip


def panel_findings(recipe: Recipe, context: Context, judge: Judge) -> Iterator[Finding]:
    """What the panel does not take, and what its rounding causes, by judging the rounded recipe."""
    machine = context.machine
    if machine is None:
        return
    typed = panel_of(recipe, machine)
    for each in typed:
        if each.typed is None and each.wanted is not None:
            beside = Advice("Set it beside the panel, or on a machine that takes it", "Write it on the sheet by hand.")
            values: Values = {"setting": each.title, "setpoint": each.wanted, "fault": each.fault}
            yield _found(recipe, context, "machine.panel.cannot", each.path, (beside,), values)
    moved = [each for each in typed if each.typed is not None and each.typed != each.wanted]
    if not moved:
        return
    there = recipe
    for each in moved:
        there = with_value(there, each.path, each.typed)
    before = {(found.code, found.severity) for found in judge(recipe, context)}
    caused = [found for found in judge(there, context) if (found.code, found.severity) not in before]
    if not caused:
        return
    rounds = ", ".join(f"{each.title.lower()} {each.wanted:g} to {each.typed:g} °C" for each in moved)
    titles = ", ".join(dict.fromkeys(_title(found.code) for found in caused))
    look = Advice("Move the setting by one step of the panel", "So that what is typed is clear of the limit.")
    yield _found(recipe, context, "machine.panel.causes", moved[0].path, (look,),
                 {"rounds": rounds, "caused": titles})  # fmt: skip


def _title(code: str) -> str:
    from kaustos.core.review.machine.codes import BY_CODE

    return BY_CODE[code].title
