"""Filament, pellets, or printed large and machined: what each makes of a part, in hours and money, and why."""

import math

import attrs

from kaustos.core.estimates import MELT


@attrs.frozen(kw_only=True)
class Route:
    """One way to a part."""

    key: str  # filament, pellets, machined
    title: str
    hours: float
    money: float
    is_possible: bool
    why: str  # for or against, in one sentence


def routes_for(
    volume_mm3: float,
    surface_mm2: float,
    laid_mm3: float,
    wall_mm: float | None,
    tolerance_mm: float | None,
    density_g_cm3: float,
    price_kg: float,
    rate_per_h: float,
    width_mm: float,
    height_mm: float,
    flow_mm3_s: float,
) -> tuple[Route, ...]:
    """Ways to a part, the cheapest of those that are possible first.

    Parameters
    ----------
    volume_mm3 : float
        Of the part [mm^3]
    surface_mm2 : float
        Of the part [mm^2]
    laid_mm3 : float
        Filament in one part as it is sliced: walls and infill [mm^3]
    wall_mm : float or None
        Thinnest wall; None where it is not known [mm]
    tolerance_mm : float or None
        That it must keep; None where nobody said [mm]
    density_g_cm3 : float
        Of the polymer [g/cm^3]
    price_kg : float
        Of its filament [money/kg]
    rate_per_h : float
        Of the machine [money/h]
    width_mm : float
        Of a bead [mm]
    height_mm : float
        Of a layer [mm]
    flow_mm3_s : float
        That the head gives [mm^3/s]

    Returns
    -------
    tuple of Route
        Each with hours, money and the reason [h, money]

    Notes
    -----
    Near-net: stock on every face is printed, and taken off again; pellets need more of it. Rates are estimates.
    """
    solid = min(laid_mm3, volume_mm3)
    speed = 0.7 * flow_mm3_s  # travels and corners
    found = [_printed("filament", "Filament, to size", solid, speed, density_g_cm3, price_kg, rate_per_h)]
    bore, flow = MELT["pellet_bore"].value, MELT["pellet_flow"].value
    rate, cheap = MELT["pellet_rate"].value, price_kg * MELT["pellet_price"].value
    stock = surface_mm2 * MELT["stock_pellet"].value
    coarse = attrs.evolve(
        _printed("pellets", "Pellets, then machined", volume_mm3 + stock, 0.5 * flow, density_g_cm3, cheap, rate),
        is_possible=wall_mm is None or wall_mm >= MELT["pellet_wall"].value * bore,
        why=f"beads of {bore:g} mm and more: walls must be that thick, every face is machined",
    )
    found.append(_machined(coarse, stock))
    extra = surface_mm2 * MELT["stock_each"].value
    near = _printed("machined", "Filament, then machined", solid + extra, speed, density_g_cm3, price_kg, rate_per_h)
    found.append(_machined(near, extra))
    fine = tolerance_mm is not None and tolerance_mm < MELT["fine"].value
    reasons = {
        "filament": f"tolerance of {tolerance_mm:g} mm is finer than printing keeps" if fine else "no second set-up",
        "machined": "keeps fine tolerances and tight faces" if fine else "only where a face seals or fits",
    }
    told = [
        attrs.evolve(
            each,
            why=reasons.get(each.key, each.why),
            is_possible=each.is_possible and not (fine and each.key == "filament"),
        )
        for each in found
    ]
    thin = wall_mm is not None and wall_mm < width_mm
    if thin:
        told = [
            attrs.evolve(each, is_possible=False, why="its thinnest wall is thinner than one bead")
            if each.key == "filament"
            else each
            for each in told
        ]
    return tuple(sorted(told, key=lambda each: (not each.is_possible, each.money)))


def _printed(key: str, title: str, volume: float, flow: float, density: float, price: float, rate: float) -> Route:
    hours = volume / max(flow, 1e-3) / 3600.0
    return Route(
        key=key, title=title, hours=hours, money=hours * rate + volume / 1e6 * density * price, is_possible=True, why=""
    )


def _machined(route: Route, stock_mm3: float) -> Route:
    """With setting up, and milling what was printed too much."""
    hours = MELT["mill_setup"].value + stock_mm3 / 1e3 / MELT["mill_removes"].value
    return attrs.evolve(route, hours=route.hours + hours, money=route.money + hours * MELT["mill_rate"].value)


def near_net_scale(size_mm: float, stock_mm: float) -> float:
    """By what a size is drawn larger so that stock can be machined off both faces.

    Parameters
    ----------
    size_mm : float
        Across both faces [mm]
    stock_mm : float
        On each of them [mm]

    Returns
    -------
    float
        Factor [1]

    Examples
    --------
    >>> near_net_scale(50.0, 0.5)
    1.02
    """
    return (size_mm + 2.0 * stock_mm) / size_mm if math.isfinite(size_mm) and size_mm > 0.0 else 1.0
