"""What can be found against the way a part comes off."""

from collections.abc import Iterator

from kaustos.core.estimates import RUN
from kaustos.core.planning.bond_trend import bond_trend
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Remedy
from kaustos.core.review.making import make_finding
from kaustos.core.review.plate.case import agent_kind
from kaustos.core.review.plate.cooling import CoolingCase
from kaustos.core.review.release.case import ReleaseCase, release_case
from kaustos.core.review.release.codes import BY_CODE
from kaustos.core.review.release.remedies import AJAR, LATER, PARTED, RENEWED, held, kept_shut

Values = dict[str, float | str | None]


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = release_case(recipe, context)
    cooling = case.cooling
    return (
        *_shut(cooling, recipe, context), *_door(cooling, recipe, context), *_hot(case, recipe, context),
        *_trend(recipe, context),
    )  # fmt: skip


def _found(recipe: Recipe, context: Context, code: str, field: str, values: Values, *remedies: Remedy) -> Finding:
    return make_finding(BY_CODE[f"release.{code}"], recipe, context, field, remedies, values)


def _shut(case: CoolingCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """How long it takes where nobody opens the door."""
    if case.way == "hot" or case.shut is None or case.opened is None or case.cracks:
        return
    until, quick = case.shut.until, case.opened.until
    if until is None:
        values: Values = {"release": case.release_c, "gap": case.release_c}
        yield _found(recipe, context, "shut.never", "plate.bed_c", values, AJAR)
    elif until.value > RUN["long_min"].value and quick is not None:
        values = {"release": case.release_c, "shut": until.value / 60.0, "low": until.low / 60.0,
                  "high": until.high / 60.0, "opened": quick.value / 60.0, "gap": until.value}  # fmt: skip
        yield _found(recipe, context, "shut.long", "plate.bed_c", values, AJAR)


def _door(case: CoolingCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Cold air on a hot glassy part."""
    if not (case.cracks and case.has_door) or case.way == "hot" or case.opened is None or case.shut is None:
        return
    ramp = case.opened.steepest_k_min
    values: Values = {"air": case.air_c, "ramp": ramp, "bears": case.bears_k_min, "gap": ramp - case.bears_k_min}
    yield _found(recipe, context, "door.cracks", "heat.chamber_c", values, kept_shut(case))


def _trend(recipe: Recipe, context: Context) -> Iterator[Finding]:
    """How parts of this polymer came off this plate, bare or under this agent."""
    plate, polymer = context.plate, context.polymer
    if plate is None or polymer is None:
        return
    agent = agent_kind(context) or ""
    bonded = context.shop.bonded.get(plate.id, ())
    alike = [each for each in bonded if (each.polymer, each.agent) == (polymer.id, agent)]
    trend = bond_trend([each.off for each in sorted(alike, key=lambda each: each.at_utc) if each.off is not None])
    if trend.says in ("harder", "looser"):
        values: Values = {"runs": float(trend.runs), "plate": plate.name, "gap": 1.0}
        remedies = (PARTED,) if trend.says == "harder" else (RENEWED,)
        yield _found(recipe, context, f"trend.{trend.says}", "context.plate", values, *remedies)


def _hot(case: ReleaseCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A part that has to come off hot, when nobody is there."""
    off = case.end_off
    if off is None or not off.outside:
        return
    values: Values = {"minutes": RUN["hot_min"].value, "when": off.at.strftime("%a %H:%M"), "gap": off.outside_min}
    yield _found(recipe, context, "hot.alone", "plate.release", values, LATER, held(case))
