"""The made-up plates, agents and parts of the firm."""

import functools
import hashlib
import math
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from kaustos.core.part import Mesh, mended, shape_of
from kaustos.core.records import AgentBatch, Damage, Fit, PartFile, PlateItem, PrintedPart

Ints = NDArray[np.int64]
GLASS = PlateItem(
    id="plate_g2", name="G-2, borosilicate", surface="boro_glass", fits_on="tarn", size_x_mm=310.0, size_y_mm=310.0,
    held="clips", cleaned="washed", prints=41.0, renewed_prints=0.0, test_only=False, price=28.0,
    damages=(Damage(kind="scuff", x_mm=40.0, y_mm=260.0, radius_mm=8.0, by="PEI-PC blend"),),
)  # fmt: skip
COAT = PlateItem(
    id="plate_s7", name="S-7, textured coat", surface="pei_coat", fits_on="tarn", size_x_mm=310.0, size_y_mm=310.0,
    thick_mm=0.5, held="magnet", cleaned="wiped", prints=118.0, renewed_prints=0.0, test_only=False, price=36.0,
)  # fmt: skip
SHEET = PlateItem(
    id="plate_e1", name="E-1, PEI sheet clamped", surface="pei_film_thick", fits_on="crag", size_x_mm=290.0,
    size_y_mm=240.0, held="clips", cleaned="wiped", prints=9.0, renewed_prints=0.0, test_only=False, price=45.0,
)  # fmt: skip
METAL = PlateItem(
    id="plate_a3", name="A-3, aluminium", surface="aluminium", fits_on="crag", size_x_mm=290.0, size_y_mm=240.0,
    held="screws", cleaned="washed", prints=77.0, renewed_prints=0.0, test_only=False, price=52.0,
)  # fmt: skip
FILM = PlateItem(
    id="plate_f3", name="F-3, smooth film", surface="pei_film", fits_on="beck", size_x_mm=215.0, size_y_mm=215.0,
    thick_mm=0.5, held="magnet", cleaned="wiped", prints=132.0, renewed_prints=0.0, test_only=False, price=30.0,
    film="pvp_glue", film_coats=1.0, film_prints=0.0,
)  # fmt: skip
LAMINATE = PlateItem(
    id="plate_l5", name="L-5, laminate", surface="laminate", fits_on="gill", size_x_mm=245.0, size_y_mm=205.0,
    held="clips", cleaned="dusty", prints=64.0, renewed_prints=30.0, test_only=False, price=14.0,
)  # fmt: skip
SMOOTH = PlateItem(
    id="plate_f6", name="F-6, smooth film", surface="pei_film", fits_on="gill", size_x_mm=245.0, size_y_mm=205.0,
    held="magnet", cleaned="wiped", prints=22.0, renewed_prints=0.0, test_only=False, price=30.0,
)  # fmt: skip
OLD = PlateItem(
    id="plate_g1", name="G-1, soda-lime glass", surface="glass", fits_on="gill", size_x_mm=245.0, size_y_mm=205.0,
    held="clips", cleaned="touched", prints=190.0, renewed_prints=0.0, test_only=True, price=9.0,
    damages=(Damage(kind="chip", x_mm=20.0, y_mm=20.0, radius_mm=6.0, by="PETG"),),
)  # fmt: skip
PLATES = (GLASS, COAT, SHEET, METAL, FILM, LAMINATE, SMOOTH, OLD)
_AGENTS = (  # id, name, kind, days ago, mixed, left, solids, looks, price
    ("agent_v14", "V-14, brushed film", "vinyl_film", 6.0, 250.0, 160.0, 8.0, "clear", 7.0),
    ("agent_v15", "V-15, brushed film", "vinyl_film", 0.2, 250.0, 250.0, 9.0, "clear", 7.0),
    ("agent_h2", "H-2, high-temperature agent", "heat_agent", 60.0, 60.0, 31.0, 12.0, "clear", 26.0),
    ("agent_k9", "K-9, glue stick", "pvp_glue", 90.0, 22.0, 14.0, 25.0, "clear", 2.0),
    ("agent_r1", "R-1, surfactant", "surfactant", 200.0, 500.0, 420.0, 1.0, "clear", 4.0),
)


def agents_at(now: datetime) -> dict[str, AgentBatch]:
    """The agents, dated before a moment."""

    def ago(days: float) -> str:
        return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")

    return {
        key: AgentBatch(id=key, name=name, agent=kind, lot=name.split(",")[0], mixed_utc=ago(days), mixed_ml=mixed,
                        left_ml=left, solids_pct=solids, state=looks, price=price)
        for key, name, kind, days, mixed, left, solids, looks, price in _AGENTS
    }  # fmt: skip


def ring(outer_mm: float, inner_mm: float, height_mm: float, sides: int = 96) -> Mesh:
    """A ring that stands on its end."""
    turn = 2.0 * math.pi * np.arange(sides) / sides
    circle = np.stack((np.cos(turn), np.sin(turn)), axis=1)
    rings = [(r, z) for r in (outer_mm, inner_mm) for z in (0.0, height_mm)]
    vertices = np.concatenate([np.column_stack((r * circle, np.full(sides, z))) for r, z in rings])
    here, there = np.arange(sides), (np.arange(sides) + 1) % sides
    bottom_out, top_out, bottom_in, top_in = (place * sides for place in range(4))

    def band(a: int, b: int) -> list[Ints]:
        return [np.stack((a + here, a + there, b + there), axis=1), np.stack((a + here, b + there, b + here), axis=1)]

    faces = [*band(bottom_out, top_out), *band(top_out, top_in), *band(top_in, bottom_in), *band(bottom_in, bottom_out)]
    return Mesh(vertices=vertices, faces=np.concatenate(faces))


def prism(corners: tuple[tuple[float, float], ...], height_mm: float) -> Mesh:
    """A prism on a convex polygon that turns left."""
    count = len(corners)
    flat = np.array(corners)
    vertices = np.concatenate([np.column_stack((flat, np.full(count, z))) for z in (0.0, height_mm)])
    fan = np.array([[0, n, n + 1] for n in range(1, count - 1)])
    here, there = np.arange(count), (np.arange(count) + 1) % count
    sides = [np.stack((here, there, count + there), axis=1), np.stack((here, count + there, count + here), axis=1)]
    return Mesh(vertices=vertices, faces=np.concatenate([fan[:, ::-1], count + fan, *sides]))


def profile(corners: tuple[tuple[float, float], ...], depth_mm: float) -> Mesh:
    """A body of one section in x and z, drawn along y; its corners turn left."""
    flat, count = np.array(corners), len(corners)
    vertices = np.concatenate([np.column_stack((flat[:, 0], np.full(count, y), flat[:, 1])) for y in (0.0, depth_mm)])
    place = {tuple(each): number for number, each in enumerate(map(tuple, flat.tolist()))}
    triangles = shapely.get_parts(shapely.constrained_delaunay_triangles(shapely.Polygon(corners)))
    front = np.array([[place[tuple(each)] for each in shapely.get_coordinates(one)[:3].tolist()] for one in triangles])
    a, b, c = (flat[front[:, each]] for each in range(3))
    left = (b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0] > 0.0
    front = np.where(left[:, None], front, front[:, ::-1])
    here, there = np.arange(count), (np.arange(count) + 1) % count
    sides = [np.stack((here, here + count, there), axis=1), np.stack((there, here + count, there + count), axis=1)]
    return Mesh(vertices=vertices, faces=np.concatenate([front, front[:, ::-1] + count, *sides]))


_MESHES: dict[str, tuple[str, str, Callable[[], Mesh]]] = {  # part: name, file, mesh
    "part_head": ("Probe head shell", "probe_head_62.stl", lambda: ring(31.0, 27.5, 180.0)),
    "part_blade": ("Centraliser blade", "blade_140.stl", lambda: prism(
        ((0.0, 20.0), (30.0, 0.0), (110.0, 0.0), (140.0, 20.0), (140.0, 40.0), (110.0, 60.0), (30.0, 60.0),
         (0.0, 40.0)), 24.0)),
    "part_ring": ("Packer back-up ring", "ring_88.stl", lambda: ring(44.0, 34.0, 14.0)),
    "part_clamp": ("Cable clamp", "clamp_60.stl", lambda: profile(
        ((0.0, 0.0), (18.0, 0.0), (18.0, 16.0), (42.0, 16.0), (42.0, 0.0), (60.0, 0.0), (60.0, 10.0), (50.0, 10.0),
         (50.0, 22.0), (60.0, 22.0), (60.0, 28.0), (0.0, 28.0), (0.0, 22.0), (10.0, 22.0), (10.0, 10.0), (0.0, 10.0)),
        40.0)),
}  # fmt: skip


_KNOWN: dict[str, dict[str, Any]] = {  # what else is known of them
    "part_head": {"fits": (Fit(name="Bulkhead connector", kind="push", across_mm=55.0),), "hole_error_mm": 0.18,
                  "stock_mm": 0.0, "twin": False},
    "part_blade": {"fits": (Fit(name="M5 insert", kind="insert", across_mm=6.4), Fit(name="M4", kind="screw",
                   across_mm=4.0)), "twin": True},
    "part_clamp": {"twin": False},
    "part_ring": {"flat_mm": 0.1, "stock_mm": 0.5, "twin": False},
}  # fmt: skip


def stl_of(mesh: Mesh, name: str) -> bytes:
    """A mesh as binary STL."""
    kind = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("spare", "<u2")])
    rows = np.zeros(len(mesh.faces), kind)
    normals = mesh.normals
    rows["normal"] = normals / np.linalg.norm(normals, axis=1)[:, None]
    rows["corners"] = mesh.vertices[mesh.faces]
    return name.encode("ascii")[:80].ljust(80, b" ") + np.uint32(len(rows)).tobytes() + rows.tobytes()


@functools.cache
def files() -> dict[str, tuple[str, bytes]]:
    """The file of each part: its name and what is in it."""
    return {key: (file, stl_of(make(), name)) for key, (name, file, make) in _MESHES.items()}


@functools.cache
def parts() -> dict[str, PrintedPart]:
    """The parts as they were measured on their files."""
    found = {}
    faces = {"part_head": ("mating", "seen"), "part_blade": ("free", "free"), "part_ring": ("sealing", "mating"),
             "part_clamp": ("free", "free")}  # fmt: skip
    for key, (name, _, make) in _MESHES.items():
        file, content = files()[key]
        mesh, repair = mended(make())
        under, sides = faces[key]
        found[key] = PrintedPart(
            id=key, name=name, shape=shape_of(mesh), repaired=repair.done, broken=repair.left, underside=under,
            sides=sides, files=(PartFile(sha256=hashlib.sha256(content).hexdigest(), name=file),), scale=1.0,
            **_KNOWN[key],
        )  # fmt: skip
    return found
