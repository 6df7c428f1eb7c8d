"""What a shop does with its stock: new lots and dryers, stays, weighings and strands logged, filament put aside."""

from collections.abc import Collection, Iterable, Mapping
from datetime import datetime
from pathlib import Path

from kaustos.app.lot_state import polymer_of_lot, state_of, strand_shows
from kaustos.app.recipes import check_new_name
from kaustos.app.records import Records
from kaustos.app.spelling import Spelled, plain_spelling, polymer_of
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.air import dryer_air
from kaustos.core.planning.loading import loading
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.planning.strand import verdict_of
from kaustos.core.records import (
    STRAND_SIGNS,
    Dryer,
    Lot,
    Photo,
    Place,
    Reserve,
    Stay,
    StrandCheck,
    Weighing,
)
from kaustos.core.records.quantities import AIR_C, check_typed
from kaustos.library import load


def new_lot(workspace: Workspace, name: str, grade: str, colour: str, polymer: str | None = None) -> str:
    """A lot of a grade and colour; its polymer from the grade's spelling where it is not said; its id."""
    of_grade = check_lot(workspace, name, grade)
    records = workspace.draft.records
    same = next(iter(of_grade), None)
    chosen = polymer or (same.polymer if same else None) or polymer_meant(grade, settled_spellings(records))
    key = records.free_id("lots", f"lot {name}")
    values = dict(same.grade_values) if same else {}
    lot = Lot(
        id=key, name=name.strip(), grade=same.grade if same else grade.strip(), polymer=chosen, colour=colour.strip(),
        grade_values=values, received_utc=stamp(workspace.clock()),
        stays=(Stay(place="sealed", from_utc=stamp(workspace.clock())),),
    )  # fmt: skip
    workspace.draft.add("lots", key, lot, f"New lot: {lot.name}")
    return key


def check_lot(workspace: Workspace, name: str, grade: str) -> list[Lot]:
    """Raise where no lot of that number and grade can be made; the others of the grade."""
    if not name.strip() or not grade.strip():
        raise KaustosError("A lot needs its number and its grade, as they stand on the label.")
    lots = workspace.draft.records.lots.values()
    of_grade = [lot for lot in lots if lot.grade.lower() == grade.strip().lower()]
    check_new_name("lot of this grade called", name, (lot.name for lot in of_grade if not lot.retired))
    return of_grade


def settled_spellings(records: Records) -> dict[str, str]:
    """Spellings that the shop has settled: grades of its lots, each of one polymer, and its own polymers' names."""
    meant: dict[str, set[str]] = {}
    for lot in records.lots.values():
        if lot.polymer is not None:
            meant.setdefault(plain_spelling(lot.grade), set()).add(lot.polymer)
    for key, own in records.own_polymers.items():
        meant.setdefault(plain_spelling(own.name), set()).add(key)
    return {grade: next(iter(polymers)) for grade, polymers in meant.items() if len(polymers) == 1}


class PolymerAsked(KaustosError):
    """A grade's name that is no polymer of one kind: somebody says which it is, or what it is made from."""

    def __init__(self, words: str, grade: str, spelled: Spelled) -> None:
        super().__init__(words)
        self.grade, self.spelled = grade, spelled

    @property
    def filler(self) -> str | None:
        """The fibre that the name speaks of."""
        return next((FIBRE_OF[each] for each in self.spelled.unsure if each in FIBRE_OF), None)


FIBRE_OF = {"cf": "carbon", "gf": "glass"}


def polymer_meant(grade: str, known: Mapping[str, str]) -> str:
    """The polymer that a grade's name means; raises where several or none fit, or where a word is not understood."""
    spelled = polymer_of(grade, known)
    if spelled.found:
        return spelled.found
    names = [load().polymers[key].name for key in spelled.polymers]
    if spelled.unsure:
        maybe = f" It may be {' or '.join(names)}, with a filler that is said of the lot." if names else ""
        words = ", ".join(f"“{each:.20}”" for each in spelled.unsure)
        raise PolymerAsked(f"“{grade:.40}”: {words} is not understood.{maybe} Choose the polymer.", grade, spelled)
    if names:
        raise PolymerAsked(f"“{grade:.40}” may be {' or '.join(names)}: choose the polymer.", grade, spelled)
    raise PolymerAsked(f"No polymer is known by “{grade:.40}”: choose it.", grade, spelled)


def new_dryer(workspace: Workspace, name: str, max_c: float | None = None) -> str:
    """A dryer of which no more than the name and how hot it gets is known; its id."""
    if not name.strip():
        raise KaustosError("A dryer needs a name.")
    dryers = workspace.draft.records.dryers.values()
    check_new_name("dryer", name, (each.name for each in dryers if not each.retired))
    key = workspace.draft.records.free_id("dryers", name)
    dryer = Dryer(id=key, name=name.strip(), air="room", max_c=max_c)
    workspace.draft.add("dryers", key, dryer, f"New dryer: {dryer.name}")
    return key


def load_on(workspace: Workspace, lot: str, machine: str | None) -> None:
    """Log that a spool hangs on a machine from now on, and that what hung there came off; None for on none."""
    records = workspace.draft.records
    where = records.machines[machine].name if machine else "no machine"
    workspace.draft.set(loading(records.lots.values(), lot, machine), title=f"{records.lots[lot].name}: on {where}")


def add_stay(
    workspace: Workspace, lot: str, place: str, when: datetime, celsius: float | None, humidity: float | None,
    dryer: str | None = None, instead_of: int | None = None,
) -> None:  # fmt: skip
    """Log where a spool is from a moment on, or correct what was logged; a moment that lies ahead is refused.

    A dryer that is known gives the air that the log does not say; how hot it is must be said.
    """
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; log a stay when it has begun.")
    if celsius is not None:
        check_typed("temperature there", celsius, AIR_C, "°C")
    if place == "dryer" and celsius is None:
        raise KaustosError("Say how hot the dryer is: from room temperature it would not dry at all.")
    record = workspace.draft.records.lots[lot]
    known = workspace.draft.records.dryers.get(dryer or "") if place == "dryer" else None
    if known is not None and humidity is None and celsius is not None and known.air in ("dry", "vacuum"):
        humidity = round(100.0 * dryer_air(known, celsius, workspace.draft.records.rules).humidity[LIKELY], 3)
    stay = Stay(place=place, from_utc=stamp(when), temperature_c=celsius, humidity_pct=humidity,
                dryer=known.id if known else None)  # fmt: skip
    kept = (each for at, each in enumerate(record.stays) if at != instead_of)
    others = [each for each in kept if not _only_entered(record, each, stay)]
    changes: dict[Place, object] = {Place("lots", lot, "stays"): _in_order((*others, stay))}
    if place != "sealed" and (not record.opened_utc or stamp(when) < record.opened_utc):
        changes[Place("lots", lot, "opened_utc")] = stamp(when)
    workspace.draft.set(changes, title=f"{record.name}: {known.name if known else place.replace('_', ' ')}")


def _only_entered(lot: Lot, old: Stay, new: Stay) -> bool:
    """Whether a stay only says when the lot was entered here, while the spool was elsewhere before that."""
    return old.place == "sealed" and old.from_utc == lot.received_utc and new.from_utc < old.from_utc


def _in_order(stays: Iterable[Stay]) -> tuple[Stay, ...]:
    return tuple(sorted(stays, key=lambda each: each.from_utc))


def drop_stay(workspace: Workspace, lot: str, place: int) -> None:
    """Take a stay out of the log: it never was."""
    record = workspace.draft.records.lots[lot]
    kept = tuple(each for at, each in enumerate(record.stays) if at != place)
    workspace.draft.set({Place("lots", lot, "stays"): kept}, title=f"{record.name}: stay taken out")


def add_weighing(
    workspace: Workspace, lot: str, gross_g: float, when: datetime, scale_g: float | None = None,
    instead_of: int | None = None,
) -> None:  # fmt: skip
    """Log a weighing, or correct one; a spool lighter than its empty body, or a moment that lies ahead, is refused."""
    record = workspace.draft.records.lots[lot]
    if record.tare_g is not None and gross_g < record.tare_g:
        raise KaustosError(f"{gross_g:g} g is less than the empty spool ({record.tare_g:g} g).")
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; weigh first.")
    weighing = Weighing(at_utc=stamp(when), gross_g=gross_g, scale_g=scale_g)
    kept = (each for at, each in enumerate(record.weighings) if at != instead_of)
    changes = {Place("lots", lot, "weighings"): tuple(sorted((*kept, weighing), key=lambda each: each.at_utc))}
    workspace.draft.set(changes, title=f"{record.name} weighed: {gross_g:g} g")


def drop_weighing(workspace: Workspace, lot: str, place: int) -> None:
    """Take a weighing out of the log: it was of another spool, or misread."""
    record = workspace.draft.records.lots[lot]
    kept = tuple(each for at, each in enumerate(record.weighings) if at != place)
    workspace.draft.set({Place("lots", lot, "weighings"): kept}, title=f"{record.name}: weighing taken out")


def fresh_desiccant(workspace: Workspace, lot: str, when: datetime) -> None:
    """Log that a lot's dry box got fresh desiccant; a moment that lies ahead is refused."""
    if when > workspace.clock():
        raise KaustosError("That moment lies ahead; log it when it is done.")
    name = workspace.draft.records.lots[lot].name
    workspace.draft.set({Place("lots", lot, "desiccant_utc"): stamp(when)}, title=f"{name}: fresh desiccant")


def log_strand(workspace: Workspace, lot: str, signs: Collection[str], photo: Path | None = None) -> str:
    """Log a purged strand and say what it tells; refused for a polymer that shows nothing until layers part."""
    record = workspace.draft.records.lots[lot]
    polymer = polymer_of_lot(workspace.draft.records, record)
    if polymer is not None and not strand_shows(workspace.draft.records, record):
        raise KaustosError(f"A wet melt of {polymer.name} shows nothing until layers part: weigh the spool instead.")
    kept = Photo(sha256=workspace.attach(photo), name=photo.name) if photo else None
    ordered = tuple(each for each in STRAND_SIGNS if each in signs)
    strand = StrandCheck(at_utc=stamp(workspace.clock()), signs=ordered, photo=kept)
    verdict = verdict_of(strand.signs)
    changes = {Place("lots", lot, "strands"): (*record.strands, strand)}
    workspace.draft.set(changes, title=f"{record.name}: strand {verdict}")
    return verdict


def put_aside(workspace: Workspace, lot: str, grams: float, purpose: str) -> None:
    """Put filament of a lot aside for something else than a run; more than is free is refused."""
    record = workspace.draft.records.lots[lot]
    left = state_of(workspace, record).left_g
    if not purpose.strip() or not grams > 0.0:
        raise KaustosError("Say how much is put aside, and for what.")
    if left is not None and grams > left:
        raise KaustosError(f"{grams:g} g cannot be put aside: {left:g} g are free.")
    entry = Reserve(grams=grams, purpose=purpose.strip(), at_utc=stamp(workspace.clock()))
    changes = {Place("lots", lot, "reserves"): (*record.reserves, entry)}
    workspace.draft.set(changes, title=f"{record.name}: {grams:g} g put aside")


def give_back(workspace: Workspace, lot: str, place: int) -> None:
    """Take an entry out of what is put aside: it was not needed, or a weighing has seen it leave."""
    record = workspace.draft.records.lots[lot]
    kept = tuple(each for at, each in enumerate(record.reserves) if at != place)
    workspace.draft.set({Place("lots", lot, "reserves"): kept}, title=f"{record.name}: no longer put aside")
