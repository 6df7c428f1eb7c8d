"""The tables of reference values: each number of the core against something outside this project.

    python -m tests.validation        writes docs/validation.md

A reference is a closed form evaluated by hand or another way, a published constant, or a limit; never our own output.
"""

import sys
from collections.abc import Callable
from pathlib import Path

import attrs

TARGET = Path(__file__).parents[1] / "docs" / "validation.md"


@attrs.frozen
class Check:
    """One number with its reference and the tolerance that fits it."""

    model: str
    case: str
    source: str
    reference: float
    compute: Callable[[], float]
    tolerance: float

    @property
    def computed(self) -> float:
        return self.compute()

    @property
    def holds(self) -> bool:
        return abs(self.computed - self.reference) <= self.tolerance


def _units() -> list[Check]:
    from kaustos.app.quantities import read

    rows = (
        ("400 °F", "temperature", (400 - 32) / 1.8, "definition of the degree Fahrenheit"),
        ("36 °F of difference", "temperature_difference", 20.0, "definition of the degree Fahrenheit"),
        ("1/16 in", "length", 1.5875, "international inch, 25.4 mm"),
        ("1.5 oz", "mass", 42.524, "international avoirdupois ounce, 28.349523125 g"),
        ("65 psi", "stress", 65 * 4.4482216152605 / 645.16, "pound force over square inch"),
        ("2 h 30", "duration", 2.5, "sixty minutes in an hour"),
    )
    return [
        Check("Units typed", text, source, value, lambda text=text, q=q: read(text.split(" of ")[0], q), 5e-4)
        for text, q, value, source in rows
    ]


def _shares() -> list[Check]:
    from kaustos.core.review.experience import lower_bound

    return [
        Check("Share of good runs, lower bound", f"{n} of {n}", "0.05^(1/n), Clopper and Pearson", 0.05 ** (1 / n),
              lambda n=n: lower_bound(n, n), 1e-12)
        for n in (1, 5, 20)
    ] + [
        Check("Share of good runs, lower bound", "3 of 4", "root of 4 p³ (1 - p) + p⁴ = 0.05 by bisection", 0.24860,
              lambda: lower_bound(3, 4), 1e-5)
    ]  # fmt: skip


def _service() -> list[Check]:
    from kaustos.core.records import Datum
    from kaustos.core.review.brief import service_margin

    datum = Datum(value=147.0, low=143.0, high=150.0, unit="°C", kind="own", source="test")
    return [
        Check("Margin in service", "147 °C, service 110 °C", "subtraction", 37.0,
              lambda: service_margin(datum, 110.0).value, 0.0),
    ]  # fmt: skip


def _money() -> list[Check]:
    from kaustos.core.review import Estimate
    from kaustos.core.review.money import at_stake

    run = Estimate(39.6 + 56.0, 39.6 + 56.0, 39.6 + 56.0, "money", "m", "s")
    return [
        Check("Cost of a lost run", "220 g at 0.18, 14 h at 4, plate 15, half an hour at 45", "sum by hand", 133.1,
              lambda: at_stake(run, "stop", 45.0, 15.0).value, 1e-9),
    ]  # fmt: skip


GROUPS: list[Callable[[], list[Check]]] = [_units, _shares, _service, _money]


def checks() -> list[Check]:
    """Every check of every group."""
    return [check for group in GROUPS for check in group()]


def document() -> str:
    """The checks as a page."""
    lines = [
        "# Validation",
        "",
        "Written by `python -m tests.validation` from the tests' own tables; a test fails where a number or this page",
        "is out of date. References come from outside this project.",
        "",
        "| model | case | reference from | reference | computed | tolerance |",
        "|---|---|---|---|---|---|",
    ]
    lines += [
        f"| {each.model} | {each.case} | {each.source} | {each.reference:.8g} | {each.computed:.8g} "
        f"| {each.tolerance:.1g} |"
        for each in checks()
    ]
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    TARGET.write_text(document(), encoding="utf-8")
    sys.exit(0)
