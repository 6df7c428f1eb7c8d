"""The steps of a work order: what is done and ticked before, during and after a change, and what is to be measured."""

from collections.abc import Sequence

import attrs

from kaustos.core.records import CALIBRATIONS, Upgrade
from kaustos.core.records.calibration import VOIDS

_ZONE_OF = {"nozzle_heater": "nozzle", "nozzle_sensor": "nozzle", "head": "nozzle", "plate_heater": "plate",
            "plate_sensor": "plate", "chamber_heater": "chamber", "chamber_sensor": "chamber"}  # fmt: skip


@attrs.frozen
class Tick:
    """One step that is ticked."""

    key: str
    text: str


def ticks_of(changes: Sequence[Upgrade]) -> tuple[Tick, ...]:
    """The steps of a work order for some changes.

    Parameters
    ----------
    changes : sequence of Upgrade
        In the order in which they are made [-]

    Returns
    -------
    tuple of Tick
        In the order of the work [-]

    Notes
    -----
    It says what to make sure of, never how to wire or what to write into firmware: that is for the maker's papers and
    for a qualified person.
    """
    found = [
        Tick("photo", "Photos of how it stands: every side, every connector, which way round each part sits"),
        Tick("ready", "Parts, tools and consumables lie ready: " + "; ".join(each.name for each in changes)),
        Tick("old", "The old polymer is out of the path; some comes out only at heat"),
        Tick("cold", "Cold, unplugged, supply discharged; nobody can switch it on meanwhile"),
    ]
    for each in changes:
        found.append(Tick(f"fit.{each.id}", f"Fitted by the maker's papers: {each.name}"))
        if each.skilled:
            found.append(Tick(f"skilled.{each.id}", f"Done or checked by a qualified person: {each.name}"))
    found += [
        Tick("clear", "Wires clear of heat and of moving parts over the whole travel, moved by hand"),
        Tick("clean", "Fingerprints, oil and chips cleaned off all that gets hot"),
        Tick("table", "Sensor and its table agree: reading at room temperature compared with a second sensor"),
        Tick("limits", "Thermal cut-off, runaway protection and firmware limits are there and unchanged"),
        Tick("travel", "Full-stroke dry run, cold: nothing touches, nothing pulls"),
    ]
    zones = dict.fromkeys(_ZONE_OF[each.part] for each in changes if each.part in _ZONE_OF)
    found += [
        Tick(f"steps.{zone}", f"After the signature: {zone} heated in steps with soak, logged under Heat steps")
        for zone in zones
    ]
    stale = dict.fromkeys(kind for each in changes for kind in VOIDS.get(each.part or "", ()))
    found += [Tick(f"again.{kind}", f"Measured again: {CALIBRATIONS[kind]}") for kind in stale if "proven" not in kind]
    return tuple(found)


def before_power(changes: Sequence[Upgrade]) -> tuple[str, ...]:
    """The steps that stand before the signature.

    Parameters
    ----------
    changes : sequence of Upgrade
        Of the order [-]

    Returns
    -------
    tuple of str
        Keys of ``Tick`` [-]
    """
    return tuple(each.key for each in ticks_of(changes) if not each.key.startswith(("steps.", "again.")))
