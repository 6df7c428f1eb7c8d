"""What helps against a finding of the bond, beside what is tried lever by lever."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Advice, Remedy, Set


def ladder() -> Advice:
    """What usually helps against lift, the cheapest and most reversible first."""
    return Advice(
        "Level, gap, clean; then anchor, air, agent",
        "Wash the plate and true gap and level first: they cost nothing. Then a brim or ears, warmer air, another "
        "agent. One change at a time shows which it was.",
    )


def film_between() -> Advice:
    """What usually helps where a pair welds."""
    return Advice(
        "Put a release film between",
        "Glue, or a film made to let go, parts the two: a barrier here, an adhesive elsewhere. Try it on a corner "
        "piece first.",
    )


def taken_off_hot(recipe: Recipe) -> tuple[Remedy, ...]:
    """What helps where cooling breaks a plate."""
    care = Advice("Cool it slowly, closed", "Gloves fit for the heat and eye protection; never pry, never chill glass.")
    hot = (Set("Take it off hot", {"plate.release": "hot"}),) if recipe.plate.release != "hot" else ()
    return (*hot, care)
