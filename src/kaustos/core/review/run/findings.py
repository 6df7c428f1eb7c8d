"""What can be found against a run: file and recipe out of step, a file that does not fit, nobody there."""

import math
from collections.abc import Callable, Iterator

from kaustos.core.estimates import RUN
from kaustos.core.planning.motion import planned_of
from kaustos.core.planning.run_day import judged_start
from kaustos.core.records import Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import Advice, Context, Finding, Remedy, Set
from kaustos.core.review.making import make_finding
from kaustos.core.review.run.case import RunCase, after_start, run_case
from kaustos.core.review.run.codes import BY_CODE, COMPARED, Compared
from kaustos.core.review.run.remedies import AGAIN, ARMED, COME, READ_AGAIN, taken
from kaustos.core.review.supports.case import support_case

ZONES = ("nozzle", "plate", "chamber")
Values = dict[str, float | str | None]


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = run_case(recipe, context)
    return tuple(found for look in _LOOKS for found in look(case, recipe, context))


def _found(
    case: RunCase, recipe: Recipe, context: Context, code: str, field: str, values: Values, *remedies: Remedy
) -> Finding:
    known: Values = {
        "file": case.job.name if case.job is not None else "",
        "machine": context.machine.name if context.machine is not None else "the machine",
    }
    return make_finding(BY_CODE[f"run.{code}"], recipe, context, field, remedies, known | values)


def _compared(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    job = case.job
    if job is None:
        return
    for each in COMPARED:
        said, wanted = getattr(job, each.of_file), value_at(recipe, each.path)
        if each.key in ZONES and said is None and isinstance(wanted, float) and wanted > context.rules.room_c:
            by_hand = Advice("Set it by hand before the start", "And write it onto the run card.")
            values: Values = {"what": each.title, "set": wanted, "gap": wanted}
            yield _found(case, recipe, context, "job.unheated", each.path, values, AGAIN, by_hand)
        if said is None or not isinstance(wanted, float) or not differs(each, said, wanted):
            continue
        values = {"said": said, "set": wanted, "gap": abs(said - wanted)}
        remedies = taken(each, said, context)
        yield _found(case, recipe, context, f"job.{each.key}", each.path, values, *remedies)


def differs(each: Compared, said: float, wanted: float) -> bool:
    """Whether a file and its recipe say two things [unit of the field]."""
    off = RUN[each.off].value
    return abs(said - wanted) > (off * max(abs(wanted), 1e-9) if each.is_share else off)


def _bead(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    said, wanted, layer = case.section_mm2, case.wanted_mm2, recipe.melt.height_mm
    if said is None or wanted is None or layer is None or abs(said / wanted - 1.0) <= RUN["off_bead"].value:
        return
    width = (said / (recipe.melt.multiplier or 1.0) - math.pi / 4.0 * layer**2) / layer + layer
    values: Values = {"said": said / 100.0, "set": wanted / 100.0, "gap": abs(said - wanted)}
    take = Set("Take beads of {width:length} into the recipe", {"melt.width_mm": round(width, 3)}, {"width": width})
    remedies = (take, AGAIN) if width >= layer else (AGAIN,)
    yield _found(case, recipe, context, "job.bead", "melt.width_mm", values, *remedies)


def _size(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    job, machine = case.job, context.machine
    if job is None or machine is None:
        return
    travels = (machine.travel_x_mm, machine.travel_y_mm, machine.travel_z_mm)
    for axis, said, most in zip("xyz", job.size_mm, travels, strict=False):
        top = job.high_mm[2] if axis == "z" else said
        if most is not None and top > most:
            values: Values = {"said": top, "axis": axis, "most": most, "gap": top - most}
            other = Advice("Make it for this machine, or take the machine it is for", "Turned or in parts it may fit.")
            yield _found(case, recipe, context, "job.size", "context.job", values, other)
            return


def _amounts(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    job, grams, told = case.job, case.grams, recipe.brief.mass_g
    if job is not None and grams is not None and told and abs(grams / told - 1.0) > RUN["off_mass"].value:
        values: Values = {"said": grams, "set": told, "gap": abs(grams - told)}
        take = Set("Take {said:mass} into the brief", {"brief.mass_g": round(grams, 1)}, {"said": grams})
        yield _found(case, recipe, context, "job.mass", "brief.mass_g", values, take, AGAIN)
    hours, typed = case.hours, recipe.brief.print_h
    if job is None or hours is None or typed is None:
        return
    more = 1.0 + RUN["off_hours"].value
    if not hours.low / more <= typed <= hours.high * more:
        values = {"said": hours.value, "low": hours.low, "high": hours.high, "set": typed,
                  "gap": abs(typed - hours.value)}  # fmt: skip
        right = round(hours.value, 2)
        take = Set("Take {said:duration} into the brief", {"brief.print_h": right}, {"said": right})
        yield _found(case, recipe, context, "job.hours", "brief.print_h", values, take, AGAIN)


def _layers(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Hours that are typed or of the file, beside those of the layers: the third story of one run."""
    layers, typed = case.layer_hours, recipe.brief.print_h
    told = case.hours if case.job is not None else None
    hours = told.value if told is not None else typed
    is_sized = context.part is not None and context.part.shape is not None
    if layers is None or not hours or not (is_sized or (recipe.brief.mass_g and context.polymer is not None)):
        return
    more = 1.0 + RUN["off_layers"].value
    if layers.low / more <= hours <= layers.high * more:
        return
    values: Values = {
        "set": hours, "said": layers.value, "low": layers.low, "high": layers.high, "gap": abs(hours - layers.value),
        "whose": case.job.name if case.job is not None else "The brief",
        "says": "takes" if case.job is not None else "reckons with",
    }  # fmt: skip
    look = Advice("Look at speed, bead, infill and copies", "One of them is not what is printed, or the part is not.")
    type_it = Advice(
        "Type what is right into the brief", "A run that takes longer asks more of timer, drying and people."
    )
    field = "melt.speed_mm_s" if told is not None else "brief.print_h"
    yield _found(case, recipe, context, "hours.layers", field, values, look, type_it)


def _odd(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    job, machine = case.job, context.machine
    if job is None:
        return
    if job.tools > 1 and (machine is None or not machine.two_feeds):
        values: Values = {"count": float(job.tools), "gap": float(job.tools)}
        passport = Advice("Say in the passport that it feeds two", "Machines, page Passport: where it does.")
        yield _found(case, recipe, context, "job.tools", "machine.two_feeds", values, AGAIN, passport)
    if recipe.supports.way == "coat":
        coat = support_case(recipe, context).chosen
        planned = len(coat.cost.pauses) if coat is not None else 0
        if planned > len(job.pauses):
            values = {"planned": float(planned), "said": float(len(job.pauses)),
                      "gap": float(planned - len(job.pauses))}  # fmt: skip
            yield _found(case, recipe, context, "job.pauses", "supports.way", values, AGAIN)
    if job.is_homed is False:
        look = Advice("Home it by hand, or look what its words do", "A word that is not known here may home it.")
        yield _found(case, recipe, context, "job.unhomed", "context.job", {}, AGAIN, look)
    yield from _moved(case, recipe, context)
    if job.unknown:
        count, first = sum(job.unknown.values()), next(iter(job.unknown))
        values = {"count": count, "first": first, "gap": count}
        look = Advice("Look up what they do", "In the manual of the machine; what heats or moves belongs on the card.")
        yield _found(case, recipe, context, "job.words", "context.job", values, look, AGAIN)


def _moved(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Hours that were planned with the motion of another machine."""
    job, own = case.job, planned_of(context.machine)
    if job is None or job.accel_mm_s2 is None or job.corner_mm_s is None:
        return
    accel = () if job.accel_told else ((job.accel_mm_s2, own.accel_mm_s2),)
    off = [
        abs(math.log(said / likely))
        for said, (least, likely, most) in (*accel, (job.corner_mm_s, own.corner_mm_s))
        if not least <= said <= most
    ]
    if off:
        values: Values = {
            "accel": job.accel_mm_s2, "corner": job.corner_mm_s, "own": own.accel_mm_s2[1], "turns": own.corner_mm_s[1],
            "gap": max(off),
        }  # fmt: skip
        yield _found(case, recipe, context, "job.moved", "context.job", values, READ_AGAIN)


def _alone(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What wants hands once it runs, when nobody is there; another start only where it is better for the same."""
    now, better = case.at_once, case.proposed
    if now is None or better is None or not now.outside:
        return
    when, then = better.at.strftime("%a %H:%M"), judged_start(better.at, after_start(case.hands), case.staffed)
    values: Values = {"what": ", ".join(dict.fromkeys(now.outside)), "gap": now.outside_min}
    if then.outside_min >= now.outside_min:
        yield _found(case, recipe, context, "day.nobody", "first_layer.look_by", values, COME)
        return
    later = Advice("Start {when:text}", "The page Day shows who is wanted when.", {"when": when})
    values |= {
        "when": when,
        "then": f"only for: {', '.join(dict.fromkeys(then.outside))}" if then.outside else "somebody is",
    }
    yield _found(case, recipe, context, "day.alone", "first_layer.look_by", values, later, COME)


def _timer(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A timer that is armed for less than the run takes."""
    timer = context.machine.timer_h if context.machine is not None else None
    if not timer or case.hours is None:
        return
    hot = (case.heat_min + case.soak_min) / 60.0
    takes, most = hot + case.hours.value, hot + case.hours.high
    if most > timer:
        values: Values = {"timer": timer, "takes": takes, "most": most, "gap": most - timer}
        rearm = Advice("Arm it anew for this job, somebody in reach", ARMED, {"hours": math.ceil(most)})
        code = "day.timer" if takes > timer else "day.timer_tight"
        yield _found(case, recipe, context, code, "machine.timer_h", values, rearm, COME)


def _matters(case: RunCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What earlier runs left open: the newest danger, and the newest of the others."""
    for code, is_danger in (("danger", True), ("open", False)):
        matter = next((each for each in context.matters if each.kind.is_danger == is_danger), None)
        if matter is None:
            continue
        of_machine = matter.kind.on == "machine"
        record = context.machine if of_machine else context.plate
        values: Values = {
            "run": matter.run.rpartition("_")[2].lstrip("0") or matter.run, "what": matter.kind.words,
            "name": record.name if record is not None else "", "gap": float(len(context.matters)),
        }  # fmt: skip
        close = Advice("Close it with what was found", f"Runs, that run, Left open: {matter.kind.proof}.")
        field = "machine" if of_machine else "context.plate"
        yield _found(case, recipe, context, f"matter.{code}", field, values, close)


_LOOKS: tuple[Callable[[RunCase, Recipe, Context], Iterator[Finding]], ...] = (
    _size, _compared, _bead, _amounts, _layers, _odd, _matters, _alone, _timer,
)  # fmt: skip
