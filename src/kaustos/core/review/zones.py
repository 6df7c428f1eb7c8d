"""The zones of a machine as they are judged: window, reach and setpoints together."""

import math

import attrs

from kaustos.core.estimates import MACHINE
from kaustos.core.planning.pairing import statement_of
from kaustos.core.planning.reach import Reach, is_chamber_heated, reach_through
from kaustos.core.records import ZONES, Agent, Datum, Machine, PlateItem, Polymer, Recipe, Surface
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import Context

WEARS = MACHINE["wears_much"].value

SETTINGS = {  # zone: field, title, whether it runs after the first layer
    "nozzle": (("melt.nozzle_c", "Nozzle", True), ("first_layer.nozzle_c", "Nozzle, first layer", False)),
    "plate": (("plate.bed_c", "Plate", True), ("first_layer.bed_c", "Plate, first layer", False)),
    "chamber": (("heat.chamber_c", "Chamber", True),),
}
CHAMBER = "heat.chamber_c"
PAIR_K = 5.0  # how sure the ends of a pair's window are
NOWHERE = Reach((), ())  # of a machine that is not known
SCHOOL_K = MACHINE["below_transition"].band  # the school "plate just below the glass transition"


@attrs.frozen
class Zone:
    """What is judged together: one zone of a machine for one polymer, as far as either is recorded."""

    name: str
    machine: Machine | None
    polymer: Polymer | None
    reach: Reach
    low: Datum | None
    high: Datum | None
    recipe: Recipe
    context: Context

    @property
    def is_heated(self) -> bool:
        """Whether a panel takes a setpoint for it, as far as is known."""
        return self.name != "chamber" or is_chamber_heated(self.machine)

    @property
    def machine_name(self) -> str:
        """How the machine is called."""
        return self.machine.name if self.machine else ""

    def settings(self) -> tuple[tuple[str, str, float], ...]:
        """Field, title and setpoint [°C] of what is set, where anything heats to it."""
        if not self.is_heated:
            return ()
        every = ((field, title, value_at(self.recipe, field)) for field, title, _ in SETTINGS[self.name])
        return tuple(setting for setting in every if setting[2] is not None)

    def short_k(self, actual_c: float) -> float:
        """How far a temperature stays below the window, 0 where it does not or the window is not known."""
        return max(0.0, self.low.value - actual_c) if self.low else 0.0

    def actual_c(self, setpoint_c: float) -> float:
        return setpoint_c if self.reach.max_c is None else min(setpoint_c, self.reach.max_c)

    def over_reach_k(self) -> float:
        """How far the hottest setpoint stands over the reach, 0 where it does not."""
        reach = self.reach.max_c
        return (
            0.0 if reach is None else max((each - reach for _, _, each in self.settings() if each > reach), default=0.0)
        )

    def wanted_c(self, low_c: float) -> float:
        """The lower end of the window, or the reach where that is lower, in whole kelvins."""
        return low_c if self.reach.max_c is None else min(low_c, math.floor(self.reach.max_c))


def window_of(polymer: Polymer | None, zone: str, context: Context | None = None) -> tuple[Datum | None, Datum | None]:
    """What a polymer wants of a zone; of a plate whose surface is known, what the pair wants."""
    if polymer is None:
        return None, None
    own = _pair_window(polymer, context) if zone == "plate" and context is not None else None
    return own or (polymer.value(f"{zone}_low_c"), polymer.value(f"{zone}_high_c"))


def cold_air_code(context: Context) -> str:
    """The code of the finding that says of air below its window, on this machine."""
    heated = is_chamber_heated(context.machine)
    return "machine.chamber.below_window" if heated else "machine.chamber.not_heated"


def filler_in(context: Context) -> str:
    """What is mixed in: as the lot says, else what a polymer with so much wear and its name must carry."""
    lot, polymer = context.lot, context.polymer
    if lot is not None and lot.filler not in (None, "none") and polymer is not None and lot.polymer == polymer.id:
        return str(lot.filler)
    wear = polymer.value("abrasion") if polymer else None
    if polymer is None or wear is None or wear.value < WEARS:
        return "none"
    return "glass" if polymer.id.endswith("_gf") else "carbon"


def surface_of(context: Context) -> Surface | None:
    """The kind of surface of the plate that is chosen, None where it is not known."""
    return context.supplies.bonds.surfaces.get(context.plate.surface or "") if context.plate else None


def agent_on(context: Context) -> Agent | None:
    """What lies between plate and part: the agent that is chosen, else the film that is still on the plate."""
    known = context.supplies.bonds.agents
    if context.agent is not None:
        return known.get(context.agent.agent or "")
    item = context.plate
    if item is None or not item.film or is_used_up(item):
        return None
    return known.get(item.film)


def plate_most_c(context: Context) -> float | None:
    """The hottest that a plate may be set: as its window, machine and what lies on it have it [°C].

    None where its window is not known.
    """
    high = window_of(context.polymer, "plate", context)[1]
    if high is None:
        return None
    machine, limits = context.machine, limits_of(context.plate, surface_of(context), agent_on(context))
    reach = reach_through(machine, "plate", context.rules, None).max_c if machine else None
    return min([high.value, *([reach] if reach is not None else []), *(each for _, each in limits[:1])])


def limits_of(item: PlateItem | None, surface: Surface | None, agent: Agent | None) -> list[tuple[str, float]]:
    """Every layer on a plate with what it stands, the weakest first [°C]."""
    found = []
    if item is not None and item.stands_c is not None:
        found.append(("surface", item.stands_c))
    elif surface is not None:
        found.append(("surface", surface.stands.value))
    if item is not None and item.backing_c is not None:
        found.append(("backing", item.backing_c))
    elif surface is not None and surface.backing_stands is not None and (item is None or item.held != "clips"):
        found.append(("backing", surface.backing_stands.value))
    if agent is not None:
        found.append((f"film of {agent.name}", agent.stands.value))
    return sorted(found, key=lambda each: each[1])


def is_used_up(item: PlateItem) -> bool:
    """Whether a film took as many prints as it has coats: one for each, unless it was tested."""
    return item.film_prints is not None and item.film_prints >= max(item.film_coats or 1.0, 1.0)


def _pair_window(polymer: Polymer, context: Context) -> tuple[Datum, Datum] | None:
    surface, agent = surface_of(context), agent_on(context)
    if surface is None:
        return None
    found = statement_of(context.supplies.bonds, polymer, surface.id, agent.id if agent else "")
    if found.bed_c is None:
        return None
    source = f"{polymer.name} on {surface.name}" + (f" under {agent.name}" if agent else "")
    low, high = (
        Datum(value=each, low=each - PAIR_K, high=each + PAIR_K, unit="°C", kind="estimate", source=source)
        for each in found.bed_c
    )
    return low, high


def zones_of(recipe: Recipe, context: Context) -> tuple[Zone, ...]:
    """Every zone, judged by whatever is recorded: a machine without a polymer, or a polymer without a machine."""
    machine, polymer = context.machine, context.polymer
    if machine is None and polymer is None:
        return ()
    zones = []
    for name in ZONES:
        low, high = window_of(polymer, name, context)
        reach = reach_through(machine, name, context.rules, context.nozzle) if machine else NOWHERE
        both = low is not None and high is not None
        zones.append(
            Zone(name, machine, polymer, reach, low if both else None, high if both else None, recipe, context)
        )
    return tuple(zones)


def clipped(value_c: float, low_c: float, high_c: float, reach_c: float | None) -> float:
    """A setpoint inside a window, and in whole kelvins not above the reach [°C]."""
    inside_c = min(max(value_c, low_c), high_c)
    return inside_c if reach_c is None else min(inside_c, float(math.floor(reach_c)))


def hottest_of(recipe: Recipe) -> dict[str, float]:
    """The hottest setpoint of each zone, as far as any is set [°C]."""
    found = {zone: [value_at(recipe, field) for field, _, _ in settings] for zone, settings in SETTINGS.items()}
    known = {zone: [each for each in values if each is not None] for zone, values in found.items()}
    return {zone: max(values) for zone, values in known.items() if values}
