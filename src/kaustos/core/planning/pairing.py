"""What is known of a polymer on a surface under an agent: tried, or drawn from its neighbours, and how sure."""

import math
from collections.abc import Iterator

import attrs

from kaustos.core.estimates import BOND
from kaustos.core.estimates.assumed import Band
from kaustos.core.memo import by_identity
from kaustos.core.records import HOLDS, Bonds, Pair, Polymer

MAIN = 0.75  # weight of what most say of a pair of which opposite things are told


@attrs.frozen(kw_only=True)
class Statement:
    """One statement about a pair."""

    holds: str | None  # word of practice, the nearest where it is drawn from neighbours
    band: Band  # grip at the middle [J/m²]
    basis: str  # tried, alike or stranger
    from_words: str  # which pairs it is drawn from, in words
    pair: Pair | None = None
    bed_c: tuple[float, float] | None = None  # wanted by the pair [°C]

    @property
    def leaves(self) -> str:
        """How practice finds it to come off; empty where nobody tried."""
        return self.pair.leaves if self.pair is not None and self.basis == "tried" else ""

    @property
    def is_contested(self) -> bool:
        """Whether opposite things are said of it."""
        return self.pair is not None and self.pair.rival is not None


def word_band(word: str) -> Band:
    """What a word of practice means.

    Parameters
    ----------
    word : str
        One of HOLDS [-]

    Returns
    -------
    tuple of float
        Least, likely, most [J/m^2]

    Examples
    --------
    >>> word_band("good")
    (120.0, 300.0, 750.0)
    """
    return BOND[f"word.{word}"].band


@by_identity(512)
def statement_of(bonds: Bonds, polymer: Polymer, surface: str, agent: str) -> Statement:
    """What practice says of a pair; of one that nobody tried, what its neighbours suggest, and wider.

    Parameters
    ----------
    bonds : Bonds
        The library [J/m^2, °C]
    polymer : Polymer
        With its family [-]
    surface : str
        Id of a surface [-]
    agent : str
        Id of an agent, empty for a bare surface [-]

    Returns
    -------
    Statement
        With its band of grip and where it is from [J/m^2]

    Notes
    -----
    First the pair itself; then the same polymer under the same agent on other surfaces, since the film decides; then
    on other surfaces of the same kind of body; then anything said of that surface. Each step widens the band.
    """
    own = _said(bonds, polymer, surface, agent)
    if own is not None:
        return _of_pair(own, bonds, surface)
    if agent:
        on_others = [(each, key) for key, each in _everywhere(bonds, polymer, agent) if key != surface]
        if on_others:
            return _drawn(on_others, "alike", bonds)
        bare = _said(bonds, polymer, surface, "")
        if bare is not None:
            return _drawn([(bare, surface)], "stranger", bonds)
    body = bonds.surfaces[surface].body if surface in bonds.surfaces else ""
    alike = [
        (each, key)
        for key, each in _everywhere(bonds, polymer, agent)
        if key in bonds.surfaces and bonds.surfaces[key].body == body
    ]
    if alike:
        return _drawn(alike, "alike", bonds)
    rest = [(each, key) for key, each in _everywhere(bonds, polymer, agent)]
    if rest:
        return _drawn(rest, "stranger", bonds)
    low, value, high = word_band("fair")
    wide = BOND["stranger"].value
    return Statement(
        holds=None, band=(low / wide, value, high * wide), basis="stranger", from_words="nothing that is recorded"
    )


def _said(bonds: Bonds, polymer: Polymer, surface: str, agent: str) -> Pair | None:
    """What is said of the very pair; what is said of the polymer alone goes before its family."""
    found = [
        each for each in _pairs_on(bonds, surface) if each.agent == agent and each.is_of(polymer.id, polymer.family)
    ]
    return min(found, key=lambda each: not each.polymers, default=None)


def _pairs_on(bonds: Bonds, surface: str) -> tuple[Pair, ...]:
    known = bonds.pairs.get(surface)
    return known.pairs if known else ()


def _everywhere(bonds: Bonds, polymer: Polymer, agent: str) -> Iterator[tuple[str, Pair]]:
    for key in bonds.pairs:
        for each in _pairs_on(bonds, key):
            if each.agent == agent and each.is_of(polymer.id, polymer.family):
                yield key, each


def _of_pair(pair: Pair, bonds: Bonds, surface: str) -> Statement:
    low, value, high = word_band(pair.holds)
    if pair.rival is not None:
        other = word_band(pair.rival)
        low, value, high = min(low, other[0]), value**MAIN * other[1] ** (1.0 - MAIN), max(high, other[2])
    said = f"practice: {HOLDS[pair.holds]}"
    if pair.rival is not None:
        said += f", or {HOLDS[pair.rival]}"
    return Statement(
        holds=pair.holds,
        band=(low, value, high),
        basis="tried",
        pair=pair,
        bed_c=pair.bed_c,
        from_words=said + (f" ({pair.doubt})" if pair.doubt else ""),
    )


def _drawn(found: list[tuple[Pair, str]], basis: str, bonds: Bonds) -> Statement:
    logs = [math.log(word_band(each.holds)[1]) for each, _ in found]
    middle = math.exp(sum(logs) / len(logs))
    wide = BOND["neighbour" if basis == "alike" else "stranger"].value
    low, high = math.exp(min(logs)) / 2.5, math.exp(max(logs)) * 2.5
    nearest = min(HOLDS, key=lambda word: abs(math.log(word_band(word)[1] / middle)))
    names = [bonds.surfaces[key].name if key in bonds.surfaces else key for _, key in found]
    named = ", ".join(dict.fromkeys(names[:3])) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
    beds = [each.bed_c for each, _ in found if each.bed_c is not None]
    return Statement(
        holds=nearest,
        band=(low / wide, middle, high * wide),
        basis=basis,
        bed_c=beds[0] if beds else None,
        from_words=f"nobody tried it; drawn from {named}",
    )
