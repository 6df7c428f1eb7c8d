"""Which runs were run under the same settings: how far they prove a state of a recipe."""

import functools
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from kaustos.app.revisions import leaves, plain_of
from kaustos.core.records import Rules, Run
from kaustos.core.review.experience import Maturity, maturity_of
from kaustos.core.review.part_changes import changed_by
from kaustos.store import Revision


def maturity_under(
    runs: Iterable[Run], settings: Callable[[], Mapping[str, Any]], revision_of: Callable[[Run], Revision | None],
    rules: Rules,
) -> Maturity:  # fmt: skip
    """How far runs prove a recipe under these settings, on this machine configuration; others are left out."""
    ended = [run for run in runs if run.is_ended]
    if not ended:
        return maturity_of(())
    mine = _signature(settings())
    known: dict[tuple[float, tuple[tuple[str, float], ...]], _Signature | None] = {}

    def signature(run: Run) -> _Signature | None:
        key = (run.revision, tuple(run.settings.items()))
        if key not in known:
            revision = revision_of(run)
            known[key] = None if revision is None else _signature_of_text(revision.document, key[1])
        return known[key]

    return maturity_of((run for run in ended if _is_same(signature(run), mine)), rules)


_Signature = dict[str, str]  # values of the fields that change the printed part, by path
_LOT = "lot.id"  # tells another grade from a name that was corrected
_RECORDED = ("machine.", "nozzle.", "lot.", "job.")  # facts: one that is recorded on one side only was not changed


def _is_same(one: _Signature | None, other: _Signature) -> bool:
    return one is not None and not _changed(one, other)


def _changed(before: _Signature, after: _Signature) -> list[str]:
    """Paths of the fields that differ, in the order of the later state."""
    paths = dict.fromkeys((*after, *before))
    return [
        path for path in paths
        if before.get(path) != after.get(path) and path != _LOT
        and not (path == "lot.grade" and before.get(_LOT) == after.get(_LOT))  # its name was corrected
        and not (path.startswith(_RECORDED) and (path not in before or path not in after))
    ]  # fmt: skip


def changed_fields(before: Mapping[str, Any], after: Mapping[str, Any]) -> list[str]:
    """Fields of two states of a recipe that change its printed part, or what an anneal makes of it."""
    every = [_signature(each, besides=()) for each in (before, after)]
    return _changed(*every)


def with_settings(document: dict[str, Any], settings: Mapping[str, float]) -> dict[str, Any]:
    """A document under the settings that a run was run with."""
    for path, value in settings.items():
        section, _, field = path.partition(".")
        document["recipe"].setdefault(section, {})[field] = value
    return document


@functools.lru_cache(maxsize=64)
def leaves_as_run(document: str, settings: tuple[tuple[str, float], ...]) -> Mapping[str, Any]:
    """The fields of a kept revision under the settings that a run was run with; read once."""
    return dict(leaves(with_settings(plain_of(document), dict(settings))))


@functools.lru_cache(maxsize=4096)
def _signature_of_text(document: str, settings: tuple[tuple[str, float], ...]) -> _Signature:
    return _signature(leaves_as_run(document, settings))


def _signature(found: Mapping[str, Any], besides: tuple[str, ...] = ("after",)) -> _Signature:
    """Prints stand whatever is done to them after; each is compared by how it is written."""
    kept = {path: repr(value) for path, value in found.items() if set(changed_by(path)).difference(besides)}
    if "lot.id" in found:
        kept[_LOT] = repr(found["lot.id"])
    return {path: value for path, value in kept.items() if value not in ("None", "[]")}
