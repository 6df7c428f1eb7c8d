"""What holds and keeps filament: spool bodies and desiccant, as the library knows them."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.polymer import Datum
from kaustos.core.records.quantities import QUANTITIES, check_number
from kaustos.core.records.support_material import SupportMaterial
from kaustos.core.records.surfaces import Bonds


def _datum(quantity: str) -> Any:
    """A field whose value is of a quantity, in its shop unit."""

    def check(_: object, field: "attrs.Attribute[Any]", datum: Datum) -> None:
        if datum.unit != QUANTITIES[quantity].unit:
            raise FieldError(field.name, f"must be in {QUANTITIES[quantity].unit}, got {datum.unit!r}")
        for each in datum.band:
            check_number(field.name, each, quantity)

    return attrs.field(validator=check)


@attrs.frozen(kw_only=True)
class SpoolBody:
    """A kind of spool: the hottest air it stands, and the water it gives off, share of its mass."""

    id: str
    stands: Datum = _datum("temperature")
    takes: Datum = _datum("share")


@attrs.frozen(kw_only=True)
class Desiccant:
    """What keeps a dry box dry: the water it takes up, share of its dry mass."""

    id: str
    takes: Datum = _datum("share")


@attrs.frozen(kw_only=True, eq=False)
class Supplies:
    """All that the library knows of them, by id."""

    bodies: Mapping[str, SpoolBody] = attrs.field(factory=dict)
    desiccants: Mapping[str, Desiccant] = attrs.field(factory=dict)
    bonds: Bonds = attrs.field(factory=Bonds)
    supports: Mapping[str, SupportMaterial] = attrs.field(factory=dict)

    def stands_c(self, body: str | None) -> float | None:
        """What a spool body stands for certain [°C]; None for one that is not known."""
        known = self.bodies.get(body or "")
        return known.stands.low if known else None

    def body_takes(self, body: str | None) -> tuple[float, float]:
        """Least and most water of a spool body, share of its mass [1]; any that there is for one not known."""
        known = self.bodies.get(body or "")
        all_of_them = (known,) if known else tuple(self.bodies.values())
        low = known.takes.low if known else 0.0
        return low / 100.0, max((each.takes.high for each in all_of_them), default=0.0) / 100.0
