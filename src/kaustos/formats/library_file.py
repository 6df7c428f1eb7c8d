"""The library as a plain document: every polymer with every value, unit, range, kind of source and doubt."""

from collections.abc import Mapping
from typing import Any

from kaustos.core.records import POLYMER_VALUES, Datum, Polymer

FORMAT = "kaustos-library"
VERSION = 1


def library_document(polymers: Mapping[str, Polymer]) -> dict[str, Any]:
    """The polymers as a document."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "polymers": {key: _polymer(polymer) for key, polymer in polymers.items()},
    }


def _polymer(polymer: Polymer) -> dict[str, Any]:
    traits = polymer.traits
    return {
        "name": polymer.name,
        "structure": polymer.structure,
        "weld_class": polymer.weld_class,
        "character": polymer.character,
        "is_support": polymer.is_support,
        "emissions": polymer.emissions,
        "hydrolyses": polymer.hydrolyses,
        "absorbs": polymer.absorbs,
        "wet_signs": polymer.wet_signs,
        "cautions": list(polymer.cautions),
        "traits": {
            "outdoor": traits.outdoor, "clarity": traits.clarity, "finish": traits.finish,
            "attacked_by": list(traits.attacked_by), "goes_badly": list(traits.goes_badly),
            "kind": traits.kind, "source": traits.source,
        },
        "values": {key: _value(polymer.value(key)) for key in POLYMER_VALUES},
    }  # fmt: skip


def _value(datum: Datum | None) -> dict[str, Any] | None:
    """A value; null where it is not known."""
    if datum is None:
        return None
    return {
        "value": datum.value, "low": datum.low, "high": datum.high, "unit": datum.unit, "kind": datum.kind,
        "source": datum.source, "doubt": datum.doubt, "rival": datum.rival,
    }  # fmt: skip
