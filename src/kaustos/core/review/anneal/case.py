"""Everything that the anneal of a recipe rests on: section, place, programme, what it makes of the part."""

from collections.abc import Mapping

import attrs

from kaustos.core.estimates import ANNEAL
from kaustos.core.memo import by_identity
from kaustos.core.planning.anneal_programme import Load, Programme, Window, as_programme, window_of
from kaustos.core.planning.annealing import Annealed, RampLimit, annealed, ramp_limit
from kaustos.core.planning.growth import AXES, growth_of
from kaustos.core.planning.oven_load import Seen, seen_by
from kaustos.core.planning.reach import reach_through
from kaustos.core.records import Estimate, Oven, OvenLoad, Polymer, Recipe
from kaustos.core.records.recipe import STRICT
from kaustos.core.review.contract import Context
from kaustos.core.review.section import Wall, wall_of


@attrs.frozen(kw_only=True)
class Place:
    """Where it is annealed: how hot that gets, truly, and how evenly."""

    name: str
    reach_c: float | None
    even_k: float
    offset_k: float | None  # true less shown; None where nobody compared


@attrs.frozen(kw_only=True, eq=False)
class AnnealCase:
    """One recipe and its anneal."""

    polymer: Polymer | None
    is_claimed: bool  # whether the brief judges the part as annealed
    is_planned: bool
    is_strict: bool  # whether much hangs on it: the unlucky end of every band decides
    window: Window | None
    wall: Wall | None
    place: Place | None
    load: Load | None
    programme: Programme | None
    limit: RampLimit | None
    found: Annealed | None
    out_c: float | None  # at most, when it is taken out
    growth: Mapping[str, Estimate]  # by axis [%]
    last: OvenLoad | None
    seen: Seen | None  # of the last load that ended

    @property
    def is_wanted(self) -> bool:
        """Whether an anneal is asked for."""
        return self.is_claimed or self.is_planned

    @property
    def hottest_c(self) -> float | None:
        """The hottest hold, as it is wanted."""
        return max((each.hold_c for each in self.programme.steps), default=None) if self.programme else None


@by_identity(64)
def anneal_case(recipe: Recipe, context: Context) -> AnnealCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    polymer, anneal = context.polymer, recipe.anneal
    wall, place = wall_of(recipe, context), place_of(recipe, context)
    load = None if wall is None else load_of(recipe, context.oven, wall)
    programme = programme_of(recipe, context)
    window = window_of(polymer) if polymer is not None else None
    mine = None if polymer is None else polymer.id
    last = next((each for each in context.loads if each.outcome is not None and each.polymer in (None, mine)), None)
    ready = polymer is not None and load is not None
    return AnnealCase(
        polymer=polymer, is_claimed=recipe.brief.history == "annealed", is_planned=bool(anneal.steps),
        is_strict=recipe.brief.purpose in STRICT, window=window, wall=wall, place=place, load=load,
        programme=programme, limit=ramp_limit(load, polymer) if ready else None,  # type: ignore[arg-type]
        found=annealed(programme, load, polymer) if ready and programme else None,
        out_c=out_limit(polymer), growth=_growth(context, polymer), last=last,
        seen=seen_by(last, _oven_of(last, context), polymer) if last is not None and polymer is not None else None,
    )  # fmt: skip


def _oven_of(load: OvenLoad, context: Context) -> Oven | None:
    """The oven that a load lay in, which need not be the one that is chosen for the next."""
    every = (*context.shop.ovens, *((context.oven,) if context.oven is not None else ()))
    return next((each for each in every if each.id == load.oven), None)


def load_of(recipe: Recipe, oven: Oven | None, wall: Wall) -> Load:
    """What lies in the oven."""
    anneal = recipe.anneal
    in_machine = anneal.where == "machine"
    return Load(
        wall_mm=wall.mm, is_rod=wall.is_rod, pack="free" if in_machine else anneal.packed or "free",
        pack_mm=anneal.pack_mm, fan=oven.fan if oven is not None and not in_machine else None, in_machine=in_machine,
    )  # fmt: skip


def programme_of(recipe: Recipe, context: Context) -> Programme | None:
    """The programme as far as its steps are known."""
    oven, anneal = context.oven, recipe.anneal
    own = oven.rise_k_h if oven is not None and anneal.where != "machine" else None
    quick = own or ANNEAL["rises"].value
    return as_programme(anneal.steps, anneal.cool_k_h, anneal.out_c, quick, context.rules.room_c)


def place_of(recipe: Recipe, context: Context) -> Place | None:
    """Oven or machine, with what is known of its heat."""
    if recipe.anneal.where == "machine" and context.machine is not None:
        reach = reach_through(context.machine, "chamber", context.rules, context.nozzle)
        hot = reach.bottleneck.max_c if reach is not None and reach.bottleneck is not None else context.rules.room_c
        return Place(name=context.machine.name, reach_c=hot, even_k=ANNEAL["even_k"].high, offset_k=None)
    oven = context.oven
    if recipe.anneal.where != "oven" or oven is None:
        return None
    return of_oven(oven)


def of_oven(oven: Oven) -> Place:
    """An oven as a place."""
    even = oven.even_k if oven.even_k is not None else ANNEAL["even_k"].high
    true_c = None if oven.max_c is None else oven.max_c + min(oven.offset_k or 0.0, 0.0)
    return Place(name=oven.name or "the oven", reach_c=true_c, even_k=even, offset_k=oven.offset_k)


def fits_in(oven: Oven, recipe: Recipe, context: Context) -> bool | None:
    """Whether a part goes into an oven, turned as it likes; None where a size is not known."""
    brief, shape = recipe.brief, context.part.shape if context.part is not None else None
    part = (
        (shape.size_x_mm, shape.size_y_mm, shape.size_z_mm) if shape is not None
        else (brief.size_x_mm, brief.size_y_mm, brief.size_z_mm)
    )  # fmt: skip
    inside = (oven.size_x_mm, oven.size_y_mm, oven.size_z_mm)
    if None in part or None in inside:
        return None
    packed = recipe.anneal.packed not in (None, "free")
    round_it = 2.0 * (recipe.anneal.pack_mm or ANNEAL["sand_mm"].value) if packed else 0.0
    pairs = zip(sorted(part), sorted(inside), strict=True)  # type: ignore[type-var]
    return all(one + round_it <= other for one, other in pairs)  # type: ignore[operator]


def out_limit(polymer: Polymer | None) -> float | None:
    """How hot a part may be taken out at most [°C]."""
    glass = polymer.value("glass_transition_c") if polymer is not None else None
    if polymer is None or glass is None:
        return None
    if polymer.structure == "amorphous":
        return glass.value - ANNEAL["out_glass"].value
    return ANNEAL["out_c"].value


def _growth(context: Context, polymer: Polymer | None) -> dict[str, Estimate]:
    if polymer is None:
        return {}
    found = {axis: growth_of(context.loads, polymer, axis) for axis in AXES}
    return {axis: each for axis, each in found.items() if each is not None}
