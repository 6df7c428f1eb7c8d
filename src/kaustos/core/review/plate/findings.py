"""What can be found against the bond of a part to its plate."""

import math
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime, timedelta

import numpy as np
import shapely

from kaustos.core.estimates import BOND
from kaustos.core.memo import by_identity
from kaustos.core.planning.bond import Bond
from kaustos.core.planning.dose import dose_ml
from kaustos.core.planning.standing import Anchor, Layout, layout_of
from kaustos.core.records import BATCH_STATES, FACES, Agent, AgentBatch, Recipe, Rules, Shape
from kaustos.core.records.fields import value_at
from kaustos.core.records.recipe import ANCHORS, RELEASES
from kaustos.core.review.comes_of import is_cause
from kaustos.core.review.contract import Advice, Context, Finding, Remedy, Set
from kaustos.core.review.making import make_finding
from kaustos.core.review.plate.case import Case, case_of, dead_zones, lifts_in_window, plate_size
from kaustos.core.review.plate.codes import BY_CODE
from kaustos.core.review.plate.remedies import film_between, ladder, taken_off_hot
from kaustos.core.review.plate.sheets import comes_up
from kaustos.core.review.zones import agent_on, cold_air_code, is_used_up, limits_of, plate_most_c

WATCH, STOP = BOND["lift_watch"].value, BOND["lift_stop"].value
SPREAD_MM = BOND["gap_spread"].value
TOPPLES = BOND["topples"].value
USUAL_ML = 100.0  # of a bottle whose volume nobody wrote down
WIDEST_BRIM_MM = BOND["widest_brim"].value
Values = Mapping[str, float | str | None]
SETTINGS = (("plate.bed_c", "Plate"), ("first_layer.bed_c", "Plate, first layer"))
USED_PARTS = ("tool", "loaded", "outdoor", "safety")


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = case_of(recipe, context)
    found: list[Finding] = []
    for look in _LOOKS:
        found += look(case, recipe, context)
    return tuple(found)


def _found(
    case: Case,
    recipe: Recipe,
    context: Context,
    code: str,
    field: str,
    remedies: tuple[Remedy, ...],
    values: Values,
    severity: str = "",
    chance: float | None = None,
    due_to: str = "",
) -> Finding:
    every: Values = {"pair": case.pair_words, "plate": case.plate_name, **values}
    ruined = case.item.price if case.item is not None and BY_CODE[code].harms else None
    return make_finding(
        BY_CODE[code], recipe, context, field, remedies, every, severity=severity, chance=chance, spare_part=ruined,
        due_to=due_to,
    )  # fmt: skip


def severity_of(chance: float) -> str:
    """How a chance [1] is told: not at all, as a watch, as a stop."""
    return "stop" if chance >= STOP else "watch" if chance >= WATCH else ""


def _mid(bond: Bond, which: str) -> float:
    return float(np.median(getattr(bond, which)))


def where_words(case: Case) -> str:
    """Where on the part the load is worst."""
    assert case.bond is not None
    if case.standing is None or case.shape is None or case.loads is None:
        return "Any part, however small,"
    x, y = case.standing.points[case.bond.worst]
    middle_x, middle_y = case.shape.size_x_mm / 2.0, case.shape.size_y_mm / 2.0
    side = ("front" if y < middle_y else "back") + (" left" if x < middle_x else " right")
    sharp = case.standing.bare[case.bond.worst] > 1.2
    return f"The {'corner' if sharp else 'edge'} at the {side}"


def _bonds(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    bond = case.bond
    if bond is None:
        return
    lifts = bond.lifts
    if not any(map(severity_of, (lifts, bond.harms, 2.0 * bond.breaks))) and bond.splits < WATCH:
        return
    levels: Values = {which: _mid(bond, which) for which in ("grip", "load", "damage", "weld")}
    if severity := severity_of(lifts):
        most = round(float(np.percentile(bond.lift_mm, 90.0)), 1)
        values = {
            **levels,
            "gap": round(100.0 * lifts),
            "where": where_words(case),
            "limit": bond.limit_mm,
            "most": most,
        }
        chances = lifts_in_window(case, context) if severity == "stop" else None
        cause = cold_air_code(context) if chances is not None and is_cause(*chances) else ""
        yield _found(
            case, recipe, context, "plate.corner.lifts", "plate.anchor", (ladder(),), values, severity, lifts, cause
        )
    if severity := severity_of(bond.harms):
        values = {**levels, "gap": round(100.0 * bond.harms)}
        yield _found(
            case,
            recipe,
            context,
            "plate.surface.torn",
            "context.agent",
            (film_between(),),
            values,
            severity,
            bond.harms,
        )
    if case.surface is not None and case.surface.is_brittle and (severity := severity_of(2.0 * bond.breaks)):
        assert case.making is not None
        values = {
            **levels,
            "load": _mid(bond, "cold"),
            "grip": _mid(bond, "cold_grip"),
            "gap": round(100.0 * bond.breaks),
            "cold": case.making.off_c,
        }
        yield _found(
            case,
            recipe,
            context,
            "plate.surface.breaks",
            "plate.release",
            taken_off_hot(recipe),
            values,
            severity,
            bond.breaks,
        )
    if bond.splits >= WATCH:
        warm = Advice(
            "Warm the air, or widen the beads",
            "A better weld, not more grip, is what helps here: hotter air, a hotter nozzle, wider beads, no fan.",
        )
        values = {**levels, "gap": round(100.0 * bond.splits)}
        yield _found(case, recipe, context, "plate.weld.splits", "heat.chamber_c", (warm,), values, "", bond.splits)


def _limits(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    limits = limits_of(case.item, case.surface, case.agent)
    settings = [(path, title, value_at(recipe, path)) for path, title in SETTINGS]
    hottest = max((each for each in settings if each[2] is not None), key=lambda each: each[2], default=None)
    if hottest is None:
        return
    path, title, setpoint = hottest
    for layer, limit in limits[:1]:
        if setpoint > limit:
            target = float(np.floor(limit))
            changes = {each: target for each, _, value in settings if value is not None and value > limit}
            cool = Set("Set {setting:setting} to {target:temperature}", changes, {"setting": title, "target": target})
            values: Values = {"setting": title, "setpoint": setpoint, "layer": layer, "limit": limit}
            other = Advice("Take a plate that stands it", "The plate that this heat is for has no weaker layer.")
            remedies = (cool, other) if _still_in_window(case, context, target) else (other,)
            yield _found(case, recipe, context, "plate.limit.beyond", path, remedies, values)
    agent = case.agent
    if agent is not None and agent.softens.value < setpoint <= agent.stands.value:
        values = {"setting": title, "setpoint": setpoint, "limit": agent.softens.value, "agent": agent.name}
        other = Advice("Take an agent with a harder film", "Or keep the plate below its softening point.")
        yield _found(case, recipe, context, "plate.limit.softens", path, (other,), values)


def _still_in_window(case: Case, context: Context, target: float) -> bool:
    """Whether a cooler plate is still what the pair wants: a remedy must not make a stop elsewhere."""
    from kaustos.core.review.zones import window_of

    low, _ = window_of(case.polymer, "plate", context)
    return low is None or target >= low.value - context.rules.reduced_within_k


def _pairs(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    statement = case.statement
    if statement is None or case.outcomes:
        return
    low, _, high = statement.band
    trial = Advice(
        "Try a corner piece first",
        "A short right angle on a corner of this plate, with these settings: log what became "
        "of it, and this answer is your own.",
    )
    values: Values = {"basis": statement.from_words, "least": low, "most": high}
    if statement.basis != "tried":
        yield _found(case, recipe, context, "plate.pair.untried", "context.plate", (trial,), values)
    elif statement.is_contested:
        yield _found(case, recipe, context, "plate.pair.contested", "context.plate", (trial,), values)


def _film(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    item = case.item
    if item is None or not item.film or context.agent is not None or not is_used_up(item):
        return
    kind = context.supplies.bonds.agents.get(item.film)
    values = {"agent": kind.name if kind else item.film, "prints": item.film_prints, "coats": item.film_coats or 1.0}
    coat = Advice("Wash it off and coat it anew", "Then note the coats on the plate's page; prints count from there.")
    yield _found(case, recipe, context, "plate.film.used_up", "plate.film", (coat,), values)


def _batch(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    batch, now = case.batch, context.now
    kind = context.supplies.bonds.agents.get(batch.agent or "") if batch else None
    if batch is None or kind is None:
        return
    name = {"agent": batch.name or kind.name}
    if batch.state in ("lumps", "thick", "cloudy"):
        anew = Advice("Let it stand and shake it, or mix anew", "Warm water outside the bottle helps; never a flame.")
        severity = "watch" if batch.state == "cloudy" else ""
        values: dict[str, float | str | None] = {**name, "state": BATCH_STATES[batch.state].lower()}
        yield _found(case, recipe, context, "plate.agent.lumps", "agent.state", (anew,), values, severity)
    if batch.mixed_utc and now is not None:
        mixed = datetime.fromisoformat(batch.mixed_utc)
        wanted = datetime.fromisoformat(recipe.stock.wanted_utc) if recipe.stock.wanted_utc else now
        if kind.ripens_h is not None:
            ready = mixed + timedelta(hours=kind.ripens_h.value)
            if ready > max(wanted, now):
                wait = Advice("Wait for it, or take a batch that is ready", "Shake it now and then; lumps make hills.")
                values = {
                    **name,
                    "mixed": mixed.timestamp(),
                    "ready": ready.timestamp(),
                    "wanted": max(wanted, now).timestamp(),
                }
                yield _found(case, recipe, context, "plate.agent.not_ready", "agent.mixed_utc", (wait,), values)
        age = (now - mixed).total_seconds() / 3600.0
        if age > kind.keeps_h.value:
            anew = new_batch(batch, kind, context.rules)
            values = {**name, "age": age, "keeps": kind.keeps_h.value}
            yield _found(case, recipe, context, "plate.agent.stale", "agent.mixed_utc", (anew,), values)
    dose = dose_of(case)
    if dose is not None and batch.left_ml is not None and batch.left_ml < dose:
        anew = new_batch(batch, kind, context.rules)
        values = {**name, "dose": dose, "left": batch.left_ml}
        yield _found(case, recipe, context, "plate.agent.short", "agent.left_ml", (anew,), values)


def new_batch(batch: AgentBatch, kind: Agent, rules: Rules) -> Advice:
    """Mix or buy, as the shop does it, with what the other way costs."""
    volume = batch.mixed_ml or USUAL_ML
    values = {
        "volume": volume,
        "buy": volume * kind.price_ml.value,
        "mix": volume * kind.price_ml.value * BOND["mix.share"].value + BOND["mix.work"].value * rules.wage_per_h,
        "work": BOND["mix.work"].value,
    }
    bought = "a bottle of {volume:volume} is bought for about {buy:money}"
    mixed = "a batch of one's own costs about {mix:money}, {work:duration} of work in it"
    if not kind.solvents:
        return Advice("Take another", f"{bought[0].upper()}{bought[1:]}.", values)
    if volume < rules.mix_from_ml:
        return Advice("Buy another bottle", f"{bought[0].upper()}{bought[1:]}; {mixed}.", values)
    card = "The batch card on its page gives grams and millilitres."
    return Advice("Mix a new batch", f"{card} {mixed[0].upper()}{mixed[1:]}; {bought}.", values)


def agent_dose(recipe: Recipe, context: Context) -> float | None:
    """Agent that a run of a recipe takes out of its bottle [ml]; None where that is not known."""
    return dose_of(case_of(recipe, context))


def dose_of(case: Case) -> float | None:
    """Agent that this footprint takes [ml]."""
    if case.agent is None or case.standing is None:
        return None
    coats = case.recipe.plate.coats or 1.0
    copies = case.recipe.plate.copies or 1.0
    return dose_ml(case.standing.anchored, case.agent.wet_um.value, coats) * copies


def _item(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    item, surface = case.item, case.surface
    if item is None:
        return
    if item.is_chipped:
        away = Advice("Discard it, take another", "Wrap it before it goes into the bin; wear eye protection.")
        yield _found(case, recipe, context, "plate.item.broken", "plate.damages", (away,), {})
    if item.fits_on and context.machine is not None and item.fits_on != context.machine.id:
        own = Advice("Take a plate of this machine", "Or note on its page that it fits this one.")
        yield _found(case, recipe, context, "plate.item.elsewhere", "context.plate", (own,), {})
    since = (item.prints or 0.0) - (item.renewed_prints or 0.0)
    if surface is not None and item.prints is not None and since > surface.prints.value:
        renew = Advice("Renew or replace the surface", "Some surfaces come back when abraded, others age by it.")
        values = {"prints": since, "life": surface.prints.value}
        yield _found(case, recipe, context, "plate.item.worn", "plate.prints", (renew,), values)
    if item.test_only and recipe.brief.purpose in USED_PARTS:
        other = Advice("Take a plate that is kept for parts", "Results on this one are marked as they are.")
        yield _found(case, recipe, context, "plate.item.test_only", "plate.test_only", (other,), {})


def layout_in(case: Case, recipe: Recipe, context: Context) -> Layout | None:
    """Where the copies stand, None where part or plate has no size yet."""
    size = plate_size(context)
    if size is None or case.shape is None:
        return None
    copies = int(max(recipe.plate.copies or 1.0, 1.0))
    apart = recipe.plate.apart_mm if recipe.plate.apart_mm is not None else BOND["apart_usual"].value
    return _laid(case.shape, case.anchor, copies, apart, *size, dead_zones(recipe, context, size))


@by_identity(64)
def _laid(
    shape: Shape,
    anchor: Anchor,
    copies: int,
    apart: float,
    wide: float,
    deep: float,
    dead: tuple[tuple[float, ...], ...],
) -> Layout:
    return layout_of(shape, anchor, copies, apart, (wide, deep), dead)


def _room(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    found = layout_in(case, recipe, context)
    if found is None or found.fits or context.plate is None:
        return
    values: dict[str, float | str | None] = {
        "count": float(len(found.places)),
        "copies": float(found.wanted),
        "room": case.plate_name,
    }
    fewer: tuple[Remedy, ...] = ()
    if found.places:
        fewer = (
            Set(
                "Print {count:ratio} at a time",
                {"plate.copies": float(len(found.places))},
                {"count": float(len(found.places))},
            ),
        )
    other = Advice("Turn it, narrow the anchor, or take a larger plate", "Clips and damaged places take room too.")
    yield _found(case, recipe, context, "plate.room.crowded", "plate.copies", (*fewer, other), values)


def _marks(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    part, kind = context.part, recipe.plate.anchor
    if part is None or kind is None:
        return
    purpose = {"raft": part.underside, "brim": part.sides, "ears": part.sides}.get(kind)
    if purpose in ("seen", "mating", "sealing", "flat"):
        trim = Advice("Trim it by hand, or take another anchor", "A brim leaves the underside as the plate made it.")
        values = {"anchor": ANCHORS[kind], "purpose": _PURPOSES[purpose]}
        yield _found(case, recipe, context, "plate.anchor.marks", "plate.anchor", (trim,), values)
    shape = part.shape
    if shape is not None and shape.gap_mm is not None and shape.gap_mm < SPREAD_MM:
        wider = Advice("Press the first layer less, or chamfer the gap", "No anchor may lie inside such gaps.")
        apart: Values = {"distance": shape.gap_mm, "spread": SPREAD_MM}
        yield _found(case, recipe, context, "plate.anchor.fuses", "context.part", (wider,), apart)


_PURPOSES = {key: words.lower() for key, words in FACES.items()} | {
    "seen": "is to be seen",
    "mating": "mates with another",
    "sealing": "seals",
    "flat": "must lie flat",
}


def _release(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    way, surface, bond = recipe.plate.release, case.surface, case.bond
    if way is None or surface is None:
        return
    reason, better = "", ""
    strong = bond is not None and _mid(bond, "grip") > 0.5 * _mid(bond, "damage")
    if way == "hot" and surface.is_flexible and surface.body in ("film", "coating", "sheet"):
        reason, better = "soft films tear when they are pulled hot", "flex"
    elif way == "blade" and surface.body in ("film", "coating"):
        reason, better = "metal cuts a film or coat", "flex" if surface.is_flexible else "cold"
    elif way in ("cold", "blade") and surface.is_brittle and strong and case.agent is not None:
        reason, better = "the bond is strong, and the plate breaks before it lets go", "hot"
    elif way == "flex" and not surface.is_flexible:
        reason, better = "it does not bend", "hot" if surface.is_brittle and strong else "cold"
    if reason:
        change = Set("Take it off: {way:text}", {"plate.release": better}, {"way": RELEASES[better].lower()})
        values = {"release": RELEASES[way].lower(), "reason": reason}
        yield _found(case, recipe, context, "plate.release.wrong", "plate.release", (change,), values)


def across_of(case: Case) -> float | None:
    """The narrowest way across foot and anchor [mm]."""
    if case.standing is None:
        return None
    box = shapely.minimum_rotated_rectangle(shapely.convex_hull(case.standing.anchored))
    corners = shapely.get_coordinates(box)
    return float(np.hypot(*(corners[1:3] - corners[:2]).T).min()) if len(corners) > 2 else None


def _below_air(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A plate that is to be colder than what it stands in."""
    plate, making = recipe.plate.bed_c, case.making
    if plate is None or making is None or making.air_c <= plate + BOND["below_air"].value:
        return
    target, first = float(math.ceil(making.air_c)), recipe.first_layer.bed_c
    changes: dict[str, float | str | None] = {"plate.bed_c": target}
    if first is not None and first < target:
        changes["first_layer.bed_c"] = target
    warmer: Remedy = Set("Plate at {target:temperature}, as warm as its air", changes, {"target": target})
    melts = [each for each in (recipe.melt.nozzle_c, recipe.first_layer.nozzle_c) if each is not None]
    most = plate_most_c(context)
    if most is None or target > most or target >= min(melts, default=math.inf):
        warmer = Advice(
            "Keep the air no hotter than plate and foot stand", "Or take a plate and a polymer that stand it."
        )
    values: Values = {"set": plate, "air": making.air_c, "gap": making.air_c - plate}
    yield _found(case, recipe, context, "plate.heat.below_air", "plate.bed_c", (warmer,), values)


def _slender(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    across = across_of(case)
    if case.shape is None or across is None or case.shape.size_z_mm <= TOPPLES * across:
        return
    height = case.shape.size_z_mm
    wanted = math.ceil((height / TOPPLES - across) / 2.0 + case.anchor.width_mm)
    values: Values = {"height": height, "foot": across, "times": height / across, "gap": height / across}
    lower = Advice(
        "Lay it down, or print several beside each other", "A lower part has no lever; layers of a group cool."
    )
    brim: tuple[Remedy, ...] = ()
    if wanted <= WIDEST_BRIM_MM:
        changes: dict[str, float | str | None] = {"plate.anchor": "brim", "plate.brim_mm": float(wanted)}
        brim = (Set("Brim of {wide:length}", changes, {"wide": float(wanted)}),)
    yield _found(case, recipe, context, "plate.part.slender", "plate.anchor", (*brim, lower), values)


def _hangs(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    shape = case.shape
    if shape is None or case.anchor.kind in ("brim", "raft"):
        return
    share = shape.contact_mm2 / shape.shadow_mm2
    if share < BOND["raft_share"].value:
        values: Values = {"share": round(100.0 * share), "gap": 100.0 * (BOND["raft_share"].value - share)}
        other = Advice("Lay it on a larger side, or give it a raft", "Another side is chosen on the page Part.")
        yield _found(case, recipe, context, "plate.part.little_contact", "plate.anchor", (other,), values)


Look = Callable[[Case, Recipe, Context], Iterator[Finding]]
_LOOKS: tuple[Look, ...] = (
    _bonds, comes_up, _limits, _below_air, _pairs, _film, _batch, _item, _room, _marks, _hangs, _slender, _release,
)  # fmt: skip
__all__ = ["agent_on", "dose_of", "findings_of", "layout_in", "severity_of", "where_words"]
