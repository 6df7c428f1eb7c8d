"""A run: what was printed under which revision, what was seen at which minute or height, how it ended."""

import math
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.photo import Photo

RUN_KINDS = {"trial": "Trial", "production": "Production"}
OUTCOMES = {
    "good": "Good",
    "usable": "Usable, with flaws",
    "failed": "Failed",
    "stopped": "Stopped early",
}
SHAPES = {
    "flat": "Flat and long",
    "tall": "Tall and thin",
    "block": "Solid block",
    "shell": "Thin shell",
    "ring": "Ring or tube",
    "detail": "Small and detailed",
}
FILAMENTS = {
    "dry": "Dry",
    "doubtful": "Perhaps wet",
    "wet": "Wet",
    "unknown": "Not known",
}
SEEN = {
    "corner_lift": "Corner lifted",
    "came_off": "Came off the plate",
    "stuck": "Would not come off",
    "surface_torn": "Surface or film torn",
    "glass_broke": "Plate chipped or broke",
    "let_go": "Came off by itself, cold",
    "warped": "Warped on cooling",
    "layers_split": "Layers split",
    "weak_layers": "Breaks easily along layers",
    "foot_sagged": "Foot sagged",
    "shape_lost": "Layers too soft, shape lost",
    "strings": "Strings and drool",
    "starved": "Starved or rough walls",
    "no_flow": "Nothing extruded",
    "jam": "Nozzle jammed",
    "charred": "Discoloured or charred",
    "bubbles": "Bubbles or hissing",
    "short_of_heat": "A heater did not get there",
    "heater_fault": "Heater fault",
    "machine_softened": "A machine part softened",
    "smell": "Smoke or sharp smell",
    "gave_way": "Gave way in service",
    "attacked": "Attacked in service",
    "ran_out": "Ran out of filament",
}
PLACES = {
    "corner": "At a corner",
    "edge": "Along an edge",
    "foot": "At the foot",
    "middle": "Half way up",
    "top": "Near the top",
    "all": "All over",
    "machine": "On the machine",
}


@attrs.frozen(kw_only=True)
class Observation:
    """One thing seen: what, where, at which time into the run or at which height."""

    what: str = attrs.field()
    where: str | None = choice(PLACES, "Where")
    at_h: float | None = number("duration", "Time into the run")
    at_mm: float | None = number("length", "Height")
    lift_mm: float | None = number("length", "Lifted by", "Of a corner, at its end")
    note: str = text("Note")
    extra: dict[str, Any] = extra()

    @what.validator
    def _check(self, _: object, value: str) -> None:
        if value not in SEEN:
            raise FieldError("what", f"{value!r} is none of {', '.join(SEEN)}")


OFF = {  # in the order of effort
    "let_go": "By itself",
    "easy": "Easily",
    "hard": "With effort",
    "stuck": "Not at all",
    "torn": "Surface torn",
    "broke": "Plate broken",
}
STANDS = {"not met": "Not met", "unknown": "Not known"}
PHASES = {"before": "Before the start", "during": "While it prints", "after": "After the print"}


@attrs.frozen(kw_only=True)
class RunStep:
    """One step of a run as it stood when the run began, and what became of it."""

    key: str
    title: str = text("Step")
    says: str = text("What to do")
    caution: str = text("Caution")
    phase: str | None = choice(PHASES, "Part of the run")
    at_h: float | None = number("duration", "After the first move")
    at_mm: float | None = number("length", "At the height")
    wait_min: float | None = number("minutes", "Waits", "From the end of the step before it")
    stands: str | None = choice(STANDS, "In the list before the start", "None for what is no line of it")
    is_safety: bool = False  # nobody signs for going without it
    done_utc: str = moment("Done")
    passed: bool = False  # over because the run had ended, and not done
    by: str = text("By")
    waived: str = text("Done without it, because")
    note: str = text("Note")
    extra: dict[str, Any] = extra()

    @property
    def is_unmet(self) -> bool:
        """Whether it is a line of the list before the start that did not stand, or that nobody knew."""
        return self.stands is not None

    @property
    def is_over(self) -> bool:
        """Whether it is done, gone without, or passed over."""
        return bool(self.done_utc)


SENSED = {"nozzle": "Nozzle", "plate": "Plate", "chamber": "Chamber"}
FAULTS = {
    "never": "never got there",
    "short": "fell short",
    "full": "ran at its limit",
    "drift": "drifted",
    "stuck": "stood still",
    "gaps": "has gaps",
}


@attrs.frozen(kw_only=True)
class RunSensor:
    """What one sensor showed over a run, thinned, and what it tells."""

    name: str = text("Sensor")
    zone: str | None = choice(SENSED, "Zone", "Of the machine; none for a sensor beside the part")
    from_utc: str = moment("First reading")
    hours: tuple[float, ...] = ()  # from the first reading
    shown_c: tuple[float, ...] = ()
    set_c: tuple[float, ...] = ()  # as many, or none
    reached_min: float | None = number("minutes", "There after")
    short_k: float | None = number("temperature_difference", "Fell short by", "Once it had been there")
    short_min: float | None = number("minutes", "Short for")
    drift_k_h: float | None = number("temperature_difference", "Drifted in an hour")
    full_min: float | None = number("minutes", "At its limit for")
    stuck_min: float | None = number("minutes", "Stood still for")
    gap_min: float | None = number("minutes", "Longest gap")
    says: tuple[str, ...] = ()  # of FAULTS
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        if len(self.hours) != len(self.shown_c) or (self.set_c and len(self.set_c) != len(self.hours)):
            raise FieldError("hours", "hours, readings and setpoints must be as many")
        if unknown := set(self.says) - FAULTS.keys():
            raise FieldError("says", f"{min(unknown)!r:.40} is none of {', '.join(FAULTS)}")


@attrs.frozen(kw_only=True)
class RunRest:
    """A time in which a run stood still, and what was said to going on."""

    at_utc: str = moment("Noted")
    minutes: float | None = number("minutes", "Stood still for")
    at_mm: float | None = number("length", "At the height")
    is_held: bool | None = flag("Plate kept hot")
    says: str = text("What was said")
    by: str = text("By")
    extra: dict[str, Any] = extra()


HAPPENED = {  # what a run leaves open that nobody sees on the part
    "no_soak": "It was begun without its soak",
    "stood_still": "It stood still, and no pause of its file",
}


@attrs.frozen(kw_only=True)
class Settled:
    """What a run had left open, closed: by whom, and what shows it."""

    what: str = attrs.field()
    at_utc: str = moment("Closed")
    by: str = text("By")
    proof: str = text("What shows it")
    extra: dict[str, Any] = extra()

    @what.validator
    def _check(self, _: object, value: str) -> None:
        if value not in SEEN and value not in HAPPENED:
            raise FieldError("what", f"{value!r:.40} is none of {', '.join((*SEEN, *HAPPENED))}")


@attrs.frozen(kw_only=True)
class RunPiece:
    """A piece of a run along its height: what of its time and filament has gone by then, as its file says."""

    high_mm: float  # its top
    time: float  # share up to there [1]
    filament: float
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        for name, most in (("high_mm", math.inf), ("time", 1.0), ("filament", 1.0)):
            if not 0.0 <= getattr(self, name) <= most or not math.isfinite(getattr(self, name)):
                raise FieldError(name, f"must lie between 0 and {most:g}, got {getattr(self, name)!r}")


@attrs.frozen(kw_only=True)
class Run:
    """One print: it hangs on one revision, and with it on one machine configuration and one lot."""

    id: str
    card: str
    revision: float  # number of the revision that was run
    machine: str | None = None
    configuration: str = ""  # fingerprint of the machine as it stood
    lot: str | None = None
    nozzle: str | None = None
    plate: str | None = None
    agent: str | None = None  # kind, as it lay on the plate; None for a bare one
    job: str | None = None  # file that was run
    bond: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # what was expected as it began, nothing learned
    polymer: str | None = None
    kind: str | None = choice(RUN_KINDS, "Kind")
    started_utc: str = moment("Started")
    ended_utc: str = moment("Ended")
    look_due_utc: str = moment("Layer one is laid", "As it was expected when the run began")
    looked_utc: str = moment("Layer one found good")
    looked_by: str = text("Layer one found good by")
    settings: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # where it was run differently
    hot: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # hottest setpoint by zone as it began [°C]
    unmet: tuple[str, ...] = ()  # lines of the list before the start that were not met or unknown when it began
    steps: tuple[RunStep, ...] = ()  # in the order in which they come; none for runs of an earlier version
    foretold: tuple[str, ...] = ()  # codes of the findings that stood when it began
    observations: tuple[Observation, ...] = ()
    rests: tuple[RunRest, ...] = ()  # in which it stood still, and no pause of its file
    settled: tuple[Settled, ...] = ()  # of what it left open
    sensors: tuple[RunSensor, ...] = ()  # what they showed
    readings: str = ""  # file of them that is kept
    photos: tuple[Photo, ...] = ()
    off: str | None = choice(OFF, "Came off", "How the part came off its plate")
    off_c: float | None = number("temperature", "Plate then", "By the probe, when it came off")
    outcome: str | None = choice(OUTCOMES, "Outcome", "What the run came to; empty while it runs")
    mass_g: float | None = number("mass", "Filament taken", "As the brief says when it begins; correct it when it ends")
    planned_h: float | None = number("duration", "Planned for", "As the brief says when it begins")
    course: tuple[RunPiece, ...] = ()  # by the file that was bound when it began, from the foot
    told_h: float | None = number("duration", "By its file", "Before what was learned of the machine")
    ran_h: float | None = number("duration", "Ran for", "Until it was stopped; empty where it ran to its end")
    filament: str | None = choice(FILAMENTS, "Filament was", "As judged when it began; correct it if it was not so")
    despite: str = text("Run despite a stop", "Who ran it all the same, and why")
    part: str = text("Part printed", "As the recipe names it; another name where another part was printed")
    shape: str | None = choice(SHAPES, "Shape class", "Kind of shape that was printed; one part is one class")
    hours_lost: float | None = number("duration", "Hours lost", "Machine and people, beyond what the run itself takes")
    money_lost: float | None = number("money", "Money lost", "Filament, plate, parts of the machine")
    note: str = text("Note")
    retired: bool = False
    extra: dict[str, Any] = extra()

    @settings.validator
    def _check_settings(self, _: object, value: Mapping[str, float]) -> None:
        for path, each in value.items():
            if not isinstance(each, (int, float)) or not math.isfinite(each):
                raise FieldError("settings", f"{path:.60}: {each!r:.40} is no number")

    @property
    def is_ended(self) -> bool:
        """Whether a verdict stands."""
        return self.outcome is not None

    @property
    def seen(self) -> frozenset[str]:
        """What was seen, each kind once."""
        return frozenset(each.what for each in self.observations)

    @property
    def happened(self) -> frozenset[str]:
        """What was seen, and what its steps and rests tell beside it."""
        no_soak = {"no_soak"} if any(each.key == "hot" and each.waived for each in self.steps) else set()
        return self.seen | no_soak | ({"stood_still"} if self.rests else set())
