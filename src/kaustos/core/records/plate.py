"""What parts stand on, as items of the shop: plates with their wear and film, and batches of agents."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.photo import Photo

HELD = {"magnet": "Magnet", "clips": "Clips", "vacuum": "Vacuum", "screws": "Screwed down", "glued": "Glued down"}
CLEANED = {
    "washed": "Washed, not touched since",
    "wiped": "Wiped with alcohol",
    "dusty": "Dry wipe only",
    "touched": "Touched by hand",
}
DAMAGES = {
    "scuff": "Scuffed",
    "bubble": "Bubble under it",
    "dent": "Dent",
    "torn": "Torn",
    "chip": "Chipped",
    "crack": "Cracked",
}
BATCH_STATES = {"clear": "Clear, even", "lumps": "Lumps", "cloudy": "Cloudy", "thick": "Too thick"}
CLIP_MM = 12.0  # that a clip takes from the edge


@attrs.frozen(kw_only=True)
class Damage:
    """A place of a plate that is no longer as new."""

    kind: str | None = choice(DAMAGES, "Damage")
    x_mm: float | None = number("length", "From the left")
    y_mm: float | None = number("length", "From the front")
    radius_mm: float | None = number("length", "Radius")
    at_utc: str = moment("Seen")
    by: str = text("By which polymer")
    photo: Photo | None = None
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class PlateItem:
    """One plate, or one side of it."""

    id: str
    name: str = text("Plate")
    surface: str | None = None  # id in the library
    fits_on: str | None = None  # machine
    size_x_mm: float | None = number("length", "Plate, length")
    size_y_mm: float | None = number("length", "Plate, width")
    thick_mm: float | None = number("length", "Thickness", "Of the sheet or plate itself", typed=(0.0, 50.0))
    held: str | None = choice(HELD, "Held by")
    stands_c: float | None = number("temperature", "Its own limit", "Of its maker; else that of its kind")
    backing_c: float | None = number(
        "temperature", "Limit of its backing", "Glue or magnet; else that of its kind", short="Backing limit"
    )
    cleaned: str | None = choice(CLEANED, "Cleaned", "How, since the last print")
    film: str | None = None  # id of the agent that is on it
    film_coats: float | None = number("ratio", "Coats on it")
    film_prints: float | None = number("ratio", "Prints since coated", short="Since coated")
    prints: float | None = number("ratio", "Prints so far")
    renewed_prints: float | None = number(
        "ratio", "Prints when last renewed", "Abraded, or given a new sheet", short="Renewed at"
    )
    coating: str | None = None  # id of the agent that is being put on
    step: float | None = number("ratio", "Step of the coating", "From 1")
    step_utc: str = moment("Step begun")
    test_only: bool | None = flag("For tests only", "Graded for trials, not for parts")
    price: float | None = number("money", "Price")
    installed_utc: str = moment("In use since")
    damages: tuple[Damage, ...] = ()
    retired: bool = False
    extra: dict[str, Any] = extra()

    @property
    def is_chipped(self) -> bool:
        """Whether it is cracked or chipped."""
        return any(each.kind in ("chip", "crack") for each in self.damages)


@attrs.frozen(kw_only=True)
class AgentBatch:
    """One bottle, stick or batch of an agent."""

    id: str
    name: str = text("Agent")
    agent: str | None = None  # id in the library
    lot: str = text("Lot on the label")
    mixed_utc: str = moment("Mixed, or opened")
    mixed_ml: float | None = number("volume", "Mixed", "Volume that was made, or that the bottle held")
    left_ml: float | None = number("volume", "Left")
    solids_pct: float | None = number("share", "Solids", "Grams in 100 ml, as mixed")
    state: str | None = choice(BATCH_STATES, "Looks")
    price: float | None = number("money", "Price")
    retired: bool = False
    extra: dict[str, Any] = extra()
