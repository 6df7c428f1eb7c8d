"""The figures of the nozzle: what it has lost, how much more it takes, what a kilogram through it costs."""

from kaustos.core.planning.nozzle_life import colder_k, wear_of
from kaustos.core.records import Estimate, Nozzle
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure
from kaustos.core.review.machine.nozzle_findings import wear_in, wears_in


def nozzle_figures(context: Context) -> tuple[Figure, ...]:
    """Figures of the nozzle that the recipe is judged with."""
    nozzle, wear = context.nozzle, wear_in(context)
    wears = wears_in(context)
    found: dict[str, Estimate | Absent | None] = {}
    if nozzle is not None and wear is not None:
        found = {
            "left": wear.until_end(wears), "look": wear.until_look(wears), "lost": wear.lost(), "bore": wear.bore(),
            "colder": colder_k(nozzle.material) if nozzle.material else UNKNOWN, "per_kg": cost_per_kg(nozzle, context),
        }  # fmt: skip
    return tuple(Figure(f"machine.nozzle.{key}", title, found.get(key) or UNKNOWN) for key, title in _TITLES.items())


_TITLES = {
    "left": "Nozzle: filament until its bore is too wide",
    "look": "Nozzle: filament until a look is due",
    "lost": "Nozzle: its tip is shorter by",
    "bore": "Nozzle: bore now",
    "colder": "Nozzle: melt colder than through brass",
    "per_kg": "Nozzle: cost of a kilogram through it",
}


def cost_per_kg(nozzle: Nozzle, context: Context) -> Estimate | None:
    """Price of a nozzle over what it takes of this filament from new; None where its price is not known."""
    if nozzle.price is None:
        return None
    whole = wear_of(_as_new(nozzle), ()).until_end(wears_in(context))
    value, high, low = (1e3 * nozzle.price / max(each, 1e-9) for each in (whole.value, whole.low, whole.high))
    return Estimate(value, low, high, "money/kg", "price over the filament that it takes from new", whole.source)


def _as_new(nozzle: Nozzle) -> Nozzle:
    return Nozzle(id=nozzle.id, name=nozzle.name, material=nozzle.material, bore_mm=nozzle.bore_mm,
                  land_mm=nozzle.land_mm, cone_deg=nozzle.cone_deg)  # fmt: skip
