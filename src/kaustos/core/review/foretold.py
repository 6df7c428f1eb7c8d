"""What was foretold beside what was found, and how good that is: by prediction and machine."""

import math
from collections.abc import Iterable, Mapping, Sequence

import attrs
import numpy as np
from scipy.special import ndtr

from kaustos.core.belief.predictions import GRIP
from kaustos.core.planning.pace import learned_pace, took_over_told
from kaustos.core.records import Run
from kaustos.core.review.contract import Bonded
from kaustos.core.review.experience import judge_run, tallies
from kaustos.core.review.plate.case import lifted_in
from kaustos.core.review.registry import CODES

FEW = 3  # pairs from which it is said that a machine is off
OFF = math.log(1.1)  # by which its middle is off before it is said


@attrs.frozen(kw_only=True)
class Pair:
    """One figure as it was foretold from what was known until then, and as it was found."""

    key: str  # hours or weld
    machine: str  # id
    source: str  # id of the run or proof
    at_utc: str
    told: tuple[float, float, float]  # least, likely, most
    found: float
    before: tuple[float, float, float]  # the same with nothing learned
    after: tuple[float, float, float] | None = None  # what is believed now that it was found

    @property
    def held(self) -> bool:
        """Whether it was found within its band."""
        return self.told[0] <= self.found <= self.told[2]


@attrs.frozen(kw_only=True)
class Score:
    """How good a prediction is on one machine."""

    key: str
    machine: str
    count: int
    held: int
    off: float  # found over likely, the middle of all [1]
    narrower: float  # width of the band over what it was with nothing learned, as logarithms, the last one [1]

    @property
    def is_off(self) -> bool:
        """Whether it is off by more than a tenth, where there are enough to say so."""
        return self.count >= FEW and abs(math.log(self.off)) > OFF


@attrs.frozen(kw_only=True)
class Odds:
    """Chances that were told beside how often it came true."""

    machine: str
    count: int
    expected: float
    seen: int
    low: int  # fewest and most that such chances give, 95 of 100 times
    high: int


@attrs.frozen(kw_only=True)
class Warned:
    """One warning: ended runs in which it stood, and those that showed it."""

    code: str
    of: int
    right: int


def hours_pairs(runs: Iterable[Run]) -> tuple[Pair, ...]:
    """Hours of whole runs, each foretold from its file and from the runs of its machine before it.

    Parameters
    ----------
    runs : iterable of Run
        The log [h]

    Returns
    -------
    tuple of Pair
        In the order of time [h]
    """
    seen: dict[str, list[float]] = {}
    found, plain = [], learned_pace([])
    for run in sorted(runs, key=lambda each: each.started_utc):
        ratio, machine = took_over_told(run), run.machine or ""
        if ratio is None or run.told_h is None:
            continue
        told = learned_pace(seen.get(machine, []))
        found.append(
            Pair(
                key="hours", machine=machine, source=run.id, at_utc=run.started_utc, found=run.told_h * ratio,
                told=(run.told_h * told.low, run.told_h * told.value, run.told_h * told.high),
                before=(run.told_h * plain.low, run.told_h * plain.value, run.told_h * plain.high),
            )
        )  # fmt: skip
        seen.setdefault(machine, []).append(ratio)
    return tuple(found)


def scores_of(pairs: Sequence[Pair]) -> tuple[Score, ...]:
    """How good each prediction is on each machine.

    Parameters
    ----------
    pairs : sequence of Pair
        Of any predictions, in the order of time [-]

    Returns
    -------
    tuple of Score
        Those with most pairs first [-]
    """
    groups: dict[tuple[str, str], list[Pair]] = {}
    for each in pairs:
        groups.setdefault((each.key, each.machine), []).append(each)
    found = [
        Score(
            key=key, machine=machine, count=len(mine), held=sum(each.held for each in mine),
            off=float(np.median([each.found / each.told[1] for each in mine])),
            narrower=_width(mine[-1].after or mine[-1].told) / _width(mine[-1].before),
        )
        for (key, machine), mine in groups.items()
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda each: (each.key, -each.count, each.machine)))


def _width(band: tuple[float, float, float]) -> float:
    return math.log(max(band[2], 1e-9) / max(band[0], 1e-9))


def lift_odds(bonded: Mapping[str, Sequence[Bonded]], machine_of: Mapping[str, str]) -> tuple[Odds, ...]:
    """Parts that lifted or came off beside how many the book alone foretold.

    Parameters
    ----------
    bonded : mapping of str to sequence of Bonded
        By plate: grip over load as a logarithm, and what was seen [1]
    machine_of : mapping of str to str
        By run, the machine that it ran on [-]

    Returns
    -------
    tuple of Odds
        By machine [-]

    Notes
    -----
    Each run has the chance that a normal error of the book and the scatter of outcomes leaves; the count of independent
    chances is taken as normal.
    """
    wide = math.hypot(GRIP.spread, GRIP.scatter)
    groups: dict[str, list[tuple[float, bool]]] = {}
    for each in (one for mine in bonded.values() for one in mine):
        chance = float(ndtr(-each.over_load / wide))
        groups.setdefault(machine_of.get(each.run, ""), []).append((chance, lifted_in(each)))
    found = []
    for machine, mine in sorted(groups.items()):
        chances = np.array([chance for chance, _ in mine])
        middle, spread = float(chances.sum()), float(np.sqrt((chances * (1.0 - chances)).sum()))
        low, high = max(0, math.floor(middle - 1.96 * spread)), min(len(mine), math.ceil(middle + 1.96 * spread))
        seen = sum(lifted for _, lifted in mine)
        found.append(Odds(machine=machine, count=len(mine), expected=middle, seen=seen, low=low, high=high))
    return tuple(found)


def warnings_of(runs: Sequence[Run]) -> tuple[Warned, ...]:
    """Every warning that ended runs can tell of, those that stood most often first.

    Parameters
    ----------
    runs : sequence of Run
        The log [-]

    Returns
    -------
    tuple of Warned
        Codes that are no longer known are left out [-]
    """
    found = (Warned(code=code, of=each.of, right=each.right) for code, each in tallies(runs).items() if code in CODES)
    return tuple(sorted(found, key=lambda each: (-each.of, each.code)))


def not_foretold(runs: Iterable[Run]) -> dict[str, int]:
    """What ended runs showed though nothing had said so.

    Parameters
    ----------
    runs : iterable of Run
        The log [-]

    Returns
    -------
    dict of str to int
        How often, by what was seen, the most frequent first [-]
    """
    counts: dict[str, int] = {}
    for run in runs:
        if run.is_ended and not run.retired:
            for what in judge_run(run).not_foretold:
                counts[what] = counts.get(what, 0) + 1
    return dict(sorted(counts.items(), key=lambda each: (-each[1], each[0])))
