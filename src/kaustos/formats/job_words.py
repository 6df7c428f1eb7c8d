"""Lines of a job file as numbers: the code of each command and, letter by letter, what stands behind it.

Numbers of lines with the same letters are read together; a line that is oddly written is read word by word.
"""

import io
import re
from collections import Counter
from collections.abc import Iterable

import attrs
import numpy as np
import pandas as pd
from numpy.typing import NDArray

from kaustos.core.planning.motion import Array

Ints = NDArray[np.int64]
KIND = 100_000  # between G, M and T in one number
NO_NUMBER = 9_999
LETTERS = frozenset("XYZEFIJKRSPTDW")
_LEFT_OUT = b"0123456789.+- \t\r\v\f"
_TO_SPACE = bytes.maketrans(b"ABCDEFGHIJKLMNOPQRSTUVWXYZ*\n\t\r\v\f", b" " * 32)
_REMARK = re.compile(rb";[^\n]*")
_PARENS = re.compile(rb"\([^()\n]*\)")
_WORD = re.compile(rb"([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))?")
_MACRO = re.compile(rb"[A-Z_][A-Z_0-9.]*")
_PLAIN = re.compile(rb"^(?:N\s*\d+\s*)?[GMT]\s*-?\d")


@attrs.frozen(eq=False)
class Commands:
    """Commands in their order: line in the piece, code, and the numbers behind their letters; nan where none stands."""

    line: Ints
    code: Ints
    columns: dict[str, Array]

    def of(self, letter: str) -> Array:
        """What stands behind a letter."""
        found = self.columns.get(letter)
        return np.full(self.code.size, np.nan) if found is None else found

    def part(self, begin: int, end: int) -> "Commands":
        """Those between two places."""
        columns = {letter: each[begin:end] for letter, each in self.columns.items()}
        return Commands(self.line[begin:end], self.code[begin:end], columns)

    def only(self, rows: Ints) -> "Commands":
        """Some of them."""
        columns = {letter: each[rows] for letter, each in self.columns.items()}
        return Commands(self.line[rows], self.code[rows], columns)

    def word(self, row: int, letter: str) -> float | None:
        """One number; None where none stands."""
        column = self.columns.get(letter)
        return None if column is None or np.isnan(column[row]) else float(column[row])


def without_remarks(text: bytes) -> bytes:
    """Text in capitals, remarks of any style taken out; lines stay lines."""
    text = text.upper()
    if b";" in text:
        text = _REMARK.sub(b"", text)
    return _PARENS.sub(b" ", text) if b"(" in text else text


def commands_in(text: bytes, unknown: Counter[str]) -> tuple[Commands, int]:
    """The commands of some whole lines without remarks, and how many lines they are; what is not known is counted."""
    lines = text.split(b"\n")
    shapes = text.translate(None, _LEFT_OUT).split(b"\n")
    place = _Places()
    which = np.fromiter(map(place.__getitem__, shapes), dtype=np.int64, count=len(shapes))
    letters = [each.decode("latin-1") for each in place]
    plain = np.array([_is_plain(each) for each in letters])
    odd = [row for row in np.flatnonzero(~plain[which]).tolist() if shapes[row] not in (b"", b"%")]
    odd_lines = [lines[row] for row in odd]
    for row in odd:
        lines[row] = b""
    counts = np.array([len(each) if good else 0 for each, good in zip(letters, plain, strict=True)])[which]
    numbers = _numbers(text if not odd else b"\n".join(lines), int(counts.sum()))
    code, columns = np.full(len(lines), -1, dtype=np.int64), dict[str, Array]()
    first = np.cumsum(counts) - counts
    for number in np.flatnonzero(plain).tolist():
        rows, shape = np.flatnonzero(which == number), letters[number]
        if numbers is not None:
            _put(code, columns, rows, shape, numbers, first[rows])
            continue
        mine = [lines[row] for row in rows.tolist()]  # somewhere a letter has no number, or two
        own = _numbers(b"\n".join(mine), len(shape) * len(mine))
        if own is not None:
            _put(code, columns, rows, shape, own, np.arange(len(mine)) * len(shape))
        else:
            odd += rows.tolist()
            odd_lines += mine
    found = Commands(np.arange(len(lines)), code, columns)
    more = _odd_ones(zip(odd, odd_lines, strict=True), unknown)
    if more is not None:
        found = _merged(found, more)
    rows = np.flatnonzero(found.code >= 0)
    return (found if rows.size == found.code.size else found.only(rows)), len(lines)


class _Places(dict[bytes, int]):
    """Counts what it meets for the first time."""

    def __missing__(self, key: bytes) -> int:
        self[key] = found = len(self)
        return found


def _is_plain(letters: str) -> bool:
    """Whether lines of these letters are one command each, every letter with its number."""
    body = letters.removeprefix("N").partition("*")[0]
    if body[:1] not in ("G", "M", "T") or len(set(body)) != len(body) or letters.count("*") > 1:
        return False
    return body.isascii() and body.isalpha() and not set(body[1:]) & set("GMTN") and letters[-1:] != "*" * 2


def _put(code: Ints, columns: dict[str, Array], rows: Ints, shape: str, numbers: Array, first: Ints) -> None:
    """Numbers of lines of one shape, each beginning at its place."""
    begin = 1 if shape[0] == "N" else 0
    number = numbers[first + begin]
    whole = np.floor(number)
    sound = (number == whole) & (whole >= 0.0) & (whole < NO_NUMBER)
    code[rows] = np.where(sound, whole, NO_NUMBER).astype(np.int64) + "GMT".index(shape[begin]) * KIND
    for at in range(begin + 1, len(shape)):
        if shape[at] == "*":
            return
        if shape[at] in LETTERS:
            column = columns.get(shape[at])
            if column is None:
                column = columns[shape[at]] = np.full(code.size, np.nan)
            column[rows] = numbers[first + at]


def _odd_ones(lines: Iterable[tuple[int, bytes]], unknown: Counter[str]) -> Commands | None:
    """Lines read word by word; several codes in a line are several commands."""
    rows, codes, words = list[int](), list[int](), list[list[tuple[str, float]]]()
    for row, text in lines:
        stripped = text.partition(b"*")[0].strip()
        name = _MACRO.match(stripped)
        if not _PLAIN.match(stripped):
            unknown[(name[0] if name else stripped[:20]).decode("latin-1")[:40] or "?"] += 1
            continue
        found = [(letter.decode(), float(value) if value else np.nan) for letter, value in _WORD.findall(stripped)]
        found = found[1:] if found[0][0] == "N" else found
        at = [place for place, (letter, _) in enumerate(found) if letter in "GMT"]
        at = [each for each in at if found[each][0] != "T" or each == at[0]]  # M204 T500 changes no tool
        for begin, end in zip(at, [*at[1:], len(found)], strict=True):
            letter, number = found[begin]
            sound = number == number and number == int(number) and 0 <= number < NO_NUMBER
            rows.append(row)
            codes.append((int(number) if sound else NO_NUMBER) + "GMT".index(letter) * KIND)
            words.append(found[begin + 1 : end])
    if not rows:
        return None
    columns: dict[str, Array] = {}
    for place, each in enumerate(words):
        for letter, value in each:
            if letter in LETTERS:
                columns.setdefault(letter, np.full(len(rows), np.nan))[place] = 0.0 if np.isnan(value) else value
    return Commands(np.array(rows, dtype=np.int64), np.array(codes, dtype=np.int64), columns)


def _merged(one: Commands, other: Commands) -> Commands:
    line = np.concatenate((one.line, other.line))
    order = np.argsort(line, kind="stable")
    columns = {
        letter: np.concatenate((one.of(letter), other.of(letter)))[order]
        for letter in one.columns.keys() | other.columns.keys()
    }
    return Commands(line[order], np.concatenate((one.code, other.code))[order], columns)


def _numbers(text: bytes, count: int) -> Array | None:
    """The numbers of a text; None where they are not as many as letters."""
    plain = text.translate(_TO_SPACE)
    if not count:
        return np.zeros(0) if not plain.strip() else None
    try:  # the quickest reader of numbers at hand: each a line of its own
        table = pd.read_csv(
            io.BytesIO(plain), header=None, dtype=np.float64, lineterminator=" ", quoting=3, na_filter=False
        )
    except (ValueError, pd.errors.ParserError):
        return None
    found: Array = table.to_numpy()
    return found[:, 0] if found.shape == (count, 1) else None
