"""What the weighings of a lot tell: water lost, a time constant, a diffusivity of its own."""

from datetime import datetime

import attrs
import numpy as np

from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.fitting import DryingFit, WaterLost, effective_diffusivity, fit_drying, least_loss_g, water_lost
from kaustos.core.physics.moisture import diffusivity
from kaustos.core.planning.air import Air, air_of_stay
from kaustos.core.planning.drying import MEAN, REFERENCE_C, films, water_of, winding_of
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import (
    Datum,
    Lot,
    Place,
    Stay,
    Weighing,
)
from kaustos.library import load


@attrs.frozen
class Told:
    """What a lot's weighings tell: the least that could be told, the loss, the course, a diffusivity of its own."""

    least_g: float
    lost: WaterLost | None
    fit: DryingFit | None
    own: Datum | None


def told_by_weighings(workspace: Workspace, lot: Lot) -> Told:
    """Loss, time constant and effective diffusivity from the weighings made while the spool was last in a dryer.

    Weighings at other times tell of printing as well as of water, and are left out.
    """
    weighings, drying = _while_drying(lot)
    usual = workspace.draft.records.rules.scale_g
    scale = max((each.scale_g or usual for each in weighings), default=usual)
    least = least_loss_g(scale)
    if len(weighings) < 2 or lot.tare_g is None:
        return Told(least, None, None, None)
    grams = np.array([float(each.gross_g or 0.0) for each in weighings])
    hours = np.array([datetime.fromisoformat(each.at_utc).timestamp() / 3600.0 for each in weighings])
    net = max(float(grams[-1]) - lot.tare_g, 1.0)
    takes = load().supplies.body_takes(lot.flange)
    lost = water_lost(float(grams[0]), float(grams[-1]), net, lot.tare_g, takes, scale)
    if len(weighings) < 3:
        return Told(least, lost, None, None)
    fit = fit_drying(hours - hours[0], grams, scale)
    return Told(least, lost, fit, _own_diffusivity(workspace, lot, fit, drying))


def _while_drying(lot: Lot) -> tuple[list[Weighing], Stay | None]:
    """The weighings from the beginning of the last stay in a dryer to its end, and that stay."""
    at = max((place for place, stay in enumerate(lot.stays) if stay.place == "dryer"), default=None)
    if at is None:
        return [], None
    begins, ends = lot.stays[at].from_utc, lot.stays[at + 1].from_utc if at + 1 < len(lot.stays) else "9999"
    found = [each for each in lot.weighings if each.gross_g is not None and begins <= each.at_utc <= ends]
    return found, lot.stays[at]


def _own_diffusivity(workspace: Workspace, lot: Lot, fit: DryingFit, drying: Stay | None) -> Datum | None:
    """Diffusivity at 80 °C that gives this spool the time constant it showed, with the band of that."""
    water, tau = water_of(load().polymers.get(lot.polymer or "")), fit.time_constant_h
    if water is None or tau is None or drying is None:
        return None
    rules, winding = workspace.draft.records.rules, winding_of(lot)
    air: Air = air_of_stay(drying, rules.room_c, rules.dew_point_c)
    at = float(diffusivity(water.diffusivity[LIKELY], REFERENCE_C, water.energy[LIKELY], air.temperature_c))
    hotter = float(diffusivity(1.0, REFERENCE_C, water.energy[LIKELY], air.temperature_c))
    biot = float(films(water, winding, air)[LIKELY, MEAN])
    found = [effective_diffusivity(each, winding.radius, biot, at) for each in (tau.high, tau.value, tau.low)]
    low, value, high = (each / hotter * 1e12 for each, _ in found)
    what = "diffusivity" if found[1][1] else "effective diffusivity: the winding rules"
    return Datum(
        value=value, low=low, high=high, unit="µm²/s", kind="own", source=f"weighings of lot {lot.name}: {what}"
    )  # fmt: skip


def use_own_diffusivity(workspace: Workspace, lot: str) -> None:
    """From now on this lot's drying is computed from its own weighings."""
    record = workspace.draft.records.lots[lot]
    told = told_by_weighings(workspace, record)
    if told.own is None:
        reasons = told.fit.undetermined if told.fit else ("three weighings in the dryer are needed",)
        raise KaustosError(f"The weighings do not tell a time constant: {'; '.join(reasons)}.")
    changes = {Place("lots", lot, "lot_values.diffusivity_80c_um2_s"): told.own}
    workspace.draft.set(changes, title=f"{record.name}: drying from its own weighings")
