"""Draws the heat ladder as SVG for paper: lanes upright, window in grey, reach as a wall, setpoints as marks."""

from collections.abc import Callable
from html import escape

from kaustos.core.review import Ladder, Lane

WIDTH, HEIGHT, TOP, BOTTOM, LEFT = 486.0, 330.0, 20.0, 8.0, 46.0
LANE_WIDTH, LANE_STEP = 46.0, 78.0
LABELS = LEFT + 4 * LANE_STEP - 4.0  # the polymer's lines are named right of the lanes
Say = Callable[[float, str], str]  # a value of a quantity in the user's words
STEP_C = 50.0


def ladder_svg(ladder: Ladder, say: Say) -> str:
    """The ladder as one inline SVG element."""
    scale = _Scale(ladder)
    body = [*_lines(ladder, scale, say), *_axis(ladder, scale, say)]
    for index, lane in enumerate(ladder.lanes):
        body += _lane(lane, LEFT + index * LANE_STEP + 2.0, scale, ladder, say)
    hatch = (
        '<defs><pattern id="beyond" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
        '<line x1="0" y1="0" x2="0" y2="5" stroke="#777" stroke-width="1"/></pattern></defs>'
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {HEIGHT:g}" width="82mm" '
        f'height="{82 * HEIGHT / WIDTH:.1f}mm" role="img" aria-label="Heat ladder" '
        f'font-family="Inter, sans-serif" font-size="8.5">{hatch}{"".join(body)}</svg>'
    )


class _Scale:
    def __init__(self, ladder: Ladder) -> None:
        self._low, self._span = ladder.low_c, ladder.high_c - ladder.low_c

    def y(self, at_c: float) -> float:
        share = min(max((at_c - self._low) / self._span, 0.0), 1.0)
        return round(HEIGHT - BOTTOM - share * (HEIGHT - TOP - BOTTOM), 2)


def _text(x: float, y: float, words: str, more: str = "") -> str:
    return f'<text x="{x:.1f}" y="{y:.1f}" {more}>{escape(words)}</text>'


def _axis(ladder: Ladder, scale: _Scale, say: Say) -> list[str]:
    found = []
    at = STEP_C
    while at < ladder.high_c:
        y = scale.y(at)
        found.append(f'<line x1="{LEFT - 6:g}" x2="{LEFT:g}" y1="{y}" y2="{y}" stroke="#555" stroke-width="0.8"/>')
        found.append(_text(LEFT - 9, y + 3, say(at, "temperature"), 'text-anchor="end" fill="#555"'))
        at += STEP_C
    return found


def _lines(ladder: Ladder, scale: _Scale, say: Say) -> list[str]:
    found, last = [], HEIGHT
    for line in sorted(ladder.lines, key=lambda each: each.at_c):
        y = scale.y(line.at_c)
        label = min(y + 3.0, last - 11.0)
        leader = f'<line x1="{LABELS - 6:g}" x2="{LABELS - 1:g}" y1="{y}" y2="{label - 3:.1f}" stroke="#333"/>'
        last = label
        found.append(
            f'<line x1="{LEFT:g}" x2="{LABELS - 6:g}" y1="{y}" y2="{y}" stroke="#333" stroke-width="0.7" '
            'stroke-dasharray="5 3"/>'
        )
        found.append(leader)
        found.append(_text(LABELS, label, f"{line.title} {line.load}{say(line.at_c, 'temperature')}"))
    return found


def _lane(lane: Lane, x: float, scale: _Scale, ladder: Ladder, say: Say) -> list[str]:
    top, bottom = TOP, HEIGHT - BOTTOM
    found = [_text(x + LANE_WIDTH / 2, 12, lane.title, 'text-anchor="middle" font-weight="600" font-size="10"')]
    found.append(_box(x, top, bottom, 'fill="white" stroke="#333" stroke-width="0.8"'))
    if lane.window_c:
        found.append(_box(x, scale.y(lane.window_c[1]), scale.y(lane.window_c[0]), 'fill="#c9d8d2"'))
    if lane.reach_c is not None:
        found.append(_box(x, top, scale.y(lane.reach_c), 'fill="url(#beyond)" stroke="#333" stroke-width="0.8"'))
    if lane.gap:
        words = f"{say(lane.gap.by_k, 'temperature_difference')} short"
        middle = scale.y((lane.gap.from_c + lane.gap.to_c) / 2) + 3
        place = f'x="{x:.1f}" y="{middle - 9:.1f}" width="{LANE_WIDTH:g}" height="12" fill="white"'
        found.append(f"<rect {place}/>")
        found.append(_text(x + LANE_WIDTH / 2, middle, words, 'text-anchor="middle" font-weight="600"'))
    if lane.first_c is not None and lane.first_c != lane.setpoint_c:
        y = scale.y(lane.first_c)
        found.append(_mark(x, y, hollow=True))
        found.append(_beside(x, y - 4, say(lane.first_c, "temperature")))
    if lane.setpoint_c is not None:
        y = scale.y(lane.setpoint_c)
        found.append(_mark(x, y, hollow=False))
        found.append(_beside(x, y + 10, say(lane.setpoint_c, "temperature")))
    return found


def _beside(x: float, y: float, words: str) -> str:
    """A setpoint's number right of its lane, on white so that no line runs through it."""
    ground = f'<rect x="{x + LANE_WIDTH + 4:.1f}" y="{y - 8:.1f}" width="27" height="10" fill="white"/>'
    return ground + _text(x + LANE_WIDTH + 5, y, words)


def _box(x: float, top: float, bottom: float, style: str) -> str:
    height = max(bottom - top, 0.0)
    return f'<rect x="{x:.1f}" y="{top:.1f}" width="{LANE_WIDTH:g}" height="{height:.1f}" {style}/>'


def _mark(x: float, y: float, *, hollow: bool) -> str:
    fill = "white" if hollow else "black"
    left, right = x - 4, x + LANE_WIDTH + 4
    return (
        f'<rect x="{left:.1f}" y="{y - 2:.1f}" width="{right - left:.1f}" height="4" fill="{fill}" stroke="black" '
        'stroke-width="0.8"/>'
    )
