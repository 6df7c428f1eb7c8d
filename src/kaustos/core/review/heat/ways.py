"""Ways to the part of a recipe: filament, pellets, printed large and machined, with what each lays and costs."""

import attrs

from kaustos.core.estimates import MELT
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.planning.route import Route, near_net_scale, routes_for
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.money import machine_rate


@attrs.frozen(kw_only=True)
class Ways:
    """Routes to one part, the cheapest that is possible first, and how much larger it is drawn for machining."""

    routes: tuple[Route, ...]
    size_mm: float  # larger side of the plate that it takes
    stock_mm: float  # on each face
    scale: float


def ways_of(recipe: Recipe, context: Context) -> Ways | None:
    """The ways to the part of a recipe; None where its size, polymer, bead or price is not known."""
    case = heat_case(recipe, context)
    polymer, shape, flow = context.polymer, case.melt.shape, case.melt.flow_mm3_s
    density = polymer.value("density_g_cm3") if polymer is not None else None
    price = polymer.value("price_per_kg") if polymer is not None else None
    if shape is None or density is None or price is None or flow is None:
        return None
    part, times = context.part, case.times
    height = case.melt.height_mm
    laid = shape.volume_mm3
    if times is not None and times.seconds.size:
        laid = float((times.filled_mm2 * layers_at(times, shape.size_z_mm, height)).sum()) * height
    routes = routes_for(
        shape.volume_mm3, shape.surface_mm2, laid, shape.thinnest_mm, part.flat_mm if part is not None else None,
        density.value, price.value, machine_rate(context), case.melt.width_mm, height,
        flow,
    )  # fmt: skip
    size, stock = max(shape.size_x_mm, shape.size_y_mm), MELT["stock_each"].value
    return Ways(routes=routes, size_mm=size, stock_mm=stock, scale=near_net_scale(size, stock))
