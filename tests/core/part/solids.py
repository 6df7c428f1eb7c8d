"""Solids whose figures are known by heart, as meshes."""

import math

import numpy as np

from kaustos.core.part import Mesh

BOX_FACES = np.array([[0, 1, 3], [0, 3, 2], [4, 6, 7], [4, 7, 5], [0, 4, 5], [0, 5, 1], [2, 3, 7], [2, 7, 6],
                      [0, 2, 6], [0, 6, 4], [1, 5, 7], [1, 7, 3]])  # fmt: skip


def box(x, y, z, at=(0.0, 0.0, 0.0)):
    """A box by its sides."""
    corners = np.array([[a, b, c] for a in (0.0, x) for b in (0.0, y) for c in (0.0, z)])
    return Mesh(vertices=corners + at, faces=BOX_FACES)


def joined(*meshes):
    """Several bodies in one mesh."""
    faces, vertices, count = [], [], 0
    for each in meshes:
        faces.append(each.faces + count)
        vertices.append(each.vertices)
        count += len(each.vertices)
    return Mesh(vertices=np.concatenate(vertices), faces=np.concatenate(faces))


def cone(radius, height, top=0.0, sides=720):
    """A cone, or a stump of one, that stands on its end."""
    turn = 2.0 * math.pi * np.arange(sides) / sides
    ring = np.column_stack((np.cos(turn), np.sin(turn)))
    low = np.column_stack((radius * ring, np.zeros(sides)))
    high = np.column_stack((top * ring, np.full(sides, height)))
    vertices = np.concatenate((low, high, [[0.0, 0.0, 0.0], [0.0, 0.0, height]]))
    here, there = np.arange(sides), (np.arange(sides) + 1) % sides
    bottom, point = np.full(sides, 2 * sides), np.full(sides, 2 * sides + 1)
    faces = [np.column_stack((bottom, there, here)), np.column_stack((here, there, sides + here))]
    if top > 0.0:
        faces += [np.column_stack((there, sides + there, sides + here))]
        faces += [np.column_stack((sides + here, sides + there, point))]
    else:
        vertices[sides : 2 * sides] = [0.0, 0.0, height]
    return Mesh(vertices=vertices, faces=np.concatenate(faces))


def turned(mesh, degrees, move=(0.0, 0.0, 0.0)):
    """A mesh turned round the upright axis and moved."""
    a = math.radians(degrees)
    turn = np.array([[math.cos(a), -math.sin(a), 0.0], [math.sin(a), math.cos(a), 0.0], [0.0, 0.0, 1.0]])
    return Mesh(vertices=mesh.vertices @ turn.T + move, faces=mesh.faces)
