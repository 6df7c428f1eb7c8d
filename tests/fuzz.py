"""Hostile input at every door: python -m tests.fuzz --count N --seed S [--door NAME]

A plain seeded generator: the same count and seed make the same cases. A door may refuse in words (KaustosError);
anything else that it raises is a fault, and so is what it takes and cannot give back. Exit code 1 where there is one.
"""

import argparse
import contextlib
import csv
import io
import json
import random
import re
import sys
import tempfile
import time
import traceback
from collections.abc import Callable
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.clock import read_moment, read_past
from kaustos.app.edits import Draft
from kaustos.app.exchange import with_document
from kaustos.app.intake import Intake
from kaustos.app.judge import Judge, context_of_records
from kaustos.app.settings import Settings, load_settings
from kaustos.app.stored import changed as rows_of
from kaustos.app.stored import not_readable, read_whole
from kaustos.app.wording import Wording
from kaustos.app.workspace import read_records
from kaustos.core.errors import KaustosError
from kaustos.core.records import KINDS
from kaustos.demo.scenario import RECORDS
from kaustos.devices.registers import controller_at
from kaustos.devices.serial_line import ASKS, SerialMachine
from kaustos.formats.csv_tables import write_recipes, write_runs
from kaustos.formats.json_text import write_json
from kaustos.formats.lots_csv import write_lots
from kaustos.formats.recipe_file import RecipeDocument, read_recipe, recipe_document, write_recipe
from kaustos.library import check
from kaustos.library.loader import DATA
from kaustos.store import Store
from tests.core.records.test_bounds import is_sound, places
from tests.store.support import opened_in
from tests.support import NOW, demo_bytes, opened
from tests.support import changed as with_changes

ODD_WORDS = (
    "", " ", "\t", "\n", "\0", "é", "\u202e", "\ud800", "\udfff", "<b>x</b>", "<img src=x>", "=1+1", "@x", "'", '"',
    "a/b", "../x", "x" * 300, "NaN", "Infinity", "-0", "1e999", "1_000", "\u0663", "½", "True", "null", "{}", "[]",
    "%s", "{0}", "$x", "🙂", "a\u0301", "°C", "−5", "5−", "5..5", "1,000", "1.000,5", ",5", "5,", "0x10",
)  # fmt: skip
ODD_NUMBERS = (0, -0.0, 1, -1, 1e308, -1e308, 1e-308, 5e-324, 2**53, 2**63, 10**400, 0.1, 373.9999, -273.15, -273.2,
               1e5, 99999999999999999999)  # fmt: skip
UNITS = ("", " °C", " °F", " K", "C", " F", " mm", " in", "\"", " g", " kg", " h", " min", " s", " %", " €", " €/kg",
         " MPa", " psi", " d", " weeks", " ±5", " ± 5", "% water", " ppm", " h 30", ":30", " /", "²")  # fmt: skip
MOMENTS = ("07:30", "today", "tomorrow 7.30", "Thursday 07:30", "0001-01-01", "9999-12-31 23:59", "2026-02-30", "24:00",
           "12 am", "13 pm", "-6 h", "+6 h", "3 weeks ago", "99999999999 d ago", "2026-03-29 01:30", "mon", "m", "7",
           "2026-03-01T08:00:00Z", "2026-03-01T08:00:00+99:00")  # fmt: skip
Case = Callable[[random.Random], None]


def odd(pick: random.Random) -> Any:
    """A value that no document should hold, or hardly."""
    kind = pick.randrange(8)
    if kind == 0:
        return pick.choice(ODD_NUMBERS)
    if kind == 1:
        return pick.choice(ODD_WORDS)
    if kind == 2:
        return pick.choice((None, True, False, [], {}, [None], {"": ""}))
    if kind == 3:
        return pick.uniform(-1e6, 1e6)
    if kind == 4:
        return [odd(pick) for _ in range(pick.randrange(3))]
    if kind == 5:
        return {pick.choice(ODD_WORDS): odd(pick) for _ in range(pick.randrange(3))}
    if kind == 6:
        return float(pick.choice(("nan", "inf", "-inf")))
    return pick.choice(MOMENTS)


def spoiled(value: Any, pick: random.Random, often: float) -> Any:
    """A document with some of its parts replaced, lost, doubled or moved."""
    if pick.random() < often:
        return odd(pick)
    if isinstance(value, dict):
        found = {key: spoiled(each, pick, often) for key, each in value.items() if pick.random() > often / 3}
        if pick.random() < often:
            found[pick.choice(ODD_WORDS)] = odd(pick)
        return found
    if isinstance(value, list):
        found_list = [spoiled(each, pick, often) for each in value if pick.random() > often / 3]
        return found_list * 2 if pick.random() < often / 2 else found_list
    return value


def torn(text: str, pick: random.Random) -> str:
    """A text with some of its signs replaced, lost or doubled."""
    signs = list(text)
    for _ in range(pick.choice((1, 2, 5, 20))):
        at = pick.randrange(len(signs) or 1)
        act = pick.randrange(4)
        if act == 0 and signs:
            signs[at : at + 1] = pick.choice(ODD_WORDS)
        elif act == 1:
            del signs[at : at + pick.choice((1, 3, 200))]
        elif act == 2:
            signs[at:at] = signs[at : at + pick.choice((1, 30))]
        else:
            signs[at:at] = pick.choice('{}[]",:;\n\\')
    return "".join(signs)


# ---- the doors


def recipes() -> Case:
    """Recipe files: refused, or taken in, stored as they are and written out again."""
    names = list(RECORDS.cards)
    whole = [_document(name) for name in names]

    def case(pick: random.Random) -> None:
        document = pick.choice(whole)
        if pick.random() < 0.75:
            text = json.dumps(
                spoiled(document, pick, pick.choice((0.002, 0.01, 0.05))), ensure_ascii=pick.random() < 0.5
            )
        else:
            text = torn(write_json(document), pick)
        found = read_recipe(text, "fuzz.json")
        again = read_recipe(write_recipe(found), "again.json")
        assert (again.recipe, again.chosen, again.extra_context, again.beside) == (
            found.recipe, found.chosen, found.extra_context, found.beside), "comes back otherwise"  # fmt: skip
        records = with_document(RECORDS, found, "fuzz.json")
        for row in rows_of(RECORDS, records):
            fault = not_readable(row, ())
            assert not fault, fault

    return case


def _document(card: str) -> dict[str, Any]:
    records = opened(card)
    chosen = {**records.card.chosen, **records.chosen(records.card)}
    return recipe_document(RecipeDocument(recipe=records.card.recipe, chosen=chosen))


def tables() -> Case:
    """Rows of all three tables: refused with their line, or taken in and stored as they are."""
    folder = Path(tempfile.mkdtemp(prefix="kaustos-fuzz-"))
    (folder / "demo.kaustos").write_bytes(demo_bytes())
    runs = read_records(folder / "demo.kaustos").runs
    texts = {
        "runs.csv": write_runs(runs.values()),
        "recipes.csv": write_recipes((key, card.recipe, card.chosen) for key, card in RECORDS.cards.items()),
        "lots.csv": write_lots(RECORDS.lots.values()),
    }
    bare = RECORDS.with_tables(runs={}, cards={}, lots={})
    revisions = frozenset((run.card, run.revision) for run in runs.values())

    def case(pick: random.Random) -> None:
        name = pick.choice(list(texts))
        lines = list(csv.reader(io.StringIO(texts[name])))
        rows = [lines[0], *map(list, pick.sample(lines[1:], min(3, len(lines) - 1)))]
        if pick.random() < 0.7:
            for _ in range(pick.choice((0, 1, 1, 1, 3, 10))):
                row = pick.choice(rows if pick.random() < 0.2 else rows[1:])
                words = (
                    pick.choice(ODD_WORDS),
                    pick.choice(MOMENTS),
                    str(odd(pick)),
                    f"{pick.uniform(-9, 9e4):.3f}",
                    "",
                )
                row[pick.randrange(len(row))] = pick.choice(words)
        out = io.StringIO()
        csv.writer(out).writerows(rows)
        text = out.getvalue() if pick.random() < 0.8 else torn(out.getvalue(), pick)
        file = folder / name
        file.write_bytes(text.encode("utf-8", "surrogatepass"))
        taken = Intake(file, bare, revisions)()
        records = bare.with_tables(**{taken.shape.many: dict(taken.found)})
        for row in rows_of(bare, records):
            fault = not_readable(row, ())
            assert not fault, fault

    return case


def typed() -> Case:
    """Texts typed into every field: refused beside it, or set, shown and typed again as shown."""
    draft = Draft(opened("winch_bracket"), Wording(Settings()), lambda _: None)
    paths = [path for path, _ in places(draft.records)]
    paths += ["name", "part", "brief.purpose", "brief.outdoor", "stock.wanted_utc", "lot.grade", "lot.received_utc",
              "lot.lot_values.glass_transition_c", "rules.room_c", "rules.liner_stop_c", "machine.name"]  # fmt: skip
    fresh, comma = draft.records, Wording(Settings(decimal="comma", temperature="°F"))

    def case(pick: random.Random) -> None:
        if pick.random() < 0.15:
            text = pick.choice(MOMENTS) if pick.random() < 0.5 else torn(pick.choice(MOMENTS), pick)
            for read in (read_moment, read_past):
                with contextlib.suppress(KaustosError):
                    assert 1970 <= read(text, NOW).year < 2200
            return
        number = pick.choice((f"{pick.uniform(-500, 900):.{pick.randrange(4)}f}", str(pick.choice(ODD_NUMBERS))))
        text = number + pick.choice(UNITS) if pick.random() < 0.6 else torn(number + pick.choice(UNITS), pick)
        if pick.random() < 0.2:
            text = pick.choice(ODD_WORDS)
        draft.wording = pick.choice((draft.wording, comma))
        path = pick.choice(paths)
        try:
            draft.propose(path, text)
        except KaustosError as refused:
            str(refused).encode("utf-8", "backslashreplace")
            raise
        shown = draft.text(path)
        draft.propose(path, shown)
        assert draft.text(path) == shown, (
            f"{path}: {text!r} is shown as {shown!r} and typed again as {draft.text(path)!r}"
        )
        if pick.random() < 0.05:
            draft.reload(fresh)

    return case


def workspaces() -> Case:
    """Damaged workspace files: one sentence, or what can be read, and every descriptor closed."""
    whole = demo_bytes()
    folder = Path(tempfile.mkdtemp(prefix="kaustos-fuzz-"))

    def case(pick: random.Random) -> None:
        content = bytearray(whole)
        where = len(content) if pick.random() < 0.6 else 4096
        for _ in range(pick.choice((1, 1, 5, 50, 500))):
            at = pick.randrange(where)
            content[at : at + pick.choice((1, 1, 4, 64))] = bytes(
                pick.choice((0, 255, pick.randrange(256))) for _ in range(1)
            )
        if pick.random() < 0.1:
            del content[pick.randrange(len(content)) :]
        for each in folder.iterdir():
            each.unlink()
        file = folder / "fuzz.kaustos"
        file.write_bytes(content)
        if pick.random() < 0.2:
            file.with_name("fuzz.kaustos-wal").write_bytes(
                bytes(pick.randrange(256) for _ in range(pick.choice((1, 32, 5000))))
            )
        try:
            store = Store(file, write=pick.random() < 0.5)
            try:
                records, _ = read_whole(store)
                for kind in KINDS:
                    assert len(records.tables[kind.many]) <= 50
                for read in (
                    store.history,
                    store.released,
                    store.kept_revisions,
                    lambda: store.revisions("winch_bracket"),
                ):
                    with contextlib.suppress(KaustosError):
                        read()
            finally:
                store.close()
        except KaustosError as told:
            assert "\n" not in str(told) and "fuzz.kaustos" in str(told), f"no sentence: {told}"
            raise
        finally:
            assert not opened_in(folder), "a descriptor is left open"

    return case


TO_THE_END = 0.05  # of judgements, with all that takes long


def judgements() -> Case:
    """Numbers of what is judged at the ends of what they may hold, in any mixture: nothing raises, all is a number.

    One in twenty is judged to the end: trying levers asks the same functions of recipes near by.
    """
    judge, polymers = Judge(kept=2), list(RECORDS.polymers)
    cards = {card: list(places(opened(card))) for card in ("probe_head_shell", "winch_bracket", "cable_guide")}

    def case(pick: random.Random) -> None:
        card = pick.choice(list(cards))
        wanted = pick.sample(cards[card], pick.choice((1, 3, 10, 40)))
        values = {path: pick.choice(ends) for path, ends in wanted} | {"polymer": pick.choice(polymers)}
        try:
            records = with_changes(opened(card), values)
        except KaustosError:
            return  # rules that contradict each other
        recipe, context = records.card.recipe, context_of_records(records, NOW)
        to_the_end = pick.random() < TO_THE_END
        found = judge.to_the_end(recipe, context)[1] if to_the_end else judge.at_hand(recipe, context).review
        assert is_sound(found), f"no number: {values}"
        wording = Wording(Settings())
        for finding in found.findings():
            wording.text(finding), wording.cost(finding)
        for operation in found.operations:
            for figure in operation.figures:
                wording.figure(figure)

    return case


def library() -> Case:
    """Files of the library as somebody may edit them: their faults are listed, nothing is raised."""
    folder = Path(tempfile.mkdtemp(prefix="kaustos-fuzz-"))
    whole = {file.relative_to(DATA): file.read_text(encoding="utf-8") for file in sorted(DATA.rglob("*.toml"))}

    def case(pick: random.Random) -> None:
        name = pick.choice(list(whole))
        text = torn(whole[name], pick)
        if pick.random() < 0.6:
            lines = whole[name].splitlines()
            at = pick.randrange(len(lines))
            lines[at] = lines[at].partition("=")[0] + "= " + json.dumps(odd(pick))
            text = "\n".join(lines)
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_bytes(text.encode("utf-8", "surrogatepass"))
        try:
            found, faults = check(folder)
        finally:
            (folder / name).unlink()  # else every later case would show the same fault
        assert all(isinstance(each, str) for each in faults)
        for polymer in found.polymers.values():
            assert is_sound(polymer)
        if faults:
            raise KaustosError(faults[0])

    return case


def settings() -> Case:
    """Settings files: defaults hold and the fault is told."""
    file = Path(tempfile.mkdtemp(prefix="kaustos-fuzz-")) / "settings.json"
    whole = attrs.asdict(Settings(who="A. Tester"))

    def case(pick: random.Random) -> None:
        text = json.dumps(spoiled(whole, pick, 0.2)) if pick.random() < 0.6 else torn(json.dumps(whole), pick)
        file.write_bytes(text.encode("utf-8", "surrogatepass"))
        found, fault = load_settings(file)
        assert isinstance(found, Settings) and (not fault or found == Settings())

    return case


PLACES = ("host:502 h1/10 h0/10", "127.0.0.1:5020 i1/10", "h:1 h65535/1", "oven.local:502 H1/100 I2/10")


def controllers() -> Case:
    """Places of controllers and what their registers show: refused in a sentence, or a value that can be."""

    def case(pick: random.Random) -> None:
        whole = pick.choice(PLACES)
        words = torn(whole, pick) if pick.random() < 0.5 else whole
        if pick.random() < 0.5:
            number = str(pick.choice((0, 1, 10, 125, 65535, 65536, 70000, 10**9, 10**400, -1)))
            words = re.sub(r"\d+", lambda found: number if pick.random() < 0.4 else found[0], words)
        if pick.random() < 0.1:
            words = pick.choice(ODD_WORDS)
        _, port, registers = controller_at(words)
        assert 1 <= port <= 65535
        for each in registers:
            likely = each.bits(pick.uniform(each.channel.low, each.channel.high))
            shown = each.decoded(likely if pick.random() < 0.8 else pick.randrange(0x10000), "Oven")
            assert each.channel.low <= shown <= each.channel.high
            assert 0 <= each.encoded(shown, "Oven") <= 0xFFFF

    return case


class _Line:
    """A serial line that says what it was given, and then nothing."""

    def __init__(self, said: bytes) -> None:
        self.said, self.timeout = said, 0.0

    @property
    def in_waiting(self) -> int:
        return len(self.said)

    def read(self, count: int) -> bytes:
        got, self.said = self.said[:count], self.said[count:]
        return got

    def write(self, data: bytes) -> int:
        assert data.decode("ascii").strip() in ASKS
        return len(data)

    def reset_input_buffer(self) -> None:
        """What is said is the answer here."""


ANSWERS = (
    b"ok T:21.3 /0.0 B:22.0 /60.0 C:23.1 /0.0 @:0 B@:127\n", b"SD printing byte 2134/56789\nok\n", b"ok\n", b"wait\n",
    b"X:1.00 Y:2.00 Z:3.45 E:0.00\nok\n", b"T:-14.9 /300 @:255\nok\n", b"echo:busy\n", b"ok T:1e5 /9\n", b"\xff\xfe\n",
)  # fmt: skip


def serial_answers() -> Case:
    """What a board says on its line: values that can be, or a fault of the device in words."""

    def case(pick: random.Random) -> None:
        said = b"".join(pick.choice(ANSWERS) for _ in range(pick.randrange(5)))
        if pick.random() < 0.6:
            said = torn(said.decode("latin-1"), pick).encode("latin-1", "replace")
        machine = object.__new__(SerialMachine)
        machine.name, machine._timeout_s, machine._line = "Tarn", 0.002, _Line(said)
        ask = pick.choice((machine._heats, machine._through, machine._height))
        found = ask()
        values = found.values() if isinstance(found, dict) else [found]
        assert all(isinstance(each, float) for each in values)

    return case


DOORS: dict[str, Callable[[], Case]] = {
    "recipes": recipes, "tables": tables, "typed": typed, "workspaces": workspaces, "judgements": judgements,
    "library": library, "settings": settings, "controllers": controllers, "serial": serial_answers,
}  # fmt: skip


@attrs.define
class Tried:
    """How the cases at a door went."""

    refused: int = 0
    faults: list[str] = attrs.field(factory=list)


def tried(door: str, count: int, seed: int) -> Tried:
    """Try a door: what was refused in words, and what went wrong with its number and stack."""
    case, found = DOORS[door](), Tried()
    for number in range(count):
        pick = random.Random(f"{seed} {door} {number}")
        try:
            case(pick)
        except KaustosError:
            found.refused += 1
        except Exception as fault:  # noqa: BLE001 - every other kind is what is looked for
            found.faults.append(f"{door} {number}: {''.join(traceback.format_exception(fault)[-6:])}")
    return found


def main() -> int:
    """Try the doors and print what went wrong."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--count", type=int, default=200, help="cases at each door")
    parser.add_argument("--seed", type=int, default=2026)
    parser.add_argument("--door", choices=DOORS, action="append", help="only these")
    wanted = parser.parse_args()
    bad = 0
    for door in wanted.door or DOORS:
        began, found = time.monotonic(), tried(door, wanted.count, wanted.seed)
        for fault in found.faults[:5]:
            print(fault)
        bad += len(found.faults)
        print(
            f"{door}: {wanted.count} cases, seed {wanted.seed}, {found.refused} refused, {len(found.faults)} faults, "
            f"{time.monotonic() - began:.0f} s"
        )
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
