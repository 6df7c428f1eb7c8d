"""The cheapest set of changes that lets a machine do what is wanted; what is out of reach, and why."""

from collections.abc import Iterable, Mapping, Sequence

import attrs
import numpy as np

from kaustos.core.planning.reach import parts_of, reach_of
from kaustos.core.records import PART_TITLES, ZONES, Machine, Polymer, Rules, Upgrade
from kaustos.core.records.upgrade import GONE, RISKS

RISK = {risk: place + 1.0 for place, risk in enumerate(RISKS)}
UNKNOWN_RISK, UNKNOWN_PRICE = RISK["high"], 0.0
ALMOST = 1e-6


@attrs.frozen
class Blocked:
    """A part that stands in the way and that no change lifts far enough [°C]."""

    part: str  # zone.part
    wanted_c: float
    limit_c: float
    best_c: float | None  # the most that any change brings it to

    @property
    def title(self) -> str:
        """As a person says it."""
        zone, _, part = self.part.partition(".")
        return f"{zone}: {PART_TITLES[part]}"


@attrs.frozen
class Step:
    """One change of a plan, and what each zone comes to after it [°C]."""

    change: Upgrade
    reach_c: Mapping[str, float | None]


@attrs.frozen
class Plan:
    """What is to be changed, in order, with its bill."""

    steps: tuple[Step, ...]
    blocked: tuple[Blocked, ...]
    unknown: tuple[str, ...] = ()  # changes of the plan whose price or hours are not recorded

    @property
    def is_possible(self) -> bool:
        """Whether the catalogue has what it takes."""
        return not self.blocked

    @property
    def cost(self) -> float:
        """Price of all changes, as far as it is recorded [money]."""
        return sum(each.change.price or 0.0 for each in self.steps)

    @property
    def hours(self) -> float:
        """Hours of all changes, as far as they are recorded [h]."""
        return sum(each.change.hours or 0.0 for each in self.steps)

    @property
    def risk(self) -> float:
        """Risks of all changes added up: 1 for low, 2 for some, 3 for high [1]."""
        return sum(risk_of(each.change) for each in self.steps)


def risk_of(change: Upgrade) -> float:
    """The risk of a change as a number.

    Parameters
    ----------
    change : Upgrade
        One of the catalogue [-]

    Returns
    -------
    float
        1 for low, 2 for some, 3 for high and for one that is not recorded [1]
    """
    return RISK.get(change.risk or "", UNKNOWN_RISK)


def wanted_of(polymers: Iterable[Polymer]) -> dict[str, float]:
    """What polymers want of each zone.

    Parameters
    ----------
    polymers : iterable of Polymer
        Those that are to be run [°C]

    Returns
    -------
    dict of str to float
        The highest lower end of their windows by zone [°C]
    """
    wanted: dict[str, float] = {}
    for polymer in polymers:
        for zone in ZONES:
            low = polymer.value(f"{zone}_low_c")
            if low is not None:
                wanted[zone] = max(wanted.get(zone, low.value), low.value)
    return wanted


def short_parts(machine: Machine, wanted: Mapping[str, float], rules: Rules) -> dict[str, float]:
    """Every part whose limit stands below what is wanted of its zone.

    Parameters
    ----------
    machine : Machine
        As it stands [°C]
    wanted : mapping of str to float
        By zone [°C]
    rules : Rules
        Holds the hard stop of a lined hot end, and the room [°C]

    Returns
    -------
    dict of str to float
        Limit by zone and part [°C]
    """
    found = {}
    for zone, low in wanted.items():
        if low <= rules.room_c and zone == "chamber":
            continue
        for limit in reach_of(machine, zone, rules).limits:
            if limit.max_c < low - ALMOST:
                found[f"{zone}.{limit.part}"] = limit.max_c
    return found


def plan_of(machine: Machine, wanted: Mapping[str, float], catalogue: Sequence[Upgrade], rules: Rules) -> Plan:
    """The cheapest set of changes that lifts every part to what is wanted; of equal ones the quicker, then the safer.

    Parameters
    ----------
    machine : Machine
        As it stands [°C]
    wanted : mapping of str to float
        By zone [°C]
    catalogue : sequence of Upgrade
        Changes that can be made, each with what has to come first [-]
    rules : Rules
        Holds the hard stop of a lined hot end, and the room [°C]

    Returns
    -------
    Plan
        In the order in which it is carried out; without steps where a part cannot be lifted far enough [-]

    Notes
    -----
    A set cover with prerequisites, as three integer programmes one after the other: least price, of these the least
    hours, of these the least risk.

    References
    ----------
    Huangfu and Hall, the HiGHS solver, through SciPy.
    """
    mine = [each for each in catalogue if each.machine in (None, machine.id) and not each.whole and not each.retired]
    short = short_parts(machine, wanted, rules)
    lifting = {
        part: [each for each in mine if _lifted(each, part, rules) >= wanted[part.partition(".")[0]] - ALMOST]
        for part in short
    }
    blocked = tuple(
        Blocked(part, wanted[part.partition(".")[0]], limit, _best(mine, part, rules))
        for part, limit in short.items()
        if not lifting[part]
    )
    if blocked:
        return Plan((), blocked)
    chosen = _cheapest(mine, list(lifting.values()))
    if chosen is None:
        missing = tuple(Blocked(part, wanted[part.partition(".")[0]], limit, None) for part, limit in short.items())
        return Plan((), missing)
    steps, present = [], machine
    for each in _ordered(chosen):
        present = upgraded(present, each)
        steps.append(Step(each, {zone: reach_of(present, zone, rules).max_c for zone in ZONES}))
    unknown = tuple(each.name for each in chosen if each.price is None or each.hours is None)
    return Plan(tuple(steps), (), unknown)


def _lifted(change: Upgrade, part: str, rules: Rules) -> float:
    """What a part comes to by a change; a liner never above its hard stop [°C]."""
    limit = change.lifts.get(part, -GONE)
    return min(limit, rules.liner_stop_c) if part == "nozzle.liner" and limit < GONE else limit


def _best(catalogue: Sequence[Upgrade], part: str, rules: Rules) -> float | None:
    found = [_lifted(each, part, rules) for each in catalogue if part in each.lifts]
    return max(found, default=None)


def _cheapest(catalogue: Sequence[Upgrade], covers: Sequence[Sequence[Upgrade]]) -> tuple[Upgrade, ...] | None:
    """The set of changes with one of each cover and all that they need; None where what one needs is not there."""
    if not covers:
        return ()
    from scipy.optimize import Bounds, LinearConstraint, milp

    place = {each.id: at for at, each in enumerate(catalogue)}
    rows, least = [], []
    for cover in covers:
        row = np.zeros(len(catalogue))
        row[[place[each.id] for each in cover]] = 1.0
        rows.append(row)
        least.append(1.0)
    top = np.ones(len(catalogue))
    for each in catalogue:
        for need in each.needs:
            if need not in place:
                top[place[each.id]] = 0.0
                continue
            row = np.zeros(len(catalogue))
            row[place[need]], row[place[each.id]] = 1.0, -1.0
            rows.append(row)
            least.append(0.0)
    limits = [LinearConstraint(np.array(rows), np.array(least), np.inf)]
    taken = np.zeros(len(catalogue))
    for worth in (
        [each.price if each.price is not None else UNKNOWN_PRICE for each in catalogue],
        [each.hours or 0.0 for each in catalogue],
        [risk_of(each) for each in catalogue],
        [1.0] * len(catalogue),
    ):
        weights = np.array(worth)
        found = milp(weights, integrality=np.ones(len(catalogue)), bounds=Bounds(0.0, top), constraints=limits,
                     options={"mip_rel_gap": 0.0})  # fmt: skip
        if not found.success:
            return None
        taken = found.x
        limits.append(LinearConstraint(weights[None, :], -np.inf, found.fun + ALMOST * max(1.0, abs(found.fun))))
    return tuple(each for each, share in zip(catalogue, taken, strict=True) if share > 0.5)


def _ordered(chosen: Sequence[Upgrade]) -> list[Upgrade]:
    """What has to come first, first; else the safer and cheaper before the rest."""
    ids = {each.id for each in chosen}
    left = sorted(chosen, key=lambda each: (risk_of(each), each.price or 0.0, each.id))
    done: list[Upgrade] = []
    while left:
        taken = {each.id for each in done}
        ready = next((each for each in left if all(need in taken or need not in ids for need in each.needs)), left[0])
        left.remove(ready)
        done.append(ready)
    return done


def upgraded(machine: Machine, change: Upgrade) -> Machine:
    """The machine after a change: limits as rated, what was proven before it no longer counts.

    Parameters
    ----------
    machine : Machine
        Before [°C]
    change : Upgrade
        With the limits that it lifts [°C]

    Returns
    -------
    Machine
        After [°C]
    """
    for path, limit in change.lifts.items():
        zone_name, part_name = path.split(".")
        zone = getattr(machine, zone_name)
        if part_name not in dict(parts_of(zone)):
            continue
        part = getattr(zone, part_name)
        changes = {"fitted": True, "max_c": limit, "basis": "rated"}
        if limit >= GONE:
            changes = {"fitted": False, "max_c": None}
        machine = attrs.evolve(
            machine,
            **{zone_name: attrs.evolve(zone, **{part_name: attrs.evolve(part, **changes)})},
            heat_steps=tuple(each for each in machine.heat_steps if part_name != "heater" or each.zone != zone_name),
        )
    return machine
