"""What can be done about taking a part off: the door, the hour of the start, heat held."""

from kaustos.core.review.contract import Advice
from kaustos.core.review.plate.cooling import CoolingCase
from kaustos.core.review.release.case import ReleaseCase

AJAR = Advice("Open the door a hand's width once it is firm", "Then wide; never a fan on a hot plate of glass.")
LATER = Advice("Start it so that somebody is there", "Bench 90, page Day; hours of the shop in Settings.")
PARTED = Advice("Part them by an agent, or renew the surface", "Bench 40 says which agent parts the pair.")
RENEWED = Advice("Clean it, coat it anew, or renew the surface", "Page Plates: its prints are counted anew.")
TOGETHER = "Plate and chamber together, not one of both; film and surface age meanwhile, and somebody is on call."
CUT = "The timer of the machine ends it after {timer:duration}: arm it anew first, never bridge it."
REMIND = "End it when the part is off: a note at the machine, an alarm in the calendar."
FIRM = "Heaters off, door shut, until the part is firm."


def held(case: ReleaseCase) -> Advice:
    """Held hot until somebody comes: for how long, what it takes, and whether a timer ends it first."""
    kwh, hold = case.cooling.kwh_per_h, case.hold_h
    if hold is None:
        return Advice("Hold it hot until somebody comes", TOGETHER)
    cut = case.timer_h is not None and case.timer_h < hold
    words = f"{TOGETHER} {CUT if cut else REMIND}"
    values: dict[str, float | str] = {"hours": hold}
    if cut and case.timer_h is not None:
        values["timer"] = case.timer_h
    if kwh is None:
        return Advice("Hold it hot for {hours:duration}, until somebody comes", words, values)
    values["kwh"] = f"{kwh.value * hold:.1f}"
    return Advice("Hold it hot for {hours:duration}, until somebody comes: {kwh:text} kWh", words, values)


def kept_shut(case: CoolingCase) -> Advice:
    """The door kept shut until the part is firm."""
    until = case.shut.until if case.shut is not None else None
    if until is None:
        return Advice("Keep it shut over night", FIRM)
    return Advice("Keep it shut for {hours:duration}", FIRM, {"hours": until.value / 60.0})
