"""What would change it: every lever of anchor, heat, plate and agent is tried, and what it does is told."""

from collections.abc import Iterator, Mapping

import attrs
import numpy as np
import shapely

from kaustos.core.estimates import BOND
from kaustos.core.memo import by_identity
from kaustos.core.planning.bond import loads_of
from kaustos.core.planning.reach import is_chamber_heated, reach_through
from kaustos.core.planning.standing import box_shape, footprint_of, standing_of
from kaustos.core.records import Recipe, Shape
from kaustos.core.review.contract import Advice, Choose, Context, Remedy, Set
from kaustos.core.review.making import Offers
from kaustos.core.review.plate.case import case_of
from kaustos.core.review.plate.findings import findings_of
from kaustos.core.review.trying import carried_out, is_eased, is_worse
from kaustos.core.review.zones import plate_most_c, surface_of, window_of

ROUND_MM = BOND["round_corner"].value
HELPS = BOND["lever_helps"].value / 100.0
MOST_ITEMS = 12  # plates or agents that are tried
TRIED = (
    "plate.corner.lifts",
    "plate.surface.torn",
    "plate.surface.breaks",
    "plate.limit.beyond",
    "plate.limit.softens",
    "plate.agent.not_ready",
    "plate.agent.stale",
    "plate.agent.short",
    "plate.agent.lumps",
    "plate.item.broken",
    "plate.item.worn",
    "plate.item.test_only",
    "plate.item.elsewhere",
    "plate.film.used_up",
    "plate.room.crowded",
    "plate.pair.untried",
    "plate.anchor.marks",
    "plate.part.little_contact",
    "plate.part.slender",
)


@attrs.frozen(kw_only=True)
class Lever:
    """One thing that could be changed, and what it does."""

    title: str
    values: Mapping[str, float | str]
    load: float  # at the worst point, likely [J/m²]
    grip: float  # likely [J/m²]
    lifts: float  # chance
    harms: float
    is_better: bool  # fewer findings, none new
    remedy: Remedy


@attrs.frozen(kw_only=True)
class Tried:
    """Everything that was tried."""

    levers: tuple[Lever, ...]
    offers: Offers


def tried(recipe: Recipe, context: Context) -> Tried:
    """Every lever with what it does, and for each finding the levers that take it away or ease it."""
    before = {each.code: each for each in findings_of(recipe, context)}
    wanting = [code for code in before if code in TRIED]
    levers: list[Lever] = []
    offers: dict[tuple[str, str], list[tuple[float, Remedy]]] = {}
    for remedy in _variants(recipe, context):
        there, then = carried_out(remedy, recipe, context)
        case = case_of(there, then)
        after = {each.code: each for each in findings_of(there, then)} if wanting else {}
        fresh = [code for code in after if code not in before]
        worse = [code for code, each in after.items() if code in before and is_worse(each, before[code])]
        eased = [code for code in wanting if is_eased(before[code], after.get(code))]
        sound = not fresh and not worse and bool(eased)
        if case.bond is not None:
            levers.append(
                Lever(
                    title=remedy.title,
                    values=remedy.values,
                    load=float(np.median(case.bond.load)),
                    grip=float(np.median(case.bond.grip)),
                    lifts=case.bond.lifts,
                    harms=case.bond.harms,
                    is_better=sound,
                    remedy=remedy,
                )
            )
        if sound:
            risk = case.bond.lifts + case.bond.harms if case.bond is not None else 0.0
            for code in eased:
                offers.setdefault((code, before[code].field), []).append((risk + 0.1 * len(after), remedy))
    levers += _designs(recipe, context)
    ordered = {key: tuple(each for _, each in sorted(found, key=lambda each: each[0])) for key, found in offers.items()}
    return Tried(levers=tuple(levers), offers=ordered)


def _designs(recipe: Recipe, context: Context) -> Iterator[Lever]:
    """What another shape would do: rounder corners, half the height, lying on its largest side as a box would."""
    case = case_of(recipe, context)
    polymer, shape, making, bond, surface = case.polymer, case.shape, case.making, case.bond, case.surface
    if polymer is None or shape is None or making is None or bond is None or surface is None or case.loads is None:
        return
    for title, text, other in _shapes(shape):
        loads = loads_of(polymer, surface.expansion.value, making, standing_of(other, case.anchor))
        if loads is None:
            continue
        lifts = float((loads.lift_mm(bond.grip) > bond.limit_mm).mean())
        yield Lever(
            title=title, values={}, load=float(np.median(loads.load)), grip=float(np.median(bond.grip)), lifts=lifts,
            harms=bond.harms, is_better=lifts < bond.lifts - HELPS, remedy=Advice(title, text),
        )  # fmt: skip


@by_identity(32)
def _shapes(shape: Shape) -> tuple[tuple[str, str, Shape], ...]:
    found = []
    rounded = shapely.buffer(shapely.buffer(footprint_of(shape), -ROUND_MM), ROUND_MM)
    if not rounded.is_empty:
        rings = tuple(
            tuple(tuple((float(x), float(y)) for x, y in shapely.get_coordinates(ring)[:-1])
                  for ring in (each.exterior, *each.interiors))
            for each in shapely.get_parts(rounded)
        )  # fmt: skip
        round_one = attrs.evolve(shape, footprint=rings, contact_mm2=float(rounded.area))
        text = "In the drawing: a round corner has more foot round it."
        found.append((f"Draw its corners round, {ROUND_MM:g} mm", text, round_one))
    half = tuple(each / 2.0 for each in shape.heights_mm)
    lower = attrs.evolve(shape, size_z_mm=shape.size_z_mm / 2.0, heights_mm=half, volume_mm3=shape.volume_mm3 / 2.0)
    found.append(("Draw it half as high", "Or print it in two and join them: what is lower pulls less.", lower))
    low, middle, long = sorted((shape.size_x_mm, shape.size_y_mm, shape.size_z_mm))
    if low < 0.99 * shape.size_z_mm:
        filled = shape.volume_mm3 / (low * middle * long)
        text = "Reckoned as a box; choose the side on the page Part to measure it."
        lying = box_shape(long, middle, low, min(max(filled, 0.02), 1.0))
        found.append(("Lay it on its largest side", text, lying))
    return tuple(found)


def _variants(recipe: Recipe, context: Context) -> Iterator[Set | Choose]:
    yield from _anchors(recipe)
    yield from _heats(recipe, context)
    yield from _items(recipe, context)


def _anchors(recipe: Recipe) -> Iterator[Set]:
    now, width = recipe.plate.anchor, recipe.plate.brim_mm
    for brim in (5.0, 8.0, 12.0):
        if now != "brim" or width is None or width != brim:
            yield Set("Brim of {wide:length}", {"plate.anchor": "brim", "plate.brim_mm": brim}, {"wide": brim})
    if now != "ears":
        yield Set(
            "Ears of {wide:length} at the corners", {"plate.anchor": "ears", "plate.brim_mm": 10.0}, {"wide": 10.0}
        )
    if now != "raft":
        changes: dict[str, float | str | None] = {"plate.anchor": "raft", "plate.brim_mm": 6.0, "plate.raft_mm": 1.0}
        yield Set("Raft with a rim of {wide:length}", changes, {"wide": 6.0})
    if now not in (None, "none", "skirt"):
        yield Set("Skirt instead", {"plate.anchor": "skirt"}, {})
    filled = recipe.melt.infill_pct
    if filled is not None and filled > 30.0:
        yield Set("Fill it to {share:share}", {"melt.infill_pct": 25.0}, {"share": 25.0})


def _heats(recipe: Recipe, context: Context) -> Iterator[Set]:
    """Plate hotter and cooler inside what the pair wants and everything on it stands; air hotter where it is heated."""
    machine, plate, first = context.machine, recipe.plate.bed_c, recipe.first_layer.bed_c
    low, high = window_of(context.polymer, "plate", context)
    most = plate_most_c(context)
    if plate is not None and low is not None and most is not None:
        for step in (10.0, 5.0, -5.0, -10.0):
            target = plate + step
            if low.value <= target <= most:
                changes: dict[str, float | str | None] = {"plate.bed_c": target}
                if first is not None:
                    changes["first_layer.bed_c"] = min(max(first + step, low.value), most)
                yield Set("Plate at {target:temperature}", changes, {"target": target})
    air = recipe.heat.chamber_c
    if air is not None and machine is not None and is_chamber_heated(machine):
        low, high = window_of(context.polymer, "chamber")
        top = reach_through(machine, "chamber", context.rules, None).max_c
        if high is not None:
            most = min([high.value, *([top] if top is not None else [])])
            for step in (10.0, 20.0):
                if air + step <= most:
                    yield Set("Chamber at {target:temperature}", {"heat.chamber_c": air + step}, {"target": air + step})


def _items(recipe: Recipe, context: Context) -> Iterator[Choose]:
    """Other plates of the shop that fit the machine, and agents that are at hand; heat goes along."""
    machine = context.machine
    fits = [
        each
        for each in context.shop.plates
        if (context.plate is None or each.id != context.plate.id)
        and each.surface is not None
        and (machine is None or each.fits_on in (None, machine.id))
    ]
    for item in fits[:MOST_ITEMS]:
        changes = _heat_there(recipe, attrs.evolve(context, plate=item))
        yield Choose("Take {name:text}", "plate", item.id, {"name": item.name}, changes)
    if context.plate is None or surface_of(context) is None:
        return
    for batch in context.shop.agents[:MOST_ITEMS]:
        if batch.agent is not None and (context.agent is None or batch.id != context.agent.id):
            changes = _heat_there(recipe, attrs.evolve(context, agent=batch))
            yield Choose("Put {name:text} between", "agent", batch.id, {"name": batch.name}, changes)


def _heat_there(recipe: Recipe, there: Context) -> dict[str, float | str | None]:
    """Plate setpoints moved into what the pair there wants, where they are not."""
    low, most = window_of(there.polymer, "plate", there)[0], plate_most_c(there)
    if low is None or most is None:
        return {}
    found: dict[str, float | str | None] = {}
    melts = [each for each in (recipe.melt.nozzle_c, recipe.first_layer.nozzle_c) if each is not None]
    if most < low.value or low.value >= min(
        melts, default=low.value + 1.0
    ):  # what the machine reaches, or the plate stands, lies below what the pair wants
        return found
    for path, value in (("plate.bed_c", recipe.plate.bed_c), ("first_layer.bed_c", recipe.first_layer.bed_c)):
        if value is not None and not low.value <= value <= most:
            found[path] = float(np.floor(min(max(value, low.value), most)))
    return found
