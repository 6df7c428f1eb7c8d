"""Which places of a part want help, and what each way of helping takes in hours, filament, money and risk."""

import math
from collections.abc import Iterable
from itertools import pairwise

import attrs
import shapely

from kaustos.core.estimates import SUPPORT, WELD
from kaustos.core.records import Calibration, Decision, Estimate, Overhang, Shape, SupportMaterial
from kaustos.core.records.part import LEAST_LEAN_DEG

SORTS = {
    "begins": "begins in the air", "bridge": "ceiling", "out": "ledge", "slope": "slope",
    "asked": "place that is asked for",
}  # fmt: skip
SOURCE = "practice, estimate"


@attrs.frozen(kw_only=True)
class Bears:
    """What a polymer bears under a fan, without help."""

    limit: Estimate  # lean from upright [deg]
    bridge: Estimate  # between two holds [mm]
    out: Estimate  # from one hold [mm]


@attrs.frozen(kw_only=True)
class Need:
    """A place that wants help."""

    place: Overhang
    sort: str  # one of SORTS
    beyond: float  # by what share of what is borne: 1 just beyond, 2 as good as lost
    area_mm2: float  # of its faces beyond the limit
    flat_mm2: float  # seen from below
    column_mm3: float
    onto_mm2: float  # that stands on the part itself

    @property
    def is_certain(self) -> bool:
        """Whether it is lost without help."""
        return self.sort == "begins" or self.beyond >= 2.0

    @property
    def loss(self) -> float:
        """Chance that the part is lost without help [1]."""
        if self.sort in ("begins", "asked"):
            return SUPPORT["loss_begins"].value if self.sort == "begins" else 0.0
        rise = SUPPORT["loss_rise"].value * max(self.beyond - 1.0, 0.0)
        return min(SUPPORT["loss_begins"].value, SUPPORT["loss_at"].value + rise)


@attrs.frozen(kw_only=True)
class Shop:
    """What a minute, an hour and a gram cost, and how fast filament is laid."""

    wage_per_h: float
    machine_per_h: float
    price_per_kg: float
    density_g_cm3: float
    flow_mm3_s: float
    layer_mm: float
    run: float  # what a lost run costs [money]


@attrs.frozen(kw_only=True)
class Cost:
    """What one way takes for all places together."""

    attended_min: float
    machine_h: float
    grams: float  # of supports, purge with it
    scar_mm2: float  # faces that were touched
    risk: float  # chance that the part is lost [1]
    money: float  # filament, hours, work, risk
    low_mm: float = 0.0  # by which ceilings come out low
    purge_g: float = 0.0  # of the filament: into the purge, not onto the part
    changes: int = 0
    pauses: tuple[float, ...] = ()  # heights [mm]

    @property
    def on_part_g(self) -> float:
        """What is to come off [g]."""
        return self.grams - self.purge_g


def bears(fan_pct: float | None, measured: Calibration | None = None) -> Bears:
    """What grows over air without help.

    Parameters
    ----------
    fan_pct : float or None
        Part fan; None counts as still [%]
    measured : Calibration or None
        The shop's own coupon: ``limit_deg`` from upright, with ``fan_pct`` [deg, %]

    Returns
    -------
    Bears
        Lean, bridge and ledge with their bands [deg, mm]

    Notes
    -----
    A coupon holds at its own fan; elsewhere it is moved as a fan moves the usual limit.

    Examples
    --------
    >>> bears(100.0).limit.value
    63.0
    """
    fan = (fan_pct or 0.0) / 100.0
    base, more = WELD["overhang"], WELD["fan_overhang"]
    value = base.value + more.value * fan
    low, high = base.low + more.low * fan, base.high + more.high * fan
    limit = Estimate(value, low, high, "°", "usual limit, moved by the fan", SOURCE)
    own = measured.values.get("limit_deg") if measured is not None and measured.is_valid else None
    if own is not None and measured is not None:
        moved = own + more.value * (fan - measured.values.get("fan_pct", fan_pct or 0.0) / 100.0)
        half = SUPPORT["coupon_off"].value + SUPPORT["coupon_moved"].value * abs(moved - own)
        moved = max(moved, LEAST_LEAN_DEG)
        limit = Estimate(moved, moved - half, moved + half, "°", "own coupon, moved by the fan", "own coupon")
    bridge, wider = SUPPORT["bridge"], SUPPORT["bridge_fan"]
    span, short, long = (getattr(bridge, end) + getattr(wider, end) * fan for end in ("value", "low", "high"))
    out = SUPPORT["out"]
    return Bears(
        limit=limit, bridge=Estimate(span, short, long, "mm", "usual bridge, moved by the fan", SOURCE),
        out=Estimate(out.value, out.low, out.high, "mm", "usual ledge", SOURCE),
    )  # fmt: skip


def needs_of(shape: Shape, borne: Bears, decided: tuple[Decision, ...] = ()) -> tuple[Need, ...]:
    """The places of a part that want help, the worst first.

    Parameters
    ----------
    shape : Shape
        Whose overhangs were looked for [mm]
    borne : Bears
        What needs none [deg, mm]
    decided : tuple of Decision
        On some of its places: one that is to be held is held in any case, one that is left or drawn is not [mm]

    Returns
    -------
    tuple of Need
        Each with what of it is beyond [mm^2, mm^3]
    """
    found = []
    for place in shape.overhangs or ():
        what = decision_on(place, decided)
        if what is not None and what.what == "skin":
            found.append(_need(skinned(place), borne))
        elif what is None or what.what not in ("leave", "drawn"):
            found.append(_need(place, borne) or (_asked(place) if what is not None and what.what == "hold" else None))
    return tuple(sorted((each for each in found if each is not None), key=lambda each: -each.loss))


def asked_for(needs: tuple[Need, ...], decided: tuple[Decision, ...]) -> tuple[Need, ...]:
    """Places that somebody decided to hold.

    Parameters
    ----------
    needs : tuple of Need
        Of a part [-]
    decided : tuple of Decision
        On its places [mm]

    Returns
    -------
    tuple of Need
        Those of them [-]
    """
    newest = ((each, decision_on(each.place, decided)) for each in needs)
    return tuple(each for each, what in newest if what is not None and what.what == "hold")


def left_of(shape: Shape, borne: Bears, decided: tuple[Decision, ...]) -> tuple[tuple[Need, Decision], ...]:
    """Places that want help and are left free, with who decided why.

    Parameters
    ----------
    shape : Shape
        Whose overhangs were looked for [mm]
    borne : Bears
        What needs none [deg, mm]
    decided : tuple of Decision
        On some of its places [mm]

    Returns
    -------
    tuple of Need and Decision
        The worst first [mm^2]
    """
    found = []
    for place in shape.overhangs or ():
        what, need = decision_on(place, decided), _need(place, borne)
        if what is not None and what.what == "leave" and need is not None:
            found.append((need, what))
    return tuple(sorted(found, key=lambda each: -each[0].loss))


def reach_of(need: Need) -> str:
    """Who comes to a place.

    Parameters
    ----------
    need : Need
        With what was seen on the grid [1]

    Returns
    -------
    str
        reached by a tool, unreached by it, or closed even to a bath [-]
    """
    least = SUPPORT["reached"].value
    if need.place.open < least:
        return "closed"
    return "reached" if need.place.reached >= least else "unreached"


def decision_on(place: Overhang, decided: tuple[Decision, ...]) -> Decision | None:
    """What was decided on a place.

    Parameters
    ----------
    place : Overhang
        Of a part [mm]
    decided : tuple of Decision
        On places of it [mm]

    Returns
    -------
    Decision or None
        The newest, None where nothing was [-]
    """
    return next((each for each in reversed(decided) if each.is_on(place)), None)


def width_of(place: Overhang) -> float:
    """How wide a place is where it is narrowest, seen from below.

    Parameters
    ----------
    place : Overhang
        With its outline [mm]

    Returns
    -------
    float
        Short side of the least rectangle round it [mm]
    """
    if len(place.outline) < 3:
        return 0.0
    around = shapely.minimum_rotated_rectangle(shapely.Polygon(place.outline))
    corners = shapely.get_coordinates(around)
    if len(corners) < 4:
        return 0.0
    return min(math.dist(a, b) for a, b in pairwise(corners[:3]))


def skinned(place: Overhang) -> Overhang:
    """A ledge round a hole with a thin skin across: a ceiling from wall to wall, the hole drilled open afterwards.

    Parameters
    ----------
    place : Overhang
        As it is without [mm]

    Returns
    -------
    Overhang
        As it is with a skin [mm]
    """
    return attrs.evolve(place, begins=False, out_mm=0.0, span_mm=max(width_of(place), place.span_mm))


def skin_layers(layer_mm: float) -> int:
    """How many layers a skin takes that is drilled open.

    Parameters
    ----------
    layer_mm : float
        Of a layer [mm]

    Returns
    -------
    int
        Whole layers, at least one [-]

    Examples
    --------
    >>> skin_layers(0.2), skin_layers(0.6)
    (2, 1)
    """
    return max(round(SUPPORT["skin"].value / layer_mm), 1)


def slenderness_of(need: Need, way: str) -> float | None:
    """How slender the support under a place is: its height over the least width of its foot.

    Parameters
    ----------
    need : Need
        Place with its outline [mm]
    way : str
        One of SUPPORT_WAYS; branches stand on less [-]

    Returns
    -------
    float or None
        None where it stands on the part itself, or its outline is not known [1]
    """
    width = width_of(need.place) * (SUPPORT["touch_branches"].value if way == "branches" else 1.0)
    if width <= 0.0 or need.onto_mm2 > 0.5 * need.flat_mm2:
        return None
    return need.place.low_mm / width


def _asked(place: Overhang) -> Need:
    """A place that is held because somebody wants it."""
    every = place.beyond(0.0)
    return Need(
        place=place, sort="asked", beyond=0.0, area_mm2=every.area_mm2, flat_mm2=every.flat_mm2,
        column_mm3=every.column_mm3, onto_mm2=every.onto_mm2,
    )  # fmt: skip


def _need(place: Overhang, borne: Bears) -> Need | None:
    over = place.beyond(borne.limit.value)
    ways: list[tuple[float, str]] = []
    ceilings = sum(each.area_mm2 for each in place.steps if each.angle_deg >= 89.0)
    if place.begins:
        ways.append((9.0, "begins"))
    if place.out_mm > borne.out.value:
        ways.append((min(place.out_mm / borne.out.value, 9.0), "out"))
    if place.span_mm > borne.bridge.value:
        ways.append((1.0 + (place.span_mm / borne.bridge.value - 1.0) / (SUPPORT["sags"].value - 1.0), "bridge"))
    slope = max((each.angle_deg for each in place.steps if each.angle_deg < 89.0), default=0.0)
    sloping = over.area_mm2 - ceilings if ceilings < over.area_mm2 else 0.0
    if slope > borne.limit.value and sloping > SUPPORT["small"].value:
        ways.append((1.0 + (slope - borne.limit.value) / SUPPORT["slope_lost"].value, "slope"))
    if not ways or (over.area_mm2 < SUPPORT["small"].value and not place.begins):
        return None
    beyond, sort = max(ways)
    return Need(
        place=place, sort=sort, beyond=beyond, area_mm2=over.area_mm2, flat_mm2=over.flat_mm2,
        column_mm3=over.column_mm3, onto_mm2=over.onto_mm2,
    )  # fmt: skip


def whole_layers(gap_mm: float, layer_mm: float) -> tuple[int, float]:
    """The whole number of layers nearest to a gap, and its height.

    Parameters
    ----------
    gap_mm : float
        Wanted [mm]
    layer_mm : float
        Of a layer [mm]

    Returns
    -------
    tuple of int and float
        Layers, and the gap that is laid [-, mm]

    Examples
    --------
    >>> whole_layers(0.5, 0.2)
    (2, 0.4)
    """
    layers = math.floor(gap_mm / layer_mm + 0.5 - 1e-9)
    return layers, round(layers * layer_mm, 6)


def pauses_of(needs: Iterable[Need], layer_mm: float, first_mm: float) -> tuple[float, ...]:
    """Heights at which a contact is coated: the top of the last layer of support under each ceiling.

    Parameters
    ----------
    needs : iterable of Need
        Places [mm]
    layer_mm : float
        Of a layer [mm]
    first_mm : float
        Of the first one [mm]

    Returns
    -------
    tuple of float
        Rising, whole layers over the plate, each once [mm]

    Notes
    -----
    A slope is touched by every layer of it; it counts as the heights of its lowest and its highest face.
    """
    found = set()
    for need in needs:
        heights = {need.place.low_mm, need.place.high_mm} if need.sort == "slope" else {need.place.low_mm}
        for height in heights:
            layers = max(round((height - first_mm) / layer_mm), 0)
            found.add(round(first_mm + layers * layer_mm, 6))
    return tuple(sorted(found))


def cost_of(
    way: str, needs: tuple[Need, ...], shop: Shop, filled: float | None, material: SupportMaterial | None,
    *, contact_only: bool, first_mm: float, copies: float = 1.0, gap_mm: float = 0.0,
) -> Cost:  # fmt: skip
    """What one way takes.

    Parameters
    ----------
    way : str
        One of SUPPORT_WAYS [-]
    needs : tuple of Need
        Places that want help [mm^2, mm^3]
    shop : Shop
        What everything costs [money]
    filled : float or None
        Share of supports that is filled, usual for None [1]
    material : SupportMaterial or None
        Second polymer [money/kg]
    contact_only : bool
        Whether it is only in the layers that touch [-]
    first_mm : float
        First layer [mm]
    copies : float
        Parts on the plate: they share changes and pauses, nothing else [-]
    gap_mm : float
        Between part and supports of its own polymer [mm]

    Returns
    -------
    Cost
        Minutes of work, hours, grams, money, risk [min, h, g, money, 1]
    """
    if way == "none" or not needs:
        return _without(needs, shop)
    flat = copies * sum(each.flat_mm2 for each in needs)
    touched = flat + copies * sum(each.onto_mm2 for each in needs)
    dense = flat * SUPPORT["contact"].value
    grid = copies * sum(each.column_mm3 for each in needs) * (SUPPORT["filled"].value if filled is None else filled)
    thin = SUPPORT["branches"].value if way == "branches" else 1.0
    volume = grid * thin + dense
    touches = SUPPORT["touch_branches"].value if way == "branches" else 1.0
    off = max(SUPPORT["off_min"].value * touched * touches / 100.0, SUPPORT["off_least"].value * len(needs) * copies)
    grams = volume * shop.density_g_cm3 / 1e3
    hours, price, changes = volume / shop.flow_mm3_s / 3600.0, shop.price_per_kg, 0
    pauses: tuple[float, ...] = ()
    minutes, extra, purge = off, 0.0, 0.0
    risk = SUPPORT["lost_branches" if way == "branches" else "lost_grid"].value
    if way == "built_in":
        minutes += SUPPORT["draw_min"].value
    if way in ("breakaway", "soluble"):
        layers = _layers_of(needs, shop.layer_mm, first_mm, contact_only=contact_only)
        changes = 2 * layers
        hours += changes * SUPPORT["change_s"].value / 3600.0
        purge = changes * SUPPORT["change_g"].value
        grams += purge
        price = material.price_per_kg.value if material is not None else price
        risk = SUPPORT["lost_pair"].value
        minutes = off * SUPPORT["off_pair"].value
    if way == "soluble":
        minutes = SUPPORT["clean_min"].value
        risk += SUPPORT["lost_bath"].value
        taken = material.grams_per_l.value if material is not None and material.grams_per_l is not None else 15.0
        extra = SUPPORT["agent_l"].value * max((grams - purge) / taken, 1.0)
    if way == "coat":
        pauses = pauses_of(needs, shop.layer_mm, first_mm)
        hours += len(pauses) * SUPPORT["pause_min"].value / 60.0
        minutes = off * SUPPORT["off_pair"].value + len(pauses) * SUPPORT["pause_min"].value
        risk = 1.0 - (1.0 - SUPPORT["lost_coat"].value) ** len(pauses)
    money = grams / 1e3 * price + hours * shop.machine_per_h + minutes / 60.0 * shop.wage_per_h
    return Cost(
        attended_min=minutes, machine_h=hours, grams=grams, scar_mm2=0.0 if way == "soluble" else touched, risk=risk,
        money=money + again(risk) * shop.run + extra, changes=changes, pauses=pauses,
        purge_g=purge, low_mm=SUPPORT["gap_seen"].value * gap_mm if way in ("grid", "branches", "built_in") else 0.0,
    )  # fmt: skip


def again(risk: float) -> float:
    """How often a run is lost until one is good.

    Parameters
    ----------
    risk : float
        Chance that a run is lost [1]

    Returns
    -------
    float
        Lost runs, on average [-]

    Examples
    --------
    >>> again(0.5)
    1.0
    """
    kept = max(1.0 - risk, SUPPORT["least_kept"].value)
    return (1.0 - kept) / kept


def _without(needs: tuple[Need, ...], shop: Shop) -> Cost:
    """What it costs to hold nothing: the chance that the part is lost."""
    lost = 1.0 - math.prod(1.0 - each.loss for each in needs)
    sags = SUPPORT["hung"].value * max((each.place.span_mm for each in needs), default=0.0)
    return Cost(
        attended_min=0.0, machine_h=0.0, grams=0.0, scar_mm2=0.0, risk=lost, money=again(lost) * shop.run, low_mm=sags
    )  # fmt: skip


def _layers_of(needs: tuple[Need, ...], layer_mm: float, first_mm: float, *, contact_only: bool) -> int:
    """Layers in which both polymers are laid: places at one height share theirs."""
    taken: set[int] = set()
    for need in needs:
        top = max(round((need.place.high_mm - first_mm) / layer_mm), 1)
        low = max(round((need.place.low_mm - first_mm) / layer_mm), 1)
        touching = max(round(SUPPORT["contact"].value / layer_mm), 1)
        bottom = max(low - touching, 0) if contact_only else 0
        taken.update(range(bottom, top))
    return len(taken)
