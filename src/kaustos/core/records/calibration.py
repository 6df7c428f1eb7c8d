"""A calibration: what was found on which machine, when; and the one table of what a change of part makes stale."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, moment, text
from kaustos.core.records.machine_logs import CHANGED

CALIBRATIONS = {
    "nozzle_offset": "Nozzle: true against shown temperature",
    "plate_offset": "Plate: true against shown temperature",
    "chamber_offset": "Chamber: true against shown temperature",
    "nozzle_tuning": "Nozzle: control tuned",
    "plate_tuning": "Plate: control tuned",
    "chamber_tuning": "Chamber: control tuned",
    "nozzle_proven": "Nozzle: proven maximum",
    "plate_proven": "Plate: proven maximum",
    "chamber_proven": "Chamber: proven maximum",
    "gap": "Distance of nozzle and plate",
    "level": "Tilt and sag of the plate",
    "flow": "Flow of the melt",
    "multiplier": "Extrusion multiplier",
    "ladder": "Best nozzle temperature",
    "across": "Strength across to along the layers",
    "overhang": "Steepest overhang",
    "support_gap": "Gap to supports",
    "feed": "Steps of the drive",
    "chamber_fit": "Losses and capacity of the chamber",
    "plate_cooling": "Plate: how quickly it cools",
    "plate_drop": "Plate: surface below the sensor",
    "shape": "Squareness and scale",
}
OF_LOT = ("flow", "multiplier", "ladder", "across", "overhang", "support_gap")  # found with one lot, and true of it
OFFSETS = {"nozzle": "nozzle_offset", "plate": "plate_offset", "chamber": "chamber_offset"}
VOIDS: Mapping[str, tuple[str, ...]] = {  # part that is changed: calibrations that are stale from then on
    "head": ("nozzle_offset", "nozzle_tuning", "nozzle_proven", "gap", "flow", "multiplier", "ladder", "across",
             "overhang", "support_gap"),
    "nozzle": ("nozzle_offset", "gap", "flow", "multiplier", "ladder", "overhang", "support_gap"),
    "nozzle_heater": ("nozzle_offset", "nozzle_tuning", "nozzle_proven", "flow", "ladder"),
    "nozzle_sensor": ("nozzle_offset", "nozzle_tuning", "nozzle_proven", "flow", "ladder", "across"),
    "drive": ("flow", "feed", "multiplier"),
    "probe": ("gap", "level"),
    "plate_stack": ("plate_offset", "plate_tuning", "gap", "level", "plate_drop", "plate_cooling"),
    "plate_heater": ("plate_offset", "plate_tuning", "plate_proven", "level", "chamber_fit", "plate_drop",
                     "plate_cooling"),
    "plate_sensor": ("plate_offset", "plate_tuning", "plate_proven", "plate_drop"),
    "chamber_heater": ("chamber_offset", "chamber_tuning", "chamber_proven", "chamber_fit"),
    "chamber_sensor": ("chamber_offset", "chamber_tuning", "chamber_proven"),
    "enclosure": ("chamber_offset", "chamber_tuning", "chamber_proven", "chamber_fit", "across", "plate_cooling"),
    "fan": ("nozzle_tuning", "overhang", "support_gap"),
    "firmware": ("nozzle_offset", "plate_offset", "chamber_offset", "nozzle_tuning", "plate_tuning", "chamber_tuning",
                 "nozzle_proven", "plate_proven", "chamber_proven", "gap", "feed"),
    "frame": ("gap", "level", "shape"),
}  # fmt: skip


@attrs.frozen(kw_only=True)
class Calibration:
    """One calibration of one machine."""

    id: str
    machine: str = ""
    kind: str | None = choice(CALIBRATIONS, "Calibrated")
    values: Mapping[str, float] = attrs.field(factory=dict, hash=False)  # true less shown: offset_k, spread_k ...
    configuration: str = ""  # fingerprint of the machine as it stood
    lot: str | None = None
    done_utc: str = moment("Done")
    sensor: str = text("Read with")
    by: str = text("By")
    note: str = text("Note")
    stale_because: str = ""  # filled in where it is judged: the change that came after it
    retired: bool = False
    extra: dict[str, Any] = extra()

    @property
    def is_valid(self) -> bool:
        """Whether nothing that it rests on was changed since."""
        return not self.stale_because


def voids(part: str | None, kind: str | None) -> bool:
    """Whether a change of a part makes a calibration stale.

    Parameters
    ----------
    part : str or None
        One of ``CHANGED`` [-]
    kind : str or None
        One of ``CALIBRATIONS`` [-]

    Returns
    -------
    bool
        True where it has to be done again [-]
    """
    return kind in VOIDS.get(part or "", ())


def change_words(part: str | None) -> str:
    """A changed part in a sentence."""
    title = CHANGED.get(part or "", "a part")
    return title[:1].lower() + title[1:]
