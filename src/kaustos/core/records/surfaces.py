"""What parts stand on, as the library knows it: surfaces, agents, and what became of polymers on them."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import extra
from kaustos.core.records.polymer import KNOWN_FROM, Datum
from kaustos.core.records.quantities import QUANTITIES, check_number

BODIES = {
    "film": "Film, glued on",
    "coating": "Coating",
    "sheet": "Solid sheet",
    "glass": "Glass",
    "laminate": "Laminate",
    "fibre": "Carbon-fibre plate",
    "board": "Board",
    "metal": "Bare metal",
}
SORTS = {
    "stick": "Stick",
    "liquid": "Liquid",
    "spray": "Spray",
    "brushed": "Brushed film",
    "slurry": "Slurry",
}
COMES_OFF = {
    "itself": "lets go by itself when it is cold",
    "hand": "comes off by hand",
    "wears": "comes off, and wears the surface",
    "tears": "pulls pieces out",
}
HOLDS = {  # what practice says of a pair, weakest first
    "none": "does not hold",
    "poor": "holds poorly",
    "fair": "holds fairly",
    "good": "holds well",
    "strong": "holds strongly",
    "weld": "welds",
}
WHEN = {"cold": "cold", "warm": "on the warm plate", "hot": "hot"}


def _datum(quantity: str, optional: bool = False) -> Any:
    """A field whose value is of a quantity, in its shop unit."""

    def check(_: object, field: "attrs.Attribute[Any]", datum: Datum | None) -> None:
        if datum is None and optional:
            return
        if datum is None or datum.unit != QUANTITIES[quantity].unit:
            raise FieldError(field.name, f"must be in {QUANTITIES[quantity].unit}")
        for each in datum.band:
            check_number(field.name, each, quantity)

    return attrs.field(validator=check, default=None) if optional else attrs.field(validator=check)


def _word(choices: Mapping[str, str], default: Any = attrs.NOTHING) -> Any:
    def check(_: object, field: "attrs.Attribute[Any]", value: str) -> None:
        if value not in choices:
            raise FieldError(field.name, f"{value!r:.60} is none of {', '.join(choices)}")

    return attrs.field(validator=check, default=default)


@attrs.frozen(kw_only=True)
class Surface:
    """A kind of surface that parts are printed on."""

    id: str
    name: str
    family: str  # of the polymer that it is made of: like on like welds; empty for glass and metal
    body: str = _word(BODIES)
    is_flexible: bool
    is_brittle: bool
    thickness_mm: float
    conductivity: Datum = _datum("conductivity")
    density: Datum = _datum("density")
    heat_capacity: Datum = _datum("heat_capacity")
    expansion: Datum = _datum("expansion")
    stands: Datum = _datum("temperature")
    backing_stands: Datum | None = _datum("temperature", optional=True)  # glue or magnet that it hangs on
    glass_c: Datum | None = _datum("temperature", optional=True)  # of a polymer sheet
    damage: Datum = _datum("bond_energy")  # from which a bond harms it
    prints: Datum = _datum("ratio")  # that it lives for
    price: Datum = _datum("money")
    finish: str = ""  # that it leaves on the underside
    cautions: tuple[str, ...] = ()


@attrs.frozen(kw_only=True)
class Work:
    """One step of putting an agent on: what to do, for how long, on a plate how warm."""

    do: str
    minutes: float = 0.0
    plate: str = _word(WHEN, "cold")
    repeat: float = 1.0
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Agent:
    """A kind of agent that is put between plate and part."""

    id: str
    name: str
    family: str  # of the polymer that it leaves as a film
    sort: str = _word(SORTS)
    softens: Datum = _datum("temperature")  # its film
    stands: Datum = _datum("temperature")  # before it browns or lets go
    wet_um: Datum = _datum("fine_length")  # film that is put on
    solids_pct: Datum = _datum("share")  # grams in 100 ml
    price_ml: Datum = _datum("money")
    ripens_h: Datum | None = _datum("duration", optional=True)  # until a batch is dissolved
    keeps_h: Datum = _datum("duration")  # then, closed
    solvents: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # by name, shares of the volume
    washes_off: str = ""  # with what
    is_flammable: bool = False
    is_release: bool = False  # parts the part from the plate whatever the pair
    steps: tuple[Work, ...] = ()
    cautions: tuple[str, ...] = ()

    def __attrs_post_init__(self) -> None:
        if self.solvents and abs(sum(self.solvents.values()) - 1.0) > 1e-6:
            raise FieldError("solvents", "shares must come to 1")


@attrs.frozen(kw_only=True)
class Pair:
    """What practice says of a polymer on a surface, bare or under an agent."""

    families: tuple[str, ...]  # of polymers
    agent: str = ""  # id; empty for a bare surface
    holds: str = _word(HOLDS)
    polymers: tuple[str, ...] = ()  # those alone, where not the whole family
    bed_c: tuple[float, float] | None = None  # wanted, where it is not the polymer's usual window
    doubt: str = ""
    rival: str | None = None  # the other thing that is said
    comes_off: str = ""  # key of COMES_OFF, where it is not what its hold usually means
    kind: str = "estimate"
    source: str = "typical of practice"

    def __attrs_post_init__(self) -> None:
        if self.rival is not None and (self.rival not in HOLDS or not self.doubt.strip()):
            raise FieldError("rival", "must be a word of practice, and its doubt say why both are held")
        if self.kind not in KNOWN_FROM:
            raise FieldError("kind", f"{self.kind!r} is none of {', '.join(KNOWN_FROM)}")
        if self.comes_off and self.comes_off not in COMES_OFF:
            raise FieldError("comes_off", f"{self.comes_off!r} is none of {', '.join(COMES_OFF)}")
        if self.bed_c is not None and not self.bed_c[0] < self.bed_c[1]:
            raise FieldError("bed_c", "must rise")

    @property
    def leaves(self) -> str:
        """How it comes off in the middle of its window; where opposite things are said, the better of both."""
        if self.comes_off:
            return self.comes_off
        words = {self.holds, self.rival or self.holds}
        return "tears" if words == {"weld"} else "wears" if words & {"weld", "strong"} else "hand"

    def is_of(self, polymer: str, family: str) -> bool:
        """Whether it speaks of a polymer."""
        return polymer in self.polymers or (not self.polymers and family in self.families)


@attrs.frozen(kw_only=True)
class Pairs:
    """What practice says of one surface."""

    id: str  # of the surface
    pairs: tuple[Pair, ...]


@attrs.frozen(kw_only=True, eq=False)
class Bonds:
    """Everything that the library knows of surfaces and agents, by id."""

    surfaces: Mapping[str, Surface] = attrs.field(factory=dict)
    agents: Mapping[str, Agent] = attrs.field(factory=dict)
    pairs: Mapping[str, Pairs] = attrs.field(factory=dict)
    miscible: tuple[frozenset[str], ...] = (
        frozenset({"paek", "pei"}), frozenset({"pvdf", "acrylic"}),
    )  # families that mix  # fmt: skip

    def is_alike(self, one: str, other: str) -> bool:
        """Whether two families weld to each other."""
        return bool(one) and (one == other or frozenset({one, other}) in self.miscible)
