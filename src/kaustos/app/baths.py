"""What a shop does with baths: mixed, a part put in, looked at, taken out, dried, weighed, called clean."""

from datetime import datetime, timedelta

import attrs

from kaustos.app.logs import moment_of
from kaustos.app.wording import Wording, hours_words, when_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.bath import (
    SAYS,
    Course,
    Residue,
    contents_of,
    course_of,
    hours_in,
    residue_of,
    room_of,
    slow_in,
)
from kaustos.core.records import STILL_ON, WASHED, Bath, Look, Place, SupportMaterial, Wash, Weighing
from kaustos.core.review.supports import support_case
from kaustos.library import load

WASH_HEADINGS = ("Part", "In", "Supports", "Foretold", "Stands")


def bath_names() -> dict[str, str]:
    """Kinds of supports that a bath takes out, by id."""
    return {key: each.name for key, each in load().supplies.supports.items() if each.is_bath}


def material_of(bath: Bath) -> SupportMaterial | None:
    """What a bath takes out."""
    return load().supplies.supports.get(bath.material or "")


def new_bath(workspace: Workspace, name: str, material: str | None, volume_ml: float | None) -> str:
    """Log a bath that was mixed now; its id."""
    if not name.strip():
        raise KaustosError("Give the bath a name that stands on the tank too, such as T-3.")
    if material is None:
        raise KaustosError("Say what it takes out: a bath is mixed for one support.")
    if volume_ml is None:
        raise KaustosError("Say what it holds, such as 4 l: what it can take hangs on it.")
    known = load().supplies.supports[material]
    key = workspace.draft.records.free_id("baths", name)
    dose = known.dose_per_l.value * volume_ml / 1e3 if known.dose_per_l is not None else None
    made = Bath(
        id=key, name=name.strip(), material=material, volume_ml=volume_ml, dose_g=dose,
        mixed_utc=stamp(workspace.clock()),
        warm_c=known.bath_c.value if known.bath_c is not None else None, taken_g=0.0,
    )  # fmt: skip
    workspace.draft.set({Place("baths", key): made}, title=f"Bath {made.name}")
    return key


def card_words(bath: Bath, now: datetime, wording: Wording) -> str:
    """The batch card: what goes in, what it has taken and still takes, until when it keeps, what to mind."""
    material = material_of(bath)
    if material is None or not bath.volume_ml:
        return "Say what it takes out and what it holds to see its card."
    words = []
    if material.dose_per_l is not None:
        wanted = material.dose_per_l.value * bath.volume_ml / 1e3
        label = f"For {wording.value(bath.volume_ml, 'volume')}: {wording.value(round(wanted), 'mass')} of agent"
        words.append(f"{label} (its maker's dose goes before this), into the water, never water onto it.")
    inside = contents_of(bath)
    room = room_of(bath.volume_ml, material, inside.grams)
    if room is not None:
        words.append(
            f"{wording.value(round(inside.grams, 1), 'mass')} dissolved; it takes "
            f"{wording.value(round(room.value, 1), 'mass')} more ({wording.value(round(room.low, 1), 'mass')} to "
            f"{wording.value(round(room.high, 1), 'mass')})."
        )
    if inside.untold:
        words.append(f"Of {inside.untold} washes nobody noted what they took: it is fuller than that.")
    if bath.mixed_utc and material.keeps_d is not None:
        until = datetime.fromisoformat(bath.mixed_utc) + timedelta(days=material.keeps_d.value)
        words.append(f"Mixed {when_words(bath.mixed_utc)}, keeps until {when_words(stamp(until))[:10]}.")
        if until < now:
            words.append("Past its time: mix a new one.")
    slow = slow_in(bath, material)
    words.append(f"Washes here take {slow[1]:.1f} times the hours that are advised ({slow[0]:.1f} to {slow[2]:.1f}).")
    words += material.cautions
    return "\n".join(words)


def foretold(bath: Bath, supports_g: float | None) -> Course | None:
    """How a wash would go on in a bath as it stands; None where too little is known."""
    material = material_of(bath)
    if material is None or supports_g is None or bath.volume_ml is None:
        return None
    slow = slow_in(bath, material)
    return course_of(supports_g, material, bath.volume_ml, contents_of(bath).grams, bath.warm_c, slow)


def planned_g(workspace: Workspace) -> float | None:
    """What the open recipe reckons to lay as supports [g]; None where that is not known."""
    if workspace.draft.records.current is None:
        return None
    chosen = support_case(workspace.draft.records.card.recipe, workspace.context()).chosen
    return round(chosen.cost.on_part_g, 1) if chosen is not None and chosen.material is not None else None


def put_in(
    workspace: Workspace, bath: str, part: str, run: str | None, supports_g: float | None, before_g: float | None
) -> str:  # fmt: skip
    """A part goes into a bath; in words how long it will take."""
    record = _bath(workspace, bath)
    if not part.strip() and run is None:
        raise KaustosError("Say what goes in: a run, or words such as head 3 of 4.")
    taken = foretold(record, supports_g)
    hours = taken.hours if taken is not None else None
    words = part.strip() or workspace.draft.records.runs[run or ""].id
    entry = Wash(
        part=words, run=run, at_utc=moment_of(workspace, None), supports_g=supports_g, before_g=before_g,
        advised_h=hours.value if hours is not None else None, by=workspace.settings.who,
    )  # fmt: skip
    workspace.draft.set({Place("baths", bath, "washes"): (*record.washes, entry)}, title=f"{record.name}: {words} in")
    if supports_g is None:
        return "In. What is on it is not known: nobody can say how long, nor how full the bath gets."
    if taken is None:
        return "In."
    if hours is None:
        return "In, but this bath is full before it is clean: mix a new one."
    first, last = hours_words(hours.low), hours_words(hours.high)
    return f"In. It takes about {hours_words(hours.value)} ({first} to {last}): look after {first}."


def look(workspace: Workspace, bath: str, place: int, seen: str | None, warm_c: float | None, ml: float | None) -> str:
    """What was seen of a wash that lies in a bath; in words what follows from it."""
    wash = _wash(workspace, bath, place)
    if not wash.is_in:
        raise KaustosError("It is out of the bath: look over it where it dries.")
    if seen is None:
        raise KaustosError("Say what is still on: most, some, none to be seen.")
    entry = Look(at_utc=moment_of(workspace, None), seen=seen, bath_c=warm_c, added_ml=ml)
    _change(workspace, bath, place, attrs.evolve(wash, looks=(*wash.looks, entry)), STILL_ON[seen].lower())
    if seen == "none":
        return "Take it out, rinse it, dry it, weigh it twice."
    gone = hours_in(wash, entry.at_utc)
    if wash.advised_h is not None and gone > wash.advised_h:
        return f"{hours_words(gone)} in, {hours_words(wash.advised_h)} were foretold: is it warm, moved, not full?"
    return f"{hours_words(gone)} in."


def take_out(workspace: Workspace, bath: str, place: int) -> str:
    """A wash is taken out and rinsed; in words what follows."""
    wash = _wash(workspace, bath, place)
    if not wash.is_in:
        raise KaustosError("It is out already.")
    _change(workspace, bath, place, attrs.evolve(wash, out_utc=moment_of(workspace, None)), "out")
    return "Rinse it, dry it in warm air, weigh it twice some hours apart."


def weigh(workspace: Workspace, bath: str, place: int, grams: float | None, scale_g: float | None) -> str:
    """A rinsed part is weighed; in words what both masses say."""
    wash = _wash(workspace, bath, place)
    if wash.is_in:
        raise KaustosError("Take it out first, and dry it.")
    if grams is None or not grams > 0.0:
        raise KaustosError("Type its mass, such as 52.1 g.")
    if scale_g is None and wash.dried:
        scale_g = wash.dried[-1].scale_g  # the same balance
    entry = Weighing(at_utc=moment_of(workspace, None), gross_g=grams, scale_g=scale_g)
    after = attrs.evolve(wash, dried=(*wash.dried, entry))
    _change(workspace, bath, place, after, f"{grams:g} g")
    return residue_words(residue(workspace, after), workspace.draft.wording)


def residue(workspace: Workspace, wash: Wash) -> Residue:
    """What the masses of a wash say of what is left in the part."""
    usual = workspace.draft.records.rules.scale_g
    scale = max((each.scale_g or usual for each in wash.dried[-2:]), default=usual)
    dried = [(hours_in(wash, each.at_utc), each.gross_g) for each in wash.dried if each.gross_g is not None]
    return residue_of(wash.supports_g, wash.before_g, dried, scale)


def residue_words(found: Residue, wording: Wording) -> str:
    """What two masses say, and what they cannot."""
    words = SAYS[found.says]
    if found.grams is not None:
        low, high = (wording.value(round(each, 2), "mass") for each in (max(found.grams.low, 0.0), found.grams.high))
        words += f"; left: {low} to {high}" if found.grams.high > 0.0 else ""
    if found.least_g is None:
        return f"{words}; mass before and supports are to be known for that."
    told = f"{wording.value(round(found.least_g, 2), 'mass')} and more can be told"
    may = f"{wording.value(round(found.may_stay_g or 0.0, 2), 'mass')} may stay"
    return f"{words}; {told}, {may}."


def end_wash(workspace: Workspace, bath: str, place: int, ended: str | None, who: str) -> str:
    """A wash is called clean, put back, or given up; clean rests on the balance, else on who looked it over."""
    wash = _wash(workspace, bath, place)
    if ended is None:
        raise KaustosError("Say how it ended: clean, back in, or given up.")
    if wash.is_in:
        raise KaustosError("Take it out first: what is wet hides what is left.")
    found = residue(workspace, wash)
    if ended == "clean" and found.says in ("left", "eaten"):
        raise KaustosError(f"Not clean: {residue_words(found, workspace.draft.wording)}")
    if ended == "clean" and found.says != "clean" and not who.strip():
        raise KaustosError(f"By mass it is not known ({SAYS[found.says]}). Say who looked it over.")
    after = attrs.evolve(wash, ended=ended, by=who.strip() or wash.by)
    record = _bath(workspace, bath)
    washes = [*record.washes[:place], after, *record.washes[place + 1 :]]
    if ended == "again":
        left = max(found.grams.value, 0.0) if found.grams is not None else wash.supports_g
        mass = wash.dried[-1].gross_g if wash.dried else None
        washes.append(
            Wash(part=wash.part, run=wash.run, at_utc=moment_of(workspace, None), supports_g=left, before_g=mass,
                 by=workspace.settings.who)
        )  # fmt: skip
    title = f"{record.name}: {wash.part}, {WASHED[ended].lower()}"
    workspace.draft.set({Place("baths", bath, "washes"): tuple(washes)}, title=title)
    return f"{wash.part}: {WASHED[ended].lower()}."


def wash_rows(workspace: Workspace, bath: Bath) -> list[tuple[str, ...]]:
    """What a table shows of each wash, the newest first."""
    wording, now = workspace.draft.wording, stamp(workspace.clock())
    found: list[tuple[str, ...]] = []
    for wash in reversed(bath.washes):
        found.append(
            (
                wash.part, when_words(wash.at_utc),
                "not known" if wash.supports_g is None else wording.value(round(wash.supports_g, 1), "mass"),
                "" if wash.advised_h is None else hours_words(wash.advised_h), _stands(workspace, wash, now),
            )
        )  # fmt: skip
    return found


def _stands(workspace: Workspace, wash: Wash, now: str) -> str:
    if wash.ended is not None:
        return WASHED[wash.ended] + (f", {wash.by}" if wash.ended == "clean" and wash.by else "")
    if wash.is_in:
        seen = STILL_ON[wash.looks[-1].seen or "most"].lower() if wash.looks else "not looked at yet"
        return f"{hours_words(hours_in(wash, now))} in; {seen}"
    return SAYS[residue(workspace, wash).says]


def _bath(workspace: Workspace, bath: str) -> Bath:
    found: Bath = workspace.draft.records.tables["baths"][bath]
    return found


def _wash(workspace: Workspace, bath: str, place: int) -> Wash:
    washes = _bath(workspace, bath).washes
    if not 0 <= place < len(washes):
        raise KaustosError("Choose the wash in the table first.")
    if washes[place].ended is not None:
        raise KaustosError("That wash has ended; undo brings it back.")
    return washes[place]


def _change(workspace: Workspace, bath: str, place: int, wash: Wash, words: str) -> None:
    record = _bath(workspace, bath)
    washes = (*record.washes[:place], wash, *record.washes[place + 1 :])
    workspace.draft.set({Place("baths", bath, "washes"): washes}, title=f"{record.name}: {wash.part}, {words}")
