"""Stress that a layer keeps when it solidifies hot and ends colder, and the elastic energy of it."""

import functools

import attrs
import numpy as np
from numpy.typing import ArrayLike, NDArray

from kaustos.core.errors import FieldError

Array = NDArray[np.float64]
CRYSTAL_SPAN_K = 40.0  # below the crystallisation onset, over which the shrinkage of crystallisation is spread
LEAST_POINTS = 5


@attrs.frozen(kw_only=True, eq=False)
class Stiffness:
    """Modulus over temperature: at least five points, the logarithm straight between them, level beyond the ends."""

    celsius: Array  # [°C]
    modulus: Array  # [Pa]

    def __attrs_post_init__(self) -> None:
        if self.celsius.size < LEAST_POINTS or self.celsius.size != self.modulus.size:
            raise FieldError("modulus", f"at least {LEAST_POINTS} points of temperature and modulus are wanted")
        if not (np.diff(self.celsius) > 0).all() or not (self.modulus > 0).all():
            raise FieldError("modulus", "temperatures must rise and every modulus be above nothing")

    def at(self, celsius: ArrayLike) -> Array:
        """Modulus at temperatures [°C] in [Pa]."""
        return np.asarray(np.exp(np.interp(np.asarray(celsius, float), self.celsius, self._course[0])))

    def integral(self, celsius: ArrayLike) -> Array:
        """Modulus summed up from the first point to temperatures [°C], exact between the points, in [Pa K]."""
        t, (_, slopes, whole) = self.celsius, self._course
        at = np.asarray(celsius, float)
        place = np.clip(np.searchsorted(t, at, side="right") - 1, 0, t.size - 2)
        inside = _segment(self.modulus[place], slopes[place], np.clip(at, t[0], t[-1]) - t[place])
        below, above = np.minimum(at - t[0], 0.0), np.maximum(at - t[-1], 0.0)
        return np.asarray(whole[place] + inside + below * self.modulus[0] + above * self.modulus[-1])

    @functools.cached_property
    def _course(self) -> tuple[Array, Array, Array]:
        """Logarithm at the points, its slopes between them [1/K], and the integral up to each point [Pa K]."""
        logarithm, steps = np.log(self.modulus), np.diff(self.celsius)
        slopes = np.diff(logarithm) / steps
        whole = np.concatenate(([0.0], np.cumsum(_segment(self.modulus[:-1], slopes, steps))))
        return logarithm, slopes, whole


def _segment(start: Array, slope: Array, width: Array) -> Array:
    """The integral of start exp(slope x) from 0 to a width."""
    grown = slope * width
    even = np.where(np.abs(grown) < 1e-9, 1.0 + grown / 2.0, np.expm1(grown) / np.where(grown == 0.0, 1.0, grown))
    return np.asarray(start * width * even)


@attrs.frozen(kw_only=True, eq=False)
class Solid:
    """What of a polymer decides the stress of a layer that solidifies."""

    stiffness: Stiffness
    glass_c: float  # glass transition [°C]
    solid_c: float  # where it begins to carry load: glass transition, or onset of crystallisation [°C]
    expansion_glassy: float  # linear, below the glass transition [1/K]
    expansion_rubbery: float  # linear, above it [1/K]
    crystal_shrinkage: float = 0.0  # linear, of crystallisation [1]
    strength: float = np.inf  # at room, above which it yields [Pa]


def stress_parts(solid: Solid, ends_c: ArrayLike) -> tuple[Array, Array]:
    """Stress of a layer held at its solidified length: what the glass keeps, and what the crystals could keep.

    Parameters
    ----------
    solid : Solid
        The polymer [Pa, °C, 1/K]
    ends_c : float or ndarray
        Temperature that the layer ends at [°C]

    Returns
    -------
    tuple of ndarray
        Stress from below the glass transition, and from between it and solidification; of the second only a share is
        kept, since it creeps away [Pa]

    Notes
    -----
    Linear elastic with a modulus that depends on temperature. The shrinkage of crystallisation is spread evenly over
    40 K below its onset. A layer that ends above the glass transition has the second part alone.

    Examples
    --------
    >>> hard = Stiffness(celsius=np.linspace(0.0, 100.0, 5), modulus=np.full(5, 2e9))
    >>> glass = Solid(stiffness=hard, glass_c=80.0, solid_c=80.0, expansion_glassy=7e-5, expansion_rubbery=2e-4)
    >>> round(float(stress_parts(glass, 30.0)[0]) / 1e6, 6)
    7.0
    """
    end = np.asarray(ends_c, float)
    glass, top = solid.glass_c, max(solid.solid_c, solid.glass_c)
    low = np.maximum(np.minimum(end, top), glass)
    crystal = np.maximum(low, top - CRYSTAL_SPAN_K)
    ends = np.stack((np.full_like(end, glass), np.full_like(end, top), np.minimum(end, glass), low, crystal))
    at_glass, at_top, at_cold, at_low, at_crystal = solid.stiffness.integral(ends)
    rate = solid.crystal_shrinkage / CRYSTAL_SPAN_K
    rubbery = solid.expansion_rubbery * (at_top - at_low) + rate * (at_top - at_crystal)
    return np.asarray(solid.expansion_glassy * (at_glass - at_cold)), np.asarray(rubbery)


def kept_stress(solid: Solid, ends_c: ArrayLike, kept: ArrayLike) -> Array:
    """Stress of a layer with a share of the hot part kept, at most what it yields at.

    Parameters
    ----------
    solid : Solid
        The polymer [Pa, °C, 1/K]
    ends_c : float or ndarray
        Temperature that the layer ends at [°C]
    kept : float or ndarray
        Share of the stress from above the glass transition that does not creep away [1]

    Returns
    -------
    ndarray
        Stress [Pa]

    Notes
    -----
    The strength falls with temperature as the modulus does: an assumption.

    Examples
    --------
    >>> hard = Stiffness(celsius=np.linspace(0.0, 100.0, 5), modulus=np.full(5, 2e9))
    >>> glass = Solid(stiffness=hard, glass_c=80.0, solid_c=80.0, expansion_glassy=7e-5, expansion_rubbery=2e-4,
    ...               strength=5e6)
    >>> float(kept_stress(glass, 30.0, 0.0)) / 1e6
    5.0
    """
    glassy, rubbery = stress_parts(solid, ends_c)
    return np.asarray(np.minimum(glassy + np.asarray(kept) * rubbery, yields_at(solid, ends_c)))


def yields_at(solid: Solid, ends_c: ArrayLike) -> Array:
    """Stress that a layer yields at.

    Parameters
    ----------
    solid : Solid
        The polymer [Pa, °C, 1/K]
    ends_c : float or ndarray
        Its temperature [°C]

    Returns
    -------
    ndarray
        Strength at room, less by as much as the modulus is less [Pa]

    Examples
    --------
    >>> hard = Stiffness(celsius=np.linspace(0.0, 100.0, 5), modulus=np.full(5, 2e9))
    >>> glass = Solid(stiffness=hard, glass_c=80.0, solid_c=80.0, expansion_glassy=7e-5, expansion_rubbery=2e-4,
    ...               strength=5e6)
    >>> float(yields_at(glass, 30.0)) / 1e6
    5.0
    """
    stiff = solid.stiffness
    return np.asarray(solid.strength * np.minimum(stiff.at(ends_c) / stiff.at(23.0), 1.0))


def energy_density(stress: ArrayLike, modulus: ArrayLike) -> Array:
    """Elastic energy that a stressed layer gives back when it is let go.

    Parameters
    ----------
    stress : float or ndarray
        Along the layer [Pa]
    modulus : float or ndarray
        At the temperature that it ends at [Pa]

    Returns
    -------
    ndarray
        Energy by volume [J/m^3]

    Examples
    --------
    >>> float(energy_density(10e6, 2e9))
    25000.0
    """
    return np.asarray(np.asarray(stress, float) ** 2 / (2.0 * np.asarray(modulus, float)))
