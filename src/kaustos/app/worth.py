"""What is worth finding out first, in words: for the window and the command line."""

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from kaustos.app.wording import Wording

if TYPE_CHECKING:  # its arithmetic is loaded by what asks for it
    from kaustos.core.review.worth import Measurement

MOST_TOLD = 2
WETTER = "moisture"  # of which less is better


def worth_lines(found: "Sequence[Measurement]", wording: Wording) -> Iterator[str]:
    """Each measurement: what it takes, what it saves, and which answer would turn what is best."""
    for each in found[:MOST_TOLD]:
        takes = f"{wording.value(each.work_h, 'duration')} of work, {wording.value(each.cost, 'money')}"
        runs = f"{each.pays_after} run{'' if each.pays_after == 1 else 's'}"
        saves = f"it saves {wording.value(each.worth.value, 'money')} a run and pays after {runs}"
        yield f"{each.title}: {takes}; {saves}. {_answer(each, wording)}"


def _answer(each: "Measurement", wording: Wording) -> str:
    """What its answer would mean."""
    worth = each.worth
    often = f"about {max(round(10.0 * worth.turns), 1)} in 10 answers"
    if worth.at is None:
        return f"What is best now turns with {often}."
    mark = wording.value(worth.at, each.quantity)
    if worth.runs_now:
        side = "over" if each.quantity == WETTER else "under"
        return f"As it stands it is best run; {side} {mark}, {often}, it is not."
    side = "up to" if each.quantity == WETTER else "from"
    return f"As it stands it is best not run; {side} {mark}, {often}, it is."
