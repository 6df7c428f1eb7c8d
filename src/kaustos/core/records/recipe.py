"""A recipe: one section for each operation that owns settings."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.polymer import CHARACTERS, CHEMICALS
from kaustos.core.records.quantities import AIR_C
from kaustos.core.records.stock import WAITS

PURPOSES = {
    "ornament": "Ornament",
    "fit_check": "Fit check",
    "prototype": "Prototype",
    "tool": "Shop tool",
    "loaded": "Loaded part",
    "outdoor": "Outdoor part",
    "safety": "Safety part",
}
STRICT = ("loaded", "outdoor", "safety")  # purposes judged by the low end of what is known
HISTORIES = {"as_printed": "As printed", "annealed": "Annealed"}
MEETS = {"none": "Nothing harsh"} | CHEMICALS
LOOKS = {"any": "No matter", "gloss": "Glossy", "satin": "Satin", "matt": "Matt, layers hidden"}
ANCHORS = {
    "none": "None",
    "skirt": "Skirt",
    "brim": "Brim",
    "ears": "Ears at the corners",
    "raft": "Raft",
}
RELEASES = {
    "hot": "Hot",
    "cold": "Cold, by itself",
    "flex": "Cold, by bending",
    "blade": "With a blade",
}
SUPPORT_WAYS = {
    "none": "Nothing",
    "built_in": "Drawn in",
    "grid": "Grid",
    "branches": "Branches",
    "breakaway": "Break-away",
    "soluble": "Soluble",
    "coat": "Coat by hand",
}
SUPPORT_MATERIALS = {
    "alkali_acrylic": "Alkali-soluble acrylic",
    "bvoh": "BVOH",
    "hips": "HIPS",
    "hot_soluble": "Soluble for hot chambers",
    "hot_water": "Hot-water dispersible",
    "petg": "PETG",
    "pla": "PLA",
    "pva": "PVA",
    "styrenic_breakaway": "Styrenic break-away",
    "sulfone": "Sulfone break-away",
}
MOISTURES = {"dry": "Dry", "conditioned": "Conditioned"}
ANNEALED_IN = {"oven": "An oven", "machine": "The machine, still on its plate"}
PACKINGS = {"free": "Free on a sheet", "jig": "Clamped in a jig", "sand": "In dry sand"}


@attrs.frozen(kw_only=True)
class Brief:
    """What the part is for and what it must stand."""

    purpose: str | None = choice(PURPOSES, "Purpose", "Sets the grade and the allowance that the use demands")
    service_c: float | None = number(
        "temperature", "Service temperature", "Hottest the part gets under load", short="Service up to"
    )
    margin_k: float | None = number(
        "temperature_difference", "Margin wanted", "Softening value minus service temperature, at least"
    )
    stress_mpa: float | None = number("stress", "Stress in service", "Bending stress at the service temperature")
    margin_signed: str = text("Margin signed by", "Who answers for less than the purpose asks, and why")
    service_h: float | None = number(
        "duration", "Hours in service", "At that temperature over its life, such as 2000 h"
    )
    character: str | None = choice(CHARACTERS, "Character", "Stiff, tough or rubbery: which of them the part is to be")
    history: str | None = choice(HISTORIES, "Heat history", "State in which the part goes into service")
    moisture: str | None = choice(MOISTURES, "Moisture", "Dry, or in balance with humid surroundings")
    load_across: bool | None = flag(
        "Load across layers", "Whether the worst load pulls the layers apart", short="Across layers"
    )
    outdoor: bool | None = flag("Outdoors", "Whether the part stands sun and rain")
    chemical: str | None = choice(MEETS, "Meets", "Harshest chemical the part meets in service")
    clear: bool | None = flag("Clear", "Whether the part is to be seen through")
    look: str | None = choice(LOOKS, "Look", "Finish that is wanted as printed")
    glued: bool | None = flag("To be glued")
    painted: bool | None = flag("To be painted")
    sanded: bool | None = flag("To be sanded")
    inserts: bool | None = flag("Takes inserts", "Threaded inserts, bushes or pins that are pressed or melted in")
    slides: bool | None = flag("Slides", "Whether the part slides or turns against another")
    size_x_mm: float | None = number("length", "Part, length", "Everything in one run, as it stands on the plate")
    size_y_mm: float | None = number("length", "Part, width")
    size_z_mm: float | None = number("length", "Part, height")
    why: str = text("Why this polymer", "For those who come after: what decided")
    rejected: str = text("Rejected, and why", "Polymers that were thought of, and on which evidence they fell out")
    mass_g: float | None = number("mass", "Mass of the run", "Part, anchor and purge together")
    print_h: float | None = number("duration", "Hours of the run", "From the first move to the last")
    runs: float | None = number("ratio", "Runs wanted", "Good ones in all; the log counts those that are done")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Stock:
    """How the filament is dried, and where it waits until it is printed."""

    dryer_c: float | None = number("temperature", "Dryer set to", typed=AIR_C)
    dryer_h: float | None = number("duration", "Drying time")
    wanted_utc: str = moment("Dry spool wanted at", "When the machine is to start")
    wait_h: float | None = number("duration", "Then waits", "From dryer to first move, 0 for at once")
    wait_in: str | None = choice(WAITS, "Waits in", "Where it hangs meanwhile; where it is fed from if not said")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Plate:
    """How the plate is held while the part grows."""

    bed_c: float | None = number("temperature", "Plate", "Plate setpoint after the first layer")
    anchor: str | None = choice(ANCHORS, "Anchor", "What stands round or under the part")
    brim_mm: float | None = number(
        "length", "Width of the anchor", "Of brim, ears or the rim of a raft", short="Its width", typed=(0.0, 100.0)
    )
    raft_mm: float | None = number("length", "Height of the raft", typed=(0.0, 20.0))
    copies: float | None = number("ratio", "Copies on the plate", short="Copies", typed=(1.0, 400.0))
    apart_mm: float | None = number("length", "Apart", "Between copies, anchors not counted", typed=(0.0, 500.0))
    clips: float | None = number("ratio", "Clips", "Each takes a strip off the edge", typed=(0.0, 40.0))
    coats: float | None = number("ratio", "Coats of agent", typed=(0.0, 20.0))
    release: str | None = choice(RELEASES, "Taken off", "Hot from brittle plates, cold from soft sheets")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class FirstLayer:
    """Setpoints that hold for the first layer alone."""

    bed_c: float | None = number("temperature", "Plate, first layer", "Plate setpoint while the first layer is laid")
    nozzle_c: float | None = number("temperature", "Nozzle, first layer", "Nozzle setpoint for the first layer")
    gap_mm: float | None = number("length", "Gap", "Nozzle to plate while the first layer is laid", typed=(0.0, 20.0))
    height_mm: float | None = number("length", "First layer, height", "As sliced", short="Height", typed=(0.01, 20.0))
    width_mm: float | None = number(
        "length", "First layer, width", "Of a bead, as sliced", short="Width", typed=(0.05, 40.0)
    )
    speed_mm_s: float | None = number("speed", "First layer, speed", short="Speed", typed=(0.5, 500.0))
    slow_layers: float | None = number("ratio", "Slow layers", "That run at this speed", typed=(1.0, 50.0))
    look_by: str = text("Who looks", "Name, at the end of the first layer: go on or stop")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Melt:
    """How the polymer is melted."""

    nozzle_c: float | None = number("temperature", "Nozzle", "Nozzle setpoint after the first layer")
    infill_pct: float | None = number("share", "Filled to", "Share of the inside that is filled")
    height_mm: float | None = number("length", "Layer", "Height of a layer", typed=(0.01, 20.0))
    width_mm: float | None = number("length", "Bead", "Width of a bead", typed=(0.05, 40.0))
    speed_mm_s: float | None = number("speed", "Speed", "Of walls and infill", typed=(0.5, 1000.0))
    walls: float | None = number("ratio", "Walls", "Beads side by side at every outline", typed=(0.0, 100.0))
    multiplier: float | None = number(
        "multiplier", "Extrusion multiplier", "As it is sliced", short="Multiplier", typed=(0.1, 3.0)
    )
    pause_min: float | None = number("minutes", "Longest pause", "With melt in the hot end, planned ones and inserts")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Heat:
    """The air round the part."""

    chamber_c: float | None = number("temperature", "Chamber", "Chamber setpoint")
    fan_pct: float | None = number("share", "Fan", "Part cooling once the first layers are laid")
    least_layer_s: float | None = number(
        "seconds",
        "Layer takes at least",
        "Machine slows or waits until then",
        short="Least layer time",
        typed=(0.0, 3600.0),
    )
    soak_min: float | None = number("minutes", "Soak", "Closed and hot before the first move", typed=(0.0, 2880.0))
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Supports:
    """What holds the places that grow over air, and how it comes off again."""

    way: str | None = choice(SUPPORT_WAYS, "Held by", "What stands under places that grow over air")
    material: str | None = choice(SUPPORT_MATERIALS, "Second polymer", "Of which supports, or what touches, are made")
    contact_only: bool | None = flag("Contact only", "Whether the second polymer is only in the layers that touch")
    contrast: bool | None = flag("Differs in colour", "Whether what is left of the second polymer is seen on the part")
    from_deg: float | None = number(
        "angle", "Held from", "Lean from upright, 0 a wall and 90 a ceiling, from which supports are generated",
        typed=(0.0, 90.0),
    )  # fmt: skip
    gap_mm: float | None = number("length", "Gap to supports", "In height; whole layers are laid", typed=(0.0, 5.0))
    filled_pct: float | None = number("share", "Supports filled to", typed=(1.0, 100.0))
    bath_ml: float | None = number("volume", "New bath holds", "Where no bath of the shop is chosen", typed=(50.0, 1e6))
    bath_c: float | None = number("temperature", "Bath at", typed=(0.0, 150.0))
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class AnnealStep:
    """One ramp and hold."""

    temperature_c: float | None = number("temperature", "Hold")
    hold_h: float | None = number("duration", "Hold time", "Counted from when the core is there")
    ramp_k_h: float | None = number("ramp", "Ramp", "Of the air, up or down to this hold", typed=(0.5, 3000.0))
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Anneal:
    """The heat treatment after printing, and what else is done to the part."""

    steps: tuple[AnnealStep, ...] = ()
    where: str | None = choice(ANNEALED_IN, "Annealed in")
    packed: str | None = choice(PACKINGS, "Lies", "How it is held while it is soft")
    pack_mm: float | None = number("length", "Round it", "Sand or metal between air and part", typed=(0.0, 300.0))
    wall_mm: float | None = number("length", "Thickest section", "Wall, rib or boss", typed=(0.1, 500.0))
    cool_k_h: float | None = number("ramp", "Cools by", "Of the air, after the last hold", typed=(0.5, 3000.0))
    out_c: float | None = number("temperature", "Taken out at", typed=(0.0, 300.0))
    joint_mpa: float | None = number(
        "stress", "Glue joint holds", "Of a test joint of this polymer and glue", short="Joint holds"
    )
    joint_wanted_mpa: float | None = number("stress", "Glue joint carries", "In service", short="It carries")
    cure_h: float | None = number(
        "duration", "Bushes or glue cure for", "As its data sheet says; 0 for what is set by heat", short="Cures for"
    )
    patch: bool | None = flag(
        "Paint held on a patch", "Scratched and taped on a test patch of this polymer", short="Patch held"
    )
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Recipe:
    """A print recipe for one part and one polymer."""

    name: str = text("Recipe")
    part: str = text("Part")
    polymer: str | None = None  # id in the library
    brief: Brief = attrs.field(factory=Brief)
    stock: Stock = attrs.field(factory=Stock)
    plate: Plate = attrs.field(factory=Plate)
    first_layer: FirstLayer = attrs.field(factory=FirstLayer)
    melt: Melt = attrs.field(factory=Melt)
    heat: Heat = attrs.field(factory=Heat)
    supports: Supports = attrs.field(factory=Supports)
    anneal: Anneal = attrs.field(factory=Anneal)
    extra: dict[str, Any] = extra()
