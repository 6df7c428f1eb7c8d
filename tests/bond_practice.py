"""What the bond to the plate comes to for every pair that practice speaks of, beside what practice says."""

import functools

import attrs

from kaustos.core.planning.bond import Bond, Making, bond_of, loads_of, usual_of
from kaustos.core.planning.draws import drawn
from kaustos.core.planning.pairing import Statement, statement_of
from kaustos.core.planning.standing import Anchor, box_shape, standing_of
from kaustos.core.records import HOLDS, Polymer
from kaustos.library import load

SHAPES = {
    "cube": box_shape(20.0, 20.0, 20.0),
    "flat": box_shape(150.0, 40.0, 8.0),
    "tall": box_shape(10.0, 10.0, 80.0),
}
SURFACES = ("pei_film", "pei_coat", "glass", "pp_sheet", "laminate")
BARE = Anchor()
WATCH, STOP = 0.1, 0.4


def ends(polymer: Polymer, zone: str) -> tuple[float, float] | None:
    """The window of a zone, None where the library keeps none."""
    low, high = (polymer.value(f"{zone}_{end}_c") for end in ("low", "high"))
    return None if low is None or high is None else (low.value, high.value)


@attrs.frozen
class Setting:
    """A pair with its usual heat."""

    polymer: Polymer
    statement: Statement
    nozzle_c: float
    plate_c: float
    air_c: float


@functools.cache
def setting(polymer: str, surface: str, agent: str = "") -> Setting | None:
    """The middle of the pair's window, and air at the low end of the polymer's; None where a window is not known."""
    library = load()
    made = library.polymers[polymer]
    statement = statement_of(library.supplies.bonds, made, surface, agent)
    nozzle, plate, chamber = ends(made, "nozzle"), statement.bed_c or ends(made, "plate"), ends(made, "chamber")
    if nozzle is None or plate is None:
        return None
    air = max(chamber[0], 25.0) if chamber else 25.0
    return Setting(made, statement, sum(nozzle) / 2.0, sum(plate) / 2.0, air)


def bonded(polymer: str, surface: str, agent: str = "", shape: str = "cube", anchor: Anchor = BARE,
           body=None, **other) -> Bond:  # type: ignore[no-untyped-def] # fmt: skip
    """A solid part on a clean plate at the pair's usual heat, changed by what is named."""
    at, bonds = setting(polymer, surface, agent), load().supplies.bonds
    assert at is not None
    usual = Making(melt_c=at.nozzle_c, plate_c=at.plate_c, first_plate_c=at.plate_c, air_c=at.air_c, room_c=23.0,
                   off_c=25.0, aspect=2.0, filled=1.0, cleaned="wiped")  # fmt: skip
    under = bonds.surfaces[surface]
    made = attrs.evolve(usual, **other)
    loads = loads_of(at.polymer, under.expansion.value, made, standing_of(body or SHAPES[shape], anchor))
    assert loads is not None
    return bond_of(
        at.polymer, under, drawn("book", at.statement.band), (at.nozzle_c, at.plate_c), made, loads,
        mixes=not agent and bonds.is_alike(at.polymer.family, under.family),
        usual=usual_of(at.statement.leaves, at.statement.band),
    )  # fmt: skip


@attrs.frozen
class Beside:
    """One pair: practice, and what is computed for the three parts."""

    polymer: str
    surface: str
    agent: str
    said: str
    lifts: dict[str, float]
    harms: float
    first: str
    leaves: str = ""

    @property
    def differs(self) -> str:
        """In which way the verdict is not what practice says; empty where it is."""
        word = self.said
        if word == "none" and min(self.lifts["flat"], self.lifts["cube"]) < WATCH:
            return "holds where practice says it does not"
        if self.leaves == "tears" and self.harms < WATCH:
            return "comes off where practice says it welds"
        if word in ("good", "strong") and (self.lifts["cube"] > STOP or (word == "good" and self.harms > STOP)):
            return "gives way where practice says it is good"
        return ""


@functools.cache
def pairs() -> tuple[Beside, ...]:
    """Every polymer of the library that is printed on the five usual surfaces, bare."""
    found = []
    for polymer in load().polymers:
        for surface in SURFACES:
            at = setting(polymer, surface)
            if at is None or at.polymer.modulus is None or at.statement.basis != "tried":
                continue
            each = {name: bonded(polymer, surface, shape=name) for name in SHAPES}
            cube = each["cube"]
            said = at.statement.holds or ""
            found.append(Beside(polymer, surface, "", said, {name: b.lifts for name, b in each.items()}, cube.harms,
                                cube.first, at.statement.leaves))  # fmt: skip
    return tuple(found)


def verdict(lifts: float, harms: float) -> str:
    """One cell: what is most likely to happen."""
    if max(lifts, harms) < WATCH:
        return "holds"
    word, chance = ("lifts", lifts) if lifts >= harms else ("welds", harms)
    return f"{word} {100.0 * chance:.0f} %"


def bond_lines() -> list[str]:
    """The section of the page."""
    library = load()
    lines = [
        "", "## Bond to the plate beside practice", "",
        "Every polymer on the usual surfaces, bare, wiped, solid, at the middle of the pair's window and with the air "
        "at the low end of the polymer's: a cube of 20 mm, a bar of 150 × 40 × 8 mm, a pin of 10 × 10 × 80 mm. A cell "
        f"says what is likelier to go wrong and how often; under {100 * WATCH:.0f} % it holds. *First* is what gives "
        "way first in the cube when the load grows.", "",
        "| polymer | surface | practice | cube | flat | tall | first | differs |", "|---|---|---|---|---|---|---|---|",
    ]  # fmt: skip
    for each in pairs():
        cells = " | ".join(verdict(each.lifts[name], each.harms) for name in SHAPES)
        surface = library.supplies.bonds.surfaces[each.surface].name
        why = f"{each.differs}: {REASONS.get((each.polymer, each.surface), 'open')}" if each.differs else ""
        lines.append(f"| {each.polymer} | {surface} | {HOLDS[each.said]} | {cells} | {each.first} | {why} |")
    return lines


REASONS: dict[tuple[str, str], str] = {}
