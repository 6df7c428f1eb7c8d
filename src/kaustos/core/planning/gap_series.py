"""A series of gaps between part and support: which one came off best, and what to try next."""

from collections.abc import Mapping, Sequence

import attrs

from kaustos.core.errors import KaustosError

UNDERSIDES = {"clean": "clean", "marked": "marked", "torn": "torn", "fused": "fused", "sagged": "sagged"}
TAKEN = ("clean", "marked")
TOO_NEAR = ("fused", "torn")


@attrs.frozen(kw_only=True)
class GapStep:
    """One step of a series."""

    layers: int
    minutes: float | None  # to take it off; None where it did not come off
    under: str  # one of UNDERSIDES


@attrs.frozen(kw_only=True)
class GapFit:
    """What a series says."""

    steps: tuple[GapStep, ...]  # by rising gap
    best: GapStep | None  # None where none came off well
    next_layers: int | None  # to print next; None where the best lies between others


def best_gap(steps: Sequence[GapStep]) -> GapFit:
    """The gap that came off best.

    Parameters
    ----------
    steps : sequence of GapStep
        As they were taken off [min]

    Returns
    -------
    GapFit
        The cleanest underside, of those the quickest, of those the nearest; and the step that is still wanted [-]

    Notes
    -----
    What fused or tore wants more layers, what sagged wants fewer. A best at an end of the series is not known to be the
    best.
    """
    found: dict[int, GapStep] = {}
    for each in steps:
        if each.layers < 0:
            raise KaustosError(f"{each.layers} layers: a gap is no layer or more.")
        if each.layers in found:
            raise KaustosError(f"{each.layers} layers stands twice.")
        if each.under != "fused" and each.minutes is None:
            raise KaustosError(f"{each.layers} layers: say the minutes that it took.")
        found[each.layers] = each
    ordered = tuple(found[key] for key in sorted(found))
    good = [each for each in ordered if each.under in TAKEN]
    best = min(good, key=lambda each: (TAKEN.index(each.under), each.minutes or 0.0, each.layers), default=None)
    if best is None:
        near = [each.layers for each in ordered if each.under in TOO_NEAR]
        sagged = [each.layers for each in ordered if each.under == "sagged"]
        wanted = max(near) + 1 if near else min(sagged, default=1) - 1
        return GapFit(steps=ordered, best=None, next_layers=wanted if wanted >= 0 and wanted not in found else None)
    if len(ordered) > 1 and best.layers == ordered[-1].layers:
        return GapFit(steps=ordered, best=best, next_layers=best.layers + 1)
    if best.layers == ordered[0].layers and best.layers > 1:
        return GapFit(steps=ordered, best=best, next_layers=best.layers - 1)
    return GapFit(steps=ordered, best=best, next_layers=None if len(ordered) > 1 else best.layers + 1)


def values_of(fit: GapFit, layer_mm: float) -> dict[str, float]:
    """A series as a calibration keeps it.

    Parameters
    ----------
    fit : GapFit
        With its best [-]
    layer_mm : float
        Of its layers [mm]

    Returns
    -------
    dict
        Layers and gap of the best, minutes and underside of every step [-, mm, min]
    """
    if fit.best is None:
        return {}
    values = {"layers": float(fit.best.layers), "gap_mm": round(fit.best.layers * layer_mm, 6), "layer_mm": layer_mm}
    if fit.best.minutes is not None:
        values["minutes"] = fit.best.minutes
    for each in fit.steps:
        values[f"under_{each.layers}"] = float([*UNDERSIDES].index(each.under))
        if each.minutes is not None:
            values[f"minutes_{each.layers}"] = each.minutes
    return values


def steps_in(values: Mapping[str, float]) -> tuple[GapStep, ...]:
    """The steps that a calibration keeps.

    Parameters
    ----------
    values : mapping of str to float
        Of the calibration [-, min]

    Returns
    -------
    tuple of GapStep
        By rising gap; empty for one that was kept without its steps [min]
    """
    kept = sorted(int(key.removeprefix("under_")) for key in values if key.startswith("under_"))
    order = [*UNDERSIDES]
    return tuple(
        GapStep(layers=each, minutes=values.get(f"minutes_{each}"), under=order[int(values[f"under_{each}"])])
        for each in kept
    )
