"""Where work on supports can hurt."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context
from kaustos.core.review.supports.case import BY_HAND, support_case

SHEET = "The maker's data sheet and local rules decide."


def cautions_of(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    """Cautions of the way that is set and of its second polymer."""
    case = support_case(recipe, context)
    if not case.is_held:
        return ()
    found = []
    if case.way in BY_HAND:
        text = "Blades and broken supports cut, splinters fly: goggles, cut away from the hand, part held down."
        found.append(Caution("supports.blade", text))
    if case.way == "coat":
        text = (
            "The hand works beside a hot nozzle and a hot plate: move the head away, heat-proof gloves, wait until "
            "the axes are at rest; no solvent on a hot face."
        )
        found.append(Caution("supports.pause", text))
    if case.material is not None:
        found += [
            Caution(f"supports.material_{n}", f"{each} {SHEET}" if n == 1 else each)
            for n, each in enumerate(case.material.cautions, start=1)
        ]
    return tuple(found)
