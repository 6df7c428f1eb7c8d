"""The picture of the brief: deflection temperatures by load and state against service and margin."""

import attrs

from kaustos.core.records import DEFLECTION_STRESSES_MPA, Recipe, deflection_key
from kaustos.core.review.brief.service import covering_stress, wanted_margin
from kaustos.core.review.contract import Context


@attrs.frozen
class Bar:
    """One deflection temperature of the polymer with its range [°C]."""

    title_load_mpa: float
    history: str
    moisture: str
    value_c: float
    low_c: float
    high_c: float
    chosen: bool


@attrs.frozen
class BriefPicture:
    """Deflection temperatures by load and state against the service temperature and the margin wanted."""

    bars: tuple[Bar, ...]
    service_c: float | None
    needed_c: float | None
    glass_transition_c: float | None

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.bars


def picture(recipe: Recipe, context: Context) -> BriefPicture:
    """All deflection temperatures that are known, the service temperature, and the value needed."""
    brief, polymer = recipe.brief, context.polymer
    wanted = wanted_margin(brief)
    needed = None if brief.service_c is None or wanted is None else brief.service_c + wanted
    chosen = (covering_stress(brief.stress_mpa), brief.history, brief.moisture)
    bars = []
    for history in ("as_printed", "annealed"):
        for moisture in ("dry", "conditioned"):
            for stress in DEFLECTION_STRESSES_MPA:
                datum = polymer.value(deflection_key(stress, history, moisture)) if polymer else None
                if datum:
                    is_chosen = chosen == (stress, history, moisture)
                    bars.append(Bar(stress, history, moisture, datum.value, datum.low, datum.high, is_chosen))
    transition = polymer.value("glass_transition_c") if polymer else None
    return BriefPicture(tuple(bars), brief.service_c, needed, transition.value if transition else None)
