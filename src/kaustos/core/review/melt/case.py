"""Everything that melt, beads and layers rest on, gathered once for findings, figures and picture."""

import attrs

from kaustos.core.estimates import MELT, WELD
from kaustos.core.memo import by_identity
from kaustos.core.planning.bead import bead_section, bonded_share
from kaustos.core.planning.configuration import measured_of, offset_of
from kaustos.core.planning.draws import Array, ends
from kaustos.core.planning.melting import HotEnd, Melting, melting_of
from kaustos.core.planning.nozzle_life import colder_k
from kaustos.core.planning.reach import reach_through
from kaustos.core.records import Calibration, Lot, Machine, Nozzle, Polymer, PrintedPart, Recipe, Rules, Shape
from kaustos.core.records.own_polymer import FIBRES
from kaustos.core.records.recipe import Brief, Melt
from kaustos.core.review.contract import Context
from kaustos.core.review.filed import strand_mm
from kaustos.core.review.plate.case import shape_in
from kaustos.core.review.zones import filler_in

SHOWN_K = 2.0  # how far a nozzle that was compared may be from what it is taken for
WELD_SHOWN = WELD["shown"].value


@attrs.frozen(kw_only=True, eq=False)
class MeltCase:
    """One recipe in one hot end, as far as either is recorded."""

    polymer: Polymer | None
    hot_end: HotEnd
    bore_mm: float  # as recorded, else usual
    width_mm: float
    height_mm: float
    speed_mm_s: float
    assumed: tuple[str, ...]  # what is taken as usual, in words, for it is not recorded
    bead_mm2: float | None  # None where a bead is thinner than it is high
    flow_mm3_s: float | None
    filled: float  # melt that is laid, over that of the plan
    multiplier: Calibration | None  # measured with this lot
    ladder: Calibration | None
    flow_test: Calibration | None
    odd_test: Calibration | None  # of a flow that no head gives: not believed
    odd_most: float | None  # most that can be expected at the heat of that test [mm³/s]
    nozzle_c: float | None  # true
    nozzle_k: float  # how far that may be off
    feed_c: float  # filament as it comes in
    melting: Melting | None
    hard_mm3_s: Array | None  # moved by a flow test where there is one
    bonded: float | None  # share of a section that bonds by the plan of beads
    shape: Shape | None
    has_fibre: bool

    @property
    def exit_c(self) -> Array | None:
        """Draws of the melt as it leaves [°C]."""
        return None if self.melting is None else self.melting.exit_c


def melt_case(recipe: Recipe, context: Context) -> MeltCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    return _case(
        recipe.melt,
        recipe.brief,
        recipe.plate.copies,
        context.polymer,
        context.machine,
        context.nozzle,
        context.lot,
        context.part,
        context.rules,
        context.calibrations,
        same_stuff(context),
    )


def same_stuff(context: Context) -> str:
    """Lots of one grade, by id, with a blank between: what is measured with one is true of the others."""
    lot = context.lot
    if lot is None:
        return ""
    same = [lot.id]
    if lot.grade:
        same += [
            each.id
            for each in context.shop.every_lot
            if each.polymer == lot.polymer and each.grade == lot.grade and each.colour == lot.colour
        ]
    return " ".join(dict.fromkeys(same))


@by_identity(256)
def _case(
    melt: Melt,
    brief: Brief,
    copies: float | None,
    polymer: Polymer | None,
    machine: Machine | None,
    nozzle: Nozzle | None,
    lot: Lot | None,
    part: PrintedPart | None,
    rules: Rules,
    calibrations: tuple[Calibration, ...],
    same: str,
) -> MeltCase:
    recipe = Recipe(melt=melt, brief=brief)
    context = Context(polymer=polymer, machine=machine, nozzle=nozzle, lot=lot, part=part, rules=rules)
    bore = nozzle.bore_mm if nozzle is not None and nozzle.bore_mm else None
    known = {
        "width of the bead": melt.width_mm,
        "height of the layer": melt.height_mm,
        "speed": melt.speed_mm_s,
        "bore": bore,
    }
    at = bore or MELT["bore"].value
    width = melt.width_mm or MELT["width"].value * at
    height = melt.height_mm or min(MELT["height"].value * at, 0.8 * width)
    speed = melt.speed_mm_s or MELT["speed"].value
    lots = same.split() if same else []
    found = {kind: measured_of(calibrations, kind, lots) for kind in ("multiplier", "ladder", "flow")}
    commanded = melt.multiplier if melt.multiplier is not None else 1.0
    right = value_of(found["multiplier"], "multiplier")
    filled = commanded / right if right else min(commanded / MELT["multiplier"].value, 1.0)
    is_bead = width >= height
    bead = bead_section(width, height) if is_bead else None
    flow = bead * commanded * speed if bead is not None else None
    hot_end = hot_end_of(context)
    true, spread = true_nozzle(melt.nozzle_c, context, calibrations)
    melting = hard = odd = odd_most = None
    if polymer is not None and true is not None and flow:
        short = rules.core_short_pct / 100.0
        melting = melting_of(polymer, hot_end, true, spread, rules.room_c, flow, min(max(short, 0.005), 0.5))
        hard, odd_most = _tested(found["flow"], melting, polymer, hot_end, spread, rules, flow)
        if odd_most is not None:
            odd, found["flow"] = found["flow"], None
    bonded = None
    if is_bead:
        bonded = bonded_share(width, height, filled, MELT["pressed"].value, MELT["gaps"].value)
    return MeltCase(
        polymer=polymer,
        hot_end=hot_end,
        bore_mm=at,
        width_mm=width,
        height_mm=height,
        speed_mm_s=speed,
        assumed=tuple(title for title, value in known.items() if value is None),
        bead_mm2=bead,
        flow_mm3_s=flow,
        filled=filled,
        multiplier=found["multiplier"],
        ladder=found["ladder"],
        flow_test=found["flow"],
        odd_test=odd,
        odd_most=odd_most,
        nozzle_c=true,
        nozzle_k=spread,
        feed_c=rules.room_c,
        melting=melting,
        hard_mm3_s=hard,
        bonded=bonded,
        has_fibre=filler_in(context) in FIBRES,
        shape=shape_in(attrs.evolve(recipe, plate=attrs.evolve(recipe.plate, copies=copies)), context)[0],
    )


def value_of(found: Calibration | None, key: str) -> float | None:
    """A value of a calibration that still holds [its unit]."""
    return found.values.get(key) if found is not None and found.is_valid else None


def hot_end_of(context: Context) -> HotEnd:
    """What of machine and nozzle decides how a melt flows."""
    machine, nozzle = context.machine, context.nozzle
    return _hot_end(
        machine.melt_zone_mm if machine else None,
        nozzle.bore_mm if nozzle else None,
        nozzle.land_mm if nozzle else None,
        machine.push_n if machine else None,
        machine.geared if machine else None,
        machine.tube_mm if machine else None,
        strand_mm(None, context.lot, machine),
    )


@by_identity(64)
def _hot_end(
    zone: float | None,
    bore: float | None,
    land: float | None,
    push: float | None,
    geared: bool | None,
    tube: float | None,
    strand: float,
) -> HotEnd:
    """One and the same hot end for the same sizes, so that what was worked out for it is found again."""
    return HotEnd(
        zone_mm=zone, bore_mm=bore, land_mm=land, push_n=push, is_geared=geared, tube_mm=tube, strand_mm=strand
    )


def true_nozzle(
    shown_c: float | None, context: Context, calibrations: tuple[Calibration, ...]
) -> tuple[float | None, float]:
    """True temperature of the nozzle by its offset and its material, and how far that may be off [°C, K]."""
    offset = offset_of(calibrations, "nozzle")
    known = offset is not None and offset.is_valid
    spread = SHOWN_K if known else WELD_SHOWN
    if shown_c is None:
        return None, spread
    reach = reach_through(context.machine, "nozzle", context.rules, context.nozzle).max_c if context.machine else None
    true = (shown_c if reach is None else min(shown_c, reach)) + (
        offset.values["offset_k"] if known and offset is not None else 0.0
    )
    nozzle = context.nozzle
    if nozzle is not None and nozzle.material:
        true -= max(colder_k(nozzle.material).value, 0.0)
    return true, spread


def _tested(
    test: Calibration | None,
    melting: Melting | None,
    polymer: Polymer,
    hot_end: HotEnd,
    spread: float,
    rules: Rules,
    flow: float,
) -> tuple[Array | None, float | None]:
    """The hard limit of flow, moved to what a test found; where that cannot be, the most at its heat [mm³/s]."""
    if melting is None:
        return None, None
    limit, at_c = value_of(test, "flow_mm3_s"), value_of(test, "at_c")
    if limit is None or at_c is None:
        return melting.hard, None
    there = melting_of(polymer, hot_end, at_c, spread, rules.room_c, flow, rules.core_short_pct / 100.0)
    if there is None:
        return melting.hard, None
    most = float(ends(there.hard)[2])
    if limit > MELT["flow_odd"].value * most:
        return melting.hard, most
    return limit * melting.hard / there.hard, None
