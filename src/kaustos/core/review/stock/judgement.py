"""Puts the operation's review together: findings, caps, figures, cautions and what is not recorded."""

from typing import TYPE_CHECKING

from kaustos.core.records import Recipe
from kaustos.core.review.contract import (
    PENDING,
    Cap,
    Caution,
    Context,
    Figure,
    Finding,
    Missing,
    OperationReview,
    worst_first,
)
from kaustos.core.review.grading import standing_of
from kaustos.core.review.stock.codes import CAPS
from kaustos.core.review.stock.lot import in_dry_box, lot_in_use

if TYPE_CHECKING:
    from kaustos.core.review.stock.drawing import StockPicture

NUMBER = 20
LATER = "stock.later"  # among the heavy results: the model of this operation is not to be computed yet
TITLES = {
    "stock.drying.time": "Drying time to the printing limit",
    "stock.drying.deepest": "The same at the deepest turn",
    "stock.dryer.set": "Dryer gets to",
    "stock.drying.warm": "Warm through after",
    "stock.moisture.now": "Moisture now",
    "stock.moisture.start": "Moisture when printing starts",
    "stock.moisture.end": "Moisture when printing ends",
    "stock.drying.floor": "Floor of drying in this air",
    "stock.waiting.lasts": "May wait for its print for",
    "stock.exposure.lasts": "May hang in its feed for",
    "stock.desiccant.month": "Desiccant for a month in a dry box",
    "stock.desiccant.lasts": "Desiccant of a dry box lasts",
    "stock.desiccant.due": "Change the desiccant on",
    "stock.mass.left": "Filament left",
    "stock.mass.runs": "Runs that the rest is enough for",
    "stock.moisture.signs": "A wet melt shows",
}
HOT_C = 60.0
_VALUES = ("moisture_50_pct", "moisture_saturated_pct", "moisture_limit_pct", "diffusivity_80c_um2_s",
           "diffusion_energy_kj_mol", "dryer_low_c", "dryer_high_c", "drying_most_h")  # fmt: skip
_LOT = ("feed", "flange", "diameter", "depth_mm", "width_mm", "net_g", "tare_g", "weighings", "grade", "colour",
        "ingredients", "reorder_g", "lead_h")  # fmt: skip
_DRYER = ("max_c", "air")
_OF_AIR = {"dry": ("dew_point_c",), "vacuum": ("pressure_mbar",)}


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the spool: how wet it is when printing starts and ends, what the dryer can do, whether it is enough.

    Where the context says that its model comes later (before the first picture stands), its figures are pending.
    """
    findings: tuple[Finding, ...] = ()
    figures = tuple(Figure(key, title, PENDING) for key, title in TITLES.items())
    if not context.results.get(LATER):
        from kaustos.core.review.stock.figures import figures_of
        from kaustos.core.review.stock.findings import findings_of
        from kaustos.core.review.stock.plan import plan_of

        plan = plan_of(recipe, context)
        findings = worst_first(findings_of(recipe, context, plan))
        values = figures_of(recipe, context, plan)
        figures = tuple(Figure(key, title, values[key]) for key, title in TITLES.items())
    questions = _questions(recipe, context)
    missing = tuple(missing for known, missing in questions if not known)
    return OperationReview(
        NUMBER,
        standing_of(tuple(finding.severity for finding in findings), missing),
        "stock.drying.time",
        figures,
        findings,
        _cautions(recipe, context),
        missing,
        tuple(Cap(each.code, CAPS[each.code]) for each in findings if _caps(each.severity, each.code)),
        len(questions),
    )


def picture(recipe: Recipe, context: Context) -> "StockPicture":
    """Past as it is known, dryer and waiting as they are planned, print from its feed."""
    from kaustos.core.review.stock.drawing import draw

    return draw(recipe, context)


def _caps(severity: str, code: str) -> bool:
    return code in CAPS and (severity == "stop" or CAPS[code] == "reduced")


def _cautions(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    if recipe.stock.dryer_c is None:
        return ()
    found = [
        Caution(
            "stock.no_food_oven",
            "Never dry in an oven that is used for food, and never leave a makeshift dryer unattended: it needs a "
            "cut-off of its own. The maker's data sheet decides on heat and hours.",
        )
    ]
    if recipe.stock.dryer_c >= HOT_C:
        found.append(
            Caution("stock.hot_spool", "Hot spools and dryers burn skin; let vapours out, do not breathe them.")
        )
    if context.lot and context.lot.flange in ("card", "polystyrene", "styrenic"):
        found.append(Caution("stock.soft_spool", "Spools of card and styrenics bend and fuse in heat: look early."))
    return tuple(found)


def _questions(recipe: Recipe, context: Context) -> list[tuple[bool, Missing]]:
    """Everything this operation asks, with whether it is recorded."""
    polymer, lot, dryer = context.polymer, lot_in_use(recipe, context), context.dryer
    absorbs = polymer is None or polymer.absorbs
    logged = lot is not None and bool(lot.stays)
    undried = recipe.stock.dryer_c is None or recipe.stock.dryer_h is None
    planned = recipe.stock
    asked = [
        (
            getattr(recipe.stock, name) is not None,
            Missing(f"stock.{name}", "reduced", absorbs and undried and not logged),
        )
        for name in ("dryer_c", "dryer_h")
    ]
    asked.append((planned.wait_h is not None, Missing("stock.wait_h", "reduced", False)))
    if planned.wait_h:
        asked.append((planned.wait_in is not None, Missing("stock.wait_in", "reduced", False)))
    for key in _VALUES:
        known = polymer is not None and polymer.value(key) is not None
        asked.append((known, Missing(f"polymer.{key}", "reduced", absorbs and key.startswith("moisture"))))
    asked.append((lot is not None, Missing("context.lot", "reduced", False)))
    asked.append((dryer is not None, Missing("context.dryer", "functional", False)))
    asked.append((logged, Missing("lot.stays", "reduced", False)))
    names = _LOT + (("box_humidity_pct", "desiccant_utc") if in_dry_box(recipe, lot) else ())
    for name in names:
        known = lot is not None and getattr(lot, name) not in (None, "", ())
        asked.append((known, Missing(f"lot.{name}", "functional", False)))
    for name in _DRYER + _OF_AIR.get(str(dryer.air) if dryer else "", ()):
        known = dryer is not None and getattr(dryer, name) is not None
        asked.append((known, Missing(f"dryer.{name}", "functional", False)))
    return asked
