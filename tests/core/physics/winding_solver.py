"""An independent solver for a spool in a dryer: finite volumes over depth of the winding and radius of the strand.

Vapour leaves through the gaps to the open face, heat comes in through faces and flanges' sides; all in plain steps of
time, nothing of the program's own series. Sorption is straight, as it is up to half humidity.
"""

import numpy as np

R = 8.314462618


def saturation_pa(celsius):
    """Saturation pressure over water by the IAPWS fit of Wagner and Pruss, written out here on its own."""
    kelvin = np.asarray(celsius, dtype=float) + 273.15
    tau = 1.0 - kelvin / 647.096
    powers = (1.0, 1.5, 3.0, 3.5, 4.0, 7.5)
    factors = (-7.85951783, 1.84408259, -11.7866497, 22.6807411, -15.9618719, 1.80122502)
    return 22.064e6 * np.exp(647.096 / kelvin * sum(a * tau**n for a, n in zip(factors, powers, strict=True)))


def warmed(depth, width, capacity, conductivity, film, seconds, cells=60):
    """Share of a step still missing over the depth (face to core), on average over the width, at times."""

    def wall(half, times):
        faces = np.linspace(0.0, half, cells + 1)
        step = half / cells
        matrix = np.zeros((cells, cells))
        g = conductivity / step
        for i in range(cells - 1):
            matrix[i, i] -= g
            matrix[i, i + 1] += g
            matrix[i + 1, i + 1] -= g
            matrix[i + 1, i] += g
        matrix[0, 0] -= 1.0 / (1.0 / film + 0.5 * step / conductivity)
        values, vectors = np.linalg.eigh(matrix / (capacity * step))
        start = vectors.T @ np.ones(cells)
        return (vectors * start) @ np.exp(np.outer(values, times)), 0.5 * (faces[1:] + faces[:-1])

    inward, places = wall(depth, seconds)
    across, _ = wall(width / 2.0, seconds)
    return inward * across.mean(axis=0), places


def hours_to_limit(
    *, diffusivity_80, energy, half, density, air_c, vapour_pa, room_c, start, limit, radius, depth, width, capacity,
    conductivity, film, gaps, tortuosity, longest_h, depths=18, rings=16, steps=500,
):  # fmt: skip
    """Hours until the mean of the winding and its deepest turn hold no more than a limit."""
    times = np.concatenate(([0.0], np.geomspace(20.0, longest_h * 3600.0, steps)))
    missing, places = warmed(depth, width, capacity, conductivity, film, times)
    z = (np.arange(depths) + 0.5) * depth / depths
    faces = radius * (1.0 - (1.0 - np.linspace(0.0, 1.0, rings + 1)) ** 1.6)
    centres, volumes = 0.5 * (faces[1:] + faces[:-1]), 0.5 * (faces[1:] ** 2 - faces[:-1] ** 2)
    inner = faces[1:-1] / np.diff(centres)
    stiff = np.zeros((rings, rings))
    for i, g in enumerate(inner):
        stiff[i, i] -= g
        stiff[i, i + 1] += g
        stiff[i + 1, i + 1] -= g
        stiff[i + 1, i] += g
    edge = radius / (radius - centres[-1])
    stiff[-1, -1] -= edge
    m = np.full((depths, rings), float(start))
    dz = depth / depths
    mean, deep = [start], [start]
    for k in range(1, len(times)):
        dt = times[k] - times[k - 1]
        at = room_c + (air_c - room_c) * (1.0 - np.interp(z, places, missing[:, k]))
        kelvin = at + 273.15
        d = diffusivity_80 * np.exp(-energy / R * (1.0 / kelvin - 1.0 / 353.15))
        per_pa = 2.0 * half / saturation_pa(at)  # moisture at the surface over vapour pressure
        given0, given1 = np.empty(depths), np.empty(depths)
        partial = []
        for j in range(depths):
            left = np.diag(volumes) - dt * d[j] * stiff
            source = np.zeros(rings)
            source[-1] = dt * d[j] * edge * per_pa[j]
            both = np.linalg.solve(left, np.stack((volumes * m[j], source), axis=1))
            partial.append(both)
            lost = volumes @ (m[j][:, None] - both * np.array([1.0, 0.0])) / (radius**2 / 2.0)
            given0[j] = lost[0]
            given1[j] = -(volumes @ both[:, 1]) / (radius**2 / 2.0)
        scale = (1.0 - gaps) * density / 100.0 / dt  # kg/m³/s for a loss of 1 %
        spread = 2.6e-5 * (kelvin / 298.15) ** 1.8 * gaps / tortuosity * 0.018015 / (R * kelvin)  # kg/m/s/Pa
        between = 2.0 / (1.0 / spread[1:] + 1.0 / spread[:-1]) / dz
        system, right = np.diag(scale * given1 * dz), -scale * given0 * dz
        for i, g in enumerate(between):
            system[i, i] -= g
            system[i, i + 1] += g
            system[i + 1, i + 1] -= g
            system[i + 1, i] += g
        open_face = spread[0] / (0.5 * dz)
        system[0, 0] -= open_face
        right[0] -= open_face * vapour_pa
        vapour = np.linalg.solve(system, right)
        m = np.stack([both[:, 0] + both[:, 1] * pa for both, pa in zip(partial, vapour, strict=True)])
        each = m @ volumes / (radius**2 / 2.0)
        mean.append(float(each.mean()))
        deep.append(float(each[-1]))
    found = []
    for course in (mean, deep):
        below = np.array(course) <= limit
        if not below.any():
            found.append(np.inf)
            continue
        k = int(np.argmax(below))
        share = (course[k - 1] - limit) / (course[k - 1] - course[k])
        found.append((times[k - 1] + share * (times[k] - times[k - 1])) / 3600.0)
    return tuple(found)
