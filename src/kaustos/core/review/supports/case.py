"""Everything that supports rest on, gathered once: what wants help, what each way costs, what stands against it."""

import attrs

from kaustos.core.estimates import SUPPORT
from kaustos.core.memo import by_identity
from kaustos.core.planning.bath import Course, contents_of, course_of, room_of, slow_in
from kaustos.core.planning.configuration import measured_of
from kaustos.core.planning.support import Bears, Cost, Need, Shop, bears, cost_of, left_of, needs_of, reach_of
from kaustos.core.records import (
    BONDS_AS,
    EFFECTS,
    SUPPORT_WAYS,
    Bath,
    Calibration,
    Decision,
    Estimate,
    Polymer,
    Recipe,
    Shape,
    Side,
    Statement,
    SupportMaterial,
)
from kaustos.core.review.contract import Context
from kaustos.core.review.melt.case import MeltCase, melt_case, same_stuff
from kaustos.core.review.money import machine_rate, run_cost
from kaustos.core.review.plate.case import air_of

BY_HAND = ("built_in", "grid", "branches", "breakaway", "coat")  # taken off with tools
SECOND = ("breakaway", "soluble")
MATTERS = ("mating", "sealing", "seen")  # faces that a scar spoils
WELDS_EASILY = ("polyolefin", "pp", "elastomer", "petg")


@attrs.frozen(kw_only=True)
class Way:
    """One way to hold what wants help: what it takes, and what stands against it."""

    key: str
    material: SupportMaterial | None
    cost: Cost
    contact_only: bool | None  # where a second polymer is only in what touches; None for the ways of one polymer
    copies: float  # that the cost is of
    is_scarred: bool  # whether it touches faces that matter
    against: tuple[str, ...]  # why it is not to be had, in words
    first: tuple[str, ...] = ()  # what is to be done before it is trusted

    @property
    def is_possible(self) -> bool:
        """Whether nothing stands against it."""
        return not self.against

    @property
    def title(self) -> str:
        """What it is called."""
        if self.material is None:
            return SUPPORT_WAYS[self.key]
        return f"{SUPPORT_WAYS[self.key]}: {self.material.name}" + ("" if self.contact_only else ", all of it")

    @property
    def each(self) -> float:
        """What one part costs by it, cleaned [money]."""
        return self.cost.money / self.copies


@attrs.frozen(kw_only=True, eq=False)
class SupportCase:
    """One recipe in its surroundings, as far as either is recorded."""

    polymer: Polymer | None
    melt: MeltCase
    borne: Bears
    coupon: Calibration | None
    series: Calibration | None  # of gaps
    needs: tuple[Need, ...] | None  # None where nobody looked at the part
    left: tuple[tuple[Need, Decision], ...]  # that want help and are left free
    gone: tuple[Decision, ...]  # on places that are no more
    sides: tuple[Side, ...]  # on which the part could lie
    way: str | None
    contact_only: bool
    material: SupportMaterial | None
    bath: Bath | None  # that is chosen
    gap_mm: float  # between part and supports of its own polymer: as set, else as is usual
    first_mm: float
    ways: tuple[Way, ...]  # the cheapest that is possible first

    @property
    def chosen(self) -> Way | None:
        """The way that is set, with the material that is set."""
        mine = [each for each in self.ways if each.key == self.way]
        wanted = self.material.id if self.material is not None else None
        right = [each for each in mine if each.material is None or each.material.id == wanted]
        return next((each for each in right if each.contact_only in (None, self.contact_only)), None)

    @property
    def is_held(self) -> bool:
        """Whether anything stands under what grows over air."""
        return self.way not in (None, "none")


@by_identity(64)
def support_case(recipe: Recipe, context: Context) -> SupportCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    melt, polymer, machine = melt_case(recipe, context), context.polymer, context.machine
    lots = same_stuff(context).split()
    coupon = measured_of(context.calibrations, "overhang", lots)
    borne = bears(recipe.heat.fan_pct, coupon)
    shape = context.part.shape if context.part is not None else None
    decided = context.part.decided if context.part is not None else ()
    is_seen = shape is not None and shape.overhangs is not None
    needs = needs_of(shape, borne, decided) if shape is not None and is_seen else None
    left = left_of(shape, borne, decided) if shape is not None and is_seen else ()
    gone = () if shape is None or not is_seen else _gone(decided, shape)
    first = recipe.first_layer.height_mm or melt.height_mm
    material = context.supplies.supports.get(recipe.supports.material or "")
    series = measured_of(context.calibrations, "support_gap", lots) if machine is not None else None
    gap = recipe.supports.gap_mm
    gap = usual_gap(series, polymer) * melt.height_mm if gap is None else gap
    ways: tuple[Way, ...] = ()
    if polymer is not None and needs:
        shop = _shop(recipe, context, melt, polymer)
        ways = tuple(_ways(recipe, context, polymer, needs, shop, first, gap, material))
        ways = tuple(sorted(ways, key=_rank_of))
    return SupportCase(
        polymer=polymer,
        melt=melt,
        borne=borne,
        coupon=coupon if coupon is not None and coupon.is_valid else None,
        series=series,
        needs=needs,
        left=left,
        gone=gone,
        sides=shape.sides if shape is not None else (),
        way=recipe.supports.way,
        contact_only=is_contact_only(recipe),
        material=material if recipe.supports.way in SECOND else None,
        bath=context.bath if recipe.supports.way == "soluble" else None,
        gap_mm=gap,
        first_mm=first,
        ways=ways,
    )


def _rank_of(way: Way) -> tuple[bool, bool, bool, float]:
    """The best first: to be had, holding at all, without scars where they matter, cheap."""
    return not way.is_possible, way.key == "none" and not way.is_possible, way.is_scarred, way.cost.money


def is_contact_only(recipe: Recipe) -> bool:
    """Whether a second polymer is only in the layers that touch: as set, else it is."""
    return recipe.supports.contact_only is not False


def usual_gap(series: Calibration | None, polymer: Polymer | None) -> float:
    """Layers between a part and supports of its own polymer: by the shop's series, else as is usual [-]."""
    own = series.values.get("layers") if series is not None and series.is_valid else None
    if own is not None:
        return own
    return SUPPORT["gap_welds" if welds_easily(polymer) else "gap_layers"].value


def welds_easily(polymer: Polymer | None) -> bool:
    """Whether a support of the same polymer welds on more easily than most."""
    return polymer is not None and polymer.family in WELDS_EASILY


def _gone(decided: tuple[Decision, ...], shape: Shape) -> tuple[Decision, ...]:
    return tuple(each for each in decided if not any(each.is_on(place) for place in shape.overhangs or ()))


def _shop(recipe: Recipe, context: Context, melt: MeltCase, polymer: Polymer) -> Shop:
    price, density = polymer.value("price_per_kg"), polymer.value("density_g_cm3")
    run = run_cost(recipe, context)
    return Shop(
        wage_per_h=context.rules.wage_per_h,
        machine_per_h=machine_rate(context),
        price_per_kg=price.value if price is not None else SUPPORT["price"].value,
        density_g_cm3=density.value if density is not None else SUPPORT["density"].value,
        flow_mm3_s=max(melt.flow_mm3_s or 0.0, 0.2),
        layer_mm=melt.height_mm,
        run=run.value if run is not None else SUPPORT["run"].value,
    )


def _ways(
    recipe: Recipe, context: Context, polymer: Polymer, needs: tuple[Need, ...], shop: Shop, first: float, gap: float,
    set_material: SupportMaterial | None,
) -> list[Way]:  # fmt: skip
    supports, found = recipe.supports, []
    filled = None if supports.filled_pct is None else supports.filled_pct / 100.0
    copies = recipe.plate.copies or 1.0
    matters = context.part is not None and context.part.sides in MATTERS
    for key in SUPPORT_WAYS:
        every = tuple(context.supplies.supports.values())
        second = tuple(each for each in every if each.is_bath == (key == "soluble")) if key in SECOND else (None,)
        for material in second:
            against, before = _stands_against(key, material, recipe, context, polymer, needs)
            for contact in (True, False) if material is not None else (True,):
                cost = cost_of(
                    key, needs, shop, filled, material, contact_only=contact, first_mm=first, copies=copies, gap_mm=gap
                )  # fmt: skip
                found.append(
                    Way(
                        key=key, material=material, cost=cost, contact_only=None if material is None else contact,
                        copies=copies, is_scarred=matters and cost.scar_mm2 > 0.0, against=against, first=before,
                    )
                )  # fmt: skip
    return [each for each in found if _is_told(each, set_material)]


def _is_told(way: Way, set_material: SupportMaterial | None) -> bool:
    """Second polymers of which nobody says anything under this one are left out, but for the one that is set."""
    untried = any(each.startswith("nobody") for each in way.against)
    return not untried or (set_material is not None and way.material is set_material)


def _stands_against(
    key: str, material: SupportMaterial | None, recipe: Recipe, context: Context, polymer: Polymer,
    needs: tuple[Need, ...],
) -> tuple[tuple[str, ...], tuple[str, ...]]:  # fmt: skip
    """Why a way is not to be had, and what is to be tried before it is trusted."""
    found, first = [], []
    if key == "none" and any(each.is_certain for each in needs):
        found.append("it falls")
    if key in BY_HAND and (away := unreached(needs)):
        found.append(f"no straight tool reaches {_places(away)}")
    if key == "soluble" and (shut := closed(needs)):
        found.append(f"no bath comes to {_places(shut)}")
    if material is not None:
        outcome = bond_said(material, polymer)
        if outcome is None:
            found.append(f"nobody has tried {material.name} under {polymer.name}")
        elif outcome in ("fuses", "falls"):
            found.append(f"it {BONDS_AS[outcome]}")
        elif outcome == "coupon":
            first.append("a coupon of the pair")
        if air_of(recipe, context) > material.chamber_most_c:
            found.append("the air is too hot for it")
        if context.machine is None or not context.machine.two_feeds:
            is_known = context.machine is not None and context.machine.two_feeds is False
            found.append("one polymer fed" if is_known else "second feed not recorded")
        effect = material.does_to(polymer)
        if effect in ("dissolves", "cracks"):
            found.append(f"its bath {EFFECTS[effect]} {polymer.name}")
        elif effect is None or effect in ("coupon", "swells"):
            first.append("a coupon in the bath")
        warm, limit = bath_heat(recipe, material, context.bath), bath_limit(polymer)
        if warm is not None and limit is not None and warm > limit:
            found.append(f"its bath softens {polymer.name}")
    return tuple(found), tuple(first)


def _places(needs: tuple[Need, ...]) -> str:
    return "one place" if len(needs) == 1 else f"{len(needs)} places"


def unreached(needs: tuple[Need, ...]) -> tuple[Need, ...]:
    """Places that no straight tool comes up to."""
    return tuple(each for each in needs if reach_of(each) != "reached")


def closed(needs: tuple[Need, ...]) -> tuple[Need, ...]:
    """Places that no bath comes to."""
    return tuple(each for each in needs if reach_of(each) == "closed")


def bond_said(material: SupportMaterial, model: Polymer) -> str | None:
    """How they bond by what most weight says; None where nobody has said, the worse of two that weigh the same."""
    said = material.said_of(model)
    if not said:
        return None
    weights = {outcome: sum(each.weight for each in said if each.outcome == outcome) for outcome in BONDS_AS}
    order = ("breaks", "coupon", "falls", "fuses")
    return max(order, key=lambda each: (weights[each], order.index(each)))


def contradictions(material: SupportMaterial, model: Polymer) -> tuple[Statement, ...]:
    """What is said of a pair where it is not all the same; empty where all agree."""
    said = material.said_of(model)
    return said if len({each.outcome for each in said}) > 1 else ()


def nozzle_window(material: SupportMaterial, context: Context) -> tuple[float, float] | None:
    """Between which heats a second polymer is laid [°C]: of the library's polymer, else its own; None if not known."""
    polymer = context.shop.polymers.get(material.polymer)
    if polymer is not None:
        low, high = polymer.value("nozzle_low_c"), polymer.value("nozzle_high_c")
        return (low.value, high.value) if low is not None and high is not None else None
    if material.nozzle_low_c is None or material.nozzle_high_c is None:
        return None
    return material.nozzle_low_c, material.nozzle_high_c


def rest_min(recipe: Recipe) -> float:
    """How long a pause for a coat takes [min]: the longest that the recipe plans, else what is usual."""
    return recipe.melt.pause_min or SUPPORT["pause_min"].value


def bath_heat(recipe: Recipe, material: SupportMaterial, bath: Bath | None) -> float | None:
    """How warm the bath is: as set, else as the tank that is chosen is kept, else as is usual [°C]."""
    if not material.is_bath or material.bath_c is None:
        return None
    kept = bath.warm_c if bath is not None and bath.material == material.id else None
    return next(each for each in (recipe.supports.bath_c, kept, material.bath_c.value) if each is not None)


def room_in(bath: Bath | None, volume_ml: float | None, material: SupportMaterial) -> Estimate | None:
    """What a bath still takes: the one that is chosen less what is in it, else a new one of that volume [g]."""
    if volume_ml is None:
        return None
    return room_of(volume_ml, material, contents_of(bath).grams if bath is not None else 0.0)


def course_in(case: SupportCase, recipe: Recipe) -> Course | None:
    """How the wash of this plate would go on; None where way, amount or volume is not known."""
    material, chosen, bath = case.material, case.chosen, case.bath
    volume = bath.volume_ml if bath is not None else recipe.supports.bath_ml
    if material is None or chosen is None or volume is None or not material.is_bath:
        return None
    dissolved = contents_of(bath).grams if bath is not None else 0.0
    warm = bath_heat(recipe, material, bath)
    return course_of(chosen.cost.on_part_g, material, volume, dissolved, warm, slow_in(bath, material))


def bath_limit(model: Polymer) -> float | None:
    """Hottest bath that a model keeps its shape in [°C]; None where its glass transition is not known or no matter."""
    glass = model.value("glass_transition_c")
    return glass.value - SUPPORT["bath_below"].value if glass is not None and model.is_glassy else None
