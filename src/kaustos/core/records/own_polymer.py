"""A polymer or grade of the shop's own: derived from one of the library, or described from nothing."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.estimates import BOND, MACHINE
from kaustos.core.records.fields import choice, extra, flag, text
from kaustos.core.records.polymer import (
    CHARACTERS,
    CHEMICALS,
    HANDLINGS,
    POLYMER_VALUES,
    STRUCTURES,
    WELD_CLASSES,
    Datum,
    Polymer,
    Traits,
    check_datum,
    check_sorption,
)

UNKNOWN = "not recorded: the worst is taken"


@attrs.frozen(kw_only=True)
class Filler:
    """What is mixed into a polymer: how it is called, and the caution that it brings along."""

    title: str
    caution: str = ""


FILLERS = {
    "none": Filler(title="None"),
    "carbon": Filler(title="Carbon fibre", caution="Carbon fibres irritate skin and airways: sand wet."),
    "glass": Filler(title="Glass fibre", caution="Glass fibres irritate skin and airways: sand wet."),
    "wood": Filler(title="Wood fibre", caution="Wood chars and smokes in a hot nozzle: keep it moving."),
    "metal": Filler(title="Metal powder", caution="Metal dust of sanding is harmful, and some of it burns."),
    "mineral": Filler(title="Mineral", caution="Mineral dust of sanding harms the lungs: sand wet."),
    "glow": Filler(title="Glow pigment"),
    "white": Filler(title="White pigment"),
}
FIBRES = frozenset(("carbon", "glass"))
FILLER_WEARS = MACHINE.group("wears")  # times an unfilled polymer
FILLER_TITLES = {key: each.title for key, each in FILLERS.items()}
WELDS = {
    "amorphous": "Heals above the glass transition",
    "slow": "Crystallises slowly",
    "crystallising": "Crystallises",
}


@attrs.frozen(kw_only=True)
class OwnPolymer:
    """What the shop says of a polymer; what it does not say is that of the polymer it is derived from, if any."""

    id: str
    name: str = text("Name")
    based_on: str | None = None  # id in the library
    structure: str | None = choice(STRUCTURES, "Structure")
    weld_class: str | None = choice(WELDS, "Welds")
    character: str | None = choice(CHARACTERS, "Character")
    filler: str | None = choice(FILLER_TITLES, "Filler", "Wears the nozzle, and brings its own dust")
    absorbs: bool | None = flag("Absorbs water")
    hydrolyses: bool | None = flag("Hydrolyses", "Whether a wet melt loses chains")
    wet_signs: str = text("A wet melt shows")
    emissions: str = text("Gives off")
    values: Mapping[str, Datum] = attrs.field(factory=dict, hash=False)
    opinions: Mapping[str, Datum] = attrs.field(factory=dict, hash=False)  # beside those in force
    retired: bool = False
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        for name in ("values", "opinions"):
            for key, datum in getattr(self, name).items():
                if key not in POLYMER_VALUES:
                    raise FieldError(f"{name}.{key}", "no such polymer value")
                check_datum(key, datum)
        check_sorption(self.values)
        if not set(WELDS) == set(WELD_CLASSES):
            raise FieldError("weld_class", "the words of welds and their classes differ")


def polymer_of_ours(own: OwnPolymer, base: Polymer | None) -> Polymer:
    """The polymer that the shop describes.

    Parameters
    ----------
    own : OwnPolymer
        What the shop says [units of the data]
    base : Polymer or None
        What it is derived from; None where it is described from nothing [units of the data]

    Returns
    -------
    Polymer
        Of a polymer from nothing, what is not said is taken as bad as it may be [units of the data]
    """
    found = base or _from_nothing(own)
    said = {name: getattr(own, name) for name in _SAID if getattr(own, name) not in (None, "")}
    found = attrs.evolve(found, id=own.id, name=own.name or own.id, **said, values={**found.values, **own.values})
    return with_filler(found, own.filler)


_SAID = ("structure", "weld_class", "character", "absorbs", "hydrolyses", "wet_signs", "emissions")


def _from_nothing(own: OwnPolymer) -> Polymer:
    structure = own.structure or "amorphous"
    return Polymer(
        id=own.id, name=own.name, structure=structure, emissions=f"what is {UNKNOWN}", hydrolyses=True, absorbs=True,
        weld_class="amorphous" if structure == "amorphous" else "crystallising",
        traits=Traits(outdoor="poor", clarity="opaque", finish="satin", attacked_by=tuple(CHEMICALS),
                      goes_badly=tuple(HANDLINGS), kind="own",
                      source=UNKNOWN),
        values={},
    )  # fmt: skip


def with_filler(polymer: Polymer, filler: str | None) -> Polymer:
    """A polymer with what a filler brings along.

    Parameters
    ----------
    polymer : Polymer
        As it is without [units of the data]
    filler : str or None
        One of FILLERS, None where it is not recorded [-]

    Returns
    -------
    Polymer
        With the wear and the caution of the filler, where they are the worse; fibre in a polymer that had none
        stiffens it and takes away most of its shrinkage [units of the data]
    """
    if filler in (None, "none"):
        return polymer
    mixed, wears = FILLERS[str(filler)], FILLER_WEARS[str(filler)]
    wear = polymer.value("abrasion")
    values = dict(polymer.values)
    if wear is None or wear.value < wears.value:
        values["abrasion"] = Datum(value=wears.value, low=wears.low, high=wears.high, unit="1",
                                   kind="estimate", source=f"filler: {mixed.title.lower()}")  # fmt: skip
    modulus = polymer.modulus
    if filler in FIBRES and (wear is None or wear.value < MACHINE["wears_much"].value):
        shrinks = BOND["fibre_shrinks"].band
        values |= {key: _times(values[key], shrinks, mixed.title) for key in _SHRINKS if key in values}
        if modulus is not None:
            points = tuple((at, each * BOND["fibre_stiffens"].value) for at, each in modulus.points)
            source = f"{modulus.source}; filler: {mixed.title.lower()}"
            modulus = attrs.evolve(modulus, points=points, kind="estimate", source=source)
    cautions = (*polymer.cautions, mixed.caution) if mixed.caution and mixed.caution not in polymer.cautions else (
        polymer.cautions
    )  # fmt: skip
    return attrs.evolve(polymer, values=values, cautions=cautions, modulus=modulus)


_SHRINKS = ("expansion_glassy_um_mk", "expansion_rubbery_um_mk", "crystal_shrinkage_pct")


def _times(datum: Datum, band: tuple[float, float, float], title: str) -> Datum:
    low, likely, high = band
    return attrs.evolve(datum, value=datum.value * likely, low=datum.low * low, high=datum.high * high, kind="estimate",
                        source=f"filler: {title.lower()}")  # fmt: skip
