"""How hot a zone of a machine can go: the lowest limit of its parts, and which part sets it."""

from typing import Any

import attrs

from kaustos.core.records import PART_TITLES, Machine, Part, PassivePart, Rules

SPREAD_K = {
    "proven": 3.0,
    "rated": 5.0,
    "claimed": 20.0,
    None: 20.0,
}  # estimate: how far short a part may fall
PLAUSIBLE_LOW_C = {  # estimates: the lowest limit such a part is met with, taken while it is not recorded
    "nozzle.heater": 230.0,
    "nozzle.sensor": 250.0,
    "nozzle.firmware": 230.0,
    "nozzle.liner": 240.0,
    "plate.heater": 60.0,
    "plate.sensor": 100.0,
    "plate.firmware": 60.0,
    "plate.magnet": 70.0,
    "plate.backing": 60.0,
    "chamber.heater": 30.0,
    "chamber.sensor": 60.0,
    "chamber.firmware": 40.0,
    "chamber.plastics": 50.0,
}


@attrs.frozen
class Limit:
    """What one part allows [°C]."""

    part: str
    title: str
    max_c: float
    basis: str | None
    price: float | None = None


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
        return min(limit.max_c - SPREAD_K[limit.basis] for limit in self.limits)

    @property
    def bottleneck(self) -> Limit | None:
        """The part that holds the zone back."""
        return self.limits[0] if self.limits else None

    @property
    def next(self) -> Limit | None:
        """The part that would hold it back after the bottleneck is gone."""
        return self.limits[1] if len(self.limits) > 1 else None


def parts_of(zone: Any) -> tuple[tuple[str, Part], ...]:
    """Name and record of each part of a zone, in the order in which they are declared."""
    return tuple((name, getattr(zone, name)) for name in _PART_NAMES[type(zone)])


_PART_NAMES = {
    type(zone): tuple(field.name for field in attrs.fields(type(zone)))
    for zone in (Machine(id="").nozzle, Machine(id="").plate, Machine(id="").chamber)
}


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
    for name, part in parts_of(getattr(machine, zone)):
        limit = _limit_of(zone, name, part, rules)
        if isinstance(limit, Limit):
            known.append(limit)
        elif limit is None:
            unknown.append(name)
    return Reach(tuple(sorted(known, key=lambda limit: limit.max_c)), tuple(unknown))


def _limit_of(zone: str, name: str, part: Part, rules: Rules) -> "Limit | bool | None":
    """The part's limit, True where the machine has no such part, None where it is not recorded."""
    if part.fitted is False and (zone, name) != ("chamber", "heater"):
        return True
    price = part.price if isinstance(part, PassivePart) else None
    if name == "liner" and part.fitted:
        rated = rules.liner_stop_c if part.max_c is None else part.max_c
        return Limit(name, PART_TITLES[name], min(rated, rules.liner_stop_c), part.basis or "rated", price)
    if part.max_c is None or part.fitted is None:
        return None
    title = PART_TITLES[name] if part.fitted else "lack of a heater"
    return Limit(name, title, part.max_c, part.basis, price)
