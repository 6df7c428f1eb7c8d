"""What a run that went wrong points to: causes in the order of suspicion, what each lever has left, the next trial."""

import math
from collections.abc import Iterable, Mapping, Sequence

import attrs

from kaustos.core.estimates import CAUSES
from kaustos.core.planning.stop_rule import DANGER
from kaustos.core.records import ZONES, Recipe, Run
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import Context
from kaustos.core.review.experience import is_scored, shows_as
from kaustos.core.review.zones import SETTINGS, Zone, zones_of

SIGNS = CAUSES.group("sign")
WATER = {state: each.value for state, each in CAUSES.group("filament").items()}
STEP_K = {zone: each.value for zone, each in CAUSES.group("step").items()}
FORETOLD, WAS_GOOD, MOST = CAUSES["foretold"].value, CAUSES["was_good"].value, CAUSES["most"].value
GONE_WITHOUT = CAUSES["gone_without"].value
WATER_FIRST, TOO_SMALL_K = CAUSES["water_first"].value, CAUSES["too_small"].value


@attrs.frozen(kw_only=True)
class Cause:
    """Something that makes runs go wrong; a zone is a lever, of another cause it is said what to do."""

    key: str
    title: str
    zone: str = ""
    hotter: bool = True  # whether the lever goes up
    codes: tuple[str, ...] = ()  # beginnings of the findings that foretell it
    short: str = ""
    check: str = ""
    without: tuple[str, ...] = ()  # steps of a run whose lack makes it the first suspect
    operation: int = 30  # of the recipe, that is looked at


_WATER = tuple(f"stock.{each}" for each in ("moisture", "strand", "dryer.floor", "dryer.beyond", "dryer.below",
                                            "desiccant", "waiting", "exposure"))  # fmt: skip
KNOWN = (
    Cause(key="water", title="water in the filament", codes=_WATER, without=("check.dry", "dry", "dried"), operation=20,
          short="dry it and repeat",
          check="Dry the spool, weigh it level, and print the same once more: heat is not judged from a wet strand."),
    Cause(key="cold_melt", title="melt too cold", zone="nozzle", operation=60,
          codes=("machine.nozzle.below", "machine.nozzle.cannot", "brief.load.across")),
    Cause(key="hot_melt", title="melt too hot", zone="nozzle", hotter=False, operation=60,
          codes=("machine.nozzle.above", "machine.nozzle.deco", "machine.nozzle.near", "machine.nozzle.liner")),
    Cause(key="cold_plate", title="plate too cold", zone="plate", operation=40, codes=("machine.plate.below",)),
    Cause(key="hot_plate", title="plate too hot", zone="plate", hotter=False, operation=40,
          codes=("machine.plate.above", "machine.plate.foot", "machine.plate.near")),
    Cause(key="cold_chamber", title="air around the part too cold", zone="chamber", operation=70,
          without=("check.soak", "hot"), codes=("machine.chamber.below_window", "machine.chamber.not_heated")),
    Cause(key="hot_chamber", title="air around the part too hot", zone="chamber", hotter=False, operation=70,
          codes=("machine.chamber.above", "machine.chamber.near", "machine.chamber.parts")),
    Cause(key="feed", title="filament fed unevenly", without=("check.nozzle", "load"), operation=60,
          short="feed by hand and look",
          check="Heat masks feed faults. Feed by hand at print heat, look at drive, path and nozzle, then repeat."),
    Cause(key="hold", title="surface, agent or first layer", operation=50,
          without=("check.plate", "check.calibrated", "check.somebody", "coat", "look"),
          short="clean, renew agent, set again",
          check="Clean the surface, renew the agent, set the first layer's distance, then repeat."),
    Cause(key="heater", title="heater, sensor or wiring", without=("check.sensors", "check.reach"),
          codes=tuple(f"machine.{zone}.{what}" for zone in ZONES for what in ("beyond", "no_headroom", "reach")),
          short="a qualified person looks first",
          check="Do not heat the machine again before a qualified person has looked at it."),
    Cause(key="unsuited", title="polymer or grade not up to the service", codes=("brief.",), operation=10,
          short="set the service on bench 10",
          check="Set service, load and what the part meets on bench 10: the ranking says what would do."),
    Cause(key="amount", title="too little on the spool", codes=("stock.mass",), without=("check.enough",), operation=20,
          short="weigh the spool",
          check="Weigh the spool before the next run; two short spools make no long one."),
)  # fmt: skip


@attrs.frozen
class Suspect:
    """A cause under suspicion."""

    cause: Cause
    share: float  # of the whole suspicion
    foretold: bool  # whether a finding of it stood when the run began
    setpoint_c: float | None  # of its zone, as run
    outside_k: float  # how far it is outside its window on the side of the cause, 0 within
    left_k: float | None  # what its lever has left on this machine, None where it has none or it is not known

    @property
    def can_be_tried(self) -> bool:
        """Whether something can be looked at, or a lever has enough left to tell anything."""
        return not self.cause.zone or (self.left_k is not None and self.left_k >= TOO_SMALL_K)


@attrs.frozen
class Trial:
    """The one next run: a setting changed, or something looked at; nothing else is touched."""

    suspect: Suspect | None  # None where nothing is to be tried
    changes: Mapping[str, float] = attrs.field(factory=dict)  # settings of one zone, moved by the same step [°C]
    then: Suspect | None = None  # whom a trial without effect points to
    exhausted: tuple[Suspect, ...] = ()  # suspects before it whose levers have nothing left


@attrs.frozen
class Shown:
    """Another run of the recipe on the same machine: its setpoints, and whether its part was good."""

    recipe: Recipe
    good: bool


def suspects_of(run: Run, recipe: Recipe, context: Context, others: Iterable[Shown] = ()) -> tuple[Suspect, ...]:
    """Causes of what was seen in a run, the likeliest first.

    Parameters
    ----------
    run : Run
        What was seen, what was foretold, how dry the filament was [-]
    recipe : Recipe
        The settings it was run with [°C]
    context : Context
        Polymer and machine of now [°C]
    others : iterable of Shown
        Other runs of the recipe on the same machine [-]

    Returns
    -------
    tuple of Suspect
        Shares sum to one [-]; levers [K]; empty where nothing was seen

    Notes
    -----
    Parts of suspicion multiply: how much each sign speaks for the cause, whether a finding foretold it, whether the
    step that keeps it away was gone without, how dry the
    filament was, where the setpoint lies in its window, and whether the same setpoint did well elsewhere. They rank;
    they are no frequencies. A cause with the setpoint at the far end of its window is never above the same cause with
    the setpoint at the near end.
    """
    zones = {zone.name: zone for zone in zones_of(recipe, context)}
    known = tuple(others)
    weights = {}
    for cause in KNOWN:
        parts = sum(SIGNS[key].value for what in run.seen if (key := f"{what}.{cause.key}") in SIGNS)
        if parts:
            weights[cause.key] = parts * _evidence(cause, run, zones.get(cause.zone), known)
    whole = sum(weights.values())
    found = [
        Suspect(
            cause, weights[cause.key] / whole, _is_foretold(cause, run),
            _running(zone), _outside_k(cause, zone), left_k(cause, zone),
        )
        for cause in KNOWN if cause.key in weights for zone in (zones.get(cause.zone),)
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda each: -each.share))


def next_trial(run: Run, recipe: Recipe, suspects: Sequence[Suspect]) -> Trial:
    """The one change that tells the likeliest cause from the next.

    Parameters
    ----------
    run : Run
        What was seen, how dry the filament was [-]
    recipe : Recipe
        The settings it was run with [°C]
    suspects : sequence of Suspect
        From ``suspects_of`` [-]

    Returns
    -------
    Trial
        Setting and its new value [°C]; without a suspect where a person has to look first, or no lever is left

    Notes
    -----
    Water poses as wrong heat: where the spool was not surely dry it is dried before heat is tried.
    """
    if run.seen & DANGER:
        return Trial(None)
    water = next((each for each in suspects if each.cause.key == "water"), None)
    if water and water.share >= WATER_FIRST and run.filament != "dry":
        return Trial(water, then=next((each for each in suspects if each is not water), None))
    exhausted: list[Suspect] = []
    for at, suspect in enumerate(suspects):
        rest = next((each for each in suspects[at + 1 :] if each.can_be_tried), None)
        if not suspect.cause.zone:
            return Trial(suspect, then=rest, exhausted=tuple(exhausted))
        if suspect.can_be_tried and suspect.left_k is not None:
            wanted_k = max(STEP_K[suspect.cause.zone], suspect.outside_k)
            step_k = math.floor(min(wanted_k, suspect.left_k)) * (1 if suspect.cause.hotter else -1)
            changes = {field: at_c + step_k for field, at_c in _set(recipe, suspect.cause.zone).items()}
            return Trial(suspect, changes, rest, tuple(exhausted))
        exhausted.append(suspect)
    return Trial(None, exhausted=tuple(exhausted))


def left_k(cause: Cause, zone: Zone | None) -> float | None:
    """How far a lever can still be moved inside window and reach.

    Parameters
    ----------
    cause : Cause
        With its zone and direction [-]
    zone : Zone or None
        With window, reach and setpoint [°C]

    Returns
    -------
    float or None
        Room left [K]; 0 where the machine does not heat the zone; None where window or setpoint is not known
    """
    if zone is None or zone.low is None or zone.high is None:
        return None
    if not zone.is_heated:
        return 0.0
    values = _set(zone.recipe, cause.zone).values()
    if not values:
        return None
    if not cause.hotter:
        return max(0.0, min(values) - zone.low.value)
    reach_c = zone.reach.max_c
    top_c = zone.high.value if reach_c is None else min(zone.high.value, reach_c - zone.context.rules.headroom_k)
    return max(0.0, top_c - max(values))


def _evidence(cause: Cause, run: Run, zone: Zone | None, others: Sequence[Shown]) -> float:
    factor = FORETOLD if _is_foretold(cause, run) else 1.0
    if any(each.waived and each.key in cause.without for each in run.steps):
        factor *= GONE_WITHOUT
    if cause.key == "water":
        return factor * WATER.get(run.filament or "unknown", 1.0)
    setpoint_c = _running(zone)
    if zone is None or setpoint_c is None:
        return factor
    if zone.low and zone.high and zone.high.value > zone.low.value:
        place = (setpoint_c - zone.low.value) / (zone.high.value - zone.low.value)
        far = 1.5 - place if cause.hotter else 0.5 + place
        factor *= min(max(far, 0.5), MOST)
    for other in others:
        theirs = value_at(other.recipe, SETTINGS[cause.zone][0][0])
        if other.good and theirs is not None and (theirs <= setpoint_c if cause.hotter else theirs >= setpoint_c):
            return factor * WAS_GOOD
    return factor


def _is_foretold(cause: Cause, run: Run) -> bool:
    """Whether a finding said so beforehand; one that says that something is unknown foretold nothing."""
    return any(
        code.startswith(cause.codes) and is_scored(code) and run.seen & set(shows_as(code)) for code in run.foretold
    )


def _running(zone: Zone | None) -> float | None:
    """The setpoint of a zone after the first layer [°C]."""
    value: float | None = value_at(zone.recipe, SETTINGS[zone.name][0][0]) if zone else None
    return value


def _outside_k(cause: Cause, zone: Zone | None) -> float:
    at_c = _running(zone)
    if zone is None or at_c is None or zone.low is None or zone.high is None:
        return 0.0
    return max(0.0, zone.low.value - at_c if cause.hotter else at_c - zone.high.value)


def _set(recipe: Recipe, zone: str) -> dict[str, float]:
    """What a trial moves: of the plate also the first layer, of the nozzle only what runs after it [°C]."""
    fields = [field for field, _, running in SETTINGS[zone] if running or zone == "plate"]
    values = {field: value_at(recipe, field) for field in fields}
    return {field: value for field, value in values.items() if value is not None}
