"""What the shop has: recipes, machines, polymers, lots and its rules, as frozen records."""

from kaustos.core.records.machine import BASES, PART_TITLES, ZONES, Machine, Part, PassivePart
from kaustos.core.records.polymer import (
    DEFLECTION_STRESSES_MPA,
    KINDS,
    POLYMER_VALUES,
    Datum,
    Lot,
    Polymer,
    check_datum,
    deflection_key,
    with_own_values,
)
from kaustos.core.records.recipe import HISTORIES, MOISTURES, PURPOSES, AnnealStep, Recipe
from kaustos.core.records.rules import LINER_HARD_STOP_C, Rules

__all__ = [
    "BASES",
    "DEFLECTION_STRESSES_MPA",
    "HISTORIES",
    "KINDS",
    "LINER_HARD_STOP_C",
    "MOISTURES",
    "PART_TITLES",
    "POLYMER_VALUES",
    "PURPOSES",
    "ZONES",
    "AnnealStep",
    "Datum",
    "Lot",
    "Machine",
    "Part",
    "PassivePart",
    "Polymer",
    "Recipe",
    "Rules",
    "check_datum",
    "deflection_key",
    "with_own_values",
]
