"""The pictures of proof: the ladder of tests, curves of specimens by direction, sizes against what they may be off."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.records import GROUPS
from kaustos.core.review.proof import ProofPicture

COLOURS = {"along": "ink", "across": "accent", "moulded": "muted", "aged": "watch"}
NO_CURVES = "No curve yet: page Pull opens those of a testing machine, or takes strengths as typed."
NO_SIZES = "No size yet: page Size takes what a caliper says."
ROW = 22.0


def draw_ladder(pen: Pen, box: Box, record: ProofPicture, wording: Wording) -> None:
    """Rungs from the cheapest to the part, each as wide as what it puts at stake; runs that count below."""
    if not record.ladder:
        pen.words(box, "Nothing is known of its runs.", "muted", "centre")
        return
    most = max((each.hours or 0.0 for each in record.ladder), default=1.0) or 1.0
    high = min((box.height - 52.0) / len(record.ladder), 40.0)
    highest = max((place for place, each in enumerate(record.ladder) if each.is_climbed), default=-1)
    for place, rung in enumerate(record.ladder):
        y = box.top + 4.0 + place * high
        width = max((rung.hours or 0.0) / most, 0.04) * (box.width - 330.0)
        bar = Box(box.left + 150.0, y + 4.0, width, high - 10.0)
        pen.words(Box(box.left, y, 142.0, high - 2.0), rung.title, "ink", "right", bold=place == highest + 1)
        if rung.is_climbed:
            pen.area(bar, "clear", 0.6)
        elif place < highest:
            pen.hatch(bar, "clear")
        pen.frame(bar, "clear" if place <= highest else "muted", 2.0 if place == highest + 1 else 1.0)
        later = "next" if place == highest + 1 else ""
        stands = "passed" if rung.is_climbed else "covered" if place < highest else later
        at_stake = ", ".join(
            filter(None, (
                stands, "" if rung.grams is None else wording.value(round(rung.grams), "mass"),
                "" if rung.hours is None else hours_words(rung.hours),
            ))
        )  # fmt: skip
        pen.words(Box(bar.right + 8.0, y, 180.0, high - 2.0), at_stake, "muted")
    _runs(pen, Box(box.left + 150.0, box.bottom - 40.0, box.width - 160.0, 34.0), record)


def _runs(pen: Pen, box: Box, record: ProofPicture) -> None:
    """A square for each run that counts, and how many are wanted."""
    pen.words(Box(box.left - 150.0, box.top, 142.0, 18.0), "Runs of the recipe", "ink", "right")
    for place in range(min(record.ended, 24)):
        square = Box(box.left + 18.0 * place, box.top + 2.0, 14.0, 14.0)
        if place < record.good:
            pen.area(square, "clear")
        else:
            pen.hatch(square, "stop")
        pen.frame(square, "ink")
    stands = "" if record.same == record.good else f", {record.same} as it stands"
    words = f"{record.good} of {record.ended} good{stands}; {record.wanted:.0f} are wanted for a release"
    pen.words(Box(box.left, box.top + 18.0, box.width, 16.0), words, "muted")


def draw_curves(pen: Pen, box: Box, record: ProofPicture, wording: Wording) -> None:
    """Stress over strain, each direction in its colour and its dash."""
    if not record.curves:
        pen.words(box, NO_CURVES, "muted", "centre")
        return
    frame = Box(box.left + 56.0, box.top + 10.0, box.width - 70.0, box.height - 36.0)
    far = max(max(each.strain_pct) for each in record.curves) * 1.05 or 1.0
    top = max(max(each.stress_mpa) for each in record.curves) * 1.1 or 1.0
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    pen.line(frame.left, frame.top, frame.left, frame.bottom, "muted")
    for curve in record.curves:
        points = [
            (frame.left + max(strain, 0.0) / far * frame.width, frame.bottom - max(stress, 0.0) / top * frame.height)
            for strain, stress in zip(curve.strain_pct, curve.stress_mpa, strict=True)
        ]
        pen.path(points, COLOURS[curve.group], 1.6, "dash" if curve.group in ("across", "aged") else "solid")
    for place, group in enumerate(dict.fromkeys(each.group for each in record.curves)):
        count = sum(each.group == group for each in record.curves)
        line = Box(frame.right - 220.0, frame.bottom - 22.0 - 18.0 * place, 216.0, 16.0)
        pen.words(line, f"{GROUPS[group].lower()}, {count}", COLOURS[group], "right", bold=True)
    pen.words(Box(box.left, frame.top, 52.0, 15.0), wording.value(round(top), "stress"), "muted", "right")
    pen.words(Box(frame.right - 90.0, frame.bottom + 4.0, 90.0, 15.0), f"{far:.1f} %", "muted", "right")
    pen.words(Box(frame.left, frame.bottom + 4.0, 160.0, 15.0), "stress on the true section", "muted")


def draw_sizes(pen: Pen, box: Box, record: ProofPicture, wording: Wording) -> None:
    """Every reading as a bar off its nominal, in what it may be off."""
    if not record.sizes:
        pen.words(box, NO_SIZES, "muted", "centre")
        return
    shown = record.sizes[: int((box.height - 26.0) / ROW)]
    most = max(max(abs(each.off_mm), each.within_mm) for each in shown) * 1.15
    middle, half = box.left + 160.0 + (box.width - 260.0) / 2.0, (box.width - 260.0) / 2.0
    pen.line(middle, box.top + 4.0, middle, box.top + 8.0 + ROW * len(shown), "ink")
    for place, each in enumerate(shown):
        y = box.top + 6.0 + ROW * place
        is_out = abs(each.off_mm) > each.within_mm
        allowed = each.within_mm / most * half
        pen.area(Box(middle - allowed, y + 2.0, 2.0 * allowed, ROW - 6.0), "clear", 0.16)
        wide = each.off_mm / most * half
        left = min(middle, middle + wide)
        pen.area(Box(left, y + 5.0, max(abs(wide), 1.5), ROW - 12.0), "stop" if is_out else "accent")
        name = f"{each.name} {wording.value(each.nominal_mm, 'length')}"
        pen.words(Box(box.left, y, 150.0, ROW - 2.0), name, "ink", "right")
        off = f"{each.off_mm:+.2f}".replace("-", "−") + (" out" if is_out else "")
        pen.words(Box(box.right - 92.0, y, 90.0, ROW - 2.0), off, "stop" if is_out else "muted", bold=is_out)
    under = Box(box.left, box.bottom - 18.0, box.width, 16.0)
    more = len(record.sizes) - len(shown)
    pen.words(under, f"tinted: allowed, ± to the edge {wording.value(round(most, 2), 'length')}"
              + (f"; {more} more in the table" if more else ""), "muted", "centre")  # fmt: skip
