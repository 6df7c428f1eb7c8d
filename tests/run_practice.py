"""Runs beside practice: hours of generated files on three machines, minutes until a part comes off."""

import numpy as np

from kaustos.core.estimates import RUN
from kaustos.core.planning.cooling import body_of, cooled
from kaustos.core.planning.motion import Planned
from kaustos.core.planning.pace import learned_pace
from kaustos.core.records import Layer
from kaustos.formats.job_code import read_job
from tests.formats.plain_job import read_plainly
from tests.formats.test_job_code import FILES

MACHINES = (("slow", 500.0, 5.0), ("ordinary", 1_500.0, 8.0), ("quick", 8_000.0, 20.0))
GLASS = (Layer(material="aluminium", thickness_mm=3.0), Layer(material="glass", thickness_mm=4.0))
STEEL = (Layer(material="aluminium", thickness_mm=3.0), Layer(material="steel", thickness_mm=0.5))
LAMINATE = (Layer(material="aluminium", thickness_mm=4.0), Layer(material="laminate", thickness_mm=1.5))


def minutes(stack, plate_c, release_c):
    """Until a part comes off with the door open [min]."""
    return cooled(body_of(stack, 0.0, 1_000.0, None), plate_c, 25.0, 22.0, release_c, is_open=True).until.value


def releases():
    """What practice says and what is reckoned: name, least, most, reckoned [min]."""
    sheet, cold = RUN["release_c"].value + RUN["release_bent"].value, RUN["release_c"].value
    yield "glass on aluminium from 100 °C [min]", 10.0, 60.0, minutes(GLASS, 100.0, cold)
    yield "glass on aluminium from 60 °C [min]", 10.0, 40.0, minutes(GLASS, 60.0, cold)
    yield "steel sheet on aluminium from 100 °C [min]", 10.0, 40.0, minutes(STEEL, 100.0, sheet)
    yield "laminate on aluminium from 95 °C [min]", 10.0, 45.0, minutes(LAMINATE, 95.0, cold)


def paces():
    """How far the hours of the next run are off, mean of 200 [%]: machine, its true pace, after 0, 1, 3, 10 runs."""
    told = np.random.default_rng(7)
    for machine, true in (("slow", 1.18), ("ordinary", 1.04), ("quick", 0.93)):
        off = []
        for known in (0, 1, 3, 10):
            ran = true * np.exp(told.normal(0.0, RUN["pace_runs"].value, (200, known + 1)))
            off.append(100.0 * np.mean([abs(learned_pace(list(row[:-1])).value / row[-1] - 1.0) for row in ran]))
        yield machine, true, off


def run_lines():
    """The tables as lines of a page."""
    lines = ["", "## Runs beside practice", "", "| until it comes off | practice | reckoned |", "|---|---|---|"]
    lines += [f"| {name} | {low:g} to {high:g} | {found:.0f} |" for name, low, high, found in releases()]
    lines += ["", "Seconds of generated files, and of a second planner that goes move by move:", ""]
    lines += ["| file | machine | planned | move by move |", "|---|---|---|---|"]
    for name in ("squares, relative", "spiral", "inches"):
        for machine, accel, corner in MACHINES:
            found = read_job([FILES[name].encode()], name, Planned(accel_mm_s2=(accel,) * 3, corner_mm_s=(corner,) * 3))
            _, plain, _, _ = read_plainly(FILES[name], accel, corner)
            lines.append(f"| {name} | {machine} | {found.seconds[1]:.3f} | {plain:.3f} |")
    lines += ["", "How far the hours of a next run are off, made-up machines, by runs that were logged [%]:", ""]
    lines += ["| machine | takes, over its files | none | 1 | 3 | 10 |", "|---|---|---|---|---|---|"]
    lines += [f"| {name} | {true:g} | {' | '.join(f'{each:.1f}' for each in off)} |" for name, true, off in paces()]
    return lines
