"""What the bench of the run shows: the list before a start, the day by the clock, and a calendar of it."""

from datetime import timedelta
from pathlib import Path

from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import Recipe
from kaustos.core.review import Context, Review
from kaustos.core.review.run import Check, RunCase, preflight, run_case
from kaustos.disk.writing import write_whole

CHECK_HEADINGS = ("Before the start", "Stands", "Because")
DAY_HEADINGS = ("When", "What", "Takes", "")


def checks_of(review: Review, recipe: Recipe, context: Context) -> tuple[Check, ...]:
    """The list before a start, what is not met first."""
    order = ("not met", "unknown", "met")
    return tuple(sorted(preflight(review, recipe, context), key=lambda each: order.index(each.state)))


def check_rows(checks: tuple[Check, ...], wording: Wording) -> list[tuple[str, ...]]:
    """What a table shows of each line."""
    return [(each.title, each.state, because(each, wording)) for each in checks]


def because(check: Check, wording: Wording) -> str:
    """Why a line of the list stands as it does."""
    if check.findings:
        more = f" (and {len(check.findings) - 1} more)" if len(check.findings) > 1 else ""
        return wording.text(check.findings[0]) + more
    if check.missing:
        return "not recorded: " + ", ".join(wording.field(path) for path in check.missing[:3])
    return "" if check.figure is None else f"{check.figure.title}: {wording.figure(check.figure, band=False)}"


def preflight_words(checks: tuple[Check, ...]) -> str:
    """How many lines stand how, in a sentence."""
    counts = {state: sum(each.state == state for each in checks) for state in ("met", "not met", "unknown")}
    return f"{counts['met']} met, {counts['not met']} not met, {counts['unknown']} unknown"


def day_rows(context: Context, workspace: Workspace) -> list[tuple[str, ...]]:
    """Who is wanted when, by the start that is proposed."""
    case = run_case(workspace.draft.records.card.recipe, context)
    if case.proposed is None or case.hours is None:
        return []
    start, outside = case.proposed.at, set(case.proposed.outside)
    found = [
        (case.when(each) or start, each.name, each.minutes / 60.0,
         "nobody is there" if each.name in outside
         else f"near it for {hours_words(each.beside_min / 60.0)}" if each.beside_min else "")
        for each in case.hands
    ]  # fmt: skip
    if (put_in := case.into_dryer) is not None:
        loaded = start + timedelta(minutes=min(each.at_min for each in case.hands))
        is_there = case.staffed.next_min(put_in) == 0.0
        found.append((put_in, "into the dryer", (loaded - put_in).total_seconds() / 3600.0,
                      "until it is loaded" if is_there else "nobody is there"))  # fmt: skip
    found.append((start, "print", case.hours.value, f"{hours_words(case.hours.low)} to {hours_words(case.hours.high)}"))
    return [(at.strftime("%a %d %b, %H:%M"), what, hours_words(hours), note) for at, what, hours, note in sorted(found)]


def calendar_of(case: RunCase, title: str) -> bytes:
    """Everything that wants somebody, as a calendar file."""
    from icalendar import Alarm, Calendar, Event

    if case.proposed is None:
        raise KaustosError("No hours are known: bind a job file, or type them in the brief.")
    calendar = Calendar()
    calendar.add("prodid", "-//Kaustos//run//EN")
    calendar.add("version", "2.0")
    for each in case.hands:
        begin = case.when(each) or case.proposed.at
        event = Event()
        event.add("uid", f"{begin:%Y%m%dT%H%M}-{each.name.replace(' ', '-')}@kaustos")
        event.add("dtstamp", case.now or case.proposed.at)
        event.add("dtstart", begin)
        event.add("dtend", begin + timedelta(minutes=max(each.minutes + each.beside_min, 1.0)))
        event.add("summary", f"{title}: {each.name}")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", each.name)
        alarm.add("trigger", timedelta(minutes=-5))
        event.add_component(alarm)
        calendar.add_component(event)
    found: bytes = calendar.to_ical()
    return found


def write_calendar(workspace: Workspace, context: Context, file: Path) -> str:
    """Write the calendar of the open recipe's run; in words where it is."""
    card = workspace.draft.records.card
    case = run_case(card.recipe, context)
    write_whole(file, calendar_of(case, card.recipe.name or "Run"))
    return f"{len(case.hands)} entries are in {file}."
