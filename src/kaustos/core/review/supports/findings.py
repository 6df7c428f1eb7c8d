"""What can be found against supports, or the want of them."""

import math
from collections.abc import Callable, Iterator
from datetime import datetime

from kaustos.core.estimates import BOND, SUPPORT
from kaustos.core.planning.bath import contents_of
from kaustos.core.planning.support import SORTS, Need, asked_for, skin_layers, slenderness_of, whole_layers
from kaustos.core.records import BONDS_AS, EFFECTS, FACES, SUPPORT_WAYS, Bath, Recipe, SupportMaterial
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.making import make_finding
from kaustos.core.review.plate.case import air_of
from kaustos.core.review.supports.case import (
    BY_HAND,
    MATTERS,
    SECOND,
    SupportCase,
    bath_heat,
    bath_limit,
    bond_said,
    closed,
    contradictions,
    nozzle_window,
    room_in,
    support_case,
    unreached,
    usual_gap,
    welds_easily,
)
from kaustos.core.review.supports.codes import BY_CODE
from kaustos.core.review.supports.remedies import COUPON, DRAW, IN_BATH, NOTE, OPEN, other_ways, turned

SAME = ("grid", "branches", "built_in")  # of the polymer of the part
STAND = ("grid", "branches", "breakaway", "soluble", "coat")
Values = dict[str, float | str | None]


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = support_case(recipe, context)
    return tuple(found for look in _LOOKS for found in look(case, recipe, context))


def _place_words(need: Need) -> str:
    """A place in words: what it is."""
    place = need.place
    size = {"bridge": f" of {place.span_mm:.0f} mm", "out": f" of {place.out_mm:.0f} mm"}.get(need.sort, "")
    if need.sort == "slope":
        size = f" of {place.beyond(0.0).angle_deg:.0f}°"
    return f"a {SORTS[need.sort]}{size}" if need.sort != "begins" else f"one that {SORTS['begins']}"


def _first(needs: tuple[Need, ...]) -> Values:
    """The worst of some places, for a sentence: what, how high, how many more."""
    more = f" and {len(needs) - 1} more" if len(needs) > 1 else ""
    return {"first": _place_words(needs[0]), "at": round(needs[0].place.low_mm, 1), "more": more}


def _found(
    case: SupportCase, recipe: Recipe, context: Context, code: str, field: str, values: Values,
    *remedies: Remedy, severity: str = "",
) -> Finding:  # fmt: skip
    common: Values = {
        "limit": float(round(case.borne.limit.value)),
        "material": case.material.name if case.material is not None else None,
    }
    return make_finding(BY_CODE[code], recipe, context, field, remedies, common | values, severity=severity)


def _places(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    needs = case.needs
    if not needs:
        return
    if not case.is_held:
        values: Values = _first(needs) | {"count": float(len(needs)), "gap": sum(each.loss for each in needs)}
        is_open = case.way is None and context.part is not None  # to be held, and with what is not said yet
        asked = asked_for(needs, context.part.decided) if is_open and context.part is not None else ()
        severity = "stop" if any(each.is_certain for each in needs if each not in asked) else "watch"
        remedies = (*other_ways(case), turned(case), DRAW)
        yield _found(
            case, recipe, context, "supports.place.unheld", "supports.way", values, *remedies, severity=severity
        )
        return
    shut = closed(needs)
    away = tuple(each for each in unreached(needs) if each not in shut)
    if shut:
        values = _first(shut) | {"gap": float(len(shut))}
        yield _found(case, recipe, context, "supports.place.closed", "supports.way", values, OPEN, turned(case), DRAW)
    if away and case.way in BY_HAND:
        values = _first(away) | {"tool": SUPPORT["tool"].value, "gap": float(len(away))}
        remedies = (*other_ways(case), OPEN, turned(case), DRAW)
        yield _found(case, recipe, context, "supports.place.no_reach", "supports.way", values, *remedies)


def _left(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if case.left:
        needs = tuple(need for need, _ in case.left)
        because = next((each.why for _, each in case.left if each.why), "nobody said why")
        values: Values = _first(needs) | {"because": because, "gap": sum(each.loss for each in needs)}
        severity = "stop" if any(each.is_certain for each in needs) else "watch"
        again = Advice("Decide it again", "On the page Places: hold it, or let the limit decide.")
        remedies = (again, turned(case), DRAW)
        yield _found(case, recipe, context, "supports.place.left", "part.decided", values, *remedies, severity=severity)
    if case.gone:
        values = {"count": float(len(case.gone)), "gap": float(len(case.gone))}
        anew = Advice("Decide anew", "On the page Places: what is decided there drops what is gone.")
        yield _found(case, recipe, context, "supports.place.gone", "part.decided", values, anew)


def _needless(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if case.needs is None or case.needs or not case.is_held:
        return
    values: Values = {"way": SUPPORT_WAYS[str(case.way)].lower()}
    nothing = Set("Hold nothing", {"supports.way": "none", "supports.material": None}, {})
    yield _found(case, recipe, context, "supports.way.needless", "supports.way", values, nothing)


def _generated(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    start, limit = recipe.supports.from_deg, case.borne.limit.value
    if start is None or not case.is_held or case.way == "built_in" or not case.needs:
        return
    off = start - limit
    right = float(round(limit))
    there = Set("Held from {from:angle}", {"supports.from_deg": right}, {"from": right})
    values: Values = {"set": start, "gap": abs(off)}
    if off < -SUPPORT["from_off"].value:
        yield _found(case, recipe, context, "supports.from.low", "supports.from_deg", values, there)
    elif off > SUPPORT["from_off"].value:
        shape = context.part.shape if context.part is not None else None
        places = shape.overhangs or () if shape is not None else ()
        between = sum(each.beyond(limit).area_mm2 - each.beyond(start).area_mm2 for each in places)
        if between > SUPPORT["small"].value:
            values["area"] = between / 100.0
            yield _found(case, recipe, context, "supports.from.high", "supports.from_deg", values, there)


def _gap(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    gap, layer = recipe.supports.gap_mm, recipe.melt.height_mm
    if gap is None or layer is None or case.way not in SAME or case.polymer is None:
        return
    layers, laid = whole_layers(gap, layer)
    usual = usual_gap(case.series, case.polymer)
    right = round(usual * layer, 4)
    there = Set("A gap of {layers:ratio} layers", {"supports.gap_mm": right}, {"layers": usual})
    series = Advice("Print a series of gaps", "Steps of one layer, taken off by hand: minutes and underside go here.")
    values: Values = {"gap_mm": gap, "layers": float(layers), "usual": usual, "layer": layer, "laid": laid}
    if layers < 1:
        values |= {"gap": 1.0 - gap / layer, "weld": "weld on"}
        yield _found(case, recipe, context, "supports.gap.fuses", "supports.gap_mm", values, there, series)
    elif layers < usual - 0.5 and welds_easily(case.polymer):
        values |= {"gap": (usual - layers) / usual, "weld": "may weld on; some shops take two, some three"}
        yield _found(
            case, recipe, context, "supports.gap.fuses", "supports.gap_mm", values, there, series, severity="watch"
        )
    elif layers > SUPPORT["gap_most"].value:
        values["gap"] = layers - SUPPORT["gap_most"].value
        yield _found(case, recipe, context, "supports.gap.sags", "supports.gap_mm", values, there, series)
    elif abs(gap - laid) > 0.02 * layer:
        whole = Set("A gap of {layers:ratio} layers", {"supports.gap_mm": laid}, {"layers": float(layers)})
        values["gap"] = abs(gap - laid) / layer
        yield _found(case, recipe, context, "supports.gap.not_whole", "supports.gap_mm", values, whole)


def _pair(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if case.way not in SECOND or case.polymer is None:
        return
    material, model = case.material, case.polymer
    machine = context.machine
    if machine is not None and not machine.two_feeds:
        is_told = machine.two_feeds is False
        feeds = "feeds one polymer" if is_told else "may feed one polymer only: that is not recorded"
        severity = "stop" if is_told else "watch"
        there = Advice("Hold it otherwise, or on another machine", "The table of ways says which are to be had here.")
        remedies = (*other_ways(case), there)
        values: Values = {"machine": machine.name, "feeds": feeds}
        yield _found(
            case, recipe, context, "supports.pair.one_feed", "machine.two_feeds", values, *remedies, severity=severity
        )
    if material is None:
        remedies = (*other_ways(case), turned(case))
        yield _found(case, recipe, context, "supports.pair.none", "supports.material", {}, *remedies)
        return
    outcome, said = bond_said(material, model), contradictions(material, model)
    words = "; ".join(f"{each.says} ({BONDS_AS[each.outcome]})" for each in said)
    if outcome in ("fuses", "falls"):
        values = {"outcome": words or BONDS_AS[outcome]}
        yield _found(case, recipe, context, "supports.pair.bad", "supports.material", values, *other_ways(case), COUPON)
    elif outcome is None or outcome == "coupon" or said:
        values = {"said": words or ("nobody has said" if outcome is None else BONDS_AS["coupon"])}
        yield _found(
            case, recipe, context, "supports.pair.untried", "supports.material", values, *other_ways(case), COUPON
        )
    air = air_of(recipe, context)
    if air > material.chamber_most_c:
        values = {"most": material.chamber_most_c, "air": float(round(air)), "gap": air - material.chamber_most_c}
        yield _found(
            case, recipe, context, "supports.pair.heat", "supports.material", values, *other_ways(case), turned(case)
        )


def _nozzles(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    material, nozzle = case.material, recipe.melt.nozzle_c
    window = nozzle_window(material, context) if material is not None else None
    if material is None or nozzle is None or window is None or case.way not in SECOND:
        return
    apart = max(window[0] - nozzle, nozzle - window[1], 0.0)
    if apart > SUPPORT["pair_k"].value:
        values: Values = {"low": window[0], "high": window[1], "nozzle": nozzle, "gap": apart}
        purge = Advice(
            "Park it cool, purge it well", "The nozzle that rests at its standby heat, a purge at each change."
        )
        remedies = (*other_ways(case), purge)
        yield _found(case, recipe, context, "supports.pair.nozzle", "supports.material", values, *remedies)


def _bath(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    material, model = case.material, case.polymer
    if material is None or model is None or not material.is_bath or case.way not in SECOND:
        return
    effect = material.does_to(model)
    if effect in ("dissolves", "cracks"):
        values: Values = {"effect": EFFECTS[effect]}
        yield _found(
            case, recipe, context, "supports.bath.attacks", "supports.material", values, *other_ways(case), turned(case)
        )
    elif effect != "safe":
        said = {None: "was never tried in it", "coupon": "is to be tried in it first", "swells": "swells in it"}[effect]
        ways = (*other_ways(case), IN_BATH)
        yield _found(case, recipe, context, "supports.bath.coupon", "supports.material", {"effect": said}, *ways)
    warm, limit = bath_heat(recipe, material, case.bath), bath_limit(model)
    if warm is not None and limit is not None and warm > limit:
        cooler = math.floor(min(limit, material.bath_c.low if material.bath_c is not None else limit))
        less = [Set("Bath at {cool:temperature}", {"supports.bath_c": float(cooler)}, {"cool": float(cooler)})]
        fits = material.bath_c is None or limit >= material.bath_c.low
        values = {"bath": warm, "limit": limit, "gap": warm - limit}
        remedies = (*(less if fits else ()), *other_ways(case), turned(case))
        yield _found(case, recipe, context, "supports.bath.softens", "supports.bath_c", values, *remedies)


def _tank(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """The bath that is chosen: whether it is the right one, still good, and has room."""
    material, bath, chosen = case.material, case.bath, case.chosen
    if material is None or not material.is_bath or case.way != "soluble":
        return
    others = tuple(
        Choose("Take {bath:text}", "bath", each.id, {"bath": each.name})
        for each in context.shop.baths
        if each.material == material.id and (bath is None or each.id != bath.id) and not _against(each, case, context)
    )
    new = Advice("Mix a new bath", "Stock, page Baths: its card says what goes in.")
    if bath is not None and bath.material != material.id:
        known = context.supplies.supports.get(bath.material or "")
        values: Values = {"bath": bath.name, "other": known.name if known is not None else "nobody knows what"}
        yield _found(case, recipe, context, "supports.bath.wrong", "context.bath", values, *others, new)
        return
    if bath is not None and (days := _past_days(bath, material, context)) > 0.0:
        values = {"bath": bath.name, "days": float(math.ceil(days)), "gap": days}
        yield _found(case, recipe, context, "supports.bath.stale", "context.bath", values, *others, new)
    if bath is not None and contents_of(bath).untold:
        values = {"bath": bath.name, "count": float(contents_of(bath).untold), "gap": float(contents_of(bath).untold)}
        yield _found(case, recipe, context, "supports.bath.untold", "context.bath", values, *others, new)
    if bath is not None:
        yield from _noted(bath, case, recipe, context, (*others, new))
    volume = bath.volume_ml if bath is not None else recipe.supports.bath_ml
    room = room_in(bath, volume, material)
    if chosen is None or volume is None or room is None or chosen.cost.on_part_g <= room.value:
        return
    grams, litre = chosen.cost.on_part_g, material.grams_per_l
    needed = math.ceil(grams / litre.value * 2.0) * 500.0 if litre is not None else volume
    batches = float(math.ceil(grams / litre.value / volume * 1e3)) if litre is not None else None
    values = {"grams": grams, "bath": volume, "takes": room.value, "gap": grams - room.value, "batches": batches}
    if bath is not None:
        yield _found(case, recipe, context, "supports.bath.full", "context.bath", values, *others, new)
    else:
        more = Set("A bath of {litres:volume}", {"supports.bath_ml": needed}, {"litres": needed})
        yield _found(case, recipe, context, "supports.bath.small", "supports.bath_ml", values, more)


def _noted(
    bath: Bath, case: SupportCase, recipe: Recipe, context: Context, remedies: tuple[Remedy, ...]
) -> Iterator[Finding]:
    """What nobody noted of the bath that is chosen, and whether it is kept as the recipe wants it."""
    for field, known, what in (
        ("mixed_utc", bath.mixed_utc, "when it was mixed"), ("volume_ml", bath.volume_ml, "how much it holds"),
    ):  # fmt: skip
        if not known:
            values: Values = {"bath": bath.name, "what": what}
            yield _found(case, recipe, context, "supports.bath.unnoted", f"bath.{field}", values, NOTE, *remedies)
    wanted, kept = recipe.supports.bath_c, bath.warm_c
    if wanted is not None and kept is not None and abs(wanted - kept) > SUPPORT["bath_off"].value:
        take = Set("Wash at {kept:temperature}", {"supports.bath_c": kept}, {"kept": kept})
        values = {"bath": bath.name, "wanted": wanted, "kept": kept, "gap": abs(wanted - kept)}
        yield _found(case, recipe, context, "supports.bath.kept", "supports.bath_c", values, take, NOTE)


def _against(bath: Bath, case: SupportCase, context: Context) -> bool:
    """Whether a bath is no better: past its time or of unknown age, or without room for this plate."""
    material = case.material
    if material is None or not bath.mixed_utc or contents_of(bath).untold:
        return True
    if _past_days(bath, material, context) > 0.0:
        return True
    room = room_in(bath, bath.volume_ml, material)
    return room is None or (case.chosen is not None and case.chosen.cost.on_part_g > room.value)


def _past_days(bath: Bath, material: SupportMaterial, context: Context) -> float:
    """How long a bath is past its time [d]; below nothing while it keeps."""
    if context.now is None or not bath.mixed_utc or material.keeps_d is None:
        return -1.0
    age = (context.now - datetime.fromisoformat(bath.mixed_utc)).total_seconds() / 86400.0
    return age - material.keeps_d.value


def _feet(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Supports that stand on too slender a foot, and tip."""
    if case.way not in STAND or recipe.plate.anchor in ("brim", "raft") or case.polymer is None:
        return
    glass = case.polymer.value("glass_transition_c")
    pulls = not case.polymer.is_glassy or glass is None or glass.value >= SUPPORT["foot_pulls"].value
    limit = SUPPORT["foot"].value * (SUPPORT["foot_warps"].value if pulls else 1.0)
    slender = [(slenderness_of(each, str(case.way)) or 0.0, each) for each in case.needs or ()]
    tall = sorted((each for each in slender if each[0] > limit), key=lambda each: -each[0])
    if not tall:
        return
    values = _first(tuple(need for _, need in tall)) | {"slender": tall[0][0], "most": limit, "gap": tall[0][0] - limit}
    wide = BOND["brim_usual"].value
    changes: dict[str, float | str | None] = {"plate.anchor": "brim", "plate.brim_mm": wide}
    brim = Set("A brim of {brim:length} round part and supports", changes, {"brim": wide})
    lean = Advice("Tie it to the part", "A bridge of one bead to the part half way up, cut with the rest.")
    yield _found(case, recipe, context, "supports.foot.tips", "plate.anchor", values, brim, lean, turned(case))


def _skins(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Skins that were drawn for another layer."""
    layer, part = recipe.melt.height_mm, context.part
    if layer is None or part is None or case.needs is None:
        return
    drawn = [each for each in part.decided if each.what == "skin" and each.layer_mm and each not in case.gone]
    for each in drawn:
        was = skin_layers(each.layer_mm or layer) * (each.layer_mm or layer)
        _, laid = whole_layers(was, layer)
        if abs(laid - was) > SUPPORT["skin_off"].value * was:
            values: Values = {"at": round(each.low_mm, 1), "was": was, "layer": layer, "laid": laid,
                              "layers": float(skin_layers(layer)), "gap": abs(laid - was)}  # fmt: skip
            anew = Advice(
                "Draw it {layers:ratio} layers thick, decide it anew", "On the page Places: it is kept with the layer.",
                {"layers": float(skin_layers(layer))},
            )  # fmt: skip
            yield _found(case, recipe, context, "supports.skin.moved", "part.decided", values, anew)
            return


def _contrast(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if case.way not in SECOND or recipe.supports.contrast is not False:
        return
    other = Advice("Take it in another colour", "Colour changes chemistry too: a coupon of the pair goes before it.")
    inspect = Advice("Inspect by touch and lamp", "It stands among the steps afterwards, with twice the minutes.")
    yield _found(case, recipe, context, "supports.residue.unseen", "supports.contrast", {}, other, inspect)


def _scars(case: SupportCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    part, chosen = context.part, case.chosen
    if part is None or chosen is None or not case.is_held or part.sides not in MATTERS or not chosen.cost.scar_mm2:
        return
    values: Values = {"area": chosen.cost.scar_mm2 / 100.0, "face": FACES[str(part.sides)].lower(),
                      "gap": chosen.cost.scar_mm2}  # fmt: skip
    clean = tuple(
        each for each in other_ways(case) if isinstance(each, Set) and each.changes["supports.way"] == "soluble"
    )
    finish = Advice("Leave stock there", "Half a millimetre to sand or machine, and say on the sheet which face.")
    yield _found(case, recipe, context, "supports.scar.matters", "supports.way", values, *clean, turned(case), finish)


_LOOKS: tuple[Callable[[SupportCase, Recipe, Context], Iterator[Finding]], ...] = (
    _places, _left, _needless, _generated, _gap, _pair, _nozzles, _bath, _tank, _feet, _skins,
    _contrast, _scars,
)  # fmt: skip
