"""Every constant that is assumed, in one table for each area; shown in Settings and by ``kaustos library check``.

What a shop decides for itself stands in its rules; what is known of a polymer stands in the library.
"""

from kaustos.core.estimates.anneal import ANNEAL
from kaustos.core.estimates.assumed import Area, Assumed
from kaustos.core.estimates.belief import BELIEF
from kaustos.core.estimates.bond import BOND
from kaustos.core.estimates.causes import CAUSES
from kaustos.core.estimates.chamber import CHAMBERS
from kaustos.core.estimates.drying import DRYING
from kaustos.core.estimates.machine import MACHINE
from kaustos.core.estimates.melt import MELT
from kaustos.core.estimates.nozzle import NOZZLES
from kaustos.core.estimates.parts import PARTS
from kaustos.core.estimates.proof import PROOF
from kaustos.core.estimates.purpose import PURPOSE
from kaustos.core.estimates.run import RUN
from kaustos.core.estimates.spool import SPOOL
from kaustos.core.estimates.support import SUPPORT
from kaustos.core.estimates.weld import WELD
from kaustos.core.estimates.worth import WORTH

AREAS = (
    PURPOSE, SPOOL, DRYING, MACHINE, CHAMBERS, NOZZLES, PARTS, BOND,
    MELT, WELD, SUPPORT, RUN, ANNEAL, PROOF, CAUSES, BELIEF, WORTH,
)  # fmt: skip

__all__ = [
    "ANNEAL",
    "AREAS",
    "BELIEF",
    "BOND",
    "CAUSES",
    "CHAMBERS",
    "DRYING",
    "MACHINE",
    "MELT",
    "NOZZLES",
    "PARTS",
    "PROOF",
    "PURPOSE",
    "RUN",
    "SPOOL",
    "SUPPORT",
    "WELD",
    "WORTH",
    "Area",
    "Assumed",
]
