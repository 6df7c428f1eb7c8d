"""A plan of specimens: which tests, in which direction, how many, how they are printed, what they take."""

from collections.abc import Iterable

import attrs

from kaustos.core.estimates import PROOF

BAR = (120.0, 10.0, 4.0)  # pulled [mm]
COUPON = (100.0, 15.0, 4.0)  # tapped, weighed, measured before and after an oven [mm]
PRINTED = {
    "along": "lying on its wide face, beads along it",
    "across": "standing on its end, held by a foot that is cut off",
    "coupon": "lying, as every coupon before it",
}
CODES = {"along": "L", "across": "Q", "coupon": "C"}


@attrs.frozen(kw_only=True)
class Specimen:
    """One piece that is printed, labelled and tested."""

    label: str
    direction: str
    number: int
    size_mm: tuple[float, float, float]
    grams: float

    @property
    def printed(self) -> str:
        """How it stands on the plate."""
        return PRINTED[self.direction]


def specimens_for(
    prefix: str, density_g_cm3: float, *, across: bool = True, along: bool = True, spare: int = 2
) -> tuple[Specimen, ...]:  # fmt: skip
    """What is to be printed so that strength across and along can be judged, and a coupon kept.

    Parameters
    ----------
    prefix : str
        Of every label: lot and day, so that no two are called alike [-]
    density_g_cm3 : float
        Of the polymer [g/cm^3]
    across : bool
        Whether specimens across the layers are wanted [-]
    along : bool
        Whether specimens along them are wanted [-]
    spare : int
        More of each than are judged: some break in the grips [-]

    Returns
    -------
    tuple of Specimen
        Each with its label, size and mass [mm, g]

    Examples
    --------
    >>> [each.label for each in specimens_for("A190-0302", 1.07, along=False)][:2]
    ['A190-0302-Q1', 'A190-0302-Q2']
    """
    count = int(PROOF["specimens"].value) + spare
    wanted = [("across", count)] * across + [("along", count)] * along + [("coupon", 1)]
    found = []
    for direction, each in wanted:
        size = COUPON if direction == "coupon" else BAR
        grams = size[0] * size[1] * size[2] / 1e3 * density_g_cm3
        found += [
            Specimen(label=f"{prefix}-{CODES[direction]}{number}", direction=direction, number=number, size_mm=size,
                     grams=round(grams, 2))
            for number in range(1, each + 1)
        ]  # fmt: skip
    return tuple(found)


def layer_time(
    sections_mm2: Iterable[float], width_mm: float, speed_mm_s: float, least_s: float = 0.0
) -> float:  # fmt: skip
    """Time that a layer of specimens takes which stand on one plate, solid.

    Parameters
    ----------
    sections_mm2 : iterable of float
        Of each that stands there [mm^2]
    width_mm : float
        Of a bead [mm]
    speed_mm_s : float
        At which beads are laid [mm/s]
    least_s : float
        That a layer is made to take [s]

    Returns
    -------
    float
        Moves without melt left out [s]

    Examples
    --------
    >>> layer_time([40.0, 40.0, 40.0], 0.5, 60.0)
    4.0
    """
    return max(sum(sections_mm2) / (width_mm * speed_mm_s), least_s)
