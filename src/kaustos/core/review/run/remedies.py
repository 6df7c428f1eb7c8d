"""What can be done about a run: the file made again, or what it says taken into the recipe where it is borne."""

from kaustos.core.planning.reach import reach_through
from kaustos.core.review.contract import Advice, Context, Remedy, Set
from kaustos.core.review.run.codes import Compared
from kaustos.core.review.zones import agent_on, limits_of, surface_of

ZONE_OF = {
    "melt.nozzle_c": "nozzle", "first_layer.nozzle_c": "nozzle", "plate.bed_c": "plate", "first_layer.bed_c": "plate",
    "heat.chamber_c": "chamber",
}  # fmt: skip
HIGHEST = {"nozzle": "nozzle_high_c", "plate": "plate_high_c", "chamber": "chamber_high_c"}
AGAIN = Advice("Make the file again", "With what the recipe says; drop it here, it takes the place of this one.")
READ_AGAIN = Advice("Read it again: drop it here", "The same file, planned with the motion of this machine.")
ARMED = "For {hours:ratio} h, by whoever answers for it; back to its usual hours when the part is off. Never bridged."
COME = Advice("Have somebody come", "Or a camera that somebody watches and a switch within reach.")


def taken(each: Compared, said: float, context: Context) -> tuple[Remedy, ...]:
    """What the file says taken into the recipe, where machine and plate bear it; the file made again [°C]."""
    take = Set(f"Take {{said:{each.quantity}}} into the recipe", {each.path: said}, {"said": said})
    return (take, AGAIN) if is_borne(each, said, context) else (AGAIN,)


def is_borne(each: Compared, said: float, context: Context) -> bool:
    """Whether machine and plate bear what a file says: what they do not is no proposal [°C]."""
    zone = ZONE_OF.get(each.path)
    if zone is None:
        return True
    high = context.polymer.value(HIGHEST[zone]) if context.polymer is not None else None
    if high is not None and said > high.value:
        return False
    limits = [most for _, most in limits_of(context.plate, surface_of(context), agent_on(context))]
    if context.machine is not None:
        reach = reach_through(context.machine, zone, context.rules, context.nozzle).max_c
        limits = [*(limits if zone == "plate" else ()), *((reach,) if reach is not None else ())]
    return not limits or said <= min(limits)
