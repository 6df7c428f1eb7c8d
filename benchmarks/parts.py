"""A part of half a million triangles: measured beside what a general library takes to load the same file.

The limit is in times ``trimesh.load_mesh`` of that binary file with default settings.
"""

import contextlib
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from kaustos.core.part import Mesh, mended, overhang, shape_of
from kaustos.core.planning.standing import Anchor, standing_of
from kaustos.core.progress import Cancelled, Unwatched
from kaustos.demo.bonding import stl_of
from kaustos.formats.mesh import read_mesh

ROUND, ALONG = 500, 500  # triangles: twice their product


def wavy() -> Mesh:
    """A closed body with lobes, tapered and twisted, of half a million triangles."""
    turn, z = 2.0 * np.pi * np.arange(ROUND) / ROUND, np.linspace(0.0, 80.0, ALONG)
    a, h = np.meshgrid(turn, z)
    radius = (30.0 + 3.0 * np.cos(5.0 * (a + h / 60.0))) * (1.0 - 0.3 * h / 80.0)
    skin = np.stack((radius * np.cos(a), radius * np.sin(a), h), axis=-1).reshape(-1, 3)
    row, here = np.arange(ALONG - 1)[:, None] * ROUND, np.arange(ROUND)[None]
    there = (here + 1) % ROUND
    low, low_next, high, high_next = row + here, row + there, row + ROUND + here, row + ROUND + there
    first = np.stack((low, low_next, high_next), axis=-1).reshape(-1, 3)
    second = np.stack((low, high_next, high), axis=-1).reshape(-1, 3)
    bottom, top = len(skin), len(skin) + 1
    last = (ALONG - 1) * ROUND
    here, there = here[0], there[0]
    caps = (np.stack((np.full(ROUND, bottom), there, here), axis=1),
            np.stack((np.full(ROUND, top), last + here, last + there), axis=1))  # fmt: skip
    vertices = np.concatenate((skin, [[0.0, 0.0, 0.0], [0.0, 0.0, 80.0]]))
    return Mesh(vertices=vertices, faces=np.concatenate((first, second, *caps)))


def _taken(act: Callable[[], object]) -> float:
    begun = time.perf_counter()
    act()
    return time.perf_counter() - begun


def analysis() -> float:
    """Reading, mending and measuring, footprint and load profile with it, over loading the file; best of three."""
    import trimesh

    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "wavy.stl"
        file.write_bytes(stl_of(wavy(), "wavy"))

        def whole() -> None:
            mesh, _ = mended(read_mesh(file))
            standing_of(shape_of(mesh), Anchor(kind="brim", width_mm=5.0))

        pairs = [(_taken(whole), _taken(lambda: trimesh.load_mesh(file))) for _ in range(3)]
    return min(mine for mine, _ in pairs) / min(theirs for _, theirs in pairs)


def ball() -> Mesh:
    """A ball with lobes, of half a million triangles: half of it hangs over air."""
    body = wavy()
    flat, high = body.vertices[:, :2], body.vertices[:, 2] / 80.0
    wide = np.sqrt(np.clip(1.0 - (2.0 * high - 1.0) ** 2, 1e-4, None))
    vertices = np.column_stack((flat * wide[:, None], 30.0 * (1.0 - np.cos(np.pi * high))))
    return mended(Mesh(vertices=vertices, faces=body.faces))[0]


def _beside_loading(act: Callable[[Mesh], object]) -> float:
    import trimesh

    mesh = ball()
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "ball.stl"
        file.write_bytes(stl_of(mesh, "ball"))
        pairs = [(_taken(lambda: act(mesh)), _taken(lambda: trimesh.load_mesh(file))) for _ in range(3)]
    return min(mine for mine, _ in pairs) / min(theirs for _, theirs in pairs)


def leans() -> float:
    """Which faces lean over by how much, and which hang together, over loading the file."""

    def act(mesh: Mesh) -> None:
        fresh = Mesh(vertices=mesh.vertices, faces=mesh.faces)
        angle = overhang.lean_of(fresh)
        overhang.patches_of(len(fresh.faces), overhang.pairs_of(fresh.faces), np.flatnonzero(angle > 30.0))

    return _beside_loading(act)


def hangs() -> float:
    """The same with starts, spans, what lies below and who reaches it."""
    return _beside_loading(lambda mesh: overhang.overhangs_of(mesh, 3.0))


class _CalledOff(Unwatched):
    def __init__(self) -> None:
        self.asked = 0.0

    def check(self) -> None:
        if self.asked:
            raise Cancelled("Called off.")
        self.asked = time.perf_counter()


def cancel() -> float:
    """From the wish to stop until it has stopped, over measuring the whole: the longest stretch between two looks."""
    mesh, _ = mended(wavy())
    whole = _taken(lambda: shape_of(mesh))
    watch = _CalledOff()
    with contextlib.suppress(Cancelled):
        shape_of(mesh, watch)
    return (time.perf_counter() - watch.asked) / whole


COMPARISONS = (
    ("part of 500,000 triangles, over loading its file", 3.0, "times", analysis),
    ("lean and patches of 500,000 triangles, over loading them", 5.0, "times", leans),
    ("starts, spans and reach of 500,000 triangles", 30.0, "times", hangs),
    ("a part called off while it is measured", 0.8, "of the whole", cancel),
)
