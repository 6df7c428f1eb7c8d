"""How much of an agent: for an area, for a batch, and when it is ready and stale."""

from collections.abc import Mapping

import attrs
import shapely

from kaustos.core.errors import FieldError
from kaustos.core.estimates import BOND

MARGIN_MM = BOND["coat_margin"].value
LOSS = BOND["brush_loss"].value


def dose_ml(anchored: shapely.Geometry, wet_um: float, coats: float) -> float:
    """Agent that a footprint takes.

    Parameters
    ----------
    anchored : shapely geometry
        Part with its anchor, to which a margin is added [mm]
    wet_um : float
        Film that is put on [µm]
    coats : float
        How often [-]

    Returns
    -------
    float
        With what stays in brush and cloth [ml]

    Examples
    --------
    >>> round(dose_ml(shapely.box(0, 0, 100, 100), 40.0, 1.0), 2)
    0.74
    """
    area_mm2 = float(shapely.buffer(anchored, MARGIN_MM).area)
    return area_mm2 * wet_um / 1e6 * coats * LOSS


@attrs.frozen(kw_only=True)
class BatchCard:
    """What goes into a bottle."""

    grams: float  # of solids
    parts_ml: Mapping[str, float]  # of each solvent


def batch_card(volume_ml: float, solids_pct: float, solvents: Mapping[str, float]) -> BatchCard:
    """A batch scaled to a volume.

    Parameters
    ----------
    volume_ml : float
        That is wanted [ml]
    solids_pct : float
        Grams in 100 ml [%]
    solvents : mapping of str to float
        Shares of the volume [1]

    Returns
    -------
    BatchCard
        Grams and millilitres [g, ml]

    Notes
    -----
    Weight in volume, as bottles are marked: the solids' own volume is left out.

    Examples
    --------
    >>> card = batch_card(250.0, 8.0, {"water": 0.5, "alcohol": 0.5})
    >>> card.grams, card.parts_ml
    (20.0, {'water': 125.0, 'alcohol': 125.0})
    """
    if not volume_ml > 0.0:
        raise FieldError("volume", "must be above nothing")
    return BatchCard(
        grams=volume_ml * solids_pct / 100.0, parts_ml={name: volume_ml * share for name, share in solvents.items()}
    )
