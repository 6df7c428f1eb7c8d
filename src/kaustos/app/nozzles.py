"""What a shop does with its nozzles: new ones, fitted, fed by hand, looked at, cast by a cold pull."""

from datetime import datetime
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.logs import add_entry, moment_of
from kaustos.app.recipes import check_new_name
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.cold_pull import PULL_RISKS, cold_pull
from kaustos.core.planning.loading import fitting
from kaustos.core.planning.nozzle_life import Section, Wear, section_of, wear_of
from kaustos.core.records import (
    FILLER_TITLES,
    FILLER_WEARS,
    Feeding,
    Inspection,
    Nozzle,
    PartChange,
    Photo,
    Place,
    Polymer,
)
from kaustos.core.records.nozzle import STATES, band_of
from kaustos.core.records.quantities import check_typed


def new_nozzle(workspace: Workspace, name: str, material: str | None = None, bore_mm: float | None = None) -> str:
    """A nozzle of which no more is known than is said; its id."""
    if not name.strip():
        raise KaustosError("A nozzle needs a name or number, the one that is written on it or on its bag.")
    records = workspace.draft.records
    check_new_name("nozzle", name, (each.name for each in records.nozzles.values() if not each.retired))
    if bore_mm is not None:
        check_typed("bore", bore_mm, (0.05, 10.0), "mm")
    key = records.free_id("nozzles", f"nozzle {name}")
    nozzle = Nozzle(id=key, name=name.strip(), material=material, bore_mm=bore_mm,
                    received_utc=stamp(workspace.clock()))  # fmt: skip
    workspace.draft.add("nozzles", key, nozzle, f"New nozzle: {nozzle.name}")
    return key


def fit_on(workspace: Workspace, nozzle: str, machine: str | None) -> None:
    """Log that a nozzle is fitted to a machine from now on, and what came off: a change of the machine, too."""
    records = workspace.draft.records
    where = records.machines[machine].name if machine else "no machine"
    changes: dict[Any, object] = dict(fitting(records.nozzles.values(), nozzle, machine))
    for key in dict.fromkeys((machine or "", records.nozzles[nozzle].fitted_on or "")):
        if key not in records.machines:
            continue
        now = records.nozzles[nozzle].name if key == machine else "none"
        was = next((each.name for each in records.nozzles.values() if each.fitted_on == key), "none")
        change = PartChange(part="nozzle", was=was, now=now, by=workspace.settings.who, at_utc=stamp(workspace.clock()))
        changes[Place("machines", key, "changes")] = (*records.machines[key].changes, change)
    workspace.draft.set(changes, title=f"{records.nozzles[nozzle].name}: on {where}")


def feed_by_hand(workspace: Workspace, nozzle: str, grams: float, filler: str | None, when: datetime | None) -> None:
    """Log filament that went through a nozzle and stands in no run."""
    if not grams > 0.0:
        raise KaustosError("Say how much went through, such as 400 g.")
    name = workspace.draft.records.nozzles[nozzle].name
    entry = Feeding(grams=grams, filler=filler, at_utc=moment_of(workspace, when))
    what = FILLER_TITLES[filler].lower() if filler else "filler not known"
    add_entry(workspace, Place("nozzles", nozzle, "fed"), entry, f"{name}: {grams:g} g fed, {what}")


def look_at(
    workspace: Workspace, nozzle: str, bore_mm: float | None, lost_mm: float | None, found_by: str | None,
    state: str | None, when: datetime | None, photo: Path | None = None,
) -> str:  # fmt: skip
    """Log what was found on a nozzle, and say what it changes; a bore narrower than when new is refused."""
    record = workspace.draft.records.nozzles[nozzle]
    if bore_mm is None and lost_mm is None and state is None:
        raise KaustosError("Say what was found: the bore, how much shorter the tip is, or how it looks.")
    if bore_mm is not None:
        check_typed("bore found", bore_mm, (0.05, 10.0), "mm")
    if lost_mm is not None:
        check_typed("tip shorter by", lost_mm, (0.0, 10.0), "mm")
    if bore_mm is not None and record.bore_mm is not None and bore_mm < 0.9 * record.bore_mm:
        raise KaustosError(
            f"{bore_mm:g} mm is narrower than the {record.bore_mm:g} mm when new: something sticks in it, or the gauge "
            "met the chamfer and not the bore. Clean it and measure again."
        )
    kept = Photo(sha256=workspace.attach(photo), name=photo.name) if photo else None
    entry = Inspection(at_utc=moment_of(workspace, when), bore_mm=bore_mm, lost_mm=lost_mm, found_by=found_by,
                       state=state, photo=kept)  # fmt: skip
    title = f"{record.name} looked at: {STATES[state].lower() if state else 'measured'}"
    add_entry(workspace, Place("nozzles", nozzle, "inspections"), entry, title)
    wear = wear_on(workspace, workspace.draft.records.nozzles[nozzle])
    return "" if wear.agrees else "What was found does not agree with what was fed: from now on the looks are believed."


def wear_on(workspace: Workspace, nozzle: Nozzle) -> Wear:
    """What a nozzle has lost, by its own log and by the runs."""
    return wear_of(nozzle, workspace.shop().fed.get(nozzle.id, ()))


def section_on(workspace: Workspace, nozzle: Nozzle) -> Section:
    """Its section to scale."""
    return section_of(nozzle, wear_on(workspace, nozzle))


@attrs.frozen
class NozzleState:
    """A nozzle in a list: what went through, what it lost, what it takes of fibre-filled filament [g]."""

    fed_g: float
    lost_um: float
    fibre_g: float
    word: str


def nozzle_state(workspace: Workspace, nozzle: Nozzle) -> NozzleState:
    """How far a nozzle is gone."""
    wear = wear_on(workspace, nozzle)
    fibre = wear.until_end(band_of(FILLER_WEARS["carbon"])).value
    due = wear.until_look(band_of(FILLER_WEARS["none"])).value <= 0.0
    word = "worn" if fibre <= 0.0 else "look due" if due else "never looked at" if not nozzle.inspections else "in use"
    return NozzleState(wear.fed_g, wear.lost().value, fibre, word)


def life_words(workspace: Workspace, nozzle: Nozzle, wording: Wording) -> str:
    """What a nozzle has lost and takes yet, in sentences."""
    wear = wear_on(workspace, nozzle)
    words = [f"Tip shorter by {wording.estimate(wear.lost())}"]
    bore = wear.bore()
    words.append(f"bore {wording.estimate(bore)}" if bore else "bore when new not recorded")
    takes = [
        f"{kilograms(wear.until_end(band_of(FILLER_WEARS[filler])).value)} of {title}"
        for filler, title in (("none", "unfilled"), ("white", "pigmented"), ("carbon", "fibre-filled"))
    ]
    said = f"{words[0]}, {words[1]}. Until its bore is too wide it takes {', '.join(takes)} filament"
    return f"{said}; claims differ tenfold, only looks narrow them. {_looked(wear, nozzle)}"


def kilograms(grams: float) -> str:
    """A mass of filament as exact as an order of magnitude is worth."""
    found = float(f"{grams / 1e3:.2g}")
    return "none" if found <= 0.0 else "over 100 kg" if found > 100.0 else f"{found:g} kg"


def _looked(wear: Wear, nozzle: Nozzle) -> str:
    if not nozzle.inspections:
        return "It has never been looked at."
    agrees = "" if wear.agrees else " What was found does not agree with what was fed: the looks are believed."
    return f"Looked at {wear.looks} time{'' if wear.looks == 1 else 's'}.{agrees}"


def pull_words(polymer: Polymer | None, wording: Wording) -> str:
    """The steps of a cold pull with a polymer, timed, and what can go wrong."""
    if polymer is None:
        return "Choose the polymer that the nozzle was last run with."
    steps, why = cold_pull(polymer)
    if not steps:
        return f"No cold pull with {polymer.name}: {why}"
    lines = [
        f"{number}. {each.text.format(at=wording.value(each.at_c, 'temperature'))} ({each.minutes:g} min)"
        for number, each in enumerate(steps, start=1)
    ]
    return "\n".join([*lines, PULL_RISKS])
