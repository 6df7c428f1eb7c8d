"""What a shop does with its stock: new lots and dryers, stays and weighings added, what weighings tell."""

from collections.abc import Collection, Mapping
from datetime import datetime
from pathlib import Path

import attrs
import numpy as np

from kaustos.app.spelling import plain_spelling, polymer_of
from kaustos.app.wording import when_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.fitting import DryingFit, WaterLost, effective_diffusivity, fit_drying, least_loss_g, water_lost
from kaustos.core.physics.moisture import diffusivity
from kaustos.core.planning.drying import (
    LIKELY,
    MEAN,
    REFERENCE_C,
    Air,
    air_of_stay,
    entered,
    moisture_now,
    water_of,
    winding_of,
)
from kaustos.core.planning.ledger import Ledger, ledger_of, runs_that_fit
from kaustos.core.planning.strand import strand_that_tells, verdict_of
from kaustos.core.records import (
    STRAND_SIGNS,
    Datum,
    Dryer,
    Lot,
    Photo,
    Polymer,
    Reserve,
    Stay,
    StrandCheck,
    Weighing,
    with_own_values,
)
from kaustos.core.review.contract import Estimate
from kaustos.core.review.stock.desiccant import desiccant_due, desiccant_lasts
from kaustos.library import load


def new_lot(workspace: Workspace, name: str, grade: str, colour: str, polymer: str | None = None) -> str:
    """A lot of a grade and colour; its polymer from the grade's spelling where it is not said; its id."""
    if not name.strip() or not grade.strip():
        raise KaustosError("A lot needs its number and its grade, as they stand on the label.")
    records = workspace.draft.records
    same = next((lot for lot in records.lots.values() if lot.grade.lower() == grade.strip().lower()), None)
    chosen = polymer or (same.polymer if same else None) or polymer_meant(grade, settled_spellings(records.lots))
    key = records.free_id("lots", f"lot {name}")
    values = dict(same.grade_values) if same else {}
    lot = Lot(
        id=key, name=name.strip(), grade=same.grade if same else grade.strip(), polymer=chosen, colour=colour.strip(),
        grade_values=values, received_utc=stamp(workspace.clock()),
        stays=(Stay(place="sealed", from_utc=stamp(workspace.clock())),),
    )  # fmt: skip
    workspace.draft.add("lots", key, lot, f"New lot: {lot.name}")
    return key


def settled_spellings(lots: Mapping[str, Lot]) -> dict[str, str]:
    """Spellings of grades that the shop's lots have settled: each means one polymer there and no other."""
    meant: dict[str, set[str]] = {}
    for lot in lots.values():
        if lot.polymer is not None:
            meant.setdefault(plain_spelling(lot.grade), set()).add(lot.polymer)
    return {grade: next(iter(polymers)) for grade, polymers in meant.items() if len(polymers) == 1}


def polymer_meant(grade: str, known: Mapping[str, str]) -> str:
    """The polymer that a grade's name means; raises where several or none fit."""
    spelled = polymer_of(grade, known)
    if spelled.found:
        return spelled.found
    names = [load().polymers[key].name for key in spelled.polymers]
    if names:
        raise KaustosError(f"“{grade:.40}” may be {' or '.join(names)}: choose the polymer.")
    raise KaustosError(f"No polymer is known by “{grade:.40}”: choose it.")


def new_dryer(workspace: Workspace, name: str) -> str:
    """A dryer of which only the name is known; its id."""
    if not name.strip():
        raise KaustosError("A dryer needs a name.")
    key = workspace.draft.records.free_id("dryers", name)
    workspace.draft.add("dryers", key, Dryer(id=key, name=name.strip(), air="room"), f"New dryer: {name.strip()}")
    return key


def add_stay(
    workspace: Workspace, lot: str, place: str, when: datetime, celsius: float | None, humidity: float | None
) -> None:
    """Log where a spool is from a moment on; a moment that lies ahead is refused."""
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; log a stay when it has begun.")
    record = workspace.draft.records.lots[lot]
    stay = Stay(place=place, from_utc=stamp(when), temperature_c=celsius, humidity_pct=humidity)
    stays = tuple(sorted((*record.stays, stay), key=lambda each: each.from_utc))
    changes: dict[str, object] = {f"lots/{lot}/stays": stays}
    if place != "sealed" and not record.opened_utc:
        changes[f"lots/{lot}/opened_utc"] = stamp(when)
    workspace.draft.set(changes, title=f"{record.name}: {place.replace('_', ' ')}")


def add_weighing(workspace: Workspace, lot: str, gross_g: float, when: datetime, scale_g: float | None = None) -> None:
    """Log a weighing; a spool lighter than its empty body, or a clock that runs backwards, is refused."""
    record = workspace.draft.records.lots[lot]
    if record.tare_g is not None and gross_g < record.tare_g:
        raise KaustosError(f"{gross_g:g} g is less than the empty spool ({record.tare_g:g} g).")
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; weigh first.")
    if record.weighings and stamp(when) < record.weighings[-1].at_utc:
        raise KaustosError("That is before the last weighing; a clock does not run backwards.")
    weighing = Weighing(at_utc=stamp(when), gross_g=gross_g, scale_g=scale_g)
    changes = {f"lots/{lot}/weighings": (*record.weighings, weighing)}
    workspace.draft.set(changes, title=f"{record.name} weighed: {gross_g:g} g")


def fresh_desiccant(workspace: Workspace, lot: str, when: datetime) -> None:
    """Log that a lot's dry box got fresh desiccant; a moment that lies ahead is refused."""
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; log it when it is done.")
    name = workspace.draft.records.lots[lot].name
    workspace.draft.set({f"lots/{lot}/desiccant_utc": stamp(when)}, title=f"{name}: fresh desiccant")


def log_strand(workspace: Workspace, lot: str, signs: Collection[str], photo: Path | None = None) -> str:
    """Log a purged strand and say what it tells; refused for a polymer that shows nothing until layers part."""
    record = workspace.draft.records.lots[lot]
    polymer = polymer_of_lot(record)
    if polymer is not None and not strand_shows(record):
        raise KaustosError(f"A wet melt of {polymer.name} shows nothing until layers part: weigh the spool instead.")
    kept = Photo(sha256=workspace.attach(photo), name=photo.name) if photo else None
    ordered = tuple(each for each in STRAND_SIGNS if each in signs)
    strand = StrandCheck(at_utc=stamp(workspace.clock()), signs=ordered, photo=kept)
    verdict = verdict_of(strand.signs)
    changes = {f"lots/{lot}/strands": (*record.strands, strand)}
    workspace.draft.set(changes, title=f"{record.name}: strand {verdict}")
    return verdict


# ---- what is known of a lot


@attrs.frozen
class LotState:
    """A lot at a moment: filament left, its worth, its moisture with a band, and whether it may be printed."""

    ledger: Ledger | None
    worth: float | None
    moisture: tuple[float, float, float] | None  # likely, least, most [%]
    limit: float | None

    @property
    def left_g(self) -> float | None:
        """What may be taken of it [g]."""
        return self.ledger.free_g if self.ledger else None

    @property
    def word(self) -> str:
        """unknown, dry, wet or doubtful."""
        if self.moisture is None or self.limit is None:
            return "unknown"
        _, low, high = self.moisture
        return "dry" if high <= self.limit else "wet" if low > self.limit else "doubtful"


def polymer_of_lot(lot: Lot) -> Polymer | None:
    """The polymer as this lot is known."""
    generic = load().polymers.get(lot.polymer or "")
    return with_own_values(generic, lot) if generic else None


def state_of(workspace: Workspace, lot: Lot) -> LotState:
    """What is known of a lot now."""
    polymer = polymer_of_lot(lot)
    price = polymer.value("price_per_kg") if polymer else None
    limit = polymer.value("moisture_limit_pct") if polymer else None
    ledger = ledger_of(lot, workspace.context().shop.taken_g.get(lot.id, 0.0))
    worth = None if price is None or ledger is None else price.value * ledger.free_g / 1000.0
    water = water_of(polymer)
    moisture = None
    if water is not None:
        now = workspace.clock().replace(second=0, microsecond=0)
        means = moisture_now(lot, water, workspace.draft.records.rules, now).mean()
        moisture = (float(means[LIKELY, MEAN]), float(means[0].min()), float(means[2].max()))
    return LotState(ledger, worth, moisture, limit.value if limit else None)


def desiccant_day(workspace: Workspace, lot: Lot) -> Estimate | None:
    """The day on which the desiccant of a lot's dry box is changed, a dry spool in it; None where none is logged."""
    due = desiccant_due(lot.desiccant_utc, desiccant_lasts(workspace.draft.records.rules, 0.0), None)
    return due if isinstance(due, Estimate) else None


def jobs_that_fit(workspace: Workspace, lot: Lot) -> tuple[tuple[str, float], ...]:
    """How many runs of each recipe for its polymer the rest of a lot is enough for, most first."""
    left = state_of(workspace, lot).left_g
    recipes = [card.recipe for card in workspace.draft.records.cards.values() if card.recipe.polymer == lot.polymer]
    if left is None:
        return ()
    found = [(each.name, runs_that_fit(left, each.brief.mass_g)) for each in recipes if each.brief.mass_g]
    return tuple(sorted(found, key=lambda pair: -pair[1]))


def put_aside(workspace: Workspace, lot: str, grams: float, purpose: str) -> None:
    """Put filament of a lot aside for something else than a run; more than is free is refused."""
    record = workspace.draft.records.lots[lot]
    left = state_of(workspace, record).left_g
    if not purpose.strip() or not grams > 0.0:
        raise KaustosError("Say how much is put aside, and for what.")
    if left is not None and grams > left:
        raise KaustosError(f"{grams:g} g cannot be put aside: {left:g} g are free.")
    entry = Reserve(grams=grams, purpose=purpose.strip(), at_utc=stamp(workspace.clock()))
    changes = {f"lots/{lot}/reserves": (*record.reserves, entry)}
    workspace.draft.set(changes, title=f"{record.name}: {grams:g} g put aside")


def strand_shows(lot: Lot) -> bool:
    """Whether a strand of a lot can tell anything: not of a polymer that shows nothing until layers part."""
    polymer = polymer_of_lot(lot)
    return polymer is None or bool(polymer.wet_signs)


def strand_words(workspace: Workspace, lot: Lot) -> str:
    """What the newest strand of a lot told, and whether it still does; the signs of its polymer where there is none."""
    polymer = polymer_of_lot(lot)
    if not strand_shows(lot):
        return "A wet melt of this polymer shows nothing until layers part: weigh the spool."
    if not lot.strands:
        return f"A wet melt shows {polymer.wet_signs}." if polymer else ""
    newest = lot.strands[-1]
    signs = ", ".join(STRAND_SIGNS[each].lower() for each in newest.signs) or "no signs"
    words = f"{when_words(newest.at_utc)}: {signs}, {verdict_of(newest.signs)}"
    return words if strand_that_tells(lot, polymer) else f"{words}; it has been in a dryer since"


def give_back(workspace: Workspace, lot: str, place: int) -> None:
    """Take an entry out of what is put aside: it was not needed, or a weighing has seen it leave."""
    record = workspace.draft.records.lots[lot]
    kept = tuple(each for at, each in enumerate(record.reserves) if at != place)
    workspace.draft.set({f"lots/{lot}/reserves": kept}, title=f"{record.name}: no longer put aside")


# ---- what weighings tell


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
    lost = water_lost(float(grams[0]), float(grams[-1]), net, lot.tare_g, lot.flange, scale)
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
    there, _ = entered(moisture_now(None, water, rules, None), water, winding, air)
    at = float(diffusivity(water.diffusivity[LIKELY], REFERENCE_C, water.energy, air.temperature_c))
    hotter = float(diffusivity(1.0, REFERENCE_C, water.energy, air.temperature_c))
    biot = float(there.biot[LIKELY, MEAN])
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
    changes = {f"lots/{lot}/lot_values.diffusivity_80c_um2_s": told.own}
    workspace.draft.set(changes, title=f"{record.name}: drying from its own weighings")
