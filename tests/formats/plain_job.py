"""A second reader of job files, line by line and move by move, for comparison: slow, and as it is written down."""

import itertools
import math
import re

NUMBER = r"([-+]?(?:\d+\.?\d*|\.\d+))"


def read_plainly(text, accel=1_500.0, corner=8.0, speed=40.0):
    """Filament by tool, seconds and the box of what is laid."""
    at, told, relative, relative_e, inch, plane, tool, flow, pace = [0.0] * 4, 0.0, False, False, 1.0, 17, 0, 1.0, 1.0
    own, own_travel, area, filament, moves, waits, stands = None, None, 1.0, {}, [], 0.0, True
    low, high = [math.inf] * 3, [-math.inf] * 3
    for line in text.upper().split("\n"):
        line = re.sub(r"\([^()]*\)", " ", line.split(";")[0]).split("*")[0]
        line = re.sub(r"^\s*N\s*\d+", "", line).strip()
        found = re.match(r"^([GMT])\s*(\d+)(.*)$", line)
        if not found:
            continue
        kind, number, rest = found[1], int(found[2]), found[3]
        words = {letter: float(value) for letter, value in re.findall(r"([A-Z])\s*" + NUMBER, rest)}
        if kind == "T":
            tool, stands = number, True
        elif kind == "M":
            if number in (82, 83):
                relative_e = number == 83
            elif number == 204:
                own = words.get("P", words.get("S", own))
                own_travel = words.get("T", words.get("S", own_travel))
            elif number == 220:
                pace = words.get("S", 100.0) / 100.0
            elif number == 221:
                flow = words.get("S", 100.0) / 100.0
            elif number == 200:
                area = math.pi / 4.0 * words["D"] ** 2
            elif number in (0, 1, 25, 226, 600, 109, 190, 191):
                stands = True
        elif number in (90, 91):
            relative = number == 91
        elif number in (20, 21):
            inch = 25.4 if number == 20 else 1.0
        elif number in (17, 18, 19):
            plane = number
        elif number == 28:
            for axis in range(3):
                at[axis] = 0.0 if "XYZ"[axis] in words or not set(words) & set("XYZ") else at[axis]
            stands = True
        elif number == 92:
            for axis in range(4):
                at[axis] = words["XYZE"[axis]] * inch if "XYZE"[axis] in words else at[axis]
        elif number == 4:
            waits += words.get("S", 0.0) + words.get("P", 0.0) / 1e3
            stands = True
        elif number in (10, 11):
            stands = True
        elif number <= 3:
            told = words.get("F", told)
            step = [0.0] * 4
            for axis in range(4):
                value = words.get("XYZE"[axis])
                if value is not None:
                    step[axis] = value * inch
                    if not (relative or (axis == 3 and relative_e)):
                        step[axis] -= at[axis]
            there = [a + b for a, b in zip(at, step, strict=True)]
            path = math.dist(at[:3], there[:3])
            begin = [each / path if path else 0.0 for each in step[:3]] + [0.0]
            end = begin
            if number > 1:
                path, begin, end = _arc(number, words, inch, step, plane)
            length = path or abs(step[3])
            if not path and step[3]:
                begin = end = [0.0, 0.0, 0.0, 1.0]
            if length:
                laid = step[3] > 0.0 and path > 0.0
                told_here = told * inch / 60.0 * pace if told > 0.0 else speed
                set_to = own if laid else own_travel
                moves.append((length, told_here, set_to or accel, begin, end, stands))
                stands = False
                filament[tool] = filament.get(tool, 0.0) + step[3] * flow / area
                if laid:
                    low = [min(a, b, c) for a, b, c in zip(low, at[:3], there[:3], strict=True)]
                    high = [max(a, b, c) for a, b, c in zip(high, at[:3], there[:3], strict=True)]
            at = there
    return filament, _plan(moves, corner) + waits, low, high


def _arc(code, words, inch, step, plane):
    first, second, up = {17: (0, 1, 2), 18: (2, 0, 1), 19: (1, 2, 0)}[plane]
    turn = -1.0 if code == 2 else 1.0
    a, b = step[first], step[second]
    if "R" in words:
        radius = words["R"] * inch
        chord = math.hypot(a, b)
        middle = math.sqrt(radius**2 - chord**2 / 4.0) * turn * math.copysign(1.0, radius)
        x, y = a / 2 - middle * b / chord, b / 2 + middle * a / chord
    else:
        x, y = (words.get("IJK"[each], 0.0) * inch for each in (first, second))
    begin, end = math.atan2(-y, -x), math.atan2(b - y, a - x)
    angle = (end - begin) * turn % (2 * math.pi) or 2 * math.pi
    radius = math.hypot(x, y)
    points = 20_000  # the length as a chain of chords, none of the formula's
    chain, before = 0.0, (0.0, 0.0, 0.0)
    for n in range(1, points + 1):
        phi = begin + turn * angle * n / points
        here = (x + radius * math.cos(phi), y + radius * math.sin(phi), step[up] * n / points)
        chain += math.dist(before, here)
        before = here
    directions = []
    for phi in (begin, end):
        ahead = [0.0] * 4
        tip = (math.cos(phi + turn * 1e-6) - math.cos(phi), math.sin(phi + turn * 1e-6) - math.sin(phi))
        ahead[first], ahead[second], ahead[up] = radius * tip[0], radius * tip[1], step[up] * 1e-6 / angle
        size = math.hypot(*ahead)
        directions.append([each / size for each in ahead])
    return chain, *directions


def _plan(moves, corner):
    """Speed squared held to the corner, to the brake and to the start, then each move by itself."""
    squares = [0.0]
    for before, after in itertools.pairwise(moves):
        turn = math.dist(before[4], after[3])
        allowed = min(before[1], after[1], corner / turn if turn else math.inf)
        squares.append(0.0 if after[5] else allowed**2)
    squares.append(0.0)
    for n in range(len(moves) - 1, -1, -1):
        squares[n] = min(squares[n], squares[n + 1] + 2.0 * moves[n][2] * moves[n][0])
    for n, (length, _, accel, *_) in enumerate(moves):
        squares[n + 1] = min(squares[n + 1], squares[n] + 2.0 * accel * length)
    total = 0.0
    for n, (length, speed, accel, *_) in enumerate(moves):
        first, last = math.sqrt(squares[n]), math.sqrt(squares[n + 1])
        peak = math.sqrt(min(speed**2, accel * length + 0.5 * (squares[n] + squares[n + 1])))
        peak = max(peak, first, last)
        ramps = (2 * peak**2 - squares[n] - squares[n + 1]) / (2 * accel)
        total += (2 * peak - first - last) / accel + max(length - ramps, 0.0) / peak
    return total
