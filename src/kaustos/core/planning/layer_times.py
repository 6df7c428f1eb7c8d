"""How long each layer of a part takes, what of it is filled, and what more time costs."""

import attrs
import numpy as np

from kaustos.core.estimates import MELT, RUN, WELD
from kaustos.core.planning.bead import bead_section, pitch_of
from kaustos.core.planning.draws import Array
from kaustos.core.records import JobFile, Shape

MOVES = MELT["moves"].value
LEAST_MM2 = 0.05  # below which a section is no layer


@attrs.frozen(kw_only=True)
class Pace:
    """How layers are laid."""

    width_mm: float
    height_mm: float
    speed_mm_s: float
    walls: float
    filled: float  # share of the inside
    copies: float
    least_s: float


@attrs.frozen(kw_only=True, eq=False)
class LayerTimes:
    """Along the height of a part."""

    height_mm: Array
    seconds: Array  # from one layer to the next, copies and waiting counted
    own_s: Array  # of that one part
    filled_mm2: Array
    edge_mm: Array  # perimeter over what is filled [1/mm]


def layer_times(shape: Shape, pace: Pace) -> LayerTimes:
    """Time of each layer, section by section.

    Parameters
    ----------
    shape : Shape
        Heights, areas and perimeters of its sections [mm, mm²]
    pace : Pace
        Beads, speed, copies [mm, mm/s]

    Returns
    -------
    LayerTimes
        Along the height, nothing where a section is empty [s, mm², 1/mm]

    Notes
    -----
    Path is what is filled over the distance of beads; travels and corners are a factor of practice.
    """
    area, around = np.array(shape.areas_mm2), np.array(shape.perimeters_mm)
    is_there = area > LEAST_MM2
    height, area, around = np.array(shape.heights_mm)[is_there], area[is_there], around[is_there]
    pitch = pitch_of(pace.width_mm, pace.height_mm)
    walls = np.minimum(area, around * pace.walls * pitch)
    filled = np.maximum(walls + pace.filled * (area - walls), np.minimum(area, around * pitch * 0.5))
    own = filled / pitch / pace.speed_mm_s * MOVES
    seconds = np.maximum(own * max(pace.copies, 1.0), pace.least_s)
    return LayerTimes(
        height_mm=height,
        seconds=seconds,
        own_s=own,
        filled_mm2=filled,
        edge_mm=np.minimum(around / filled, 2.0 / pace.width_mm),
    )


def is_in_step(job: JobFile, pace: Pace) -> bool:
    """Whether a job file lays as the recipe says: only then its times speak for the recipe.

    Parameters
    ----------
    job : JobFile
        With its layer and speed [mm, mm/s]
    pace : Pace
        Of the recipe [mm, mm/s]

    Returns
    -------
    bool
        False where the file would be made again [-]
    """
    layer, speed = job.layer_mm, job.speed_mm_s
    if layer is not None and abs(layer - pace.height_mm) > RUN["off_layer"].value:
        return False
    return speed is None or abs(speed / pace.speed_mm_s - 1.0) <= RUN["off_speed"].value


def times_of_file(times: LayerTimes, job: JobFile, pace: Pace) -> LayerTimes:
    """Times of the layers as the job file has them: they go before what geometry and speed make.

    Parameters
    ----------
    times : LayerTimes
        By geometry [s]
    job : JobFile
        With seconds of a layer along the height [mm, s]
    pace : Pace
        Copies among which they are shared [-]

    Returns
    -------
    LayerTimes
        At the same heights [s]
    """
    place = np.minimum(np.searchsorted(np.array(job.heights_mm), times.height_mm), len(job.heights_mm) - 1)
    seconds = np.maximum(np.array(job.seconds)[place], max(pace.least_s, 1e-3))
    return attrs.evolve(times, seconds=seconds, own_s=seconds / max(pace.copies, 1.0))


def layers_at(times: LayerTimes, high_mm: float, layer_mm: float) -> Array:
    """How many layers each section stands for.

    Parameters
    ----------
    times : LayerTimes
        Sections along the height [mm]
    high_mm : float
        Height of the part [mm]
    layer_mm : float
        Height of a layer [mm]

    Returns
    -------
    ndarray
        Layers, together as many as the part has [1]
    """
    spans = np.gradient(times.height_mm) if times.height_mm.size > 1 else np.ones(1)
    return np.asarray(spans / spans.sum() * high_mm / layer_mm)


@attrs.frozen(kw_only=True)
class MoreTime:
    """One way to give layers the time they need."""

    key: str
    minutes: float  # that the run takes longer
    grams: float  # that are laid more, and are no part
    value: float  # copies, mm/s or s, by its kind


def more_time(shape: Shape, pace: Pace, needed_s: float, density_g_cm3: float) -> tuple[MoreTime, ...]:
    """What each way of giving every layer a least time costs, the cheapest in minutes first.

    Parameters
    ----------
    shape : Shape
        Of the part [mm, mm²]
    pace : Pace
        As it is now [mm, mm/s]
    needed_s : float
        Least time of a layer [s]
    density_g_cm3 : float
        Of the polymer [g/cm³]

    Returns
    -------
    tuple of MoreTime
        slow, wait, copies and tower [min, g]

    Notes
    -----
    To slow down keeps the hot nozzle near, to wait lets it drool; copies and a tower give time that makes something.
    """
    found = layer_times(shape, pace)
    if not found.height_mm.size:
        return ()
    layers = layers_at(found, shape.size_z_mm, pace.height_mm)
    short = np.maximum(needed_s - found.seconds, 0.0)
    minutes = float((short * layers).sum() / 60.0)
    least = float(found.seconds.min())
    ways = [
        MoreTime(key="slow", minutes=minutes, grams=0.0, value=pace.speed_mm_s * min(least / needed_s, 1.0)),
        MoreTime(key="wait", minutes=minutes, grams=0.0, value=needed_s),
    ]
    copies = float(np.ceil(pace.copies * needed_s / max(least, 1e-3)))
    more = (copies - pace.copies) * found.own_s
    part = float((found.filled_mm2 * layers).sum()) * pace.height_mm / 1e3 * density_g_cm3
    ways.append(
        MoreTime(
            key="copies", minutes=float((more * layers).sum() / 60.0), grams=(copies - pace.copies) * part, value=copies
        )
    )
    side = WELD["tower_mm"].value
    ring = 4.0 * side * bead_section(pace.width_mm, pace.height_mm) / pace.height_mm
    tower_s = 4.0 * side / pace.speed_mm_s * MOVES
    rings = np.ceil(short / tower_s)
    high = layers[: np.flatnonzero(short)[-1] + 1].sum() if short.any() else 0.0
    ways.append(
        MoreTime(
            key="tower",
            minutes=float((rings * tower_s * layers).sum() / 60.0),
            grams=float(high * max(rings.max(), 1.0) * ring * pace.height_mm / 1e3 * density_g_cm3)
            if short.any()
            else 0.0,
            value=side,
        )
    )
    return tuple(sorted(ways, key=lambda each: (each.minutes, each.grams)))
