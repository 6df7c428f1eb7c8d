"""What every review package makes its review with: findings, questions, offers, the conclusion."""

from collections.abc import Iterable, Mapping

import attrs

from kaustos.core.records import Recipe
from kaustos.core.records.fields import declaration, value_at
from kaustos.core.review.contract import (
    PENDING,
    Absent,
    Advice,
    Cap,
    Caution,
    Code,
    Context,
    Estimate,
    Figure,
    Finding,
    Missing,
    OperationReview,
    Remedy,
    Saying,
    Set,
    worst_first,
)
from kaustos.core.review.grading import standing_of
from kaustos.core.review.money import WHY, at_stake, comes_true, expected_loss, run_cost

MOST_OFFERS = 5  # more choices than keys are no help
Offers = Mapping[tuple[str, str], tuple[Remedy, ...]]  # by code and field of a finding


def make_finding(
    code: Code, recipe: Recipe, context: Context, field: str, remedies: tuple[Remedy | Absent, ...],
    values: Mapping[str, float | str | None], *, severity: str = "", cost: Estimate | None = None,
    spare_part: float | None = None, chance: float | None = None, due_to: str = "",
) -> Finding:  # fmt: skip
    """A finding of a code with what ignoring it costs; the polymer is named, values that are not known are left out.

    Its values are in shop units, the price of a spare part and a cost that is sure in the shop's currency [money], a
    chance that was drawn is that of coming true in the next run [1]. What can hurt people has no price.
    """
    severity = severity or code.severity
    band, basis = comes_true(code, severity), "prior"
    if code.is_safety:
        basis = "people"
    elif cost is not None:
        band, basis = (1.0, 1.0, 1.0), "sure"
    elif chance is not None:
        band, basis = (chance, chance, chance), "draws"
    stake = cost or at_stake(run_cost(recipe, context), context.rules.wage_per_h, spare_part)
    priced = None if code.is_safety else cost or expected_loss(stake, band, WHY[basis])
    known = {key: value for key, value in values.items() if value is not None}
    every: dict[str, float | str] = {"polymer": context.polymer.name if context.polymer else "", **known}
    return Finding(
        code.code, severity, every, field, priced,
        tuple(each for each in remedies if _does(recipe, each)), chance=band[1], basis=basis, stake=stake,
        due_to=due_to,
    )  # fmt: skip


def _does(recipe: Recipe, remedy: Remedy | Absent) -> bool:
    """Whether a remedy changes anything."""
    if not isinstance(remedy, Set):
        return True
    return any(
        "/" in path or declaration(Recipe, path) is None or value_at(recipe, path) != value
        for path, value in remedy.changes.items()
    )


@attrs.frozen
class Question:
    """A field that the operation asks for: whether it is recorded, and the worst grade its value could bring."""

    field: str
    is_known: bool
    worst: str
    is_required: bool = True


def offered(findings: Iterable[Finding], offers: Offers | None, waiting: frozenset[str]) -> tuple[Finding, ...]:
    """Findings with what else the shop has for them behind what of their own does something, before mere advice.

    A place is kept while it is tried, and advice waits behind it: what a key does never becomes another thing.
    """
    return tuple(_with_offers(finding, offers, waiting) for finding in findings)


def _with_offers(finding: Finding, offers: Offers | None, waiting: frozenset[str]) -> Finding:
    own = finding.remedies
    doing = [place for place, each in enumerate(own, 1) if not isinstance(each, Advice)]
    ahead = max(doing, default=len(own))
    if offers is None:
        return attrs.evolve(finding, remedies=(*own[:ahead], PENDING)) if finding.code in waiting else finding
    found = offers.get((finding.code, finding.field), ())[:MOST_OFFERS]
    return attrs.evolve(finding, remedies=(*own[:ahead], *found, *own[ahead:])) if found else finding


def conclude(
    number: int, headline: str, figures: tuple[Figure, ...], findings: Iterable[Finding],
    cautions: tuple[Caution, ...], questions: Iterable[Question], codes: Mapping[str, Code],
    more_caps: tuple[Cap, ...] = (), tile: tuple[Saying, ...] = (),
) -> OperationReview:  # fmt: skip
    """The operation's review: worst findings first, what is asked and missing from one list, standing and caps."""
    asked, ordered = tuple(questions), worst_first(findings)
    missing = tuple(Missing(each.field, each.worst, each.is_required) for each in asked if not each.is_known)
    caps = ((each.code, codes[each.code].cap_of(each.severity)) for each in ordered)
    return OperationReview(
        number, standing_of(tuple(each.severity for each in ordered), missing), headline, figures, ordered, cautions,
        missing, (*(Cap(code, cap) for code, cap in caps if cap), *more_caps), len(asked), tile,
    )  # fmt: skip
