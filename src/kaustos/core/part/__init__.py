"""Geometry of a part from two arrays, vertices and faces: mending, outline, walls, profile along the height."""

from kaustos.core.part.analysis import shape_of
from kaustos.core.part.mesh import Mesh, MeshFault, Repair, mended, turned_down

__all__ = ["Mesh", "MeshFault", "Repair", "mended", "shape_of", "turned_down"]
