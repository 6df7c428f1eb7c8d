"""Welds of all polymers on a machine made for them, in cold air, and 20 K colder, beside what the trade says."""

import attrs
import numpy as np

from kaustos.core.planning.bead import bonded_share
from kaustos.core.planning.welding import Section, matter_of, welded
from kaustos.library import load

SMALL = Section(layer_mm=0.2, period_s=15.0, below=120, edge_mm=1.2)  # wall of a few beads, a quick layer
LARGE = Section(layer_mm=0.2, period_s=60.0, below=120, edge_mm=0.7)  # a part as large as a hand
BONDED = bonded_share(0.48, 0.2, 1.0, 0.35, 0.04)
WORDS = ("decorative", "reduced", "functional")
# what the trade says: made for it, cold air small, cold air large, nozzle 20 K colder in its own air; each may be a
# pair where shops differ
SAYS = {
    "pla": ("F", "F", "F", "F"), "petg": ("F", "F", "F", "F"),
    "abs": ("F", "RF", "DR", "RF"), "asa": ("F", "RF", "DR", "RF"), "hips": ("F", "RF", "DR", "RF"),
    "pc": ("F", "DR", "D", "R"), "pc_cf": ("F", "DR", "D", "R"),
    "pei_pc_blend": ("F", "D", "D", "F"), "pei": ("F", "D", "D", "RF"), "psu": ("F", "D", "D", "RF"),
    "ppsu": ("F", "D", "D", "RF"),
    "peek": ("R", "D", "D", "DR"), "peek_cf": ("R", "D", "D", "DR"), "pekk_a": ("F", "RF", "DR", "F"),
    "pps": ("R", "D", "D", "DR"), "pps_cf": ("R", "D", "D", "DR"),
    "pa6": ("R", "R", "R", "R"), "pa6_gf": ("R", "R", "R", "R"), "pa_cf": ("R", "R", "R", "R"),
    "pa12": ("R", "R", "R", "R"), "ppa_cf": ("R", "DR", "D", "DR"),
    "pp": ("R", "R", "R", "R"), "pom": ("R", "R", "R", "R"), "pvdf": ("R", "R", "R", "R"),
    "tpu": ("R", "R", "R", "R"), "tpc": ("R", "R", "R", "R"),
    "pva": ("F", "F", "RF", "RF"), "bvoh": ("F", "F", "RF", "F"), "pet_cf": ("F", "F", "F", "F"),
}  # fmt: skip
COLUMNS = ("in its window", "cold air, small", "cold air, large", "20 K colder")


@attrs.frozen
class Row:
    """One polymer under four conditions: share of the bulk across layers, grade, what the trade says."""

    name: str
    shares: tuple[float, ...]
    grades: tuple[str, ...]
    says: tuple[str, ...]


def rows():
    """Every polymer of the library."""
    return [_row(polymer) for polymer in load().polymers.values()]


def differing(found):
    """Where the grade is none of what the trade says."""
    return [f"{row.name}, {column}: {grade} ({100 * share:.0f} %), the trade says {said}"
            for row in found
            for column, share, grade, said in zip(COLUMNS, row.shares, row.grades, row.says, strict=True)
            if grade[0].upper() not in said]  # fmt: skip


def _row(polymer):
    nozzle, plate = _middle(polymer, "nozzle"), _middle(polymer, "plate")
    warm = _middle(polymer, "chamber")
    made = (
        (SMALL, nozzle, warm), (SMALL, nozzle, 24.0), (LARGE, nozzle, 24.0), (SMALL, nozzle - 20.0, warm),
    )  # fmt: skip
    shares = tuple(_share(polymer, section, melt, air, plate) for section, melt, air in made)
    return Row(polymer.name, shares, tuple(_grade(polymer, share) for share in shares), SAYS[polymer.id])


def _middle(polymer, zone):
    return sum(polymer.value(f"{zone}_{end}_c").value for end in ("low", "high")) / 2.0


def _share(polymer, section, melt, air, plate):
    nothing = np.zeros(1024)
    found = welded(matter_of(polymer), section, melt + nothing, air + nothing, plate, 8.0)
    return float(np.median(found.share)) * BONDED


def _grade(polymer, share):
    """By the shop's limits; what rests on an index is reduced at best."""
    grade = "functional" if share >= 0.5 else "reduced" if share >= 0.3 else "decorative"
    return "reduced" if grade == "functional" and not polymer.is_glassy else grade


FLOW_NOTE = "usual largest flow of common heads with 1.75 mm filament, practice"


def weld_lines():
    """The tables as lines of a page."""
    from tests.core.planning.test_melting import PRACTICE

    found = rows()
    lines = [
        "", "## Welds beside practice", "",
        "Share of the strength of the bulk across layers, likely, and the grade it leaves; F functional, R reduced,",
        "D decorative. Two letters where shops differ. Small: layers of 15 s; large: layers of 60 s. What rests on the",
        "index of a crystallising polymer is reduced at best. Where the grade is another than the trade's the row is",
        f"marked; {len(differing(found))} are.", "",
        "| polymer | " + " | ".join(COLUMNS) + " | the trade says |", "|---|" + "---|" * (len(COLUMNS) + 1),
    ]  # fmt: skip
    for row in found:
        cells = [f"{100 * share:.0f} % {grade[0].upper()}" for share, grade in zip(row.shares, row.grades, strict=True)]
        says = ", ".join(row.says)
        lines.append(" | ".join(("| " + row.name, *cells, says + " |")))
    headings = "| polymer | melt zone [mm] | bore [mm] | computed [mm³/s] | usual | ratio |"
    lines += ["", "## Flow beside practice", "", f"Hard limit at mid window, beside the {FLOW_NOTE}.", ""]
    lines += [headings, "|---|---|---|---|---|---|"]
    for (name, zone, bore), usual, found_flow in _flows(PRACTICE):
        lines.append(f"| {name} | {zone:g} | {bore:g} | {found_flow:.1f} | {usual:g} | {found_flow / usual:.2f} |")
    return lines


def _flows(practice):
    from tests.core.planning.test_melting import HEAD, hard

    for key, usual in practice.items():
        name, zone, bore = key
        yield key, usual, hard(name, attrs.evolve(HEAD, zone_mm=zone, bore_mm=bore))
