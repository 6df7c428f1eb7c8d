"""The findings that operation 90 can raise."""

import attrs

from kaustos.core.review.contract import EXPECTED, Code

READ = "Words of the file, as they stand at its moves; its remarks are not believed"


@attrs.frozen(kw_only=True)
class Compared:
    """A field of the recipe, and what a file says of it."""

    key: str
    path: str
    of_file: str  # attribute of the file
    quantity: str
    title: str
    off: str  # key of the estimate from which they differ
    is_share: bool = False  # whether that is a share of the value


COMPARED = (
    Compared(key="nozzle", path="melt.nozzle_c", of_file="nozzle_c", quantity="temperature", title="the nozzle",
             off="off_k"),
    Compared(key="first_nozzle", path="first_layer.nozzle_c", of_file="nozzle_first_c", quantity="temperature",
             title="the nozzle of the first layer", off="off_k"),
    Compared(key="plate", path="plate.bed_c", of_file="plate_c", quantity="temperature", title="the plate",
             off="off_k"),
    Compared(key="first_plate", path="first_layer.bed_c", of_file="plate_first_c", quantity="temperature",
             title="the plate of the first layer", off="off_k"),
    Compared(key="chamber", path="heat.chamber_c", of_file="chamber_c", quantity="temperature", title="the chamber",
             off="off_k"),
    Compared(key="fan", path="heat.fan_pct", of_file="fan_pct", quantity="share", title="the fan", off="off_fan"),
    Compared(key="layer", path="melt.height_mm", of_file="layer_mm", quantity="length", title="a layer",
             off="off_layer"),
    Compared(key="first_layer", path="first_layer.height_mm", of_file="first_mm", quantity="length",
             title="the first layer", off="off_layer"),
    Compared(key="first_speed", path="first_layer.speed_mm_s", of_file="first_speed_mm_s", quantity="speed",
             title="the speed of the first layer", off="off_speed", is_share=True),
    Compared(key="speed", path="melt.speed_mm_s", of_file="speed_mm_s", quantity="speed", title="the speed",
             off="off_speed", is_share=True),
)  # fmt: skip

CODES = (
    *(
        Code(
            f"run.job.{each.key}",
            "watch",
            f"{{file:text}} sets {each.title} to {{said:{each.quantity}}}; the recipe says {{set:{each.quantity}}}.",
            "What is run is the file; what is judged is the recipe: they have to be one.",
            READ,
            EXPECTED,
            title=f"file: {each.title}",
            shows=("weak_layers",),
        )
        for each in COMPARED
    ),
    Code(
        "run.job.unheated",
        "watch",
        "{file:text} says nothing of {what:text}; the recipe wants {set:temperature}.",
        "What nobody sets stays cold.",
        READ,
        EXPECTED,
        title="file that leaves something cold",
        shows=("layers_split", "weak_layers"),
    ),
    Code(
        "run.job.bead",
        "watch",
        "{file:text} lays beads of {said:area}; width, layer and multiplier of the recipe make {set:area}.",
        "Section times speed is flow: walls, welds and mass hang on it.",
        "Filament fed over path laid, times the section of the strand",
        EXPECTED,
        title="file: section of beads",
        shows=("starved", "weak_layers"),
    ),
    Code(
        "run.job.size",
        "stop",
        "{file:text} lays {said:length} along {axis:text}; {machine:text} travels {most:length}.",
        "A file for another machine runs into the end of this one.",
        "Box round all that the file lays",
        EXPECTED,
        title="file bigger than the machine",
        cap="no_go",
        shows=("came_off",),
    ),
    Code(
        "run.job.mass",
        "watch",
        "{file:text} takes {said:mass}; the brief reckons with {set:mass}.",
        "Whether the spool lasts, and what it costs, is reckoned with the brief.",
        "Length fed times section of the strand times density",
        EXPECTED,
        title="file: filament",
        shows=("ran_out",),
    ),
    Code(
        "run.job.hours",
        "watch",
        "{file:text} takes {said:duration} ({low:duration} to {high:duration}); the brief reckons with {set:duration}.",
        "Drying, exposure and who is there are reckoned with the hours of the brief.",
        "Trapezoids of speed with one look-ahead; accelerations of the machine, else as is usual",
        EXPECTED,
        title="file: hours",
        shows=("let_go",),
    ),
    Code(
        "run.hours.layers",
        "watch",
        "{whose:text} {says:text} {set:duration}; layers of this part, as they are set, take {said:duration} "
        "({low:duration} to {high:duration}).",
        "Layer times make the weld, hours of the run make drying, exposure and cost: two stories of one run cannot "
        "both be true.",
        "Area of its sections over width, pitch and speed, travels a factor of practice: estimate",
        EXPECTED,
        title="hours and layers tell two stories",
        shows=("let_go", "weak_layers"),
    ),
    Code(
        "run.job.tools",
        "watch",
        "{file:text} feeds {count:ratio} filaments; {machine:text} is not known to feed a second one.",
        "What a machine cannot feed stops it half way.",
        READ,
        EXPECTED,
        title="file for two filaments",
        shows=("no_flow",),
    ),
    Code(
        "run.job.pauses",
        "watch",
        "{planned:ratio} coats by hand are planned; {file:text} waits {said:ratio} times.",
        "A coat wants the machine at rest at the right layer.",
        READ,
        EXPECTED,
        title="pauses missing in the file",
        shows=("stuck",),
    ),
    Code(
        "run.job.unhomed",
        "watch",
        "{file:text} lays filament and did not home before.",
        "Without homing a machine does not know where its plate is, and may run the nozzle into it.",
        READ,
        EXPECTED,
        title="file that does not home",
        cap="reduced",
        shows=("surface_torn", "came_off"),
    ),
    Code(
        "run.job.moved",
        "watch",
        "Hours of {file:text} were planned with {accel:acceleration}, {corner:speed} at corners; {machine:text} is "
        "taken to do {own:acceleration}, {turns:speed}.",
        "Who is wanted when, and how long layers take, hang on it.",
        "What moves the machine, by its passport",
        EXPECTED,
        title="hours planned for another machine",
        shows=("let_go",),
    ),
    Code(
        "run.job.words",
        "watch",
        "{count:ratio} words of {file:text} are not known here, first {first:text}.",
        "What they do is neither in its hours nor in its heats: look them up before it runs.",
        READ,
        EXPECTED,
        title="words that are not known",
        shows=("heater_fault",),
    ),
    Code(
        "run.matter.danger",
        "stop",
        "Run {run:text}: {what:text}, and nobody has said since that it was seen to. {name:text} is not heated before.",
        "What burnt or failed once does so again, hotter; the next start is where it is caught.",
        "Own log",
        EXPECTED,
        title="a danger that nobody has closed",
        cap="no_go",
        is_safety=True,
        silent="it is closed by a proof, not by a run",
    ),
    Code(
        "run.matter.open",
        "watch",
        "Run {run:text}: {what:text} ({name:text}). Open until it is said what was found.",
        "What is not seen to meets the next run; what was found is the next run's knowledge.",
        "Own log",
        EXPECTED,
        title="something an earlier run left open",
        silent="it is closed by a proof, or by a good run",
    ),
    Code(
        "run.day.alone",
        "watch",
        "Started now nobody is there for: {what:text}. Started {when:text} {then:text}.",
        "First layers, coats and releases want somebody; what lifts in the first minutes is lost by morning.",
        "Hours of the shop, minutes of each task",
        EXPECTED,
        title="nobody there when it counts",
        is_absence=True,
        shows=("corner_lift", "came_off"),
    ),
    Code(
        "run.day.nobody",
        "watch",
        "Started now nobody is there for: {what:text}; no start within a week is better.",
        "First layers, coats and releases want somebody; what lifts in the first minutes is lost by morning.",
        "Hours of the shop, minutes of each task",
        EXPECTED,
        title="nobody there, whenever it starts",
        is_absence=True,
        shows=("corner_lift", "came_off"),
    ),
    Code(
        "run.day.timer",
        "stop",
        "The timer of {machine:text} cuts it off after {timer:duration}; heat, soak and print take {takes:duration}, "
        "up to {most:duration}.",
        "What is cut off before its end is scrap, cools unwatched, and leaves its filament in the nozzle.",
        "Hours of the run with their band, as the timer is armed",
        EXPECTED,
        title="timer cuts it off before its end",
        shows=("came_off",),
    ),
    Code(
        "run.day.timer_tight",
        "watch",
        "The timer of {machine:text} cuts it off after {timer:duration}; heat, soak and print take {takes:duration}, "
        "up to {most:duration}.",
        "What is cut off before its end is scrap, cools unwatched, and leaves its filament in the nozzle.",
        "Hours of the run with their band, as the timer is armed",
        EXPECTED,
        title="timer may cut it off",
        shows=("came_off",),
    ),
)
BY_CODE = {code.code: code for code in CODES}
