"""What can be done about taking a part off: the door, the hour of the start, heat held."""

from kaustos.core.review.contract import Advice
from kaustos.core.review.plate.cooling import CoolingCase

AJAR = Advice("Open the door a hand's width once it is firm", "Then wide; never a fan on a hot plate of glass.")
LATER = Advice("Start it so that somebody is there", "Bench 90, page Day; hours of the shop in Settings.")
PARTED = Advice("Part them by an agent, or renew the surface", "Bench 40 says which agent parts the pair.")
RENEWED = Advice("Clean it, coat it anew, or renew the surface", "Page Plates: its prints are counted anew.")
TOGETHER = "Plate and chamber together, not one of both; film and surface age meanwhile, and somebody is on call."
FIRM = "Heaters off, door shut, until the part is firm."


def held(case: CoolingCase) -> Advice:
    """Held hot until somebody comes, with what an hour of it takes."""
    if case.kwh_per_h is None:
        return Advice("Hold it hot until somebody comes", TOGETHER)
    values = {"kwh": f"{case.kwh_per_h.value:.2f}"}
    return Advice("Hold it hot until somebody comes: {kwh:text} kWh an hour", TOGETHER, values)


def kept_shut(case: CoolingCase) -> Advice:
    """The door kept shut until the part is firm."""
    until = case.shut.until if case.shut is not None else None
    if until is None:
        return Advice("Keep it shut over night", FIRM)
    return Advice("Keep it shut for {hours:duration}", FIRM, {"hours": until.value / 60.0})
