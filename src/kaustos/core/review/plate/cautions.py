"""Where work at the plate can hurt."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context
from kaustos.core.review.plate.case import case_of


def cautions_of(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    """Cautions of plate, agent and the way the part is taken off."""
    case = case_of(recipe, context)
    found = []
    if recipe.plate.release == "blade":
        found.append(
            Caution("plate.blade", "A blade slips: cut away from the hand, plate clamped, with cut-proof gloves.")
        )
    if recipe.plate.release == "hot":
        found.append(
            Caution("plate.hot", "Plate and part burn skin: gloves fit for the heat, a safe place to put them down.")
        )
    if case.surface is not None:
        found += [Caution(f"plate.surface_{n}", each) for n, each in enumerate(case.surface.cautions, start=1)]
    if case.agent is not None:
        found += [Caution(f"plate.agent_{n}", each) for n, each in enumerate(case.agent.cautions, start=1)]
        if case.agent.is_flammable:
            text = (
                "Its solvent is flammable: put it on cold, ventilated, away from sparks; let it leave before the "
                "closed chamber is heated. The maker's data sheet and local rules decide."
            )
            found.append(Caution("plate.solvent", text))
    return tuple(found)
