"""One assumed constant: a number that practice suggests and nobody here has measured."""

from collections.abc import Iterator, Mapping

import attrs

from kaustos.core.errors import FieldError

Band = tuple[float, float, float]  # least, likely, most


@attrs.frozen(kw_only=True)
class Assumed:
    """A constant with the range it may lie in, its unit, and why it is what it is."""

    key: str
    value: float
    low: float
    high: float
    unit: str
    why: str
    source: str = "practice, estimate"

    def __attrs_post_init__(self) -> None:
        if not self.low <= self.value <= self.high:
            raise FieldError(self.key, f"{self.low:g}, {self.value:g}, {self.high:g} must not fall")
        if not (self.why.strip() and self.source.strip() and self.unit.strip()):
            raise FieldError(self.key, "must say its unit, why it is assumed and from where")

    @property
    def band(self) -> Band:
        """Least, likely, most [its unit]."""
        return self.low, self.value, self.high


def practice(
    key: str, value: float, low: float, high: float, unit: str, why: str, source: str = "practice, estimate"
) -> Assumed:
    """A constant that practice knows, in one line.

    Parameters
    ----------
    key : str
        Its name in its area [-]
    value : float
        Likely [the unit]
    low : float
        Least [the unit]
    high : float
        Most [the unit]
    unit : str
        Of all three [-]
    why : str
        What it is [-]
    source : str
        From where [-]

    Returns
    -------
    Assumed
        The constant [the unit]
    """
    return Assumed(key=key, value=value, low=low, high=high, unit=unit, why=why, source=source)


class Area(Mapping[str, Assumed]):
    """The assumed constants of one area by key."""

    def __init__(self, title: str, *found: Assumed) -> None:
        self.title = title
        self._found = {each.key: each for each in found}
        if len(self._found) != len(found):
            raise FieldError(title, "a key stands twice")

    def __getitem__(self, key: str) -> Assumed:
        return self._found[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._found)

    def __len__(self) -> int:
        return len(self._found)

    def group(self, prefix: str) -> dict[str, Assumed]:
        """Those whose key begins with a prefix and a point, by the rest of it."""
        head = f"{prefix}."
        return {key.removeprefix(head): each for key, each in self._found.items() if key.startswith(head)}
