"""How hot a zone of a machine can go: the lowest limit of its parts, and which part sets it."""

from typing import Any

import attrs

from kaustos.core.estimates import MACHINE
from kaustos.core.memo import by_identity
from kaustos.core.planning.configuration import Proven, proven_of
from kaustos.core.records import PART_TITLES, Machine, Nozzle, Part, PassivePart, Rules
from kaustos.core.records.machine import HeaterPart, SensorPart

SPREAD_K = {basis: each.value for basis, each in MACHINE.group("short").items()}  # how far short a part may fall
SENSOR_C = {kind: each.value for kind, each in MACHINE.group("sensor").items()}
PLAUSIBLE_LOW_C = {part: each.value for part, each in MACHINE.group("lowest").items()}


def shortfall_k(basis: str | None) -> float:
    """How far a part may fall short of a limit that is known from somewhere.

    Parameters
    ----------
    basis : str or None
        proven, rated, claimed, or None where its origin is not recorded [-]

    Returns
    -------
    float
        Difference [K]
    """
    return SPREAD_K[basis or "unknown"]


@attrs.frozen
class Limit:
    """What one part allows [°C]."""

    part: str
    title: str
    max_c: float
    basis: str | None
    price: float | None = None
    held_c: float | None = None  # what was held step by step, where it was not the end
    heats: bool = True  # False where it stands for a heater that is not there

    @property
    def low_c(self) -> float:
        """What it allows even if it falls short of what is said of it; never less than what it has held [°C]."""
        low = self.max_c - shortfall_k(self.basis)
        return low if self.held_c is None else max(low, min(self.held_c, self.max_c))


@attrs.frozen
class Reach:
    """How hot a zone can go, lowest limit first."""

    limits: tuple[Limit, ...]  # ascending
    unknown: tuple[str, ...]  # parts that are not recorded

    @property
    def max_c(self) -> float | None:
        """The usable maximum [°C], None where no part is recorded."""
        return self.limits[0].max_c if self.limits else None

    @property
    def low_c(self) -> float | None:
        """What the zone reaches even if its parts fall short of what is said of them [°C]."""
        if not self.limits:
            return None
        return min(limit.low_c for limit in self.limits)

    @property
    def bottleneck(self) -> Limit | None:
        """The part that holds the zone back."""
        return self.limits[0] if self.limits else None

    @property
    def next(self) -> Limit | None:
        """The part that would hold it back after the bottleneck is gone."""
        return self.limits[1] if len(self.limits) > 1 else None


def is_chamber_heated(machine: Machine | None) -> bool:
    """Whether anything but the plate warms the air of a machine; taken to be so until it is recorded.

    Parameters
    ----------
    machine : Machine or None
        The machine as it stands [-]

    Returns
    -------
    bool
        False only where it is recorded that there is no heater [-]
    """
    return machine is None or machine.chamber.heater.fitted is not False


def parts_of(zone: Any) -> tuple[tuple[str, Part], ...]:
    """Name and record of each part of a zone, in the order in which they are declared."""
    return tuple((name, getattr(zone, name)) for name in _PART_NAMES[type(zone)])


_PART_NAMES = {
    type(zone): tuple(field.name for field in attrs.fields(type(zone)) if field.name != "extra")
    for zone in (Machine(id="").nozzle, Machine(id="").plate, Machine(id="").chamber)
}


@by_identity(4_096)
def reach_of(machine: Machine, zone: str, rules: Rules) -> Reach:
    """How hot a zone of a machine can go, and which part sets it.

    Parameters
    ----------
    machine : Machine
        The machine as it stands [-]
    zone : str
        nozzle, plate or chamber [-]
    rules : Rules
        Holds the hard stop of a lined hot end [°C]

    Returns
    -------
    Reach
        Limits in ascending order [°C], and the parts that are not recorded

    Notes
    -----
    A fluoropolymer liner never counts above its hard stop, whatever it is rated. A chamber without a heater
    reaches what the plate warms it to, recorded as the limit of the absent heater.
    """
    known, unknown = [], []
    heats = zone != "chamber" or is_chamber_heated(machine)
    proven = proven_of(machine, zone)
    for name, part in parts_of(getattr(machine, zone)):
        limit = _limit_of(zone, name, part, rules, proven, heats=heats)
        if isinstance(limit, Limit):
            known.append(limit)
        elif limit is None:
            unknown.append(name)
    return Reach(tuple(sorted(known, key=lambda limit: limit.max_c)), tuple(unknown))


def _as_heated(part: HeaterPart, proven: Proven | None) -> HeaterPart:
    """The heater by the best that is known of it: proven step by step, as recorded, by its nameplate, by claim."""
    if part.fitted is False:
        return part
    said = ((part.max_c, part.basis), (part.rated_c, "rated"), (part.claimed_c, "claimed"))
    most, basis = next(((each, basis) for each, basis in said if each is not None), (None, None))
    if proven is not None and (most is None or part.max_c is None or proven.is_end):
        most = proven.max_c if most is None or proven.is_end else max(most, proven.max_c)
    if proven is not None and most is not None and proven.max_c >= most:
        return attrs.evolve(part, max_c=most, basis="proven", fitted=True)
    return part if most is None else attrs.evolve(part, max_c=most, basis=basis)


def _limit_of(
    zone: str, name: str, part: Part, rules: Rules, proven: Proven | None, *, heats: bool
) -> "Limit | bool | None":  # fmt: skip
    """The part's limit, True where the machine has no such part, None where it is not recorded."""
    if part.fitted is False and (zone, name) != ("chamber", "heater"):
        return True
    if zone == "chamber" and name in ("sensor", "firmware") and not heats:
        return True  # nothing is set there
    price = part.price if isinstance(part, PassivePart) else None
    if isinstance(part, HeaterPart):
        part = _as_heated(part, proven)
    if isinstance(part, SensorPart) and part.max_c is None and part.kind and part.fitted is not False:
        part = attrs.evolve(part, max_c=SENSOR_C[part.kind], basis="rated", fitted=True)
    if name == "liner" and part.fitted:
        rated = rules.liner_stop_c if part.max_c is None else part.max_c
        return Limit(name, PART_TITLES[name], min(rated, rules.liner_stop_c), part.basis or "rated", price)
    if part.max_c is None or part.fitted is None:
        return None
    title = PART_TITLES[name] if part.fitted else "plate alone, no heater"
    held = proven.max_c if proven is not None and name == "heater" else None
    return Limit(name, title, part.max_c, part.basis, price, held, heats=part.fitted)


@by_identity(4_096)
def reach_through(machine: Machine, zone: str, rules: Rules, nozzle: Nozzle | None) -> Reach:
    """How hot a zone of a machine can go with a nozzle in it.

    Parameters
    ----------
    machine : Machine
        The machine as it stands [-]
    zone : str
        nozzle, plate or chamber [-]
    rules : Rules
        Holds the hard stop of a lined hot end [°C]
    nozzle : Nozzle or None
        What it stands counts in its zone [°C]

    Returns
    -------
    Reach
        Limits in ascending order [°C], and the parts that are not recorded
    """
    found = reach_of(machine, zone, rules)
    stands = nozzle.stands_c if nozzle and zone == "nozzle" else None
    if nozzle is None or stands is None:
        return found
    tip = Limit("tip", PART_TITLES["tip"], stands, "rated", nozzle.price)
    return Reach(tuple(sorted((*found.limits, tip), key=lambda limit: limit.max_c)), found.unknown)
