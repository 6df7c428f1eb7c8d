"""An anneal with all its draws beside one march of a stiff integrator through the same programme, likely values alone.

And the hours that a hold wants beside trying each of them.
"""

import statistics
import time

import attrs
import numpy as np
from scipy.integrate import solve_ivp

from kaustos.core.planning.anneal_programme import Load, Programme, Step
from kaustos.core.planning.annealing import HOLDS_H, annealed, hold_wanted_h, is_enough, section_of
from kaustos.library import load

RUNS, CELLS = 5, 80
LOAD = Load(wall_mm=14.0, fan=True)


def _programme(hold_c, hold_h=3.0):
    step = Step(ramp_k_h=60.0, hold_c=hold_c, hold_h=hold_h)
    return Programme(from_c=21.0, steps=(step,), cool_k_h=60.0, out_c=60.0)


def _timed(act):
    start = time.perf_counter()
    act()
    return time.perf_counter() - start


def _marched(polymer, hold_c):
    """The same course by a stiff integrator on a grid of its own, no draws."""
    section = section_of(LOAD, polymer, 1)
    wide = section.half[0] / CELLS
    nodes_s, nodes_c = (0.0, 10_000.0, 24_000.0, 34_000.0), (21.0, hold_c, hold_c, 60.0)
    between = section.conductivity[0] / wide
    last = 1.0 / (wide / 2.0 / section.conductivity[0] + 1.0 / section.film[0])

    def rate(t, celsius):
        air = np.interp(t, nodes_s, nodes_c)
        flux = np.concatenate([[0.0], between * np.diff(celsius), [last * (air - celsius[-1])]])
        return np.diff(flux) / (section.capacity[0] * wide)

    solve_ivp(rate, (0.0, nodes_s[-1]), np.full(CELLS, 21.0), "BDF", rtol=1e-5, atol=1e-3, max_step=600.0)


def beside_a_march():
    """Time of a programme with 24 thermal draws and 96 of its chemistry, over that of one march."""
    polymer, found = load().polymers["peek"], []
    annealed(_programme(199.0), LOAD, polymer)
    for number in range(RUNS):
        hold = 200.0 + 0.1 * number
        mine = _timed(lambda hold=hold: annealed(_programme(hold), LOAD, polymer))
        found.append(mine / _timed(lambda hold=hold: _marched(polymer, hold)))
    return statistics.median(found)


def beside_trying():
    """Time of the hours that a hold wants, over that of trying each."""
    polymer, found = load().polymers["abs"], []
    for number in range(RUNS):
        plan = _programme(92.0 + 0.1 * number)
        mine = _timed(lambda plan=plan: hold_wanted_h(plan, LOAD, polymer, strict=True))
        found.append(mine / _timed(lambda plan=plan: _tried(plan, polymer)))
    return statistics.median(found)


def _tried(plan, polymer):
    for hours in HOLDS_H:
        tried = attrs.evolve(plan, steps=(attrs.evolve(plan.steps[0], hold_h=hours + 1e-6),))
        is_enough(annealed(tried, LOAD, polymer), tried, LOAD, polymer, strict=True)


COMPARISONS = (
    ("an anneal with 96 draws, over one march of an integrator", 0.5, "", beside_a_march),
    ("hours that a hold wants, over trying each", 0.3, "", beside_trying),
)
