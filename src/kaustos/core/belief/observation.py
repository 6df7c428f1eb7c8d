"""One thing that was seen, beside what was foretold of it."""

import math
from collections.abc import Mapping

import attrs

from kaustos.core.errors import FieldError

SIDES = ("value", "above", "below")


@attrs.frozen(kw_only=True)
class Seen:
    """A value with its own error, or on which side of a limit the truth lies, on the scale of its prediction."""

    at: tuple[tuple[str, str], ...]  # level and member; a level that is left out is not known
    over: float  # found less foretold, or the limit less foretold; of a factor as logarithms [scale]
    error: float  # of the observation itself, one standard deviation [scale]
    side: str = "value"  # value, or the truth lies above or below
    years: float = 0.0  # since it was seen
    changed: bool = False  # whether what decides was changed since
    source: str = ""  # id of the run, proof or log

    def __attrs_post_init__(self) -> None:
        if self.side not in SIDES:
            raise FieldError("side", f"must be one of {', '.join(SIDES)}")
        if not (math.isfinite(self.over) and math.isfinite(self.error) and self.error >= 0.0 and self.years >= 0.0):
            raise FieldError("over", "must be a finite number, its error and age not below nothing")


def seen_factor(
    found: float, told: float, at: Mapping[str, str], *, error: float, side: str = "value", years: float = 0.0,
    changed: bool = False, source: str = "",
) -> Seen:  # fmt: skip
    """What was found of a prediction that errs by a factor.

    Parameters
    ----------
    found : float
        What was measured, or the limit that was held or passed, above nothing [any unit]
    told : float
        What was foretold without learning, above nothing [the same unit]
    at : mapping of str to str
        Member by level [-]
    error : float
        Of the measurement, as a share of it, one standard deviation [1]
    side : str
        value, or above or below the limit [-]
    years : float
        Since then [years]
    changed : bool
        Whether what decides was changed since [-]
    source : str
        Id of what shows it [-]

    Returns
    -------
    Seen
        As logarithms [1]

    Examples
    --------
    >>> round(seen_factor(2.0, 1.0, {"machine": "a"}, error=0.1).over, 4)
    0.6931
    """
    if not (found > 0.0 and told > 0.0):
        raise FieldError("found", "must be above nothing, and so must be what was foretold")
    return Seen(at=tuple(sorted(at.items())), over=math.log(found / told), error=error, side=side, years=years,
                changed=changed, source=source)  # fmt: skip
