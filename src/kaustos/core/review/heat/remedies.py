"""What helps against a finding of welds and heat, beside the levers that are tried."""

import math
from collections.abc import Iterator

from kaustos.core.planning.layer_times import more_time
from kaustos.core.review.contract import Advice, Context, Remedy, Set
from kaustos.core.review.heat.case import HeatCase

CURE_FIRST = Advice(
    "Cure first what it comes of",
    "No lever of heat is left on this machine; the other finding has what helps here too.",
)
NO_LEVER = Advice(
    "No lever is left on this machine", "Another machine, another polymer, or a part that is not loaded across."
)
SPECIMENS = Advice(
    "Break or pull specimens across the layers", "Made like the part, on this machine; log the ratio on this bench."
)
_WAYS = {
    "slow": "it slows down",
    "wait": "it waits",
    "copies": "more copies",
    "tower": "a tower beside it",
}


def more_layer_time(case: HeatCase, needed: float | None, context: Context) -> Iterator[Remedy]:
    """What gives layers the time they need [s], each with its price; colder air where no time is enough."""
    shape, density = case.melt.shape, context.polymer.value("density_g_cm3") if context.polymer else None
    if needed is None:
        yield Advice("Colder air, or a polymer that sets", "In air this hot no time is enough: take the chamber down.")
        return
    least = float(math.ceil(needed * 1.02))
    yield Set("Each layer takes at least {least:seconds}", {"heat.least_layer_s": least}, {"least": least})
    if shape is None or density is None:
        return
    ways = more_time(shape, case.pace, least, density.value)
    words = "; ".join(f"{_WAYS[each.key]}: {each.minutes:.0f} min and {each.grams:.0f} g more" for each in ways)
    yield Advice("Slow down, copies, or a tower: compare", words + ". A loose copy spoils all.")
