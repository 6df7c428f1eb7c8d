"""What a purged strand tells of the water in a spool."""

from collections.abc import Collection
from datetime import datetime, timedelta

from kaustos.core.estimates import SPOOL
from kaustos.core.records import Lot, Polymer, StrandCheck

STEAM = frozenset(("bubbles", "vapour"))  # nothing but water, or another volatile, makes these
TELLS_FOR = timedelta(hours=SPOOL["strand_tells"].value)


def verdict_of(signs: Collection[str]) -> str:
    """What the signs on a purged strand say of the filament.

    Parameters
    ----------
    signs : collection of str
        What was seen, of STRAND_SIGNS; none for a clean strand [-]

    Returns
    -------
    str
        dry, suspect or wet [-]

    Notes
    -----
    Steam says wet by itself. Drool, a dull wall, an off colour or a thin strand may as well come of a wrong
    temperature or a worn nozzle: one of them is a suspicion, three together count as wet, estimate.

    Examples
    --------
    >>> verdict_of(()), verdict_of(("dull",)), verdict_of(("vapour",))
    ('dry', 'suspect', 'wet')
    """
    found = frozenset(signs)
    if found & STEAM or len(found) >= 3:
        return "wet"
    return "suspect" if found else "dry"


def strand_that_tells(lot: Lot | None, polymer: Polymer | None) -> StrandCheck | None:
    """The newest strand, where the spool has not been in a dryer since and its polymer shows water at all.

    Parameters
    ----------
    lot : Lot or None
        Its strands and stays [-]
    polymer : Polymer or None
        Its signs of wetness, none for a polymer that shows nothing until layers part [-]

    Returns
    -------
    StrandCheck or None
        None where no strand tells anything [-]
    """
    if lot is None or polymer is None or not polymer.wet_signs or not lot.strands:
        return None
    newest = lot.strands[-1]
    dried = [datetime.fromisoformat(stay.from_utc) for stay in lot.stays if stay.place == "dryer" and stay.from_utc]
    return newest if all(begun <= datetime.fromisoformat(newest.at_utc) for begun in dried) else None


def is_clean(strand: StrandCheck | None, now: datetime | None) -> bool:
    """Whether a strand says that the spool is dry now.

    Parameters
    ----------
    strand : StrandCheck or None
        The newest that tells [-]
    now : datetime or None
        The present moment [-]

    Returns
    -------
    bool
        True for a strand without signs that is no older than a day [-]
    """
    if strand is None or now is None:
        return False
    age = now - datetime.fromisoformat(strand.at_utc)
    return verdict_of(strand.signs) == "dry" and age <= TELLS_FOR
