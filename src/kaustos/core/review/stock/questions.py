"""What the spool and its drying are asked for, and the worst grade that each answer could bring."""

from kaustos.core.estimates import SPOOL
from kaustos.core.planning.drying import MEAN
from kaustos.core.planning.history import was_somewhere
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.planning.ledger import MARGIN
from kaustos.core.records import Lot, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.making import Question
from kaustos.core.review.stock.lot import in_dry_box, lot_in_use
from kaustos.core.review.stock.plan import plan_of

_VALUES = ("moisture_50_pct", "moisture_saturated_pct", "moisture_limit_pct", "diffusivity_80c_um2_s",
           "diffusion_energy_kj_mol", "dryer_low_c", "dryer_high_c", "drying_most_h")  # fmt: skip
_LOT = ("diameter", "depth_mm", "width_mm", "net_g", "weighings", "grade", "colour",
        "ingredients", "filler", "recycled", "reorder_g", "lead_h")  # fmt: skip
_DRYER = ("max_c", "air")
HEAVIEST_G = SPOOL["heaviest_body"].value
_OF_AIR = {"dry": ("dew_point_c",), "vacuum": ("pressure_mbar",)}


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything this operation asks."""
    polymer, lot, dryer, planned = context.polymer, lot_in_use(recipe, context), context.dryer, recipe.stock
    absorbs = polymer is None or polymer.absorbs
    logged = was_somewhere(lot)
    undried = planned.dryer_c is None or planned.dryer_h is None
    half = (planned.dryer_c is None) != (planned.dryer_h is None)
    wet = "decorative" if polymer is not None and polymer.hydrolyses else "reduced"  # what water takes of the weld
    asked = [
        Question(
            f"stock.{name}", getattr(planned, name) is not None, worst, absorbs and (half or (undried and not logged))
        )
        for name, worst in (("dryer_c", "no_go"), ("dryer_h", wet))
    ]
    asked.append(Question("stock.wait_h", planned.wait_h is not None, wet, False))
    if planned.wait_h:
        asked.append(Question("stock.wait_in", planned.wait_in is not None, wet, absorbs))
    for key in _VALUES:
        known = polymer is not None and polymer.value(key) is not None
        asked.append(Question(f"polymer.{key}", known, wet, absorbs and key.startswith("moisture")))
    asked.append(Question("context.lot", lot is not None, wet, False))
    dries = absorbs and not undried
    asked.append(Question("context.dryer", dryer is not None, wet, dries))
    asked.append(Question("lot.stays", logged, wet, False))
    asked.append(Question("brief.print_h", recipe.brief.print_h is not None, wet, _drinks(recipe, context)))
    asked.append(Question("lot.feed", lot is not None and bool(lot.feed), wet, absorbs and lot is not None))
    softens = lot is not None and planned.dryer_c is not None and planned.dryer_c > _softest_c(context)
    asked.append(Question("lot.flange", lot is not None and lot.flange is not None, "no_go", softens))
    if in_dry_box(recipe, lot):
        known = lot is not None and lot.box_humidity_pct is not None
        asked.append(Question("lot.box_humidity_pct", known, wet, absorbs))
        asked.append(Question("lot.desiccant_utc", lot is not None and bool(lot.desiccant_utc), "functional", False))
    asked.append(Question("lot.tare_g", lot is not None and lot.tare_g is not None, "no_go", _may_run_out(recipe, lot)))
    for name in _LOT:
        known = lot is not None and getattr(lot, name) not in (None, "", ())
        asked.append(Question(f"lot.{name}", known, "functional", False))
    for name in _DRYER + _OF_AIR.get(str(dryer.air) if dryer else "", ()):
        known = dryer is not None and getattr(dryer, name) is not None
        asked.append(Question(f"dryer.{name}", known, wet, dries and dryer is not None))
    asked.append(Question("dryer.places", dryer is not None and dryer.places is not None, "functional", False))
    return tuple(asked)


def _drinks(recipe: Recipe, context: Context) -> bool:
    """Whether a spool drinks enough in its feed, were the print a long one."""
    plan = plan_of(recipe, context)
    return plan is not None and plan.lasts is not None and plan.lasts.likely_h(MEAN) < HORIZON_H


def _may_run_out(recipe: Recipe, lot: Lot | None) -> bool:
    """Whether a spool that is weighed, its body not, may hold too little for the run: the heaviest body that is met."""
    mass, gross = recipe.brief.mass_g, lot.gross_g if lot else None
    return mass is not None and gross is not None and gross - HEAVIEST_G < mass * (1.0 + MARGIN)


def _softest_c(context: Context) -> float:
    """What any spool body stands [°C]: hotter, it matters which it is."""
    return min((body.stands.low for body in context.supplies.bodies.values()), default=0.0)
