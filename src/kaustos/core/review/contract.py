"""Every type that crosses from judgement to window, command line, sheet and log.

Texts are templates with named gaps such as ``{gap:temperature_difference}``: the word behind the
colon is the quantity of the value (or ``text``), so that one place in app/ can word it in the
units the user chose.
"""

from collections.abc import Callable, Iterable, Mapping
from datetime import datetime
from enum import Enum
from typing import Any

import attrs

from kaustos.core.planning.matters import Matter
from kaustos.core.records import (
    AgentBatch,
    Bath,
    Calibration,
    Dryer,
    JobFile,
    Lot,
    Machine,
    Nozzle,
    Oven,
    OvenLoad,
    PlateItem,
    Polymer,
    PrintedPart,
    Proof,
    Recipe,
    Rules,
    ServicePart,
    Supplies,
    Upgrade,
)
from kaustos.core.records import Estimate as Estimate  # crosses with everything else that stands here
from kaustos.core.records.fields import value_at
from kaustos.core.records.nozzle import Fed

SEVERITIES = ("stop", "watch")
STANDINGS = ("stop", "watch", "open", "clear")
GRADES = ("no_go", "decorative", "reduced", "functional")


class Absent(Enum):
    """Why a figure has no value."""

    UNKNOWN = "unknown"  # not recorded
    PENDING = "pending"  # being computed


UNKNOWN = Absent.UNKNOWN
PENDING = Absent.PENDING


@attrs.frozen
class Figure:
    """One figure of an operation that can be asked where it comes from."""

    key: str
    title: str
    value: Estimate | str | Absent


EXPECTED = "Ignored, {odds:text} go wrong: {cost:money} a run on average."  # what most findings cost


@attrs.frozen
class Code:
    """A finding that can arise; text and cost are templates with named gaps."""

    code: str
    severity: str
    text: str
    why: str
    source: str
    cost: str
    title: str = attrs.field(kw_only=True)  # how it is spoken of without its numbers
    cap: str | None = attrs.field(default=None, kw_only=True)  # best grade that it leaves
    cap_mild: str | None = attrs.field(default=None, kw_only=True)  # the same where it is a watch instead of its stop
    shows: tuple[str, ...] = attrs.field(default=(), kw_only=True)  # how it shows in a run when it is right
    silent: str = attrs.field(default="", kw_only=True)  # why no run confirms or refutes it, whatever it shows
    is_absence: bool = attrs.field(default=False, kw_only=True)  # says that nobody is there
    is_safety: bool = attrs.field(default=False, kw_only=True)  # whether people can be hurt: never signed for or priced
    harms: bool = attrs.field(default=False, kw_only=True)  # whether plate or machine are harmed where it comes true

    def cap_of(self, severity: str) -> str | None:
        """The best grade that it leaves at a severity."""
        return self.cap_mild if (severity, self.severity) == ("watch", "stop") else self.cap


@attrs.frozen
class Set:
    """Remedy: field paths with new values, applied and undone as one step."""

    title: str
    changes: Mapping[str, float | str | None]
    values: Mapping[str, float | str] = attrs.field(factory=dict)


@attrs.frozen
class Choose:
    """Remedy: another machine, dryer, lot, plate, agent or nozzle, with the settings that go along."""

    title: str
    what: str
    id: str
    values: Mapping[str, float | str] = attrs.field(factory=dict)
    changes: Mapping[str, float | str | None] = attrs.field(factory=dict)


@attrs.frozen
class Advice:
    """Remedy that the program cannot carry out; what somebody did is told in a field, where it has one."""

    title: str
    text: str
    values: Mapping[str, float | str] = attrs.field(factory=dict)
    field: str = ""


Remedy = Set | Choose | Advice


@attrs.frozen
class Finding:
    """A code that arose: the values for its gaps, the setting the eye is led to, what it costs, what helps.

    PENDING among the remedies keeps a place for what is still being tried: the shop's other machines, dryers, lots.
    """

    code: str
    severity: str
    values: Mapping[str, float | str]
    field: str
    cost: Estimate | None  # chance times stake
    remedies: tuple[Remedy | Absent, ...]
    chance: float = attrs.field(default=1.0, kw_only=True)  # that it comes true in the next run [1]
    basis: str = attrs.field(default="prior", kw_only=True)  # draws, prior, record, sure, or people: never priced
    stake: Estimate | None = attrs.field(default=None, kw_only=True)  # what is lost where it comes true
    due_to: str = attrs.field(default="", kw_only=True)  # code of a finding whose cure takes this one along


@attrs.frozen
class Caution:
    """Where work can hurt: shown on screen, run card and sheet."""

    code: str
    text: str


@attrs.frozen
class Cap:
    """The best grade that a code leaves."""

    code: str
    grade: str


@attrs.frozen
class Missing:
    """A field that is not recorded, and the worst grade its value could bring."""

    field: str
    worst: str
    required: bool = True


@attrs.frozen
class Saying:
    """A template with the values for its gaps."""

    text: str
    values: Mapping[str, float | str] = attrs.field(factory=dict)


@attrs.frozen
class OperationReview:
    """What one operation says of a recipe."""

    number: int
    standing: str
    headline: str
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    cautions: tuple[Caution, ...]
    missing: tuple[Missing, ...]
    caps: tuple[Cap, ...] = ()
    asked: int = 0
    tile: tuple[Saying, ...] = ()  # what its tile says, long to short; none where that is not known


@attrs.frozen
class Grade:
    """The part's grade: the lowest cap; not better than that while something required is unknown."""

    value: str
    because: tuple[str, ...]
    caps: tuple[Cap, ...]
    until_known: tuple[str, ...]
    wanted: str | None

    @property
    def standing(self) -> str:
        """Stop for no-go, watch below what is wanted, open while that or something required is unknown, else clear."""
        if self.value == "no_go":
            return "stop"
        if self.wanted and GRADES.index(self.value) < GRADES.index(self.wanted):
            return "watch"
        return "open" if self.until_known or self.wanted is None else "clear"


@attrs.frozen
class Completeness:
    """How much of what the review asks is recorded, the rest in the order in which it would change the grade."""

    known: int
    asked: int
    missing: tuple[Missing, ...]


@attrs.frozen
class Review:
    """The judgement of a whole recipe."""

    operations: tuple[OperationReview, ...]
    grade: Grade
    completeness: Completeness

    @property
    def standing(self) -> str:
        """Stop while any stop stands, whatever the grade comes to; else what the grade is to what is wanted."""
        stops = any(finding.severity == "stop" for operation in self.operations for finding in operation.findings)
        return "stop" if stops else self.grade.standing

    def findings(self) -> tuple[Finding, ...]:
        """All findings: severity, then what can hurt people, then chance times stake, then route; causes lead."""
        return worst_first(finding for operation in self.operations for finding in operation.findings)


def worst_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings by severity, what can hurt people first of each, then chance times stake, then as they came.

    What goes with a cause that is as severe stands behind it, and the cause where the dearest of them would stand.
    """
    ordered = sorted(findings, key=_urgency)
    causes = {each.code: each for each in reversed(ordered)}
    led = {id(each): causes[each.due_to] for each in ordered if _is_led(each, causes.get(each.due_to))}
    if not led:
        return tuple(ordered)
    told: list[Finding] = []
    for finding in ordered:
        cause = led.get(id(finding), finding)
        behind = [each for each in ordered if led.get(id(each)) is cause]
        told += [each for each in (cause, *behind) if not any(each is other for other in told)]
    return tuple(told)


def _is_led(finding: Finding, cause: Finding | None) -> bool:
    """Whether the cause of a finding is said too, and as severe."""
    return cause is not None and cause.severity == finding.severity


def _urgency(finding: Finding) -> tuple[int, bool, float, float]:
    cost = finding.cost.value if finding.cost else 0.0
    return SEVERITIES.index(finding.severity), finding.basis != "people", -cost, -finding.chance


@attrs.frozen
class LastRun:
    """How the last run of a recipe, polymer and machine ended, as the log tells it."""

    card: str
    polymer: str
    machine: str
    started_utc: str
    outcome: str
    seen: tuple[str, ...]


@attrs.frozen
class Hot:
    """How hot a machine was in one run, and for how long."""

    at_utc: str
    hours: float
    zones: Mapping[str, float]  # by zone [°C]

    def heat(self, zone: str) -> float:
        """How hot a zone was set [°C]; nothing where that was not recorded."""
        return self.zones.get(zone, float("-inf"))


@attrs.frozen
class Bonded:
    """What became of one run on a plate: what was expected of it without learning, and what was seen."""

    run: str
    at_utc: str
    polymer: str
    agent: str  # kind; empty for a bare plate
    lot: str
    over_load: float  # logarithm of grip over load, as expected
    over_cold: float  # the same over the load on cooling
    over_damage: float  # the same over what harms the surface
    seen: tuple[str, ...]
    lift_mm: float | None
    outcome: str
    off: str | None = None  # how the part came off
    plate: str = ""  # id
    surface: str = ""  # of that plate


def _nothing_recorded(polymer: str) -> Mapping[str, Any]:
    """No run tells how often a finding of a polymer was right."""
    return {}


@attrs.frozen(kw_only=True)
class Shop:
    """What else the shop could use: read by remedies that offer another machine or polymer."""

    in_use: Mapping[str, tuple[Any, ...]] = attrs.field(factory=dict)  # by kind, many of them
    used_up: tuple[Lot, ...] = ()  # retired lots: more of them may be on its way
    qualified: frozenset[tuple[str, str]] = frozenset()  # grade and colour that passed a trial
    taken_g: Mapping[str, float] = attrs.field(factory=dict)  # by lot, by runs since it was weighed
    hot: Mapping[str, tuple[Hot, ...]] = attrs.field(factory=dict)  # by machine: how hot its runs were
    bonded: Mapping[str, tuple[Bonded, ...]] = attrs.field(factory=dict)  # by plate: what became of its runs
    paces: Mapping[str, tuple[float, ...]] = attrs.field(factory=dict)  # by machine: hours of runs over their files
    fed: Mapping[str, tuple[Fed, ...]] = attrs.field(factory=dict)  # by nozzle: what runs fed through it
    runs_done: Mapping[str, int] = attrs.field(factory=dict)  # by recipe: runs whose part can be used
    calibrations: tuple[Calibration, ...] = ()  # of every machine
    upgrades: tuple[Upgrade, ...] = ()  # changes that could be made to machines
    last_runs: tuple[LastRun, ...] = ()  # of each recipe, polymer and machine, the latest first
    polymers: Mapping[str, Polymer] = attrs.field(factory=dict, eq=False)  # read one by one, when it is asked for
    record: Callable[[str], Mapping[str, Any]] = attrs.field(
        default=_nothing_recorded, eq=False
    )  # of a polymer, by code

    @property
    def machines(self) -> tuple[Machine, ...]:
        """Machines in use."""
        return self.in_use.get("machines", ())

    @property
    def dryers(self) -> tuple[Dryer, ...]:
        """Dryers in use."""
        return self.in_use.get("dryers", ())

    @property
    def lots(self) -> tuple[Lot, ...]:
        """Lots in use."""
        return self.in_use.get("lots", ())

    @property
    def nozzles(self) -> tuple[Nozzle, ...]:
        """Nozzles in use."""
        return self.in_use.get("nozzles", ())

    @property
    def plates(self) -> tuple[PlateItem, ...]:
        """Plates in use."""
        return self.in_use.get("plates", ())

    @property
    def agents(self) -> tuple[AgentBatch, ...]:
        """Agents in use."""
        return self.in_use.get("agents", ())

    @property
    def baths(self) -> tuple[Bath, ...]:
        """Baths in use."""
        return self.in_use.get("baths", ())

    @property
    def ovens(self) -> tuple[Oven, ...]:
        """Ovens in use."""
        return self.in_use.get("ovens", ())

    @property
    def every_lot(self) -> tuple[Lot, ...]:
        """Lots in use behind those that are used up."""
        return (*self.used_up, *self.lots)


@attrs.frozen(kw_only=True)
class Past:
    """What ended runs prove of a recipe, whichever revision, runs from wet filament left out."""

    good: int = 0
    ended: int = 0
    wet: int = 0  # from wet filament, in none of the counts
    shapes: tuple[str, ...] = ()  # of its good runs
    lots: frozenset[str] = frozenset()  # of its good runs
    same: int | None = None  # good runs under the settings as they stand; None where no revision is at hand
    same_shapes: tuple[str, ...] = ()  # of these
    last_good_utc: str = ""  # on the machine it is judged on
    climbed: frozenset[str] = frozenset()  # shapes of good runs of its polymer on its machine, whichever recipe

    @property
    def as_it_stands(self) -> int:
        """Good runs under the settings of now; of all where nobody can tell them apart [-]."""
        return self.good if self.same is None else self.same


@attrs.frozen(kw_only=True)
class Context:
    """What a recipe is judged with; None is not recorded.

    ``polymer`` is the library's polymer under the lot's own values. The room stays None until the operation that owns
    it exists.
    """

    polymer: Polymer | None = None
    machine: Machine | None = None
    lot: Lot | None = None
    plate: PlateItem | None = None
    agent: AgentBatch | None = None
    bath: Bath | None = None
    oven: Oven | None = None
    nozzle: Nozzle | None = None  # that the recipe asks for, else that which is fitted
    part: PrintedPart | None = None
    job: JobFile | None = None  # that is bound to the recipe
    dryer: Dryer | None = None
    room: None = None
    calibrations: tuple[Calibration, ...] = ()  # of the machine, the newest of each kind
    loads: tuple[OvenLoad, ...] = ()  # of this recipe's parts, the newest first
    proofs: tuple[Proof, ...] = ()  # of this recipe, and dead ends of its polymer; the newest first
    services: tuple[ServicePart, ...] = ()  # parts of its polymer in service
    past: Past | None = None  # what its runs prove; None where nobody tells
    matters: tuple[Matter, ...] = ()  # what earlier runs left open on its machine and its plate
    now: datetime | None = None
    wall: datetime | None = None  # the same with the clock on the wall of the shop
    rules: Rules = attrs.field(factory=Rules)
    runs_done: int = 0  # of this recipe: runs whose part can be used
    same_part: frozenset[str] = frozenset()  # recipes of the same part, this one among them
    wanted_g: Mapping[str, float] = attrs.field(factory=dict)  # by lot, by the runs still to come of other recipes
    shop: Shop = attrs.field(factory=Shop)
    supplies: Supplies = attrs.field(factory=Supplies)
    results: Mapping[str, Any] = attrs.field(factory=dict)  # heavy results by key: each operation knows its own type


@attrs.frozen(kw_only=True)
class Reads:
    """What of a recipe and of its context a computation reads; a part of a part is dotted, such as shop.machines."""

    recipe: tuple[str, ...] = ()
    context: tuple[str, ...] = ()

    def of(self, recipe: Recipe, context: Context) -> tuple[Any, ...]:
        """The values that it reads, to be compared with those of the last time."""
        mine = tuple(getattr(recipe, name) for name in self.recipe)
        return mine + tuple(value_at(context, path) for path in self.context)


@attrs.frozen(kw_only=True)
class Heavy:
    """A result that a review waits for: computed away from the window, read through ``context.results``."""

    key: str
    compute: Callable[[Recipe, Context], Any]
    reads: Reads | None = None  # None for all that its operation reads
    where: str = "thread"  # or process


def is_same(one: Any, other: Any) -> bool:
    """Whether two values are the same thing, else equal; tuples are compared part by part.

    Parameters
    ----------
    one : object
        What was read before [-]
    other : object
        What is read now [-]

    Returns
    -------
    bool
        False where they differ [-]
    """
    if one is other:
        return True
    if isinstance(one, tuple) and isinstance(other, tuple):
        return len(one) == len(other) and all(a is b or is_same(a, b) for a, b in zip(one, other, strict=True))
    return bool(one == other)


def worst_of(words: tuple[str, ...], order: tuple[str, ...]) -> str | None:
    """The word that comes first in the order, None for no words."""
    return min(words, key=order.index) if words else None
