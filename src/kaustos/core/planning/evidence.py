"""What evidence adds up to: the ladder of tests, trends of coupons, how near a dead end a recipe is."""

from collections.abc import Collection, Mapping, Sequence

import attrs
import numpy as np

from kaustos.core.estimates import PROOF
from kaustos.core.planning.sizes import Line, line_of
from kaustos.core.planning.specimens import Group, group_of, rate_of, ratio_of
from kaustos.core.records import Estimate, Proof, ProofRow

RUNGS = (  # key, shape class of the runs that climb it, what it is, and in a sentence
    ("solid", "block", "Simple solid", "A simple solid"),
    ("detail", "detail", "Benchmark", "A benchmark"),
    ("tall", "tall", "Tall and thin", "A tall thin piece"),
    ("flat", "flat", "Long and flat", "A long flat piece"),
)


@attrs.frozen(kw_only=True)
class Rung:
    """One step of the ladder of tests."""

    key: str
    title: str
    said: str  # in a sentence
    is_climbed: bool
    grams: float | None  # at stake
    hours: float | None


def ladder_of(climbed: Collection[str], has_part: bool, part_g: float | None, part_h: float | None, dropped: int = 0
              ) -> tuple[Rung, ...]:  # fmt: skip
    """The ladder of tests, the cheapest first, the real part last.

    Parameters
    ----------
    climbed : collection of str
        Shape classes of good runs of this polymer on this machine [-]
    has_part : bool
        Whether a run of the part itself was good [-]
    part_g : float or None
        Mass of the part's run [g]
    part_h : float or None
        Hours of the part's run [h]
    dropped : int
        Rungs that count no more: a new lot takes one away until its coupon passes [-]

    Returns
    -------
    tuple of Rung
        Each with what it puts at stake [g, h]
    """
    found = [
        Rung(key=key, title=title, said=said, is_climbed=shape in climbed, grams=PROOF[f"{key}_g"].value,
             hours=PROOF[f"{key}_h"].value)
        for key, shape, title, said in RUNGS
    ]  # fmt: skip
    found.append(Rung(key="part", title="The part", said="The part", is_climbed=has_part, grams=part_g, hours=part_h))
    for _ in range(dropped):
        last = next((place for place in range(len(found) - 1, -1, -1) if found[place].is_climbed), None)
        if last is not None:
            found[last] = attrs.evolve(found[last], is_climbed=False)
    return tuple(found)


def next_rung(ladder: Sequence[Rung]) -> Rung | None:
    """The cheapest test that nobody has passed yet; one below a higher one that was passed counts as passed.

    Parameters
    ----------
    ladder : sequence of Rung
        The cheapest first [-]

    Returns
    -------
    Rung or None
        None where all are climbed [-]
    """
    highest = max((place for place, each in enumerate(ladder) if each.is_climbed), default=-1)
    return ladder[highest + 1] if highest + 1 < len(ladder) else None


@attrs.frozen(kw_only=True)
class Strengths:
    """What pulled specimens of one proof say."""

    groups: dict[str, Group]
    ratio: Estimate | None  # across to along
    of_moulded: Estimate | None  # across to the moulded reference
    retained: Estimate | None  # aged to not aged, across
    few: tuple[str, ...]  # groups with fewer specimens than are judged

    @property
    def weld(self) -> Estimate | None:
        """What they say of the weld: over the moulded reference where one was pulled, else over along.

        Fibres along the beads make the figure along them no measure of a weld.
        """
        return self.ratio if self.of_moulded is None else self.of_moulded


def strengths_of(proof: Proof) -> Strengths:
    """Groups and ratios of pulled specimens.

    Parameters
    ----------
    proof : Proof
        With a row for each specimen [MPa]

    Returns
    -------
    Strengths
        Means with intervals, ratios [MPa, 1]
    """
    values: dict[str, list[float]] = {}
    for row in proof.rows:
        if row.group is not None and row.strength_mpa:
            values.setdefault(row.group, []).append(row.strength_mpa)
    across = values.get("across", [])
    return Strengths(
        groups={key: group_of(each) for key, each in values.items()},
        ratio=ratio_of(across, values.get("along", [])), of_moulded=ratio_of(across, values.get("moulded", [])),
        retained=ratio_of(values.get("aged", []), across),
        few=tuple(key for key, each in values.items() if key != "moulded" and len(each) < PROOF["specimens"].value),
    )  # fmt: skip


@attrs.frozen(kw_only=True)
class Sized:
    """What a proof of sizes says."""

    lines: dict[str, Line]  # by axis: outer lengths and diameters
    hole_mm: Estimate | None  # measured less drawn
    out: tuple[tuple[ProofRow, float], ...]  # rows beyond what they may be off, and by how much they are [mm]
    lift_mm: float | None


def sized_by(proof: Proof, grows_pct: Mapping[str, float] | None = None) -> Sized:
    """Scale per axis, hole error, what is out of tolerance, lift; of a part that is annealed later, as it will be.

    Parameters
    ----------
    proof : Proof
        With a row for each reading [mm]
    grows_pct : mapping of str to float or None
        What an oven still does to it by axis, as its coupons grew; none where it lay there already [%]

    Returns
    -------
    Sized
        Lines, error of holes, rows that are out [1, mm]
    """
    lines: dict[str, Line] = {}
    grown = {axis: 1.0 + each / 100.0 for axis, each in (grows_pct or {}).items()}
    flat = (grown.get("x", 1.0) + grown.get("y", 1.0)) / 2.0  # of a hole or diameter that no axis is noted with
    pairs = [(row, row.nominal_mm, row.found_mm * grown.get(row.axis or "", flat if row.what == "hole" else 1.0))
             for row in proof.rows if row.nominal_mm and row.found_mm]  # fmt: skip
    for axis in ("x", "y", "z"):
        mine = [(nominal, found) for row, nominal, found in pairs
                if row.axis == axis and row.what in ("length", "diameter")]  # fmt: skip
        if mine:
            lines[axis] = line_of([nominal for nominal, _ in mine], [found for _, found in mine])
    holes = [found - nominal for row, nominal, found in pairs if row.what == "hole"]
    hole = None
    if holes:
        group = group_of(holes)
        wide = 0.1 if group.low is None else max(group.mean - group.low, 0.01)
        hole = Estimate(group.mean, group.mean - wide, group.mean + wide, "mm", f"{len(holes)} holes", "own readings")
    out = []
    for row, nominal, found in pairs:
        within = row.tolerance_mm if row.tolerance_mm is not None else PROOF["loose"].value
        if abs(found - nominal) > within:
            out.append((row, found - nominal))
    lifts = [row.found_mm for row in proof.rows if row.what == "lift" and row.found_mm is not None]
    return Sized(lines=lines, hole_mm=hole, out=tuple(out), lift_mm=max(lifts, default=None))


def drift_of(moduli: Sequence[Estimate]) -> float | None:
    """Change of the latest coupon's stiffness against those before it.

    Parameters
    ----------
    moduli : sequence of Estimate
        The oldest first [MPa]

    Returns
    -------
    float or None
        Share by which it changed, where that is more than its band and theirs can be [1]; None where it is not
    """
    if len(moduli) < 3:
        return None
    *before, last = moduli
    middle = float(np.median([each.value for each in before]))
    change = last.value / middle - 1.0
    doubt = max((last.high - last.low) / 2.0 / last.value, PROOF["drift"].value)
    spread = float(np.std([each.value for each in before])) / middle
    return change if abs(change) > max(doubt, 2.0 * spread) else None


def is_near(proof: Proof, nozzle_c: float | None, chamber_c: float | None) -> bool:
    """Whether settings come near those of a dead end.

    Parameters
    ----------
    proof : Proof
        A dead end with nozzle and chamber as they were [°C]
    nozzle_c : float or None
        Of the recipe [°C]
    chamber_c : float or None
        Of the recipe [°C]

    Returns
    -------
    bool
        True where every setting that is known of it is near [-]
    """
    pairs = ((proof.nozzle_c, nozzle_c, "near_c"), (proof.chamber_c, chamber_c, "near_air"))
    known = [(then, now, PROOF[key].value) for then, now, key in pairs if then is not None and now is not None]
    return bool(known) and all(abs(then - now) <= near for then, now, near in known)


@attrs.frozen(kw_only=True)
class ByHand:
    """Pieces of one condition that were broken, struck or squeezed by hand: comparative, force is not controlled."""

    hand: str
    group: str
    count: int
    between: Estimate | None  # share that broke between layers; None where nobody said how they broke
    mean: float | None  # blows, effort, or stiffness by squeezing, normalised for wall and radius
    is_few: bool


def by_hand(rows: Sequence[ProofRow]) -> tuple[ByHand, ...]:
    """What pieces tell by condition.

    Parameters
    ----------
    rows : sequence of ProofRow
        One for each piece [-]

    Returns
    -------
    tuple of ByHand
        By test and direction, in the order in which they came [-]
    """
    found: dict[tuple[str, str], list[ProofRow]] = {}
    for row in rows:
        if row.hand is not None:
            found.setdefault((row.hand, row.group or "across"), []).append(row)
    said = []
    for (hand, group), mine in found.items():
        modes = [each.mode for each in mine if each.mode is not None]
        values = [value for each in mine if (value := _hand_value(each)) is not None]
        said.append(
            ByHand(
                hand=hand, group=group, count=len(mine), is_few=len(mine) < PROOF["blows"].value,
                between=rate_of(modes.count("between"), len(modes)) if modes else None,
                mean=float(np.mean(values)) if values else None,
            )
        )  # fmt: skip
    return tuple(said)


def _hand_value(row: ProofRow) -> float | None:
    if row.hand == "squeeze":
        return squeezed(row.force_n, row.length_mm, row.thick_mm, row.width_mm)
    return row.blows


def squeezed(
    force_n: float | None, length_mm: float | None, wall_mm: float | None, radius_mm: float | None
) -> float | None:  # fmt: skip
    """Stiffness of a squeezed tube, normalised for its wall and radius.

    Parameters
    ----------
    force_n : float or None
        For the same squeeze [N]
    length_mm : float or None
        Of the tube [mm]
    wall_mm : float or None
        Of the tube, as measured [mm]
    radius_mm : float or None
        Mean, of its wall [mm]

    Returns
    -------
    float or None
        Force times radius over wall, cubed, for a millimetre of length [N/mm]; None where one is not known

    Notes
    -----
    A thin ring gives way by the cube of radius over wall (Timoshenko, Strength of Materials).

    Examples
    --------
    >>> round(squeezed(20.0, 30.0, 1.5, 15.0) / squeezed(20.0, 30.0, 1.2, 15.0), 3)
    0.512
    """
    if not force_n or not length_mm or not wall_mm or not radius_mm:
        return None
    return force_n / length_mm * (radius_mm / wall_mm) ** 3
