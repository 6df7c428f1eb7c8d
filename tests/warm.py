"""One frozen demo and its judgements for a whole process: what one test has read or judged the next need not again.

A record is read from its document by a pure function and is frozen, and a review is a pure function of what it reads:
the same document gives the same record here, and windows of one process share one judge. What is read and judged from
nothing has its own tests: tests/app/test_stored.py, tests/store, tests/ui/test_start.py and every process that a test
starts. A test that breaks the judging, or replaces a part of the core, asks for a cold judge.
"""

import contextlib
import functools
import json
from collections.abc import Iterator
from typing import Any

from kaustos.app import stored, workspace
from kaustos.app.judge import Judge
from kaustos.core.records import BY_ONE, Kind

KEPT = 48  # answers of each operation: those of the demo's recipes and of what a test does to them
_read = stored._record
JUDGE = Judge(KEPT)


@functools.lru_cache(maxsize=4096)
def _record_of(one: str, key: str, text: str) -> Any:
    return _read(BY_ONE[one], key, json.loads(text))


def _record(kind: Kind, key: str, document: dict[str, Any]) -> Any:
    """The record of a document, the same one for the same document."""
    try:
        return _record_of(kind.one, key, json.dumps(document))
    except (TypeError, ValueError, RecursionError):  # which is for the reader to say
        return _read(kind, key, document)


def install() -> None:
    """Share from now on."""
    stored._record = _record
    workspace.Judge = lambda: JUDGE


@contextlib.contextmanager
def cold() -> Iterator[None]:
    """Within it every workspace has a judge of its own, and its records are its own."""
    stored._record, workspace.Judge = _read, Judge
    try:
        yield
    finally:
        install()
