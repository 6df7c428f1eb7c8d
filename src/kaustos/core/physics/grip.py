"""Grip of a polymer on a surface, and what would damage it."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def effusivity(conductivity: ArrayLike, density: ArrayLike, capacity: ArrayLike) -> Array:
    """How strongly a body holds its temperature on contact.

    Parameters
    ----------
    conductivity : float or ndarray
        Of heat [W/m/K]
    density : float or ndarray
        Of the body [kg/m^3]
    capacity : float or ndarray
        Specific heat [J/kg/K]

    Returns
    -------
    ndarray
        Effusivity [W s^0.5/m^2/K]

    Examples
    --------
    >>> round(float(effusivity(0.2, 1200.0, 1500.0)))
    600
    """
    product = np.asarray(conductivity, float) * np.asarray(density, float) * np.asarray(capacity, float)
    return np.asarray(np.sqrt(product))


def contact_temperature(melt_c: ArrayLike, melt: ArrayLike, plate_c: ArrayLike, plate: ArrayLike) -> Array:
    """Temperature at which two bodies meet.

    Parameters
    ----------
    melt_c : float or ndarray
        Of the melt [°C]
    melt : float or ndarray
        Effusivity of the melt [W s^0.5/m^2/K]
    plate_c : float or ndarray
        Of the plate [°C]
    plate : float or ndarray
        Effusivity of the plate [W s^0.5/m^2/K]

    Returns
    -------
    ndarray
        Temperature of the face between them, at first [°C]

    Notes
    -----
    Two half-spaces in perfect contact (Carslaw and Jaeger, Conduction of Heat in Solids).

    Examples
    --------
    >>> float(contact_temperature(300.0, 600.0, 100.0, 600.0))
    200.0
    """
    melt, plate = np.asarray(melt, float), np.asarray(plate, float)
    return np.asarray((melt * np.asarray(melt_c, float) + plate * np.asarray(plate_c, float)) / (melt + plate))


def grip(
    book: ArrayLike,
    contact: ArrayLike,
    hotter: ArrayLike,
    scale: ArrayLike,
    clean: ArrayLike = 1.0,
    wear: ArrayLike = 1.0,
) -> Array:
    """Grip of a pair away from the middle conditions of the book.

    Parameters
    ----------
    book : float or ndarray
        Grip at the book's middle gap, nozzle and plate [J/m^2]
    contact : float or ndarray
        How well the bead is pressed on, over that of the middle gap [1]
    hotter : float or ndarray
        Contact temperature over that of the middle [K]
    scale : float or ndarray
        Kelvins that raise the grip by e [K]
    clean : float or ndarray
        What is left by dirt [1]
    wear : float or ndarray
        What is left by wear [1]

    Returns
    -------
    ndarray
        Grip [J/m^2]

    Notes
    -----
    An index that practice has to place: words of practice are its only measure until outcomes are logged.

    Examples
    --------
    >>> float(grip(300.0, 1.0, 0.0, 12.0))
    300.0
    """
    raised = np.exp(np.asarray(hotter, float) / np.asarray(scale, float))
    product = np.asarray(book, float) * np.asarray(contact, float) * raised
    return np.asarray(product * np.asarray(clean, float) * np.asarray(wear, float))
