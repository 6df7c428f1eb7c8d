"""The assumed constants as a list for people: in Settings, on the command line, and as docs/estimates.md."""

from kaustos.core.estimates import AREAS, Assumed

HEADINGS = ("What is assumed", "Value", "From", "To", "Unit", "Source")


def estimate_rows() -> list[tuple[str, ...]]:
    """Every assumed constant in words, area by area."""
    return [(f"{area.title}: {each.key}: {each.why}", *_numbers(each)) for area in AREAS for each in area.values()]


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
    for area in AREAS:
        lines += ["", f"## {area.title}", "", "| key | value | from | to | unit | why | source |",
                  "|---|---:|---:|---:|---|---|---|"]  # fmt: skip
        for each in area.values():
            value, low, high, unit, source = _numbers(each)
            lines.append(f"| `{each.key}` | {value} | {low} | {high} | {unit} | {each.why} | {source} |")
    return "\n".join(lines) + "\n"
