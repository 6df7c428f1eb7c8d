"""What the label of a grade says: ranges and price, kept with their source and day, in force over the library's."""

import re
from collections.abc import Callable, Mapping

import attrs

from kaustos.app.lot_state import polymer_of_lot
from kaustos.app.quantities import NotAQuantity
from kaustos.app.records import Records
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import POLYMER_VALUES, Datum, Lot, Place, check_datum

RANGES = {  # what a label gives: its name, and the polymer values of its two ends
    "nozzle": ("Nozzle", "nozzle_low_c", "nozzle_high_c"),
    "plate": ("Plate", "plate_low_c", "plate_high_c"),
    "chamber": ("Chamber", "chamber_low_c", "chamber_high_c"),
    "dryer": ("Dryer", "dryer_low_c", "dryer_high_c"),
    "dries": ("Dryer for", "label_dries_low_h", "label_dries_high_h"),
    "fan": ("Fan", "fan_low", "fan_high"),
    "price": ("Price", "price_per_kg", "price_per_kg"),
    "density": ("Density", "density_g_cm3", "density_g_cm3"),
}
NEEDED = ("nozzle", "plate", "chamber", "dryer")
_HOURS = re.compile(
    r"[\s,;/@(]*(?:\bfor\s+)?(\d[\d.,]*(?:\s*(?:-|–|to)\s*\d[\d.,]*)?)\s*(?:h|hours?|hrs?)\b[\s)]*", re.I
)
_BETWEEN = r"\s*(?:\.{2,3}|…|–|—|\bto\b|(?<=[\d°a-zA-Z%])\s*-)\s*"


@attrs.frozen
class LabelLine:
    """One thing a label gives: as it stands there, and what is in force."""

    key: str
    title: str
    text: str  # empty where the label does not say
    unit: str
    in_force: str


def label_lines(records: Records, lot: Lot, wording: Wording) -> tuple[LabelLine, ...]:
    """Everything a label may give, for one lot."""
    return tuple(_line(key, records, lot, wording) for key in RANGES)


def not_on_label(lot: Lot) -> tuple[str, ...]:
    """The windows that the label of a lot does not give."""
    return tuple(RANGES[key][0].lower() for key in NEEDED if RANGES[key][1] not in lot.grade_values)


def read_label(workspace: Workspace, lot: str, key: str, text: str) -> None:
    """Keep what the label of a lot's grade says, such as 350-380 or 355 to 385 °C; empty takes it back.

    It holds for every lot of the grade. A line such as 80 °C for 4 to 6 h gives heats and hours of the dryer.
    """
    if key == "dryer" and (hours := _HOURS.search(text)):
        heat = (text[: hours.start()] + " " + text[hours.end() :]).strip(" ,;/@")
        _ends(heat, "temperature", workspace.draft.wording.read)  # refused before anything is kept
        read_label(workspace, lot, "dries", hours[1])
        text = heat
    draft, record = workspace.draft, workspace.draft.records.lots[lot]
    title, low_key, high_key = RANGES[key]
    for present in (record.grade_values.get(low_key), record.grade_values.get(high_key)):
        if present is not None and present.kind == "own":
            raise KaustosError(f"{title}: the shop's own value is in force ({present.source}); take that back first.")
    values: Mapping[str, Datum | None] = {low_key: None, high_key: None}
    if text.strip():
        low, high = _ends(text, POLYMER_VALUES[low_key].quantity, draft.wording.read)
        source = f"label of {record.grade}, read {workspace.clock():%Y-%m-%d}"
        values = {low_key: _datum(low_key, low, source), high_key: _datum(high_key, high, source)}
    changes = {
        Place("lots", each, f"grade_values.{name}"): datum
        for each in draft.records.lots_of_grade(lot)
        for name, datum in values.items()
    }
    draft.set(changes, title=f"Label of {record.grade}: {title.lower()} {text.strip() or 'not given'}")


def _ends(text: str, quantity: str, read: Callable[[str, str], float]) -> tuple[float, float]:
    """Both ends of a range; a unit behind the second holds for the first as well."""
    parts = [part for part in re.split(_BETWEEN, text.strip()) if part]
    if not parts:
        raise NotAQuantity(text, "holds no number")
    if len(parts) > 2:
        raise NotAQuantity(text, "holds more than one range")
    if len(parts) == 2:
        unit = re.sub(r"^[+-]?[\d.,\s]+", "", parts[1])
        first = parts[0].rstrip("° ")
        parts[0] = f"{first} {unit}" if first[-1:].isdigit() else first
    ends = [read(part, quantity) for part in parts]
    if ends[0] > ends[-1]:
        raise NotAQuantity(text, "falls: the lower end comes first")
    return ends[0], ends[-1]


def _datum(key: str, value: float, source: str) -> Datum:
    unit = POLYMER_VALUES[key].unit
    return check_datum(key, Datum(value=value, low=value, high=value, unit=unit, kind="label", source=source))


def _line(key: str, records: Records, lot: Lot, wording: Wording) -> LabelLine:
    title, low_key, high_key = RANGES[key]
    quantity = POLYMER_VALUES[low_key].quantity
    own = [lot.grade_values.get(each) for each in (low_key, high_key)]
    polymer = polymer_of_lot(records, lot)
    known = [polymer.value(each) if polymer else None for each in (low_key, high_key)]
    text = _range([each.value for each in own if each], quantity, wording)
    in_force = _range([each.value for each in known if each], quantity, wording)
    kinds = " and ".join(dict.fromkeys(each.kind for each in known if each))
    words = f"in force: {in_force} {wording.unit(quantity)}, {kinds}" if in_force else "nothing is known"
    return LabelLine(key, title, text, wording.unit(quantity), words)


def _range(ends: list[float], quantity: str, wording: Wording) -> str:
    words = [wording.number(each, quantity) for each in ends]
    return " to ".join(dict.fromkeys(words))
