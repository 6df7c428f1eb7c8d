"""What supports are made of, as the library knows it: how it bonds to a model, what takes it out, what that attacks."""

from collections.abc import Mapping

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.polymer import Datum, Polymer

BONDS_AS = {"breaks": "breaks away", "fuses": "fuses", "falls": "falls off", "coupon": "on a coupon first"}
EFFECTS = {
    "safe": "safe",
    "coupon": "on a coupon first",
    "swells": "swells",
    "cracks": "cracks",
    "dissolves": "dissolves",
}
REMOVALS = {
    "hand": "by hand",
    "water": "warm water",
    "hot_water": "hot water",
    "alkali": "hot alkaline bath",
    "terpene": "terpene solvent",
}


@attrs.frozen(kw_only=True)
class Statement:
    """What somebody says of a support under some models; statements that contradict each other stand side by side."""

    models: tuple[str, ...]  # ids of polymers, or families
    outcome: str
    weight: float = 1.0  # 1 hearsay, 2 practice, 3 tried again and again
    says: str = ""

    def __attrs_post_init__(self) -> None:
        if self.outcome not in BONDS_AS:
            raise FieldError("outcome", f"must be one of {', '.join(BONDS_AS)}, got {self.outcome!r}")
        if not self.weight > 0.0:
            raise FieldError("weight", f"must be above nothing, got {self.weight!r}")


@attrs.frozen(kw_only=True)
class Attack:
    """What the bath does to some models."""

    models: tuple[str, ...]
    effect: str

    def __attrs_post_init__(self) -> None:
        if self.effect not in EFFECTS:
            raise FieldError("effect", f"must be one of {', '.join(EFFECTS)}, got {self.effect!r}")


@attrs.frozen(kw_only=True)
class SupportMaterial:
    """One material for supports."""

    id: str
    name: str
    polymer: str = ""  # of the library, for its heats and its drying; empty where it has none there
    removal: str = "hand"
    nozzle_low_c: float | None = None  # where the library has no such polymer
    nozzle_high_c: float | None = None
    chamber_most_c: float  # hottest air that it stands
    price_per_kg: Datum
    bath_c: Datum | None = None
    bath_h: Datum | None = None  # until a part of usual size is clean
    grams_per_l: Datum | None = None  # that a bath takes
    dose_per_l: Datum | None = None  # of agent, where one goes into the water
    keeps_d: Datum | None = None  # a mixed bath
    pairs: tuple[Statement, ...] = ()
    attacks: tuple[Attack, ...] = ()
    cautions: tuple[str, ...] = ()

    def __attrs_post_init__(self) -> None:
        if self.removal not in REMOVALS:
            raise FieldError("removal", f"must be one of {', '.join(REMOVALS)}, got {self.removal!r}")
        if self.is_bath and None in (self.bath_c, self.bath_h, self.grams_per_l, self.keeps_d):
            raise FieldError("bath_c", "a bath has its heat, its hours, what it takes and how long it keeps")

    @property
    def is_bath(self) -> bool:
        """Whether a bath takes it out."""
        return self.removal != "hand"

    def said_of(self, model: Polymer) -> tuple[Statement, ...]:
        """What is said of it under a model: of that very polymer, else of its family."""
        own = tuple(each for each in self.pairs if model.id in each.models)
        return own or tuple(each for each in self.pairs if model.family in each.models)

    def does_to(self, model: Polymer) -> str | None:
        """What its bath does to a model; None where nobody has said."""
        if not self.is_bath:
            return "safe"
        own = [each.effect for each in self.attacks if model.id in each.models]
        found = own or [each.effect for each in self.attacks if model.family in each.models]
        return max(found, key=[*EFFECTS].index, default=None)


Materials = Mapping[str, SupportMaterial]
