"""Every prediction that learns, with what shares its error and what can show it."""

import math

from kaustos.core.belief.prediction import Level, Prediction
from kaustos.core.estimates.belief import BELIEF

NOT_LEVELS = ("scatter", "drift", "changed")


def _of(key: str, title: str, levels: tuple[str, ...], shown_by: tuple[str, ...]) -> Prediction:
    own = {each: BELIEF[f"{key}.{each}"].value for each in levels}
    whole = math.sqrt(sum(each**2 for each in own.values()))
    scatter, drift, changed = (BELIEF[f"{key}.{each}"].value for each in NOT_LEVELS)
    return Prediction(
        key=key, title=title, scale="factor", unit="1", spread=whole,
        levels=tuple(Level(name=each, share=(own[each] / whole) ** 2) for each in levels),
        scatter=scatter, drift=drift, changed=changed, shown_by=shown_by,
    )  # fmt: skip


GRIP = _of(
    "grip", "Grip of a pair over the book", ("shop", "polymer", "plate", "lot"),
    ("parts that held or lifted", "parts that stuck or tore the surface", "parts that let go by themselves"),
)  # fmt: skip
WELD = _of(
    "weld", "Strength across layers over what was foretold", ("shop", "machine", "polymer", "lot"),
    ("pulled specimens", "pieces broken by hand"),
)  # fmt: skip
PREDICTIONS = {each.key: each for each in (GRIP, WELD)}
