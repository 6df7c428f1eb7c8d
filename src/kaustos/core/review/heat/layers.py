"""Layers along the height: which are too hot to carry the next one, and how much time they need."""

import attrs

from kaustos.core.memo import by_identity
from kaustos.core.planning.draws import middle
from kaustos.core.planning.welding import Matter, Section, films_over, least_period, near_film, unit_of
from kaustos.core.review.heat.case import HeatCase

LEAST_S, MOST_S = 0.5, 300.0


@attrs.frozen(kw_only=True)
class Softness:
    """The hottest height: what a layer ends at, what it must come down to, how long that takes."""

    at_mm: float
    takes_s: float
    end_c: float
    sets_c: float
    needed_s: float | None  # None where no time is enough

    @property
    def over_k(self) -> float:
        """How much too hot it ends [K]."""
        return self.end_c - self.sets_c


def softness_of(case: HeatCase) -> Softness | None:
    """How soft the hottest layers end; None where part, melt or transitions are not known."""
    matter, section, melting = case.matter, case.hottest, case.melt.melting
    if matter is None or section is None or melting is None or case.hottest_mm is None or matter.sets_at_c is None:
        return None
    melt = middle(melting.exit_c)
    return _softness(
        matter, section, melt, case.air_likely_c, case.plate_c, case.film_w, case.hottest_mm, matter.sets_at_c
    )


@by_identity(128)
def _softness(
    matter: Matter, section: Section, melt: float, air: float, plate: float, film: float, at_mm: float, sets_c: float
) -> Softness:
    def end_at(period: float) -> float:
        return end_of(matter, section, period, melt, air, plate, film)

    end = end_at(section.period_s)
    needed: float | None = section.period_s
    if end > sets_c:
        needed = least_period(end_at, sets_c, section.period_s, MOST_S)
    return Softness(at_mm=at_mm, takes_s=section.period_s, end_c=end, sets_c=sets_c, needed_s=needed)


def end_of(
    matter: Matter, section: Section, period_s: float, melt_c: float, air_c: float, plate_c: float, film: float
) -> float:
    """Temperature of a layer as the next one comes [°C], for a time of a layer [s]."""
    film_w = float(films_over(film, air_c))
    if period_s == section.period_s:
        unit = near_film(section, matter.conductivity, matter.heat, film_w).at(film_w)
    else:
        there = attrs.evolve(section, period_s=period_s)
        unit = unit_of(there, matter.conductivity, matter.heat, (film_w, film_w), 1)
    return air_c + (melt_c - air_c) * float(unit.end_melt[0]) + (plate_c - air_c) * float(unit.end_plate[0])
