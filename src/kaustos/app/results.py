"""Heavy results, kept under a hash of exactly the inputs they were made from.

A review reads them through ``context.results``; where one is not there the figure is pending, its
request is run as a job, and the review runs again when it lands.
"""

import hashlib
from collections import OrderedDict
from collections.abc import Callable
from typing import Any

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review import BY_KEY, Context

KEPT = 64


def key_of(name: str, *inputs: object) -> str:
    """A name for a result that changes with every input it was made from."""
    return f"{name}:{hashlib.sha256(repr(inputs).encode()).hexdigest()[:24]}"


@attrs.frozen
class Request:
    """A heavy computation with its key; ``where`` says on what it runs: thread or process."""

    key: str
    compute: Callable[[], Any]
    where: str = "thread"


def picture_request(operation: str, recipe: Recipe, context: Context) -> Request:
    """The request for the picture of an operation's bench."""
    inputs = (recipe, context.machine, context.polymer, context.lot, context.dryer, context.rules)
    clock = (context.now, context.shop.dryers) if operation == "stock" else ()
    key = key_of(f"picture.{operation}", *inputs, *clock)
    return Request(key, lambda: BY_KEY[operation].picture(recipe, context))


class Results:
    """The results that are at hand, the longest unused dropped first."""

    def __init__(self, kept: int = KEPT) -> None:
        self._kept = kept
        self._found: OrderedDict[str, Any] = OrderedDict()

    def get(self, key: str) -> Any:
        """The result under a key, None where it is not at hand."""
        if key in self._found:
            self._found.move_to_end(key)
        return self._found.get(key)

    def put(self, key: str, result: Any) -> None:
        """Keep a result."""
        self._found[key] = result
        self._found.move_to_end(key)
        while len(self._found) > self._kept:
            self._found.popitem(last=False)
