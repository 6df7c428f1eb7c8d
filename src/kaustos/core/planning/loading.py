"""What hangs and is fitted on which machine: a machine holds one spool and one nozzle."""

from collections.abc import Iterable

from kaustos.core.records import Lot, Nozzle

Changes = dict[str, float | str | None]


def loading(lots: Iterable[Lot], lot: str, machine: str | None) -> Changes:
    """The changes that hang a lot on a machine and take off what hung there.

    Parameters
    ----------
    lots : iterable of Lot
        All of the shop [-]
    lot : str
        The one that is hung [-]
    machine : str or None
        Where; None for on none [-]

    Returns
    -------
    dict
        Full places with their new values [-]
    """
    return _moved("lots", "loaded_on", {each.id: each.loaded_on for each in lots}, lot, machine)


def fitting(nozzles: Iterable[Nozzle], nozzle: str, machine: str | None) -> Changes:
    """The changes that fit a nozzle to a machine and take off what was fitted there.

    Parameters
    ----------
    nozzles : iterable of Nozzle
        All of the shop [-]
    nozzle : str
        The one that is fitted [-]
    machine : str or None
        Where; None for on none [-]

    Returns
    -------
    dict
        Full places with their new values [-]
    """
    return _moved("nozzles", "fitted_on", {each.id: each.fitted_on for each in nozzles}, nozzle, machine)


def _moved(many: str, field: str, where: dict[str, str | None], key: str, machine: str | None) -> Changes:
    off = [each for each, there in where.items() if machine and there == machine and each != key]
    return {**{f"{many}/{each}/{field}": None for each in off}, f"{many}/{key}/{field}": machine}


def fitted_on(nozzles: Iterable[Nozzle], machine: str) -> Nozzle | None:
    """The nozzle that is fitted to a machine, by the records.

    Parameters
    ----------
    nozzles : iterable of Nozzle
        Those in use [-]
    machine : str
        Its id [-]

    Returns
    -------
    Nozzle or None
        None where none is recorded [-]
    """
    return next((each for each in nozzles if each.fitted_on == machine), None)
