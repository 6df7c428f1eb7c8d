"""The findings that operation 30 can raise about the machine as it stands: sensors, heaters, parts near heat, place."""

from kaustos.core.records import ZONES
from kaustos.core.review.contract import EXPECTED, Code

PASSPORT_CODES = (
    *(
        code
        for zone in ZONES
        for code in (
            Code(
                f"machine.{zone}.reads_off", "watch",
                "{setting:text} is set to {setpoint:temperature}; {machine:text} shows {off:temperature_difference} "
                "{way:text} than there is, so that the {zone:text} comes to {true:temperature}, {side:text} the window "
                "of {polymer:text} ({low:temperature} to {high:temperature}).",
                "A setting is carried from one machine to the next as what is shown, and every display is off by its "
                "own amount.",
                "Calibration of {date:text} with a second sensor", EXPECTED,
                title=f"{zone}: true heat outside the window", shows=("weak_layers", "strings", "corner_lift"),
            ),
            Code(
                f"machine.{zone}.wrong_table", "stop",
                "The sensor of the {zone:text} on {machine:text} is recorded as {kind:text}, and the firmware takes it "
                "for {table:text}: {said:text}.",
                "With the wrong table the true heat is off by tens of kelvins, and every limit of the firmware too.",
                "Sensor and table in the machine record; resistance by IEC 60751 or by the B value", EXPECTED,
                title=f"{zone}: sensor read by the wrong table", cap="no_go", is_safety=True,
                shows=("smell", "charred", "no_flow"),
            ),
        )
    ),
    Code(
        "machine.nozzle.heater_weak", "stop",
        "{setting:text} at {setpoint:temperature} takes about {needed:power} ({least:power} to {most:power}) of heat "
        "at the flow of this run; the heater of {machine:text} gives {power:power}.",
        "A heater without power to spare falls behind when the flow rises: the melt cools just where the walls are "
        "long.",
        "Losses of a hot end and heat into the melt, estimates", EXPECTED,
        title="nozzle: heater too weak", shows=("short_of_heat", "starved", "heater_fault"),
    ),
    Code(
        "machine.plate.heater_weak", "stop",
        "{setting:text} at {setpoint:temperature} loses about {needed:power} ({least:power} to {most:power}) into the "
        "air; the heater of {machine:text} gives {power:power}.",
        "A plate heater at its end warms for hours, never settles, and gives way at the first draught.",
        "Losses of a plate by its size, estimate", EXPECTED,
        title="plate: heater too weak", shows=("short_of_heat", "heater_fault"),
    ),
    Code(
        "machine.near.softens", "stop",
        "{part:text} of {machine:text} softens at {softens:temperature}; {where:text} it comes to about "
        "{local:temperature} ({least:temperature} to {most:temperature}) in this run.",
        "A duct that droops touches the part or the plate; a mount that creeps lets the nozzle wander.",
        "Distance to the hot metal, estimate; softening in the machine record", EXPECTED,
        title="machine: a part near the heat softens", cap="no_go", is_safety=True, shows=("machine_softened", "smell"),
    ),
    Code(
        "machine.chamber.electronics_limit", "stop",
        "{setting:text} is set to {setpoint:temperature}; electronics of {machine:text} stand in the chamber and bear "
        "only {reach:temperature}.",
        "Drivers and connectors fail quietly in hot air, and a heater may be left on.",
        "Limit of the electronics in the machine record", EXPECTED,
        title="chamber: electronics too hot", cap="no_go", is_safety=True, shows=("heater_fault", "smell"),
    ),
    Code(
        "machine.calibration.stale", "watch",
        "{machine:text}: {kinds:text} no longer stand, because {change:text}.",
        "What was measured on another configuration is hearsay on this one; figures that rest on it are widened.",
        "Configuration history of the machine against the table of what a change makes stale", EXPECTED,
        title="machine: calibrations are stale", silent="it says what is to be measured again",
    ),
    Code(
        "machine.feed.slips", "watch",
        "{polymer:text} is rubbery; {machine:text} {feed:text}.",
        "A soft strand buckles in a long path and slips in a drive that is not geared; the nozzle gets the blame.",
        "Character of the polymer against the feed path in the machine record", EXPECTED,
        title="feed: soft strand in a long path", shows=("starved", "no_flow"),
    ),
    Code(
        "machine.site.fumes", "watch",
        "{machine:text} stands in {site:text}, where people breathe, {extraction:text}; {polymer:text} gives off "
        "{gives:text}.",
        "What a hot polymer gives off, and fine particles with it, stays in the room for hours.",
        "Place and extraction in the machine record, emissions of the polymer", EXPECTED,
        title="site: fumes where people are", shows=("smell",),
    ),
    *(
        Code(
            code, "watch",
            "{machine:text} has run {hours:duration} within {near:temperature_difference} of the limit of its "
            "{part:text} ({limit:temperature}) since it was last changed.",
            why, "Hours of the log near the limit; when that is due is an estimate", EXPECTED, title=title, shows=shows,
        )
        for code, why, title, shows in (
            ("machine.nozzle.liner_aged", "A liner swells and loses its shape long before it fails: it feeds less.",
             "nozzle: liner has aged", ("starved", "jam")),
            ("machine.plate.magnet_aged", "A magnet near its limit loses a little force each time, for good.",
             "plate: magnet has aged", ("came_off", "corner_lift")),
        )
    ),
)  # fmt: skip
