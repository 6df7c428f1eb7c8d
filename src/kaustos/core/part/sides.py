"""Sides on which a part could lie: how large, how high it then stands, what of it then hangs."""

import numpy as np

from kaustos.core.estimates import WELD
from kaustos.core.part.mesh import Mesh
from kaustos.core.part.overhang import hanging_area
from kaustos.core.records.part import Side

MOST_FACES = 8  # sides that are offered to lie down
MOST_TRIED = 256  # directions looked at, the largest first: the facets of a wavy skin are many and none can lie
BORNE = WELD["overhang"].value  # lean that needs no help without a fan [deg]


def sides_of(mesh: Mesh) -> tuple[Side, ...]:
    """The largest flat sides of a part, each by one of its faces.

    Parameters
    ----------
    mesh : Mesh
        The part [mm]

    Returns
    -------
    tuple of Side
        The largest first, each with what would hang if the part lay on it [mm, mm^2]
    """
    normals = mesh.normals
    areas = 0.5 * np.linalg.norm(normals, axis=1)
    unit = np.round(normals / np.maximum(2.0 * areas, 1e-300)[:, None], 3) + 0.0  # no zero below nothing
    _, group = np.unique(unit, axis=0, return_inverse=True)
    group = np.ravel(group)
    summed = np.bincount(group, areas)
    by_group = np.argsort(group, kind="stable")
    ends = np.cumsum(np.bincount(group))
    found: list[Side] = []
    alike: dict[tuple[float, float], int] = {}
    for number in np.argsort(summed)[::-1][:MOST_TRIED]:
        if len(found) == MOST_FACES:
            break
        members = by_group[ends[number - 1] if number else 0 : ends[number]]
        first = int(members[np.argmax(areas[members])])
        way = normals[first] / np.linalg.norm(normals[first])
        along = mesh.vertices @ way
        high = float(np.ptp(along))
        lowest = np.isclose(along[mesh.faces[members]].max(axis=1), along.max(), atol=1e-6 * high + 1e-9)
        area = float(areas[members][lowest].sum())
        kind = (float(f"{area:.3g}"), float(f"{high:.3g}"))
        alike[kind] = alike.get(kind, 0) + 1
        if lowest.any() and alike[kind] <= 2:  # of the facets of a round side two are enough
            hangs = hanging_area(mesh, way, BORNE)
            found.append(Side(number=float(first), area_mm2=area, height_mm=high, hangs_mm2=hangs))
    return tuple(found)
