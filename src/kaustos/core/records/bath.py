"""A bath that takes supports out: what is in it, and every wash, from dry part to dry part."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, moment, number, text
from kaustos.core.records.recipe import SUPPORT_MATERIALS
from kaustos.core.records.stock import Weighing

STILL_ON = {"most": "Most is still on", "some": "Some is left", "none": "None to be seen"}
WASHED = {"clean": "Clean", "again": "Back in", "lost": "Given up"}


@attrs.frozen(kw_only=True)
class Look:
    """One look into the bath: what is still on, how warm it is, what was topped up."""

    at_utc: str = moment("Looked")
    seen: str | None = choice(STILL_ON, "Still on")
    bath_c: float | None = number("temperature", "Bath at", typed=(0.0, 150.0))
    added_ml: float | None = number("volume", "Topped up", "For what evaporated", typed=(0.0, 1e6))
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Wash:
    """One part, or the parts of one plate, in the bath."""

    part: str = text("What was washed")
    run: str | None = None  # that printed it
    at_utc: str = moment("Into the bath")
    supports_g: float | None = number("mass", "Supports on it", "As the recipe reckons, or as sliced")
    advised_h: float | None = number("duration", "Hours foretold", "When it went in")
    before_g: float | None = number("mass", "Before, dry", "With its supports")
    looks: tuple[Look, ...] = ()
    out_utc: str = moment("Out of the bath")
    dried: tuple[Weighing, ...] = ()  # rinsed and drying
    ended: str | None = choice(WASHED, "Ended")
    by: str = text("By")
    extra: dict[str, Any] = extra()

    @property
    def is_in(self) -> bool:
        """Whether it lies in the bath."""
        return not self.out_utc


@attrs.frozen(kw_only=True)
class Bath:
    """One tank of bath."""

    id: str
    name: str = text("Bath")
    material: str | None = choice(SUPPORT_MATERIALS, "Takes out")
    volume_ml: float | None = number("volume", "Holds", typed=(50.0, 1e6))
    dose_g: float | None = number("mass", "Agent in it", "Weighed in when it was mixed")
    mixed_utc: str = moment("Mixed")
    warm_c: float | None = number("temperature", "Kept at", typed=(0.0, 150.0))
    taken_g: float | None = number("mass", "Dissolved before", "By washes that stand in no log")
    washes: tuple[Wash, ...] = ()
    retired: bool = False
    extra: dict[str, Any] = extra()
