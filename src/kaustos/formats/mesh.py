"""Reads part files: STL, 3MF and OBJ, checked against what they claim before anything is unpacked.

Runs in a worker process with limits of its own (``kaustos.app.worker``): a foreign file may be anything.
"""

import re
import struct
import zipfile
import zlib
from pathlib import Path
from typing import Any

import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.part import Mesh, MeshFault

SUFFIXES = (".stl", ".3mf", ".obj")
MOST_UNPACKED = 1 << 30  # bytes that a 3MF may declare in all
MOST_RATIO = 200  # times its packed size
HEADER, FACE = 84, 50  # bytes of a binary STL
UNITS = {"micron": 1e-3, "millimeter": 1.0, "centimeter": 10.0, "meter": 1e3, "inch": 25.4, "foot": 304.8}
USUAL = {"mm": 1.0, "in": 25.4, "m": 1000.0, "cm": 10.0}
LEAST_MM, MOST_MM = 2.0, 2000.0  # sizes between which a file in millimetres is likely


class BadPart(KaustosError):
    """A part file that cannot be used, and why."""

    def __init__(self, name: str, problem: str) -> None:
        super().__init__(name, problem)
        self.name, self.problem = name, problem

    def __str__(self) -> str:
        return f"{self.name}: {self.problem}"


def read_mesh(file: Path) -> Mesh:
    """The triangles of a part file, in millimetres where the file says its unit."""
    name, suffix = file.name, file.suffix.lower()
    if suffix not in SUFFIXES:
        raise BadPart(name, f"is none of {', '.join(SUFFIXES)}")
    size = file.stat().st_size
    if size == 0:
        raise BadPart(name, "is empty")
    try:
        if suffix == ".stl":
            return _stl(file, size)
        factor = _check_3mf(file) if suffix == ".3mf" else 1.0
        return _loaded(file, suffix, factor)
    except MeshFault as fault:
        raise BadPart(name, fault.problem) from fault
    except MemoryError as fault:
        raise BadPart(name, "is larger than this program takes in") from fault


def unlikely_size(largest_mm: float) -> dict[str, float]:
    """Units that a file may have been written in where its size is unlikely in millimetres, with their factors."""
    if LEAST_MM <= largest_mm <= MOST_MM:
        return {}
    return {unit: factor for unit, factor in USUAL.items() if LEAST_MM <= largest_mm * factor <= MOST_MM}


def _stl(file: Path, size: int) -> Mesh:
    with file.open("rb") as stream:
        head = stream.read(HEADER)
        if len(head) < HEADER:
            return _ascii_stl(file, head)
        (count,) = struct.unpack("<I", head[80:84])
        if size == HEADER + FACE * count:
            rows = np.frombuffer(stream.read(), np.dtype([("n", "<f4", 3), ("corners", "<f4", (3, 3)), ("x", "<u2")]))
            if count == 0:
                raise MeshFault("it has no faces")
            vertices = rows["corners"].reshape(-1, 3).astype(float)
            return Mesh(vertices=vertices, faces=np.arange(3 * count, dtype=np.int64).reshape(-1, 3))
    if head[:5].lower() == b"solid":
        return _ascii_stl(file, head)
    raise BadPart(
        file.name,
        f"says that it holds {count:,} faces, {HEADER + FACE * count:,} bytes; it has {size:,}: cut off, or damaged",
    )


def _ascii_stl(file: Path, head: bytes) -> Mesh:
    if head[:5].lower() != b"solid":
        raise BadPart(file.name, "is too short for an STL file")
    numbers: list[float] = []
    with file.open(encoding="ascii", errors="replace") as stream:
        for place, line in enumerate(stream, start=1):
            words = line.split()
            if words[:1] != ["vertex"]:
                continue
            try:
                numbers += [float(each) for each in words[1:4]]
            except ValueError as error:
                raise BadPart(file.name, f"line {place}: {line.strip()!r:.60} is no corner") from error
            if len(words) != 4:
                raise BadPart(file.name, f"line {place}: a corner wants three numbers")
    if not numbers:
        raise MeshFault("it has no faces")
    if len(numbers) % 9:
        raise BadPart(file.name, "ends within a face: cut off, or damaged")
    vertices = np.array(numbers).reshape(-1, 3)
    return Mesh(vertices=vertices, faces=np.arange(len(vertices), dtype=np.int64).reshape(-1, 3))


def _check_3mf(file: Path) -> float:
    """Refuse what unpacks to too much or brings a document type; the file's unit in millimetres."""
    try:
        with zipfile.ZipFile(file) as packed:
            entries = packed.infolist()
            declared, held = sum(each.file_size for each in entries), max(file.stat().st_size, 1)
            if declared > MOST_UNPACKED or declared > MOST_RATIO * held:
                raise BadPart(file.name, f"would unpack to {declared:,} bytes from {held:,}: refused")
            unit = 1.0
            for each in entries:
                with packed.open(each) as stream:
                    text = stream.read(each.file_size + 1).replace(b"\x00", b"")  # two bytes a letter, or one
                if b"<!DOCTYPE" in text or b"<!ENTITY" in text:
                    raise BadPart(file.name, f"{each.filename}: brings a document type of its own: refused")
                found = re.search(rb'<model[^>]*\bunit\s*=\s*"([a-z]+)"', text[:65536])
                if found:
                    unit = UNITS.get(found[1].decode("ascii"), 1.0)
            return unit
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError, OSError) as error:
        raise BadPart(file.name, f"is no sound 3MF file ({error})") from error


def _loaded(file: Path, suffix: str, factor: float) -> Mesh:
    import trimesh

    try:
        found: Any = trimesh.load(file, file_type=suffix[1:], process=False, force="mesh", skip_materials=True)
    except (MemoryError, KaustosError):
        raise
    except Exception as error:  # a foreign reader on a foreign file: whatever it raises, the file cannot be used
        raise BadPart(file.name, f"cannot be read ({type(error).__name__}: {str(error)[:120]})") from error
    faces = np.asarray(getattr(found, "faces", ()), np.int64)
    vertices = np.asarray(getattr(found, "vertices", ()), float)
    if faces.size == 0:
        raise MeshFault("it has no faces")
    return Mesh(vertices=vertices * factor, faces=faces)
