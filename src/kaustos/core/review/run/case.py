"""Everything that a run rests on: the file, the hours, what wants hands and when."""

import math
from datetime import datetime, timedelta

import attrs

from kaustos.core.estimates import RUN
from kaustos.core.memo import by_identity
from kaustos.core.planning.bead import bead_section
from kaustos.core.planning.run_day import Hand, Staffed, Start, best_start, judged_start
from kaustos.core.records import Estimate, JobFile, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.first_layer.bead import first_minutes
from kaustos.core.review.melt.case import melt_case
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case
from kaustos.core.review.supports.case import rest_min

BY_BRIEF = 0.2  # share by which hours that somebody typed may be off


@attrs.frozen(kw_only=True, eq=False)
class RunCase:
    """One recipe as it would be run."""

    job: JobFile | None
    hours: Estimate | None  # of the print
    strand_mm: float
    fed_mm3: float | None  # filament of the file, all tools
    grams: float | None
    section_mm2: float | None  # of a bead, as the file lays it
    wanted_mm2: float | None  # as the recipe says
    hands: tuple[Hand, ...]
    dry_h: float  # of drying that goes before
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
        whole = Hand(name="hot", at_min=-self.soak_min, minutes=self.soak_min + 60.0 * self.hours.value)
        return bool(judged_start(self.proposed.at, (whole,), self.staffed).outside)

    @property
    def end(self) -> datetime | None:
        """When the part can be taken off, by the start that is proposed."""
        if self.proposed is None or self.hours is None:
            return None
        return self.proposed.at + timedelta(hours=self.hours.value, minutes=self.cool_min)


@by_identity(64)
def run_case(recipe: Recipe, context: Context) -> RunCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    job, melt, rules = context.job, melt_case(recipe, context), context.rules
    strand = job.strand_mm if job is not None and job.strand_mm else melt.hot_end.strand_mm
    area = math.pi / 4.0 * strand**2
    fed = area * sum(job.filament_mm.values()) if job is not None else None
    density = context.polymer.value("density_g_cm3") if context.polymer is not None else None
    layer, width = recipe.melt.height_mm, recipe.melt.width_mm
    wanted = None
    if layer is not None and width is not None and width >= layer:
        wanted = bead_section(width, layer) * (recipe.melt.multiplier or 1.0)
    hours = _hours(recipe, job)
    cooling = cooling_case(recipe, context)
    hands = _hands(recipe, context, hours, cooling)
    staffed = Staffed(from_h=rules.staffed_from_h, to_h=rules.staffed_to_h, days=rules.staffed_days)
    now = context.wall
    ready = None if now is None else now + timedelta(hours=_dry_h(recipe, context))
    return RunCase(
        job=job,
        hours=hours,
        strand_mm=strand,
        fed_mm3=fed,
        grams=None if fed is None or density is None else fed * density.value / 1e3,
        section_mm2=area * job.drawn if job is not None and job.drawn is not None else None,
        wanted_mm2=wanted,
        hands=hands,
        dry_h=_dry_h(recipe, context),
        soak_min=recipe.heat.soak_min or 0.0,
        cool_min=cooling.minutes,
        staffed=staffed,
        now=now,
        at_once=None if now is None or hours is None else judged_start(now, _after_start(hands), staffed),
        proposed=None if ready is None or hours is None else best_start(ready, hands, staffed),
    )


def _hours(recipe: Recipe, job: JobFile | None) -> Estimate | None:
    """How long the print takes: by the file, else as somebody typed."""
    if job is not None and job.hours is not None:
        low, high = job.least_h or job.hours, job.most_h or job.hours
        method = "moves of the file, trapezoids of speed"
        return Estimate(job.hours, min(low, job.hours), max(high, job.hours), "h", method, "accelerations, estimate")
    hours = recipe.brief.print_h
    if hours is None:
        return None
    return Estimate(hours, hours * (1.0 - BY_BRIEF), hours * (1.0 + BY_BRIEF), "h", "as it is typed", "the brief")


def _dry_h(recipe: Recipe, context: Context) -> float:
    """Drying that is still to be done: what is planned, where no stay in a dryer is under way or done lately."""
    stays = context.lot.stays if context.lot is not None else ()
    last = stays[-1] if stays else None
    planned = recipe.stock.dryer_h or 0.0
    if last is None or last.place != "dryer" or context.now is None:
        return planned
    gone = (context.now - datetime.fromisoformat(last.from_utc)).total_seconds() / 3600.0
    return max(planned - gone, 0.0)


def _hands(recipe: Recipe, context: Context, hours: Estimate | None, cooling: CoolingCase) -> tuple[Hand, ...]:
    if hours is None:
        return ()
    load, look, release = (RUN[name].value for name in ("load_min", "look_min", "release_min"))
    soak, print_min = recipe.heat.soak_min or 0.0, 60.0 * hours.value
    hot = max(RUN["preheat_min"].value, soak)
    found = [Hand(name="load and heat up", at_min=-hot - load, minutes=load)]
    found.append(Hand(name="start", at_min=-look, minutes=look))
    first = first_minutes(recipe, context)
    found.append(Hand(name="look at layer one", at_min=first if first is not None else look, minutes=look))
    if recipe.supports.way == "coat":
        rest = rest_min(recipe)
        for pause in context.job.pauses if context.job is not None else ():
            found.append(Hand(name="coat", at_min=60.0 * pause.after_h, minutes=rest))
    found.append(Hand(name="take it off", at_min=print_min + cooling.minutes, minutes=release))
    return tuple(found)


def _after_start(hands: tuple[Hand, ...]) -> tuple[Hand, ...]:
    """What is left where the machine is hot and loaded."""
    return tuple(each for each in hands if each.at_min >= 0.0 and each.name != "take it off")
