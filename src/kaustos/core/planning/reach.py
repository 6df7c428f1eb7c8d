"""How hot a zone of a machine can go: the lowest limit of its parts, and which part sets it."""

from typing import Any

import attrs

from kaustos.core.estimates import MACHINE
from kaustos.core.memo import by_identity
from kaustos.core.records import PART_TITLES, Machine, Part, PassivePart, Rules

SPREAD_K = {basis: each.value for basis, each in MACHINE.group("short").items()}  # how far short a part may fall
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
    heats: bool = True  # False where it stands for a heater that is not there


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
        return min(limit.max_c - shortfall_k(limit.basis) for limit in self.limits)

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
    for name, part in parts_of(getattr(machine, zone)):
        limit = _limit_of(zone, name, part, rules, heats=heats)
        if isinstance(limit, Limit):
            known.append(limit)
        elif limit is None:
            unknown.append(name)
    return Reach(tuple(sorted(known, key=lambda limit: limit.max_c)), tuple(unknown))


def _limit_of(zone: str, name: str, part: Part, rules: Rules, *, heats: bool) -> "Limit | bool | None":
    """The part's limit, True where the machine has no such part, None where it is not recorded."""
    if part.fitted is False and (zone, name) != ("chamber", "heater"):
        return True
    if zone == "chamber" and name in ("sensor", "firmware") and not heats:
        return True  # nothing is set there
    price = part.price if isinstance(part, PassivePart) else None
    if name == "liner" and part.fitted:
        rated = rules.liner_stop_c if part.max_c is None else part.max_c
        return Limit(name, PART_TITLES[name], min(rated, rules.liner_stop_c), part.basis or "rated", price)
    if part.max_c is None or part.fitted is None:
        return None
    title = PART_TITLES[name] if part.fitted else "plate alone, no heater"
    return Limit(name, title, part.max_c, part.basis, price, heats=part.fitted)
