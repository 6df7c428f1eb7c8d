"""Diffusion out of a long cylinder through a film: eigenvalues, the share lost, and changes of surroundings.

Radius, and time as the Fourier number Fo = D t / a², are without dimension here; the Biot number is the film's.
"""

import functools

import attrs
import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]

TERMS = 40
CHAINED = 20  # terms that are carried through many spans; the rest as one
NEGLIGIBLE = 1e-10  # of the moisture: terms below it are left out of an expansion
GONE = 1e-7  # of a term after one span
SHORT_TIME = 0.01  # below this Fourier number the short form holds for an infinite Biot number
_LEAST_BIOT, _MOST_BIOT, _KNOTS = 1e-7, 1e7, 561


@functools.cache
def _zeros(order: int, count: int) -> Array:
    from scipy.special import jn_zeros

    return np.asarray(jn_zeros(order, count), dtype=float)


def _bessel(x: Array) -> tuple[Array, Array]:
    from scipy.special import j0, j1

    return j0(x), j1(x)


@functools.cache
def _table() -> tuple[Array, Array]:
    """Logarithms of Biot numbers, and the eigenvalues there by bisection, from which Newton's method starts."""
    knots = np.linspace(np.log(_LEAST_BIOT), np.log(_MOST_BIOT), _KNOTS)
    biot = np.exp(knots)[:, None]
    low = np.concatenate(([0.0], _zeros(1, TERMS))) * np.ones_like(biot)
    high = _zeros(0, TERMS + 1) * np.ones_like(biot)
    for _ in range(44):
        middle = 0.5 * (low + high)
        zero, one = _bessel(middle)
        above = middle * one / zero > biot  # rises from 0 to infinity between a zero of J1 and the next of J0
        low, high = np.where(above, low, middle), np.where(above, middle, high)
    return knots, 0.5 * (low + high)


def eigenvalues(biot: Array | float) -> Array:
    """Roots b of b J1(b) = Bi J0(b), one more than the terms that are summed.

    Parameters
    ----------
    biot : float or ndarray
        Biot number of the film, 1e-7 or more, or infinity [-]

    Returns
    -------
    ndarray
        The first 41 roots along a last axis [-]

    Notes
    -----
    For an infinite Biot number the zeros of J0. Between tabulated roots by Newton's method to the last digits.

    References
    ----------
    Crank, The Mathematics of Diffusion

    Examples
    --------
    >>> [round(float(b), 4) for b in eigenvalues(5.0)[:2]]
    [1.9898, 4.7131]
    """
    bi = np.atleast_1d(np.asarray(biot, dtype=float))
    found = np.empty((*bi.shape, TERMS + 1))
    endless = bi >= _MOST_BIOT
    found[endless] = _zeros(0, TERMS + 1)
    if not endless.all():
        found[~endless] = _newton(np.maximum(bi[~endless], _LEAST_BIOT))
    return np.asarray(found[0] if np.ndim(biot) == 0 else found)


def _newton(biot: Array) -> Array:
    knots, roots = _table()
    place = (np.log(biot) - knots[0]) / (knots[1] - knots[0])
    left = np.clip(place.astype(int), 0, _KNOTS - 2)
    share = (place - left)[:, None]
    b = (1.0 - share) * roots[left] + share * roots[left + 1]
    bi = biot[:, None]
    for _ in range(2):
        zero, one = _bessel(b)
        b = b - (b * one - bi * zero) / (b * zero + bi * one)  # d/db of b J1(b) - Bi J0(b)
    return np.asarray(b)


def share_lost(fourier: Array | float, biot: float = np.inf) -> Array | float:
    """Share of the exchangeable water that has left a strand.

    Parameters
    ----------
    fourier : float or ndarray
        Time as D t / a² [-]
    biot : float
        Biot number of the film round the strand [-]

    Returns
    -------
    float or ndarray
        Share lost, 0 to 1 [-]

    Notes
    -----
    The series with 40 terms; for an infinite Biot number below Fo = 0.01 the form for short times. With a finite Biot
    number the series holds at all times: its terms fall with the fourth power of the root.

    References
    ----------
    Crank, The Mathematics of Diffusion: long cylinder, surface resistance

    Examples
    --------
    >>> round(float(share_lost(0.2)), 5), round(float(share_lost(0.2, 5.0)), 5)
    (0.78215, 0.6038)
    """
    fo = np.asarray(fourier, dtype=float)
    b = eigenvalues(biot)[:TERMS]
    square = b * b
    weight = 4.0 / square if biot >= _MOST_BIOT else 4.0 * biot**2 / (square * (square + biot**2))
    found = 1.0 - np.sum(weight * np.exp(-square * fo[..., None]), axis=-1)
    if biot >= _MOST_BIOT:
        short = 4.0 * np.sqrt(fo / np.pi) - fo - fo**1.5 / (3.0 * np.sqrt(np.pi)) - fo**2 / 8.0
        found = np.where(fo < SHORT_TIME, short, found)
    return float(found) if np.ndim(fourier) == 0 else found


@attrs.frozen(eq=False)
class Profile:
    """Moisture over the radius: equilibrium plus a sum of eigenfunctions; arrays hold many strands at once."""

    equilibrium: Array  # what the surface tends to
    biot: Array
    roots: Array  # (..., TERMS + 1)
    zero: Array  # J0 at the first roots
    one: Array  # J1 at the first roots
    coefficients: Array  # (..., TERMS)
    tail: Array  # share of the mean that the summed terms leave out

    def mean(self, fourier: Array | float = 0.0) -> Array:
        """Mean over the section after a while in these surroundings; several times along a last axis of their own.

        Parameters
        ----------
        fourier : float or ndarray
            Time as D t / a², its last axis for times where it is an array [-]

        Returns
        -------
        ndarray
            Mean moisture, in the unit of the equilibrium [-]
        """
        fo = np.asarray(fourier, dtype=float)
        weight = 2.0 * self.one / self.roots[..., :TERMS] * self.coefficients
        if fo.ndim == 0:
            if not fo:
                return np.asarray(self.equilibrium + weight.sum(axis=-1) + self.tail)
            decay = np.exp(-(self.roots**2) * fo)
            return np.asarray(
                self.equilibrium + (weight * decay[..., :TERMS]).sum(axis=-1) + self.tail * decay[..., TERMS]
            )
        decay = np.exp(-(self.roots**2)[..., None, :] * fo[..., :, None])
        total = (decay[..., :TERMS] @ weight[..., None])[..., 0]
        return np.asarray(self.equilibrium[..., None] + total + self.tail[..., None] * decay[..., TERMS])

    def mean_each(self, fourier: Array) -> Array:
        """Mean over the section, each strand after a while of its own.

        Parameters
        ----------
        fourier : ndarray
            Time as D t / a² of each strand [-]

        Returns
        -------
        ndarray
            Mean moisture, in the unit of the equilibrium [-]
        """
        return self.after(fourier).mean()

    def strand(self, *place: int) -> "Profile":
        """One strand out of many.

        Parameters
        ----------
        place : int
            Where it stands in the arrays [-]

        Returns
        -------
        Profile
            That strand alone [-]
        """
        return Profile(*(getattr(self, field.name)[place] for field in attrs.fields(Profile)))

    def after(self, fourier: Array | float) -> "Profile":
        """The profile after a while in the same surroundings.

        Parameters
        ----------
        fourier : float or ndarray
            Time as D t / a² of each strand [-]

        Returns
        -------
        Profile
            The later profile [-]
        """
        fo = np.asarray(fourier, dtype=float)
        decay = np.exp(-(self.roots**2) * fo[..., None])
        coefficients = self.coefficients * decay[..., :TERMS]
        return attrs.evolve(self, coefficients=coefficients, tail=self.tail * decay[..., TERMS])


def chained(profile: Profile, fourier: Array, equilibrium: Array, kept: int = -1) -> tuple[Array, Profile]:
    """Many spans one after the other in one film, each with its own length and its own surface.

    Parameters
    ----------
    profile : Profile
        Moisture at the beginning, in terms of the film [-]
    fourier : ndarray
        Length of each span as D t / a², spans x strands [-]
    equilibrium : ndarray
        Moisture that the surface tends to in each span, spans x strands [-]
    kept : int
        After which span the profile is kept [-]

    Returns
    -------
    tuple of ndarray and Profile
        Mean moisture after each span, spans x strands, and the profile that is kept [-]

    Notes
    -----
    A step of the surface is an even shift of the moisture over the section, and an even profile is known in terms of
    the film in closed form: no span costs a new expansion.
    """
    g, one = profile.roots[..., :CHAINED], profile.one[..., :CHAINED]
    even = one / g / (0.5 * (profile.zero[..., :CHAINED] ** 2 + one**2))
    weight = 2.0 * one / g
    rest = 1.0 - (weight * even).sum(axis=-1, keepdims=True)  # of an even profile, carried as one term more
    c = profile.coefficients[..., :CHAINED]
    tail = (profile.mean() - profile.equilibrium - (weight * c).sum(axis=-1))[..., None]
    even, c = np.concatenate((even, rest), axis=-1), np.concatenate((c, tail), axis=-1)
    weight = np.concatenate((weight, np.ones_like(tail)), axis=-1)
    decay = np.exp(-(profile.roots[..., : CHAINED + 1] ** 2) * fourier[..., None])
    decay[decay < GONE] = 0.0  # what is all but gone would slow the arithmetic down
    steps = -np.diff(equilibrium, axis=0, prepend=profile.equilibrium[None])[..., None]
    means, found = np.empty(steps.shape[:-1]), profile
    for place in range(len(steps)):
        c = (c + steps[place] * even) * decay[place]
        means[place] = np.einsum("...t,...t->...", weight, c)
        if place == kept % len(steps):
            whole = np.concatenate((c[..., :CHAINED], np.zeros((*c.shape[:-1], TERMS - CHAINED))), axis=-1)
            found = attrs.evolve(profile, equilibrium=equilibrium[place], coefficients=whole, tail=c[..., CHAINED])
    return means + equilibrium, found


def uniform(moisture: Array | float) -> Profile:
    """Strands that are evenly moist.

    Parameters
    ----------
    moisture : float or ndarray
        Moisture of each strand [-]

    Returns
    -------
    Profile
        Even profiles [-]
    """
    level = np.asarray(moisture, dtype=float)
    roots = np.broadcast_to(_zeros(0, TERMS + 1), (*level.shape, TERMS + 1))
    zero, one = _bessel(roots[..., :TERMS])
    return Profile(
        level, np.full(level.shape, np.inf), roots, zero, one, np.zeros((*level.shape, TERMS)), np.zeros(level.shape)
    )


def moved(profile: Profile, biot: Array | float, equilibrium: Array | float) -> Profile:
    """The same strands in other surroundings: the profile expanded in their eigenfunctions.

    Parameters
    ----------
    profile : Profile
        Moisture as it is at the change [-]
    biot : float or ndarray
        Biot number of the new film [-]
    equilibrium : float or ndarray
        Moisture that the surface tends to now [-]

    Returns
    -------
    Profile
        The same moisture in new terms [-]

    Notes
    -----
    The overlap of two eigenfunctions over r dr is [b J1(b) J0(g) - g J0(b) J1(g)] / (b² - g²), in closed form. What the
    terms that are summed leave out of the mean is carried as one term more, so that no water is lost at a change.
    """
    shape = np.broadcast_shapes(profile.equilibrium.shape, np.shape(biot), np.shape(equilibrium))
    target = np.broadcast_to(np.asarray(equilibrium, dtype=float), shape)
    film = np.broadcast_to(np.asarray(biot, dtype=float), shape)
    roots, zero, one = (each.reshape(*shape, -1) for each in _eigenfunctions(film.tobytes()))
    g = roots[..., :TERMS]
    level = profile.equilibrium - target
    coefficients = level[..., None] * one / g
    kept = _terms_that_matter(profile)
    if kept:
        coefficients = coefficients + _overlap(profile, kept, g, zero, one)
    coefficients = coefficients / (0.5 * (zero**2 + one**2))
    summed = target + (2.0 * one / g * coefficients).sum(axis=-1)
    return Profile(target, film, roots, zero, one, coefficients, profile.mean() - summed)


@functools.lru_cache(maxsize=64)
def _eigenfunctions(films: bytes) -> tuple[Array, Array, Array]:
    """Roots and Bessel functions for many films: the same ones are met again and again while one thing is changed."""
    roots = eigenvalues(np.frombuffer(films))
    return roots, *_bessel(roots[..., :TERMS])


def _terms_that_matter(profile: Profile) -> int:
    """How many terms are left of a profile: the higher ones die first."""
    alive = np.abs(profile.coefficients) > NEGLIGIBLE * np.max(np.abs(profile.equilibrium), initial=NEGLIGIBLE)
    places = np.flatnonzero(alive.reshape(-1, TERMS).any(axis=0))
    return int(places[-1]) + 1 if len(places) else 0


def _overlap(profile: Profile, kept: int, g: Array, zero_g: Array, one_g: Array) -> Array:
    """Sum over the old terms of their overlap with each new eigenfunction."""
    b, c = profile.roots[..., :kept], profile.coefficients[..., :kept]
    zero_b, one_b = profile.zero[..., :kept], profile.one[..., :kept]
    gap = (b**2)[..., None, :] - (g**2)[..., :, None]
    same = np.abs(gap) < 1e-7
    gap[same] = np.inf
    sums = (1.0 / gap) @ np.stack((c * b * one_b, c * zero_b), axis=-1)
    found = zero_g * sums[..., 0] - g * one_g * sums[..., 1]
    if same.any():
        found = found + (same @ (0.5 * (zero_b**2 + one_b**2) * c)[..., None])[..., 0]
    return np.asarray(found)
