"""What can be done about missing evidence."""

from kaustos.core.review.contract import Advice, Remedy, Set

REPEATED = Advice("Print it again, nothing changed", "Same settings, same machine; the log counts it by itself.")
ANOTHER = Advice("Print another shape under the same settings", "Tall and thin, or long and flat: page Ladder.")
PULLED = Advice("Print and pull specimens", "Three or more, across and along, printed as the part is: page Pull.")
KEPT = Advice("Keep the ratio with machine and lot", "Page Pull, by its button: the weld is graded by it then.")
ACCEPTED = Advice("Accept it by name and reason, or scrap it", "Page Sizes: passes, used as it is, scrapped.")
COUPON = Advice("Print, weigh, measure and tap a coupon of this lot", "Page Tone; 20 minutes, and it passes or not.")
LOOKED = Advice("Look at the nozzle first", "Room Stock, page Nozzles: bore and tip; then judge the figures.")
CHANGED = Advice("Prove it anew on the machine as it is", "The cheapest test that the changed part can spoil.")
FLATTER = Advice("Look at grip, chamber and anneal", "Benches 40, 70, 110 name the lever; measure it cold, on a flat.")
AWAY = Advice("Read what was tried there first", "Page Log of this bench: what, when, and what else was tried.")
DRIFTED = Advice("Tap it again, then look what changed", "Lot, nozzle, water, oven: one at a time.")
SERVED = Advice("Take the service life as the limit", "Replace it in time, or judge another polymer: bench 10.")


def first_test(title: str) -> Remedy:
    """The cheapest test that is open."""
    return Advice(f"Print the test first: {title.lower()}", "Under these settings; the ladder moves on by itself.")


def holes_by(error_mm: float) -> Remedy:
    """The error of holes as it was measured, kept with the part."""
    return Set("Correct holes by {off:length}", {"part.hole_error_mm": error_mm}, {"off": error_mm})
