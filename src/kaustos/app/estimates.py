"""The assumed constants as a list for people: in Settings, on the command line, and as docs/estimates.md."""

from collections.abc import Iterator

from kaustos.core.estimates import AREAS
from kaustos.core.estimates.assumed import Assumed
from kaustos.core.records import Datum
from kaustos.library import load

HEADINGS = ("What is assumed", "Value", "From", "To", "Unit", "Source")


def _areas() -> Iterator[tuple[str, list[Assumed]]]:
    """Every area with its constants; last what the library assumes of spool bodies and desiccant."""
    for area in AREAS:
        yield area.title, [*area.values()]
    supplies = load().supplies
    values = [(f"{key}.stands", body.stands) for key, body in supplies.bodies.items()]
    values += [(f"{key}.takes", body.takes) for key, body in supplies.bodies.items()]
    values += [(f"{key}.takes", each.takes) for key, each in supplies.desiccants.items()]
    yield "Spool bodies and desiccant (library)", [_assumed(key, datum) for key, datum in values]


def _assumed(key: str, datum: Datum) -> Assumed:
    source, _, why = datum.source.partition(": ")
    return Assumed(
        key=key, value=datum.value, low=datum.low, high=datum.high, unit=datum.unit, why=why or datum.source,
        source=f"{source}, {datum.kind}",
    )  # fmt: skip


def estimate_rows() -> list[tuple[str, ...]]:
    """Every assumed constant in words, area by area."""
    return [(f"{title}: {each.key}: {each.why}", *_numbers(each)) for title, found in _areas() for each in found]


def _numbers(each: Assumed) -> tuple[str, ...]:
    return (f"{each.value:.6g}", f"{each.low:.6g}", f"{each.high:.6g}", each.unit, each.source)


def estimates_document() -> str:
    """The same as a document; made by ``kaustos library check --estimates`` and held to the code by a test."""
    lines = [
        "# What is assumed", "",
        "Constants that practice suggests and nobody here has measured, each with the range it may lie in. What a shop",
        "decides for itself stands in its rules (Settings), what is known of a polymer in the library. Made by",
        "`kaustos library check --estimates`.",
    ]  # fmt: skip
    for title, found in _areas():
        lines += ["", f"## {title}", "", "| key | value | from | to | unit | why | source |",
                  "|---|---:|---:|---:|---|---|---|"]  # fmt: skip
        for each in found:
            value, low, high, unit, source = _numbers(each)
            lines.append(f"| `{each.key}` | {value} | {low} | {high} | {unit} | {each.why} | {source} |")
    return "\n".join(lines) + "\n"
