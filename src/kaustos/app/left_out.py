"""What a run went without, and what that would have prevented: first suspects, and the first thing to do next time."""

import functools

from kaustos.core.records import Run, RunStep
from kaustos.core.review import OPERATIONS
from kaustos.core.review.run.preflight import LINES

LOOKED_FOR = frozenset(("corner_lift", "came_off", "starved"))  # what a look at layer one or the corners is for
SOAKED_FOR = frozenset(("warped", "layers_split", "weak_layers", "corner_lift"))
DRIED_FOR = frozenset(("bubbles", "strings", "weak_layers", "layers_split"))
BY_HAND = {"look": LOOKED_FOR, "corners": LOOKED_FOR, "hot": SOAKED_FOR, "dry": DRIED_FOR, "dried": DRIED_FOR}


@functools.cache
def prevents(key: str) -> frozenset[str]:
    """What shows in a run that went without a step: of a line of the list by the findings that stand in it."""
    if key in BY_HAND:
        return BY_HAND[key]
    line = next((each for each in LINES if f"check.{each.key}" == key), None)
    if line is None:
        return frozenset()
    codes = (code for operation in OPERATIONS for code in operation.codes if code.code.startswith(line.codes))
    return frozenset(what for code in codes for what in code.shows)


def left_out(run: Run) -> tuple[RunStep, ...]:
    """Steps that a run went without and that would have prevented what was seen in it."""
    return tuple(each for each in run.steps if each.waived and prevents(each.key) & run.seen)
