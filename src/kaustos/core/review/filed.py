"""Hours and filament of a run: a bound job file goes before what is typed, in whatever rests on them."""

import math

import attrs

from kaustos.core.estimates import RUN
from kaustos.core.memo import by_identity
from kaustos.core.planning.pace import learned_pace
from kaustos.core.records import Estimate, JobFile, Lot, Machine, Polymer, Recipe
from kaustos.core.records.recipe import Brief
from kaustos.core.records.stock import COMMON_DIAMETER
from kaustos.core.review.contract import Context


def strand_mm(job: JobFile | None, lot: Lot | None, machine: Machine | None) -> float:
    """Diameter of the filament: as its file says, as its label does, as the machine takes, else the common one.

    Parameters
    ----------
    job : JobFile or None
        With its strand where it writes volumes [mm]
    lot : Lot or None
        With the diameter of its label [mm]
    machine : Machine or None
        With what it takes [mm]

    Returns
    -------
    float
        Diameter [mm]

    Examples
    --------
    >>> strand_mm(None, None, None)
    1.75
    """
    told = (job.strand_mm if job else None) or (lot.diameter if lot else None) or (machine.feeds if machine else None)
    return float(told or COMMON_DIAMETER)


def fed_mm3(job: JobFile, strand: float) -> float:
    """Filament that a file feeds, of all tools.

    Parameters
    ----------
    job : JobFile
        Lengths by tool [mm]
    strand : float
        Diameter of the filament [mm]

    Returns
    -------
    float
        Volume [mm^3]
    """
    return math.pi / 4.0 * strand**2 * sum(job.filament_mm.values())


def grams_of(job: JobFile | None, polymer: Polymer | None, strand: float) -> float | None:
    """Filament that a file feeds.

    Parameters
    ----------
    job : JobFile or None
        Lengths by tool [mm]
    polymer : Polymer or None
        Its density [g/cm^3]
    strand : float
        Diameter of the filament [mm]

    Returns
    -------
    float or None
        Mass [g]; None without a file or a density, or where a second polymer, of another density, is fed too

    Examples
    --------
    >>> grams_of(None, None, 1.75) is None
    True
    """
    density = polymer.value("density_g_cm3") if polymer is not None else None
    if job is None or density is None or job.tools > 1:
        return None
    return fed_mm3(job, strand) * density.value / 1e3 or None


def hours_of(recipe: Recipe, context: Context) -> Estimate | None:
    """How long the print takes: by the file and what was learned of the machine, else as somebody typed.

    Parameters
    ----------
    recipe : Recipe
        Hours as they are typed [h]
    context : Context
        Job file, and what runs of the machine took over theirs [h]

    Returns
    -------
    Estimate or None
        Hours of printing [h]
    """
    job = context.job
    if job is not None and job.hours:
        ratios = context.shop.paces.get(context.machine.id, ()) if context.machine is not None else ()
        return _of_file(job, job.hours, ratios)
    hours = recipe.brief.print_h
    if hours is None:
        return None
    low, _, high = RUN["off_brief"].band
    return Estimate(hours, hours * low, hours * high, "h", "as it is typed", "the brief")


def as_filed(recipe: Recipe, context: Context) -> Recipe:
    """The recipe as it will be run: mass and hours of its job file in the place of what is typed.

    Parameters
    ----------
    recipe : Recipe
        Mass and hours as they are typed [g, h]
    context : Context
        With the job file that is bound [-]

    Returns
    -------
    Recipe
        The same object where no file says otherwise [g, h]
    """
    job = context.job
    if job is None:
        return recipe
    grams, hours = (
        grams_of(job, context.polymer, strand_mm(job, context.lot, context.machine)),
        hours_of(recipe, context),
    )
    return _with(recipe, _filed(recipe.brief, grams, hours.value if hours is not None else None))


@by_identity(128)
def _filed(brief: Brief, grams: float | None, hours: float | None) -> Brief:
    """One and the same brief for the same figures, so that what was worked out for it is found again."""
    mass_g = brief.mass_g if grams is None else round(grams, 2)
    print_h = brief.print_h if hours is None else round(hours, 3)
    same = (mass_g, print_h) == (brief.mass_g, brief.print_h)
    return brief if same else attrs.evolve(brief, mass_g=mass_g, print_h=print_h)


@by_identity(128)
def _with(recipe: Recipe, brief: Brief) -> Recipe:
    return recipe if brief is recipe.brief else attrs.evolve(recipe, brief=brief)


def _of_file(job: JobFile, hours: float, ratios: tuple[float, ...]) -> Estimate:
    """Hours of a file: its moves as planned, and what runs of the machine took over such hours before."""
    pace = learned_pace(ratios)
    if ratios:  # these were planned the same way, so what its moves leave open is in them
        method, whose = f"moves of the file, {pace.value:.2f} times", f"{len(ratios)} runs of this machine"
        return Estimate(hours * pace.value, hours * pace.low, hours * pace.high, "h", method, whose)
    least, most = min(job.least_h or hours, hours), max(job.most_h or hours, hours)
    low = hours * math.exp(-math.hypot(math.log(hours / least), math.log(pace.low)))
    high = hours * math.exp(math.hypot(math.log(most / hours), math.log(pace.high)))
    whose = "accelerations of the file" if job.accel_told else "accelerations of the machine, else as is usual"
    return Estimate(hours, low, high, "h", "moves of the file, trapezoids of speed", f"{whose}; no run yet")
