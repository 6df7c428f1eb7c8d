"""Remembers answers by the identity of what was asked: records are frozen, so the same record has the same answer.

Plain numbers and words count by their value; a tuple that is made for the question is never found again.
"""

import functools
from collections.abc import Callable
from typing import Any, TypeVar

PLAIN = frozenset((float, int, str, bool, type(None)))
Asked = TypeVar("Asked", bound=Callable[..., Any])


def by_identity(most: int) -> Callable[[Asked], Asked]:
    """Remember the answers to so many questions, the oldest forgotten when there are more.

    Parameters
    ----------
    most : int
        Answers that are kept [-]

    Returns
    -------
    callable
        A decorator for functions of frozen records and words [-]
    """

    def wrap(function: Asked) -> Asked:
        known: dict[tuple[Any, ...], tuple[tuple[Any, ...], Any]] = {}

        @functools.wraps(function)
        def inside(*asked: Any) -> Any:
            key = tuple([each if type(each) in PLAIN else (id(each),) for each in asked])
            found = known.get(key)  # what was asked is kept with the answer, so no other thing takes its identity
            if found is not None:
                return found[1]
            answer = function(*asked)
            if len(known) >= most:
                del known[next(iter(known))]
            known[key] = (asked, answer)
            return answer

        return inside  # type: ignore[return-value]

    return wrap
