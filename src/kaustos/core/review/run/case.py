"""Everything that a run rests on: the file, the hours, what wants hands and when."""

import math
from collections.abc import Iterator
from datetime import datetime, timedelta

import attrs

from kaustos.core.estimates import MELT, RUN
from kaustos.core.memo import by_identity
from kaustos.core.planning.bead import bead_section
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.planning.run_day import Hand, Staffed, Start, best_start, judged_start
from kaustos.core.records import Estimate, JobFile, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.filed import fed_mm3, grams_of, hours_of, strand_mm
from kaustos.core.review.first_layer.bead import first_minutes
from kaustos.core.review.heat.case import pace_of, part_times
from kaustos.core.review.heat.pauses import pause_plan
from kaustos.core.review.machine.warmth_findings import warmth_of
from kaustos.core.review.melt.case import melt_case
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case
from kaustos.core.review.stock.plan import plan_of, ready_in_h
from kaustos.core.review.supports.case import rest_min, support_case

MOST_HOURS = 5_000.0  # what takes longer is nobody's print
MOST_WARM_UP_H = 48.0  # what takes longer never gets there


@attrs.frozen(kw_only=True, eq=False)
class RunCase:
    """One recipe as it would be run."""

    job: JobFile | None
    hours: Estimate | None  # of the print
    layer_hours: Estimate | None  # of its layers, supports counted
    strand_mm2: float  # section of the filament
    fed_mm3: float | None  # filament of the file, all tools
    grams: float | None  # of it; None where a second polymer, of another density, is fed too
    section_mm2: float | None  # of a bead, as the file lays it
    wanted_mm2: float | None  # as the recipe says
    hands: tuple[Hand, ...]
    dry_h: float  # of drying that goes before, right before it is loaded
    most_dry_h: float | None  # after which hot air harms it
    heat_min: float  # until plate, nozzle and air are hot
    soak_min: float
    cool_min: float
    staffed: Staffed
    now: datetime | None  # with the clock on the wall
    at_once: Start | None  # begun now
    proposed: Start | None

    @property
    def is_alone(self) -> bool:
        """Whether it is hot for a time in which nobody is there, by the start that is proposed."""
        if self.proposed is None or self.hours is None:
            return False
        before = self.heat_min + self.soak_min
        whole = Hand(name="hot", at_min=-before, minutes=before + 60.0 * self.hours.value)
        return bool(judged_start(self.proposed.at, (whole,), self.staffed).outside)

    @property
    def into_dryer(self) -> datetime | None:
        """When the spool goes in: the last moment with somebody there that dries it in time and not too long.

        The last that dries it where there is none.
        """
        if self.proposed is None or self.now is None or self.dry_h <= 0.0:
            return None
        loaded = self.proposed.at + timedelta(minutes=round(min(each.at_min for each in self.hands)))
        latest, first = loaded - timedelta(hours=self.dry_h), self.now
        if self.most_dry_h is not None:
            first = max(first, loaded - timedelta(hours=self.most_dry_h))
        return self.staffed.last_before(latest, first) or max(latest, self.now)

    def when(self, hand: Hand) -> datetime | None:
        """When something is done by the start that is proposed; what can wait once somebody is there."""
        if self.proposed is None:
            return None
        at = self.proposed.at + timedelta(minutes=round(hand.at_min))
        return at + timedelta(minutes=self.staffed.next_min(at) or 0.0) if hand.can_wait else at

    @property
    def end(self) -> datetime | None:
        """When the part can be taken off, by the start that is proposed."""
        if self.proposed is None or self.hours is None:
            return None
        return self.proposed.at + timedelta(hours=self.hours.value, minutes=self.cool_min)


@by_identity(64)
def run_case(recipe: Recipe, context: Context) -> RunCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    job, rules = context.job, context.rules
    strand = strand_mm(job, context.lot, context.machine)
    area = math.pi / 4.0 * strand**2
    layer, width = recipe.melt.height_mm, recipe.melt.width_mm
    wanted = None
    if layer is not None and width is not None and width >= layer:
        wanted = bead_section(width, layer) * (recipe.melt.multiplier or 1.0)
    layers = _layer_hours(recipe, context)
    hours = hours_of(recipe, context) or layers
    cooling = cooling_case(recipe, context)
    heat, soak, dry = _heat_min(recipe, context), recipe.heat.soak_min or 0.0, _dry_h(recipe, context)
    hands = tuple(_hands(recipe, context, hours, heat + soak, cooling)) if hours is not None else ()
    staffed = Staffed(from_h=rules.staffed_from_h, to_h=rules.staffed_to_h, days=rules.staffed_days)
    most = context.polymer.value("drying_most_h") if context.polymer is not None else None
    now = context.wall
    ready = None if now is None else _ready(now, dry, recipe, context, staffed)
    return RunCase(
        job=job,
        hours=hours,
        layer_hours=layers,
        strand_mm2=area,
        fed_mm3=fed_mm3(job, strand) if job is not None else None,
        grams=grams_of(job, context.polymer, strand),
        section_mm2=area * job.drawn if job is not None and job.drawn is not None else None,
        wanted_mm2=wanted,
        hands=hands,
        dry_h=dry,
        most_dry_h=None if most is None else most.value,
        heat_min=heat,
        soak_min=soak,
        cool_min=cooling.minutes,
        staffed=staffed,
        now=now,
        at_once=None if now is None or hours is None else judged_start(now, after_start(hands), staffed),
        proposed=None if ready is None or hours is None else best_start(ready, hands, staffed),
    )


def _layer_hours(recipe: Recipe, context: Context) -> Estimate | None:
    """Hours of all layers of the part, and of what is printed to hold it; None where its size is not known."""
    melt = melt_case(recipe, context)
    pace, shape = pace_of(recipe, melt), melt.shape
    times = part_times(shape, pace) if shape is not None else None
    if times is None or shape is None or not times.height_mm.size:
        return None
    own = float(layers_at(times, shape.size_z_mm, pace.height_mm) @ times.seconds) / 3600.0
    moves, held = MELT["moves"], RUN["held_longer"].band if recipe.supports.way not in (None, "none") else (1.0,) * 3
    if not own < MOST_HOURS:
        return None
    low, high = own * moves.low / moves.value * held[0], own * moves.high / moves.value * held[2]
    return Estimate(own * held[1], low, high, "h", "layer times of the part, supports as is usual", moves.source)


def _dry_h(recipe: Recipe, context: Context) -> float:
    """Drying that is still to come [h]: none where the spool is dry; waiting after it is no need, and is left out."""
    return ready_in_h(recipe, context, plan_of(recipe, context)) or 0.0


def _ready(now: datetime, dry_h: float, recipe: Recipe, context: Context, staffed: Staffed) -> datetime:
    """Before which nothing is heated: the spool is dry, put in once somebody is there, and the machine is wanted."""
    put_in = now + timedelta(minutes=staffed.next_min(now) or 0.0) if dry_h > 0.0 else now
    ready = put_in + timedelta(hours=dry_h)
    if context.now is None or not recipe.stock.wanted_utc:
        return ready
    return max(ready, now + (datetime.fromisoformat(recipe.stock.wanted_utc) - context.now))


def _heat_min(recipe: Recipe, context: Context) -> float:
    """Until plate, nozzle and the air round the part are hot [min]: by the model of the chamber where there is one."""
    usual, times = RUN["preheat_min"].value, warmth_of(recipe, context).times
    if times is None or not times.air.value < MOST_WARM_UP_H:
        return usual
    return max(usual, 60.0 * times.air.value)


def _hands(recipe: Recipe, context: Context, hours: Estimate, hot_min: float, cooling: CoolingCase) -> Iterator[Hand]:
    load, look, release = (RUN[name].value for name in ("load_min", "look_min", "release_min"))
    yield Hand(name="load and heat up", at_min=-hot_min - load, minutes=load, beside_min=hot_min)
    yield Hand(name="start", at_min=-look, minutes=look)
    first = first_minutes(recipe, context)
    laid = first if first is not None else look
    yield Hand(name="look at layer one", at_min=laid, minutes=look)
    if (corners := laid + RUN["corners_min"].value) < 60.0 * hours.value:
        yield Hand(name="look at the corners", at_min=corners, minutes=look)
    yield from _rests(recipe, context, look, hours)
    off = 60.0 * hours.value + cooling.minutes
    yield Hand(name="take it off", at_min=off, minutes=release, can_wait=cooling.way != "hot")


def _rests(recipe: Recipe, context: Context, look_min: float, hours: Estimate) -> Iterator[Hand]:
    """Where it waits for hands: as the file says; where none is bound, the coats that are planned."""
    coats, rest = recipe.supports.way == "coat", rest_min(recipe)
    if context.job is not None:
        slower = hours.value / context.job.hours if context.job.hours else 1.0
        for pause in context.job.pauses:
            name, minutes = ("coat", rest) if coats else ("it waits", look_min)
            yield Hand(name=name, at_min=60.0 * pause.after_h * slower, minutes=minutes)
    elif coats and (coat := support_case(recipe, context).chosen) is not None:
        for number, planned in enumerate(pause_plan(recipe, context, coat.cost.pauses, rest)):
            printed = 60.0 * hours.value * planned.share  # by the hours of the run, as all other hands are
            yield Hand(name="coat", at_min=printed + number * rest, minutes=rest)


def after_start(hands: tuple[Hand, ...]) -> tuple[Hand, ...]:
    """What is left where the machine is hot and loaded."""
    return tuple(each for each in hands if each.at_min >= 0.0 and each.name != "take it off")
