"""Two runs beside each other: what differs between them, and what that tells of the cause."""

import json
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.app.judge import Judge, context_of_document
from kaustos.app.readings import fault_words
from kaustos.app.revisions import leaves
from kaustos.app.runs import as_run, number_of
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import CHOSEN, RULES, Run
from kaustos.core.review.experience import shows_as
from kaustos.formats.recipe_file import recipe_from

_NO_CAUSE = ("name", "part", "brief.runs", "job.")  # can have caused nothing; a job file is one thing, told by its name
_IN_CONTEXT = frozenset((*(kind.one for kind in CHOSEN), RULES))
NOT_DRY = {
    "wet": "wet filament",
    "doubtful": "filament that may have been wet",
    "unknown": "filament of unknown moisture",
}


@attrs.frozen
class RunComparison:
    """What differs between two runs, and what that tells of the cause."""

    differing: tuple[tuple[str, str, str], ...]  # field, first, second, in words
    outcomes_differ: bool
    verdict: str


def compare_runs(workspace: Workspace, first: Run, second: Run) -> RunComparison:
    """Name the single field that differs, or all of them and the one run that would tell the cause."""
    wording = workspace.draft.wording
    one, two = as_run(workspace, first), as_run(workspace, second)
    if one is None or two is None:
        raise KaustosError("One of the two revisions is not in this workspace.")
    paths = _differing(one, two)
    old, new = dict(leaves(one)), dict(leaves(two))
    rows = [
        (wording.field(path), wording.field_value(path, old.get(path)), wording.field_value(path, new.get(path)))
        for path in paths
    ]
    done = _done_otherwise(workspace, first, second)
    differ = first.outcome != second.outcome or first.seen != second.seen
    verdict = _verdict(workspace, first, second, paths, [each[0] for each in done], differ, wording)
    return RunComparison((*rows, *done), differ, f"{verdict} {moisture_words(first, second)}".strip())


def _done_otherwise(workspace: Workspace, first: Run, second: Run) -> list[tuple[str, str, str]]:
    """What was done in one run and not in the other, and what their sensors showed: each may be the cause as well."""
    jobs, wording = workspace.draft.records.tables["jobs"], workspace.draft.wording

    def file_of(run: Run) -> tuple[str, str]:
        job = jobs.get(run.job or "")
        return ("", "none recorded") if job is None else (job.moves_sha256, f"{job.name} ({job.moves_sha256[:6]})")

    def steps_of(run: Run, *, gone_without: bool) -> set[str]:
        return {each.title for each in run.steps if each.is_over and bool(each.waived) == gone_without}

    def sensors_of(run: Run) -> str:
        return "; ".join(filter(None, (fault_words(each, wording) for each in run.sensors))) or "nothing said"

    rows = [] if file_of(first)[0] == file_of(second)[0] else [("job file", file_of(first)[1], file_of(second)[1])]
    waived = steps_of(first, gone_without=True) | steps_of(second, gone_without=True)
    for title, is_without in (("gone without", True), ("steps done", False)):
        one, other = (steps_of(run, gone_without=is_without) for run in (first, second))
        if not is_without:  # what the other went without is told as that, once
            one, other = one - waived, other - waived
        first_only, second_only = (", ".join(sorted(each)) or "none more" for each in (one - other, other - one))
        rows.append((title, first_only, second_only))
    rows.append(("sensors", sensors_of(first), sensors_of(second)))
    return [row for row in rows if row[1] != row[2]]


def moisture_words(*runs: Run) -> str:
    """Which runs were not printed from dry filament, as far as was known; empty where all were."""
    said = [
        f"run {number_of(run.id)} was printed from {words}"
        for run in runs
        if (words := NOT_DRY.get(run.filament or ""))
    ]
    return f"Mind that {' and '.join(said)}: water poses as wrong heat." if said else ""


def _differing(one: Mapping[str, Any], two: Mapping[str, Any]) -> list[str]:
    old, new = dict(leaves(one)), dict(leaves(two))
    paths = [*new, *(path for path in old if path not in new)]
    return [path for path in paths if old.get(path) != new.get(path) and not path.startswith(_NO_CAUSE)]


def _verdict(
    workspace: Workspace, first: Run, second: Run, paths: list[str], done: list[str], differ: bool, wording: Wording
) -> str:  # fmt: skip
    if not paths and not done and first.filament == second.filament:
        if differ:
            return "Nothing recorded differs, yet the outcomes do: something that is not recorded decides."
        return "Nothing recorded differs: a repeat."
    names = [*(wording.field(path) for path in paths), *done]
    names += ["filament"] if first.filament != second.filament else []
    if len(names) == 1:
        effect = "it is the one recorded cause" if differ else "it made no difference that was seen"
        return f"One thing differs, {names[0]}: {effect}."
    if not paths:
        return f"{len(names)} things differ ({', '.join(names)}): the cause cannot be told apart."
    tell = _telling(workspace, first, second, paths)
    new = dict(leaves(as_run(workspace, second) or {}))
    value = wording.field_value(tell, new.get(tell))
    text = f"{len(names)} things differ ({', '.join(names)}): the cause cannot be told apart."
    number = number_of(first.id)
    return f"{text} One run would tell: all as in run {number}, but {wording.field(tell)} {value}."


def _telling(workspace: Workspace, first: Run, second: Run, paths: list[str]) -> str:
    """The field whose change alone would take away, or bring, a finding that shows as what was seen in one run only."""
    judge, records = Judge(), workspace.draft.records
    only = first.seen ^ second.seen
    base, other = as_run(workspace, first) or {}, as_run(workspace, second) or {}

    def codes(document: Mapping[str, Any]) -> set[str]:
        found = recipe_from(dict(document), "run")
        review = judge.at_hand(found.recipe, context_of_document(found, "run", records)).review  # offers change no code
        return {each.code for each in review.findings() if only & set(shows_as(each.code))}

    before = codes(base)
    moved = {path: len(codes(_with_leaf(base, other, path)) ^ before) for path in paths}
    return max(paths, key=lambda path: moved[path])


def _with_leaf(base: Mapping[str, Any], other: Mapping[str, Any], path: str) -> dict[str, Any]:
    """The first document with one leaf of the second."""
    document: dict[str, Any] = json.loads(json.dumps(base))
    head, _, rest = path.partition(".")
    root = ("context", head, *rest.split(".")) if head in _IN_CONTEXT and rest else (
        ("context", rest) if head == "context" else ("recipe", *path.split("."))
    )  # fmt: skip
    source: Any = other
    target: Any = document
    for key in root[:-1]:
        source = source.get(key, {}) if isinstance(source, Mapping) else {}
        target = target.setdefault(key, {})
    target[root[-1]] = source.get(root[-1]) if isinstance(source, Mapping) else None
    return document
