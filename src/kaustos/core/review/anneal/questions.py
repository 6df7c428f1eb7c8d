"""What an anneal and the work after it are asked for."""

from kaustos.core.records import Recipe
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question

OF_OVEN = ("max_c", "offset_k", "even_k", "fan", "rise_k_h", "size_x_mm", "size_y_mm", "size_z_mm")


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Nothing where no anneal is asked for and nothing is glued."""
    case, anneal, worst = anneal_case(recipe, context), recipe.anneal, GRADES[2]
    asked = []
    if case.is_wanted:
        names = ("where", "packed", "wall_mm", "cool_k_h", "out_c")
        for name in (*names, "pack_mm") if anneal.packed in ("jig", "sand") else names:
            known = getattr(anneal, name) is not None or (name == "wall_mm" and _is_seen(case.wall))
            asked.append(Question(f"anneal.{name}", known, worst, name in ("where", "wall_mm")))
        if anneal.where == "oven":
            oven = context.oven
            asked.append(Question("context.oven", oven is not None, worst))
            if oven is not None:
                for name in OF_OVEN:
                    asked.append(Question(f"oven.{name}", getattr(oven, name) is not None, worst, name == "max_c"))
    if recipe.brief.glued:
        for name in ("joint_mpa", "joint_wanted_mpa"):
            asked.append(Question(f"anneal.{name}", getattr(anneal, name) is not None, worst, False))
    if recipe.brief.inserts:
        asked.append(Question("anneal.cure_h", anneal.cure_h is not None, worst, False))
    if recipe.brief.painted:
        asked.append(Question("anneal.patch", anneal.patch is not None, worst, False))
    return tuple(asked)


def _is_seen(wall: object) -> bool:
    return getattr(wall, "by", "") == "file"
