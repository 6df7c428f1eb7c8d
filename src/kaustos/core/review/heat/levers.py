"""Which lever buys how much of the weld: each is tried, and what else it does is told."""

from collections.abc import Iterator, Mapping

import attrs

from kaustos.core.estimates import MELT, WELD
from kaustos.core.planning.draws import middle
from kaustos.core.planning.reach import is_chamber_heated, reach_through
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Choose, Context, Finding, Remedy, Set
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.heat.findings import findings_of, grade_by
from kaustos.core.review.heat.layers import softness_of
from kaustos.core.review.heat.remedies import CURE_FIRST, NO_LEVER, SPECIMENS
from kaustos.core.review.making import Offers
from kaustos.core.review.melt.findings import findings_of as melt_findings
from kaustos.core.review.melt.findings import most_nozzle
from kaustos.core.review.supports.case import SECOND
from kaustos.core.review.trying import carried_out, is_eased, is_worse
from kaustos.core.review.zones import window_of

HELPS = WELD["lever"].value
MOST_MACHINES = 2
TRIED = ("heat.weld.weak", "heat.weld.doubtful", "heat.layer.too_hot")


@attrs.frozen(kw_only=True)
class WeldLever:
    """One thing that could be changed, and what it does to the weld."""

    title: str
    values: Mapping[str, float | str]
    share: float | None  # across layers, likely
    gain: float | None
    over_hard: float | None  # flow over what the head gives
    end_k: float | None  # how much too hot the hottest layer ends
    grade: str | None  # that the weld would leave
    is_better: bool
    remedy: Remedy


@attrs.frozen(kw_only=True)
class Levers:
    """Everything that was tried, the best first."""

    levers: tuple[WeldLever, ...]
    offers: Offers


def tried(recipe: Recipe, context: Context) -> Levers:
    """Every lever with what it does, and for each finding the levers that take it away or ease it."""
    before = _all(recipe, context)
    now = heat_case(recipe, context).likely
    found: list[WeldLever] = []
    offers: dict[tuple[str, str], list[tuple[float, Remedy]]] = {}
    wanting = any(code in before for code in TRIED)
    for remedy in _variants(recipe, context) if wanting else _heats(recipe, context):
        there, then = carried_out(remedy, recipe, context)
        case = heat_case(there, then)
        gain = None if case.likely is None or now is None else case.likely - now
        eased: list[str] = []
        sound = False
        if (gain is not None and gain > 0.0) or "heat.layer.too_hot" in before:  # else it eases nothing
            after = _all(there, then)
            fresh = [code for code in after if code not in before]
            worse = [code for code, each in after.items() if code in before and is_worse(each, before[code])]
            eased = [code for code in before if code in TRIED and is_eased(before[code], after.get(code))]
            sound = not fresh and not worse
        hard, soft = case.melt.hard_mm3_s, softness_of(case)
        found.append(
            WeldLever(
                title=remedy.title,
                values=remedy.values,
                share=case.likely,
                gain=gain,
                over_hard=(case.melt.flow_mm3_s or 0.0) / middle(hard) if hard is not None else None,
                end_k=soft.over_k if soft is not None else None,
                grade=grade_by(case.likely, then) if case.likely is not None else None,
                is_better=sound and gain is not None and gain > HELPS,
                remedy=remedy,
            )
        )
        for code in eased if sound else ():
            offers.setdefault((code, before[code].field), []).append((-(case.likely or 0.0), remedy))
    for code in TRIED:
        if code in before:
            some = offers.setdefault((code, before[code].field), [])
            if not some:
                some.append((0.0, CURE_FIRST if before[code].due_to else NO_LEVER))
            if code.startswith("heat.weld"):
                some.append((1.0, SPECIMENS))
    ordered = {key: tuple(each for _, each in sorted(some, key=lambda each: each[0])) for key, some in offers.items()}
    return Levers(levers=tuple(sorted(found, key=lambda each: -(each.share or 0.0))), offers=ordered)


def _all(recipe: Recipe, context: Context) -> dict[str, Finding]:
    return {each.code: each for each in (*melt_findings(recipe, context), *findings_of(recipe, context))}


def _variants(recipe: Recipe, context: Context) -> Iterator[Set | Choose]:
    yield from _heats(recipe, context)
    yield from _beads(recipe, context)
    yield from _times(recipe, context)
    yield from _machines(recipe, context)


def _heats(recipe: Recipe, context: Context) -> Iterator[Set]:
    nozzle, most, air, machine = (
        recipe.melt.nozzle_c,
        most_nozzle(recipe, context),
        recipe.heat.chamber_c,
        context.machine,
    )
    if nozzle is not None and most is not None:
        for target in sorted({min(nozzle + step, most) for step in (10.0,)} | {most}):
            if target > nozzle:
                yield Set("Nozzle at {target:temperature}", {"melt.nozzle_c": target}, {"target": target})
    _, high = window_of(context.polymer, "chamber")
    if air is not None and high is not None and machine is not None and is_chamber_heated(machine):
        top = reach_through(machine, "chamber", context.rules, None).low_c
        limit = min(high.value, top) if top is not None else high.value
        for target in sorted({min(air + step, float(int(limit))) for step in (10.0, 30.0)}):
            if target > air:
                yield Set("Chamber at {target:temperature}", {"heat.chamber_c": target}, {"target": target})
    fan = recipe.heat.fan_pct
    low = context.polymer.value("fan_low") if context.polymer is not None else None
    least = low.value if low is not None else 0.0
    if fan is not None and fan > least:
        yield Set("Fan at {fan:share}", {"heat.fan_pct": least}, {"fan": least})


def _beads(recipe: Recipe, context: Context) -> Iterator[Set]:
    bore = context.nozzle.bore_mm if context.nozzle is not None else None
    width, height = recipe.melt.width_mm, recipe.melt.height_mm
    if not bore or width is None or height is None:
        return
    for wide in (MELT["wide_school"].value,):
        target = round(wide * bore, 2)
        if target > width * 1.05:
            yield Set("Beads of {wide:length}", {"melt.width_mm": target}, {"wide": target})
    for share in (0.6,):
        target = round(share * bore, 2)
        if target > height * 1.1 and width >= 1.6 * target:
            yield Set("Layers of {high:length}", {"melt.height_mm": target}, {"high": target})


def _times(recipe: Recipe, context: Context) -> Iterator[Set]:
    speed, copies = recipe.melt.speed_mm_s, recipe.plate.copies
    most = context.polymer.value("speed_most_mm_s") if context.polymer is not None else None
    if speed is not None:
        for factor in (0.7, 1.5):
            target = float(round(speed * factor))
            if most is None or target <= max(most.value, speed):
                yield Set("Speed {speed:speed}", {"melt.speed_mm_s": target}, {"speed": target})
    if copies is not None and copies > 1.0:
        yield Set("One at a time", {"plate.copies": 1.0}, {})
    least = recipe.heat.least_layer_s
    if least:
        yield Set("No least time of a layer", {"heat.least_layer_s": 0.0}, {})


def _machines(recipe: Recipe, context: Context) -> Iterator[Choose]:
    """Machines of the shop that heat their chamber more, with the heat that this polymer wants."""
    low, high = window_of(context.polymer, "chamber")
    now = context.machine
    if low is None or high is None or now is None:
        return
    for each in context.shop.machines[: MOST_MACHINES + 1]:
        reach = reach_through(each, "chamber", context.rules, None).low_c
        hot = reach_through(each, "nozzle", context.rules, None).low_c
        if each.id == now.id or reach is None or not is_chamber_heated(each):
            continue
        if recipe.supports.way in SECOND and not each.two_feeds:
            continue  # its supports could not be laid there
        air = float(int(min((low.value + high.value) / 2.0, reach)))
        if air <= (recipe.heat.chamber_c or context.rules.room_c) or (hot or 0.0) < (recipe.melt.nozzle_c or 0.0):
            continue
        yield Choose(
            "Move to {machine:text}, chamber at {air:temperature}",
            "machine",
            each.id,
            {"machine": each.name, "air": air},
            {"heat.chamber_c": air},
        )
