"""The figures of operation 40, and what its tile says."""

import numpy as np

from kaustos.core.estimates import BOND
from kaustos.core.physics.warp import LayeredBar, foot_strain, layered_bar
from kaustos.core.physics.weld import SHIFT
from kaustos.core.planning.bond import METHOD, SOURCE, Bond
from kaustos.core.planning.draws import estimate
from kaustos.core.planning.standing import anchor_cost
from kaustos.core.records import HOLDS, Estimate, Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.plate.case import Case, case_of, plate_size
from kaustos.core.review.plate.findings import WATCH, dose_of, layout_in
from kaustos.core.review.plate.sheets import rise_of
from kaustos.core.review.zones import limits_of

FIRST = {"corner": "corner", "weld": "weld between layers", "surface": "surface of the plate"}
LAYER_MM, SPEED, BEAD_MM = (BOND[f"first_{key}"].value for key in ("height", "slow", "bead"))  # where none is set


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = case_of(recipe, context)
    return (*_bond(case), *_part(case), *_anchor(case, recipe, context), *_plate(case, recipe, context))


def _bond(case: Case) -> tuple[Figure, ...]:
    bond = case.bond
    sized = bond if case.loads is not None else None
    load: Estimate | Absent = UNKNOWN
    if case.loads is not None:
        load = estimate(case.loads.load, "J/m²", METHOD, SOURCE)
    return (
        Figure("plate.bond.load", "Load at the worst point, while printed", load),
        Figure("plate.bond.grip", "Grip of the pair", bond.band("grip") if bond else UNKNOWN),
        Figure("plate.bond.damage", "Surface harmed from", bond.band("damage") if bond else UNKNOWN),
        Figure("plate.bond.weld", "Weakest weld above the plate", bond.band("weld") if bond else UNKNOWN),
        Figure(
            "plate.bond.cold",
            "Load when it is taken off",
            (estimate(case.loads.cold, "J/m²", METHOD, SOURCE) if case.loads is not None else UNKNOWN),
        ),
        Figure("plate.bond.starts", "Chance that an edge lets go", _chance(sized.starts if sized else None)),
        Figure("plate.bond.lift", "Worst corner lifts by", _lift(sized)),
        Figure("plate.bond.lifts", "Chance that a corner lifts", _chance(sized.lifts if sized else None)),
        Figure("plate.bond.harms", "Chance that the surface is harmed", _chance(bond.harms if bond else None)),
        Figure("plate.bond.lets_go", "Chance that it lets go by itself", _chance(sized.comes_off if sized else None)),
        Figure("plate.sheet.rise", "Sheet rises with the part by", _sheet(case)),
        Figure("plate.bond.first", "Gives way first", FIRST[bond.first] if bond else UNKNOWN),
        Figure("plate.bond.capped", "Share of it that is capped at yield", _chance(sized.capped if sized else None)),
        Figure("plate.bond.contact", "Contact of the first bead at", _contact(case)),
        Figure("plate.pair.says", "Said of the pair", _said(case)),
        Figure("plate.pair.outcomes", "Own runs that moved the grip", _count(case)),
    )


def _chance(share: float | None) -> Estimate | Absent:
    if share is None:
        return UNKNOWN
    percent = 100.0 * share
    return Estimate(percent, percent, percent, "%", "share of draws", SOURCE)


def _lift(bond: Bond | None) -> Estimate | Absent:
    return UNKNOWN if bond is None else estimate(bond.lift_mm, "mm", "edge lets go, then free layers curl", SOURCE)


def _sheet(case: Case) -> Estimate | Absent:
    rise = rise_of(case)
    return UNKNOWN if rise is None else estimate(rise, "mm", "part and sheet as one bar, held down", SOURCE)


def _contact(case: Case) -> Estimate | Absent:
    if case.bond is None:
        return UNKNOWN
    at, low, high = case.bond.contact_c, case.bond.contact_c - 8.0, case.bond.contact_c + 8.0
    return Estimate(
        at,
        low,
        high,
        "°C",
        f"two bodies meet; {case.bond.contact_book_c:.0f} °C at the book's middle",
        "conductivity, density and heat capacity of both, estimate",
    )


def _said(case: Case) -> str | Absent:
    if case.statement is None:
        return UNKNOWN
    holds = case.statement.holds
    return f"{HOLDS[holds] if holds else 'unknown'}; {case.statement.from_words}"


def _count(case: Case) -> Estimate | Absent:
    if case.statement is None:
        return UNKNOWN
    number = float(len(case.outcomes))
    return Estimate(number, number, number, "1", "runs on this plate with this agent and polymer", "log of runs")


def _part(case: Case) -> tuple[Figure, ...]:
    shape, standing = case.shape, case.standing
    contact = share = sharp = height = None
    if shape is not None and standing is not None:
        contact, share = shape.contact_mm2 / 100.0, 100.0 * shape.contact_mm2 / shape.shadow_mm2
        sharp = float(standing.bare.max())
        height = shape.size_z_mm / max(shape.contact_mm2, 1e-9) ** 0.5
    return (
        Figure("plate.part.contact", "Contact with the plate", _exact(contact, "cm²", case)),
        Figure("plate.part.share", "Contact over shadow", _exact(share, "%", case)),
        Figure("plate.part.sharpest", "Sharpest point, times a straight edge", _exact(sharp, "1", case)),
        Figure("plate.part.slender", "Height over width of contact", _exact(height, "1", case)),
        Figure("plate.part.curl", "Free bar of even layers would lift by", _bar(case)),
        Figure("plate.part.foot", "Foot sags by", _foot(case)),
    )


def _exact(value: float | None, unit: str, case: Case, method: str = "geometry of the part") -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, case.shape_from)


def _bar(case: Case) -> Estimate | str | Absent:
    found = second_opinion(case)
    if found is None:
        return UNKNOWN
    if found.lift is None:
        return f"not applicable: {found.not_applicable}"
    lift = found.lift * 1e3
    return Estimate(
        lift,
        0.5 * lift,
        2.0 * lift,
        "mm",
        "bar of even layers, free to curl: a second opinion, no verdict",
        "Wang, Xi and Jin, 2007",
    )


def second_opinion(case: Case) -> LayeredBar | None:
    """The closed form for a free bar, None where the part or its heat is not recorded."""
    if case.polymer is None or case.shape is None or case.making is None:
        return None
    glass, expansion = case.polymer.value("glass_transition_c"), case.polymer.value("expansion_glassy_um_mk")
    if glass is None or expansion is None or not expansion.value > 0.0:
        return None
    if not case.polymer.is_glassy:
        return LayeredBar(lift=None, radius=None, not_applicable="it crystallises while it is printed")
    length = max(case.shape.size_x_mm, case.shape.size_y_mm) / 1e3
    layer = (case.recipe.first_layer.height_mm or LAYER_MM) / 1e3
    return layered_bar(
        length=length,
        height=case.shape.size_z_mm / 1e3,
        layer=layer,
        expansion=expansion.value * 1e-6,
        glass_c=glass.value,
        ends_c=case.making.air_c,
    )


def _foot(case: Case) -> Estimate | Absent:
    if case.polymer is None or case.shape is None or case.making is None or not case.polymer.is_glassy:
        return UNKNOWN
    glass, density = case.polymer.value("glass_transition_c"), case.polymer.value("density_g_cm3")
    hours = case.recipe.brief.print_h
    if glass is None or density is None or hours is None:
        return UNKNOWN
    strain = foot_strain(
        density.value * 1e3,
        case.shape.size_z_mm / 1e3,
        np.array([case.making.plate_c, case.making.plate_c - 4.0, case.making.plate_c + 4.0]),
        glass.value,
        hours * 3600.0,
        SHIFT,
    )
    value, low, high = (100.0 * min(float(each), 1.0) for each in strain)
    return Estimate(value, low, high, "%", "weight on a foot above its glass transition", "viscosity, estimate")


def _anchor(case: Case, recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    grams = minutes = area = gain = None
    if case.shape is not None and case.standing is not None and case.polymer is not None:
        density = case.polymer.value("density_g_cm3")
        first = recipe.first_layer
        cost = anchor_cost(
            case.shape,
            case.anchor,
            density.value if density else 1.2,
            first.height_mm or LAYER_MM,
            first.speed_mm_s or SPEED,
            first.width_mm or BEAD_MM,
        )
        copies = recipe.plate.copies or 1.0
        grams, minutes, area = cost.grams * copies, cost.minutes * copies, cost.extra_mm2 * copies / 100.0
        worst = case.loads.worst if case.loads is not None else int(np.argmax(case.standing.bare))
        gain = float(case.standing.bare[worst] / case.standing.sharpness[worst])
    how = "anchor as it is set"
    return (
        Figure("plate.anchor.gain", "Anchor lowers the load there, times", _exact(gain, "1", case, how)),
        Figure("plate.anchor.grams", "Anchor takes", _exact(grams, "g", case, how)),
        Figure("plate.anchor.minutes", "Anchor takes time", _exact(minutes, "min", case, how)),
        Figure("plate.anchor.area", "Anchor takes of the plate", _exact(area, "cm²", case, how)),
    )


def _plate(case: Case, recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    limits = limits_of(case.item, case.surface, case.agent)
    limit: Estimate | Absent = UNKNOWN
    if limits and (case.surface is not None or (case.item and case.item.stands_c is not None)):
        value = limits[0][1]
        limit = Estimate(
            value,
            value - 10.0,
            value + 10.0,
            "°C",
            f"weakest layer: {limits[0][0]}",
            "record of the plate, else its kind",
        )
    hottest = max(
        (each for each in (value_at(recipe, "plate.bed_c"), value_at(recipe, "first_layer.bed_c")) if each is not None),
        default=None,
    )
    spare: Estimate | Absent = UNKNOWN
    if isinstance(limit, Estimate) and hottest is not None:
        spare = Estimate(
            limit.value - hottest,
            limit.low - hottest,
            limit.high - hottest,
            "K",
            "weakest layer less hottest setpoint",
            limit.source,
        )
    dose = dose_of(case)
    return (
        Figure("plate.limit.stands", "Plate, weakest layer stands", limit),
        Figure("plate.limit.spare", "Left to that limit", spare),
        Figure(
            "plate.agent.dose",
            "Agent for this footprint",
            (
                UNKNOWN
                if dose is None
                else Estimate(
                    dose, 0.6 * dose, 1.8 * dose, "ml", "area with anchor and margin × wet film × coats", "estimate"
                )
            ),
        ),
        Figure("plate.run.cost", "Plate and agent for one run", _cost(case, dose)),
        Figure("plate.room.copies", "Copies that find room", _copies(case, recipe, context)),
    )


def _cost(case: Case, dose: float | None) -> Estimate | Absent:
    surface, item = case.surface, case.item
    if surface is None or item is None:
        return UNKNOWN
    price = item.price if item.price is not None else surface.price.value
    life = surface.prints
    agent = case.agent
    spent = (dose or 0.0) * agent.price_ml.value if agent is not None else 0.0
    value, low, high = price / life.value + spent, price / life.high + 0.5 * spent, price / life.low + 2.0 * spent
    return Estimate(
        value, low, high, "money", "price over prints it lives for, and agent", "record of the plate, else its kind"
    )


def _copies(case: Case, recipe: Recipe, context: Context) -> Estimate | Absent:
    found = layout_in(case, recipe, context)
    if found is None or plate_size(context) is None:
        return UNKNOWN
    count = float(len(found.places))
    return Estimate(
        count, count, count, "1", f"of {found.wanted} wanted, in rows, clear of clips and damage", case.shape_from
    )


LEAST_TOLD = 1.0  # chance of 100 from which a number is told


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """Chance of lifting or harm, whichever is the greater; the plate's heat where neither is known."""
    case = case_of(recipe, context)
    bond = case.bond
    if bond is None or (case.loads is None and max(bond.lifts, bond.harms) < WATCH):
        return ()
    chance = 100.0 * max(bond.lifts, bond.harms)
    if chance < LEAST_TOLD:
        return (Saying("lifts < 1 %", {}),)
    word = "lifts" if bond.lifts >= bond.harms else "welds"
    return (Saying(f"{word} {{chance:share}}", {"chance": float(round(chance))}),)
