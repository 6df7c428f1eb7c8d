"""The findings that operation 100 can raise."""

from kaustos.core.review.contract import EXPECTED, Code

LUMPED = "Plate and air as two lumped nodes, estimate"

CODES = (
    Code(
        "release.shut.long",
        "watch",
        "Behind a shut door the plate is at {release:temperature} after {shut:duration} ({low:duration} to "
        "{high:duration}); with the door open after {opened:duration}.",
        "What waits behind a shut door holds machine and morning; what is opened too soon bends or cracks.",
        LUMPED,
        EXPECTED,
        title="cools for long behind its door",
        shows=("let_go",),
    ),
    Code(
        "release.shut.never",
        "watch",
        "Behind a shut door the plate does not come down to {release:temperature} in half a day.",
        "Not until the door is open: without a probe nobody knows when it is safe.",
        LUMPED,
        EXPECTED,
        title="not until the door is open",
        shows=("stuck",),
    ),
    Code(
        "release.door.cracks",
        "watch",
        "{polymer:text} is at {air:temperature} when it ends; an open door cools it by {ramp:temperature_difference} "
        "in a minute; its section bears {bears:temperature_difference}.",
        "Glassy polymers bend or crack where one side is chilled; a shut door takes longer and keeps the part.",
        "Practice on dense glassy parts, estimate",
        EXPECTED,
        title="door: cold air cracks it",
        shows=("warped", "layers_split"),
    ),
    Code(
        "release.hot.alone",
        "watch",
        "It is to come off hot within {minutes:minutes} of its end at {when:text}, when nobody is there.",
        "What is meant to come off hot welds on, or takes the plate with it, once it is cold.",
        "Hours of the shop, hours of the print",
        EXPECTED,
        title="nobody there to take it off hot",
        cap="reduced",
        shows=("stuck", "glass_broke", "surface_torn"),
    ),
    Code(
        "release.trend.harder",
        "watch",
        "The last {runs:ratio} parts of {polymer:text} came off {plate:text} with more and more effort.",
        "What holds a little more with every print holds one day more than the plate.",
        "Rank correlation of effort and order, own log",
        EXPECTED,
        title="plate: parts come off harder and harder",
        shows=("stuck", "surface_torn", "glass_broke"),
    ),
    Code(
        "release.trend.looser",
        "watch",
        "The last {runs:ratio} parts of {polymer:text} let go of {plate:text} more and more easily.",
        "A surface or film that wears off holds one day less than the corners pull.",
        "Rank correlation of effort and order, own log",
        EXPECTED,
        title="plate: parts hold less and less",
        shows=("corner_lift", "came_off", "let_go"),
    ),
)
BY_CODE = {code.code: code for code in CODES}
