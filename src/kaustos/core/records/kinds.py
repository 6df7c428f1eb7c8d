"""The one list of record kinds: everything that loops over kinds of records loops over it.

A new kind is a record with an ``id`` and a line here.
"""

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.bath import Bath
from kaustos.core.records.calibration import Calibration
from kaustos.core.records.card import RecipeCard
from kaustos.core.records.job import JobFile
from kaustos.core.records.machine import Machine
from kaustos.core.records.nozzle import Nozzle
from kaustos.core.records.oven import Oven, OvenLoad
from kaustos.core.records.own_polymer import OwnPolymer
from kaustos.core.records.part import PrintedPart
from kaustos.core.records.plate import AgentBatch, PlateItem
from kaustos.core.records.proof import Proof, ServicePart
from kaustos.core.records.run import Run
from kaustos.core.records.stock import Dryer, Lot
from kaustos.core.records.upgrade import Upgrade

LONGEST_ID = 80


@attrs.frozen(kw_only=True)
class Kind:
    """One kind of record: how it is stored, spelled and called, and whether a recipe chooses one of it."""

    one: str  # the word under which it is stored, and the head of a path
    many: str  # its table, and the first part of a place
    record: type
    title: str
    is_chosen: bool = False


KINDS = (
    Kind(one="card", many="cards", record=RecipeCard, title="recipe"),
    Kind(one="machine", many="machines", record=Machine, title="machine", is_chosen=True),
    Kind(one="lot", many="lots", record=Lot, title="lot", is_chosen=True),
    Kind(one="dryer", many="dryers", record=Dryer, title="dryer", is_chosen=True),
    Kind(one="nozzle", many="nozzles", record=Nozzle, title="nozzle", is_chosen=True),
    Kind(one="plate", many="plates", record=PlateItem, title="plate", is_chosen=True),
    Kind(one="agent", many="agents", record=AgentBatch, title="agent", is_chosen=True),
    Kind(one="bath", many="baths", record=Bath, title="bath", is_chosen=True),
    Kind(one="oven", many="ovens", record=Oven, title="oven", is_chosen=True),
    Kind(one="part", many="parts", record=PrintedPart, title="part", is_chosen=True),
    Kind(one="job", many="jobs", record=JobFile, title="job file", is_chosen=True),
    Kind(one="run", many="runs", record=Run, title="run"),
    Kind(one="proof", many="proofs", record=Proof, title="evidence"),
    Kind(one="service", many="services", record=ServicePart, title="part in service"),
    Kind(one="load", many="loads", record=OvenLoad, title="oven load"),
    Kind(one="calibration", many="calibrations", record=Calibration, title="calibration"),
    Kind(one="upgrade", many="upgrades", record=Upgrade, title="change of a machine"),
    Kind(one="own_polymer", many="own_polymers", record=OwnPolymer, title="polymer of ours"),
)
BY_MANY = {kind.many: kind for kind in KINDS}
BY_ONE = {kind.one: kind for kind in KINDS}
CHOSEN = tuple(kind for kind in KINDS if kind.is_chosen)


def check_id(field: str, key: str) -> str:
    """The id itself where a new record may carry it; what is stored already stays readable whatever it is.

    Parameters
    ----------
    field : str
        Where it stands, for the fault [-]
    key : str
        The id [-]

    Returns
    -------
    str
        The same id [-]
    """
    if not key.strip():
        raise FieldError(field, "an id must not be empty")
    if len(key) > LONGEST_ID:
        raise FieldError(field, f"an id of {len(key):,} characters; at most {LONGEST_ID} are taken")
    if "/" in key or not key.isprintable():
        raise FieldError(field, f"{key!r:.60} is no id: no slash, no line break and no invisible sign may stand in it")
    return key
