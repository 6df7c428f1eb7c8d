"""Whether parts come off one plate harder, or more easily, as it ages."""

from collections.abc import Sequence

import attrs

from kaustos.core.estimates import RUN
from kaustos.core.planning.rank_trends import rank_trend

EFFORTS = {"let_go": 0.0, "easy": 1.0, "hard": 2.0, "stuck": 3.0, "torn": 4.0, "broke": 4.0}


@attrs.frozen(kw_only=True)
class BondTrend:
    """What the last parts of one polymer on one plate say."""

    says: str  # harder, looser, steady, unknown
    runs: int


def bond_trend(off: Sequence[str]) -> BondTrend:
    """Whether parts come off harder or more easily from one to the next.

    Parameters
    ----------
    off : sequence of str
        How each came off, the oldest first: keys of EFFORTS; others are left out [-]

    Returns
    -------
    BondTrend
        Unknown with too few of them [-]

    Notes
    -----
    Kendall's rank correlation of effort with order, ties counted (M. G. Kendall, Rank Correlation Methods): no
    distance between two efforts is assumed.

    Examples
    --------
    >>> bond_trend(["let_go", "let_go", "easy", "easy", "hard", "stuck"]).says
    'harder'
    """
    efforts = [EFFORTS[each] for each in off if each in EFFORTS][-round(RUN["trend_most"].value) :]
    if len(efforts) < RUN["trend_fewest"].value:
        return BondTrend(says="unknown", runs=len(efforts))
    if len(set(efforts)) == 1:
        return BondTrend(says="steady", runs=len(efforts))
    score, chance = rank_trend(efforts)
    says = "steady"
    if chance < RUN["trend_chance"].value:
        says = "harder" if score > 0.0 else "looser"
    return BondTrend(says=says, runs=len(efforts))
