"""Where a polymer is annealed, the programme that is to run, and what lies in the oven."""

from collections.abc import Sequence

import attrs

from kaustos.core.estimates import ANNEAL
from kaustos.core.records import AnnealStep, Polymer

FREE = ("pps", "ppa", "pet")  # families that are held cooler and for longer, for their parts lie free


@attrs.frozen(kw_only=True)
class Window:
    """Where a hold acts and keeps the shape [°C]."""

    low: float
    aim: float
    high: float
    lost: float  # from which a part loses its shape whatever holds it
    by: str  # what decides


def window_of(polymer: Polymer) -> Window | None:
    """Where a polymer is annealed.

    Parameters
    ----------
    polymer : Polymer
        With its glass transition and melting point [°C]

    Returns
    -------
    Window or None
        Least, aim, most and where shape is lost [°C]; None where they are not known

    Notes
    -----
    A glass lets its stress go close below its glass transition. A crystallising polymer acts between glass transition
    and melting: from about a seventh of the way, to half of it; filled ones that lie free are held at its cool end.
    One that is soft at room heat is held close below its melting point. Practice, estimates.
    """
    glass, melting = (each.value if (each := polymer.value(key)) is not None else None
                      for key in ("glass_transition_c", "melting_c"))  # fmt: skip
    value = {key: each.value for key, each in ANNEAL.items()}
    if polymer.structure == "amorphous":
        if glass is None:
            return None
        low, aim, high = (glass - value[f"glass_{key}"] for key in ("low", "aim", "high"))
        return Window(low=low, aim=aim, high=high, lost=glass, by="glass transition")
    if melting is None or glass is None or not melting > glass:
        return None
    lost = melting - value["melts"]
    if polymer.character == "rubbery":
        fastest = polymer.value("crystal_fastest_c")
        if fastest is None:
            return None
        low = fastest.value - value["rubber"]
        return Window(low=low, aim=(low + fastest.value) / 2.0, high=fastest.value, lost=lost, by="its hard blocks")
    if glass <= value["cold_glass"]:
        low, high = melting - value["melting_low"], melting - value["melting_high"]
        return Window(low=low, aim=(low + high) / 2.0, high=high, lost=lost, by="melting")
    low, aim, high = (glass + value[f"crystal_{key}"] * (melting - glass) for key in ("low", "aim", "high"))
    if polymer.family in FREE:
        low = glass + value["free_low"] * (melting - glass)
        aim = min(aim, value["free_aim_c"])
    return Window(low=low, aim=aim, high=high, lost=lost, by="glass transition and melting")


@attrs.frozen(kw_only=True)
class Step:
    """One ramp of the air and a hold that counts from when the core is there."""

    ramp_k_h: float
    hold_c: float
    hold_h: float


@attrs.frozen(kw_only=True)
class Programme:
    """What the air of an oven is to do."""

    from_c: float
    steps: tuple[Step, ...]
    cool_k_h: float
    out_c: float

    @property
    def steepest_k_h(self) -> float:
        """Steepest ramp up [K/h]."""
        return max(each.ramp_k_h for each in self.steps)


def as_programme(
    steps: Sequence[AnnealStep], cool_k_h: float | None, out_c: float | None, quick_k_h: float, room_c: float
) -> Programme | None:  # fmt: skip
    """A programme as far as its steps are known: no steeper than the oven; what nobody set as steep, and taken out hot.

    Parameters
    ----------
    steps : sequence of AnnealStep
        Those without a hold are left out; one without hours is not held [°C, h, K/h]
    cool_k_h : float or None
        After the last hold [K/h]
    out_c : float or None
        Taken out at [°C]
    quick_k_h : float
        Of the air where nobody set a ramp [K/h]
    room_c : float
        Before it begins, and as cool as it gets [°C]

    Returns
    -------
    Programme or None
        None where nothing is held [°C, h, K/h]
    """
    known = tuple(
        Step(ramp_k_h=min(each.ramp_k_h or quick_k_h, quick_k_h), hold_c=each.temperature_c, hold_h=each.hold_h or 0.0)
        for each in steps
        if each.temperature_c is not None
    )
    if not known:
        return None
    out = known[-1].hold_c if out_c is None else out_c
    return Programme(from_c=room_c, steps=known, cool_k_h=cool_k_h or quick_k_h, out_c=max(out, room_c))


@attrs.frozen(kw_only=True)
class Load:
    """What lies in the oven, in numbers."""

    wall_mm: float
    is_rod: bool = False
    pack: str = "free"
    pack_mm: float | None = None
    fan: bool | None = None
    in_machine: bool = False
