"""Everything the program says of the demo and of every case, as one document: shows what a new structure changes.

    python -m tests.golden write FILE         what is said today
    python -m tests.golden compare OLD NEW    each difference on a line of its own; 1 where there is any

Written before and after a change that is to change nothing; every difference is named in the note of that change.
"""

import gzip
import json
import sys
import tempfile
from pathlib import Path

from kaustos.app.sheet import sheet_content
from kaustos.app.tables import lots_csv, recipes_csv, runs_csv
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.demo import build
from kaustos.formats.review_file import review_document
from kaustos.formats.sheet import sheet_html
from tests.core.review.cases import CASES
from tests.support import NOW, changed, every_card, judged, opened

SHOWN = 80  # differences that are printed


def contexts():
    """Every demo recipe on its machines, and every case and its near one, by name."""
    yield from every_card()
    for code, (card, machine, raising, near) in CASES.items():
        yield f"{code} raised", changed(opened(card, machine), raising)
        yield f"{code} near", changed(opened(card, machine), near)


def said() -> dict:
    """What is said of each."""
    found = {}
    wording = Wording()
    for name, records in contexts():
        recipe, context, review = judged(records)
        content = sheet_content(
            recipe, context, review, wording, revision="as it stands", printed="2026-03-02 08:00", appendix=True
        )
        document = review_document(review, wording)
        document["tiles"] = [wording.tile(each) for each in review.operations]
        document["worst"] = [[each.field, each.worst, each.required] for each in review.completeness.missing]
        found[name] = {"review": document, "sheet": sheet_html(content).splitlines()}
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "demo.kaustos"
        build(file, NOW)
        workspace = Workspace(file, clock=lambda: NOW)
        try:
            tables = {"recipes": recipes_csv, "runs": runs_csv, "lots": lots_csv}
            found["tables"] = {name: table(workspace).splitlines() for name, table in tables.items()}
            found["revisions"] = {
                key: [json.loads(each.document) for each in workspace.revisions_of(key)]
                for key in workspace.draft.records.cards
            }
        finally:
            workspace.close()
    return found


def leaves(value, path=""):
    """Every plain value with where it stands."""
    if isinstance(value, dict):
        for key, each in value.items():
            yield from leaves(each, f"{path}/{key}")
    elif isinstance(value, list):
        for place, each in enumerate(value):
            yield from leaves(each, f"{path}[{place}]")
    else:
        yield path, value


def differences(old: dict, new: dict) -> list[str]:
    """Each plain value that differs, with both."""
    before, after = dict(leaves(old)), dict(leaves(new))
    paths = [*before, *(path for path in after if path not in before)]
    return [
        f"{path}: {before.get(path, '(nothing)')!r} -> {after.get(path, '(nothing)')!r}"
        for path in paths
        if path not in before or path not in after or before[path] != after[path]
    ]


def read(name: str) -> dict:
    """What was written."""
    with gzip.open(name, "rt", encoding="utf-8") as file:
        return json.load(file)


def main(arguments: list[str]) -> int:
    """Write or compare."""
    if arguments[:1] == ["write"]:
        with gzip.open(arguments[1], "wt", encoding="utf-8") as file:
            json.dump(said(), file, ensure_ascii=False)
        return 0
    if arguments[:1] != ["compare"]:
        raise KaustosError(__doc__ or "")
    found = differences(*map(read, arguments[1:]))
    for line in found[:SHOWN]:
        sys.stdout.write(line[:400] + "\n")
    sys.stdout.write(f"{len(found)} differences\n")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
