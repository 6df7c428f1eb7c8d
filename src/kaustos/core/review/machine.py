"""Operation 30, Machine: can this machine carry the recipe's temperatures, and which part stops it?

Takes over: comparing what the polymer wants, what is set and what the machine's weakest part allows, zone by zone.
"""

import math
from collections.abc import Mapping

import attrs

from kaustos.core.records import KINDS, PART_TITLES, ZONES, Datum, Machine, Part, PassivePart, Polymer, Recipe
from kaustos.core.records.fields import value_at, with_value
from kaustos.core.review.contract import (
    GRADES,
    UNKNOWN,
    Absent,
    Advice,
    Cap,
    Caution,
    Choose,
    Context,
    Estimate,
    Figure,
    Finding,
    Missing,
    OperationReview,
    Remedy,
    Set,
    worst_first,
)
from kaustos.core.review.grading import standing_of
from kaustos.core.review.machine_codes import BY_CODE, CAPS, CODES, PASSIVE
from kaustos.core.review.money import at_stake, run_cost
from kaustos.core.review.reach import PLAUSIBLE_LOW_C, SPREAD_K, Limit, Reach, parts_of, reach_of

__all__ = ["CODES", "NUMBER", "MachinePicture", "picture", "review"]

NUMBER = 30
SETTINGS = {  # zone: field, title, whether it runs after the first layer
    "nozzle": (("melt.nozzle_c", "Nozzle", True), ("first_layer.nozzle_c", "Nozzle, first layer", False)),
    "plate": (("plate.bed_c", "Plate", True), ("first_layer.bed_c", "Plate, first layer", False)),
    "chamber": (("heat.chamber_c", "Chamber", True),),
}
SCHOOL_K = (5.0, 7.0, 10.0)  # the school "plate just below the glass transition": least, middle, most
HOT_CHAMBER_C = 60.0
_BLANK = Machine(id="")
_PARTS = tuple(f"{zone}.{name}" for zone in ZONES for name, _ in parts_of(getattr(_BLANK, zone)))
_VALUES = (
    *(f"{zone}_{end}_c" for zone in ZONES for end in ("low", "high")),
    "glass_transition_c",
    "decomposition_c",
)
_ASKED = 1 + 2 * len(_PARTS) + len(PASSIVE) + 5 + 2 + len(_VALUES)


@attrs.frozen
class Bar:
    """The limit of one part on the temperature axis, None where it is not recorded."""

    part: str
    title: str
    max_c: float | None
    basis: str | None
    fitted: bool | None
    rank: int  # 0 holds the zone back, 1 is the next behind it


@attrs.frozen
class ZonePicture:
    """One zone: its parts' limits, the polymer's window and what is set."""

    zone: str
    bars: tuple[Bar, ...]
    window_c: tuple[float, float] | None
    setpoint_c: float | None
    first_c: float | None
    reach_c: float | None


@attrs.frozen
class MachinePicture:
    """What holds each zone back, and by how much it misses the window."""

    zones: tuple[ZonePicture, ...]


@attrs.frozen
class _Zone:
    """What is judged together: one zone of a machine for one polymer."""

    name: str
    machine: Machine
    polymer: Polymer
    reach: Reach
    low: Datum
    high: Datum
    recipe: Recipe
    context: Context

    def settings(self) -> tuple[tuple[str, str, float], ...]:
        every = ((field, title, value_at(self.recipe, field)) for field, title, _ in SETTINGS[self.name])
        return tuple(setting for setting in every if setting[2] is not None)

    def actual_c(self, setpoint_c: float) -> float:
        return setpoint_c if self.reach.max_c is None else min(setpoint_c, self.reach.max_c)

    def wanted_c(self) -> float:
        """The lower end of the window, or the reach where that is lower, in whole kelvins."""
        return self.low.value if self.reach.max_c is None else min(self.low.value, math.floor(self.reach.max_c))


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the machine: window, reach and setpoint of every zone."""
    zones = _zones(recipe, context)
    findings = worst_first(_with_choices(recipe, context, _findings(zones)))
    missing = _missing(recipe, context)
    return OperationReview(
        NUMBER,
        standing_of(tuple(finding.severity for finding in findings), missing),
        _headline(zones, findings),
        _figures(recipe, context, zones),
        findings,
        _cautions(recipe, context),
        missing,
        _caps(zones, findings),
        _ASKED,
    )


def picture(recipe: Recipe, context: Context) -> MachinePicture:
    """The limits of every part of every zone, lowest first, against window and setpoints."""
    if context.machine is None:
        return MachinePicture(())
    zones = []
    for zone in ZONES:
        reach = reach_of(context.machine, zone, context.rules)
        order = {limit.part: rank for rank, limit in enumerate(reach.limits)}
        limits = {limit.part: limit for limit in reach.limits}
        bars = [
            Bar(
                name, limits[name].title if name in limits else PART_TITLES[name],
                limits[name].max_c if name in limits else None, part.basis, part.fitted,
                order.get(name, 99),
            )
            for name, part in parts_of(getattr(context.machine, zone))
        ]  # fmt: skip
        low, high = _window(context.polymer, zone)
        fields = SETTINGS[zone]
        zones.append(
            ZonePicture(
                zone,
                tuple(sorted(bars, key=lambda bar: bar.rank)),
                (low.value, high.value) if low and high else None,
                value_at(recipe, fields[0][0]),
                value_at(recipe, fields[1][0]) if len(fields) > 1 else None,
                reach.max_c,
            )
        )
    return MachinePicture(tuple(zones))


def _window(polymer: Polymer | None, zone: str) -> tuple[Datum | None, Datum | None]:
    if polymer is None:
        return None, None
    return polymer.value(f"{zone}_low_c"), polymer.value(f"{zone}_high_c")


def _zones(recipe: Recipe, context: Context) -> tuple[_Zone, ...]:
    machine, polymer = context.machine, context.polymer
    if machine is None or polymer is None:
        return ()
    zones = []
    for name in ZONES:
        low, high = _window(polymer, name)
        if low and high:
            reach = reach_of(machine, name, context.rules)
            zones.append(_Zone(name, machine, polymer, reach, low, high, recipe, context))
    return tuple(zones)


# ---- findings


def _findings(zones: tuple[_Zone, ...]) -> tuple[Finding, ...]:
    found: list[Finding] = []
    for zone in zones:
        for field, title, setpoint in zone.settings():
            found += _reach_findings(zone, field, title, setpoint)
            found += _below_window(zone, field, title, setpoint)
            found += _above_window(zone, field, title, setpoint)
            found += _POLYMER_FINDINGS[zone.name](zone, field, title, setpoint)
    return tuple(found)


def _finding(
    zone: _Zone, code: str, field: str, title: str, setpoint: float, remedies: tuple[Remedy, ...],
    values: Mapping[str, float | str], *, severity: str = "", spare_part: float | None = None,
) -> Finding:  # fmt: skip
    severity = severity or BY_CODE[code].severity
    every = {
        "setting": title,
        "setpoint": setpoint,
        "machine": zone.machine.name,
        "polymer": zone.polymer.name,
        **values,
    }
    cost = at_stake(run_cost(zone.recipe, zone.context), severity, spare_part)
    return Finding(code, severity, every, field, cost, remedies)


def _set(zone: _Zone, field: str, title: str, target: float) -> Set:
    """A remedy that names the shortfall it leaves, and takes plate or nozzle along where they would cross."""
    left = zone.low.value - target
    text = "Set {setting:setting} to {target:temperature}"
    values: dict[str, float | str] = {"setting": title, "target": target}
    if left > 0:
        text, values = text + ", {left:temperature_difference} below the window", {**values, "left": left}
    sibling = _sibling(zone, field, target)
    if sibling:
        text, values = text + ", {sibling:setting} too", {**values, "sibling": sibling[1]}
    changes = {field: target} | ({sibling[0]: target} if sibling else {})
    partners = {other: value for each in changes for other, value in _crossed_partner(zone, each, target).items()}
    if partners:
        text += ", {partner:setting} into its window"
        values["partner"] = "Nozzle" if zone.name == "plate" else "Plate"
    return Set(text, changes | partners, values)


def _sibling(zone: _Zone, field: str, target: float) -> tuple[str, str] | None:
    """The zone's other setting where it stands on the wrong side of the target as well."""
    setpoint = value_at(zone.recipe, field)
    for other, title, value in zone.settings():
        if other != field and setpoint is not None and (value > target) == (setpoint > target) and value != target:
            return other, title
    return None


_PARTNERS = {
    "plate.bed_c": ("melt.nozzle_c", "nozzle"),
    "first_layer.bed_c": ("first_layer.nozzle_c", "nozzle"),
    "melt.nozzle_c": ("plate.bed_c", "plate"),
    "first_layer.nozzle_c": ("first_layer.bed_c", "plate"),
}


def _crossed_partner(zone: _Zone, field: str, target: float) -> dict[str, float]:
    """The setting that must move too, lest the plate end up hotter than the nozzle."""
    if field not in _PARTNERS:
        return {}
    other, other_zone = _PARTNERS[field]
    value = value_at(zone.recipe, other)
    low, high = _window(zone.polymer, other_zone)
    if value is None or low is None or high is None:
        return {}
    nozzle, plate = (value, target) if other_zone == "nozzle" else (target, value)
    if nozzle >= plate:
        return {}
    return {other: _clipped(value, low.value, high.value, reach_of(zone.machine, other_zone, zone.context.rules).max_c)}


def _raise_reach(zone: _Zone) -> Advice:
    first, then = zone.reach.bottleneck, zone.reach.next
    assert first is not None, "asked only where the reach is known"
    values: dict[str, float | str] = {
        "bottleneck": first.title, "limit": first.max_c, "machine": zone.machine.name,
    }  # fmt: skip
    text = "It holds {machine:text} at {limit:temperature}."
    if then:
        text += " Behind it comes the {next:text} at {then:temperature}."
        values |= {"next": then.title, "then": then.max_c}
    text += " Changes to heaters, wiring or firmware are work for the maker or a licensed trade."
    return Advice("Have the {bottleneck:text} uprated", text, values)


def _reach_findings(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    reach = zone.reach
    liner_stop = zone.context.rules.liner_stop_c
    found = []
    if zone.name == "nozzle" and "liner" in reach.unknown and setpoint > liner_stop:
        look = Advice("Record whether the hot end is lined", "Look it up in the machine's papers, or ask its maker.")
        found.append(_finding(zone, "machine.nozzle.liner_unknown", field, title, setpoint, (look,), {}))
    bottleneck = reach.bottleneck
    if bottleneck is None or reach.low_c is None:
        return found
    spare = bottleneck.max_c - setpoint
    values: dict[str, float | str] = {"reach": bottleneck.max_c, "bottleneck": bottleneck.title}
    if spare < 0:
        code = PASSIVE.get((zone.name, bottleneck.part), f"machine.{zone.name}.beyond_reach")
        spare_part = bottleneck.price if code in PASSIVE.values() else None
        remedy = _set(zone, field, title, float(math.floor(bottleneck.max_c)))
        return [
            *found,
            _finding(zone, code, field, title, setpoint, (remedy,), values, spare_part=spare_part),
        ]
    weak = [limit for limit in reach.limits if limit.max_c - SPREAD_K[limit.basis] < setpoint]
    doubtful = next((limit for limit in weak if limit.basis in (None, "claimed")), None)
    if doubtful:
        found.append(_claimed(zone, field, title, setpoint, doubtful))
    if spare < zone.context.rules.headroom_k:
        lower = math.floor(bottleneck.max_c - zone.context.rules.headroom_k)
        lower_it = _set_unless_worse(zone, field, title, setpoint, float(lower))
        found.append(
            _finding(zone, f"machine.{zone.name}.no_headroom", field, title, setpoint,
                     _or_advice(zone, lower_it), {**values, "spare": spare})
        )  # fmt: skip
    return found


def _set_unless_worse(zone: _Zone, field: str, title: str, setpoint: float, target: float) -> tuple[Set, ...]:
    """The remedy, none where it would turn a shortfall into a stop."""
    before = _severity_of_gap(zone, zone.low.value - setpoint)
    after = _severity_of_gap(zone, zone.low.value - target)
    return (_set(zone, field, title, target),) if after in ("", before) else ()


def _or_advice(zone: _Zone, remedies: tuple[Set, ...]) -> tuple[Remedy, ...]:
    return remedies or (_raise_reach(zone),)


def _claimed(zone: _Zone, field: str, title: str, setpoint: float, limit: Limit) -> Finding:
    safe = float(math.floor(zone.reach.low_c or 0.0))
    prove = Advice("Prove the reach", "Heat in steps with a second sensor, staying by it, and record what it reached.")
    remedies: tuple[Remedy, ...] = (*_set_unless_worse(zone, field, title, setpoint, safe), prove)
    words = "only claimed" if limit.basis == "claimed" else "of unrecorded origin"
    return _finding(
        zone, f"machine.{zone.name}.reach_claimed", field, title, setpoint, remedies,
        {"bottleneck": limit.title, "basis": words, "safe": safe},
    )  # fmt: skip


def _severity_of_gap(zone: _Zone, gap_k: float) -> str:
    if not gap_k > 0:
        return ""
    return "watch" if gap_k <= zone.context.rules.reduced_within_k else "stop"


def _below_window(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    actual = zone.actual_c(setpoint)
    gap = zone.low.value - actual
    severity = _severity_of_gap(zone, gap)
    if not severity:
        return []
    wanted = zone.wanted_c()
    remedies: tuple[Remedy, ...] = (_set(zone, field, title, wanted),) if wanted > setpoint else ()
    if zone.reach.max_c is not None and zone.reach.max_c < zone.low.value:
        remedies += (_raise_reach(zone),)
    return [
        _finding(zone, f"machine.{zone.name}.below_window", field, title, setpoint, remedies,
                 {"actual": actual, "low": zone.low.value, "gap": gap}, severity=severity)
    ]  # fmt: skip


def _above_window(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    over = setpoint - zone.high.value
    if not over > 0:
        return []
    target = zone.actual_c(zone.high.value)
    code = f"machine.{zone.name}.above_window"
    return [
        _finding(zone, code, field, title, setpoint, (_set(zone, field, title, target),),
                 {"over": over, "high": zone.high.value})
    ]  # fmt: skip


def _nozzle_findings(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    found = _extrusion(zone, field, title, setpoint)
    decomposition = zone.polymer.value("decomposition_c")
    if decomposition and setpoint >= decomposition.low:
        hard = setpoint >= decomposition.value
        code = "machine.nozzle.decomposition" if hard else "machine.nozzle.near_decomposition"
        start = decomposition.value if hard else decomposition.low
        target = zone.actual_c(min(zone.high.value, math.ceil(decomposition.low) - 1.0))
        remedy = _set(zone, field, title, target)
        found.append(_finding(zone, code, field, title, setpoint, (remedy,), {"decomposition": start}))
    return found + _colder_than_plate(zone, field, title, setpoint)


def _extrusion(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    transition = zone.polymer.value("glass_transition_c")
    if transition is None or zone.polymer.structure != "amorphous":
        return []
    needed, actual = transition.value + zone.context.rules.extrusion_k, zone.actual_c(setpoint)
    if actual >= needed:
        return []
    can = zone.reach.max_c is None or zone.reach.max_c >= needed
    wanted = zone.wanted_c()
    remedies: tuple[Remedy, ...] = (_set(zone, field, title, wanted),) if can else (_raise_reach(zone),)
    return [
        _finding(
            zone,
            "machine.nozzle.cannot_extrude",
            field,
            title,
            setpoint,
            remedies,
            {"actual": actual, "needed": needed},
        )
    ]


def _colder_than_plate(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    plate_field = "plate.bed_c" if field == "melt.nozzle_c" else "first_layer.bed_c"
    plate_c = value_at(zone.recipe, plate_field)
    if plate_c is None or setpoint >= plate_c:
        return []
    changes = {}
    plate_low, plate_high = _window(zone.polymer, "plate")
    if plate_low and plate_high:
        reach = reach_of(zone.machine, "plate", zone.context.rules).max_c
        changes[plate_field] = _clipped(plate_c, plate_low.value, plate_high.value, reach)
    changes[field] = _clipped(setpoint, zone.low.value, zone.high.value, zone.reach.max_c)
    remedy = Set("Put nozzle and plate back into their windows, as far as the machine reaches", changes)
    return [_finding(zone, "machine.nozzle.below_plate", field, title, setpoint, (remedy,), {"plate": plate_c})]


def _clipped(value: float, low: float, high: float, reach: float | None) -> float:
    inside = min(max(value, low), high)
    return inside if reach is None else min(inside, float(math.floor(reach)))


def _plate_findings(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    return _above_transition(
        zone, field, title, setpoint,
        "machine.plate.above_glass_transition", "machine.plate.foot_sags", zone.context.rules.foot_sag_k,
    )  # fmt: skip


def _chamber_findings(zone: _Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    code = "machine.chamber.above_glass_transition"
    return _above_transition(zone, field, title, setpoint, code, code, 0.0)


def _above_transition(
    zone: _Zone, field: str, title: str, setpoint: float, mild: str, hard: str, hard_above_k: float
) -> list[Finding]:
    transition = zone.polymer.value("glass_transition_c")
    if transition is None or zone.polymer.structure != "amorphous":
        return []
    over = setpoint - transition.value
    if not over > 0:
        return []
    target = zone.actual_c(min(zone.high.value, math.floor(transition.value - SCHOOL_K[0])))
    code = hard if over > hard_above_k else mild
    return [_finding(zone, code, field, title, setpoint, (_set(zone, field, title, target),), {"over": over})]


_POLYMER_FINDINGS = {"nozzle": _nozzle_findings, "plate": _plate_findings, "chamber": _chamber_findings}


# ---- remedies that take another machine


def _with_choices(recipe: Recipe, context: Context, findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Offer each other machine of the shop to the findings that it takes away without a new stop."""
    if not any(finding.severity == "stop" for finding in findings):
        return findings
    stops = {(finding.code, finding.field) for finding in findings if finding.severity == "stop"}
    offers = [offer for offer in (_offer(recipe, context, machine, stops) for machine in _others(context)) if offer]
    if not offers:
        return findings
    return tuple(_offered(finding, offers) if finding.severity == "stop" else finding for finding in findings)


def _others(context: Context) -> tuple[Machine, ...]:
    present = context.machine.id if context.machine else None
    return tuple(machine for machine in context.shop.machines if machine.id != present)


def _offer(
    recipe: Recipe, context: Context, machine: Machine, stops: set[tuple[str, str]]
) -> tuple[Choose, set[tuple[str, str]]] | None:
    """Choosing the machine, with setpoints lifted into their windows; and what would still be found."""
    there = attrs.evolve(context, machine=machine)
    changes = _lifted(recipe, there)
    moved = recipe
    for field, value in changes.items():
        moved = with_value(moved, field, value)
    left = {(finding.code, finding.field) for finding in _findings(_zones(moved, there)) if finding.severity == "stop"}
    if left - stops or left == stops:
        return None
    title = "Move to {machine:text}" + (", setpoints into their windows" if changes else "")
    return Choose(title, "machine", machine.id, {"machine": machine.name}, changes), left


def _lifted(recipe: Recipe, context: Context) -> dict[str, float]:
    """Running and first-layer setpoints below the window, lifted to it where the machine reaches that."""
    changes = {}
    for zone in _zones(recipe, context):
        for field, _, setpoint in zone.settings():
            if setpoint < zone.wanted_c():
                changes[field] = zone.wanted_c()
    return changes


def _offered(finding: Finding, offers: list[tuple[Choose, set[tuple[str, str]]]]) -> Finding:
    curing = tuple(choose for choose, left in offers if (finding.code, finding.field) not in left)
    return attrs.evolve(finding, remedies=finding.remedies + curing) if curing else finding


# ---- caps, gaps of knowledge, figures, cautions


def _caps(zones: tuple[_Zone, ...], findings: tuple[Finding, ...]) -> tuple[Cap, ...]:
    caps = [Cap(finding.code, CAPS[finding.code]) for finding in findings if finding.code in CAPS]
    running = {field for settings in SETTINGS.values() for field, _, runs in settings if runs}
    short = [
        finding
        for finding in findings
        if finding.code in ("machine.nozzle.below_window", "machine.chamber.below_window") and finding.field in running
    ]
    for finding in short:
        deep = finding.severity == "stop" or len(short) > 1
        caps.append(Cap(finding.code, "decorative" if deep else "reduced"))
    return tuple(caps)


def _missing(recipe: Recipe, context: Context) -> tuple[Missing, ...]:
    missing = []
    for settings in SETTINGS.values():
        missing += [Missing(field, "no_go") for field, _, _ in settings if value_at(recipe, field) is None]
    for key in _VALUES:
        if context.polymer is None or context.polymer.value(key) is None:
            missing.append(Missing(f"polymer.{key}", "no_go"))
    machine = context.machine
    if machine is None:
        parts = [Missing(f"machine.{part}", "no_go") for part in _PARTS]
        for zone in ZONES:
            for name, part in parts_of(getattr(_BLANK, zone)):
                parts += _details_missing(zone, name, part)
        return (Missing("machine", "no_go"), *missing, *parts, *_money_missing(None))
    for zone in ZONES:
        for name in reach_of(machine, zone, context.rules).unknown:
            missing.append(Missing(f"machine.{zone}.{name}", _worst_of_part(recipe, zone, name)))
        for name, part in parts_of(getattr(machine, zone)):
            missing += _details_missing(zone, name, part)
    return (*missing, *_money_missing(machine))


def _details_missing(zone: str, name: str, part: Part) -> list[Missing]:
    """What a part's record leaves open beside its limit: where that is known from, what replacing it costs."""
    if part.fitted is False and part.max_c is None:
        return []
    details = ["basis"] if part.basis is None else []
    if isinstance(part, PassivePart) and part.price is None:
        details.append("price")
    if name == "liner" and part.fitted and part.max_c is None:
        details.append("max_c")  # judged by the hard stop until the liner's own limit is known
    return [Missing(f"machine.{zone}.{name}.{detail}", GRADES[-1], False) for detail in details]


def _money_missing(machine: Machine | None) -> tuple[Missing, ...]:
    names = [name for name in ("power_w", "rate_per_h") if machine is None or getattr(machine, name) is None]
    return tuple(Missing(f"machine.{name}", "functional", False) for name in names)


def _worst_of_part(recipe: Recipe, zone: str, name: str) -> str:
    """The worst grade that recording the part could bring, taking the lowest limit such a part is met with."""
    setpoints = [value_at(recipe, field) for field, _, _ in SETTINGS[zone]]
    lowest = PLAUSIBLE_LOW_C[f"{zone}.{name}"]
    return GRADES[0] if any(each is None or each > lowest for each in setpoints) else GRADES[-1]


def _gap(zone: _Zone) -> Estimate | None:
    """Window minus reach: positive is short, negative is to spare [K]."""
    reach = zone.reach
    if reach.max_c is None or reach.low_c is None:
        return None
    source = f"{zone.low.source}; {zone.machine.name}: {reach.limits[0].title}"
    return Estimate(
        zone.low.value - reach.max_c, zone.low.low - reach.max_c, zone.low.high - reach.low_c, "K",
        "lower end of the window − reach", source,
    )  # fmt: skip


def _headline(zones: tuple[_Zone, ...], findings: tuple[Finding, ...]) -> str:
    """The gap of the zone that is in the worst trouble, else of the one that has the least to spare."""
    if findings:
        return f"machine.{findings[0].code.split('.')[1]}.gap"
    gaps = [(gap.value, zone.name) for zone, gap in ((zone, _gap(zone)) for zone in zones) if gap]
    return f"machine.{max(gaps)[1]}.gap" if gaps else "machine.chamber.gap"


def _figures(recipe: Recipe, context: Context, zones: tuple[_Zone, ...]) -> tuple[Figure, ...]:
    by_name: Mapping[str, _Zone] = {zone.name: zone for zone in zones}
    figures = []
    for name in ZONES:
        figures += _zone_figures(name, by_name.get(name), context)
    return (*figures, _school(context), _decomposition_margin(recipe, context), _energy(recipe, context))


def _zone_figures(name: str, zone: _Zone | None, context: Context) -> list[Figure]:
    title = name.capitalize()
    low, high = _window(context.polymer, name)
    reach = zone.reach if zone else reach_of(context.machine, name, context.rules) if context.machine else None
    return [
        Figure(f"machine.{name}.gap", f"{title}: window minus reach", (_gap(zone) if zone else None) or UNKNOWN),
        Figure(f"machine.{name}.reach", f"{title}: reach", _reach_estimate(context, reach) or UNKNOWN),
        Figure(f"machine.{name}.bottleneck", f"{title}: held back by", _bottleneck_words(reach) or UNKNOWN),
        Figure(f"machine.{name}.window_low", f"{title}: window from", _of(low, "window of the polymer")),
        Figure(f"machine.{name}.window_high", f"{title}: window to", _of(high, "window of the polymer")),
    ]


def _of(datum: Datum | None, method: str) -> Estimate | Absent:
    if datum is None:
        return UNKNOWN
    return Estimate(datum.value, datum.low, datum.high, datum.unit, f"{method} ({KINDS[datum.kind]})", datum.source)


def _reach_estimate(context: Context, reach: Reach | None) -> Estimate | None:
    if reach is None or reach.bottleneck is None or reach.low_c is None or context.machine is None:
        return None
    high = reach.bottleneck.max_c + (SPREAD_K["proven"] if reach.bottleneck.basis == "proven" else 0.0)
    basis = reach.bottleneck.basis or "origin not recorded"
    source = f"{context.machine.name}: {reach.bottleneck.title}, {basis}"
    return Estimate(reach.bottleneck.max_c, reach.low_c, high, "°C", "lowest limit of the parts recorded", source)


def _bottleneck_words(reach: Reach | None) -> str | None:
    if reach is None or reach.bottleneck is None:
        return None
    words = reach.bottleneck.title
    return f"{words}, then {reach.next.title}" if reach.next else words


def _school(context: Context) -> Figure:
    transition = context.polymer.value("glass_transition_c") if context.polymer else None
    value: Estimate | Absent = UNKNOWN
    if transition and context.polymer and context.polymer.structure == "amorphous":
        least, middle, most = (transition.value - each for each in SCHOOL_K)
        value = Estimate(middle, most, least, "°C", "school: plate 5 to 10 K below the glass transition",
                         f"practice, estimate; glass transition: {transition.source}")  # fmt: skip
    return Figure("machine.plate.school", "Plate just below glass transition (a school)", value)


def _decomposition_margin(recipe: Recipe, context: Context) -> Figure:
    start = context.polymer.value("decomposition_c") if context.polymer else None
    hottest = [each for each in (recipe.melt.nozzle_c, recipe.first_layer.nozzle_c) if each is not None]
    value: Estimate | Absent = UNKNOWN
    if start and hottest:
        left, least, most = (each - max(hottest) for each in (start.value, start.low, start.high))
        method = f"start of decomposition ({KINDS[start.kind]}) − hottest nozzle setpoint"
        value = Estimate(left, least, most, "K", method, start.source)
    return Figure("machine.nozzle.to_decomposition", "Nozzle: left to decomposition", value)


def _energy(recipe: Recipe, context: Context) -> Figure:
    hours = recipe.brief.print_h
    power = context.machine.power_w if context.machine else None
    value: Estimate | Absent = UNKNOWN
    if hours is not None and power is not None:
        energy = power * hours / 1000.0
        value = Estimate(energy, 0.8 * energy, 1.2 * energy, "kWh", "mean power × hours (±20 %, estimate)",
                         "power in the machine record")  # fmt: skip
    return Figure("machine.run.energy", "Energy of the run", value)


def _cautions(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    cautions = [
        Caution(
            "machine.hot_surfaces",
            "Nozzle, plate and purged strings burn skin; let them cool or wear gloves fit for the heat.",
        )
    ]
    hottest_air = max(recipe.heat.chamber_c or 0.0, 0.0)
    if hottest_air >= HOT_CHAMBER_C:
        cautions.append(
            Caution(
                "machine.hot_chamber",
                "The chamber is hot enough to burn: keep its interlock closed, never reach in hot, never leave an "
                "added heater unattended, and keep an independent thermal cut-off.",
            )
        )
    if context.polymer:
        cautions.append(
            Caution(
                "machine.fumes",
                f"{context.polymer.name} gives off {context.polymer.emissions}, and fine particles. Extract outdoors "
                "first; the maker's data sheet and local rules decide.",
            )
        )
    liner = context.machine.nozzle.liner.fitted if context.machine else False
    if liner is not False and context.machine:
        cautions.append(
            Caution(
                "machine.fluoropolymer",
                "A fluoropolymer liner gives off toxic fumes when overheated, deadly to pet birds: stay below its hard "
                "stop, and keep birds away.",
            )
        )
    return tuple(cautions)
