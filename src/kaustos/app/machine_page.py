"""What stands on the first page of the sheet: what a person at the machine sets, keeps, does, watches and signs."""

from kaustos.app.wording import Wording, hours_words, when_words
from kaustos.core.planning.reach import is_chamber_heated
from kaustos.core.records import SEEN, Recipe
from kaustos.core.records.fields import value_at
from kaustos.core.review import CODES, Context, Estimate, Figure, Review
from kaustos.core.review.brief.ranking import HOT_CHAMBER_K
from kaustos.core.review.zones import CHAMBER, SETTINGS, Zone, zones_of

WATCHED = 5  # findings whose signs are watched for
LONGEST_SOAK_H = 12.0  # more is no step of a run
BLANK = ""  # filled in by hand
ALWAYS_STOP = (
    "smoke or a sharp smell, a heater fault, a machine part that softens, filament that runs free of the drive"
)
SPOOL_FIGURES = {
    "stock.drying.time": "Dry enough in",
    "stock.waiting.lasts": "May wait for",
    "stock.exposure.lasts": "May hang in feed for",
    "stock.mass.left": "Filament left",
}


def setpoint_rows(recipe: Recipe, context: Context, wording: Wording) -> list[tuple[str, str, str, str]]:
    """Setting, what is entered at the panel, what it is kept within, and a blank for what it was."""
    zones = {zone.name: zone for zone in zones_of(recipe, context)}
    rows = []
    for name, settings in SETTINGS.items():
        for path, title, _ in sorted(settings, key=lambda each: each[2]):
            if path == CHAMBER and not is_chamber_heated(context.machine):
                rows.append((title, "not heated", "nothing to set", BLANK))
                continue
            at_c = value_at(recipe, path)
            within = "" if at_c is None else _within(zones.get(name), at_c, wording)
            rows.append((title, wording.field_value(path, at_c), within, BLANK))
    return rows


def _within(zone: Zone | None, at_c: float, wording: Wording) -> str:
    """The span of a setpoint in which nothing that was judged changes: window and reach together."""
    if zone is None or zone.low is None or zone.high is None:
        return "window not recorded"
    low_c, high_c = zone.low.value, zone.high.value
    if zone.reach.max_c is not None:
        high_c = min(high_c, zone.reach.max_c)
    if low_c > high_c:
        return f"out of reach: wants {wording.value(low_c, 'temperature')} at least"
    span = f"{wording.number(low_c, 'temperature')} to {wording.value(high_c, 'temperature')}"
    return span if low_c <= at_c <= high_c else f"OUTSIDE {span}"


def spool_rows(recipe: Recipe, context: Context, review: Review, wording: Wording) -> list[tuple[str, str, str]]:
    """How the spool is dried, where it waits and hangs, and how long that lasts; blanks for what was done."""
    figures = {figure.key: figure for operation in review.operations for figure in operation.figures}
    rows = [("Dried in", context.dryer.name if context.dryer else "dryer not recorded", "in at")]
    if recipe.stock.wanted_utc:
        rows.append(("Wanted dry at", when_words(recipe.stock.wanted_utc), "out at"))
        rows.append(("Put it in by", _start_words(figures["stock.drying.start"], context, wording), BLANK))
    blanks = {"dryer_c": "shown", "dryer_h": "hours"}
    for name in ("dryer_c", "dryer_h", "wait_h", "wait_in"):
        path = f"stock.{name}"
        words = wording.field_value(path, value_at(recipe, path))
        if name == "dryer_h" and _is_short(figures["stock.drying.left"], figures["stock.drying.ready"]):
            words += ", TOO SHORT"
        rows.append((titled(wording, path), words, blanks.get(name, BLANK)))
    if context.lot:
        rows.append(("Fed from", wording.field_value("lot.feed", context.lot.feed), BLANK))
    gross = {"stock.mass.left": "gross, g"}
    return rows + [
        (title, wording.figure(figures[key], band=False), gross.get(key, BLANK))
        for key, title in SPOOL_FIGURES.items()
        if key in figures
    ]


def _start_words(figure: Figure, context: Context, wording: Wording) -> str:
    at = figure.value
    late = isinstance(at, Estimate) and context.now is not None and at.value < context.now.timestamp()
    return "TOO LATE NOW" if late else wording.figure(figure)


def _is_short(planned: Figure, takes: Figure) -> bool:
    hours, needed = planned.value, takes.value
    return isinstance(hours, Estimate) and isinstance(needed, Estimate) and hours.value < needed.value


def steps(recipe: Recipe, context: Context, review: Review, wording: Wording) -> list[str]:
    """The order of the work, each to be ticked with its time."""
    lot, machine, polymer = context.lot, context.machine, context.polymer
    found = []
    if recipe.stock.dryer_c is not None and recipe.stock.dryer_h:
        where = context.dryer.name if context.dryer else "a dryer"
        figures = {each.key: each for operation in review.operations for each in operation.figures}
        ready = figures["stock.drying.ready"]
        hours = f"{wording.value(recipe.stock.dryer_h, 'duration')}"
        if _is_short(figures["stock.drying.left"], ready):
            hours += f" as planned, {wording.figure(ready, band=False)} as it is wet"
        heat = wording.value(recipe.stock.dryer_c, "temperature")
        found.append(f"Dry the spool in {where}: {heat} for {hours}. Weigh it before and after")
    found.append("Read the label: grade, colour and lot as above. Secure the free end; no turn lies under another")
    if lot and machine and lot.loaded_on != machine.id:
        found.append(f"Change the spool: {lot.name} onto {machine.name}, purged until nothing of the last is seen")
    nozzle = context.nozzle
    if nozzle and machine and nozzle.fitted_on != machine.id:
        found.append(f"Fit the nozzle {nozzle.name}, by its maker's papers, and set the gap again")
    found += _plate_step(context, review, wording)
    heat = _heat_step(recipe, context, wording)
    soak = {each.key: each.value for operation in review.operations for each in operation.figures}
    soaked = soak.get("machine.chamber.soaked")
    if heat and isinstance(soaked, Estimate) and soaked.value < LONGEST_SOAK_H:
        heat += f"; walls have soaked after about {hours_words(soaked.value)}"
    found += [heat] if heat else []
    nozzle_c = recipe.first_layer.nozzle_c or recipe.melt.nozzle_c
    if nozzle_c is not None:
        wet = ": bubbles, hiss or a dull wall mean water, back to the dryer" if polymer and polymer.absorbs else ""
        found.append(f"Nozzle to {wording.value(nozzle_c, 'temperature')}; purge until the strand is smooth{wet}")
    due = soak.get("first_layer.look.due")
    after = f": about {wording.value(max(round(due.value), 1), 'minutes')}" if isinstance(due, Estimate) else ""
    found.append(f"Start, and stay until the first layer lies{after}; look, then go on or stop")
    later = [
        f"{title.lower()} {wording.value(value_at(recipe, running), 'temperature')}"
        for title, first, running in (
            ("Nozzle", "first_layer.nozzle_c", "melt.nozzle_c"), ("Plate", "first_layer.bed_c", "plate.bed_c"),
        )
        if value_at(recipe, running) not in (None, value_at(recipe, first))
    ]  # fmt: skip
    found += [f"After the first layer: {', '.join(later)}"] if later else []
    return [*found, "At the end: note time and what was seen, let it cool, log the run"]


def _plate_step(context: Context, review: Review, wording: Wording) -> list[str]:
    """The plate that is put on, how clean it is to be, and what goes onto it."""
    item, batch = context.plate, context.agent
    if item is None:
        return []
    words = f"Put the plate {item.name} on, clean and untouched"
    if batch is not None:
        figures = {each.key: each.value for operation in review.operations for each in operation.figures}
        dose = figures.get("plate.agent.dose")
        amount = f", about {wording.value(dose.value, 'volume')}" if isinstance(dose, Estimate) else ""
        words += f"; {batch.name}{amount} on it"
    return [words]


def _heat_step(recipe: Recipe, context: Context, wording: Wording) -> str:
    plate_c, air_c = recipe.first_layer.bed_c or recipe.plate.bed_c, recipe.heat.chamber_c
    plate = f"plate to {wording.value(plate_c, 'temperature')}" if plate_c is not None else ""
    if is_chamber_heated(context.machine) and air_c is not None:
        words = f"chamber to {wording.value(air_c, 'temperature')}"
        words = f"{plate}, {words}; wait until the air shows it" if plate else f"{words}; wait until the air shows it"
    else:
        warm = "; close the machine and give the air an hour" if wants_warm_air(context) else ""
        words = plate + warm
    return words[:1].upper() + words[1:]


def wants_warm_air(context: Context) -> bool:
    """Whether the polymer wants air that a machine has to be closed for; of others a closed machine spoils the feed."""
    low = context.polymer.value("chamber_low_c") if context.polymer else None
    return low is not None and low.value > context.rules.room_c + HOT_CHAMBER_K


def watch_rows(review: Review, wording: Wording) -> list[tuple[str, str]]:
    """What may be seen at the machine, and which finding foretells it."""
    rows: dict[str, list[str]] = {}
    for finding in review.findings():
        code = CODES[finding.code]
        for what in code.shows[:2]:
            rows.setdefault(SEEN[what], [])
            if code.title not in rows[SEEN[what]]:
                rows[SEEN[what]].append(code.title)
    return [(seen, "; ".join(codes[:2])) for seen, codes in [*rows.items()][:WATCHED]]


def titled(wording: Wording, path: str) -> str:
    """A field's title as a row begins."""
    title = wording.field(path)
    return title[:1].upper() + title[1:]
