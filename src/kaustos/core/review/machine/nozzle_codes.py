"""The findings that operation 30 can raise about the nozzle itself."""

from kaustos.core.review.contract import EXPECTED, Code

_LIFE = "Grams fed by filler, material and looks of the nozzle; rates of wear are estimates of an order of magnitude"

NOZZLE_CODES = (
    Code(
        "machine.nozzle.worn", "stop",
        "{nozzle:text} is worn: its bore is {bore:text}, its tip has lost {lost:fine_length} by {fed:mass} fed.",
        "A bore that is too wide prints wide walls with holes and strings, and no temperature mends that.",
        _LIFE, EXPECTED, title="nozzle: worn", cap="reduced", shows=("strings", "starved"),
    ),
    Code(
        "machine.nozzle.wears_out", "stop",
        "{nozzle:text} is good for {left:mass} more of {polymer:text} (at least {least:mass}); the run takes "
        "{mass:mass}.",
        "When the land is gone the bore opens along its cone within a few grams: walls change in the middle of the "
        "part.",
        _LIFE, EXPECTED, title="nozzle: does not last the run", cap="reduced", shows=("starved", "strings"),
    ),
    Code(
        "machine.nozzle.look_due", "watch",
        "{nozzle:text} has had {fed:mass} since it was looked at, and its tip is shorter by about {lost:fine_length}: "
        "the first layer prints thicker by as much.",
        "A tip that has grown short gets blamed on the surface: the first layer grips poorly though nothing was set "
        "otherwise.",
        _LIFE, EXPECTED, title="nozzle: a look is due", shows=("came_off", "corner_lift"),
    ),
    Code(
        "machine.nozzle.ask_first", "watch",
        "The last run of {polymer:text} on {machine:text} showed {seen:text}, and {nozzle:text} has not been looked at "
        "since.",
        "A rounded or chamfered outlet strings at every temperature; temperatures changed first hide the cause.",
        "What was seen in the log against the looks of the nozzle", EXPECTED,
        title="nozzle: look at it before temperatures", silent="it says what to look at first",
    ),
    Code(
        "machine.nozzle.edge", "watch",
        "{nozzle:text} came in {edge:text}: it strings from new.",
        "A melt clings to an edge that is not sharp, and to an inside that is not smooth.",
        "Incoming inspection of the nozzle", EXPECTED, title="nozzle: poor from new", shows=("strings",),
    ),
    Code(
        "machine.nozzle.unchecked", "watch",
        "{nozzle:text} is a compatible part, and neither its edge nor its bore was looked at when it came in.",
        "Edges, bores and identities of compatible parts differ from piece to piece.",
        "Incoming inspection of the nozzle", EXPECTED, title="nozzle: compatible part, not checked",
        silent="it says what is not known",
    ),
    Code(
        "machine.nozzle.bore_small", "stop",
        "{nozzle:text} has a bore of {bore:length}; {filler:text} wants {least:length} at least, and runs without "
        "blocks from {good:length} on.",
        "Fibres and grains bridge a small bore; the block comes in the middle of a run.",
        "Least bore by filler, practice, estimate", EXPECTED,
        title="nozzle: bore too small for the filler", cap="no_go",
        shows=("jam", "starved"),
    ),
    Code(
        "machine.nozzle.poor_conductor", "watch",
        "{setting:text} is set to {setpoint:temperature}; through {nozzle:text} of {material:text} the melt comes out "
        "about {colder:temperature_difference} colder than through brass, below the {low:temperature} that "
        "{polymer:text} wants.",
        "A nozzle that conducts poorly holds its end below what the sensor shows.",
        "Conduction along the nozzle; sizes and conductivities are estimates", EXPECTED,
        title="nozzle: melt colder than shown", shows=("weak_layers", "layers_split", "starved"),
    ),
    Code(
        "machine.nozzle.not_fitted", "watch",
        "The recipe asks for {nozzle:text}; on {machine:text} {other:text} is fitted.",
        "Another bore or another metal prints other walls and another melt under the same settings.",
        "Nozzle records: where each is fitted", EXPECTED, title="nozzle: another one is fitted",
        silent="it looks to what is fitted where",
    ),
)  # fmt: skip
