"""Part files: read and measured in the worker, turned and scaled, kept with the recipe as one edit."""

import hashlib
import tempfile
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.logs import drop_entry
from kaustos.app.quantities import read
from kaustos.app.wording import Wording
from kaustos.app.worker import WORKER
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.part import Mesh, Repair, mended, shape_of, turned_down
from kaustos.core.planning.hole import drawn_hole
from kaustos.core.planning.support import SORTS, bears, needs_of, reach_of
from kaustos.core.progress import UNWATCHED, Cancelled, Progress
from kaustos.core.records import Fit, PartFile, Place, PrintedPart, Shape, Side
from kaustos.disk import name_of
from kaustos.formats.mesh import BadPart, read_mesh, unlikely_size

SCALES = attrs.fields_dict(PrintedPart)["scale"].metadata["typed"]


@attrs.frozen(kw_only=True)
class Measured:
    """What was found on a part file."""

    name: str
    shape: Shape
    repair: Repair
    turned: int | None
    scale: float
    unlikely: dict[str, float]  # units that it may be written in, where its size is unlikely
    sha256: str
    content: bytes


def measure(file: str, name: str, scale: float, turned: int | None) -> Measured:
    """Read a file and measure it: what the worker does."""
    path = Path(file)
    try:
        mesh, repair = mended(read_mesh(path))
    except BadPart:
        raise
    except KaustosError as fault:
        raise BadPart(name, str(fault)) from fault
    unlikely = unlikely_size(float(mesh.size.max()) * scale)
    if scale != 1.0:
        mesh = Mesh(vertices=mesh.vertices * scale, faces=mesh.faces)
    if turned is not None:
        if not 0 <= turned < len(mesh.faces):
            raise BadPart(name, f"has no face {turned}")
        mesh = turned_down(mesh, turned)
    content = path.read_bytes()
    return Measured(
        name=name, shape=shape_of(mesh), repair=repair, turned=turned, scale=scale, unlikely=unlikely,
        sha256=hashlib.sha256(content).hexdigest(), content=content,
    )  # fmt: skip


@attrs.frozen(eq=False)
class ReadPart:
    """A part that is to be read and measured: a request of a job; a file, or the copy of one that is kept."""

    file: Path
    scale: float = 1.0
    turned: int | None = None
    content: bytes | None = None  # of the copy; the file itself where there is none

    def __call__(self, progress: Progress = UNWATCHED) -> Measured:
        """Measure it in the worker."""
        progress.check()
        if self.content is None:
            return self._measured(self.file, progress)
        with tempfile.TemporaryDirectory(prefix="kaustos-part-") as folder:
            copy = Path(folder) / (self.file.name or "part.stl")
            copy.write_bytes(self.content)
            return self._measured(copy, progress)

    def _measured(self, file: Path, progress: Progress) -> Measured:
        name = name_of(file)
        try:
            found: Measured = WORKER.call(measure, str(file), name, self.scale, self.turned, progress=progress)
        except (BadPart, Cancelled):
            raise
        except KaustosError as fault:
            raise BadPart(name, str(fault)) from fault
        return found


def again(workspace: Workspace, part: PrintedPart, scale: float, turned: int | None) -> ReadPart:
    """Measure the copy of a part's file that is kept anew, scaled or turned."""
    if not part.files:
        raise KaustosError("No file of this part is kept. Drop one on the window.")
    last = part.files[-1]
    content = workspace.attachment(last.sha256)
    if content is None:
        raise KaustosError(f"The kept copy of {last.name} is not in this workspace.")
    return ReadPart(Path(Path(last.name).name), scale, turned, content)


def read_scale(text: str, wording: Wording) -> float:
    """The factor that a text gives for the size of a part."""
    factor = wording.read(text, "ratio")
    low, high = SCALES
    if not low <= factor <= high:
        raise KaustosError(f"A scale lies between {low:g} and {high:g}.")
    return factor


@attrs.frozen
class Asked:
    """What a file was opened for: by the time it is measured another recipe may be open."""

    card: str | None  # recipe, None where none was open
    part: str | None  # that it is the next file of


def asked_now(workspace: Workspace) -> Asked:
    """The open recipe and the part that it prints."""
    records = workspace.draft.records
    return Asked(records.current, None if records.current is None else records.card.chosen.get("part"))


def keep_part(workspace: Workspace, found: Measured, asked: Asked, given_up: str = "") -> str:
    """Keep a measured file: as a new part of the recipe it was opened for, or as the next file of its part; its id."""
    records, part = workspace.draft.records.seen_by(asked.card), asked.part
    if part is not None and part not in records.tables["parts"]:
        raise KaustosError(f"The part that {found.name} was opened for is not there any more; nothing was kept.")
    sha = workspace.keep(found.name, found.content)
    entry = PartFile(sha256=sha, name=found.name[:200], added_utc=stamp(workspace.clock()))
    before = records.tables["parts"].get(part or "")
    files: tuple[PartFile, ...] = before.files if before is not None else ()
    if files and files[-1].sha256 != sha:
        files = (*files[:-1], attrs.evolve(files[-1], rejected=given_up or files[-1].rejected), entry)
    elif not files:
        files = (entry,)
    name = Path(found.name).stem.replace("_", " ")[:200] or "Part"
    key = part if before is not None and part else records.free_id("parts", name)
    made = attrs.evolve(
        before or PrintedPart(id=key, name=name), files=files, shape=found.shape,
        turned=None if found.turned is None else float(found.turned), scale=found.scale,
        repaired=found.repair.done, broken=found.repair.left,
    )  # fmt: skip
    changes: dict[Any, object] = {Place("parts", key): made}
    if asked.card is not None:
        if records.card.chosen.get("part") != key:
            changes["context.part"] = key
        for axis in "xyz":
            changes[f"brief.size_{axis}_mm"] = round(getattr(found.shape, f"size_{axis}_mm"), 3)
    workspace.draft.set(changes, title=f"Part {made.name} measured", card=asked.card)
    return key


def add_fit(workspace: Workspace, part: PrintedPart | None, name: str, kind: str | None, across: str) -> None:
    """Note a hole by what goes into it."""
    if part is None:
        raise KaustosError("Open a part file first.")
    if not name.strip():
        raise KaustosError("Name what goes in, such as M5 insert.")
    across_mm = read(across, "length") if across.strip() else None
    entry = Fit(name=name.strip()[:200], kind=kind, across_mm=across_mm)
    places = {Place("parts", part.id, "fits"): (*part.fits, entry)}
    workspace.draft.set(places, title=f"{part.name}: hole for {entry.name}")


def drop_fit(workspace: Workspace, part: PrintedPart, number: int) -> None:
    """Take a hole out of the record."""
    drop_entry(workspace, Place("parts", part.id, "fits"), number, f"{part.name}: hole taken out")


def part_lines(found: Measured, wording: Wording) -> list[str]:
    """What was measured on a file that is kept nowhere, line by line."""
    part = PrintedPart(id="part", name=found.name, files=(PartFile(sha256=found.sha256, name=found.name),),
                       shape=found.shape, repaired=found.repair.done, broken=found.repair.left)  # fmt: skip
    lines = [f"{title}\t{words}" for title, words in part_rows(part, wording)]
    for side in found.shape.sides:
        lines.append(f"Side {side.number:.0f}\t{side_words(side, wording)}")
    if found.unlikely:
        lines.append(f"Unlikely in mm\tmeant may be {', '.join(found.unlikely)}: say --scale")
    return lines


def side_title(side: Side, wording: Wording) -> str:
    """A side that could lie down, in a few words."""
    hangs = wording.value(round(side.hangs_mm2 / 100.0, 1), "area") if side.hangs_mm2 >= 1.0 else "none"
    return f"{wording.value(side.area_mm2 / 100.0, 'area')} down, {hangs} hangs"


def side_words(side: Side, wording: Wording) -> str:
    """A side that could lie down: its size, how high the part then is, and what of it then hangs."""
    area, high = wording.value(side.area_mm2 / 100.0, "area"), wording.value(side.height_mm, "length")
    hangs = wording.value(round(side.hangs_mm2 / 100.0, 1), "area") if side.hangs_mm2 >= 1.0 else "nothing"
    return f"{area}, {high} high, {hangs} over air"


def hanging_words(shape: Shape, wording: Wording) -> list[str]:
    """Each place that wants help without a fan, whatever the polymer."""
    if shape.overhangs is None:
        return ["nobody has looked: open the file again"]
    found = []
    for need in needs_of(shape, bears(None)):
        place = need.place
        area = "" if need.sort == "begins" else f", {wording.value(need.area_mm2 / 100.0, 'area')}"
        reach = {"reached": "", "unreached": ", no tool reaches it", "closed": ", closed"}[reach_of(need)]
        found.append(f"{SORTS[need.sort]} at {wording.value(round(place.low_mm, 1), 'length')}{area}{reach}")
    return found


def part_rows(part: PrintedPart | None, wording: Wording) -> list[tuple[str, str]]:
    """What was measured on a part, and what was done to its mesh."""
    if part is None or part.shape is None:
        return [("No part file yet", "Open one, or drop STL, 3MF or OBJ on the window")]
    shape = part.shape
    size = " × ".join(wording.number(each, "length") for each in (shape.size_x_mm, shape.size_y_mm, shape.size_z_mm))
    rows = [
        ("File", ", ".join(each.name for each in part.files[-1:]) or "none kept"),
        ("Size as it stands", f"{size} mm"),
        ("Volume", wording.value(shape.volume_mm3 / 1e3, "volume")),
        ("Contact", f"{wording.value(shape.contact_mm2 / 100.0, 'area')}, "
                    f"{wording.value(100.0 * shape.contact_mm2 / shape.shadow_mm2, 'share')} of its shadow"),
    ]  # fmt: skip
    if shape.thinnest_mm is not None:
        at = wording.value(shape.thinnest_at_mm or 0.0, "length")
        rows.append(("Thinnest wall", f"{wording.value(shape.thinnest_mm, 'length')}, at a height of {at}"))
    if shape.gap_mm is not None:
        rows.append(("Least gap at the plate", wording.value(shape.gap_mm, "length")))
    rows += [("Grows over air", each) for each in hanging_words(shape, wording)]
    rows += [("Mended", each) for each in part.repaired]
    rows += [("Could not be mended", each) for each in part.broken]
    for each in part.files[:-1]:
        rows.append(("Earlier file", f"{each.name}, given up: {each.rejected or 'not said why'}"))
    for fit in part.fits:
        rows.append((f"Hole for {fit.name or 'a part'}", hole_words(part, fit, wording)))
    return rows


def hole_words(part: PrintedPart, fit: Fit, wording: Wording) -> str:
    """What a hole is drawn at."""
    found = drawn_hole(fit, part)
    if found is None:
        return "its size is not recorded"
    return f"draw it at {wording.estimate(found)}; {found.source}"


def scaled_words(part: PrintedPart, to: float, bore_mm: float | None, wording: Wording) -> str:
    """What scaling a part from the scale that it has does to mass and walls."""
    shape, factor = part.shape, to / (part.scale or 1.0)
    if shape is None:
        return "measured anew"
    words = f"mass × {wording.number(factor**3, 'ratio')}"
    if shape.thinnest_mm is not None:
        wall = shape.thinnest_mm * factor
        words += f", thinnest wall {wording.value(wall, 'length')}"
        if bore_mm is not None and wall < bore_mm:
            words += f": under one bead of {wording.value(bore_mm, 'length')}"
    return words
