"""Makes sentences of templates and values, in the units and spelling the user chose."""

import math
import re
import string
from collections.abc import Mapping, Sequence
from datetime import datetime

import attrs

from kaustos.app.clock import moment_words
from kaustos.app.field_kinds import NOT_RECORDED, kind_of
from kaustos.app.quantities import read
from kaustos.app.settings import Settings
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.records import BY_ONE, POLYMER_VALUES, ZONES, Recipe, declared
from kaustos.core.records.fields import declaration
from kaustos.core.records.machine import PART_TITLES
from kaustos.core.records.quantities import BY_UNIT, QUANTITIES
from kaustos.core.review import (
    BY_NUMBER,
    CODES,
    UNKNOWN,
    Estimate,
    Figure,
    Finding,
    OperationReview,
    Remedy,
    Review,
    Set,
)
from kaustos.core.review.contract import Absent, Advice, Cap, Grade
from kaustos.core.review.money import lost_together

GRADE_WORDS = {
    "no_go": "no-go",
    "decorative": "decorative",
    "reduced": "reduced",
    "functional": "functional",
}
STANDING_WORDS = {"stop": "stop", "watch": "watch", "open": "open", "clear": "clear"}
TRYING = "trying what else the shop has"
_AMOUNT = re.compile(r"[:,] \{cost:money\}.*$")
MOST_TOLD = 5  # findings before the smaller ones
PEOPLE = "Ignored, people can be hurt: that is weighed against no money."
ALL, NONE = 0.95, 0.01  # chances from and under which no count is said
LONGEST_TILE = 11  # characters: twelve tiles stand in one row of 1280 px
BEYOND = {  # figures of that model: what a time stands for that goes as far
    "stock.drying.time": "10 d or more",
    "stock.waiting.lasts": "10 d or more",
    "stock.exposure.lasts": "10 d or more",
}


def _in_text(value: float, quantity: str) -> float:
    """A value as exact as it is worth in a sentence; fields show all that was typed."""
    return round(value, 2) if quantity == "moisture" and abs(value) >= 0.1 else value


class _Gaps(string.Formatter):
    def __init__(self, wording: "Wording") -> None:
        self._wording = wording

    def format_field(self, value: object, spec: str) -> str:
        if spec == "text" or isinstance(value, str):
            return _lower(str(value)) if spec == "setting" else str(value)
        if value is None:
            return "an amount that is not known"
        assert isinstance(value, (int, float))
        if spec == "duration":
            return hours_words(float(value))
        if spec == "moment":
            return moment_words(datetime.fromtimestamp(float(value)))
        if spec == "date":
            return day_words(float(value))
        if spec == "times":
            number = self._wording.number(round(float(value), 1), "ratio")
            return "a little longer" if value < LITTLE else f"about {number} times as long"
        return self._wording.value(float(value), spec)


@attrs.frozen
class Wording:
    """Words for values, figures, findings and fields under the user's settings."""

    settings: Settings = attrs.field(factory=Settings)

    # ---- numbers

    def number(self, value: float, quantity: str) -> str:
        """The bare number in the user's unit, as it stands in a field."""
        decimals = QUANTITIES[quantity].decimals
        text = f"{round(self._shown(value, quantity), decimals):.{decimals}f}"
        if "." in text and quantity not in ("money_rate", "price"):
            text = text.rstrip("0").rstrip(".")
        text = "0" if text.lstrip("-").strip("0.") == "" and text.startswith("-") else text.replace("-", "−")
        return text.replace(".", ",") if self.settings.decimal == "comma" else text

    def plain(self, value: float, unit: str = "") -> str:
        """A number of no declared quantity, with the unit that it was measured in."""
        text = f"{value:.6g}".replace("-", "−")
        text = text.replace(".", ",") if self.settings.decimal == "comma" else text
        return f"{text} {unit}".strip()

    def unit(self, quantity: str) -> str:
        """The user's unit of a quantity."""
        unit = QUANTITIES[quantity].unit
        if quantity in ("temperature", "temperature_difference"):
            return "°F" if self.settings.temperature == "°F" else unit
        return "" if quantity == "ratio" else unit.replace("money", self.settings.currency)

    def value(self, value: float, quantity: str) -> str:
        """Number and unit."""
        unit = self.unit(quantity)
        return f"{self.number(_in_text(value, quantity), quantity)}{'' if unit == '°' else ' '}{unit}".strip()

    def _shown(self, value: float, quantity: str) -> float:
        fahrenheit = QUANTITIES[quantity].spelled("degf") if self.settings.temperature == "°F" else None
        return fahrenheit.from_shop(value) if fahrenheit else value

    # ---- figures

    def figure(self, figure: Figure, *, band: bool = True) -> str:
        """A figure's value, with its band where it has one."""
        value = figure.value
        if isinstance(value, Absent):
            return NOT_RECORDED if value is UNKNOWN else "computing"
        if isinstance(value, str):
            return GRADE_WORDS.get(value, value)
        if figure.key.endswith(".gap") and value.unit == "K":
            return self._gap(value, band=band)
        return self.estimate(value, band=band, beyond=BEYOND.get(figure.key, ""))

    def _gap(self, value: Estimate, *, band: bool) -> str:
        """A reach against a window in words instead of a sign: 35 K short, 60 K to spare."""
        said, low, high = (
            f"{self.value(abs(each), 'temperature_difference')} {'short' if each > 0 else 'to spare'}"
            for each in (value.value, value.low, value.high)
        )
        if not band or value.low == value.high:
            return said
        if (value.low > 0) == (value.high > 0):
            near, far = sorted((abs(value.low), abs(value.high)))
            kind = "temperature_difference"
            return f"{said} ({self.number(near, kind)} to {self.value(far, kind)})"
        return f"{said} (from {low} to {high})"

    def estimate(self, value: Estimate, *, band: bool = True, beyond: str = "") -> str:
        """A value, its band and unit; a time may stand for more than the model looks at."""
        quantity = BY_UNIT[value.unit]
        if quantity == "duration" and value.unit == "h":
            said, low, high = (
                beyond if beyond and each >= HORIZON_H else hours_words(each)
                for each in (value.value, value.low, value.high)
            )
            return said + (f" ({low} to {high})" if band and low != high else "")
        if quantity == "moment":
            return moment_words(datetime.fromtimestamp(value.value))
        if quantity == "date":
            low, high = day_words(value.low), day_words(value.high)
            return day_words(value.value) + (f" ({low} to {high})" if band and low != high else "")
        text = self.value(value.value, quantity)
        if not band or value.low == value.high:
            return text
        low, high = (self.number(_in_text(each, quantity), quantity) for each in (value.low, value.high))
        return f"{text} ({low} to {high})"

    def origin(self, figure: Figure) -> str:
        """Where a figure comes from."""
        value = figure.value
        return f"{value.method}. Source: {value.source}." if isinstance(value, Estimate) else ""

    def tiles(self, operation: OperationReview) -> tuple[str, ...]:
        """What an operation's tile may say, long to short; the last is never longer than a narrow tile."""
        if not operation.headline:
            return ("computing",)
        said = (self.sentence(each.text, each.values) for each in operation.tile)
        words = [form for each in said for form in (each, each.replace(" °", "°"))]
        if not words:
            return (NOT_RECORDED, "not known")
        shortest = min(words, key=len)
        if len(shortest) > LONGEST_TILE:
            words.append(re.sub(r"[.,]\d+", "", shortest)[:LONGEST_TILE])
        return tuple(dict.fromkeys(words))

    def tile(self, operation: OperationReview, longest: int = LONGEST_TILE) -> str:
        """The longest of them that fits into so many characters."""
        words = self.tiles(operation)
        return next((each for each in words if len(each) <= longest), min(words, key=len))

    # ---- findings

    def sentence(self, template: str, values: Mapping[str, object]) -> str:
        """A template with its gaps filled."""
        return _Gaps(self).vformat(template, (), values)

    def text(self, finding: Finding) -> str:
        """What is wrong or uncertain, with the numbers."""
        return self.sentence(CODES[finding.code].text, finding.values)

    def cost(self, finding: Finding) -> str:
        """What it costs to ignore the finding, and what it comes of."""
        text = CODES[finding.code].cost
        if finding.basis == "people":
            return PEOPLE
        values = {**finding.values, "odds": odds_words(finding.chance)}
        if finding.cost is None:
            words = self.sentence(f"{_AMOUNT.sub('', text)}; what that costs is not known.", values)
        else:
            words = self.sentence(text, {**values, "cost": finding.cost.value})
        return f"{words} {self.cause(finding)}".rstrip()

    def cause(self, finding: Finding) -> str:
        """Which other finding it comes of; empty where it stands by itself."""
        if not finding.due_to:
            return ""
        return f"It comes of another finding, {CODES[finding.due_to].title}: what helps there helps here."

    def held_by(self, review: Review) -> str:
        """What caps the grade, each with what it comes of."""
        causes = {each.code: each.due_to for each in review.findings() if each.due_to}
        titles = [
            f"{CODES[causes[code]].title}, hence {CODES[code].title}" if code in causes else CODES[code].title
            for code in review.grade.because
        ]
        return "; ".join(titles)

    def remedy(self, remedy: Remedy | Absent) -> str:
        """What the remedy's button says."""
        if isinstance(remedy, Absent):
            return TRYING
        return self.sentence(remedy.title, remedy.values)

    def remedy_text(self, remedy: Remedy | Absent) -> str:
        """What an advice says beyond its title."""
        return self.sentence(remedy.text, remedy.values) if isinstance(remedy, Advice) else ""

    def grade(self, grade: Grade) -> str:
        """The grade in words: never better than what is known."""
        word = GRADE_WORDS[grade.value]
        return f"not better than {word}" if grade.until_known else word

    def cap(self, cap: Cap, review: Review) -> str:
        """Why a cap holds, in the words of its finding."""
        return next((self.text(each) for each in review.findings() if each.code == cap.code), cap.code)

    # ---- fields

    def field(self, path: str) -> str:
        """The name of a field as a person says it."""
        head, _, rest = path.partition(".")
        if path in ("machine", "polymer"):
            return head
        if head == "context":  # something that is chosen
            return FILES.get(rest, _lower(rest.replace("_", " ")))
        if head == "polymer":
            kind = POLYMER_VALUES.get(rest)
            return f"polymer: {_lower(kind.title)}" if kind else "polymer: deflection temperature in this state"
        if head == "machine" and rest.split(".")[0] in ZONES:
            return _machine_field(rest)
        found = declared(path)
        title = str(found.metadata.get("title") or "") if found is not None else ""
        if head in BY_ONE and head not in _UNNAMED and declaration(Recipe, path) is None:
            key = rest.split(".")[-1]
            title = title or (POLYMER_VALUES[key].title if key in POLYMER_VALUES else key.replace("_", " "))
            return f"{head}: {_lower(title)}"
        return _lower(title) if title else path.replace("_", " ").replace(".", ": ")

    def field_value(self, path: str, value: object) -> str:
        """The value of a field as a person says it."""
        return NOT_RECORDED if value is None else kind_of(path).said(self, path, value)

    def read(self, text: str, quantity: str) -> float:
        """The value that a text gives in shop units; a bare number is meant in the unit that the user chose."""
        plain = text.strip()
        bare = plain[-1:].isdigit() or plain[-1:] in (".", ",")
        unit = " F" if bare and self.settings.temperature == "°F" and quantity.startswith("temperature") else ""
        return read(plain + unit, quantity, self.settings.decimal)

    def step(self, remedy: Set) -> str:
        """A remedy as the title of an undo step."""
        return self.remedy(remedy)


FILES = {"job": "job file", "part": "part file"}
SHOWN = 3  # fields that are not recorded, by name


def missing_words(review: Review, wording: Wording) -> str:
    """What is not recorded: the three that would change the grade first by name, the rest counted by bench."""
    first = review.completeness.missing[:SHOWN]
    words = f"Not recorded: {'; '.join(wording.field(each.field) for each in first)}"
    named = {each.field for each in first}
    counts = []
    for operation in review.operations:
        rest = {each.field for each in operation.missing} - named
        if rest:
            counts.append(f"{len(rest)} on {operation.number} {BY_NUMBER[operation.number].short}")
            named |= rest
    return f"{words}. More: {', '.join(counts)}." if counts else f"{words}."


_UNNAMED = ("card", "machine", "run")  # kinds whose fields are said without their kind


NO_DAY = "a day that cannot be"  # stored beyond what a clock can show
LITTLE = 1.15  # times as long, up to which it is not worth a number
IN_HOURS_D, IN_DAYS_D = 4.0, 730.0  # days up to which a duration is said in hours, and in days


def hours_words(hours: float) -> str:
    """A duration as a person says it: 45 min, 6 h 40, 72 h, 4.2 d, 11 years, never."""
    if math.isinf(hours):
        return "never"
    minutes = round(hours * 60)
    if minutes < 60:
        return f"{minutes} min"
    if minutes < 24 * 60:
        return f"{minutes // 60} h" + (f" {minutes % 60:02d}" if minutes % 60 else "")
    days = hours / 24.0
    if days < IN_HOURS_D:
        return f"{hours:.0f} h"
    if days < IN_DAYS_D:
        return f"{days:.1f} d".replace(".0 d", " d") if days < 10.0 else f"{days:.0f} d"
    return f"{days / 365.25:.1f} years".replace(".0 years", " years")


def drying_words(hours: float, *, never: bool) -> str:
    """A drying time: never only where the air's floor is above the limit, else longer than is looked."""
    return hours_words(hours) if not math.isinf(hours) else "never" if never else "over 10 d"


def day_words(seconds: float) -> str:
    """The local day of a moment in seconds since 1970-01-01 UTC."""
    try:
        return datetime.fromtimestamp(seconds).astimezone().strftime("%Y-%m-%d")
    except (OverflowError, ValueError, OSError):
        return NO_DAY


def when_words(stamp_utc: str) -> str:
    """A stored moment in local time, to the minute; empty for none."""
    if not stamp_utc:
        return ""
    try:
        return datetime.fromisoformat(stamp_utc).astimezone().strftime("%Y-%m-%d %H:%M")
    except (OverflowError, ValueError, OSError):
        return NO_DAY


def _lower(title: str) -> str:
    """A title inside a sentence; units and names in it stay as they are."""
    return title[:1].lower() + title[1:]


def _machine_field(rest: str) -> str:
    zone, part, *field = rest.split(".")
    names = {"max_c": "limit", "basis": "known from", "fitted": "fitted", "price": "price", "name": "make"}
    found = declared(f"machine.{rest}") if field else None
    title = str(found.metadata.get("title", "")) if found is not None else ""
    tail = f", {names.get(field[0]) or _lower(title) or field[0]}" if field else ""
    return f"{zone}: {PART_TITLES.get(part, part)}{tail}"


def odds_words(chance: float) -> str:
    """A chance as a person counts it."""
    if chance >= ALL:
        return "nearly all such runs"
    if chance < NONE:
        return "fewer than 1 in 100 such runs"
    return (
        f"about {round(10.0 * chance)} in 10 such runs"
        if chance > 0.4
        else f"about 1 in {round(1.0 / chance)} such runs"
    )


def told_at_once(findings: Sequence[Finding]) -> int:
    """How many findings are told before the smaller ones: every stop and what can hurt, else the five that cost most.

    What can hurt people is never among the smaller ones.
    """
    held = [place for place, each in enumerate(findings) if each.severity == "stop" or CODES[each.code].is_safety]
    return min(max(MOST_TOLD, max(held, default=-1) + 1), len(findings))


def smaller_words(smaller: Sequence[Finding], wording: Wording) -> str:
    """How many findings are folded, and what they cost together."""
    cost = lost_together(smaller)
    worth = "" if cost is None else f", {wording.value(cost, 'money')} a run on average"
    return f"And {len(smaller)} smaller{worth}"
