"""Heat in a part that grows layer by layer: how each layer and the face below it cool."""

import functools
import math

import attrs
import numpy as np
from numpy.typing import ArrayLike, NDArray

from kaustos.core.errors import FieldError

Array = NDArray[np.float64]
CELLS = 6  # in a layer
FINE = 6  # layers at the top that are divided; below them each layer is one cell
FOLLOWING = 3  # layers laid over the next one while the face is still watched
FIRST_LOOKS, LATER_LOOKS = 8.0, 3.0  # at the face for every factor of ten in time, while a layer is laid
SOON = 1e-3  # of the time in which heat crosses a layer: the first look
DEEP = ((48, 6), (24, 3), (12, 2))  # layers below the face from which several are laid in one step
LEFT = 1e-2  # share of a disturbance from below that counts as none
FAR_FILM = 10.0  # taken for how deep it matters, so that it is as deep for every film [W/m^2/K]
_DIGITS, _SPAN = 12.0, 10.0  # natural logarithm of the contour's error; last over first moment of one contour
BOLTZMANN, KELVIN = 5.670374419e-8, 273.15  # [W/m^2/K^4]


@attrs.frozen(kw_only=True)
class Stack:
    """A section of a part that grows, the same at every height."""

    layer: float  # height of a layer [m]
    period: float  # from one layer to the next [s]
    below: int  # layers below the face that is looked at
    conductivity: float  # [W/m/K]
    heat: float  # density times specific heat [J/m^3/K]
    edge: float  # perimeter over area of the section [1/m]

    def __attrs_post_init__(self) -> None:
        for name in ("layer", "period", "conductivity", "heat"):
            if not getattr(self, name) > 0.0:
                raise FieldError(name, f"must be above nothing, got {getattr(self, name)!r}")
        if not self.edge >= 0.0:
            raise FieldError("edge", f"must not be negative, got {self.edge!r}")
        if not self.below >= 1:
            raise FieldError("below", f"at least one layer lies below a face, got {self.below!r}")


@attrs.frozen(kw_only=True, eq=False)
class Responses:
    """How a face answers to melt at 1 (``melt``) and to a plate at 1 (``plate``), all else 0, for each film.

    Temperatures scale: surroundings + (melt - surroundings) x melt + (plate - surroundings) x plate.
    """

    films: Array  # coefficients of heat transfer [W/m^2/K]
    times: Array  # since the layer above the face was laid [s]
    lasts: Array  # how long each look stands for in a sum over time [s]
    melt: Array  # of the face, film by time [1]
    plate: Array
    skin_melt: Array  # top of the layer below, as the next one comes, by film
    skin_plate: Array
    end_melt: Array  # mean of a layer as the next one comes, by film
    end_plate: Array

    def at(self, film: ArrayLike) -> "Responses":
        """The same for other films between the least and the most, by interpolation [W/m^2/K]."""
        wanted = np.atleast_1d(np.asarray(film, float))
        weights = interpolating(np.log(self.films), np.log(wanted))
        return Responses(
            films=wanted, times=self.times, lasts=self.lasts, melt=weights @ self.melt, plate=weights @ self.plate,
            skin_melt=weights @ self.skin_melt, skin_plate=weights @ self.skin_plate,
            end_melt=weights @ self.end_melt, end_plate=weights @ self.end_plate,
        )  # fmt: skip


def film_of(air: ArrayLike, surroundings_c: ArrayLike, emissivity: float = 0.95, warmer: float = 45.0) -> Array:
    """Coefficient of heat transfer from a part to what is round it, radiation included.

    Parameters
    ----------
    air : float or ndarray
        Of the air alone: about 8 in still air, 12 in stirred air, 25 to 60 under a fan [W/m^2/K]
    surroundings_c : float or ndarray
        Air and walls of the chamber [°C]
    emissivity : float
        Of the part [1]
    warmer : float
        Its surface over the surroundings [K]

    Returns
    -------
    ndarray
        Film [W/m^2/K]

    Notes
    -----
    Radiation between a small grey body and its surroundings, taken at one temperature of the surface so that the
    problem stays linear.

    Examples
    --------
    >>> round(float(film_of(8.0, 20.0)), 1)
    14.8
    """
    cold = np.asarray(surroundings_c, float) + KELVIN
    warm = cold + warmer
    return np.asarray(np.asarray(air, float) + emissivity * BOLTZMANN * (warm**2 + cold**2) * (warm + cold))


def film_nodes(least: float, most: float, count: int = 6) -> Array:
    """Films at which responses are solved so that all between them can be interpolated.

    Parameters
    ----------
    least : float
        Lower end [W/m^2/K]
    most : float
        Upper end [W/m^2/K]
    count : int
        How many [-]

    Returns
    -------
    ndarray
        Chebyshev nodes over the logarithm, both ends among what they span [W/m^2/K]

    Examples
    --------
    >>> film_nodes(10.0, 20.0, 3).round(2).tolist()
    [10.48, 14.14, 19.09]
    """
    angle = math.pi * (2.0 * np.arange(count)[::-1] + 1.0) / (2.0 * count)
    low, high = math.log(least), math.log(most)
    return np.asarray(np.exp((low + high) / 2.0 + (high - low) / 2.0 * np.cos(angle)))


def fades(stack: Stack, film: float = FAR_FILM) -> tuple[float, float]:
    """How quickly a disturbance from below fades with height, and how quickly the section itself cools with depth.

    Parameters
    ----------
    stack : Stack
        The growing section [m, s]
    film : float
        Heat transfer from its sides [W/m^2/K]

    Returns
    -------
    tuple of float
        Both as a rate over height [1/m]

    Notes
    -----
    A fin that grows: where it grows more slowly than heat spreads the plate reaches up as in a fin at rest, else it
    falls behind, as in a half-space from which one walks away. Below its top the section cools by the root of
    diffusivity k^2 + speed k = loss. How deep is looked is decided with a low film, so that what is left out is as
    little for every film.
    """
    spread, loss = stack.conductivity / stack.heat, max(film * stack.edge / stack.heat, 1e-6)
    speed = stack.layer / stack.period
    cools = (math.sqrt(speed**2 + 4.0 * spread * loss) - speed) / (2.0 * spread)
    slow = speed < 2.0 * math.sqrt(spread * loss)
    return (math.sqrt(loss / spread) if slow else speed / (4.0 * spread) + loss / speed), cools


def far_layers(stack: Stack) -> int:
    """How many layers below a face still matter to it.

    Parameters
    ----------
    stack : Stack
        The growing section [m, s]

    Returns
    -------
    int
        Layers after which the beginning is forgotten [-]

    Examples
    --------
    >>> far_layers(Stack(layer=2e-4, period=15.0, below=500, conductivity=0.2, heat=1.9e6, edge=2 / 6e-4))
    31
    """
    return max(math.ceil(-math.log(LEFT) / sum(fades(stack)) / stack.layer), FINE + 2)


def first_look(stack: Stack) -> float:
    """When a face is first looked at, over the time of a layer.

    Parameters
    ----------
    stack : Stack
        The growing section [m, s]

    Returns
    -------
    float
        A thousandth of the time in which heat crosses a layer, at most one of the layer's own [1]

    Notes
    -----
    In a long layer healing is over in the first tenths of a second: what counts is the time of the heat, not of the
    layer.

    Examples
    --------
    >>> first_look(Stack(layer=2e-4, period=0.1, below=9, conductivity=0.2, heat=2e6, edge=0.0))
    0.001
    """
    crosses = stack.layer**2 * stack.heat / stack.conductivity
    return min(SOON * crosses / stack.period, SOON)


def responses(stack: Stack, films: ArrayLike, first: float | None = None) -> Responses:
    """Grow a stack and look at one face in it: two unit problems for each film, in one solve.

    Parameters
    ----------
    stack : Stack
        The growing section [m, s]
    films : float or ndarray
        Heat transfer from its sides and its top [W/m^2/K]
    first : float or None
        First look over the time of a layer; by the layer itself where none is given [1]

    Returns
    -------
    Responses
        To melt at 1 and to a plate at 1 [1]

    Notes
    -----
    Conduction along the height with losses through the sides as a fin has them, and through the top; constant
    properties; perfect contact with the plate; a layer is laid at once. Time is integrated by a parabolic contour of
    poles for each span of moments (Weideman and Trefethen, Parabolic and hyperbolic contours for computing the
    Bromwich integral), so a period takes one step whatever its length; each pole is a tridiagonal system.
    """
    film = np.atleast_1d(np.asarray(films, float))
    below = min(stack.below, far_layers(stack))
    sees_plate = below == stack.below
    fields = _Fields(stack, film, sees_plate=sees_plate)
    while fields.layers < below:
        at_once = _at_once(below - fields.layers)
        for _ in range(at_once):
            fields.lay()
        if fields.layers < below:
            fields.pass_time(np.array([at_once * stack.period]))
    ends = fields.pass_time(np.array([stack.period]))[-1]
    skin, end = fields.skin(ends), fields.mean_of_top(ends)
    first = first_look(stack) if first is None else first
    relative, lasts = looks(first)
    seen = []
    for over in range(FOLLOWING + 1):
        fields.lay()
        since = stack.period * _since(first, over)
        seen.append(fields.face(fields.pass_time(since), over + 1))
    face = np.concatenate(seen, axis=2)
    height = stack.below * stack.layer
    far = np.array([math.exp(-fades(stack, float(each))[0] * height) for each in film])  # of the plate, as in a fin
    return Responses(
        films=film, times=stack.period * relative, lasts=stack.period * lasts, melt=face[0],
        plate=face[1] if sees_plate else np.broadcast_to(far[:, None], face[0].shape),
        skin_melt=skin[0], skin_plate=skin[1] if sees_plate else far,
        end_melt=end[0], end_plate=end[1] if sees_plate else far,
    )  # fmt: skip


def _at_once(left: int) -> int:
    """How many layers are laid in one step: several while they come to lie deep below the face."""
    return next((count for deep, count in DEEP if left >= deep), 1)


class _Fields:
    """Temperatures of the unit problems for each film, cell by cell from below up; grows by ``lay``.

    Far from the plate only melt is followed, and the foot is shut to heat: what lies below cools as slowly.
    """

    def __init__(self, stack: Stack, films: Array, *, sees_plate: bool) -> None:
        self._stack, self._films, self._sees_plate = stack, films, sees_plate
        self.layers = 0
        self._now = np.zeros((2 if sees_plate else 1, films.size, 0))

    @property
    def _sizes(self) -> Array:
        """Height of each cell [m]."""
        fine = min(self.layers, FINE)
        whole = np.full(self.layers - fine, self._stack.layer)
        return np.concatenate([whole, np.full(fine * CELLS, self._stack.layer / CELLS)])

    def lay(self) -> None:
        """A new layer at the top: melt at 1 in the first problem, at 0 in the second."""
        fine = min(self.layers, FINE)
        at = self.layers - fine
        if fine == FINE:
            merged = self._now[:, :, at : at + CELLS].mean(axis=2, keepdims=True)
            self._now = np.concatenate([self._now[:, :, :at], merged, self._now[:, :, at + CELLS :]], axis=2)
        top = np.zeros((*self._now.shape[:2], CELLS))
        top[0] = 1.0
        self._now = np.concatenate([self._now, top], axis=2)
        self.layers += 1

    def pass_time(self, since: Array) -> Array:
        """Temperatures at moments after now, the last of which becomes now: moment, problem, film, cell."""
        rates, source = self._rates()
        steady = np.zeros_like(self._now)
        if self._sees_plate:
            steady[1] = -_solved(rates.copy(), source[None])[0]
        gone = self._now - steady
        found = steady + _decayed(rates, gone, since)
        self._now = found[-1]
        return np.asarray(found)

    def _rates(self) -> tuple[Array, Array]:
        """The operator as three diagonals for each film [1/s], and what a plate at 1 gives the lowest cell."""
        stack, size = self._stack, self._sizes
        between = stack.conductivity / (0.5 * (size[1:] + size[:-1]))
        n, films = size.size, self._films
        below, above = np.zeros(n), np.zeros(n)
        below[1:], above[:-1] = between / size[1:], between / size[:-1]
        foot = stack.conductivity / (0.5 * size[0]) / size[0] if self._sees_plate else 0.0
        top = 1.0 / (1.0 / films + 0.5 * size[-1] / stack.conductivity) / size[-1]
        middle = np.tile(-(below + above), (films.size, 1)) - (films * stack.edge)[:, None]
        middle[:, 0] -= foot
        middle[:, -1] -= top
        rates = np.zeros((3, films.size, n))
        rates[0, :, 1:], rates[1], rates[2, :, :-1] = above[:-1], middle, below[1:]
        source = np.zeros((films.size, n))
        source[:, 0] = foot / stack.heat
        return rates / stack.heat, source

    def skin(self, field: Array) -> Array:
        """The top face, by problem and film."""
        half = 0.5 * self._sizes[-1] / self._stack.conductivity
        return np.asarray(field[:, :, -1] / (1.0 + half * self._films))

    def mean_of_top(self, field: Array) -> Array:
        """The top layer, by problem and film."""
        return np.asarray(field[:, :, -CELLS:].mean(axis=2))

    def face(self, field: Array, over: int) -> Array:
        """The face so many layers below the top, by problem, film and moment."""
        at = field.shape[3] - over * CELLS
        return np.asarray(np.moveaxis(0.5 * (field[..., at - 1] + field[..., at]), 0, 2))


def _decayed(rates: Array, start: Array, since: Array) -> Array:
    """What is left of a start after each time: the exponential of the operator, pole by pole."""
    problems, films, cells = start.shape
    found = []
    for times in _spans(since):
        nodes, weights = _contour(times)
        diagonals = np.empty((3, nodes.size, films, cells), complex)
        diagonals[:] = -rates[:, None]
        diagonals[1] += nodes[:, None, None]
        right = np.empty((problems, nodes.size, films, cells), complex)
        right[:] = start[:, None]
        at_nodes = _solved(
            diagonals.reshape(3, nodes.size * films, cells), right.reshape(problems, nodes.size * films, cells)
        )
        left = weights @ at_nodes.reshape(problems, nodes.size, films * cells)  # problem, moment, the rest
        found.append(left.imag.reshape(problems, times.size, films, cells).swapaxes(0, 1))
    return np.concatenate(found)


def _spans(since: Array) -> list[Array]:
    """Rising moments parted into spans, each short enough for one contour."""
    parts, rest = [], since
    while rest.size:
        count = int(np.searchsorted(rest, rest[0] * _SPAN, side="right"))
        parts.append(rest[:count])
        rest = rest[count:]
    return parts


def _contour(times: Array) -> tuple[NDArray[np.complex128], NDArray[np.complex128]]:
    """Nodes of a parabola that serves moments from the first to the last, and what each counts at each moment."""
    root = math.sqrt(8.0 * times[-1] / times[0] + 1.0)
    count = math.ceil(_DIGITS * root / (2.0 * math.pi))
    place = 1.0 + 1j * (np.arange(count) + 0.5) * root / count
    width = math.pi * count / (4.0 * root * times[-1])
    nodes, slopes = width * place**2, 2j * width * place
    return nodes, np.exp(nodes * times[:, None]) * slopes * (root / count / math.pi)


def _solved(diagonals: NDArray, right: NDArray) -> NDArray:  # type: ignore[type-arg]
    """Solutions of many tridiagonal systems of one size, laid end to end, for several right sides; both are used up."""
    from scipy.linalg.lapack import dgtsv, zgtsv

    _, systems, cells = diagonals.shape
    above, middle, below = diagonals.reshape(3, systems * cells)
    solve = zgtsv if np.iscomplexobj(diagonals) else dgtsv
    used_up = dict.fromkeys(("overwrite_dl", "overwrite_d", "overwrite_du", "overwrite_b"), 1)
    *_, found, failed = solve(
        below[:-1], middle, above[1:], right.reshape(right.shape[0], systems * cells).T, **used_up
    )
    if failed:
        raise FieldError("stack", "its temperatures cannot be solved")
    return np.asarray(found.T.reshape(right.shape[0], systems, cells))


def _since(first: float, over: int) -> Array:
    """Looks while one layer is laid, over its time, from the first on [1]."""
    looks_each = LATER_LOOKS if over else FIRST_LOOKS
    return np.geomspace(first, 1.0, math.ceil(-looks_each * math.log10(first)))


@functools.lru_cache(64)
def looks(first: float) -> tuple[Array, Array]:
    """Moments at which a face is looked at, and how long each stands for, over the time of a layer.

    Parameters
    ----------
    first : float
        First look after a layer is laid [1]

    Returns
    -------
    tuple of ndarray
        From the moment at which the layer above it is laid; together as long as the layers that are watched [1]

    Notes
    -----
    Exact where what is summed up is straight over the logarithm of the time since a layer was laid.

    Examples
    --------
    >>> round(float(looks(1e-3)[1].sum()), 9)
    4.0
    """
    times, lasts = [], []
    for over in range(FOLLOWING + 1):
        since = _since(first, over)
        mean = np.diff(since) / np.diff(np.log(since))
        each = np.concatenate(([since[0]], np.zeros(since.size - 1)))
        each[:-1] += mean - since[:-1]
        each[1:] += since[1:] - mean
        times.append(over + since)
        lasts.append(each)
    return np.concatenate(times), np.concatenate(lasts)


def interpolating(nodes: Array, wanted: Array) -> Array:
    """Weights that interpolate from nodes by one polynomial, barycentric.

    Parameters
    ----------
    nodes : ndarray
        Where values are known [any unit]
    wanted : ndarray
        Where they are wanted [the same unit]

    Returns
    -------
    ndarray
        One row for each place that is wanted [1]

    Examples
    --------
    >>> interpolating(np.array([0.0, 1.0]), np.array([0.25])).tolist()
    [[0.75, 0.25]]
    """
    apart = nodes[:, None] - nodes[None, :]
    np.fill_diagonal(apart, 1.0)
    bary = 1.0 / apart.prod(axis=1)
    away = wanted[:, None] - nodes[None, :]
    on_node = np.abs(away) < 1e-12
    terms = bary / np.where(on_node, 1.0, away)
    terms = np.where(on_node.any(axis=1, keepdims=True), on_node.astype(float), terms)
    return np.asarray(terms / terms.sum(axis=1, keepdims=True))
