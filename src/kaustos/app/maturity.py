"""Which runs were run under the same settings: how far they prove a state of a recipe."""

import functools
import json
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from kaustos.app.revisions import leaves
from kaustos.core.records import Rules, Run
from kaustos.core.review.experience import Maturity, maturity_of
from kaustos.store import Revision

_LEFT_OUT = (  # thresholds of judgement change nothing of what was run
    "name", "part", "brief.", "rules.", "machine.name", "machine.id", "machine.retired", "lot.name", "lot.grade",
)  # fmt: skip


def maturity_under(
    runs: Iterable[Run], settings: Callable[[], Mapping[str, Any]], revision_of: Callable[[Run], Revision | None],
    rules: Rules,
) -> Maturity:  # fmt: skip
    """How far runs prove a recipe under these settings, on this machine configuration; others are left out."""
    ended = [run for run in runs if run.is_ended]
    if not ended:
        return maturity_of(())
    mine = _signature(settings())
    known: dict[tuple[float, tuple[tuple[str, float], ...]], object] = {}

    def signature(run: Run) -> object:
        key = (run.revision, tuple(run.settings.items()))
        if key not in known:
            revision = revision_of(run)
            known[key] = None if revision is None else _signature_of_text(revision.document, key[1])
        return known[key]

    return maturity_of((run for run in ended if signature(run) == mine), rules)


def with_settings(document: dict[str, Any], settings: Mapping[str, float]) -> dict[str, Any]:
    """A document under the settings that a run was run with."""
    for path, value in settings.items():
        section, _, field = path.partition(".")
        document["recipe"].setdefault(section, {})[field] = value
    return document


@functools.lru_cache(maxsize=4096)
def _signature_of_text(document: str, settings: tuple[tuple[str, float], ...]) -> tuple[tuple[str, str], ...]:
    return _signature(dict(leaves(with_settings(json.loads(document), dict(settings)))))


def _signature(found: Mapping[str, Any]) -> tuple[tuple[str, str], ...]:
    kept = ((path, repr(value)) for path, value in found.items() if not path.startswith(_LEFT_OUT))
    return tuple(sorted(pair for pair in kept if pair[1] not in ("None", "[]")))
