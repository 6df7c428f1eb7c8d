"""The findings that operation 10 can raise, and what each does to the grade."""

from kaustos.core.estimates import PURPOSE
from kaustos.core.review.brief.service import ALLOWANCE_K as ALLOWANCE_K
from kaustos.core.review.contract import Code
from kaustos.core.review.signs import COLD

DEARER = PURPOSE["dearer"].value

CODES = (
    Code(
        "brief.service.above_softening", "stop",
        "Service at {service:temperature} is at or above the {softening:temperature} at which {polymer:text} "
        "deflects under {load:stress} ({state:text}).",
        "Near it an amorphous part lets go; a crystallised one has lost its stiffness and creeps under its load.",
        "ISO 75 deflection temperature of the polymer against the service temperature",
        "Ignored, the part fails in service: {cost:money} a run on average, and what hangs on the part.",
        title="brief: service above the deflection temperature", cap="decorative", cap_mild="reduced",
        shows=("gave_way",),
    ),
    Code(
        "brief.service.short_margin", "watch",
        "The margin in service is {margin:temperature_difference}; {wanted:temperature_difference} are wanted "
        "({polymer:text} deflects at {softening:temperature}, {state:text}).",
        "Spread of the grade, local heat and creep eat a thin margin. The purpose says how much is wanted, and hours "
        "under load add to it; a loaded, outdoor or safety part counts on the low end of what is known.",
        "Deflection temperature minus service temperature against the margin of the purpose, estimate",
        "Ignored, some parts deform in service: {cost:money} a run on average.",
        title="brief: margin in service too thin", cap="reduced", shows=("gave_way",),
    ),
    Code(
        "brief.service.ages", "watch",
        "Service at {service:temperature} for {hours:duration}; {polymer:text} stands about {most:temperature} in air "
        "for so long.",
        "Heat breaks chains and embrittles though nothing bends: half the life for every 10 K.",
        "Long-term air temperature of the polymer, halved life for every 10 K, estimates",
        "Ignored, some parts turn brittle in service: {cost:money} a run on average.",
        title="brief: ages in service", cap="reduced", shows=("gave_way",),
    ),
    Code(
        "brief.character.other", "watch",
        "A {wanted:text} part is wanted; {polymer:text} is {character:text}.",
        "What bends like rubber carries nothing; what is stiff breaks where it is to give.",
        "Character of the polymer, estimate",
        "Ignored, the part is of no use for what it is wanted: {cost:money} a run on average.",
        title="brief: another character", cap="decorative", shows=("gave_way",),
    ),
    Code(
        "brief.service.no_value", "watch",
        "No deflection temperature is known for {polymer:text} {state:text} at {stress:stress}: "
        "the margin in service is unknown.",
        "A value for another state or a lower load flatters; a missing value is unknown, not fine.",
        "Library and own values of the polymer, by load and state",
        "Ignored, the margin is a guess: {cost:money} a run on average.",
        title="brief: no deflection temperature for this state", silent="it says that a value is missing",
    ),
    Code(
        "brief.margin.below_purpose", "watch",
        "A margin of {wanted:temperature_difference} is typed, but a {purpose:text} asks for "
        "{allowance:temperature_difference}: {rules:text}.",
        "The more hangs on the part, the more room its grade, its lot and its surroundings need.",
        "Allowance by purpose, estimate",
        "Ignored, the brief promises less than its purpose needs: {cost:money} a run on average.",
        title="brief: margin wanted below what the purpose asks", silent="it compares two wishes",
    ),
    Code(
        "brief.anneal.not_planned", "watch",
        "The part is judged as annealed, but no anneal programme is recorded.",
        "Values of the annealed state hold only after a hold that has been planned and run.",
        "Heat history of the brief against the anneal steps of the recipe",
        "Ignored, the part goes into service as printed: {cost:money} a run on average.",
        title="brief: annealed, but no anneal planned", silent="it says that a plan is missing",
    ),
    Code(
        "brief.weather.poor", "stop",
        "The part stands outdoors; {polymer:text} {weather:text}.",
        "Sunlight breaks chains at the surface: the part fades, then cracks under loads that it used to carry.",
        "Traits of the polymer, estimate from practice",
        "Ignored, the part fails within seasons: {cost:money} a run on average, and what hangs on the part.",
        title="brief: polymer does not stand weather", cap="decorative", shows=("gave_way", "attacked"),
    ),
    Code(
        "brief.chemical.attacked", "stop",
        "The part meets {chemical:text}, which attack {polymer:text}.",
        "Attack swells, dissolves or cracks a part, the sooner the more it is stressed.",
        "Traits of the polymer, estimate; the maker's resistance table decides",
        "Ignored, the part fails in service: {cost:money} a run on average, and what hangs on the part.",
        title="brief: polymer attacked by what it meets", cap="decorative", shows=("attacked", "gave_way"),
    ),
    Code(
        "brief.load.across_unproven", "watch",
        "The load pulls the layers apart; welds of {polymer:text}, which crystallises while it prints, are not proven.",
        "Crystals form before chains have crossed the weld; a figure measured along the beads says nothing about it.",
        "Weld class of the polymer; a measured ratio across to along decides",
        "Ignored, some parts split between layers: {cost:money} a run on average.",
        title="brief: load across unproven welds", cap="reduced", shows=COLD,
    ),
    Code(
        "brief.look.not_clear", "watch",
        "The part is to be clear; {polymer:text} {clarity:text}.",
        "No setting makes an opaque polymer clear.",
        "Traits of the polymer, estimate",
        "Ignored, the part is turned down for its look: {cost:money} a run on average.",
        title="brief: polymer is not clear", silent="it is judged by eye before the run",
    ),
    Code(
        "brief.look.other_finish", "watch",
        "A {wanted:text} look is wanted; {polymer:text} prints {finish:text}.",
        "The finish as printed comes from polymer and filler; sanding or paint is a step of its own.",
        "Traits of the polymer, estimate",
        "Ignored, the part is turned down for its look: {cost:money} a run on average.",
        title="brief: prints another finish", silent="it is judged by eye before the run",
    ),
    Code(
        "brief.handling.poor", "watch",
        "The part is to {wishes:text}; of {polymer:text} it is known that {how:text}.",
        "What is done with a part afterwards is decided by its polymer, and shows only when the part is made.",
        "Traits of the polymer, estimate from practice; a test piece decides",
        "Ignored, some parts are spoiled after they are printed: {cost:money} a run on average.",
        title="brief: hard to work afterwards", silent="it shows after the run",
    ),
    Code(
        "brief.price.dearer", "watch",
        "{polymer:text} costs {price:price_volume}; {other:text} would do for {lower:price_volume}.",
        "It stands the same service with the margin wanted, and this shop can run it.",
        "Price times density of every polymer that suits the brief",
        "Ignored, {cost:money} a run are spent on what the purpose does not need.",
        title="brief: a cheaper polymer would do", silent="it compares prices",
    ),
    Code(
        "brief.part.broken", "watch",
        "The mesh of {part:text} could not be mended: {faults:text}. Areas, walls and mass rest on it.",
        "Where a mesh is open nobody can say what is inside: slices lose walls there, and figures here may be wrong.",
        "Edges of the mesh with one face, or more than two",
        "Ignored, some parts come out with walls missing: {cost:money} a run on average.",
        title="brief: broken mesh", silent="it shows as missing walls",
    ),
    Code(
        "brief.part.thin_wall", "watch",
        "The thinnest wall of {part:text}, {wall:length} at a height of {at:length}, is {times:ratio} beads of "
        "{bead:length}.",
        "A wall thinner than a bead is left out or made too thick; one of a single bead carries little and leaks.",
        "Walls measured on the file against the bore of the nozzle",
        "Ignored, walls vanish or split: {cost:money} a run on average.",
        title="brief: wall thinner than beads", cap="reduced", shows=("layers_split", "gave_way"),
    ),
    Code(
        "brief.part.cut_through", "watch",
        "Of the thinnest wall of {part:text}, {left:length} are left once {stock:length} are machined off each face; a "
        "bead is {bead:length}.",
        "A cut through the outermost beads opens the inside: pores show, and what was to seal leaks.",
        "Thinnest wall less stock on both faces",
        "Ignored, parts are lost when they are machined: {cost:money} a run on average.",
        title="brief: machined through its wall", silent="it shows when it is machined",
    ),
    Code(
        "brief.part.seals", "watch",
        "The {faces:text} of {part:text} is to seal as it is printed: layers leave grooves of about "
        "{groove:fine_length}.",
        "Fluids creep along the grooves between beads; a machined face or a gasket closes them.",
        "Purpose of the faces against stock to be machined; depth of grooves, estimate",
        "Ignored, seals leak: {cost:money} a run on average.",
        title="brief: seals on a printed face", silent="it shows under pressure, in service",
    ),
    Code(
        "brief.part.holes_unproven", "watch",
        "Holes for {names:text} are not corrected: this shop's hole error is not measured, about {error:length} is "
        "usual.",
        "Beads are pulled inward on tight curves, and every machine and polymer does it by another amount.",
        "Hole error of the part's record; its usual size, estimate",
        "Ignored, what goes in does not fit, or falls out: {cost:money} a run on average.",
        title="brief: hole error not measured", silent="it shows when it is put together",
    ),
    Code(
        "brief.part.scaled", "watch",
        "{part:text} is scaled to {scale:ratio}, and so are its holes for {names:text}.",
        "Hardware does not scale with a part; walls that were whole beads are so no more.",
        "Scale of the part's record against what goes into it",
        "Ignored, what goes in does not fit: {cost:money} a run on average.",
        title="brief: holes scaled with the part", silent="it shows when it is put together",
    ),
    Code(
        "brief.part.twin_apart", "watch",
        "{part:text} mates with a copy of itself, and one copy is printed.",
        "Copies that fit each other want the same spool, heat and age: two runs never shrink quite alike.",
        "Mating copies in the part's record against copies in the run",
        "Ignored, some pairs do not fit: {cost:money} a run on average.",
        title="brief: mates printed apart", silent="it shows when it is put together",
    ),
)  # fmt: skip
BY_CODE = {code.code: code for code in CODES}
