"""The findings that operation 30 can raise about the plate's level, the kept offset and the panel."""

from kaustos.core.review.contract import EXPECTED, Code

LEVEL_CODES = (
    Code(
        "machine.gap.jumped", "stop",
        "The offset between probe and nozzle of {machine:text} stands at {now:height}; it was {before:height} before: "
        "a jump of {jump:length}.",
        "A lost offset prints in the air, or drives the nozzle into the plate.",
        "Offsets of the machine that are kept outside of it", EXPECTED,
        title="machine: kept offset has jumped", cap="no_go", is_safety=True, shows=("came_off", "heater_fault"),
    ),
    Code(
        "machine.plate.sag", "watch",
        "The plate of {machine:text} is {sag:length} out of flat besides its tilt; {most:length} may be left.",
        "Where the plate lies low the first layer does not touch, where it stands high it is squeezed out.",
        "Probed {date:text}, plane taken away", EXPECTED, title="plate: out of flat", shows=("corner_lift", "came_off"),
    ),
    Code(
        "machine.plate.tilt", "watch",
        "The plate of {machine:text} is tilted by {tilt:length} over what was probed; {most:length} may be.",
        "A mesh can hide a tilt; layers then follow it, and the part leans.",
        "Probed {date:text}, plane of least squares", EXPECTED,
        title="plate: tilted", shows=("corner_lift", "came_off"),
    ),
    Code(
        "machine.plate.cold_probed", "watch",
        "The plate of {machine:text} was probed at {probed:text}; the run has it at {plate:temperature}.",
        "A plate bends with heat: what was level cold is not level hot.",
        "Heat in the log of probing against the setpoint", EXPECTED, title="plate: probed at another heat",
        shows=("corner_lift", "came_off"),
    ),
    Code(
        "machine.panel.cannot", "watch",
        "The panel of {machine:text} does not take {setting:text} at {setpoint:temperature}: {fault:text}.",
        "What a panel does not hold is forgotten, or typed as something near it.",
        "Fields of the panel in the machine record", EXPECTED, title="panel: does not take a setting",
        silent="it compares the recipe with the panel",
    ),
    Code(
        "machine.panel.causes", "watch",
        "The panel of {machine:text} rounds {rounds:text}; with what can be typed it is found that {caused:text}.",
        "A recipe that is clear on paper can be over a limit once it is rounded.",
        "The rounded recipe, judged by itself", EXPECTED, title="panel: rounding causes a finding",
        silent="it judges what will be typed",
    ),
)  # fmt: skip
