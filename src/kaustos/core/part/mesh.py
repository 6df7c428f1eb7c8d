"""A mesh as two arrays: what is wrong with it, what of that can be mended safely, and turning it."""

import functools

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import KaustosError

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
FLAT = 1e-9  # share of its size below which a mesh has no extent


class MeshFault(KaustosError):
    """A mesh that is no solid, and why."""

    def __init__(self, problem: str) -> None:
        super().__init__(problem)
        self.problem = problem

    def __str__(self) -> str:
        return self.problem


@attrs.frozen(kw_only=True, eq=False)
class Mesh:
    """Corners and triangles of a part; outside is where the corners of a triangle turn left."""

    vertices: Array  # n x 3 [mm]
    faces: Ints  # m x 3, numbers of corners

    def __attrs_post_init__(self) -> None:
        if self.faces.size == 0 or self.vertices.size == 0:
            raise MeshFault("it has no faces")
        if self.vertices.shape[1:] != (3,) or self.faces.shape[1:] != (3,):
            raise MeshFault("its corners are no points in space, or its faces no triangles")
        if not np.isfinite(self.vertices).all():
            raise MeshFault("a corner is no number")
        if self.faces.min() < 0 or self.faces.max() >= len(self.vertices):
            raise MeshFault("a face names a corner that is not there")

    @functools.cached_property
    def normals(self) -> Array:
        """Twice the area of every face, along its outer normal [mm^2]."""
        x, y, z = (self.vertices[:, place][self.faces] for place in range(3))
        u, v, w = ((each[:, 1] - each[:, 0], each[:, 2] - each[:, 0]) for each in (x, y, z))
        sides = (v[0] * w[1] - w[0] * v[1], w[0] * u[1] - u[0] * w[1], u[0] * v[1] - v[0] * u[1])
        return np.stack(sides, axis=1)

    @property
    def size(self) -> Array:
        """Length, width and height [mm]."""
        return np.asarray(np.ptp(self.vertices, axis=0))

    @property
    def volume(self) -> float:
        """What the faces enclose, below nothing where they are inside out [mm^3]."""
        first = self.vertices[self.faces[:, 0]] - self.vertices.mean(axis=0)
        return float((first * self.normals).sum() / 6.0)

    @property
    def area(self) -> float:
        """Of all faces [mm^2]."""
        return float(0.5 * np.linalg.norm(self.normals, axis=1).sum())


@attrs.frozen(kw_only=True)
class Repair:
    """What was wrong with a mesh, and what was done about it."""

    done: tuple[str, ...] = ()
    left: tuple[str, ...] = ()  # what could not be mended: figures that rest on it are marked


def mended(mesh: Mesh) -> tuple[Mesh, Repair]:
    """A mesh with its corners joined, faces without area dropped, and turned right side out.

    Parameters
    ----------
    mesh : Mesh
        As it was read [mm]

    Returns
    -------
    tuple of Mesh and Repair
        The mesh, and what was done and what is left [mm]

    Notes
    -----
    Nothing is guessed: holes stay holes and are told. No extent or no volume is a fault.

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]])
    >>> tetra = Mesh(vertices=corners, faces=np.array([[0, 1, 2], [0, 3, 1], [0, 2, 3], [1, 3, 2]]))
    >>> mended(tetra)[1].done
    ('the part was inside out and was turned right side out',)
    """
    done, left = [], []
    size = mesh.size
    if float(size.max()) <= 0.0 or float(size.min()) <= FLAT * float(size.max()):
        raise MeshFault("it has no extent: it is flat")
    mesh = _joined(mesh)
    faces = mesh.faces
    thin = (faces[:, 0] == faces[:, 1]) | (faces[:, 1] == faces[:, 2]) | (faces[:, 2] == faces[:, 0])
    if thin.any():
        done.append(f"{int(thin.sum()):,} faces without area were dropped")
        mesh = Mesh(vertices=mesh.vertices, faces=faces[~thin])
    alike = _twice(mesh.faces)
    if alike.any():
        done.append(f"{int(alike.sum()):,} faces that stood twice were dropped")
        mesh = Mesh(vertices=mesh.vertices, faces=mesh.faces[~alike])
    open_edges, crowded, flipped = _edges(mesh.faces)
    if open_edges:
        left.append(f"{open_edges:,} edges have but one face: the mesh has holes")
    if crowded:
        left.append(f"{crowded:,} edges have more than two faces")
    if flipped:
        left.append(f"{flipped:,} edges have faces that disagree which side is out")
    volume = mesh.volume
    if abs(volume) <= FLAT * float(np.prod(size)):
        raise MeshFault("it encloses no volume")
    if volume < 0.0:
        mesh = Mesh(vertices=mesh.vertices, faces=mesh.faces[:, ::-1])
        done.append("the part was inside out and was turned right side out")
    return mesh, Repair(done=tuple(done), left=tuple(left))


def _joined(mesh: Mesh) -> Mesh:
    """Corners at one place are one corner."""
    order = np.lexsort(mesh.vertices.T)
    ordered = mesh.vertices[order]
    fresh = np.concatenate(([True], (np.diff(ordered, axis=0) != 0.0).any(axis=1)))
    name = np.empty(len(order), np.int64)
    name[order] = np.cumsum(fresh) - 1
    return Mesh(vertices=ordered[fresh], faces=name[mesh.faces])


def _twice(faces: Ints) -> NDArray[np.bool_]:
    """Which faces repeat another with the same corners in the same sense."""
    first = np.argmin(faces, axis=1)
    turned = faces[np.arange(len(faces))[:, None], (first[:, None] + np.arange(3)) % 3]
    order = np.lexsort(turned.T)
    same = np.concatenate(([False], (np.diff(turned[order], axis=0) == 0).all(axis=1)))
    found = np.zeros(len(faces), bool)
    found[order] = same
    return found


def _edges(faces: Ints) -> tuple[int, int, int]:
    """How many edges have one face, more than two, or two that run the same way."""
    start, end = faces.ravel(), np.roll(faces, -1, axis=1).ravel()
    key = np.minimum(start, end) * (int(faces.max()) + 1) + np.maximum(start, end)
    order = np.argsort(key, kind="stable")
    begins = np.concatenate(([True], np.diff(key[order]) != 0))
    count = np.diff(np.concatenate((np.flatnonzero(begins), [len(key)])))
    sense = np.add.reduceat(np.where(start < end, 1, -1)[order], np.flatnonzero(begins))
    return int((count == 1).sum()), int((count > 2).sum()), int(((count == 2) & (sense != 0)).sum())


def turned_down(mesh: Mesh, face: int) -> Mesh:
    """The mesh turned so that one of its faces lies on the plate.

    Parameters
    ----------
    mesh : Mesh
        As it stands [mm]
    face : int
        Number of the face [-]

    Returns
    -------
    Mesh
        With that face below, its lowest point at height 0 [mm]

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 2]])
    >>> tetra = Mesh(vertices=corners, faces=np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]))
    >>> [round(float(each), 6) for each in turned_down(tetra, 1).size]
    [1.0, 2.0, 1.0]
    """
    normal = mesh.normals[face]
    normal = normal / np.linalg.norm(normal)
    down = np.array([0.0, 0.0, -1.0])
    axis, cosine = np.cross(normal, down), float(normal @ down)
    if cosine < -1.0 + 1e-12:
        turn = np.diag([1.0, -1.0, -1.0])
    else:
        cross = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
        turn = np.eye(3) + cross + cross @ cross / (1.0 + cosine)
    vertices = mesh.vertices @ turn.T
    vertices[:, 2] -= vertices[:, 2].min()
    return Mesh(vertices=vertices, faces=mesh.faces)
