"""What a hole is drawn at, so that it comes out as wide as what goes in wants it."""

from kaustos.core.estimates import PARTS
from kaustos.core.records import Estimate, Fit, PrintedPart


def drawn_hole(fit: Fit, part: PrintedPart) -> Estimate | None:
    """Diameter to draw a hole at.

    Parameters
    ----------
    fit : Fit
        What goes in: its size and how it sits [mm]
    part : PrintedPart
        With the hole error that the shop measured, and its scale [mm, 1]

    Returns
    -------
    Estimate or None
        Diameter, None where its size is not recorded [mm]

    Notes
    -----
    What goes in, the room that it wants, and what such holes come out too small; where the shop has measured its own
    hole error, that counts and the band narrows to the room alone.

    Examples
    --------
    >>> bolt = Fit(name="M4", kind="slide", across_mm=4.0)
    >>> round(drawn_hole(bolt, PrintedPart(id="p", hole_error_mm=0.2)).value, 3)
    4.5
    """
    if fit.across_mm is None:
        return None
    room = PARTS[f"clearance.{fit.kind}"].band if fit.kind else (-0.4, 0.2, 0.6)
    own = part.hole_error_mm
    error = PARTS["hole_error"].band if own is None else (own, own, own)
    low, value, high = (fit.across_mm + a + b for a, b in zip(room, error, strict=True))
    source = "room for the fit, estimate; hole error " + ("as the shop measured it" if own is not None else "estimate")
    return Estimate(value, low, high, "mm", "what goes in, its room, and what holes come out too small", source)
