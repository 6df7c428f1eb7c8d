"""A number with its band, its method and its source."""

import attrs


@attrs.frozen
class Estimate:
    """A number with its 95 % band; low = high = value where it is exact."""

    value: float
    low: float
    high: float
    unit: str
    method: str
    source: str
