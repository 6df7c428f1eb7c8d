"""Judges recipe files, or all recipes of a workspace, and says so in lines, in a table or as a document."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.exchange import read_file
from kaustos.app.indexes import Indexes
from kaustos.app.judge import Judge, context_of_card, judge_document, shop_of
from kaustos.app.records import Records
from kaustos.app.wording import Wording
from kaustos.app.workspace import utc_now
from kaustos.app.worth import worth_lines
from kaustos.core.errors import KaustosError
from kaustos.core.records import Recipe
from kaustos.core.review import Context, Finding, Review
from kaustos.core.review.experience import Tally
from kaustos.formats.review_file import review_document

HEADINGS = ("Recipe", "From", "Machine", "Grade", "Stops", "Watches", "First")
FORMAT, VERSION = "kaustos-reviews", 1


@attrs.frozen(eq=False)
class Reviewed:
    """A recipe with what it was judged with, and where it came from: a file, or an id in a workspace."""

    recipe: Recipe
    context: Context
    review: Review
    source: str
    is_newer: bool = False  # written by a newer version, read as far as it is known

    def findings(self, only: str | None = None) -> tuple[Finding, ...]:
        """Its findings, those of one severity where one is asked for."""
        return tuple(each for each in self.review.findings() if only in (None, each.severity))


def review_file(file: Path, machine: str | None = None, records: Records | None = None) -> Reviewed:
    """Judge a recipe file, on another machine and among the records of a workspace where they are given."""
    document = read_file(file)
    if machine is not None:
        document = attrs.evolve(document, chosen={**document.chosen, "machine": machine})
    if records and document.rules is None:
        document = attrs.evolve(document, rules=records.rules)
    context, found = judge_document(document, file.name, records, utc_now())
    return Reviewed(document.recipe, context, found, str(file), is_newer=document.newer)


def review_records(records: Records, machine: str | None = None) -> Iterator[Reviewed]:
    """Judge all recipes of a workspace that are not retired."""
    if machine is not None and machine not in records.machines:
        raise KaustosError(f"--machine: no machine of the workspace is {machine!r:.60}: {', '.join(records.machines)}")
    judge, shop, indexes, now = Judge(), shop_of(records), Indexes(), utc_now()
    for key, card in records.cards.items():
        if card.retired:
            continue
        elsewhere = machine and attrs.evolve(card, chosen={**card.chosen, "machine": machine})
        context = context_of_card(records, key, now, shop, indexes, elsewhere or None)
        context, found = judge.to_the_end(card.recipe, context)
        yield Reviewed(card.recipe, context, found, key)


Experience = Callable[[str], Mapping[str, Tally]]  # of a polymer, by code


def lines_of(each: Reviewed, wording: Wording, only: str | None = None) -> Iterator[str]:
    """One recipe in sentences: grade, findings with their remedies, what is not recorded."""
    yield f"Grade: {wording.grade(each.review.grade)}"
    for finding in each.findings(only):
        yield f"{finding.severity:6}{wording.text(finding)}"
        for remedy in finding.remedies:
            yield f"      -> {wording.remedy(remedy)}"
    if only is None:
        from kaustos.core.review.worth import worth_knowing  # with its arithmetic

        found = worth_knowing(each.recipe, each.context)
        yield from (f"Worth finding out first: {line}" for line in worth_lines(found, wording))
    missing = each.review.completeness.missing
    if missing and only is None:
        yield f"Not recorded: {', '.join(wording.field(one.field) for one in missing)}"


def table_lines(found: Sequence[Reviewed], wording: Wording, only: str | None = None) -> Iterator[str]:
    """Many recipes, one a line, tab-separated: those with a finding of the severity that is asked for."""
    yield "\t".join(HEADINGS)
    for each in found:
        first = next(iter(each.findings(only)), None)
        if only is not None and first is None:
            continue
        counts = (str(len(each.findings(severity))) for severity in ("stop", "watch"))
        yield "\t".join(
            (
                each.recipe.name or "Unnamed recipe", each.source,
                each.context.machine.name if each.context.machine else "not recorded",
                wording.grade(each.review.grade), *counts, wording.text(first) if first else "",
            )
        )  # fmt: skip


def document_of(each: Reviewed, experience: Experience, only: str | None = None) -> dict[str, Any]:
    """One review with file and recipe named; in shop units and with a decimal point whatever the settings are."""
    document = review_document(each.review, Wording(), experience(each.recipe.polymer or ""))
    head = {"file": each.source, "recipe": each.recipe.name, "part": each.recipe.part}
    if only is not None:
        for operation in document["operations"]:
            operation["findings"] = [one for one in operation["findings"] if one["severity"] == only]
    return {"format": document.pop("format"), "version": document.pop("version"), **head, **document}


def documents_of(
    found: Sequence[Reviewed], experience: Experience, only: str | None = None
) -> dict[str, Any]:  # fmt: skip
    """Many reviews as one document."""
    reviews = [document_of(each, experience, only) for each in found if only is None or each.findings(only)]
    return {"format": FORMAT, "version": VERSION, "reviews": reviews}
