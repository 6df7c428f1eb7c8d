"""Reads the shipped TOML files and reports all their faults at once, with file, key and reason."""

import functools
import tomllib
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import Any, TypeVar

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import (
    CHARACTERS,
    POLYMER_VALUES,
    STRUCTURES,
    WELD_CLASSES,
    ZONES,
    Agent,
    Bonds,
    Curve,
    Datum,
    Desiccant,
    Machine,
    Pairs,
    Polymer,
    SpoolBody,
    Supplies,
    SupportMaterial,
    Surface,
    Traits,
    check_datum,
    check_sorption,
)
from kaustos.core.records.quantities import QUANTITIES
from kaustos.formats.records import from_document, unknown_fields

DATA = Path(__file__).parent / "data"


Read = Callable[[dict[str, Any], str, list[str]], Any]
Kept = TypeVar("Kept")


class Shelf(Mapping[str, Kept]):
    """The records of one folder by id, each file read when its record is first asked for.

    A file that cannot be used is a fault and no record.
    """

    def __init__(self, folder: Path, read: Read, faults: list[str]) -> None:
        self._files = {file.stem: file for file in sorted(folder.glob("*.toml"))}
        self._folder, self._read, self._faults = folder, read, faults
        self._found: dict[str, Kept] = {}

    def __getitem__(self, key: str) -> Kept:
        if key in self._files and key not in self._found:
            record = _record(self._files[key], f"{self._folder.name}/{key}.toml", self._read, self._faults)
            if record is None:
                del self._files[key]
            else:
                self._found[key] = record
        return self._found[key]

    def __contains__(self, key: object) -> bool:
        return key in self._files

    def __iter__(self) -> Iterator[str]:
        return iter(tuple(self._files))

    def __len__(self) -> int:
        return len(self._files)

    def whole(self) -> "Shelf[Kept]":
        """Itself, after every file was read, so that all faults are known."""
        for key in self:
            self.get(key)
        return self


class Library:
    """Polymers and machines of a folder by id, each read when it is first asked for."""

    def __init__(self, folder: Path) -> None:
        self.faults: list[str] = []  # of what was read so far
        self.polymers: Shelf[Polymer] = Shelf(folder / "polymers", _polymer, self.faults)
        self.machines: Shelf[Machine] = Shelf(folder / "machines", _machine, self.faults)
        self.supplies = Supplies(
            bodies=Shelf(folder / "spool_bodies", _plain(SpoolBody), self.faults),
            desiccants=Shelf(folder / "desiccants", _plain(Desiccant), self.faults),
            bonds=Bonds(
                surfaces=Shelf(folder / "surfaces", _plain(Surface), self.faults),
                agents=Shelf(folder / "agents", _plain(Agent), self.faults),
                pairs=Shelf(folder / "pairs", _plain(Pairs), self.faults),
            ),
            supports=Shelf(folder / "supports", _plain(SupportMaterial), self.faults),
        )

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
    library.polymers.whole()
    supplies, bonds = library.supplies, library.supplies.bonds
    every = (
        library.machines,
        supplies.bodies,
        supplies.desiccants,
        bonds.surfaces,
        bonds.agents,
        bonds.pairs,
        supplies.supports,
    )
    for shelf in every:
        assert isinstance(shelf, Shelf)
        shelf.whole()
    return library, tuple(library.faults)


def _record(file: Path, place: str, read: Read, faults: list[str]) -> Any:
    try:
        document = tomllib.loads(file.read_text(encoding="utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        faults.append(f"{place}: {error}")
        return None
    if document.get("id") != file.stem:
        faults.append(f"{place}: id: must be {file.stem!r} like the file, got {document.get('id')!r}")
        return None
    return read(document, place, faults)


_KEYS = {
    "id", "name", "family", "modulus", "structure", "weld_class", "character", "is_support", "emissions", "traits",
    "hydrolyses", "absorbs", "wet_signs", "cautions",
    "values",
}  # fmt: skip


def _polymer(document: dict[str, Any], place: str, faults: list[str]) -> Polymer | None:
    before = len(faults)
    for key in ("name", "family", "emissions"):
        if not isinstance(document.get(key), str) or not document[key].strip():
            faults.append(f"{place}: {key}: must be a text")
    for key, words in (("structure", STRUCTURES), ("weld_class", WELD_CLASSES), ("character", CHARACTERS)):
        if not isinstance(document.get(key), str) or document[key] not in words:
            faults.append(f"{place}: {key}: must be one of {', '.join(words)}")
    traits = _part_of(Traits, document.get("traits"), place, "traits", faults)
    cautions = document.get("cautions", [])
    if not isinstance(cautions, list) or not all(isinstance(each, str) for each in cautions):
        faults.append(f"{place}: cautions: must be a list of texts")
    modulus = _part_of(Curve, document.get("modulus"), place, "modulus", faults)
    table = document.get("values")
    if not isinstance(table, dict):
        faults.append(f"{place}: values: must be a table")
        return None
    values = {key: _datum(key, value, place, faults) for key, value in table.items()}
    for key in ("hydrolyses", "absorbs", "is_support"):
        if not isinstance(document.get(key), bool):
            faults.append(f"{place}: {key}: must be true or false")
    if not isinstance(document.get("wet_signs"), str):
        faults.append(f"{place}: wet_signs: must be a text, empty for a polymer that shows nothing")
    for key in document.keys() - _KEYS:
        faults.append(f"{place}: {key}: no such key")
    try:
        check_sorption({key: datum for key, datum in values.items() if datum is not None})
    except KaustosError as error:
        faults.append(f"{place}: values: {error}")
    if len(faults) > before or traits is None or modulus is None:
        return None
    known = {key: datum for key, datum in values.items() if datum is not None}
    return Polymer(
        id=document["id"], name=document["name"], family=document["family"], modulus=modulus,
        structure=document["structure"], weld_class=document["weld_class"], character=document["character"],
        is_support=document["is_support"], emissions=document["emissions"], traits=traits,
        hydrolyses=document["hydrolyses"], absorbs=document["absorbs"], wet_signs=document["wet_signs"],
        cautions=tuple(cautions), values=known,
    )  # fmt: skip


def _part_of(record: type[Kept], table: Any, place: str, path: str, faults: list[str]) -> Kept | None:
    try:
        return from_document(record, table, path)
    except FaultList as error:
        faults += [f"{place}: {fault}" for fault in error.faults]
        return None


def _datum(key: str, table: Any, place: str, faults: list[str]) -> Datum | None:
    if key not in POLYMER_VALUES:
        faults.append(f"{place}: values.{key}: no such polymer value")
        return None
    try:
        datum = check_datum(key, from_document(Datum, table, f"values.{key}"))
        faults += [f"{place}: {fault}" for fault in unknown_fields(datum, f"values.{key}")]
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


def _plain(record: type[Any]) -> Read:
    """Reads a record that is its declaration and no more."""

    def read(document: dict[str, Any], place: str, faults: list[str]) -> Any:
        try:
            return from_document(record, document, record.__name__)
        except FaultList as error:
            faults += [f"{place}: {fault}" for fault in error.faults]
            return None

    return read


def _machine(document: dict[str, Any], place: str, faults: list[str]) -> Machine | None:
    if not isinstance(document.get("source"), str):
        faults.append(f"{place}: source: must say where the limits are from")
    try:
        machine = from_document(Machine, document, "machine")
        for zone in ZONES:
            faults += [f"{place}: {fault}" for fault in unknown_fields(getattr(machine, zone), f"machine.{zone}")]
        return machine
    except FaultList as error:
        faults += [f"{place}: {fault}" for fault in error.faults]
        return None
