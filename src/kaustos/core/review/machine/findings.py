"""What can be found against a zone: beyond its reach, outside its window, against the polymer."""

import math
from collections.abc import Mapping

import attrs

from kaustos.core.estimates import MACHINE
from kaustos.core.planning.reach import Limit, reach_through
from kaustos.core.records import Machine, Polymer
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import SEVERITIES, Absent, Advice, Finding, Remedy, Set
from kaustos.core.review.machine.codes import BY_CODE, PASSIVE
from kaustos.core.review.machine.nozzle_findings import poor_conductor
from kaustos.core.review.machine.remedies import (
    or_advice,
    raise_reach,
    set_to,
    set_unless_worse,
    severity_of_gap,
)
from kaustos.core.review.making import make_finding
from kaustos.core.review.zones import CHAMBER, NOWHERE, SCHOOL_K, SETTINGS, Zone, clipped, window_of

BELOW_RATING_K = MACHINE["below_rating"].value


def findings_of(zones: tuple[Zone, ...]) -> tuple[Finding, ...]:
    """Everything that can be found against the zones, one by one."""
    found: list[Finding] = []
    for zone in zones:
        found += _not_heated(zone)
        for field, title, setpoint in zone.settings():
            found += _reach_findings(zone, field, title, setpoint)
            found += _below_window(zone, field, title, setpoint)
            found += _above_window(zone, field, title, setpoint)
            if zone.polymer is not None:
                found += _POLYMER_FINDINGS[zone.name](zone, zone.polymer, field, title, setpoint)
    return tuple(found)


def joined(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """One slip in one number is one finding: running and first layer together where both are off the same way."""
    by_code: dict[str, list[Finding]] = {}
    for each in findings:
        by_code.setdefault(each.code, []).append(each)
    return tuple(_one_of(alike) for alike in by_code.values())


def _one_of(alike: list[Finding]) -> Finding:
    worst = min(alike, key=lambda each: (SEVERITIES.index(each.severity), -_how_far(each)))
    others = [each for each in alike if each is not worst]
    if not others:
        return worst
    also = "first layer" if worst.field.split(".")[0] != "first_layer" else "running"
    setting = f"{str(worst.values['setting']).split(',')[0]}, " + (
        "first layer too," if also == "first layer" else "first layer and running,"
    )
    return attrs.evolve(worst, values={**worst.values, "setting": setting}, remedies=_merged(worst, others))


def _merged(worst: Finding, others: list[Finding]) -> tuple[Remedy | Absent, ...]:
    """The remedies of the worst; one that the other has under the same title takes its changes along."""
    changes = {each.title: each.changes for other in others for each in other.remedies if isinstance(each, Set)}
    return tuple(
        attrs.evolve(each, changes={**changes.get(each.title, {}), **each.changes}) if isinstance(each, Set) else each
        for each in worst.remedies
    )


def _how_far(finding: Finding) -> float:
    """How far a finding is off, the larger the worse [K], or [°C] where only the setpoint tells."""
    for key, sign in (("gap", 1.0), ("over", 1.0), ("spare", -1.0)):
        if key in finding.values:
            return sign * float(finding.values[key])
    return float(finding.values.get("setpoint", 0.0))


def _not_heated(zone: Zone) -> list[Finding]:
    """A chamber that nothing but the plate warms: how far that falls short, and a setpoint that no panel takes."""
    if zone.is_heated:
        return []
    found = []
    title, setpoint = SETTINGS["chamber"][0][1], zone.recipe.heat.chamber_c
    gap = zone.short_k(zone.reach.max_c) if zone.reach.max_c is not None else 0.0
    severity = severity_of_gap(zone, gap)
    if severity and zone.low and zone.reach.max_c is not None:
        values: dict[str, float | str] = {"reach": zone.reach.max_c, "low": zone.low.value, "gap": gap}
        text = (
            "Close doors and vents and let the hot plate warm it for an hour before the first move; measure what it "
            "comes to. What is still missing asks for a machine that heats its chamber, or a polymer that does not."
        )
        close = Advice("Close it and warm it up first", text)
        code = "machine.chamber.not_heated"
        found.append(_finding(zone, code, CHAMBER, title, zone.reach.max_c, (close,), values, severity=severity))
    if setpoint is not None:
        take = Set("Take the chamber setpoint away", {CHAMBER: None})
        found.append(_finding(zone, "machine.chamber.no_setpoint", CHAMBER, title, setpoint, (take,), {}))
    return found


def _finding(
    zone: Zone, code: str, field: str, title: str, setpoint: float, remedies: tuple[Remedy, ...],
    values: Mapping[str, float | str], *, severity: str = "", spare_part: float | None = None,
) -> Finding:  # fmt: skip
    every = {"setting": title, "setpoint": setpoint, "machine": zone.machine_name, **values}
    return make_finding(
        BY_CODE[code], zone.recipe, zone.context, field, remedies, every, severity=severity, spare_part=spare_part
    )


def _reach_findings(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    reach = zone.reach
    liner_stop = zone.context.rules.liner_stop_c
    found = []
    if zone.name == "nozzle" and "liner" in reach.unknown and setpoint > liner_stop:
        words = "Look it up in the machine's papers, or ask its maker."
        look = Advice("Record whether the hot end is lined", words, field="machine.nozzle.liner")
        found.append(_finding(zone, "machine.nozzle.liner_unknown", field, title, setpoint, (look,), {}))
    bottleneck = reach.bottleneck
    if bottleneck is None or reach.low_c is None:
        return found
    spare = bottleneck.max_c - setpoint
    values: dict[str, float | str] = {"reach": bottleneck.max_c, "bottleneck": bottleneck.title}
    if spare < 0:
        code = PASSIVE.get((zone.name, bottleneck.part), f"machine.{zone.name}.beyond_reach")
        spare_part = bottleneck.price if code in PASSIVE.values() else None
        if bottleneck.part == "liner" and zone.machine and setpoint <= _signed_for_c(zone.machine):
            code, values["most"] = "machine.nozzle.liner_rated", _signed_for_c(zone.machine)
        room = zone.context.rules.headroom_k if bottleneck.part == "liner" else 0.0  # it is no place to regulate at
        remedy = set_to(zone, field, title, float(math.floor(bottleneck.max_c - room)))
        return [
            *found,
            _finding(zone, code, field, title, setpoint, (remedy,), values, spare_part=spare_part),
        ]
    found += _at_liner(zone, field, title, setpoint)
    weak = [limit for limit in reach.limits if limit.low_c < setpoint]
    doubtful = next((limit for limit in weak if limit.basis in (None, "claimed")), None)
    if doubtful:
        found.append(_claimed(zone, field, title, setpoint, doubtful))
    return found + _headroom(zone, field, title, setpoint)


def _at_liner(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    """A setpoint at the stop of a liner, or so close below it that the controller swings past."""
    liner = next((limit for limit in zone.reach.limits if limit.part == "liner"), None)
    room = zone.context.rules.headroom_k
    if liner is None or not 0.0 <= liner.max_c - setpoint < room:
        return []
    lower = set_unless_worse(zone, field, title, setpoint, float(math.floor(liner.max_c - room)))
    values: dict[str, float | str] = {"reach": liner.max_c, "spare": liner.max_c - setpoint, "bottleneck": liner.title}
    code = "machine.nozzle.liner_at_stop"
    return [_finding(zone, code, field, title, setpoint, or_advice(zone, lower), values, spare_part=liner.price)]


def _signed_for_c(machine: Machine) -> float:
    """Up to where a person may answer for a lined hot end: its rating less a distance, nothing where it has none."""
    liner = machine.nozzle.liner
    return 0.0 if liner.max_c is None or liner.basis not in ("rated", "proven") else liner.max_c - BELOW_RATING_K


def _headroom(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    """A heater at its end has nothing left to regulate with; a firmware cap, a sensor or a magnet just holds."""
    heater = next((limit for limit in zone.reach.limits if limit.part == "heater" and limit.heats), None)
    rule = zone.context.rules.headroom_k
    if heater is None or heater.max_c - setpoint >= rule:
        return []
    lower_it = set_unless_worse(zone, field, title, setpoint, float(math.floor(heater.max_c - rule)))
    values: dict[str, float | str] = {
        "reach": heater.max_c, "bottleneck": heater.title, "spare": heater.max_c - setpoint,
    }  # fmt: skip
    code = f"machine.{zone.name}.no_headroom"
    return [_finding(zone, code, field, title, setpoint, or_advice(zone, lower_it), values)]


def _claimed(zone: Zone, field: str, title: str, setpoint: float, limit: Limit) -> Finding:
    safe = float(math.floor(zone.reach.low_c or 0.0))
    prove = Advice("Prove the reach", "Heat in steps with a second sensor, staying by it, and record what it reached.")
    remedies: tuple[Remedy, ...] = (*set_unless_worse(zone, field, title, setpoint, safe), prove)
    words = "only claimed" if limit.basis == "claimed" else "of unrecorded origin"
    return _finding(
        zone, f"machine.{zone.name}.reach_claimed", field, title, setpoint, remedies,
        {"bottleneck": limit.title, "basis": words, "safe": safe},
    )  # fmt: skip


def _below_window(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    actual = zone.actual_c(setpoint)
    gap = zone.short_k(actual)
    severity = severity_of_gap(zone, gap)
    if not severity or zone.low is None:
        return []
    wanted = zone.wanted_c(zone.low.value)
    remedies: tuple[Remedy, ...] = (set_to(zone, field, title, wanted),) if wanted > setpoint else ()
    if zone.reach.max_c is not None and zone.reach.max_c < zone.low.value:
        remedies += (raise_reach(zone),)
    return [
        _finding(zone, f"machine.{zone.name}.below_window", field, title, setpoint, remedies,
                 {"actual": actual, "low": zone.low.value, "gap": gap}, severity=severity)
    ]  # fmt: skip


def _above_window(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    if zone.high is None or not setpoint > zone.high.value:
        return []
    over = setpoint - zone.high.value
    target = zone.actual_c(zone.high.value)
    code = f"machine.{zone.name}.above_window"
    return [
        _finding(zone, code, field, title, setpoint, (set_to(zone, field, title, target),),
                 {"over": over, "high": zone.high.value})
    ]  # fmt: skip


def _nozzle_findings(zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float) -> list[Finding]:
    found = _extrusion(zone, polymer, field, title, setpoint) + poor_conductor(zone, field, title, setpoint)
    decomposition = polymer.value("decomposition_c")
    if decomposition and setpoint >= decomposition.low:
        hard = setpoint > decomposition.high  # a melt stands it for minutes up to there
        code = "machine.nozzle.decomposition" if hard else "machine.nozzle.near_decomposition"
        start = decomposition.high if hard else decomposition.low
        target = zone.actual_c(_within_window(zone, math.ceil(decomposition.low) - 1.0))
        remedy = set_to(zone, field, title, target)
        found.append(_finding(zone, code, field, title, setpoint, (remedy,), {"decomposition": start}))
    return found + _colder_than_plate(zone, polymer, field, title, setpoint)


def _within_window(zone: Zone, target_c: float) -> float:
    return min(zone.high.value, target_c) if zone.high else target_c


def _extrusion(zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float) -> list[Finding]:
    needed, actual = _needed_to_extrude(zone, polymer), zone.actual_c(setpoint)
    if needed is None or actual >= needed:
        return []
    can = zone.reach.max_c is None or zone.reach.max_c >= needed
    wanted = zone.wanted_c(zone.low.value if zone.low else needed)
    remedies: tuple[Remedy, ...] = (set_to(zone, field, title, wanted),) if can else (raise_reach(zone),)
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


def _needed_to_extrude(zone: Zone, polymer: Polymer) -> float | None:
    """Melting point of a polymer that has one, else glass transition plus the shop's rule [°C]."""
    if polymer.structure == "semi_crystalline":
        melting = polymer.value("melting_c")
        return melting.value if melting else None
    transition = polymer.value("glass_transition_c")
    return transition.value + zone.context.rules.extrusion_k if transition else None


def _colder_than_plate(zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float) -> list[Finding]:
    plate_field = "plate.bed_c" if field == "melt.nozzle_c" else "first_layer.bed_c"
    plate_c = value_at(zone.recipe, plate_field)
    if plate_c is None or setpoint >= plate_c:
        return []
    changes = {}
    plate_low, plate_high = window_of(polymer, "plate", zone.context)
    if plate_low and plate_high:
        reach = reach_through(zone.machine, "plate", zone.context.rules, None) if zone.machine else NOWHERE
        changes[plate_field] = clipped(plate_c, plate_low.value, plate_high.value, reach.max_c)
    if zone.low and zone.high:
        changes[field] = clipped(setpoint, zone.low.value, zone.high.value, zone.reach.max_c)
    remedy = Set("Put nozzle and plate back into their windows, as far as the machine reaches", changes)
    return [_finding(zone, "machine.nozzle.below_plate", field, title, setpoint, (remedy,), {"plate": plate_c})]


def _plate_findings(zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float) -> list[Finding]:
    if not polymer.is_glassy:
        return _close_to_crystals(zone, polymer, field, title, setpoint, "machine.plate.near_melting", "melting_c")
    if field != "plate.bed_c":
        return []  # one hot layer, cooled before anything weighs on it, does not sag
    return _above_transition(
        zone, polymer, field, title, setpoint,
        "machine.plate.above_glass_transition", "machine.plate.foot_sags", zone.context.rules.foot_sag_k,
    )  # fmt: skip


def _chamber_findings(zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float) -> list[Finding]:
    found = _below_room(zone, field, title, setpoint)
    if not polymer.is_glassy:
        code = "machine.chamber.near_crystallisation"
        return found + _close_to_crystals(zone, polymer, field, title, setpoint, code, "crystallisation_c")
    code = "machine.chamber.above_glass_transition"
    return found + _above_transition(zone, polymer, field, title, setpoint, code, code, 0.0)


def _below_room(zone: Zone, field: str, title: str, setpoint: float) -> list[Finding]:
    room_c = zone.context.rules.room_c
    if setpoint >= room_c:
        return []
    values = {"room": room_c}
    remedy = set_to(zone, field, title, float(math.ceil(room_c)))
    return [_finding(zone, "machine.chamber.below_room", field, title, setpoint, (remedy,), values)]


def _close_to_crystals(
    zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float, code: str, key: str
) -> list[Finding]:  # fmt: skip
    """A crystallising polymer held so close to where its crystals melt or form that it stays soft."""
    mark = polymer.value(key)
    most = mark.value - zone.context.rules.crystals_k if mark else None
    if mark is None or most is None or setpoint <= most:
        return []
    target = zone.actual_c(_within_window(zone, float(math.floor(most))))
    return [
        _finding(zone, code, field, title, setpoint, (set_to(zone, field, title, target),),
                 {"mark": mark.value, "most": most})
    ]  # fmt: skip


def _above_transition(
    zone: Zone, polymer: Polymer, field: str, title: str, setpoint: float, mild: str, hard: str, hard_above_k: float
) -> list[Finding]:
    transition = polymer.value("glass_transition_c")
    if transition is None:
        return []
    over = setpoint - transition.value
    if not over > 0:
        return []
    target = zone.actual_c(_within_window(zone, math.floor(transition.value - SCHOOL_K[0])))
    code = hard if over > hard_above_k else mild
    return [_finding(zone, code, field, title, setpoint, (set_to(zone, field, title, target),), {"over": over})]


_POLYMER_FINDINGS = {"nozzle": _nozzle_findings, "plate": _plate_findings, "chamber": _chamber_findings}
