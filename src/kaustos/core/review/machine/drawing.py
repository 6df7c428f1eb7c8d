"""The picture of the machine: every part's limit against window and setpoints."""

import attrs

from kaustos.core.planning.nozzle_life import Section, section_of
from kaustos.core.planning.reach import parts_of, reach_through
from kaustos.core.records import PART_TITLES, ZONES, Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import Context
from kaustos.core.review.machine.nozzle_findings import wear_in
from kaustos.core.review.zones import SETTINGS, window_of


@attrs.frozen
class Bar:
    """The limit of one part on the temperature axis, None where it is not recorded."""

    part: str
    title: str
    max_c: float | None
    basis: str | None
    fitted: bool | None
    rank: int  # 0 holds the zone back, 1 is the next behind it


@attrs.frozen
class ZonePicture:
    """One zone: its parts' limits, the polymer's window and what is set."""

    zone: str
    bars: tuple[Bar, ...]
    window_c: tuple[float, float] | None
    setpoint_c: float | None
    first_c: float | None
    reach_c: float | None


@attrs.frozen
class MachinePicture:
    """What holds each zone back, and by how much it misses the window."""

    zones: tuple[ZonePicture, ...]
    nozzle: Section | None = None

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.zones


def picture(recipe: Recipe, context: Context) -> MachinePicture:
    """The limits of every part of every zone, lowest first, against window and setpoints."""
    if context.machine is None:
        return MachinePicture(())
    zones = []
    for zone in ZONES:
        reach = reach_through(context.machine, zone, context.rules, context.nozzle)
        order = {limit.part: rank for rank, limit in enumerate(reach.limits)}
        limits = {limit.part: limit for limit in reach.limits}
        bars = [
            Bar(
                name, limits[name].title if name in limits else PART_TITLES[name],
                limits[name].max_c if name in limits else None, part.basis, part.fitted,
                order.get(name, 99),
            )
            for name, part in parts_of(getattr(context.machine, zone))
        ]  # fmt: skip
        if "tip" in limits:
            bars.append(Bar("tip", limits["tip"].title, limits["tip"].max_c, "rated", True, order["tip"]))
        low, high = window_of(context.polymer, zone, context)
        fields = SETTINGS[zone]
        zones.append(
            ZonePicture(
                zone,
                tuple(sorted(bars, key=lambda bar: bar.rank)),
                (low.value, high.value) if low and high else None,
                value_at(recipe, fields[0][0]),
                value_at(recipe, fields[1][0]) if len(fields) > 1 else None,
                reach.max_c,
            )
        )
    wear = wear_in(context)
    nozzle = section_of(context.nozzle, wear) if context.nozzle and wear else None
    return MachinePicture(tuple(zones), nozzle)
