"""A skirt as a level probe: what its thickness on each side says of tilt and offset."""

import attrs

from kaustos.core.errors import FieldError

SIDES = ("front", "left", "back", "right")
FINE_MM = 0.03  # within which nothing is to be moved


@attrs.frozen(kw_only=True)
class Probe:
    """What four sides of a skirt say."""

    offset_mm: float  # by which the nozzle stands too high (above nothing) or too low
    along_mm: float  # the right side over the left
    deep_mm: float  # the back over the front
    is_level: bool
    is_twisted: bool  # the four sides do not lie in a plane: sag, or a wrong reading


def probe_of(thick_mm: dict[str, float], wanted_mm: float) -> Probe:
    """Tilt and offset from the thickness of a skirt.

    Parameters
    ----------
    thick_mm : dict of str to float
        Measured thickness of each side [mm]
    wanted_mm : float
        Gap that was set [mm]

    Returns
    -------
    Probe
        What to correct [mm]

    Notes
    -----
    A skirt is as thick as the gap under which it was laid, as long as it was pressed.

    Examples
    --------
    >>> found = probe_of({"front": 0.20, "left": 0.25, "back": 0.30, "right": 0.25}, 0.25)
    >>> round(found.deep_mm, 3), round(found.offset_mm, 3), found.is_twisted
    (0.1, 0.0, False)
    """
    missing = [side for side in SIDES if side not in thick_mm]
    if missing:
        raise FieldError("skirt", f"all four sides are wanted; {', '.join(missing)} missing")
    if not all(each > 0.0 for each in thick_mm.values()) or not wanted_mm > 0.0:
        raise FieldError("skirt", "a skirt is thicker than nothing")
    offset = sum(thick_mm[side] for side in SIDES) / 4.0 - wanted_mm
    along, deep = thick_mm["right"] - thick_mm["left"], thick_mm["back"] - thick_mm["front"]
    twist = thick_mm["front"] + thick_mm["back"] - thick_mm["left"] - thick_mm["right"]
    return Probe(
        offset_mm=offset, along_mm=along, deep_mm=deep,
        is_level=max(abs(along), abs(deep), abs(offset)) <= FINE_MM, is_twisted=abs(twist) > 4.0 * FINE_MM,
    )  # fmt: skip
