"""All polymers in the order in which they suit a brief and a shop, each with its margin and its reasons."""

import math
from collections.abc import Iterable

import attrs

from kaustos.core.estimates import MACHINE, PURPOSE
from kaustos.core.memo import by_identity
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import ZONES, Dryer, Machine, Polymer, Rules
from kaustos.core.records.recipe import Brief
from kaustos.core.review.brief.service import margin_of, wanted_margin
from kaustos.core.review.brief.suiting import VERDICTS, Reason, reasons_for
from kaustos.core.review.contract import Estimate


@attrs.frozen
class Lack:
    """What one machine lacks for a polymer: by how much each zone falls short [K], None where reach is unknown."""

    machine: str
    zones: tuple[tuple[str, float | None], ...]

    @property
    def total_k(self) -> float:
        """All shortfalls together; one that is unknown counts as 50 K [K]."""
        return sum(50.0 if by is None else by for _, by in self.zones)


@attrs.frozen
class Candidate:
    """One polymer for a purpose."""

    polymer: str
    name: str
    verdict: str
    margin: Estimate | None
    reasons: tuple[Reason, ...]
    runs_on: tuple[str, ...]  # names of the shop's machines that reach all its windows
    nearest: Lack | None  # the machine that lacks least, where none runs it
    price_per_litre: Estimate | None
    hindrances: tuple[str, ...]  # what makes it hard to run here
    dryer_c: tuple[float, float] | None
    fan: tuple[float, float] | None
    abrasion: float | None

    @property
    def would_do(self) -> bool:
        """Whether nothing speaks against it, nothing is unknown, and this shop can run it."""
        return self.verdict not in ("against", "unknown") and bool(self.runs_on)


def price_per_litre(polymer: Polymer | None) -> Estimate | None:
    """Price of a litre of polymer, so that light and dense ones compare.

    Parameters
    ----------
    polymer : Polymer or None
        Price and density [money/kg, g/cm^3]

    Returns
    -------
    Estimate or None
        Price with the range of the price [money/l]; None where either is unknown
    """
    price = polymer.value("price_per_kg") if polymer else None
    density = polymer.value("density_g_cm3") if polymer else None
    if price is None or density is None:
        return None
    value, low, high = (each * density.value for each in (price.value, price.low, price.high))
    return Estimate(value, low, high, "money/l", "price × density", f"{price.source}; density: {density.source}")


@by_identity(16_384)
def lack_of(machine: Machine, polymer: Polymer, rules: Rules) -> Lack:
    """By how much each zone of a machine falls short of a polymer's window.

    Parameters
    ----------
    machine : Machine
        The machine as it stands [°C]
    polymer : Polymer
        Holds the windows [°C]
    rules : Rules
        Hold the hard stop of a lined hot end [°C]

    Returns
    -------
    Lack
        Zones that fall short [K]
    """
    short: list[tuple[str, float | None]] = []
    for zone in ZONES:
        low = polymer.value(f"{zone}_low_c")
        reach = reach_of(machine, zone, rules).max_c
        if low is None or reach is None:
            short.append((zone, None))
        elif reach < low.value:
            short.append((zone, low.value - reach))
    return Lack(machine.name, tuple(short))


def rank(
    brief: Brief, polymers: Iterable[Polymer], machines: tuple[Machine, ...], rules: Rules,
    dryers: tuple[Dryer, ...] = (),
) -> tuple[Candidate, ...]:  # fmt: skip
    """Polymers for a brief, the best first.

    Parameters
    ----------
    brief : Brief
        What the part must stand [°C, K, MPa]
    polymers : iterable of Polymer
        What there is to choose from [-]
    machines : tuple of Machine
        What this shop can run [°C]
    rules : Rules
        Thresholds of the shop, and what price, margin and ease count in the order [K, 1]
    dryers : tuple of Dryer
        What this shop can dry with [°C]

    Returns
    -------
    tuple of Candidate
        What would do here; then what suits but cannot be run; then what only its crystals carry; then the unknown; then
        what does not suit [-]

    Notes
    -----
    Within each, a doubling of the price of a litre, 25 K of margin beyond what is wanted (up to 50 K) and each
    hindrance on this shop's machines count as the rules say. What is washed away after printing is no candidate.
    """
    found = [_candidate(brief, each, machines, rules, dryers) for each in polymers if not each.is_support]
    wanted = wanted_margin(brief) or 0.0
    return tuple(sorted(found, key=lambda each: _order(each, wanted, rules)))


def _candidate(
    brief: Brief, polymer: Polymer, machines: tuple[Machine, ...], rules: Rules, dryers: tuple[Dryer, ...]
) -> Candidate:
    reasons = reasons_for(brief, polymer)
    lacks = [lack_of(machine, polymer, rules) for machine in machines]
    runs_on = tuple(lack.machine for lack in lacks if not lack.zones)
    return Candidate(
        polymer.id, polymer.name, min((reason.verdict for reason in reasons), key=VERDICTS.index),
        margin_of(brief, polymer), reasons, runs_on,
        None if runs_on or not lacks else min(lacks, key=lambda lack: lack.total_k),
        price_per_litre(polymer), _hindrances(brief, polymer, rules, dryers),
        _pair(polymer, "dryer_low_c", "dryer_high_c"), _pair(polymer, "fan_low", "fan_high"),
        datum.value if (datum := polymer.value("abrasion")) else None,
    )  # fmt: skip


def _pair(polymer: Polymer, low: str, high: str) -> tuple[float, float] | None:
    one, two = polymer.value(low), polymer.value(high)
    return (one.value, two.value) if one and two else None


WEARS, HOT_CHAMBER_K = MACHINE["wears_much"].value, PURPOSE["warm_air"].value
LARGE_MM, SHRINKS = PURPOSE["large"].value, PURPOSE["shrinks"].value


def _hindrances(brief: Brief, polymer: Polymer, rules: Rules, dryers: tuple[Dryer, ...]) -> tuple[str, ...]:
    low, chamber, wear, shrinks = (
        polymer.value(key) for key in ("dryer_low_c", "chamber_low_c", "abrasion", "crystal_shrinkage_pct")
    )
    longest = max(brief.size_x_mm or 0.0, brief.size_y_mm or 0.0)
    hottest = max((each.max_c for each in dryers if each.max_c is not None), default=None)
    found = (
        (polymer.absorbs and low is not None and hottest is not None and hottest < low.value, "no dryer hot enough"),
        (wear is not None and wear.value > WEARS, "wears the nozzle"),
        (chamber is not None and chamber.value > rules.room_c + HOT_CHAMBER_K, "wants a hot chamber"),
        (shrinks is not None and shrinks.value >= SHRINKS and longest >= LARGE_MM, "curls off a plate at such a size"),
        (brief.character is None and polymer.character == "rubbery", "gives way, being rubbery"),
        (bool(polymer.cautions), "asks for care with fumes or dust"),
    )
    return tuple(words for is_so, words in found if is_so)


def _order(candidate: Candidate, wanted_k: float, rules: Rules) -> tuple[int, bool, float, str]:
    soft = candidate.margin is not None and candidate.margin.value <= 0.0
    group = {"against": 3, "unknown": 2}.get(candidate.verdict, int(soft))
    price = candidate.price_per_litre.value if candidate.price_per_litre else DEAR
    beyond = candidate.margin.value - wanted_k if candidate.margin else 0.0
    score = rules.weigh_price * math.log2(max(price, 1e-3)) + rules.weigh_ease * len(candidate.hindrances)
    score -= rules.weigh_margin * min(max(beyond, -50.0), 50.0) / 25.0
    return group, not candidate.runs_on, score, candidate.name


DEAR = 1e4  # a litre whose price nobody knows
