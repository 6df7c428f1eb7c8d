"""Which spool hangs on which machine: a machine holds one."""

from collections.abc import Iterable

from kaustos.core.records import Lot


def loading(lots: Iterable[Lot], lot: str, machine: str | None) -> dict[str, float | str | None]:
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
    off = [each.id for each in lots if machine and each.loaded_on == machine and each.id != lot]
    return {**{f"lots/{each}/loaded_on": None for each in off}, f"lots/{lot}/loaded_on": machine}
