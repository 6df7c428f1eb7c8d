"""Heavy results at hand, each beside the inputs it was made from, and requests for those that are not.

A review reads them through ``context.results``; where one is missing its place says pending, its request is run as a
job, and the review is made again when it lands.
"""

from collections import defaultdict, deque
from collections.abc import Callable
from typing import Any

import attrs

from kaustos.core.progress import Progress
from kaustos.core.records import Recipe
from kaustos.core.review import Context, Heavy, is_same

KEPT = 8  # answers of each kind, for undo and for going back and forth between recipes


@attrs.frozen(eq=False)
class Request:
    """A heavy computation with the inputs it answers for; ``where`` says on what it runs: thread or process."""

    key: str
    inputs: tuple[Any, ...]
    compute: Callable[[Progress], Any]
    where: str = "thread"


def request_for(heavy: Heavy, recipe: Recipe, context: Context) -> Request:
    """The request for a heavy result of a recipe in its context."""
    assert heavy.reads is not None, heavy.key
    return Request(heavy.key, heavy.reads.of(recipe, context), lambda _: heavy.compute(recipe, context), heavy.where)


class Results:
    """The results that are at hand, the longest unused of each kind dropped first."""

    def __init__(self, kept: int = KEPT) -> None:
        self._found: defaultdict[str, deque[tuple[tuple[Any, ...], Any]]] = defaultdict(lambda: deque(maxlen=kept))

    def get(self, key: str, inputs: tuple[Any, ...]) -> Any:
        """The result that was made from these very inputs, None where it is not at hand."""
        answers = self._found[key]
        place = next((place for place, each in enumerate(answers) if is_same(each[0], inputs)), None)
        if place is None:
            return None
        answer = answers[place]
        del answers[place]
        answers.appendleft(answer)
        return answer[1]

    def latest(self, key: str) -> Any:
        """The result that was put or asked for last, None where there is none."""
        answers = self._found[key]
        return answers[0][1] if answers else None

    def put(self, key: str, inputs: tuple[Any, ...], result: Any) -> None:
        """Keep a result."""
        self._found[key].appendleft((inputs, result))
