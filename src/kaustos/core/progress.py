"""How long work says how far it is, and hears that it is called off."""

from collections.abc import Iterator, Sequence
from typing import Protocol, TypeVar

from kaustos.core.errors import KaustosError

EVERY = 200  # items between two looks up
Item = TypeVar("Item")


class Cancelled(KaustosError):
    """The work was called off; nothing was changed."""


class Progress(Protocol):
    """Who started the work, and watches it."""

    def check(self) -> None:
        """Raises where the work was called off."""

    def report(self, done: int, of: int) -> None:
        """How far it is."""


class Unwatched:
    """Nobody watches."""

    def check(self) -> None:
        """Go on."""

    def report(self, done: int, of: int) -> None:
        """Nobody asks."""


UNWATCHED = Unwatched()


def watched(items: Sequence[Item], progress: Progress) -> Iterator[Item]:
    """Items one after the other, with a look up now and then and at the end."""
    for done, item in enumerate(items):
        if done % EVERY == 0:
            progress.check()
            progress.report(done, len(items))
        yield item
    progress.report(len(items), len(items))
