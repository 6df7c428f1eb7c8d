"""Stored values that cannot be in a shop: judged as not recorded, and found by the operation they belong to."""

import re
from collections.abc import Mapping
from typing import Any, get_args

import attrs

from kaustos.core.records import PART_TITLES, Lot, Outside, Recipe, declared, outside_of, within
from kaustos.core.records.quantities import BY_UNIT
from kaustos.core.review.contract import (
    EXPECTED,
    Advice,
    Cap,
    Code,
    Context,
    Finding,
    OperationReview,
    Reads,
    Remedy,
    Set,
    worst_first,
)
from kaustos.core.review.grading import standing_of
from kaustos.core.review.making import make_finding

_SECTIONS = {
    "brief": ("brief",),
    "stock": ("stock",),
    "plate": ("plate",),
    "first_layer": ("first_layer",),
    "melt": ("melt",),
    "heat": ("heat",),
    "supports": ("supports",),
    "run": (),
    "release": (),
    "anneal": ("anneal",),
    "proof": (),
}
_RECORDS: dict[str, tuple[str, ...]] = {
    "stock": ("lot", "dryer", "rules"),
    "machine": ("machine",),
    "plate": ("plate", "agent", "part"),
    "supports": ("bath",),
    "run": ("job",),
    "release": ("plate",),
    "anneal": ("oven",),
    "proof": ("part",),
}
_CHOSEN = ("lot", "dryer", "machine", "plate", "agent", "part", "bath", "job", "oven")
_TAMED = (*_CHOSEN, "rules")


def outside_code(key: str) -> Code:
    """The code under which an operation finds such values.

    Parameters
    ----------
    key : str
        Of the operation [-]

    Returns
    -------
    Code
        A stop that leaves no grade [-]
    """
    return Code(
        f"{key}.value.outside", "stop",
        "{setting:text} stands at {value:text}, which cannot be ({low:text} to {high:text}); it is judged as not "
        "recorded.",
        "Nothing can be computed from a value that cannot be; an older version stored it, or it came from elsewhere.",
        "Ends of the field", EXPECTED,
        title=f"{key}: a value outside what can be", cap="no_go",
        silent="it says what a record lacks, nothing of the run",
    )  # fmt: skip


def tamed(recipe: Recipe, context: Context, reads: Reads) -> tuple[Recipe, Context]:
    """Recipe and context as they are judged: what cannot be is not recorded.

    Parameters
    ----------
    recipe : Recipe
        As it is stored [shop units]
    context : Context
        With lot, dryer and machine as they are stored [shop units]
    reads : Reads
        What is read of both, and looked at [-]

    Returns
    -------
    tuple of Recipe and Context
        The same objects where every value can be [shop units]
    """
    sections = {name: getattr(recipe, name) for name in reads.recipe if name != "polymer"}
    chosen = {name: getattr(context, name) for name in _TAMED if name in reads.context}
    return _changed(recipe, sections), _changed(context, chosen)


def _changed(record: Any, parts: Mapping[str, Any]) -> Any:
    tame = {name: within(part) for name, part in parts.items()}
    odd = {name: part for name, part in tame.items() if part is not parts[name]}
    return attrs.evolve(record, **odd) if odd else record


def with_outside(key: str, said: OperationReview, recipe: Recipe, context: Context) -> OperationReview:
    """What an operation says, with a stop for every value of its own that cannot be.

    Parameters
    ----------
    key : str
        Of the operation [-]
    said : OperationReview
        What it says of the rest [-]
    recipe : Recipe
        As it is stored [shop units]
    context : Context
        As it is stored [shop units]

    Returns
    -------
    OperationReview
        The same object where every value can be [-]
    """
    places = [(f"{section}.", getattr(recipe, section)) for section in _SECTIONS.get(key, ())]
    places += [(f"{name}.", getattr(context, name)) for name in _RECORDS.get(key, ())]
    odd = [(head + each.path, each) for head, record in places for each in outside_of(record)]
    if not odd:
        return said
    code = outside_code(key)
    findings = worst_first((*said.findings, *(_finding(code, path, each, recipe, context) for path, each in odd)))
    return attrs.evolve(
        said, findings=findings, caps=(Cap(code.code, "no_go"), *said.caps),
        standing=standing_of(tuple(each.severity for each in findings), said.missing),
    )  # fmt: skip


def _finding(code: Code, path: str, each: Outside, recipe: Recipe, context: Context) -> Finding:
    values = {name: _words(getattr(each, name), each.unit) for name in ("value", "low", "high")}
    values["setting"] = _title(path)
    remedy: Remedy
    if "[" in path:
        remedy = Advice("Correct the entry in its log", "Its room lists every entry; the value stands in this one.")
    else:
        title = "Take it as not recorded" if each.usual in (None, "") else "Take what is usual"
        remedy = Set(title, {path: each.usual})
    return make_finding(code, recipe, context, path.partition("[")[0], (remedy,), values)


def _title(path: str) -> str:
    """What a person calls a field: with the part of the machine it belongs to, or the entry of a log it stands in."""
    entry = re.fullmatch(r"lot\.(\w+)\[(\d+)\]\.(\w+)", path)
    if entry:
        log, place, name = entry.groups()
        inside = get_args(attrs.fields_dict(Lot)[log].type)[0]
        return f"{_LOGS[log]}, entry {int(place) + 1}: {_called(attrs.fields_dict(inside)[name], name).lower()}"
    plain = re.sub(r"\[\d+\]", "", path)
    found = declared(plain)
    parts = [PART_TITLES.get(each, each) for each in plain.split(".")[1:-1]] if plain.startswith(_CHOSEN) else []
    return ", ".join([_called(found, plain.rpartition(".")[2]), " ".join(parts)]).removesuffix(", ")


_LOGS = {"stays": "Where it was", "weighings": "Weighings", "reserves": "Put aside", "strands": "Purged strands"}


def _called(field: Any, name: str) -> str:
    title = str(field.metadata.get("title", "")) if field is not None else ""
    return title or name.removesuffix("_c").removesuffix("_utc").replace("_", " ").capitalize()


def _words(value: float | str, unit: str) -> str:
    assert not unit or unit in BY_UNIT
    return value if isinstance(value, str) else f"{value:.6g} {unit}".replace("-", "\u2212")
