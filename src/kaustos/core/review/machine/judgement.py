"""Puts the operation's review together: findings, caps, figures, cautions and what is not recorded."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Cap, Caution, Context, Finding, OperationReview, worst_first
from kaustos.core.review.grading import standing_of
from kaustos.core.review.machine.codes import CAPS
from kaustos.core.review.machine.figures import figures_of, headline_of
from kaustos.core.review.machine.findings import findings_of
from kaustos.core.review.machine.knowledge import asked_of, missing_of
from kaustos.core.review.machine.remedies import with_choices
from kaustos.core.review.machine.zones import SETTINGS, Zone, zones_of

NUMBER = 30
HOT_CHAMBER_C = 60.0


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the machine: window, reach and setpoint of every zone."""
    zones = zones_of(recipe, context)
    findings = worst_first(with_choices(recipe, context, findings_of(zones), findings_of))
    missing = missing_of(recipe, context)
    return OperationReview(
        NUMBER,
        standing_of(tuple(finding.severity for finding in findings), missing),
        headline_of(zones, findings),
        figures_of(recipe, context, zones),
        findings,
        _cautions(recipe, context),
        missing,
        _caps(zones, findings),
        asked_of(context),
    )


def _caps(zones: tuple[Zone, ...], findings: tuple[Finding, ...]) -> tuple[Cap, ...]:
    caps = [Cap(finding.code, CAPS[finding.code]) for finding in findings if finding.code in CAPS]
    running = {field for settings in SETTINGS.values() for field, _, runs in settings if runs}
    short = [
        finding
        for finding in findings
        if finding.code in ("machine.nozzle.below_window", "machine.chamber.below_window") and finding.field in running
    ]
    for finding in short:
        deep = finding.severity == "stop" or len(short) > 1
        caps.append(Cap(finding.code, "decorative" if deep else "reduced"))
    return tuple(caps)


def _cautions(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    cautions = [
        Caution(
            "machine.hot_surfaces",
            "Nozzle, plate and purged strings burn skin; let them cool or wear gloves fit for the heat.",
        )
    ]
    hottest_air = max(recipe.heat.chamber_c or 0.0, 0.0)
    if hottest_air >= HOT_CHAMBER_C:
        cautions.append(
            Caution(
                "machine.hot_chamber",
                "The chamber is hot enough to burn: keep its interlock closed, never reach in hot, never leave an "
                "added heater unattended, and keep an independent thermal cut-off.",
            )
        )
    if context.polymer:
        cautions.append(
            Caution(
                "machine.fumes",
                f"{context.polymer.name} gives off {context.polymer.emissions}, and fine particles. Extract outdoors "
                "first; the maker's data sheet and local rules decide.",
            )
        )
        cautions += [Caution(f"machine.polymer_{n}", each) for n, each in enumerate(context.polymer.cautions, start=1)]
    liner = context.machine.nozzle.liner.fitted if context.machine else False
    if liner is not False and context.machine:
        cautions.append(
            Caution(
                "machine.fluoropolymer",
                "A fluoropolymer liner gives off toxic fumes when overheated, deadly to pet birds: stay below its hard "
                "stop, and keep birds away.",
            )
        )
    return tuple(cautions)
