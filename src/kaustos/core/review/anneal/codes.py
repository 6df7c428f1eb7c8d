"""The findings that operation 110 can raise."""

from kaustos.core.review.contract import EXPECTED, Code

WINDOWS = "Glass transition and melting point of the polymer; practice of annealing, estimate"
HEAT = "Slab or rod followed through the programme (Carslaw and Jaeger); sampled"
RELAX = "Relaxation after Kohlrausch, crystals after Nakamura; constants are estimates"
PRACTICE = "Practice, estimate"

CODES = (
    Code(
        "anneal.hold.cold", "watch",
        "The hottest hold, {hold:temperature}, leaves {coldest:temperature} at the coldest place; {polymer:text} wants "
        "{low:temperature} to {high:temperature}.",
        "Below its window nothing crystallises and no stress goes in any time a shop waits: the part is as printed.",
        WINDOWS, EXPECTED, title="anneal: too cold to do anything", cap="reduced", shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.hold.hot", "watch",
        "A hold of {hold:temperature} is above {high:temperature}: {polymer:text} only gets softer there.",
        "Past its window more heat brings no more crystals and no less stress, but sag, growth and colour.",
        WINDOWS, EXPECTED, title="anneal: hotter than it needs", shows=("warped", "shape_lost"),
    ),
    Code(
        "anneal.hold.lost", "stop",
        "At the hottest place, {hottest:temperature}, {polymer:text} loses its shape: it is lost from "
        "{lost:temperature}.",
        "A glass flows above its glass transition, a crystalline polymer close below its melting point.",
        WINDOWS, EXPECTED, title="anneal: loses its shape", cap="no_go", shows=("shape_lost", "warped"),
    ),
    Code(
        "anneal.hold.short", "watch",
        "{left:text}: {wanted:text} is wanted. Held {held:duration} from when the core is there.",
        "What is called annealed and is not softens in service as printed parts do, or warps there.",
        RELAX, EXPECTED, title="anneal: held too short", cap="reduced", shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.hold.hurried", "watch",
        "Held {held:duration} from when the core is there; {least:duration} to {most:duration} are usual for a section "
        "of {wall:length}.",
        "What is called annealed and is not softens in service as printed parts do, or warps there.",
        PRACTICE, EXPECTED, title="anneal: held shorter than is usual", cap="reduced", shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.ramp.steep", "watch",
        "{ramp:ramp} sets skin and core {split:temperature_difference} apart in {wall:length}; {limit:ramp} is what "
        "it bears ({by:text}).",
        "The skin grows ahead of the core: thick parts bend, and split along their layers.",
        HEAT, EXPECTED, title="anneal: ramp too steep for its section", shows=("warped", "layers_split"),
    ),
    Code(
        "anneal.cool.steep", "watch",
        "Cooling by {ramp:ramp} sets skin and core of {wall:length} {split:temperature_difference} apart; {limit:ramp} "
        "is what it bears.",
        "What is cooled quickly through its glass transition takes new stress in: the anneal was for nothing.",
        HEAT, EXPECTED, title="anneal: cooled too quickly", shows=("warped", "layers_split"),
    ),
    Code(
        "anneal.out.hot", "watch",
        "Taken out at {out:temperature}; {limit:temperature} is the most for {polymer:text}.",
        "Cold air on a hot part is the steepest ramp of all.",
        PRACTICE, EXPECTED, title="anneal: taken out hot", shows=("warped", "layers_split"),
    ),
    Code(
        "anneal.reach.short", "stop",
        "{place:text} reaches {reach:temperature}; {hold:temperature} is wanted: {gap:temperature_difference} short.",
        "A warm hold in a chamber or on a plate is no anneal: where the air does not get there, nothing happens.",
        "Reach of oven or machine", EXPECTED, title="anneal: place not hot enough", cap="reduced",
        shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.reach.small", "stop",
        "The part with what lies round it does not go into {place:text}.",
        "What touches a wall is hotter there; what stands out of sand sags.",
        "Sizes of part and oven", EXPECTED, title="anneal: oven too small", cap="reduced",
        silent="it says what an oven cannot hold, nothing of a run",
    ),
    Code(
        "anneal.support.soft", "watch",
        "At {hold:temperature} {polymer:text} has {modulus:stress} left and lies {lies:text}.",
        "Below about a hundred megapascals a part sags under its own weight before crystals hold it.",
        "Modulus over temperature of the polymer; limit is practice, estimate", EXPECTED,
        title="anneal: sags while it is soft", shows=("warped", "shape_lost"),
    ),
    Code(
        "anneal.state.unsaid", "watch",
        "An anneal is planned, but the brief judges the part as printed.",
        "Service margin, size and strength are those of the other state.",
        "Heat history of the brief against the steps of the anneal", EXPECTED,
        title="anneal: planned, not judged", silent="it says that two fields differ",
    ),
    Code(
        "anneal.state.dry", "watch",
        "It leaves the oven dry, and serves conditioned: it takes its water up again over {hours:duration}.",
        "A dry polyamide is smaller, stiffer and more brittle: measured fresh from the oven it fits another day.",
        "Diffusion into a slab from the room (Crank); values of the polymer", EXPECTED,
        title="anneal: comes out dry, serves damp", shows=("gave_way",),
    ),
    Code(
        "anneal.part.wet", "watch",
        "It comes from a bath, and the oven goes to {hold:temperature}: water and solvent in it must be out before.",
        "Water foams or cracks a hot part; vapour of a solvent in an oven can burn.",
        PRACTICE, EXPECTED, title="anneal: wet from its bath", shows=("layers_split", "bubbles"),
    ),
    Code(
        "anneal.air.browns", "watch",
        "{polymer:text} turns brown and brittle in air at {hold:temperature} within hours.",
        "Air takes polyamides apart from the surface inwards; the part looks burnt and cracks when it is bent.",
        PRACTICE, EXPECTED, title="anneal: browns in air", shows=("charred",),
    ),
    Code(
        "anneal.size.doubt", "watch",
        "It has to fit, and nobody has measured what an anneal does to it: {along:text} along its beads.",
        "Stretch that is let go shrinks parts along their beads and thickens their layers; no data sheet says by how "
        "much.",
        PRACTICE, EXPECTED, title="anneal: growth not measured", shows=("warped",),
    ),
    Code(
        "anneal.load.short", "watch",
        "The last load saw {seen:text}: {held:duration} of {wanted:duration} at {hold:temperature}, {peak:temperature} "
        "at most, by its {by:text}.",
        "What a programme says is not what a part saw.",
        "Sensors of the load, followed through the section", EXPECTED, title="oven: last load not as planned",
        cap="reduced", shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.load.unread", "watch",
        "Nobody knows what the core of the last load saw, on {date:text}: no reading, no coupon tells.",
        "An oven that was set is no part that was hot; the annealed value of the brief hangs on the core.",
        PRACTICE, EXPECTED, title="oven: last load not read", cap="reduced", shows=("gave_way", "warped"),
    ),
    Code(
        "anneal.load.bad", "watch",
        "The last load under this programme came out {outcome:text}.",
        "The same programme does the same again.",
        "Log of the ovens", EXPECTED, title="oven: last load went wrong", shows=("warped", "layers_split"),
    ),
    Code(
        "anneal.glue.untested", "watch",
        "It is to be glued, and no joint of {polymer:text} and this glue was tested.",
        "Many of these polymers hardly bond; a joint that looks whole may hold a tenth of the part.",
        PRACTICE, EXPECTED, title="glue: joint not tested", cap="reduced", shows=("gave_way",),
    ),
    Code(
        "anneal.glue.weak", "watch",
        "The test joint held {joint:stress}, it is to carry {wanted:stress}: half of what it held is all to count on.",
        "Joints scatter and creep; a test lasts a minute, service years.",
        "Own test joint; factor of two is practice", EXPECTED, title="glue: joint too weak", cap="reduced",
        shows=("gave_way",),
    ),
    Code(
        "anneal.paint.untested", "watch",
        "It is to be painted, and no patch of {polymer:text} was painted, scratched and taped.",
        "Paint that peels in service takes the work with it; solvent in it may crack a glassy part.",
        PRACTICE, EXPECTED, title="paint: no test patch", silent="it says which test is missing",
    ),
    Code(
        "anneal.bush.open", "watch",
        "It takes inserts; for how long they cure, or that they are set by heat, is not recorded.",
        "Hardware that is loaded before its adhesive has cured turns in its hole.",
        "Data sheet of the adhesive", EXPECTED, title="inserts: hardware sheet open",
        silent="it says which field is open",
    ),
)  # fmt: skip
BY_CODE = {code.code: code for code in CODES}
