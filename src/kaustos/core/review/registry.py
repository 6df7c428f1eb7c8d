"""The one list of operations in route order, each loaded when first asked, and the judgement of a whole recipe."""

import functools
from collections.abc import Callable, Iterator, Mapping
from typing import Any, Protocol

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review.contract import (
    Code,
    Completeness,
    Context,
    Grade,
    Heavy,
    OperationReview,
    Reads,
    Review,
)
from kaustos.core.review.grading import completeness_of, grade_of
from kaustos.core.review.outside import outside_code, tamed, with_outside


class Package(Protocol):
    """What the package of an operation exports."""

    @property
    def CODES(self) -> tuple[Code, ...]:
        """The findings it can raise."""

    @property
    def HEAVY(self) -> tuple[Heavy, ...]:
        """The results its review waits for."""

    def review(self, recipe: Recipe, context: Context) -> OperationReview:
        """What the operation says of a recipe."""

    def picture(self, recipe: Recipe, context: Context) -> Any:
        """The frozen record that its picture is drawn from."""


@attrs.frozen(kw_only=True)
class Operation:
    """One operation of the route; its key names its package, its bench, its figures and its codes."""

    number: int
    key: str
    title: str
    short: str
    section: str  # what it decides, in one sentence
    reads: Reads
    load: Callable[[], Package]
    as_typed: bool = False  # whether it sets what is typed beside the job file; all others judge by the file
    is_slow: bool = False  # whether its judgement takes more than a frame: in a drag it waits for a moment of rest

    @property
    def codes(self) -> tuple[Code, ...]:
        """The findings it can raise."""
        return (*self.load().CODES, outside_code(self.key))

    @functools.cached_property
    def heavy(self) -> tuple[Heavy, ...]:
        """The results its review waits for."""
        return tuple(_tamed_heavy(attrs.evolve(each, reads=each.reads or self.reads)) for each in self.load().HEAVY)

    @functools.cached_property
    def drawn(self) -> Heavy:
        """Its picture as a heavy result."""
        return _tamed_heavy(
            Heavy(
                key=f"{self.key}.picture", reads=self.reads,
                compute=lambda recipe, context: self.load().picture(recipe, context),
            )
        )  # fmt: skip

    def sees(self, recipe: Recipe, context: Context) -> Recipe:
        """The recipe as it judges it; what it reads is read of this one."""
        from kaustos.core.review.filed import as_filed

        return recipe if self.as_typed else as_filed(recipe, context)

    def review(self, recipe: Recipe, context: Context) -> OperationReview:
        """What it says of a recipe."""
        return self.said_of(self.sees(recipe, context), context)

    def said_of(self, seen: Recipe, context: Context) -> OperationReview:
        """What it says of a recipe as it sees it."""
        return with_outside(self.key, self.load().review(*tamed(seen, context, self.reads)), seen, context)

    def picture(self, recipe: Recipe, context: Context) -> Any:
        """The record its picture is drawn from."""
        return self.load().picture(*tamed(self.sees(recipe, context), context, self.reads))


def _tamed_heavy(heavy: Heavy) -> Heavy:
    """The same result of what can be."""
    compute, reads = heavy.compute, heavy.reads or Reads()
    return attrs.evolve(heavy, compute=lambda recipe, context: compute(*tamed(recipe, context, reads)))


def _brief() -> Package:
    from kaustos.core.review import brief

    return brief


def _stock() -> Package:
    from kaustos.core.review import stock

    return stock


def _machine() -> Package:
    from kaustos.core.review import machine

    return machine


def _plate() -> Package:
    from kaustos.core.review import plate

    return plate


def _first_layer() -> Package:
    from kaustos.core.review import first_layer

    return first_layer


def _melt() -> Package:
    from kaustos.core.review import melt

    return melt


def _heat() -> Package:
    from kaustos.core.review import heat

    return heat


def _supports() -> Package:
    from kaustos.core.review import supports

    return supports


def _run() -> Package:
    from kaustos.core.review import run

    return run


def _release() -> Package:
    from kaustos.core.review import release

    return release


def _anneal() -> Package:
    from kaustos.core.review import anneal

    return anneal


def _proof() -> Package:
    from kaustos.core.review import proof

    return proof


_OF_RUN = Reads(
    recipe=("anneal", "supports", "melt", "heat", "first_layer", "brief", "plate", "stock", "polymer"),
    context=(
        "polymer", "machine", "nozzle", "lot", "dryer", "part", "job", "bath", "rules", "calibrations", "supplies",
        "now", "wall", "shop.lots", "shop.used_up", "shop.polymers", "shop.bonded", "shop.paces", "proofs",
        "plate", "agent",
    ),
)  # fmt: skip
_OF_SUPPORTS = Reads(
    recipe=("supports", "melt", "heat", "first_layer", "brief", "plate", "stock", "polymer"),
    context=(
        "polymer", "machine", "nozzle", "lot", "part", "job", "rules", "calibrations", "supplies", "shop.lots",
        "proofs", "shop.used_up", "shop.polymers", "plate", "agent", "bath", "dryer", "now", "shop.baths",
        "shop.machines", "shop.calibrations",
    ),
)  # fmt: skip
OPERATIONS = (
    Operation(
        number=10, key="brief", title="Brief", short="Brief",
        section="Is this polymer, in the state the part will have, worth a trial for this service?",
        reads=Reads(
            recipe=("brief", "anneal", "stock", "polymer", "first_layer", "plate"),
            context=(
                "polymer", "machine", "dryer", "nozzle", "part", "plate", "agent", "rules", "supplies", "same_part",
                "lot", "calibrations", "shop.used_up", "oven", "loads",
                "shop.last_runs", "shop.plates",
                "shop.polymers", "shop.machines", "shop.dryers",
                "shop.lots",
            ),
        ),
        load=_brief,
    ),
    Operation(
        number=20, key="stock", title="Stock and drying", short="Drying",
        section="Is this very spool fit to print now and for the whole job, and if not, what makes it so and by when?",
        reads=Reads(
            recipe=("stock", "brief", "polymer"),
            context=(
                "polymer", "lot", "dryer", "machine", "nozzle", "now", "rules", "supplies", "runs_done", "wanted_g",
                "shop.in_use", "shop.used_up", "shop.qualified", "shop.taken_g", "shop.polymers",
            ),
        ),
        load=_stock,
    ),
    Operation(
        number=30, key="machine", title="Machine", short="Machine",
        section="Can this machine carry it as it stands today, and what stops it?",
        reads=Reads(
            recipe=("first_layer", "melt", "plate", "heat", "brief", "polymer"),
            context=(
                "polymer", "machine", "lot", "nozzle", "plate", "agent", "supplies", "rules",
                "shop.machines", "shop.lots", "shop.nozzles",
                "shop.fed", "shop.hot", "shop.last_runs", "shop.upgrades", "shop.calibrations",
                "calibrations",
            ),
        ),
        load=_machine,
    ),
    Operation(
        number=40, key="plate", title="Plate and bond", short="Plate",
        section="Will it hold, will it come off, and will the plate survive?",
        reads=Reads(
            recipe=("plate", "first_layer", "melt", "heat", "brief", "stock", "polymer"),
            context=(
                "polymer", "machine", "nozzle", "lot", "plate", "agent", "part", "rules", "calibrations", "supplies",
                "now", "shop.plates", "shop.agents", "shop.bonded",
            ),
        ),
        load=_plate,
        is_slow=True,
    ),
    Operation(
        number=50, key="first_layer", title="First layer", short="First layer",
        section="Which gap, speed and heat, and after layer one: go on or stop?",
        reads=Reads(
            recipe=("first_layer", "plate", "melt", "heat", "brief", "polymer"),
            context=(
                "polymer", "machine", "nozzle", "lot", "plate", "agent", "part", "rules", "calibrations", "supplies",
                "now", "shop.bonded",
            ),
        ),
        load=_first_layer,
        is_slow=True,
    ),
    Operation(
        number=60, key="melt", title="Melt and walls", short="Melt",
        section="Will it melt, flow and fit: which heat, bead, layer and speed give a dense wall of the right size?",
        reads=Reads(
            recipe=("melt", "first_layer", "brief", "plate", "polymer"),
            context=(
                "polymer", "machine", "nozzle", "lot", "part", "rules", "calibrations", "supplies",
                "shop.lots", "shop.used_up", "shop.last_runs", "shop.polymers", "shop.machines", "shop.calibrations",
                "shop.nozzles",
            ),
        ),
        load=_melt,
    ),
    Operation(
        number=70, key="heat", title="Heat and welds", short="Heat",
        section="Will its layers become one piece and keep their shape: which air, fan and time for each layer?",
        reads=Reads(
            recipe=("heat", "melt", "plate", "first_layer", "brief", "stock", "supports", "polymer"),
            context=(
                "polymer", "machine", "nozzle", "lot", "dryer", "plate", "agent", "part", "job", "bath", "now",
                "rules",
                "calibrations", "supplies", "shop.lots", "shop.used_up", "shop.last_runs", "shop.polymers", "proofs",
                "past",
                "shop.machines", "shop.nozzles", "shop.calibrations",
            ),
        ),
        load=_heat,
        is_slow=True,
    ),
    Operation(
        number=80, key="supports", title="Supports", short="Supports",
        section="Which places need help, of what kind, and does the help come out without harm?",
        reads=_OF_SUPPORTS,
        load=_supports,
    ),
    Operation(
        number=90, key="run", as_typed=True, title="Run", short="Run",
        section="Start or not, who looks when, and do file and recipe say the same?",
        reads=Reads(recipe=_OF_RUN.recipe, context=(*_OF_RUN.context, "matters")),
        load=_run,
        is_slow=True,
    ),
    Operation(
        number=100, key="release", title="Cool and free", short="Free",
        section="When, how hot and with what does the part leave the plate, so that neither breaks?",
        reads=_OF_RUN,
        load=_release,
        is_slow=True,
    ),
    Operation(
        number=110, key="anneal", title="Anneal and after-treatment", short="Anneal",
        section="What does the part still need after the plate to reach size, finish and properties, and at what cost?",
        reads=Reads(
            recipe=("anneal", *_OF_SUPPORTS.recipe),
            context=(*_OF_SUPPORTS.context, "oven", "loads", "shop.ovens"),
        ),
        load=_anneal,
        is_slow=True,
    ),
    Operation(
        number=120, key="proof", title="Proof", short="Proof",
        section="May this recipe be released, for which shapes and which use, on what evidence?",
        reads=Reads(
            recipe=("anneal", "brief", "melt", "heat", "polymer"),
            context=(
                "polymer", "machine", "nozzle", "lot", "part", "rules", "calibrations", "proofs", "services", "past",
                "loads",
            ),
        ),
        load=_proof,
    ),
)  # fmt: skip
BY_NUMBER = {operation.number: operation for operation in OPERATIONS}
BY_KEY = {operation.key: operation for operation in OPERATIONS}


class _Codes(Mapping[str, Code]):
    """Every code by its name; an operation is loaded when one of its own is asked for."""

    def __getitem__(self, name: str) -> Code:
        return _codes_of(name.partition(".")[0])[name]

    def __iter__(self) -> Iterator[str]:
        return (code.code for operation in OPERATIONS for code in operation.codes)

    def __len__(self) -> int:
        return sum(len(operation.codes) for operation in OPERATIONS)


@functools.cache
def _codes_of(key: str) -> dict[str, Code]:
    return {code.code: code for code in BY_KEY[key].codes} if key in BY_KEY else {}


CODES: Mapping[str, Code] = _Codes()


def nothing_said(operation: Operation) -> OperationReview:
    """What stands for an operation that is not judged yet.

    Parameters
    ----------
    operation : Operation
        One of the route [-]

    Returns
    -------
    OperationReview
        Open, without a word [-]
    """
    return OperationReview(operation.number, "open", "", (), (), (), ())


NOT_JUDGED = Review(
    tuple(nothing_said(each) for each in OPERATIONS),
    Grade("no_go", (), (), ("polymer",), None),
    Completeness(0, 0, ()),
)  # what stands where a fault keeps a recipe from being judged


def whole(operations: tuple[OperationReview, ...], recipe: Recipe) -> Review:
    """The review of a recipe from those of its operations.

    Parameters
    ----------
    operations : tuple of OperationReview
        In route order [-]
    recipe : Recipe
        Its purpose says what grade is wanted [-]

    Returns
    -------
    Review
        With grade and completeness [-]
    """
    return Review(operations, grade_of(operations, recipe.brief.purpose), completeness_of(operations))


def review(recipe: Recipe, context: Context) -> Review:
    """Judge a recipe in its context.

    Parameters
    ----------
    recipe : Recipe
        Settings in shop units [°C, K, g, h, MPa]
    context : Context
        Machine, lot, polymer and the shop's rules [°C, K]

    Returns
    -------
    Review
        Every operation's figures, findings, cautions and gaps, the grade and the completeness [-]

    Notes
    -----
    Pure: no files, no clock, nothing remembered.
    """
    return whole(tuple(operation.review(recipe, context) for operation in OPERATIONS), recipe)
