"""Recipes and runs as CSV: one column for each field, its unit in the heading; faults name line and column."""

import csv
import io
import json
import re
from collections.abc import Iterable, Mapping
from typing import Any

import attrs

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.progress import UNWATCHED, Progress, watched
from kaustos.core.records import (
    CHOSEN,
    AnnealStep,
    Observation,
    Recipe,
    Run,
    RunPiece,
    RunRest,
    RunSensor,
    RunStep,
    Settled,
    log_faults,
    outside_faults,
)
from kaustos.core.records.fields import declaration, value_at, with_value
from kaustos.core.records.quantities import QUANTITIES, Unit, either_way
from kaustos.formats.records import from_document, to_document

CHOSEN_COLUMNS = {kind.one: "part_file" if kind.one == "part" else kind.one for kind in CHOSEN}  # "part" is its words
RECIPE_IDS = ("id", *CHOSEN_COLUMNS.values())
RecipeRow = tuple[str, Recipe, Mapping[str, str]]  # id, recipe, what is chosen for it
RUN_FIELDS = (
    "id", "card", "revision", "machine", "configuration", "lot", "nozzle", "plate", "agent", "job", "polymer", "kind",
    "started_utc", "look_due_utc", "looked_utc", "looked_by", "ended_utc",
    "outcome", "planned_h", "told_h", "ran_h", "mass_g", "filament", "part", "shape", "off", "off_c",
    "hours_lost", "money_lost", "despite", "note",
)  # fmt: skip
RUN_PAIRS = ("settings", "hot", "bond")  # words with a number each, in one cell
RUN_WORDS = ("unmet", "foretold")  # words, several in one cell
RUN_LISTS = {  # each as JSON in one cell
    "steps": RunStep, "sensors": RunSensor, "rests": RunRest, "course": RunPiece, "settled": Settled,
}  # fmt: skip
OBSERVED = ("what", "where", "at_h", "at_mm", "lift_mm", "note")
LIST_SEPARATOR = ";"
STEPS_UNIT, STEPS_BEFORE = "°C@h@K/h", "°C@h"  # as it is written, and as earlier versions wrote it
STEP_PARTS = 3  # hold, hours, ramp


def recipe_paths() -> tuple[str, ...]:
    """Every plain field of a recipe by its path, in the order of the columns."""
    found = []
    for section in attrs.fields(Recipe):
        if attrs.has(section.type):  # type: ignore[arg-type]
            plain = [each.name for each in attrs.fields(section.type) if each.name not in ("extra", "steps")]
            found += [f"{section.name}.{name}" for name in plain]
        elif section.name != "extra":
            found.append(section.name)
    return tuple(found)


def _heading(path: str) -> str:
    field = declaration(Recipe, path)
    quantity = field.metadata.get("quantity") if field else None
    return f"{path} [{QUANTITIES[quantity].unit}]" if quantity else path


def write_recipes(rows: Iterable[RecipeRow]) -> str:
    """Recipes as CSV; anneal steps as temperature@hours@ramp."""
    paths = recipe_paths()
    headings = [*RECIPE_IDS, *map(_heading, paths), f"anneal.steps [{STEPS_UNIT}]"]
    lines = [headings]
    for key, recipe, chosen in rows:
        steps = LIST_SEPARATOR.join(
            "@".join(map(cell, (each.temperature_c, each.hold_h, each.ramp_k_h))) for each in recipe.anneal.steps
        )
        values = [cell(value_at(recipe, path)) for path in paths]
        lines.append([key, *(chosen.get(kind.one, "") for kind in CHOSEN), *values, steps])
    return written(lines)


def write_runs(runs: Iterable[Run]) -> str:
    """Runs as CSV: one line for each observation, one for a run without any."""
    lines = [[*RUN_FIELDS, *RUN_PAIRS, *RUN_WORDS, *RUN_LISTS, *(f"seen.{name}" for name in OBSERVED)]]
    for run in runs:
        own = [cell(getattr(run, name)) for name in RUN_FIELDS]
        for name in RUN_PAIRS:
            pairs = getattr(run, name).items()
            own.append(LIST_SEPARATOR.join(f"{path}={cell(value)}" for path, value in pairs))
        own += [LIST_SEPARATOR.join(getattr(run, name)) for name in RUN_WORDS]
        own += [_in_json(getattr(run, name)) for name in RUN_LISTS]
        for seen in run.observations or (None,):
            lines.append([*own, *(cell(getattr(seen, name)) if seen else "" for name in OBSERVED)])
    return written(lines)


def _in_json(entries: tuple[Any, ...]) -> str:
    """Entries in one cell, what is empty left out; an empty cell for none."""
    plain = [{key: value for key, value in to_document(each).items() if value not in (None, "", [], False)}
             for each in entries]  # fmt: skip
    return json.dumps(plain, ensure_ascii=False, separators=(",", ":")) if plain else ""


def _out_of_json(text: str, kind: type, column: str) -> tuple[Any, ...]:
    """Entries out of one cell."""
    if not text.strip():
        return ()
    try:
        found = json.loads(text)
    except ValueError as error:
        raise KaustosError(f"column {column}: is no JSON: {error}") from error
    if not isinstance(found, list):
        raise KaustosError(f"column {column}: must be a list")
    return tuple(from_document(kind, each, f"{column}[{place}]") for place, each in enumerate(found))


def cell(value: object) -> str:
    """A value as it stands in a cell."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:.12g}" if isinstance(value, float) else str(value)


def written(lines: list[list[str]]) -> str:
    """Lines of cells as CSV; words that a spreadsheet would take for a formula are disarmed, numbers stay."""
    text = io.StringIO()
    plain = csv.writer(text, lineterminator="\n")
    quoted = csv.writer(text, lineterminator="\n", quoting=csv.QUOTE_ALL)  # a carriage return is quoted by nobody else
    for line in lines:
        cells = [disarmed(each) for each in line]
        (quoted if any("\r" in str(each) for each in cells) else plain).writerow(cells)
    return text.getvalue()


FORMULA = ("=", "+", "-", "@", "\t", "\r")
SIGN = "'"  # before a cell that would be taken for a formula, and before one that begins with the sign itself


def disarmed(words: str) -> str:
    """Words with a sign before them where they begin as a formula does."""
    return SIGN + words if words.startswith((*FORMULA, SIGN)) and not _NUMBER.fullmatch(words) else words


def armed(words: str) -> str:
    """The words that were disarmed; what others wrote is as they wrote it."""
    return words[1:] if words.startswith(SIGN) and words[1:].startswith((*FORMULA, SIGN)) else words


# ---- reading


@attrs.frozen
class Table:
    """Lines of a CSV file under their headings, units taken off."""

    name: str
    lines: tuple[tuple[int, Mapping[str, str]], ...]  # line number in the file, cells by heading
    units: Mapping[str, str] = attrs.field(factory=dict)  # what stands in brackets behind a heading
    comma: str = "open"  # what a comma in a number is by all that the table shows: point, thousands or open

    def number(self, text: str, unit: Unit | None = None) -> float | None:
        """A number of this table in the shop unit; empty is not recorded."""
        value = number(text, self.comma)
        return value if value is None or unit is None else unit.to_shop(value)

    def shop_units(self, quantities: Mapping[str, str]) -> dict[str, Unit]:
        """The units of columns by their headings; one that is none of its quantity is refused, never taken for ours."""
        found, faults = {}, []
        for heading, words in self.units.items():
            quantity = QUANTITIES.get(quantities.get(heading, ""))
            if quantity is None or words == quantity.unit:
                continue
            unit = quantity.spelled(words.strip().lower().replace("°", "deg"))
            if unit is None:
                faults.append(f"line 1, column {heading}: [{words}] is no unit of it; write [{quantity.unit}]")
            else:
                found[heading] = unit
        if faults:
            raise FaultList(self.name, tuple(faults))
        return found

    def has(self, *headings: str) -> bool:
        """Whether all these columns are there."""
        return bool(self.lines) and all(heading in self.lines[0][1] for heading in headings)


def read_table(text: str, name: str) -> Table:
    """The lines of a CSV text, separated by commas or semicolons; faults name the line."""
    if not text.strip():
        raise KaustosError(f"{name}: is empty")
    csv.field_size_limit(max(csv.field_size_limit(), len(text)))  # a cell is never longer than the text it stands in
    separator = ";" if text.splitlines()[0].count(";") > text.splitlines()[0].count(",") else ","
    reader = csv.reader(io.StringIO(text.removeprefix("\ufeff")), delimiter=separator, strict=True)
    try:
        rows = [(reader.line_num, [armed(each) for each in row]) for row in reader if any(each.strip() for each in row)]
    except csv.Error as error:
        raise KaustosError(f"{name}: line {reader.line_num}: {error}") from error
    if not rows:
        raise KaustosError(f"{name}: holds separators and nothing between them")
    headings = [cell.partition("[")[0].strip() for cell in rows[0][1]]
    units = {
        heading: cell.partition("[")[2].rpartition("]")[0]
        for heading, cell in zip(headings, rows[0][1], strict=True)
        if "[" in cell
    }
    doubled = {each for each in headings if headings.count(each) > 1}
    if doubled:
        raise KaustosError(f"{name}: line 1: column {', '.join(sorted(doubled))} stands twice")
    faults = [
        f"line {line}: has {len(row)} cells, the heading has {len(headings)}"
        for line, row in rows[1:]
        if len(row) != len(headings)
    ]
    if faults:
        raise FaultList(name, tuple(faults))
    lines = tuple((line, dict(zip(headings, row, strict=True))) for line, row in rows[1:])
    return Table(name, lines, units, _comma_of((cell for _, row in rows[1:] for cell in row), separator))


_NUMBER = re.compile(r"[-+]?([0-9]+\.?[0-9]*|\.[0-9]+)([eE][-+]?[0-9]+)?")  # plain digits, no nan, no 1_000
_GROUPS = re.compile(r"[-+]?\d{1,3}(,\d{3})+(\.\d+)?")  # 1,000 and 1,000,000.5
_COMMA = re.compile(r"[-+]?\d+,\d+")


def _comma_of(cells: Iterable[str], separator: str) -> str:
    """What a comma between digits is, by every cell of a table."""
    points = thousands = False
    for cell in cells:
        plain = cell.strip()
        if "," in plain:
            points |= bool(_COMMA.fullmatch(plain)) and (not _GROUPS.fullmatch(plain) or plain.lstrip("+-")[0] == "0")
            thousands |= bool(_GROUPS.fullmatch(plain)) and ("." in plain or plain.count(",") > 1)
    if points and thousands:
        return "open"
    return "thousands" if thousands else "point" if points or separator == ";" else "open"


def read_recipes(table: Table, progress: Progress = UNWATCHED) -> tuple[RecipeRow, ...]:
    """Recipes of a table that has their columns; all faults at once."""
    faults: list[str] = []
    found = []
    paths = [path for path in recipe_paths() if table.has(path)]
    units = table.shop_units({path: _quantity_of(path) for path in paths})
    if table.units.get("anneal.steps", STEPS_UNIT) not in (STEPS_UNIT, STEPS_BEFORE):
        raise FaultList(table.name, (f"line 1, column anneal.steps: must be in [{STEPS_UNIT}]",))
    for line, cells in watched(table.lines, progress):
        recipe = Recipe()
        for path in paths:
            try:
                recipe = with_value(recipe, path, _parsed(path, cells[path], table, units.get(path)))
            except (KaustosError, ValueError) as error:
                faults.append(f"line {line}, column {path}: {error}")
        try:
            steps = tuple(
                _step(each, table) for each in cells.get("anneal.steps", "").split(LIST_SEPARATOR) if each.strip()
            )
            recipe = with_value(recipe, "anneal.steps", steps)
        except (KaustosError, ValueError) as error:
            faults.append(f"line {line}, column anneal.steps: {error}")
        faults += [f"line {line}, column {fault}" for fault in outside_faults(recipe)]
        chosen = {kind: cells[column] for kind, column in CHOSEN_COLUMNS.items() if cells.get(column)}
        found.append((cells["id"].strip(), recipe, chosen))
    if faults:
        raise FaultList(table.name, tuple(faults))
    return tuple(found)


def _step(step: str, table: Table) -> AnnealStep:
    """Hold, hours and ramp of one step; the ramp may be left out."""
    found = [table.number(each) for each in step.split("@")]
    if len(found) > STEP_PARTS:
        raise KaustosError(f"{step:.40} is no step; write 150@2@60 for 150 °C, 2 h, 60 K/h")
    hold_c, hold_h, ramp_k_h = (*found, None, None)[:3]
    return AnnealStep(temperature_c=hold_c, hold_h=hold_h, ramp_k_h=ramp_k_h)


def read_runs(table: Table, progress: Progress = UNWATCHED) -> tuple[Run, ...]:
    """Runs of a table that has their columns, observations of one run gathered; all faults at once."""
    faults: list[str] = []
    found: dict[str, Run] = {}
    whole: dict[str, Run] = {}  # each as its first line has it, without what was seen
    units = table.shop_units(_RUN_QUANTITIES)
    for line, cells in watched(table.lines, progress):
        key = cells["id"].strip()
        try:
            if not key:
                raise KaustosError("a run needs an id")
            run = Run(**_run_values(cells, table, units))
            if key not in found:
                found[key] = whole[key] = run
                faults += [f"line {line}, column {fault}" for fault in (*outside_faults(run), *log_faults(run))]
            elif run != whole[key]:
                raise KaustosError(f"run {key!r:.60} stands above with other values; it cannot be both")
            seen = _observation(cells, table, units)
            if seen is not None:
                faults += [f"line {line}, column seen.{fault}" for fault in outside_faults(seen)]
                found[key] = attrs.evolve(found[key], observations=(*found[key].observations, seen))
        except (KaustosError, ValueError, KeyError) as error:
            faults.append(f"line {line}: {error}")
    if faults:
        raise FaultList(table.name, tuple(faults))
    return tuple(found.values())


_RUN_DECLARED = attrs.fields_dict(Run)
_RUN_NUMBERS = frozenset(("revision", *(name for name in RUN_FIELDS if "quantity" in _RUN_DECLARED[name].metadata)))
_RUN_NONE = frozenset(
    name for name in RUN_FIELDS if name not in _RUN_NUMBERS and _RUN_DECLARED[name].default is None
)  # empty cells of these say that nothing is recorded
_RUN_QUANTITIES = {
    **{field.name: str(field.metadata.get("quantity", "")) for field in attrs.fields(Run)},
    **{f"seen.{field.name}": str(field.metadata.get("quantity", "")) for field in attrs.fields(Observation)},
}


def _run_values(cells: Mapping[str, str], table: Table, units: Mapping[str, Unit]) -> dict[str, Any]:
    values: dict[str, Any] = {}
    for name in RUN_FIELDS:
        text = cells.get(name, "").strip()
        values[name] = table.number(text, units.get(name)) if name in _RUN_NUMBERS else text
        if name in _RUN_NONE:
            values[name] = text or None
    if values["revision"] is None:
        raise KaustosError("column revision: a run hangs on a revision")
    for name in RUN_PAIRS:
        pairs = [pair for pair in cells.get(name, "").split(LIST_SEPARATOR) if pair.strip()]
        values[name] = dict(_pair(name, pair, table) for pair in pairs)
    for name in RUN_WORDS:
        words = cells.get(name, "").split(LIST_SEPARATOR)
        values[name] = tuple(each.strip() for each in words if each.strip())
    for name, kind in RUN_LISTS.items():
        values[name] = _out_of_json(cells.get(name, ""), kind, name)
    return values


def _pair(name: str, pair: str, table: Table) -> tuple[str, float]:
    path, _, text = (part.strip() for part in pair.partition("="))
    value = table.number(text)
    if value is None:
        raise KaustosError(f"column {name}: {path or pair!r:.60} has no value; leave it out, or write {path}=250")
    return path, value


def _observation(cells: Mapping[str, str], table: Table, units: Mapping[str, Unit]) -> Observation | None:
    what = cells.get("seen.what", "").strip()
    if not what:
        return None
    return Observation(
        what=what, where=cells.get("seen.where", "").strip() or None,
        at_h=table.number(cells.get("seen.at_h", ""), units.get("seen.at_h")),
        at_mm=table.number(cells.get("seen.at_mm", ""), units.get("seen.at_mm")),
        lift_mm=table.number(cells.get("seen.lift_mm", ""), units.get("seen.lift_mm")), note=cells.get("seen.note", ""),
    )  # fmt: skip


def _quantity_of(path: str) -> str:
    field = declaration(Recipe, path)
    return str(field.metadata.get("quantity", "")) if field is not None else ""


def _parsed(path: str, text: str, table: Table, unit: Unit | None) -> object:
    field, plain = declaration(Recipe, path), text.strip()
    if field is not None and field.metadata.get("text"):
        return plain
    if not plain:
        return None
    if field is not None and field.metadata.get("flag"):
        if plain not in ("yes", "no"):
            raise KaustosError(f"must be yes, no or empty, got {plain!r:.40}")
        return plain == "yes"
    if field is not None and "quantity" in field.metadata:
        return table.number(plain, unit)
    return plain


def number(text: str, comma: str = "point") -> float | None:
    """A number with a point or a comma; empty is not recorded, what may be one or a thousand is asked for."""
    plain = text.strip()
    if not plain:
        return None
    groups = bool(_GROUPS.fullmatch(plain)) and plain.lstrip("+-")[0] != "0"
    is_many = groups and ("." in plain or plain.count(",") > 1)
    either = either_way(plain.lstrip("+-"))
    if either and comma == "open":
        raise KaustosError(f"{plain!r:.40} may be {either[0]} or {either[1]}: write it so")
    plain = plain.replace(",", "" if is_many or (groups and comma == "thousands") else ".")
    if not _NUMBER.fullmatch(plain):
        raise KaustosError(f"{text.strip()!r:.40} is not a number")
    return float(plain)
