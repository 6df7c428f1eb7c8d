"""The findings that operation 30 can raise, and what each does to the grade."""

from kaustos.core.records import ZONES
from kaustos.core.review.contract import EXPECTED, Code
from kaustos.core.review.machine.level_codes import LEVEL_CODES
from kaustos.core.review.machine.nozzle_codes import NOZZLE_CODES
from kaustos.core.review.machine.passport_codes import PASSPORT_CODES
from kaustos.core.review.machine.warmth_codes import WARMTH_CODES

_RUINED = "Ignored, run and {bottleneck:text} are lost in {odds:text}: {cost:money} a run on average."
_LIMITS = "Lowest limit of the machine's recorded parts"
_WINDOW_WHY = {
    "nozzle": "Below its window the melt is stiff and the layers weld poorly.",
    "plate": "Below its window the foot of the part grips poorly and lifts.",
    "chamber": "In colder air layers cool before they weld, and the part warps and splits.",
}
_ABOVE_WHY = {
    "nozzle": "Above its window the melt drools, ages and loses chains.",
    "plate": "Above its window the foot softens and the bond may tear the surface on release.",
    "chamber": "In hotter air the layers stay soft and the shape is lost.",
}
_BELOW_SHOWS = {
    "nozzle": ("layers_split", "weak_layers", "starved", "no_flow"),
    "plate": ("corner_lift", "came_off"),
    "chamber": ("corner_lift", "came_off", "warped", "layers_split", "weak_layers"),
}
_ABOVE_SHOWS = {
    "nozzle": ("strings", "charred", "shape_lost"),
    "plate": ("foot_sagged", "stuck", "surface_torn"),
    "chamber": ("shape_lost",),
}

CODES = (
    *(
        code
        for zone in ZONES
        for code in (
            Code(
                f"machine.{zone}.beyond_reach", "stop",
                "{setting:text} is set to {setpoint:temperature}; {machine:text} reaches {reach:temperature}, "
                "held back by its {bottleneck:text}.",
                "A heater that cannot get there waits for ever, ends in a fault or prints colder than the recipe says.",
                _LIMITS, EXPECTED,
                title=f"{zone}: asked beyond its reach", cap="no_go", shows=("short_of_heat", "heater_fault"),
            ),
            Code(
                f"machine.{zone}.below_window", "stop",
                "{setting:text} gets to {actual:temperature}; {polymer:text} wants at least {low:temperature}: "
                "{gap:temperature_difference} short.",
                _WINDOW_WHY[zone], "Window of the polymer against setpoint and reach", EXPECTED,
                title=f"{zone}: below the window", shows=_BELOW_SHOWS[zone],
            ),
            Code(
                f"machine.{zone}.above_window", "watch",
                "{setting:text} is set to {setpoint:temperature}, {over:temperature_difference} above the "
                "{high:temperature} of {polymer:text}.",
                _ABOVE_WHY[zone], "Window of the polymer against the setpoint", EXPECTED,
                title=f"{zone}: above the window", shows=_ABOVE_SHOWS[zone],
            ),
            Code(
                f"machine.{zone}.no_headroom", "watch",
                "{setting:text} is set to {setpoint:temperature}, {spare:temperature_difference} below the reach "
                "of {reach:temperature}: nothing is left to regulate with.",
                "At full power a controller cannot hold a temperature; draughts and ageing show at once.",
                "Headroom rule of the shop, estimate", EXPECTED,
                title=f"{zone}: no headroom", shows=("short_of_heat", "heater_fault"),
            ),
            Code(
                f"machine.{zone}.reach_claimed", "watch",
                "{setting:text} at {setpoint:temperature} rests on a limit of the {bottleneck:text} that is "
                "{basis:text}: {safe:temperature} are safe to count on.",
                "Claims exceed component ratings; only an own measurement proves a reach.",
                "Basis of the part's limit", EXPECTED,
                title=f"{zone}: reach only claimed", shows=("short_of_heat", "heater_fault"),
            ),
        )
    ),
    Code(
        "machine.nozzle.liner_limit", "stop",
        "{setting:text} is set to {setpoint:temperature}; the fluoropolymer liner of {machine:text} has its hard stop "
        "at {reach:temperature}.",
        "The liner creeps, leaks and jams, and gives off fumes that are toxic to people and deadly to pet birds.",
        "Hard stop of a lined hot end, estimate from practice; the maker's data sheet decides where it is lower",
        _RUINED,
        title="nozzle: above the stop of its liner", cap="no_go", is_safety=True, shows=("jam", "smell"),
    ),
    Code(
        "machine.nozzle.liner_rated", "stop",
        "{setting:text} is set to {setpoint:temperature}; a lined hot end is kept to {reach:temperature}. The liner of "
        "{machine:text} is rated higher: up to {most:temperature} a person may answer for it by name.",
        "The liner creeps and wears faster, and is closer to where its fumes begin to hurt people and kill pet birds.",
        "Rating of the liner in the machine record less a distance, estimate; the maker's data sheet decides", _RUINED,
        title="nozzle: above what a lined hot end is kept to", cap="no_go", shows=("jam", "smell"),
    ),
    Code(
        "machine.nozzle.liner_at_stop", "watch",
        "{setting:text} is set to {setpoint:temperature}: {spare:temperature_difference} below {reach:temperature}, "
        "to which the fluoropolymer liner of {machine:text} is kept. A controller overshoots by a few kelvin.",
        "At its hard stop a liner creeps and gives off fumes that are toxic to people and deadly to pet birds.",
        "Hard stop of a lined hot end, estimate from practice; the maker's data sheet decides where it is lower",
        _RUINED,
        title="nozzle: at the stop of its liner", is_safety=True, shows=("jam", "smell"),
    ),
    Code(
        "machine.nozzle.liner_unknown", "watch",
        "{setting:text} is set to {setpoint:temperature}, and it is not recorded whether the hot end of "
        "{machine:text} has a fluoropolymer liner.",
        "With a liner the hard stop is far lower, and above it toxic fumes begin.",
        "Machine record: nozzle, liner", EXPECTED,
        title="nozzle: liner not recorded", shows=("jam", "smell"),
        silent="what is not known can be neither right nor wrong",
    ),
    Code(
        "machine.nozzle.cannot_extrude", "stop",
        "{setting:text} gets to {actual:temperature}; {polymer:text} needs about {needed:temperature} to pass a nozzle "
        "at all.",
        "Close to its glass transition, or short of its melting point, a polymer is too stiff for a filament drive.",
        "Melting point (ISO 11357-3), or glass transition plus the shop's extrusion rule, estimate", EXPECTED,
        title="nozzle: too cold to extrude", cap="no_go", shows=("no_flow", "jam", "starved"),
    ),
    Code(
        "machine.nozzle.decomposition", "stop",
        "{setting:text} is set to {setpoint:temperature}; {polymer:text} decomposes above "
        "{decomposition:temperature} within minutes.",
        "Chains break, gas and fumes form, the nozzle chars and the part is weak.",
        "Upper end of the range of the start of decomposition", EXPECTED,
        title="nozzle: polymer decomposes", cap="no_go", shows=("charred", "smell", "bubbles"),
    ),
    Code(
        "machine.nozzle.near_decomposition", "watch",
        "{setting:text} is set to {setpoint:temperature}; decomposition of {polymer:text} may start from "
        "{decomposition:temperature} on.",
        "The start of decomposition is a range: residence, moisture and grade move it.",
        "Lower end of the range of the start of decomposition", EXPECTED,
        title="nozzle: close to decomposition", shows=("charred", "smell", "bubbles"),
    ),
    Code(
        "machine.nozzle.below_plate", "stop",
        "{setting:text} is set to {setpoint:temperature}, colder than the plate at {plate:temperature}.",
        "A plate hotter than the nozzle is a slip of the pen: nothing would be extruded, and the foot would melt.",
        "Setpoints of nozzle and plate compared", EXPECTED,
        title="nozzle: colder than the plate", cap="no_go", shows=("no_flow", "foot_sagged"),
    ),
    Code(
        "machine.plate.magnet_limit", "stop",
        "{setting:text} is set to {setpoint:temperature}; the magnet of {machine:text} holds only to "
        "{reach:temperature}.",
        "Above its limit a magnet lets the sheet go during the run and loses its force for good.",
        "Limit of the magnet in the machine record", _RUINED,
        title="plate: magnet lets go", cap="no_go", is_safety=True, shows=("came_off", "machine_softened"),
    ),
    Code(
        "machine.plate.backing_limit", "stop",
        "{setting:text} is set to {setpoint:temperature}; the adhesive backing on {machine:text} holds only to "
        "{reach:temperature}.",
        "Above its limit the adhesive creeps and bubbles; the whole sheet may rise into the nozzle.",
        "Limit of the adhesive backing in the machine record", _RUINED,
        title="plate: backing lets go", cap="no_go", is_safety=True,
        shows=("came_off", "machine_softened", "surface_torn"),
    ),
    Code(
        "machine.plate.above_glass_transition", "watch",
        "{setting:text} is set to {setpoint:temperature}, {over:temperature_difference} above the glass transition "
        "of {polymer:text}.",
        "The foot of an amorphous part turns rubbery: it creeps under load and grips less.",
        "Glass transition of the polymer (ISO 11357-2)", EXPECTED,
        title="plate: above the glass transition", shows=("foot_sagged",),
    ),
    Code(
        "machine.plate.foot_sags", "stop",
        "{setting:text} is set to {setpoint:temperature}, {over:temperature_difference} above the glass transition "
        "of {polymer:text}: the foot sags.",
        "So far above the glass transition the foot flows under the weight of the part.",
        "Glass transition of the polymer (ISO 11357-2) plus the shop's sag rule, estimate", EXPECTED,
        title="plate: foot sags", cap="decorative", shows=("foot_sagged",),
    ),
    Code(
        "machine.plate.near_melting", "stop",
        "{setting:text} is set to {setpoint:temperature}; the crystals of {polymer:text} melt at {mark:temperature}, "
        "and above {most:temperature} the foot stays soft.",
        "Close to its melting point a crystallising polymer carries nothing: the foot spreads and tears on release.",
        "Melting point of the polymer (ISO 11357-3) less the shop's distance, estimate", EXPECTED,
        title="plate: close to melting", cap="decorative", shows=("foot_sagged", "surface_torn"),
    ),
    Code(
        "machine.chamber.parts_soften", "stop",
        "{setting:text} is set to {setpoint:temperature}; plastic parts of {machine:text} in the chamber stand only "
        "{reach:temperature}.",
        "Plastic machine parts creep out of square unnoticed, then let go.",
        "Limit of the plastic parts in the machine record", _RUINED,
        title="chamber: machine parts soften", cap="no_go", is_safety=True, shows=("machine_softened",),
    ),
    Code(
        "machine.chamber.not_heated", "stop",
        "{machine:text} does not heat its chamber; the plate warms it to about {reach:temperature} in an hour. "
        "{polymer:text} wants at least {low:temperature}: {gap:temperature_difference} short.",
        _WINDOW_WHY["chamber"], "Window of the polymer against what the chamber was measured to come to", EXPECTED,
        title="chamber: not heated", shows=_BELOW_SHOWS["chamber"],
    ),
    Code(
        "machine.chamber.no_setpoint", "watch",
        "{setting:text} is set to {setpoint:temperature}; {machine:text} does not heat its chamber, and its panel "
        "takes no such setting.",
        "What stands in a recipe is carried to the panel; what cannot be set there misleads whoever does it.",
        "Machine record: chamber, heater", EXPECTED,
        title="chamber: setpoint that no panel takes", silent="it compares the recipe with the panel",
    ),
    Code(
        "machine.chamber.below_room", "watch",
        "{setting:text} is set to {setpoint:temperature}; the room is at {room:temperature}, and nothing cools the "
        "chamber.",
        "A chamber that is not cooled takes on at least the temperature of the room, and more from the plate.",
        "Room temperature in the settings of the shop", EXPECTED,
        title="chamber: colder than the room", silent="a chamber a little warmer than it was set does not show",
    ),
    Code(
        "machine.chamber.above_glass_transition", "stop",
        "{setting:text} is set to {setpoint:temperature}, {over:temperature_difference} above the glass transition "
        "of {polymer:text}.",
        "In air above the glass transition an amorphous part never gets stiff.",
        "Glass transition of the polymer (ISO 11357-2)", EXPECTED,
        title="chamber: above the glass transition", cap="decorative", shows=("shape_lost",),
    ),
    Code(
        "machine.chamber.near_crystallisation", "stop",
        "{setting:text} is set to {setpoint:temperature}; {polymer:text} crystallises from {mark:temperature} down, "
        "and above {most:temperature} its layers do not set in time.",
        "Layers that have not crystallised are soft: the nozzle drags them along.",
        "Crystallisation onset of the polymer (ISO 11357-3) less the shop's distance, estimate", EXPECTED,
        title="chamber: layers do not set", cap="decorative", shows=("shape_lost",),
    ),
    Code(
        "machine.size.too_big", "stop",
        "The part is {part:text}; {machine:text} has room for {room:text}, however it is turned on the plate.",
        "The job does not start, or ends where the travel does.",
        "Sizes in the brief against travel in the machine record", EXPECTED,
        title="part: no room on the machine", cap="no_go", silent="it compares sizes",
    ),
    Code(
        "machine.strand.other", "stop",
        "{lot:text} is a strand of {strand:text}; {machine:text} feeds {feeds:text}.",
        "A thin strand slips and burns in the gap, a thick one does not go in.",
        "Diameter on the label against the machine record", EXPECTED,
        title="lot: another diameter", cap="no_go", shows=("no_flow", "jam"),
    ),
    *NOZZLE_CODES,
    *PASSPORT_CODES,
    *WARMTH_CODES,
    *LEVEL_CODES,
)  # fmt: skip
BY_CODE = {code.code: code for code in CODES}
PASSIVE = {  # parts that give way instead of merely holding back
    ("nozzle", "liner"): "machine.nozzle.liner_limit",
    ("plate", "magnet"): "machine.plate.magnet_limit",
    ("plate", "backing"): "machine.plate.backing_limit",
    ("chamber", "plastics"): "machine.chamber.parts_soften",
    ("chamber", "electronics"): "machine.chamber.electronics_limit",
}
