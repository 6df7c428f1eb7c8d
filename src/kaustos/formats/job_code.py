"""Reads a job file (G-code, ISO 6983 words in the dialect of printers): moves, filament, time, layers, heats, pauses.

Words are read, comments are not believed. The file comes in pieces of any size; lines of the same words are read
together, so that a large file takes seconds.
"""

import hashlib
from collections import Counter
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import KaustosError
from kaustos.core.planning.motion import Array, Moves, Planned, settled, times_at, turns_of
from kaustos.formats.job_words import KIND, NO_NUMBER, Commands, Ints, commands_in, without_remarks

Bools = NDArray[np.bool_]
LONGEST_LINE = 1 << 20
PIECE = 4 << 20
FARTHEST_MM = 1e7  # of filament too
HOTTEST_C = 1500.0  # of anything that a printer heats
INCH_MM = 25.4
AXES = "XYZE"
PAUSES = (0, 1, 25, 226, 600)  # M words at which it waits for somebody
WAITS = (109, 190, 191)
HEATS = {104: "nozzle", 109: "nozzle", 140: "plate", 190: "plate", 141: "chamber", 191: "chamber"}
ZONES = ("nozzle", "plate", "chamber")
QUIET_G = {10, 11}
QUIET_M = {73, 106, 107, 110, 117, 203, 204, 205, *HEATS}
BETWEEN_G = (4, 17, 18, 19, 20, 21, 28, 90, 91)
BETWEEN_M = (82, 83, 200, 220, 221, *PAUSES)
_BETWEEN = np.array([*BETWEEN_G, *(KIND + each for each in BETWEEN_M)])
_STAND = np.array([10, 11, *(KIND + each for each in WAITS)])
MOST_HELD = 100_000
SHORT_MM = 0.5  # below it a move's flow is a matter of rounding
MOST_LAYERS = 20_000
Z_DIGITS = 3
DIGITS = 8  # of millimetres and seconds
_BLANK = b" \t\r\n"


@attrs.frozen(kw_only=True)
class JobLayer:
    """All that is laid at one height."""

    z_mm: float
    seconds: tuple[float, float, float]  # least, likely, most
    filament_mm: float
    path_mm: float  # along which filament is laid
    fastest_mm_s: float  # of filament
    speed_mm_s: float  # mean over the path, as commanded
    nozzle_c: float | None
    plate_c: float | None
    chamber_c: float | None
    fan_pct: float


@attrs.frozen(kw_only=True)
class JobPause:
    """A place at which the file waits for somebody."""

    line: int
    z_mm: float
    after_s: float
    word: str


@attrs.frozen(kw_only=True)
class JobRead:
    """All that a job file says."""

    sha256: str  # of its bytes
    moves_sha256: str  # of its moves, heats and fans alone
    lines: int
    moves: int
    filament_mm: dict[int, float]  # by tool, what is drawn back taken off
    seconds: tuple[float, float, float]
    layers: tuple[JobLayer, ...]
    low_mm: tuple[float, float, float]  # corners of the box round all that is laid
    high_mm: tuple[float, float, float]
    pauses: tuple[JobPause, ...]
    unknown: tuple[tuple[str, int], ...]  # words that are not known, the most frequent first
    homed: bool  # before it lays anything
    accel_told: bool  # whether the file sets accelerations itself
    strand_mm: float | None  # where amounts are volumes


def read_job(pieces: Iterable[bytes], name: str, planned: Planned | None = None) -> JobRead:
    """Read a job file that comes in pieces.

    Parameters
    ----------
    pieces : iterable of bytes
        The file from its beginning [-]
    name : str
        What it is called in a fault [-]
    planned : Planned or None
        What the machine is taken to do [mm/s^2, mm/s]

    Returns
    -------
    JobRead
        Lengths, times with their band, layers [mm, s]
    """
    with ThreadPoolExecutor(1) as aside:  # fingerprints are made beside: they hold no lock of Python's
        reader = _Reader(name, planned or Planned(), aside)
        for piece in pieces:
            reader.feed(piece)
        return reader.done()


@attrs.define
class _State:
    """What holds from one line to the next."""

    place: list[float] = attrs.field(factory=lambda: [0.0, 0.0, 0.0, 0.0])
    speed: float = 0.0  # as written [unit/min]
    relative: bool = False
    relative_e: bool = False
    inches: bool = False
    plane: int = 17
    tool: int = 0
    flow: float = 1.0
    pace: float = 1.0
    area: float | None = None  # of the strand, where amounts are volumes
    accel: float = np.nan  # as the file sets it
    travel: float = np.nan
    heats: dict[str, float] = attrs.field(factory=lambda: dict.fromkeys(("nozzle", "plate", "chamber"), np.nan))
    nozzles: dict[int, float] = attrs.field(factory=dict)  # heats of tools that rest, where they have their own
    fan: float = 0.0
    z: float = 0.0  # of the layer that is being laid
    stands: bool = True  # whether it stands before the next move


class _Reader:
    def __init__(self, name: str, planned: Planned, aside: ThreadPoolExecutor) -> None:
        self._name, self._planned, self._state, self._aside = name, planned, _State(), aside
        self._hash, self._moves_hash = hashlib.sha256(), hashlib.sha256()
        self._rest, self._lines, self._count = b"", 0, 0
        self._held: list[_Block] = []  # moves since it last stood still
        self._open = 0  # how many they are
        self._begun = [0.0, 0.0, 0.0]  # speed squared with which they are begun
        self._layers: dict[float, _Sum] = {}
        self._filament: dict[int, float] = {}
        self._low, self._high = np.full(3, np.inf), np.full(3, -np.inf)
        self._seconds, self._pauses = np.zeros(3), list[JobPause]()
        self._unknown: Counter[str] = Counter()
        self._homed, self._accel_told = False, False

    # ---- pieces

    def feed(self, piece: bytes) -> None:
        """Read on."""
        self._aside.submit(self._hash.update, piece)
        for at in range(0, len(piece), PIECE):
            self._part(piece[at : at + PIECE])

    def _part(self, piece: bytes) -> None:
        if b"\0" in piece:
            raise KaustosError(f"{self._name}: line {self._lines + 1}: holds bytes that are no text; no job file")
        text = self._rest + piece
        cut = text.rfind(b"\n") + 1
        self._rest = text[cut:]
        if cut:
            self._read(text[: cut - 1])
        if len(self._rest) > LONGEST_LINE:
            raise KaustosError(f"{self._name}: line {self._lines + 1}: is longer than {LONGEST_LINE:,} bytes")

    def _read(self, text: bytes) -> None:
        """Some whole lines."""
        text = without_remarks(text)
        self._aside.submit(self._moves_hash.update, text.translate(None, _BLANK))
        commands, count = commands_in(text, self._unknown)
        self._carry_out(commands)
        self._lines += count

    def done(self) -> JobRead:
        """The end of the file."""
        if self._rest:
            self._read(self._rest)
            self._rest = b""
        self._plan()
        if np.isinf(self._low).any():
            raise KaustosError(f"{self._name}: no move lays filament: no job file, or one for another process")
        layers = tuple(self._layers[z].layer(z) for z in sorted(self._layers))
        self._aside.submit(int).result()  # all before it is done
        least, likely, most = sorted(_rounded(self._seconds))
        filament = {tool: round(length, DIGITS) for tool, length in sorted(self._filament.items())}
        return JobRead(
            sha256=self._hash.hexdigest(), moves_sha256=self._moves_hash.hexdigest(), lines=self._lines,
            moves=self._count, filament_mm=filament,
            seconds=(least, likely, most), layers=layers, low_mm=_three(self._low), high_mm=_three(self._high),
            pauses=tuple(self._pauses), unknown=tuple(self._unknown.most_common(40)),
            homed=self._homed, accel_told=self._accel_told,
            strand_mm=None if self._state.area is None else 2.0 * float(np.sqrt(self._state.area / np.pi)),
        )  # fmt: skip

    # ---- commands

    def _carry_out(self, commands: Commands) -> None:
        """Moves in long runs; what changes how words are read, or waits, stands between two runs."""
        code = commands.code
        between = np.isin(code, _BETWEEN) | (code >= 2 * KIND)
        sets = np.flatnonzero(code == 92)
        if sets.size:
            between[sets] = [self._moves_axes(commands, row) for row in sets.tolist()]
        begin = 0
        for edge in [*np.flatnonzero(between).tolist(), code.size]:
            if edge > begin:
                self._run(commands.part(begin, edge))
            if edge < code.size:
                self._command(commands, edge)
            begin = edge + 1

    @staticmethod
    def _moves_axes(commands: Commands, row: int) -> bool:
        """Whether a place is set of more than the filament."""
        return commands.word(row, "E") is None or any(commands.word(row, axis) is not None for axis in "XYZ")

    def _command(self, commands: Commands, row: int) -> None:
        state = self._state
        kind, number = divmod(int(commands.code[row]), KIND)
        if kind == 0:
            self._group(number, commands, row)
        elif kind == 2:
            if number == NO_NUMBER:
                self._unknown["T?"] += 1
                return
            self._plan()
            if number in state.nozzles:  # a nozzle of its own
                state.nozzles[state.tool] = state.heats["nozzle"]
                state.heats["nozzle"] = state.nozzles[number]
            state.tool, state.stands = number, True
        elif number in (82, 83):
            state.relative_e = number == 83
        elif number == 220:
            state.pace = (commands.word(row, "S") or 100.0) / 100.0
        elif number == 221:
            state.flow = (commands.word(row, "S") or 100.0) / 100.0
        elif number == 200:
            diameter = commands.word(row, "D")
            state.area = np.pi / 4.0 * diameter**2 if diameter else None
        else:
            self._plan()
            state.stands = True
            line = self._lines + int(commands.line[row]) + 1
            self._pauses.append(
                JobPause(line=line, z_mm=state.z, after_s=round(float(self._seconds[1]), DIGITS), word=f"M{number}")
            )

    def _group(self, number: int, commands: Commands, row: int) -> None:
        """A G word that is no move."""
        state = self._state
        words = {letter: commands.word(row, letter) for letter in "XYZESP"}
        if number in (90, 91):
            state.relative = number == 91
        elif number in (20, 21):
            state.inches = number == 20
        elif number in (17, 18, 19):
            state.plane = number
        elif number == 28:
            self._homed = self._homed or bool(np.isinf(self._low).any())
            state.stands = True
            for axis in [axis for axis in range(3) if words[AXES[axis]] is not None] or range(3):
                state.place[axis] = 0.0
        elif number == 92:
            scale = INCH_MM if state.inches else 1.0
            for axis in [axis for axis in range(4) if words[AXES[axis]] is not None] or range(4):
                state.place[axis] = (words[AXES[axis]] or 0.0) * scale
        else:
            self._plan()
            wait = max((words["S"] or 0.0) + (words["P"] or 0.0) / 1e3, 0.0)
            self._seconds += wait
            self._layer(state.z).seconds += wait
            state.stands = True

    # ---- moves

    def _run(self, commands: Commands) -> None:
        """Moves one after the other, with heats, fans and accelerations between them."""
        state, code = self._state, commands.code
        rows = np.flatnonzero((code <= 3) | (code == 92))
        others = np.flatnonzero((code > 3) & (code != 92))
        after = np.searchsorted(rows, others)  # the move before which each of the others stands
        self._count_unknown(code[others])
        set_to = self._settings(commands.only(others), after, rows.size)
        if not rows.size:
            state.stands = state.stands or bool(np.isin(code, _STAND).any())
            return
        moves = commands if not others.size else commands.only(rows)
        resets = moves.code == 92
        has_resets = bool(resets.any())
        scale = INCH_MM if state.inches else 1.0
        places, steps = [], []
        for axis, letter in enumerate(AXES):
            column = moves.columns.get(letter)
            column = None if column is None else column * scale
            is_relative = state.relative or (axis == 3 and state.relative_e)
            place, step = _followed(column, state.place[axis], rows.size, resets if has_resets else None, is_relative)
            state.place[axis] = float(place[-1])
            if not abs(place).max() < FARTHEST_MM:
                line = self._lines + int(moves.line[int(np.argmax(~(abs(place[1:]) < FARTHEST_MM)))]) + 1
                raise KaustosError(f"{self._name}: line {line}: {letter} goes farther than any machine")
            places.append(place)
            steps.append(step)
        written = moves.columns.get("F")
        if written is not None and has_resets:
            written = np.where(resets, np.nan, written)
        speed = np.full(rows.size, state.speed) if written is None else _held(written, state.speed)
        state.speed = float(speed[-1])
        pace = scale / 60.0 * state.pace
        told = speed * pace if speed.min() > 0.0 else np.where(speed > 0.0, speed * pace, self._planned.speed_mm_s)
        stands = np.zeros(rows.size + 1, dtype=bool)
        stands[after[np.isin(code[others], _STAND)]] = True
        stands[0] |= state.stands
        block = _block(moves, scale, places, steps, told, stands[:-1], state.plane)
        laid = (block.filament > 0.0) & (block.path > 0.0)
        block.accel[:] = np.where(laid, set_to["accel"], set_to["travel"])
        block.z[:] = np.round(_held(np.where(laid, places[2][1:], np.nan), state.z), Z_DIGITS)
        state.z = float(block.z[-1])
        keep = block.length > 0.0
        if has_resets:
            keep &= ~resets
        last = int(np.flatnonzero(keep)[-1]) if keep.any() else -1
        state.stands = bool(stands[last + 1 :].any())
        if last >= 0:
            whole = bool(keep.all())
            self._measure(
                block if whole else block.only(keep),
                set_to if whole else {key: each[keep] for key, each in set_to.items()},
            )

    def _settings(self, others: Commands, after: Ints, count: int) -> dict[str, Array]:
        """Heats, fan and accelerations as they hold at every move; what holds at the end is kept."""
        state, code = self._state, others.code
        s, p, t, r = (others.of(letter) for letter in "SPTR")
        found = {}
        for zone in ZONES:
            sets = np.isin(code, [KIND + number for number, each in HEATS.items() if each == zone])
            self._check_heats(np.where(np.isnan(s), r, s), sets, others)
            if zone == "nozzle":  # of the tool that prints
                rests = sets & ~np.isnan(t) & (t != state.tool)
                sets &= ~rests
                state.nozzles |= zip(t[rests].astype(int).tolist(), s[rests].tolist(), strict=True)
            found[zone], state.heats[zone] = _set(np.where(np.isnan(s), r, s), sets, after, count, state.heats[zone])
        fan = np.where(code == KIND + 107, 0.0, np.clip(np.where(np.isnan(s), 255.0, s) / 2.55, 0.0, 100.0))
        of_part = ((code == KIND + 106) | (code == KIND + 107)) & (np.isnan(p) | (p == 0.0))
        found["fan"], state.fan = _set(fan, of_part, after, count, state.fan)
        for name, own in (("accel", p), ("travel", t)):
            told = np.where(np.isnan(own), s, own)
            sets = (code == KIND + 204) & (told > 0.0)
            self._accel_told = self._accel_told or bool(sets.any())
            found[name], value = _set(told, sets, after, count, getattr(state, name))
            setattr(state, name, value)
        return found

    def _check_heats(self, told: Array, sets: Bools, others: Commands) -> None:
        wrong = sets & ~np.isnan(told) & ~((told >= 0.0) & (told < HOTTEST_C))
        if wrong.any():
            line = self._lines + int(others.line[int(np.argmax(wrong))]) + 1
            raise KaustosError(f"{self._name}: line {line}: a heat that no machine has")

    def _count_unknown(self, code: Ints) -> None:
        for each, count in zip(*np.unique(code, return_counts=True), strict=True):
            kind, number = divmod(int(each), KIND)
            if number not in (QUIET_G, QUIET_M)[kind]:
                self._unknown["GM"[kind] + ("?" if number == NO_NUMBER else str(number))] += int(count)

    def _measure(self, block: "_Block", set_to: dict[str, Array]) -> None:
        state = self._state
        self._count += block.length.size
        share = state.flow / (state.area or 1.0)
        amount = block.filament if share == 1.0 else block.filament * share
        self._filament[state.tool] = self._filament.get(state.tool, 0.0) + float(amount.sum())
        laid = (amount > 0.0) & (block.path > 0.0)
        begins = np.flatnonzero(laid & ~np.concatenate(([False], laid[:-1])))
        if begins.size:
            for axis, (place, step) in enumerate(zip(block.ends_at, block.steps, strict=True)):
                there = place[laid]
                here = place[begins] - step[begins]
                self._low[axis] = min(self._low[axis], float(there.min()), float(here.min()))
                self._high[axis] = max(self._high[axis], float(there.max()), float(here.max()))
        edges = np.concatenate(([0], np.flatnonzero(np.diff(block.z)) + 1, [block.z.size]))
        flow = np.where(laid & (block.length > SHORT_MM), amount * block.speed / block.length, 0.0)
        path = np.where(laid, block.length, 0.0)
        at = edges[:-1]
        sums = (np.add.reduceat(each, at).tolist() for each in (amount, path, path * block.speed))
        ends = edges[1:] - 1
        fastest = np.maximum.reduceat(flow, at).tolist()
        lays = np.maximum.accumulate(np.where(laid, np.arange(laid.size), -1))[ends].tolist()
        for begin, filament, length, paced, fast, last in zip(at.tolist(), *sums, fastest, lays, strict=True):
            layer = self._layer(float(block.z[begin]))
            layer.filament += filament
            if last >= begin:
                layer.path += length
                layer.paced += paced
                layer.fastest = max(layer.fastest, fast)
                layer.heats = [float(set_to[zone][last]) for zone in ZONES]
                layer.fan = float(set_to["fan"][last])
        self._held.append(block)
        self._open += block.length.size
        if self._open > MOST_HELD:
            self._plan(keep_open=True)

    def _layer(self, z: float) -> "_Sum":
        found = self._layers.get(z)
        if found is None:
            if len(self._layers) >= MOST_LAYERS:  # a spiral: every move has its own height
                z = round(z, 1)
            found = self._layers.setdefault(z, _Sum())
        return found

    def _plan(self, *, keep_open: bool = False) -> None:
        """Times of what was held: all of it where the machine then stands, else what nothing later can change."""
        if not self._held:
            return
        whole, count = _joined(self._held), self._open
        scenarios = tuple(zip(self._planned.accel_mm_s2, self._planned.corner_mm_s, strict=True))
        if len(set(scenarios)) == 1:
            scenarios = scenarios[:1]
        turns, begun = whole.turns(), self._begun[: len(scenarios)]
        moves = [whole.moves(accel, turns) for accel, _ in scenarios]
        found = [settled(each, corner, first) for each, (_, corner), first in zip(moves, scenarios, begun, strict=True)]
        squares = [each for _, each in found]
        if keep_open:
            count = min(each for each, _ in found)
        self._held, self._open = [whole.part(slice(count, None))] if keep_open else [], whole.length.size - count
        if not count:
            return
        z = whole.z[:count]
        edges = np.concatenate(([0], np.flatnonzero(np.diff(z)) + 1))
        heights = z[edges].tolist()
        for number in range(3):
            place = min(number, len(scenarios) - 1)
            seconds = times_at(moves[place], squares[place], count)
            self._begun[number] = float(squares[place][count]) if keep_open else 0.0
            self._seconds[number] += float(seconds.sum())
            for height, each in zip(heights, np.add.reduceat(seconds, edges).tolist(), strict=True):
                self._layer(height).seconds[number] += each


@attrs.define(eq=False)
class _Sum:
    """What adds up at one height."""

    seconds: Array = attrs.field(factory=lambda: np.zeros(3))
    filament: float = 0.0
    path: float = 0.0
    fastest: float = 0.0
    paced: float = 0.0
    heats: list[float] = attrs.field(factory=lambda: [np.nan] * 3)  # nozzle, plate, chamber
    fan: float = 0.0

    def layer(self, z: float) -> JobLayer:
        """The layer that it came to."""
        least, likely, most = sorted(_rounded(self.seconds))
        nozzle, plate, chamber = (None if np.isnan(each) else each for each in self.heats)
        return JobLayer(
            z_mm=z, seconds=(least, likely, most), filament_mm=round(self.filament, DIGITS),
            path_mm=round(self.path, DIGITS), fastest_mm_s=round(self.fastest, DIGITS),
            speed_mm_s=round(self.paced / self.path, DIGITS) if self.path else 0.0, nozzle_c=nozzle,
            plate_c=plate, chamber_c=chamber, fan_pct=self.fan,
        )  # fmt: skip


@attrs.frozen(eq=False)
class _Block:
    """Some moves."""

    length: Array  # of the move; of the filament where nothing else moves
    path: Array  # in x, y, z
    speed: Array
    accel: Array  # told by the file, nan where it is not
    begins: Array
    ends: Array | None  # None for straight ones: as they begin
    stands: Bools
    filament: Array
    ends_at: Array  # place in x, y, z [3 x n]
    steps: Array  # to get there
    z: Array

    def only(self, keep: Bools) -> "_Block":
        """Some of them; where it stood before one that is left out, it stands before the next."""
        places = np.flatnonzero(keep)
        after = np.searchsorted(places, np.flatnonzero(self.stands))
        found = self.part(places)
        found.stands[after[after < places.size]] = True
        return found

    def part(self, which: Any) -> "_Block":
        """Some of them."""
        found: list[Any] = [None if (each := getattr(self, name)) is None else each[..., which] for name in _FIELDS]
        return _Block(*found)

    def turns(self) -> Array:
        """How much each turns away from the one before."""
        return turns_of(self.begins, self.begins if self.ends is None else self.ends)

    def moves(self, accel: float, turns: Array) -> Moves:
        """As the planner takes them."""
        told = np.where(np.isnan(self.accel), accel, self.accel)
        return Moves(length_mm=self.length, speed_mm_s=self.speed, accel_mm_s2=told, turns=turns, stands=self.stands)


_FIELDS = tuple(each.name for each in attrs.fields(_Block))


def _joined(blocks: list[_Block]) -> _Block:
    if len(blocks) == 1:
        return blocks[0]
    bent = any(each.ends is not None for each in blocks)
    full = [attrs.evolve(each, ends=each.begins) if bent and each.ends is None else each for each in blocks]
    columns = ([getattr(each, name) for each in full] for name in _FIELDS)
    found: list[Any] = [None if each[0] is None else np.concatenate(each, axis=-1) for each in columns]
    return _Block(*found)


def _block(
    moves: Commands, scale: float, places: list[Array], steps: list[Array], speed: Array, stands: Bools, plane: int
) -> _Block:
    count = speed.size
    step = np.array(steps[:3])
    length = np.sqrt((step**2).sum(axis=0))
    begins = np.zeros((4, count))
    np.divide(step, length, out=begins[:3], where=length > 0.0)
    arcs = np.flatnonzero((moves.code == 2) | (moves.code == 3)).tolist()
    ends = begins.copy() if arcs else None
    for at in arcs:
        words = {letter: scale * (moves.word(at, letter) or 0.0) for letter in "IJK"}
        radius = moves.word(at, "R")
        found = _arc(
            int(moves.code[at]), words, None if radius is None else radius * scale, step[:, at].tolist(), plane
        )  # fmt: skip
        assert ends is not None
        length[at], begins[:, at], ends[:, at] = found
    path = length.copy()
    alone = (path == 0.0) & (steps[3] != 0.0)
    length[alone] = np.abs(steps[3][alone])
    begins[3, alone] = 1.0
    if ends is not None:
        ends[3, alone] = 1.0
    return _Block(
        length, path, speed, np.full(count, np.nan), begins, ends, stands, steps[3],
        np.array([each[1:] for each in places[:3]]), step, np.zeros(count),
    )  # fmt: skip


def _arc(
    code: int, centre: dict[str, float], radius: float | None, step: list[float], plane: int
) -> tuple[float, Array, Array]:
    """Length and directions of an arc, with what it rises; by its centre or its radius."""
    first, second, up = {17: (0, 1, 2), 18: (2, 0, 1), 19: (1, 2, 0)}[plane]
    a, b = step[first], step[second]
    turn = -1.0 if code == 2 else 1.0
    if radius is not None:
        chord = float(np.hypot(a, b))
        high = float(np.sqrt(max(radius**2 - chord**2 / 4.0, 0.0)))
        side = turn * (1.0 if radius > 0.0 else -1.0) / max(chord, 1e-12)
        x, y = a / 2.0 - side * high * b, b / 2.0 + side * high * a
    else:
        x, y = centre["IJK"[first]], centre["IJK"[second]]
    begin, end = float(np.arctan2(-y, -x)), float(np.arctan2(b - y, a - x))
    angle = (end - begin) * turn % (2.0 * np.pi)
    if angle < 1e-9:
        angle = 2.0 * np.pi
    rise, flat = step[up], float(np.hypot(x, y)) * angle
    length = float(np.hypot(flat, rise))
    found = []
    for at in (begin, end):
        unit = np.zeros(4)
        unit[first], unit[second], unit[up] = -turn * np.sin(at) * flat, turn * np.cos(at) * flat, rise
        found.append(unit / max(length, 1e-12))
    return length, found[0], found[1]


def _followed(
    column: Array | None, first: float, count: int, resets: Bools | None, is_relative: bool
) -> tuple[Array, Array]:
    """Places before and after every move, and the steps between; a reset sets the place and is no step."""
    place = np.empty(count + 1)
    place[0] = first
    if column is None:
        place[1:] = first
        return place, np.zeros(count)
    if is_relative:
        step = np.where(np.isnan(column), 0.0, column)
        if resets is not None:
            step[resets] = 0.0
        np.cumsum(step, out=place[1:])
        place[1:] += first
        if resets is not None:
            sets = resets & ~np.isnan(column)
            place[1:] += _held(np.where(sets, column - place[1:], np.nan), 0.0)
        return place, step
    place[1:] = _held(column, first)
    step = np.diff(place)
    if resets is not None:
        step[resets] = 0.0
    return place, step


def _held(column: Array, first: float) -> Array:
    """A column in which what is not written stays as it was."""
    missing = np.isnan(column)
    if not missing.any():
        return column
    places = np.where(missing, 0, np.arange(column.size))
    np.maximum.accumulate(places, out=places)
    found = column[places]
    begin = int(np.argmin(missing)) if not missing.all() else column.size
    found[:begin] = first
    return found


def _set(values: Array, sets: Bools, after: Ints, count: int, first: float) -> tuple[Array, float]:
    """What holds at every move of a word that is set between moves, and at the end."""
    if not sets.any():
        return np.full(count, first), first
    told = np.concatenate(([first], values[sets]))
    told = _held(told, first)
    edges = np.concatenate(([0], after[sets], [count]))
    return np.repeat(told, np.diff(edges)), float(told[-1])


def _rounded(values: Array) -> list[float]:
    """Sums without what their order leaves behind."""
    return [round(float(each), DIGITS) for each in values]


def _three(values: Array) -> tuple[float, float, float]:
    x, y, z = _rounded(values)
    return x, y, z
