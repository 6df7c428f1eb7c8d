"""What the weighings of a lot tell: water lost, a time constant, a diffusivity of its own."""

from datetime import datetime

import attrs
import numpy as np

from kaustos.app.lot_state import polymer_of_lot, state_of
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.fitting import DryingFit, WaterLost, effective_diffusivity, fit_drying, least_loss_g, water_lost
from kaustos.core.physics.moisture import diffusivity
from kaustos.core.planning.air import Air, air_of_stay
from kaustos.core.planning.drying import MEAN, REFERENCE_C, films, water_of, winding_of
from kaustos.core.planning.level import Level, drying_weighings, level_of
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import (
    Datum,
    Lot,
    Place,
    Stay,
)
from kaustos.library import load


@attrs.frozen
class Told:
    """What a lot's weighings tell: the least that could be told, what is to be lost until it is dry, the loss, the
    course, a diffusivity of its own, and whether the last two were level."""

    least_g: float
    to_lose_g: float | None
    lost: WaterLost | None
    fit: DryingFit | None
    own: Datum | None
    level: Level | None


def told_by_weighings(workspace: Workspace, lot: Lot) -> Told:
    """Loss, time constant and effective diffusivity from the weighings made while the spool was last in a dryer.

    Weighings at other times tell of printing as well as of water, and are left out.
    """
    drying, weighings = drying_weighings(lot)
    usual = workspace.draft.records.rules.scale_g
    scale = max((each.scale_g or usual for each in weighings), default=usual)
    least = least_loss_g(scale)
    to_lose, level = _to_lose_g(workspace, lot), _level(workspace, lot)
    if len(weighings) < 2 or lot.tare_g is None or drying is None:
        return Told(least, to_lose, None, None, None, level)
    begun = datetime.fromisoformat(drying.from_utc).timestamp() / 3600.0
    grams = np.array([float(each.gross_g or 0.0) for each in weighings])
    at = np.array([datetime.fromisoformat(each.at_utc).timestamp() / 3600.0 for each in weighings])
    hours = np.maximum(at, begun)  # the base is weighed before it goes in, and loses nothing until then
    net = max(float(grams[-1]) - lot.tare_g, 1.0)
    takes = load().supplies.body_takes(lot.flange)
    lost = water_lost(float(grams[0]), float(grams[-1]), net, lot.tare_g, takes, scale)
    if len(weighings) < 3:
        return Told(least, to_lose, lost, None, None, level)
    fit = fit_drying(hours - hours[0], grams, scale)
    return Told(least, to_lose, lost, fit, _own_diffusivity(workspace, lot, fit, drying), level)


def _level(workspace: Workspace, lot: Lot) -> Level | None:
    polymer = polymer_of_lot(workspace.draft.records, lot)
    water, limit = water_of(polymer), polymer.value("moisture_limit_pct") if polymer else None
    if water is None or limit is None:
        return None
    return level_of(lot, water, workspace.draft.records.rules, limit.value, workspace.clock())


def _to_lose_g(workspace: Workspace, lot: Lot) -> float | None:
    """What the spool likely loses until it is at the printing limit; None where that is not known."""
    state = state_of(workspace, lot)
    if state.moisture is None or state.limit is None or state.left_g is None:
        return None
    return max(0.0, state.moisture[0] - state.limit) / 100.0 * state.left_g


def told_words(told: Told, lot: Lot, wording: Wording) -> str:
    """What the weighings tell, what they cannot, and what is missing for it."""
    words = []
    if told.level is not None:
        words.append(_level_words(told.level, wording))
    if told.lost is not None:
        words.append(f"water lost: {wording.estimate(told.lost.percent)}")
        words.append("" if told.lost.is_told else "the scale cannot tell it from nothing")
    if told.fit is not None:
        constant = told.fit.time_constant_h
        words += [f"time constant {wording.estimate(constant)}"] if constant is not None else []
        words += list(told.fit.undetermined)
    if lot.tare_g is None:
        words.append("the empty spool is not recorded (page Spool and filament): how much filament, and so how much "
                     "water, cannot be said")  # fmt: skip
    if lot.flange is None:
        words.append("the spool body is not recorded: card and others give off water of their own")
    if told.lost is None:
        words.append("weigh it, put it in, weigh it again: two tell the water lost, three this spool's time constant")
        words.append(_scale_words(told, wording))
    found = "; ".join(word for word in words if word)
    return f"{found[:1].upper()}{found[1:]}."


def _level_words(level: Level, wording: Wording) -> str:
    if level.proves:
        return f"level: dry to {wording.number(level.floor_pct, 'moisture')} %"
    return (
        f"level, but a spool at twice the limit would have lost only {wording.value(level.would_lose_g, 'mass')} "
        f"between the two, and the scale tells {wording.value(level.least_g, 'mass')}: wait longer between them"
    )


def _scale_words(told: Told, wording: Wording) -> str:
    words = f"the scale tells {wording.value(told.least_g, 'mass')} and more"
    if told.to_lose_g is None:
        return words
    lose = wording.value(told.to_lose_g, "mass")
    if told.to_lose_g < told.least_g:
        return f"{words}, and until it is dry it loses about {lose}: this scale cannot prove it"
    return f"{words}; until it is dry it loses about {lose}"


def _own_diffusivity(workspace: Workspace, lot: Lot, fit: DryingFit, drying: Stay | None) -> Datum | None:
    """Diffusivity at 80 °C that gives this spool the time constant it showed, with the band of that."""
    water, tau = water_of(workspace.draft.records.polymers.get(lot.polymer or "")), fit.time_constant_h
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
