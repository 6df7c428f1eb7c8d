"""The findings that operation 70 can raise, and what each does to the grade."""

from kaustos.core.review.contract import EXPECTED, Code

_WELD = "Healing of chains after Wool; contact index for polymers that crystallise: estimates, moved by own specimens"
_HEAT = "Heat of a stack of layers that grows, films of air estimate"
WEAK = ("layers_split", "weak_layers", "gave_way")

CODES = (
    Code(
        "heat.weld.weak",
        "stop",
        "Across its layers {polymer:text} keeps about {share:share} of its strength ({low:share} to {high:share}), "
        "where a layer takes {takes:seconds}; {wanted:share} are wanted.{usual:text}",
        "A weld heals only while it is hot: by the melt that is laid, the air round it, the time until the next layer.",
        _WELD,
        EXPECTED,
        title="weld: too weak",
        shows=WEAK,
    ),
    Code(
        "heat.weld.doubtful",
        "watch",
        "Across its layers {polymer:text} likely keeps {share:share} of its strength, but it may be as little as "
        "{low:share}, where a layer takes {takes:seconds}.{usual:text}",
        "The time in which chains heal is known within a factor of ten, the film of air within a half.",
        _WELD,
        EXPECTED,
        title="weld: may be too weak",
        shows=WEAK,
    ),
    Code(
        "heat.weld.unproven",
        "watch",
        "Layers of {polymer:text} close by contact and crystals: an index of {index:share} is no measured strength.",
        "No law of healing decides it. Until across and along were compared on this machine, nobody knows.",
        _WELD,
        EXPECTED,
        title="weld: rests on an index",
        cap="reduced",
        shows=WEAK,
    ),
    Code(
        "heat.pause.cold",
        "stop",
        "While a coat is put on, {rest:minutes} at {at:length}, the layer below cools: the weld over it keeps "
        "{keeps:share}, else {usual:share}; {wanted:share} are wanted.",
        "A layer that has cooled to the chamber is welded by the next one's heat alone.",
        _WELD,
        EXPECTED,
        title="pause: a cold weld",
        cap="decorative",
        cap_mild="reduced",
        shows=WEAK,
    ),
    Code(
        "heat.layer.too_hot",
        "stop",
        "A layer takes {takes:seconds} and ends at {end:temperature}; {polymer:text} carries the next one "
        "below {sets:temperature}.",
        "A layer that is still soft is dragged along and slumps; hotter is no longer better there.",
        _HEAT,
        EXPECTED,
        title="layers: too hot to stand",
        cap="decorative",
        cap_mild="reduced",
        shows=("shape_lost",),
    ),
    Code(
        "heat.fan.too_much",
        "watch",
        "The fan runs at {fan:share}; {polymer:text} wants {most:share} at most. It costs {price:share} of the "
        "strength across layers.",
        "Air on the bead takes the heat from the weld first.",
        "Window of the polymer; films of air, estimate",
        EXPECTED,
        title="fan: too much",
        shows=(*WEAK, "warped", "corner_lift"),
    ),
    Code(
        "heat.fan.too_little",
        "watch",
        "The fan runs at {fan:share}; {polymer:text} wants {least:share} at least, and overhangs beyond about "
        "{less:angle} from upright sag.",
        "Without air, overhangs, bridges and thin tops sag: more top layers, a denser infill, other angles.",
        "Window of the polymer; practice, estimate",
        EXPECTED,
        title="fan: too little",
        shows=("shape_lost", "strings"),
    ),
    Code(
        "heat.soak.short",
        "watch",
        "It soaks {soak:minutes}; the walls of {machine:text} follow the air after about {needed:minutes}.",
        "Until walls and frame are warm the first layers are welded in colder air than the display shows.",
        "Warm-up of the enclosure, estimate or fitted to a log",
        EXPECTED,
        title="chamber: soak too short",
        shows=("corner_lift", "warped", "layers_split"),
    ),
)
BY_CODE = {code.code: code for code in CODES}
