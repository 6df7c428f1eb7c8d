"""What can be done about supports: another way, another gap, another bath, another shape."""

from kaustos.core.estimates import SUPPORT
from kaustos.core.review.contract import Advice, Remedy, Set
from kaustos.core.review.supports.case import SECOND, SupportCase, Way

OFFERED = 3
NOT_OFFERED = ("none", "coat")  # a coat wants somebody there, and a weld that bears the pause: the table of ways has it
TURN = Advice("Turn the part", "Another side down, page Part of bench 40: what hangs is measured again.")
HANGS = "There {hangs:area} would hang, with the part {high:length} high: bench 40, page Part, Lies on."
DRAW = Advice(
    "Draw it without",
    "In the drawing: a teardrop bore, 45° under a ledge, a thin skin across a hole that is drilled open.",
)
OPEN = Advice("Draw a way out", "A hole as wide as the tool, or two for a bath, or a part in two halves.")
COUPON = Advice("Try a coupon of both", "Three bars at the gap that is set, broken off by hand.")
NOTE = Advice("Look on the tank, and note it", "Stock, page Baths: when it was mixed, what it holds, how warm it is.")
IN_BATH = Advice("Put a coupon in the bath", "The same heat and hours, weighed before and after drying, bent by hand.")


def turned(case: SupportCase) -> Advice:
    """Turn it: onto the side on which least would hang, where that is clearly less."""
    now = sum(each.area_mm2 for each in case.needs or ())
    best = min(case.sides, key=lambda each: each.hangs_mm2, default=None)
    if best is None or best.hangs_mm2 > SUPPORT["turn_worth"].value * now:
        return TURN
    values = {"area": best.area_mm2 / 100.0, "high": best.height_mm, "hangs": best.hangs_mm2 / 100.0}
    return Advice("Turn it onto its side of {area:area}", HANGS, values)


def other_ways(case: SupportCase) -> tuple[Remedy, ...]:
    """The cheapest ways that are to be had, others than the one that is set."""
    now = case.chosen
    some = [each for each in case.ways if each.is_possible and each.key not in NOT_OFFERED and each is not now]
    kinds: dict[str, Way] = {}
    for each in some:
        kinds.setdefault(each.key, each)
    return tuple(set_way(each) for each in list(kinds.values())[:OFFERED])


def set_way(way: Way) -> Set:
    """Hold it that way."""
    changes: dict[str, float | str | None] = {"supports.way": way.key}
    changes["supports.material"] = way.material.id if way.material is not None else None
    if way.contact_only is not None:
        changes["supports.contact_only"] = way.contact_only
    if way.key in SECOND or way.key == "coat":
        changes["supports.gap_mm"] = 0.0
    if way.key == "soluble":
        changes["supports.bath_ml"], changes["supports.bath_c"] = None, None
    values: dict[str, float | str] = {
        "way": way.title, "work": way.cost.attended_min / 60.0, "money": way.each,
    }  # fmt: skip
    return Set("{way:text}: {work:duration} of work, {money:money} each", changes, values)


def take_way(way: Way) -> Remedy:
    """Hold it that way, or say why not."""
    return set_way(way) if way.is_possible else Advice(f"{way.title}: not to be had", "; ".join(way.against) + ".")
