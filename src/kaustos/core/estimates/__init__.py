"""Every constant that is assumed, in one table for each area; shown in Settings and by ``kaustos library check``.

What a shop decides for itself stands in its rules; what is known of a polymer stands in the library.
"""

from kaustos.core.estimates.assumed import Area, Assumed
from kaustos.core.estimates.causes import CAUSES
from kaustos.core.estimates.drying import DRYING
from kaustos.core.estimates.machine import MACHINE
from kaustos.core.estimates.purpose import PURPOSE
from kaustos.core.estimates.spool import SPOOL

AREAS = (PURPOSE, SPOOL, DRYING, MACHINE, CAUSES)

__all__ = ["AREAS", "CAUSES", "DRYING", "MACHINE", "PURPOSE", "SPOOL", "Area", "Assumed"]
