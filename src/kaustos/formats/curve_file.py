"""Reads curves of testing machines: CSV with a force or stress, and a travel or strain, each with its unit."""

from pathlib import Path

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.progress import UNWATCHED, Progress, watched
from kaustos.disk import name_of, read_text
from kaustos.formats.csv_tables import Table, read_table

Array = NDArray[np.float64]
COLUMNS = {  # first word of a heading: what it is, and what its units are worth
    "force": ("force_n", {"n": 1.0, "kn": 1e3}),
    "load": ("force_n", {"n": 1.0, "kn": 1e3}),
    "stress": ("stress_mpa", {"mpa": 1.0, "n/mm2": 1.0, "n/mm²": 1.0}),
    "travel": ("travel_mm", {"mm": 1.0, "m": 1e3, "um": 1e-3, "µm": 1e-3}),
    "extension": ("travel_mm", {"mm": 1.0, "m": 1e3, "um": 1e-3, "µm": 1e-3}),
    "strain": ("strain", {"%": 0.01, "1": 1.0, "mm/mm": 1.0}),
}
FEWEST = 5


@attrs.frozen(eq=False)
class CurveFile:
    """Columns of one curve, in newton, megapascal, millimetre and 1."""

    name: str
    force_n: Array | None = None
    stress_mpa: Array | None = None
    travel_mm: Array | None = None
    strain: Array | None = None

    def newtons(self, section_mm2: float) -> Array:
        """Force, of stress where that was written [N]."""
        return self.force_n if self.force_n is not None else np.asarray(self.stress_mpa) * section_mm2


def read_curve(file: Path, progress: Progress = UNWATCHED) -> CurveFile:
    """The curve in a file; a column without a unit, and every cell that is no number, is named."""
    table = read_table(read_text(file), name_of(file))
    known = {heading: _known(heading) for heading in (table.lines[0][1] if table.lines else {})}
    mine = {heading: key for heading, key in known.items() if key}
    faults = [fault for heading in mine if (fault := _unit_fault(table, heading))]
    names = [COLUMNS[key][0] for key in mine.values()]
    if len(names) != len(set(names)):
        faults.append("line 1: two columns say the same of the curve")
    if not {"force_n", "stress_mpa"} & set(names):
        faults.append("line 1: no column is called force [N] or stress [MPa]")
    if faults:
        raise FaultList(table.name, tuple(faults))
    found: dict[str, list[float]] = {heading: [] for heading in mine}
    for line, cells in watched(table.lines, progress):
        for heading in mine:
            try:
                value = table.number(cells[heading])
            except (KaustosError, ValueError) as error:
                faults.append(f"line {line}, column {heading}: {error}")
                continue
            if value is None:
                faults.append(f"line {line}, column {heading}: is empty")
            else:
                found[heading].append(value * _factor(table, heading))
    if faults:
        raise FaultList(table.name, tuple(faults))
    if len(table.lines) < FEWEST:
        raise KaustosError(f"{table.name}: {len(table.lines)} points; a curve wants at least {FEWEST}")
    return CurveFile(table.name, **{COLUMNS[key][0]: np.array(found[heading]) for heading, key in mine.items()})


def _known(heading: str) -> str:
    return next((key for key in COLUMNS if heading.lower().startswith(key)), "")


def _unit_fault(table: Table, heading: str) -> str:
    units = COLUMNS[_known(heading)][1]
    said = table.units.get(heading, "").strip().lower()
    if not said:
        return f"line 1, column {heading}: has no unit; write {heading} [{next(iter(units))}]"
    return "" if said in units else f"line 1, column {heading}: [{said}] is none of {', '.join(units)}"


def _factor(table: Table, heading: str) -> float:
    return COLUMNS[_known(heading)][1][table.units[heading].strip().lower()]
