"""Everything that the bond of a part to its plate rests on, gathered once for findings, figures and picture."""

import functools
import math
from typing import Any

import attrs
import numpy as np

from kaustos.core.belief import Seen, believe
from kaustos.core.belief.predictions import GRIP
from kaustos.core.estimates import BELIEF, BOND, MELT, WELD
from kaustos.core.memo import by_identity
from kaustos.core.planning.bead import pressed_width
from kaustos.core.planning.bond import Bond, Loads, Making, bond_of, least_loads, loads_of, usual_of, worse_of
from kaustos.core.planning.configuration import offset_of
from kaustos.core.planning.draws import drawn
from kaustos.core.planning.pairing import Statement, statement_of
from kaustos.core.planning.reach import is_chamber_heated, reach_through
from kaustos.core.planning.standing import Anchor, Standing, box_shape, clip_strips, standing_of
from kaustos.core.records import Agent, AgentBatch, Machine, PlateItem, Polymer, Recipe, Shape, Surface
from kaustos.core.records.plate import CLIP_MM
from kaustos.core.records.recipe import Brief, FirstLayer, Heat, Melt, Plate
from kaustos.core.review.contract import Bonded, Context
from kaustos.core.review.machine.warmth_findings import warmth_of
from kaustos.core.review.zones import agent_on, surface_of, window_of

LIFT_MM = BOND["lift_counts"].value
MOST_RUNS = 300  # that are weighed: older ones have little more to say
METALS = ("film", "coating", "metal")  # surfaces that lie on a sheet of spring steel, where they bend at all
Array = Any


@attrs.frozen(kw_only=True, eq=False)
class Case:
    """One recipe on one plate, as far as either is recorded."""

    recipe: Recipe
    polymer: Polymer | None
    item: PlateItem | None
    batch: AgentBatch | None
    surface: Surface | None
    agent: Agent | None  # that lies on the plate when the part is begun
    statement: Statement | None
    shape: Shape | None
    shape_from: str
    standing: Standing | None
    anchor: Anchor
    making: Making | None
    loads: Loads | None
    bond: Bond | None  # with no load known: against the least that any part asks
    sheet_mm: float | None  # thickness of the sheet it stands on: of the plate, else of the machine's stack
    outcomes: tuple[Bonded, ...]  # that moved the grip
    middle: tuple[float, float] | None  # nozzle and plate at the middle of the book [°C]

    @property
    def plate_name(self) -> str:
        """How the plate is called."""
        return self.item.name if self.item else ""

    @property
    def pair_words(self) -> str:
        """Plate, and what lies on it."""
        return self.plate_name + (f" under {self.agent.name}" if self.agent else "")


def case_of(recipe: Recipe, context: Context) -> Case:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    bonded = _everywhere(*context.shop.bonded.values())
    return _case(
        recipe.brief,
        recipe.plate,
        recipe.first_layer,
        recipe.melt,
        recipe.heat,
        context.polymer,
        context.machine,
        context.nozzle,
        context.lot,
        context.plate,
        context.agent,
        context.part,
        context.rules,
        context.calibrations,
        context.supplies,
        bonded,
        "" if context.now is None else context.now.strftime("%Y-%m"),
    )


@by_identity(64)
def _everywhere(*of_plates: tuple[Bonded, ...]) -> tuple[Bonded, ...]:
    """What became of the runs on all plates, one and the same while none of them has another."""
    return tuple(each for bonded in of_plates for each in bonded)


@by_identity(128)
def _case(
    brief: Brief,
    plate: Plate,
    first_layer: FirstLayer,
    melt: Melt,
    heat: Heat,
    polymer: Any,
    machine: Any,
    nozzle: Any,
    lot: Any,
    item: Any,
    batch: Any,
    part: Any,
    rules: Any,
    calibrations: Any,
    supplies: Any,
    bonded: Any,
    month: str,
) -> Case:
    recipe = Recipe(brief=brief, plate=plate, first_layer=first_layer, melt=melt, heat=heat)
    context = Context(
        polymer=polymer,
        machine=machine,
        nozzle=nozzle,
        lot=lot,
        plate=item,
        agent=batch,
        part=part,
        rules=rules,
        calibrations=calibrations,
        supplies=supplies,
    )
    surface = surface_of(context)
    agent = agent_on(context)
    shape, words = shape_in(recipe, context)
    anchor = anchor_of(recipe)
    standing = standing_of(shape, anchor) if shape is not None else None
    statement = None
    if polymer is not None and surface is not None:
        statement = statement_of(supplies.bonds, polymer, surface.id, agent.id if agent else "")
    making, middle = making_of(recipe, context), _middle(context)
    loads = bond = None
    counted: tuple[Bonded, ...] = ()
    if polymer is not None and making is not None:
        against = _expands(surface)
        loads = loads_of(polymer, against, making, standing) if standing is not None else None
        if surface is not None and statement is not None and middle is not None:
            book, counted = book_draws(statement, bonded, polymer, agent, item, lot.id if lot else "", month)
            usual = usual_of(statement.leaves, statement.band)
            mixes = agent is None and supplies.bonds.is_alike(polymer.family, surface.family)
            asked = loads if loads is not None else least_loads()
            limit = lift_limit(context)
            bond = bond_of(polymer, surface, book, middle, making, asked, mixes=mixes, usual=usual, limit_mm=limit)
            hot = as_hot_as_air(making)
            if hot is not making:  # the plate lies somewhere between its setpoint and its air: the worse end of each
                at_hot = loads_of(polymer, against, hot, standing) if standing is not None else None
                asked = at_hot if at_hot is not None else asked
                other = bond_of(polymer, surface, book, middle, hot, asked, mixes=mixes, usual=usual, limit_mm=limit)
                bond = worse_of(bond, other)
    return Case(
        recipe=recipe,
        polymer=polymer,
        item=item,
        batch=batch,
        surface=surface,
        agent=agent,
        statement=statement,
        shape=shape,
        shape_from=words,
        standing=standing,
        anchor=anchor,
        making=making,
        loads=loads,
        bond=bond,
        sheet_mm=_sheet_mm(item, surface, machine),
        outcomes=counted,
        middle=middle,
    )


def as_hot_as_air(making: Making) -> Making:
    """The same on a plate as hot as the air round it; itself where the air is no hotter than the plate is set."""
    if making.air_c <= making.plate_c + BOND["below_air"].value:
        return making
    first = max(making.first_plate_c, making.air_c)
    off = making.air_c if making.off_c == making.plate_c else making.off_c
    return attrs.evolve(making, plate_c=making.air_c, first_plate_c=first, off_c=off)


def _sheet_mm(item: PlateItem | None, surface: Surface | None, machine: Machine | None) -> float | None:
    """Thickness of the sheet: as its plate says, else of a loose sheet of its kind in the stack of its machine [mm]."""
    if item is None or item.thick_mm:
        return None if item is None else item.thick_mm
    if surface is None or machine is None or item.fits_on not in (None, machine.id):
        return None
    kinds = ("steel",) if surface.body in METALS else ("laminate", "polymer")
    loose = (each.thickness_mm for each in machine.stack if each.loose and each.material in kinds)
    return next((each for each in loose if each), None)


def lift_limit(context: Context) -> float:
    """Lift above which a part is spoilt: what counts as one, less where its underside must lie flatter [mm]."""
    part = context.part
    return LIFT_MM if part is None or part.flat_mm is None else min(LIFT_MM, part.flat_mm)


def shape_in(recipe: Recipe, context: Context) -> tuple[Shape | None, str]:
    """The part as it was measured, else a box as large as the brief says and as hollow as its mass."""
    if context.part is not None and context.part.shape is not None:
        return context.part.shape, f"measured on {context.part.name}"
    return _box(recipe.brief, context.polymer, recipe.plate.copies, recipe.melt)


HALVINGS = 12
_same_box = by_identity(32)(box_shape)  # one and the same box for the same sizes


@by_identity(32)
def _box(brief: Brief, polymer: Polymer | None, copies: float | None, melt: Melt) -> tuple[Shape | None, str]:
    """A box; hollow by what its mass leaves of it once its inside is filled as it is set."""
    x, y, z, grams = brief.size_x_mm, brief.size_y_mm, brief.size_z_mm, brief.mass_g
    if not (x and y and z):
        return None, ""
    density = polymer.value("density_g_cm3") if polymer else None
    filled = 1.0
    if grams and density is not None and density.value > 0.0:
        filled = _hollow(grams / (copies or 1.0) / (density.value * x * y * z / 1e3), melt, x, y)
    return _same_box(x, y, z, min(max(filled, 0.02), 1.0)), "a box of the size and mass in the brief: no file is kept"


def _hollow(wanted: float, melt: Melt, x_mm: float, y_mm: float) -> float:
    """How much of a box its walls are [1], so that what is laid of them, infill counted, is a share of the box [1]."""
    inside = WELD["usual_filled"].value if melt.infill_pct is None else melt.infill_pct / 100.0
    beads = melt.walls if melt.walls is not None else WELD["usual_walls"].value
    skin = beads * (melt.width_mm or MELT["bore"].value * MELT["width"].value)
    low, high = 0.02, 1.0
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        shape = box_shape(x_mm, y_mm, 1.0, middle)
        walls = min(shape.contact_mm2, shape.perimeters_mm[0] * skin)
        laid = walls + inside * (shape.contact_mm2 - walls)
        low, high = (middle, high) if laid < wanted * x_mm * y_mm else (low, middle)
    return (low + high) / 2.0


def anchor_of(recipe: Recipe) -> Anchor:
    """What stands round or under the part, as it is set."""
    return _anchor(recipe.plate)


@by_identity(64)
def _anchor(plate: Plate) -> Anchor:
    kind = plate.anchor or "none"
    brim = BOND["brim_usual"].value
    usual = {"brim": brim, "ears": BOND["ears_usual"].value, "raft": brim}.get(kind, 0.0)
    width = plate.brim_mm if plate.brim_mm is not None else usual
    return _same(kind, width, (plate.raft_mm or BOND["raft_usual"].value) if kind == "raft" else 0.0)


@functools.lru_cache(64)
def _same(kind: str, width: float, raft: float) -> Anchor:
    """One and the same anchor for the same sizes, so that what was worked out for it is found again."""
    return Anchor(kind=kind, width_mm=width, raft_mm=raft)


def making_of(recipe: Recipe, context: Context) -> Making | None:
    """Heat, gap and cleanliness as the recipe sets them and as the machine's own calibrations correct them."""
    melt = recipe.first_layer.nozzle_c if recipe.first_layer.nozzle_c is not None else recipe.melt.nozzle_c
    plate = recipe.plate.bed_c if recipe.plate.bed_c is not None else recipe.first_layer.bed_c
    if melt is None or plate is None:
        return None
    warmth = warmth_of(recipe, context)
    top = warmth.top.surface.value if warmth.top is not None else plate + _offset(context, "plate")
    first = top + (recipe.first_layer.bed_c - plate if recipe.first_layer.bed_c is not None else 0.0)
    air = air_of(recipe, context)
    item, surface = context.plate, surface_of(context)
    worn = None
    if item is not None and surface is not None and item.prints is not None:
        worn = (item.prints - (item.renewed_prints or 0.0)) / max(surface.prints.value, 1.0)
    filled = recipe.melt.infill_pct
    return Making(
        melt_c=melt + _offset(context, "nozzle"),
        plate_c=top,
        first_plate_c=first,
        air_c=air,
        room_c=context.rules.room_c,
        off_c=top if recipe.plate.release == "hot" else min(context.rules.room_c + 2.0, top),
        aspect=aspect_of(recipe),
        fan=(recipe.heat.fan_pct or 0.0) / 100.0,
        filled=None if filled is None else max(filled / 100.0, 0.02),
        cleaned=item.cleaned if item else None,
        worn=worn,
    )


def _offset(context: Context, zone: str) -> float:
    """What a second sensor showed over the display [K]; nothing where that was not compared, or is stale."""
    found = offset_of(context.calibrations, zone)
    return found.values["offset_k"] if found is not None and found.is_valid else 0.0


def air_of(recipe: Recipe, context: Context) -> float:
    """The air round the part: as it is heated and can be, else as the plate warms it, else that of the room [°C]."""
    machine, room = context.machine, context.rules.room_c
    wanted = recipe.heat.chamber_c
    if machine is None:
        return wanted if wanted is not None else room
    if is_chamber_heated(machine) and wanted is not None:
        reach = reach_through(machine, "chamber", context.rules, None).max_c
        return (wanted if reach is None else min(wanted, reach)) + _offset(context, "chamber")
    found = machine.chamber.heater  # what it was found to come to, with nothing but the plate to warm it
    plate = recipe.plate.bed_c if recipe.plate.bed_c is not None else recipe.first_layer.bed_c
    if found.fitted is False and found.max_c is not None and found.basis == "proven":
        return max(min(found.max_c, found.max_c if plate is None else plate), room)
    warmed = warmth_of(recipe, context).air
    return warmed.value if warmed is not None else room


def aspect_of(recipe: Recipe) -> float | None:
    """Width over height of the first beads as they come out, None where sizes are not recorded [1]."""
    width = first_width_of(recipe)
    return None if width is None else width / (recipe.first_layer.gap_mm or recipe.first_layer.height_mm or width)


def first_width_of(recipe: Recipe) -> float | None:
    """How wide the first beads come out under the gap, None where sizes are not recorded [mm]."""
    first = recipe.first_layer
    if not (first.width_mm and first.height_mm) or first.width_mm < first.height_mm:
        return None
    return pressed_width(first.width_mm, first.height_mm, first.gap_mm or first.height_mm)


def _middle(context: Context) -> tuple[float, float] | None:
    """Nozzle and plate at the middle of the book: of the pair's own window, else of the polymer's [°C]."""
    ends = [end for zone in ("nozzle", "plate") for end in window_of(context.polymer, zone, context)]
    if None in ends:
        return None
    low_n, high_n, low_p, high_p = (each.value for each in ends if each is not None)
    return (low_n + high_n) / 2.0, (low_p + high_p) / 2.0


def book_draws(
    statement: Statement,
    bonded: tuple[Bonded, ...],
    polymer: Polymer,
    agent: Agent | None,
    item: PlateItem,
    lot: str,
    month: str,
) -> tuple[Array, tuple[Bonded, ...]]:
    """Draws of the grip at the middle of the book, moved by what became of earlier parts; those on this very plate.

    What one plate shows moves the same pair on its neighbours of that surface a little, and other polymers on itself;
    what is older by the month of now counts less.
    """
    low, value, high = statement.band
    pair = f"{polymer.id}+{agent.id if agent else ''}+{item.surface or ''}"
    mine = tuple(each for each in bonded if each.plate == item.id and _pair_of(each) == pair)
    seen = _near(bonded, item.id, pair, month)
    if not seen:
        return drawn("book", statement.band), ()
    at = {"shop": "here", "polymer": pair, "plate": item.id, **({"lot": lot} if lot else {})}
    found = believe(GRIP, seen, at, math.log(high / low) / (2.0 * 1.96))
    own = np.log(drawn("book", statement.band) / value)
    return value * np.exp(found.mean + own * found.spread / found.before), mine


def _pair_of(each: Bonded) -> str:
    return f"{each.polymer}+{each.agent}+{each.surface}"


@by_identity(64)
def _near(bonded: tuple[Bonded, ...], plate: str, pair: str, month: str) -> tuple[Seen, ...]:
    """What the newest runs on a plate, or of a pair on any, say of the grip."""
    near = sorted((each for each in bonded if each.plate == plate or _pair_of(each) == pair), key=_when)
    return tuple(entry for each in near[-MOST_RUNS:] for entry in inequalities(each, _years(each.at_utc, month)))


def _when(each: Bonded) -> tuple[str, str]:
    return each.at_utc, each.run


def _years(then_utc: str, month: str) -> float:
    """From a moment to a month, in whole months; nothing where nobody knows what month it is."""
    if not (then_utc and month):
        return BELIEF["undated"].value if month else 0.0
    months = [12 * int(each[:4]) + int(each[5:7]) for each in (then_utc, month)]
    return max(months[1] - months[0], 0) / 12.0


def lifted_in(each: Bonded) -> bool:
    """Whether a part lifted as far as counts, or came off."""
    is_small = each.lift_mm is not None and each.lift_mm <= LIFT_MM
    return "came_off" in each.seen or ("corner_lift" in each.seen and not is_small)


def inequalities(each: Bonded, years: float) -> tuple[Seen, ...]:
    """What one run says of the grip so long after [years]: held or lifted, let go by itself or not, tore it or not."""
    at = {"shop": "here", "polymer": _pair_of(each), "plate": each.plate, "lot": each.lot}
    known = tuple(sorted((level, member) for level, member in at.items() if member))
    harmed = "stuck" in each.seen or "surface_torn" in each.seen
    limits = [(each.over_load, not lifted_in(each))]
    if each.outcome in ("good", "usable") or harmed:
        limits.append((each.over_damage, harmed))
    if "let_go" in each.seen:
        limits.append((each.over_cold, False))
    return tuple(
        Seen(
            at=known, over=-over, error=0.0, side="above" if above else "below", years=years,
            source=f"{each.run}/{number}",
        )
        for number, (over, above) in enumerate(limits)
    )  # fmt: skip


def expected_bond(recipe: Recipe, context: Context) -> dict[str, float]:
    """Grip over load, over load on cooling and over harm, as logarithms and with nothing learned: kept with a run."""
    plain = attrs.evolve(context, shop=attrs.evolve(context.shop, bonded={}))
    bond = case_of(recipe, plain).bond
    if bond is None:
        return {}
    grip = math.log(float(np.median(bond.grip)))
    against = {"load": bond.load, "cold": bond.cold, "damage": bond.damage}
    found = {key: grip - math.log(max(float(np.median(draws)), 1e-3)) for key, draws in against.items()}
    return {key: float(f"{value:.6g}") for key, value in found.items()}


def lifts_in_window(case: Case, context: Context) -> tuple[float, float] | None:
    """Chance of a lift now, and in air at the foot of its window [1]; None where the air is there."""
    low, _ = window_of(context.polymer, "chamber", context)
    polymer, making, bond, loads = case.polymer, case.making, case.bond, case.loads
    if low is None or polymer is None or making is None or bond is None or loads is None or case.standing is None:
        return None
    if not low.value > making.air_c:
        return None
    warm = loads_of(polymer, _expands(case.surface), attrs.evolve(making, air_c=low.value), case.standing)
    if warm is None:
        return None
    now, then = (float((each.lift_mm(bond.grip) > bond.limit_mm).mean()) for each in (loads, warm))
    return now, then


def _expands(surface: Surface | None) -> float:
    """What the plate does as it cools, usual where its surface is not known [µm/m/K]."""
    return surface.expansion.value if surface is not None else BOND["plate_expansion"].value


def agent_kind(context: Context) -> str | None:
    """The kind of agent that lies on the plate, None for a bare one."""
    agent = agent_on(context)
    return agent.id if agent is not None else None


def plate_size(context: Context) -> tuple[float, float] | None:
    """Length and width that there is to print on: of the plate, no more than the machine travels [mm]."""
    item, machine = context.plate, context.machine
    found = []
    for axis in "xy":
        sizes = [
            getattr(item, f"size_{axis}_mm") if item else None,
            getattr(machine, f"travel_{axis}_mm") if machine else None,
        ]
        known = [each for each in sizes if each]
        if not known:
            return None
        found.append(min(known))
    return found[0], found[1]


def dead_zones(recipe: Recipe, context: Context, size: tuple[float, float]) -> tuple[tuple[float, ...], ...]:
    """What of the plate is barred: strips under clips, and damage with its radius [mm]."""
    return _zones(int(recipe.plate.clips or 0), context.plate, size[0], size[1])


@by_identity(32)
def _zones(clips: int, item: PlateItem | None, wide: float, deep: float) -> tuple[tuple[float, ...], ...]:
    found: list[tuple[float, ...]] = list(clip_strips(clips, (wide, deep), CLIP_MM))
    for each in item.damages if item else ():
        if each.x_mm is not None and each.y_mm is not None and each.kind not in ("scuff",):
            r = each.radius_mm if each.radius_mm is not None else BOND["damage_usual"].value
            found.append((each.x_mm - r, each.y_mm - r, 2.0 * r, 2.0 * r))
    return tuple(found)
