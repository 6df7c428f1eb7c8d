"""An independent solver for a moist strand: finite volumes over the radius, implicit in time."""

import numpy as np


def run(moisture, spans, cells=240):
    """Mean moisture after each span (diffusivity/radius², Biot, equilibrium, seconds), from an even start."""
    faces = np.linspace(0.0, 1.0, cells + 1) ** 0.6  # finer towards the surface
    centres = 0.5 * (faces[1:] + faces[:-1])
    volumes = 0.5 * (faces[1:] ** 2 - faces[:-1] ** 2)
    u = np.full(cells, float(moisture))
    means = []
    for rate, biot, target, seconds in spans:
        inner = faces[1:-1] / np.diff(centres)
        film = 1.0 / ((1.0 - centres[-1]) + (0.0 if np.isinf(biot) else 1.0 / biot))
        matrix = np.zeros((cells, cells))
        for i, g in enumerate(inner):
            matrix[i, i] -= g
            matrix[i, i + 1] += g
            matrix[i + 1, i + 1] -= g
            matrix[i + 1, i] += g
        source = np.zeros(cells)
        matrix[-1, -1] -= film
        source[-1] = film * target
        fo = rate * seconds
        steps = np.diff(np.concatenate(([0.0], np.geomspace(fo * 1e-6, fo, 220))))
        for step in steps:
            left = np.diag(volumes) - step * matrix
            u = np.linalg.solve(left, volumes * u + step * source)
        means.append(2.0 * float(volumes @ u))
    return means
