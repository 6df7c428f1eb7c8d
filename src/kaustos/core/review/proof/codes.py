"""The findings that operation 120 can raise."""

from kaustos.core.review.contract import EXPECTED, Code

LOG = "Own log of runs; thresholds are rules of the shop"
SPECIMENS = "Own specimens; counts are practice, estimate"
READINGS = "Own readings"
PRACTICE = "Practice, estimate"

CODES = (
    Code(
        "proof.runs.few", "watch",
        "{good:ratio} good runs of {ended:ratio}, {same:ratio} under the settings as they stand; {wanted:ratio} of "
        "these are wanted before {purpose:text} is released: better than {least:share} is all that they all prove.",
        "One good run is luck as often as skill; what is released on it fails where somebody relies on it.",
        LOG, EXPECTED, title="proof: too few good runs", silent="it counts runs, and foretells none",
    ),
    Code(
        "proof.runs.one_shape", "watch",
        "All good runs are {shapes:text}; {wanted:ratio} shape classes are wanted for a release.",
        "A recipe that prints blocks says nothing of tall thin walls, and nothing of long flats.",
        LOG, EXPECTED, title="proof: one shape only", silent="it counts shapes, and foretells none",
    ),
    Code(
        "proof.across.unmeasured", "watch",
        "The load pulls its layers apart, and no specimen across the layers was ever pulled.",
        "Printed parts keep a half to a quarter of their strength across the layers; a prediction is no proof.",
        PRACTICE, EXPECTED, title="proof: strength across never measured", shows=("weak_layers", "gave_way"),
    ),
    Code(
        "proof.across.few", "watch",
        "Only {count:ratio} specimens {group:text}: {wanted:ratio} are judged.",
        "From one specimen nobody knows how far the next one lies off.",
        SPECIMENS, EXPECTED, title="proof: too few specimens", silent="it counts specimens",
    ),
    Code(
        "proof.across.unkept", "watch",
        "Specimens give {ratio:share} across to along: they move the weld's band, not yet the machine's ratio.",
        "A figure that is measured here and not used there grades the recipe by a guess.",
        SPECIMENS, EXPECTED, title="proof: measured ratio not used", silent="it says that a figure is not used yet",
    ),
    Code(
        "proof.size.out", "watch",
        "{what:text} of {nominal:length} came out {off:text}{then:text}; {within:length} is allowed, and nobody has "
        "accepted it.",
        "What is accepted in silence becomes the standard.",
        READINGS, EXPECTED, title="proof: size out of tolerance", shows=("warped",),
    ),
    Code(
        "proof.size.holes", "watch",
        "Holes come out {off:text} from drawn (±{wide:length}); the part corrects them by {known:length}.",
        "What was measured on one part is not used on the next.",
        READINGS, EXPECTED, title="proof: hole error not used", silent="it says that a figure is not used yet",
    ),
    Code(
        "proof.warp.out", "watch",
        "Its worst corner stands {lift:length} up, {share:share} of its diagonal; {flat:length} is allowed.",
        "Hardly anybody measures it, and it is the first thing that shows in service.",
        READINGS, EXPECTED, title="proof: warp beyond its face's tolerance", shows=("warped", "corner_lift"),
    ),
    Code(
        "proof.lot.new", "watch",
        "No good run and no coupon tells of {lot:text}: it stands one rung lower until one passes.",
        "Lots differ by water, pigment and flow; a coupon of {minutes:minutes} shows it, a part shows it late.",
        PRACTICE, EXPECTED, title="proof: lot without a coupon", silent="it says which test is missing",
    ),
    Code(
        "proof.machine.changed", "watch",
        "{part:text} of {machine:text} was changed on {date:text}, after its last good run.",
        "What was proven was proven with the part that is gone.",
        "Log of the machine; which part matters by what its calibrations rest on", EXPECTED,
        title="proof: machine changed since", silent="it says what changed since the last proof",
    ),
    Code(
        "proof.look.nozzle", "watch",
        "{polymer:text} abrades, and nobody has looked at the nozzle since this was measured on {date:text}.",
        "A nozzle that has opened makes walls thin and layers weak: the recipe is blamed for it.",
        PRACTICE, EXPECTED, title="proof: nozzle not looked at", shows=("starved", "weak_layers"),
    ),
    Code(
        "proof.ladder.skips", "watch",
        "{next:text} ({grams:mass}, {hours:duration}) comes before a part of {part_g:mass} and {part_h:duration}: "
        "nothing of the kind was printed here yet.",
        "A cheap test that fails in an hour saves the part that fails in the tenth.",
        PRACTICE, EXPECTED, title="proof: a cheaper test comes first", silent="it proposes a test",
    ),
    Code(
        "proof.dead_end.near", "watch",
        "A dead end lies near: {note:text} ({nozzle:temperature}, {chamber:temperature}).",
        "What somebody has found not to work is found again by the next one who is not told.",
        "Own log of dead ends", EXPECTED, title="proof: near a dead end",
        silent="what went wrong there stands in its note",
    ),
    Code(
        "proof.coupon.drifted", "watch",
        "The latest coupon is {change:text} than those before it.",
        "A coupon is the same bar every time: what changed is lot, machine, water or oven.",
        "Tone of tapped coupons, ASTM E1876", EXPECTED, title="proof: coupons drift", shows=("weak_layers", "starved"),
    ),
    Code(
        "proof.service.short", "watch",
        "{part:text} of {polymer:text} {ended:text} after {life:text} in {place:text}; {wanted:duration} are wanted.",
        "The part that served longest knows more than any data sheet.",
        "Own service log", EXPECTED, title="service: parts end before they should", shows=("gave_way", "attacked"),
    ),
)  # fmt: skip
BY_CODE = {code.code: code for code in CODES}
