"""A job file that is bound to a recipe: its fingerprints, and what its moves say along the height."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import extra, flag, moment, number, text

Numbers = tuple[float, ...]


@attrs.frozen(kw_only=True)
class JobPause:
    """A place at which a file waits for somebody."""

    line: float
    at_mm: float
    after_h: float
    word: str = text("Word")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class JobFile:
    """One job file, as it was read; its copy is kept with the workspace."""

    id: str
    name: str = text("Job file")
    sha256: str = ""  # of its bytes
    copy: str = ""  # of the packed copy that is kept
    moves_sha256: str = ""  # of its moves, heats and fans alone
    added_utc: str = moment("Added")
    lines: float = 0.0
    hours: float | None = number("duration", "Takes", "As planned with the machine's accelerations")
    least_h: float | None = number("duration", "At least")
    most_h: float | None = number("duration", "At most")
    filament_mm: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # by tool
    strand_mm: float | None = number("length", "Strand of its amounts", "Where it writes volumes")
    nozzle_first_c: float | None = number("temperature", "Nozzle, first layer")
    nozzle_c: float | None = number("temperature", "Nozzle")
    plate_first_c: float | None = number("temperature", "Plate, first layer")
    plate_c: float | None = number("temperature", "Plate")
    chamber_c: float | None = number("temperature", "Chamber")
    fan_pct: float | None = number("share", "Fan")
    first_mm: float | None = number("length", "First layer")
    layer_mm: float | None = number("length", "Layer")
    first_speed_mm_s: float | None = number("speed", "First layer, speed")
    speed_mm_s: float | None = number("speed", "Speed")
    drawn: float | None = number("ratio", "Filament over path", "Length fed over length laid, first layer left out")
    fastest_mm_s: float | None = number("speed", "Fastest feed", "Of the strand")
    low_mm: Numbers = ()  # corners of the box round all that is laid
    high_mm: Numbers = ()
    heights_mm: Numbers = ()  # tops of pieces along the height
    seconds: Numbers = ()  # of a layer there
    layers: Numbers = ()  # that a piece holds
    feeds_mm_s: Numbers = ()  # mean of the strand there
    pauses: tuple[JobPause, ...] = ()
    unknown: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # words that are not known, how often
    zero_machine: str | None = None  # machine and polymer of which it is version zero: a default profile's file
    zero_polymer: str | None = None
    is_homed: bool | None = flag("Homes first", "Before it lays anything")
    accel_told: bool | None = flag("Sets accelerations itself")
    accel_mm_s2: float | None = number("acceleration", "Planned with")
    corner_mm_s: float | None = number("speed", "At a corner")
    retired: bool = False
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        if not len(self.heights_mm) == len(self.seconds) == len(self.layers) == len(self.feeds_mm_s):
            raise FieldError("heights_mm", "heights, seconds, layers and feeds must be as many")

    @property
    def tools(self) -> int:
        """How many of them feed filament [1]."""
        return sum(length > 0.0 for length in self.filament_mm.values())

    @property
    def size_mm(self) -> Numbers:
        """Of the box round all that is laid [mm]."""
        return tuple(high - low for low, high in zip(self.low_mm, self.high_mm, strict=True))
