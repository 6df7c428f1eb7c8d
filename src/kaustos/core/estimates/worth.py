"""What it takes to find something out before a run, and how far the answer may be off."""

from kaustos.core.estimates.assumed import Area, Assumed, practice


def _of(key: str, what: str, work_h: float, machine_h: float, grams: float, error: float) -> tuple[Assumed, ...]:
    """Effort and error, as a logarithm of a factor, of one way of finding out; each known to a factor of two."""
    known = (
        ("work", work_h, "h", "work"), ("machine", machine_h, "h", "time of the machine"),
        ("grams", grams, "g", "filament"), ("error", error, "1", "how far the answer is off"),
    )  # fmt: skip
    return tuple(
        practice(f"{key}.{name}", value, 0.5 * value, 2.0 * value, unit, f"{what}: {words}")
        for name, value, unit, words in known
    )


WORTH = Area(
    "Finding out first",
    practice("runs", 20.0, 5.0, 100.0, "1", "runs of a recipe over which what was found out pays"),
    *_of("specimens", "five specimens printed, pulled or broken across their layers", 0.75, 3.0, 30.0, 0.12),
    *_of("strand", "a strand laid in free air and looked at", 0.1, 0.15, 2.0, 0.5),
    *_of("coupon", "a coupon printed on the plate and pulled off with a scale", 0.25, 0.5, 8.0, 0.35),
    practice("probe.work", 0.5, 0.25, 1.0, "h", "a second sensor beside the part: work"),
    practice("probe.machine", 1.0, 0.5, 2.0, "h", "a second sensor beside the part: time of the machine"),
    practice("probe.error", 2.0, 1.0, 4.0, "K", "a second sensor beside the part: how far the answer is off"),
)
