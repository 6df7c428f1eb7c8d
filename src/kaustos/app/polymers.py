"""The polymers that a shop can choose: those of the library, and its own."""

from collections.abc import Iterator, Mapping

from kaustos.core.records import OwnPolymer, Polymer, polymer_of_ours
from kaustos.library import load


class Polymers(Mapping[str, Polymer]):
    """Every polymer by id; the shop's own first, those of the library read when they are asked for."""

    def __init__(self, own: Mapping[str, OwnPolymer]) -> None:
        self.own = own
        self._made: dict[str, Polymer] = {}

    def __getitem__(self, key: str) -> Polymer:
        if key not in self.own:
            return load().polymers[key]
        if key not in self._made:
            own = self.own[key]
            self._made[key] = polymer_of_ours(own, load().polymers.get(own.based_on or ""))
        return self._made[key]

    def __contains__(self, key: object) -> bool:
        return key in self.own or key in load().polymers

    def __iter__(self) -> Iterator[str]:
        yield from (key for key, own in self.own.items() if not own.retired)
        yield from load().polymers

    def __len__(self) -> int:
        return sum(1 for _ in self)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Polymers) and self.own == other.own

    __hash__ = None  # type: ignore[assignment]


_last = Polymers({})


def polymers_with(own: Mapping[str, OwnPolymer]) -> Polymers:
    """Every polymer that a shop with such own ones can choose; the same answer as long as they are the same table."""
    global _last
    if _last.own is not own:
        _last = Polymers(own)
    return _last
