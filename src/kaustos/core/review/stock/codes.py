"""The findings that operation 20 can raise, and what each does to the grade."""

from kaustos.core.review.contract import EXPECTED, Code
from kaustos.core.review.signs import WET

_LIMIT_SOURCE = "Moisture of the lot over its history and plan against the polymer's printing limit, estimate"

CODES = (
    Code(
        "stock.moisture.wet", "watch",
        "{when:text} the filament holds {moisture:moisture} ({worst:moisture} at the deepest turn, if things "
        "are as bad as they may be); {polymer:text} prints well up to {limit:moisture}.",
        "Water foams in the nozzle, and a melt that hydrolyses loses chains: weak, rough walls that pose as bad heat.",
        _LIMIT_SOURCE, EXPECTED,
        title="spool: wet", cap="reduced", shows=WET,
    ),
    Code(
        "stock.moisture.unsure", "watch",
        "{when:text} the filament likely holds {moisture:moisture}, at most {worst:moisture}; {polymer:text} prints "
        "well up to {limit:moisture}.",
        "What is not known of polymer, winding and dryer reaches over the limit: a scale narrows it, hours close it.",
        _LIMIT_SOURCE, EXPECTED,
        title="spool: likely dry, not surely", shows=WET,
    ),
    Code(
        "stock.moisture.unknown", "watch",
        "It is not known how wet this filament is: anything from {low:moisture} to {high:moisture}.",
        "A sealed, new or unlogged spool is unknown, not dry.",
        "Stays recorded for the lot, and what the polymer can hold", EXPECTED,
        title="spool: moisture unknown", shows=WET,
        silent="what is not known can be neither right nor wrong",
    ),
    Code(
        "stock.strand.signs", "watch",
        "The strand purged on {at:date} showed {signs:text}: {verdict:text}, and {planned:text}.",
        "Steam in the melt is water, whatever the log of the spool says.",
        "Strand looked at, signs of water, estimate", EXPECTED,
        title="spool: strand showed water", cap="reduced", shows=WET,
    ),
    Code(
        "stock.dryer.floor", "stop",
        "In this air drying never gets below {floor:moisture}; {polymer:text} prints well up to {limit:moisture}.",
        "Filament dries only to balance with the air in the dryer: time does not help, drier or hotter air does.",
        "Saturation pressure (Wagner and Pruss), dew point of the room, sorption of the polymer", EXPECTED,
        title="dryer: never dry enough in this air", cap="reduced", cap_mild="reduced", shows=WET,
    ),
    Code(
        "stock.dryer.beyond_reach", "stop",
        "The dryer is set to {setpoint:temperature}; {dryer:text} gets to {reach:temperature}.",
        "A dryer that does not get there dries more slowly than the plan says, often several times.",
        "Dryer record", EXPECTED,
        title="dryer: set beyond its reach", shows=WET,
    ),
    Code(
        "stock.dryer.below_window", "watch",
        "Dried at {actual:temperature}; {polymer:text} wants {low:temperature} to {high:temperature}: drying "
        "takes {factor:times}.",
        "Diffusion slows with every kelvin; longer does not always replace hotter, so weigh.",
        "Dryer window of the polymer, Arrhenius diffusivity", EXPECTED,
        title="dryer: below the window", shows=WET,
    ),
    Code(
        "stock.dryer.above_window", "stop",
        "The dryer is set to {setpoint:temperature}; above {high:temperature} turns of {polymer:text} fuse or age.",
        "Amorphous filament sticks together above its glass transition; others yellow or turn brittle.",
        "Dryer window of the polymer; the maker's data sheet decides", EXPECTED,
        title="dryer: above the window", cap="no_go", shows=("jam", "charred"),
    ),
    Code(
        "stock.spool.softens", "stop",
        "The dryer is set to {setpoint:temperature}; the spool body ({flange:text}) stands {limit:temperature}.",
        "A soft spool bends, its turns cross and fuse, and it no longer turns.",
        "Limits of spool bodies, estimate from practice", EXPECTED,
        title="spool: body softens", cap="no_go", shows=("jam",),
    ),
    Code(
        "stock.drying.too_long", "watch",
        "Drying for {hours:duration}; so hot and in this air it harms {polymer:text} from about {most:duration} on.",
        "Hot air yellows and embrittles, drives out plasticiser or blocks turns together.",
        "Hours of drying that begin to harm, by polymer, estimate", EXPECTED,
        title="drying: so long that it harms", shows=("charred", "weak_layers"),
    ),
    Code(
        "stock.drying.late", "watch",
        "A dry spool is wanted on {wanted:moment}; put in now it is dry and there on {ready:moment}.",
        "A machine that is hot and waits costs its hour; a spool taken out early is printed wet.",
        "Hours still planned, or those that drying takes where they are more, and the waiting", EXPECTED,
        title="drying: ends too late", silent="it looks to the clock",
    ),
    Code(
        "stock.dryer.full", "watch",
        "{dryer:text} holds {places:ratio} at once; in it now: {others:text}.",
        "A dryer that is opened for one more spool cools, and lets the room's water in to all of them.",
        "Stays that are logged in that dryer, and how many spools it holds", EXPECTED,
        title="dryer: full", silent="it looks to what else is in the dryer",
    ),
    Code(
        "stock.desiccant.alone", "watch",
        "The spool hangs in a dry box without having been dried: desiccant would take {time:duration}{more:text}.",
        "Desiccant keeps dry filament dry; it does not dry wet filament in useful time.",
        "Moisture model at room temperature, humidity of the box", EXPECTED,
        title="spool: desiccant alone", shows=WET,
    ),
    Code(
        "stock.desiccant.spent", "watch",
        "The desiccant of its dry box was put in on {put_in:date}; since {due:date} it has likely taken up all it can.",
        "A full desiccant lets the box follow the room; the spool drinks though it hangs in a closed box.",
        "Leak of a 15 litre box and an uptake of 15 %, estimates; a humidity indicator in the box has the last word",
        EXPECTED,
        title="spool: desiccant spent", shows=WET,
    ),
    Code(
        "stock.waiting.rewets", "watch",
        "Dry from the dryer, it waits {hours:duration} in {place:text}; for certain it is dry there for "
        "{open:duration} only, and holds up to {worst:moisture} when printing starts (limit {limit:moisture}).",
        "The outermost turns drink first and are printed first: the first layers get the wettest filament.",
        "Moisture model in the air it waits in", EXPECTED,
        title="spool: drinks while it waits", cap="reduced", shows=WET,
    ),
    Code(
        "stock.exposure.rewets", "watch",
        "Fed from {feed:text} it is over the printing limit after {open:duration}; the run takes {hours:duration}.",
        "The outermost turns drink first and are printed first; a long run ends with wet filament.",
        "Moisture model in the air it is fed from", EXPECTED,
        title="spool: drinks while it prints", cap="reduced", shows=WET,
    ),
    Code(
        "stock.mass.short", "stop",
        "{at_most:text}{left:mass} of the spool are free; the run takes {needed:mass} with a margin of {margin:share} "
        "and may end after {done:share} of its filament.",
        "A spool that runs out leaves a cold seam or a lost part.",
        "Last weighing less the empty spool, what runs took since, and what is put aside", EXPECTED,
        title="spool: too little on it", cap="no_go", shows=("ran_out",),
    ),
    Code(
        "stock.lot.other_polymer", "stop",
        "The lot {lot:text} is {other:text}; the recipe is for {polymer:text}.",
        "The wrong polymer at these temperatures jams, chars or does not melt; some give off poison.",
        "Lot record against the recipe", EXPECTED,
        title="lot: another polymer", cap="no_go", shows=("jam", "charred", "no_flow", "smell"),
    ),
    Code(
        "stock.lot.unqualified", "watch",
        "The colour {colour:text} of this grade has not passed a trial here; others of it have.",
        "Pigments and additives shift bed heat, strings, shrinkage and release.",
        "Runs that ended well, by grade and colour", EXPECTED,
        title="lot: colour not qualified", silent="it says that a trial is missing",
    ),
    Code(
        "stock.lot.dates", "watch",
        "{lot:text}: {what:text}. One of the two dates is wrong, and its water is reckoned from them.",
        "What a spool drank is the sum of its stays: a date that cannot be makes it too dry, or too wet.",
        "Lot record", EXPECTED,
        title="lot: dates that cannot both be", silent="it says what was entered, not what will be seen",
    ),
    Code(
        "stock.lot.undisclosed", "watch",
        "What is in {lot:text} is not known ({answer:text}), and no trial of it has passed here.",
        "An undeclared filler wears nozzles, a pigment moves the windows, a flame retardant gives off other fumes.",
        "Lot record, and runs that ended well", EXPECTED,
        title="lot: ingredients not known", silent="it says what is not known, not what will be seen",
    ),
    Code(
        "stock.lot.wears", "watch",
        "{lot:text} carries {filler:text}: it wears a nozzle about {factor:ratio} times as fast as plain "
        "{polymer:text}.",
        "A worn bore prints wide and loses its shape within a spool; a soft nozzle is gone in hours.",
        "Filler of the lot, wear by filler, estimate of an order of magnitude", EXPECTED,
        title="lot: its filler wears the nozzle", silent="wear shows over many runs",
    ),
    Code(
        "stock.lot.recycled", "watch",
        "{lot:text} is recycled feedstock, and no trial of it has passed here.",
        "Shorter chains, odd diameters and specks: windows and strength are those of this very lot.",
        "Lot record, and runs that ended well", EXPECTED,
        title="lot: recycled, not tried", cap="reduced", shows=("weak_layers", "jam"),
    ),
    Code(
        "stock.lot.elsewhere", "watch",
        "The lot {lot:text} is loaded on {other:text}, not on {machine:text}.",
        "The run would begin with whatever is loaded here, or wait for somebody to change spools.",
        "Lot record: where it is loaded", EXPECTED,
        title="lot: loaded elsewhere", silent="it looks to what is loaded where",
    ),
    Code(
        "stock.lot.low", "watch",
        "{left:mass} of this grade and colour are free, less than the {reorder:mass} at which it is ordered again; "
        "the next spool takes {lead:text}.",
        "A supplier out of stock halts a recipe.",
        "Ledgers of the lots of this grade and colour, their reorder mark and lead time", EXPECTED,
        title="lot: below its reorder mark", silent="it looks to the next spool",
    ),
    Code(
        "stock.lot.planned", "watch",
        "The runs still wanted take {wanted:mass} of this grade and colour; {left:mass} are free and {coming:mass} on "
        "their way. The next spool takes {lead:text}.",
        "Runs that are promised stand still until filament comes.",
        "Runs wanted less those in the log, times what each takes, against the ledgers of the lots", EXPECTED,
        title="lot: too little for the runs wanted", silent="it looks to the runs after this one",
    ),
)  # fmt: skip
BY_CODE = {code.code: code for code in CODES}
