"""The findings that operation 30 can raise about the warm space and the top of the plate."""

from kaustos.core.review.contract import EXPECTED, Code

WARMTH_CODES = (
    Code(
        "machine.chamber.heater_weak", "stop",
        "{setting:text} at {setpoint:temperature} takes {needed:power} ({least:power} to {most:power}) in "
        "{machine:text}; its chamber heater gives {power:power}.",
        "A heater without power to spare waits for hours, and drops whenever a door is opened.",
        "Losses through the walls of the enclosure, estimate, or fitted to a log", EXPECTED,
        title="chamber: heater too weak", cap="decorative", cap_mild="reduced", shows=("short_of_heat", "warped"),
    ),
    Code(
        "machine.chamber.expected_short", "stop",
        "Nothing heats the chamber of {machine:text}; with the plate at {plate:temperature} its air comes to about "
        "{air:temperature} ({least:temperature} to {most:temperature}). {polymer:text} wants at least "
        "{low:temperature}: {gap:temperature_difference} short.",
        "In colder air layers cool before they weld, and the part warps and splits.",
        "Heat of the plate against losses of the enclosure, estimate; a thermometer beside the part decides", EXPECTED,
        title="chamber: plate alone does not warm it", shows=("corner_lift", "warped", "layers_split"),
    ),
    Code(
        "machine.chamber.never_measured", "watch",
        "{setting:text} is set to {setpoint:temperature}; on {machine:text} display and air beside the part were never "
        "compared.",
        "In one chamber, display, controller and probes commonly stand 10 K and more apart.",
        "Calibrations of the machine", EXPECTED, title="chamber: display never compared",
        silent="it says what was not measured",
    ),
    Code(
        "machine.chamber.cover", "watch",
        "{machine:text} is covered while its plate is at {plate:temperature}: card, cloth or a blanket near heat is a "
        "fire load.",
        "A cover that slips onto the plate or the nozzle smoulders; stay by it, with a smoke alarm.",
        "Enclosure in the machine record", EXPECTED, title="chamber: covered by what burns",
        shows=("smell", "machine_softened"),
    ),
    Code(
        "machine.plate.surface_below", "watch",
        "{setting:text} is set to {setpoint:temperature}; through what lies on the plate of {machine:text} its "
        "top comes to about {top:temperature} ({least:temperature} to {most:temperature}), below the "
        "{low:temperature} that {polymer:text} wants.",
        "The foot grips by the heat of the surface, not by that of the sensor below it.",
        "Conduction through the stack that is recorded, estimate, or as it was measured", EXPECTED,
        title="plate: surface colder than shown", shows=("corner_lift", "came_off"),
    ),
)  # fmt: skip
