"""A change that would lift limits of a machine: its price, its hours, its risk, what it needs first."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.machine_logs import CHANGED

RISKS = {"low": "Low", "some": "Some", "high": "High"}
GONE = 9_999.0  # limit that stands for a part which is not there any more [°C]


@attrs.frozen(kw_only=True)
class Upgrade:
    """One change of the shop's catalogue."""

    id: str
    name: str = text("Change")
    machine: str | None = None  # for one machine only; None for any
    part: str | None = choice(CHANGED, "Changes", "Which calibrations are stale after it follows from this")
    lifts: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # zone.part: limit after it [°C]
    price: float | None = number("money", "Price", "Parts and consumables; hours count beside it")
    hours: float | None = number("duration", "Hours", "Until the machine runs again")
    risk: str | None = choice(RISKS, "Risk", "Of harm to machine and people, and of its not working")
    needs: tuple[str, ...] = ()  # ids of changes that have to come first
    skilled: bool | None = flag("Qualified person", "Mains, wiring or firmware: not for everybody")
    whole: bool | None = flag("A whole machine", "Stands beside the bill of changes as the price of a capable machine")
    note: str = text("Note")
    retired: bool = False
    extra: dict[str, Any] = extra()

    @lifts.validator
    def _check(self, _: object, value: Mapping[str, float]) -> None:
        for path, limit in value.items():
            if len(path.split(".")) != 2 or not isinstance(limit, int | float) or not -300.0 < limit < 1e4:
                raise FieldError("lifts", f"{path:.40}: {limit!r:.20} is no limit of a part")


@attrs.frozen(kw_only=True)
class WorkOrder:
    """Changes that are carried out on a machine: what is ticked, who signed before power."""

    changes: tuple[str, ...] = ()  # ids
    ticks: tuple[str, ...] = ()
    signed_by: str = text("Signed before power by")
    closed_utc: str = moment("Closed")
    at_utc: str = moment("Opened")
    extra: dict[str, Any] = extra()
