"""How far predictions err before anything was seen, and what shares their error: estimates of shops' differences."""

from kaustos.core.estimates.assumed import Area, Assumed, practice


def _of(key: str, what: str, **spreads: float) -> tuple[Assumed, ...]:
    """Spreads of one prediction, by level, each known to a factor of two; as logarithms of a factor."""
    words = {
        "scatter": "by which one outcome differs from the next, all else the same",
        "drift": "by which it moves away in a year",
        "changed": "by which it differs once the nozzle, sheet or sensor was changed",
    }
    return tuple(
        practice(f"{key}.{name}", value, 0.5 * value, 2.0 * value, "1", f"{what}: "
                 + words.get(name, f"by which one {name} differs from another"))
        for name, value in spreads.items()
    )  # fmt: skip


BELIEF = Area(
    "What was seen",
    practice("undated", 3.0, 1.0, 10.0, "years", "age that is taken for what was seen on an unknown day"),
    *_of("grip", "grip of a pair over the book", shop=0.14, polymer=0.24, plate=0.33, lot=0.17, scatter=0.35,
         drift=0.1, changed=0.3),
    *_of("weld", "strength across layers over what was foretold", shop=0.1, machine=0.18, polymer=0.25, lot=0.16,
         scatter=0.12, drift=0.05, changed=0.12),
)  # fmt: skip
