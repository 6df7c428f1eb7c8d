"""The review as a plain document: shop units, null for unknown, never NaN."""

from collections.abc import Mapping
from typing import Any, Protocol

from kaustos.core.review import CODES, OPERATIONS, Choose, Estimate, Figure, Finding, Remedy, Review, Set
from kaustos.core.review.contract import Absent
from kaustos.core.review.experience import Tally

FORMAT = "kaustos-review"
VERSION = 1


class Words(Protocol):
    """What makes sentences of findings and remedies."""

    def text(self, finding: Finding) -> str: ...
    def cost(self, finding: Finding) -> str: ...
    def remedy(self, remedy: Remedy | Absent) -> str: ...
    def remedy_text(self, remedy: Remedy | Absent) -> str: ...


def review_document(review: Review, words: Words, experience: Mapping[str, Tally] | None = None) -> dict[str, Any]:
    """The review as a document; ``words`` makes its sentences, ``experience`` says how often each finding was right."""
    record = experience or {}
    grade, completeness = review.grade, review.completeness
    return {
        "format": FORMAT,
        "version": VERSION,
        "grade": {
            "value": grade.value,
            "because": list(grade.because),
            "caps": [{"code": cap.code, "grade": cap.grade} for cap in grade.caps],
            "until_known": list(grade.until_known),
            "wanted": grade.wanted,
        },
        "completeness": {
            "known": completeness.known,
            "asked": completeness.asked,
            "missing": [missing.field for missing in completeness.missing],
        },
        "operations": [
            {
                "number": each.number,
                "key": operation.key,
                "standing": each.standing,
                "headline": each.headline,
                "figures": [_figure(figure) for figure in each.figures],
                "findings": [_finding(finding, words, record) for finding in each.findings],
                "cautions": [{"code": caution.code, "text": caution.text} for caution in each.cautions],
            }
            for operation, each in zip(OPERATIONS, review.operations, strict=True)
        ],
    }


def _figure(figure: Figure) -> dict[str, Any]:
    head = {"key": figure.key, "title": figure.title}
    value = figure.value
    if isinstance(value, Absent):
        return head | {"state": value.value, "value": None}
    if isinstance(value, Estimate):
        return head | {
            "state": "known", "value": value.value, "low": value.low, "high": value.high, "unit": value.unit,
            "method": value.method, "source": value.source,
        }  # fmt: skip
    return head | {"state": "known", "value": value}


def _finding(finding: Finding, words: Words, experience: Mapping[str, Tally]) -> dict[str, Any]:
    code, tally = CODES[finding.code], experience.get(finding.code)
    return {
        "code": finding.code,
        "severity": finding.severity,
        "text": words.text(finding),
        "values": dict(finding.values),
        "why": code.why,
        "source": code.source,
        "cost": words.cost(finding),
        "cost_money": finding.cost.value if finding.cost else None,
        "chance": finding.chance,
        "chance_from": finding.basis,
        "due_to": finding.due_to or None,
        "stake_money": finding.stake.value if finding.stake else None,
        "field": finding.field,
        "runs": {"right": tally.right, "of": tally.of} if tally else None,
        "remedies": [_remedy(remedy, words) for remedy in finding.remedies],
    }


def _remedy(remedy: Remedy | Absent, words: Words) -> dict[str, Any]:
    title = words.remedy(remedy)
    if isinstance(remedy, Set):
        return {"kind": "set", "title": title, "changes": dict(remedy.changes)}
    if isinstance(remedy, Choose):
        return {
            "kind": "choose", "title": title, "what": remedy.what, "id": remedy.id, "changes": dict(remedy.changes)
        }  # fmt: skip
    if isinstance(remedy, Absent):
        return {"kind": remedy.value, "title": title}
    return {"kind": "advice", "title": title, "text": words.remedy_text(remedy)}
