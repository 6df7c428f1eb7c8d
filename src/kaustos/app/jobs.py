"""Job files: read in the worker, kept with the workspace, bound to the open recipe; what is known of their moves."""

import gzip
from collections import Counter
from itertools import pairwise
from pathlib import Path
from typing import TYPE_CHECKING, Any

import attrs

from kaustos.app.worker import WORKER
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.estimates import RUN
from kaustos.core.planning.motion import Planned, planned_of
from kaustos.core.progress import UNWATCHED, Cancelled, Progress
from kaustos.core.records import JobFile, JobPause, Place
from kaustos.core.records.fields import value_at
from kaustos.core.review.run.codes import COMPARED
from kaustos.disk import name_of

if TYPE_CHECKING:  # read in the worker: what it takes is not loaded by the window
    from kaustos.formats.job_code import JobLayer, JobRead

MOST_PIECES = 240  # along the height
MOST_S = 600.0
PIECE = 4 << 20


@attrs.frozen(kw_only=True)
class FoundJob:
    """What was read of a job file, with its copy."""

    name: str
    job: "JobRead"
    packed: bytes
    planned: Planned  # what the machine was taken to do


def read_file(file: str, name: str, planned: Planned) -> FoundJob:
    """Read a file: what the worker does."""
    from kaustos.formats.job_code import read_job

    path = Path(file)
    with path.open("rb") as opened:
        job = read_job(iter(lambda: opened.read(PIECE), b""), name, planned)
    return FoundJob(name=name, job=job, packed=gzip.compress(path.read_bytes(), 1, mtime=0), planned=planned)


@attrs.frozen(eq=False)
class ReadJob:
    """A job file that is to be read: a request of a job."""

    file: Path
    planned: Planned

    def __call__(self, progress: Progress = UNWATCHED) -> FoundJob:
        """Read it in the worker."""
        progress.check()
        name = name_of(self.file)
        try:
            found: FoundJob = WORKER.call(
                read_file, str(self.file), name, self.planned, progress=progress, most_s=MOST_S
            )
        except Cancelled:
            raise
        except KaustosError as fault:
            words = str(fault)
            raise KaustosError(words if words.startswith(name) else f"{name}: {words}") from fault
        return found


def reading(workspace: Workspace, file: Path) -> ReadJob:
    """What it takes to read a file for the open recipe's machine."""
    records = workspace.draft.records
    if records.current is None:
        raise KaustosError(f"{name_of(file)}: open or begin a recipe first; a job file is bound to one.")
    return ReadJob(file, planned_of(records.machines.get(records.card.machine or "")))


def keep_job(workspace: Workspace, found: FoundJob, card: str) -> str:
    """Keep a file that was read and bind it to the recipe that it was read for, as one edit; what is known of it.

    The same bytes are the same record, with the hours of the machine that they are read for.
    """
    records = workspace.draft.records.seen_by(card)
    same = [each for each in records.tables["jobs"].values() if each.moves_sha256 == found.job.moves_sha256]
    bytes_alike = next((each for each in same if each.sha256 == found.job.sha256), None)
    key = bytes_alike.id if bytes_alike is not None else records.free_id("jobs", Path(found.name).stem)
    changes: dict[Any, object] = {}
    if bytes_alike is None:
        copy, added = workspace.keep(f"{found.name}.gz", found.packed), stamp(workspace.clock())
    else:
        copy, added = bytes_alike.copy, bytes_alike.added_utc
    made = attrs.evolve(job_of(key, found), copy=copy, added_utc=added)
    if bytes_alike is not None:
        made = attrs.evolve(made, zero_machine=bytes_alike.zero_machine, zero_polymer=bytes_alike.zero_polymer)
    if bytes_alike is None or made != attrs.evolve(bytes_alike, name=made.name):
        changes[Place("jobs", key)] = made
    if records.card.chosen.get("job") != key:
        changes["context.job"] = key
    if changes:
        workspace.draft.set(changes, title=f"Job file {found.name}", card=card)
    return seen_before(workspace, key, card)


def call_zero(workspace: Workspace) -> str:
    """The bound file is what the default profile of this machine and polymer makes: what was moved is told by it."""
    records = workspace.draft.records
    job = records.tables["jobs"].get(records.card.chosen.get("job") or "") if records.current is not None else None
    if job is None:
        raise KaustosError("Bind a job file first: the one that a default profile makes.")
    card = records.card
    if card.machine is None or card.recipe.polymer is None:
        raise KaustosError("Version zero is of a machine and a polymer: choose both.")
    values = {"zero_machine": card.machine, "zero_polymer": card.recipe.polymer}
    changes = {Place("jobs", job.id, field): value for field, value in values.items()}
    workspace.draft.set(changes, title=f"{job.name} is version zero")
    return f"{job.name} is version zero for this machine and polymer."


def zero_of(workspace: Workspace) -> JobFile | None:
    """Version zero of the open recipe's machine and polymer: the newest that was called so."""
    records = workspace.draft.records
    if records.current is None:
        return None
    wanted = (records.card.machine, records.card.recipe.polymer)
    found = [each for each in records.tables["jobs"].values() if (each.zero_machine, each.zero_polymer) == wanted]
    return max(found, key=lambda each: each.added_utc, default=None)


VERSION_HEADINGS = ("Setting", "Recipe", "This file", "Version zero", "")


def version_rows(workspace: Workspace) -> list[tuple[str, ...]]:
    """Setting by setting: recipe, the bound file, version zero, and what of it was moved."""
    records, wording, zero = workspace.draft.records, workspace.draft.wording, zero_of(workspace)
    if records.current is None:
        return []
    job = records.tables["jobs"].get(records.card.chosen.get("job") or "")

    def said(value: float | None, quantity: str) -> str:
        return "not set" if value is None else wording.value(value, quantity)

    rows: list[tuple[str, ...]] = []
    for each in COMPARED:
        mine = value_at(records.card.recipe, each.path)
        of_file, of_zero = (None if file is None else getattr(file, each.of_file) for file in (job, zero))
        rows.append((
            wording.field(each.path), said(mine, each.quantity),
            "no file" if job is None else said(of_file, each.quantity),
            "none" if zero is None else said(of_zero, each.quantity),
            "" if zero is None else _moved(mine, of_zero, RUN[each.off].value, is_share=each.is_share),
        ))  # fmt: skip
    return rows


def _moved(mine: float | None, zero: float | None, off: float, *, is_share: bool) -> str:
    if mine is None or zero is None:
        return "" if mine is zero else "only in one"
    apart = abs(mine / zero - 1.0) if is_share and zero else abs(mine - zero)
    return "as the default" if apart <= off else "moved up" if mine > zero else "moved down"


def seen_before(workspace: Workspace, key: str, of: str) -> str:
    """Whether the same moves ran before, on which machine and how it ended; proven only there and with that lot."""
    records = workspace.draft.records.seen_by(of)
    job: JobFile = records.tables["jobs"][key]
    alike = {each.id for each in records.tables["jobs"].values() if each.moves_sha256 == job.moves_sha256}
    runs = [each for each in records.runs.values() if each.job in alike and each.is_ended and not each.retired]
    if not runs:
        return f"{job.name} is bound to {records.card.recipe.name or 'this recipe'}; these moves never ran."
    card = records.card
    here = [each for each in runs if each.machine == card.machine and each.lot == card.lot]
    good = sum(each.outcome == "good" for each in here)
    if here:
        return f"{job.name}: the same moves ran {len(here)} times on this machine from this lot, {good} good."
    ended = Counter(each.outcome for each in runs)
    told = ", ".join(f"{count} {outcome}" for outcome, count in ended.most_common())
    return f"{job.name}: the same moves ran elsewhere ({told}): proven there, not here."


def job_of(key: str, found: FoundJob) -> JobFile:
    """The record of what was read."""
    job = found.job
    laid = [each for each in job.layers if each.path_mm > 0.0]
    rest = laid[1:] or laid
    path = sum(each.path_mm for each in rest)
    steps = sorted(later.z_mm - sooner.z_mm for sooner, later in pairwise(laid))
    pieces = _pieces(laid, job)
    middle = rest[len(rest) // 2]
    least, likely, most = (each / 3600.0 for each in job.seconds)
    motion = found.planned
    return JobFile(
        id=key, name=found.name[:200], sha256=job.sha256, moves_sha256=job.moves_sha256, lines=float(job.lines),
        hours=round(likely, 5), least_h=round(least, 5), most_h=round(most, 5),
        filament_mm={str(tool): round(length, 4) for tool, length in job.filament_mm.items()}, strand_mm=job.strand_mm,
        nozzle_first_c=laid[0].nozzle_c, nozzle_c=middle.nozzle_c, plate_first_c=laid[0].plate_c,
        plate_c=middle.plate_c, chamber_c=middle.chamber_c, fan_pct=round(middle.fan_pct, 1),
        first_mm=round(laid[0].z_mm, 4), layer_mm=round(steps[len(steps) // 2], 4) if steps else None,
        first_speed_mm_s=round(laid[0].speed_mm_s, 2),
        speed_mm_s=round(sum(each.speed_mm_s * each.path_mm for each in rest) / path, 2),
        drawn=round(sum(each.filament_mm for each in rest) / path, 6),
        fastest_mm_s=round(max(each.fastest_mm_s for each in laid), 4), low_mm=job.low_mm, high_mm=job.high_mm,
        heights_mm=pieces[0], seconds=pieces[1], layers=pieces[2], feeds_mm_s=pieces[3],
        pauses=tuple(
            JobPause(line=float(each.line), at_mm=each.z_mm, after_h=each.after_s / 3600.0, word=each.word)
            for each in job.pauses
        ),
        unknown={name: float(count) for name, count in job.unknown}, is_homed=job.homed, accel_told=job.accel_told,
        accel_mm_s2=motion.accel_mm_s2[1], corner_mm_s=motion.corner_mm_s[1],
    )  # fmt: skip


def _pieces(laid: "list[JobLayer]", job: "JobRead") -> tuple[tuple[float, ...], ...]:
    """Layers put together in at most so many pieces: top, seconds of a layer, layers, mean feed."""
    step = -(-len(laid) // MOST_PIECES)
    found = []
    between = sum(each.seconds[1] for each in job.layers) / max(sum(each.seconds[1] for each in laid), 1e-9)
    for at in range(0, len(laid), step):
        group = laid[at : at + step]
        seconds = sum(each.seconds[1] for each in group) * between
        fed = sum(each.filament_mm for each in group)
        found.append((group[-1].z_mm, seconds / len(group), float(len(group)), fed / max(seconds, 1e-9)))
    return tuple(tuple(round(each, 5) for each in column) for column in zip(*found, strict=True))


def job_lines(found: FoundJob) -> list[tuple[str, ...]]:
    """What a file says, line by line, in shop units."""
    job = job_of("job", found)
    told = (
        ("hours", f"{job.hours:.2f}", f"{job.least_h:.2f}", f"{job.most_h:.2f}"),
        *(("filament mm", f"tool {tool}", f"{length:.1f}") for tool, length in job.filament_mm.items()),
        ("layers", f"{sum(job.layers):.0f}", f"first {job.first_mm:g} mm", f"then {job.layer_mm or 0.0:g} mm"),
        ("box mm", *(f"{each:.2f}" for each in job.size_mm)),
        ("speed mm/s", f"first {job.first_speed_mm_s:g}", f"then {job.speed_mm_s:g}"),
        *((zone, f"first {first:g} °C" if first is not None else "", f"then {later:g} °C")
          for zone, first, later in (("nozzle", job.nozzle_first_c, job.nozzle_c),
                                     ("plate", job.plate_first_c, job.plate_c), ("chamber", None, job.chamber_c))
          if later is not None),
        *(("pause", each.word, f"line {each.line:.0f}", f"{each.at_mm:g} mm", f"{each.after_h:.2f} h")
          for each in job.pauses),
        *(("not known", word, f"{count:.0f}") for word, count in job.unknown.items()),
        ("moves", job.moves_sha256),
        ("bytes", job.sha256),
    )  # fmt: skip
    return list(told)


def content_of(workspace: Workspace, job: JobFile) -> bytes:
    """The kept copy of a job file, byte by byte."""
    packed = workspace.attachment(job.copy)
    if packed is None:
        raise KaustosError(f"The kept copy of {job.name} is not in this workspace.")
    return gzip.decompress(packed)
