"""How the parts of operation 30 make their findings: machine and nozzle are named in each."""

from collections.abc import Iterable, Mapping
from typing import Protocol

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Code, Context, Finding, Remedy
from kaustos.core.review.making import make_finding

Values = Mapping[str, float | str | None]


class Finder(Protocol):
    """Makes a finding of a code."""

    def __call__(
        self, recipe: Recipe, context: Context, code: str, field: str, remedies: tuple[Remedy, ...], values: Values,
        severity: str = "",
    ) -> Finding:  # fmt: skip
        """The finding, milder than its code where a severity is given."""


def finder(codes: Iterable[Code]) -> Finder:
    """A maker of findings of some codes."""
    by_code = {code.code: code for code in codes}

    def found(
        recipe: Recipe, context: Context, code: str, field: str, remedies: tuple[Remedy, ...], values: Values,
        severity: str = "",
    ) -> Finding:  # fmt: skip
        machine, nozzle = context.machine, context.nozzle
        every = {"machine": machine.name if machine else "", "nozzle": nozzle.name if nozzle else "", **values}
        return make_finding(by_code[code], recipe, context, field, remedies, every, severity=severity)

    return found
