"""What the spool and its drying are asked for, and the worst grade that each answer could bring."""

from kaustos.core.planning.history import was_somewhere
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.making import Question
from kaustos.core.review.stock.lot import in_dry_box, lot_in_use

_VALUES = ("moisture_50_pct", "moisture_saturated_pct", "moisture_limit_pct", "diffusivity_80c_um2_s",
           "diffusion_energy_kj_mol", "dryer_low_c", "dryer_high_c", "drying_most_h")  # fmt: skip
_LOT = ("diameter", "depth_mm", "width_mm", "net_g", "tare_g", "weighings", "grade", "colour",
        "ingredients", "filler", "recycled", "reorder_g", "lead_h")  # fmt: skip
_DRYER = ("max_c", "air")
_OF_AIR = {"dry": ("dew_point_c",), "vacuum": ("pressure_mbar",)}


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything this operation asks."""
    polymer, lot, dryer, planned = context.polymer, lot_in_use(recipe, context), context.dryer, recipe.stock
    absorbs = polymer is None or polymer.absorbs
    logged = was_somewhere(lot)
    undried = planned.dryer_c is None or planned.dryer_h is None
    asked = [
        Question(f"stock.{name}", getattr(planned, name) is not None, "reduced", absorbs and undried and not logged)
        for name in ("dryer_c", "dryer_h")
    ]
    asked.append(Question("stock.wait_h", planned.wait_h is not None, "reduced", False))
    if planned.wait_h:
        stands_in = lot is not None and lot.feed is not None  # it waits where it is fed from
        asked.append(Question("stock.wait_in", planned.wait_in is not None, "reduced", absorbs and not stands_in))
    for key in _VALUES:
        known = polymer is not None and polymer.value(key) is not None
        asked.append(Question(f"polymer.{key}", known, "reduced", absorbs and key.startswith("moisture")))
    asked.append(Question("context.lot", lot is not None, "reduced", False))
    dries = absorbs and not undried
    asked.append(Question("context.dryer", dryer is not None, "reduced", dries))
    asked.append(Question("lot.stays", logged, "reduced", False))
    asked.append(Question("lot.feed", lot is not None and bool(lot.feed), "reduced", absorbs and lot is not None))
    softens = lot is not None and planned.dryer_c is not None and planned.dryer_c > _softest_c(context)
    asked.append(Question("lot.flange", lot is not None and lot.flange is not None, "no_go", softens))
    for name in _LOT + (("box_humidity_pct", "desiccant_utc") if in_dry_box(recipe, lot) else ()):
        known = lot is not None and getattr(lot, name) not in (None, "", ())
        asked.append(Question(f"lot.{name}", known, "functional", False))
    for name in _DRYER + _OF_AIR.get(str(dryer.air) if dryer else "", ()):
        known = dryer is not None and getattr(dryer, name) is not None
        asked.append(Question(f"dryer.{name}", known, "reduced", dries and dryer is not None))
    asked.append(Question("dryer.places", dryer is not None and dryer.places is not None, "functional", False))
    return tuple(asked)


def _softest_c(context: Context) -> float:
    """What any spool body stands [°C]: hotter, it matters which it is."""
    return min((body.stands.low for body in context.supplies.bodies.values()), default=0.0)
