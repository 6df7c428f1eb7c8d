"""Reads the shipped TOML files and reports all their faults at once, with file, key and reason."""

import functools
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import POLYMER_VALUES, Datum, Machine, Polymer, check_datum
from kaustos.core.records.quantities import QUANTITIES
from kaustos.formats.records import from_document

DATA = Path(__file__).parent / "data"
STRUCTURES = ("amorphous", "semi_crystalline")


class Library:
    """Polymers and machines of a folder by id, each kind read when it is first asked for."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self.faults: list[str] = []  # of what was read so far

    @functools.cached_property
    def polymers(self) -> dict[str, Polymer]:
        """Generic polymers."""
        return dict(_records(self._folder / "polymers", _polymer, self.faults))

    @functools.cached_property
    def machines(self) -> dict[str, Machine]:
        """Typical machines to start a record from."""
        return dict(_records(self._folder / "machines", _machine, self.faults))

    def share_of_estimates(self) -> float:
        """Share of the polymers' values that are estimates, 0 to 1."""
        kinds = [datum.kind for polymer in self.polymers.values() for datum in polymer.values.values()]
        return kinds.count("estimate") / len(kinds) if kinds else 0.0


@functools.cache
def load() -> Library:
    """The shipped library; that it has no faults is what ``kaustos library check`` and the tests prove."""
    return Library(DATA)


def check(folder: Path) -> tuple[Library, tuple[str, ...]]:
    """What a folder of library files holds, and everything that is wrong with it."""
    library = Library(folder)
    assert library.polymers is not None and library.machines is not None, "reading both notes their faults"
    return library, tuple(library.faults)


def _records(folder: Path, read: Any, faults: list[str]) -> Iterator[tuple[str, Any]]:
    for file in sorted(folder.glob("*.toml")):
        place = f"{folder.name}/{file.name}"
        try:
            document = tomllib.loads(file.read_text(encoding="utf-8"))
        except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
            faults.append(f"{place}: {error}")
            continue
        if document.get("id") != file.stem:
            faults.append(f"{place}: id: must be {file.stem!r} like the file, got {document.get('id')!r}")
            continue
        found = read(document, place, faults)
        if found is not None:
            yield file.stem, found


def _polymer(document: dict[str, Any], place: str, faults: list[str]) -> Polymer | None:
    before = len(faults)
    for key in ("name", "emissions"):
        if not isinstance(document.get(key), str) or not document[key].strip():
            faults.append(f"{place}: {key}: must be a text")
    if document.get("structure") not in STRUCTURES:
        faults.append(f"{place}: structure: must be one of {', '.join(STRUCTURES)}")
    table = document.get("values")
    if not isinstance(table, dict):
        faults.append(f"{place}: values: must be a table")
        return None
    values = {key: _datum(key, value, place, faults) for key, value in table.items()}
    for key in document.keys() - {"id", "name", "structure", "emissions", "values"}:
        faults.append(f"{place}: {key}: no such key")
    if len(faults) > before:
        return None
    known = {key: datum for key, datum in values.items() if datum is not None}
    return Polymer(
        id=document["id"], name=document["name"], structure=document["structure"],
        emissions=document["emissions"], values=known,
    )  # fmt: skip


def _datum(key: str, table: Any, place: str, faults: list[str]) -> Datum | None:
    if key not in POLYMER_VALUES:
        faults.append(f"{place}: values.{key}: no such polymer value")
        return None
    try:
        datum = check_datum(key, from_document(Datum, table, f"values.{key}"))
    except FaultList as error:
        faults += [f"{place}: {fault}" for fault in error.faults]
        return None
    except KaustosError as error:
        faults.append(f"{place}: values.{error}")
        return None
    unit = QUANTITIES[POLYMER_VALUES[key].quantity].unit
    if datum.unit != unit:
        faults.append(f"{place}: values.{key}.unit: must be {unit!r}, got {datum.unit!r}")
    return datum


def _machine(document: dict[str, Any], place: str, faults: list[str]) -> Machine | None:
    if not isinstance(document.get("source"), str):
        faults.append(f"{place}: source: must say where the limits are from")
    try:
        return from_document(Machine, document, "machine")
    except FaultList as error:
        faults += [f"{place}: {fault}" for fault in error.faults]
        return None
