"""A recipe on a shop that stands in nobody's way: any polymer, part, air, plate, heat; what is not named is usual."""

import functools
from typing import Any

import attrs

from kaustos.app.judge import context_of_records
from kaustos.app.records import Records
from kaustos.core.records import AgentBatch, Lot, PlateItem, Polymer, PrintedPart, Recipe, Shape, Stay
from kaustos.core.records.recipe import Brief, FirstLayer, Heat, Melt, Plate
from kaustos.core.review import Context, Review
from kaustos.library import load
from tests.support import LIGHT, NOW, RECORDS, changed, opened

MACHINE = "crag"  # heats all zones, is insulated, has a geared drive; its limits are lifted


def window(polymer: Polymer, zone: str) -> tuple[float, float]:
    """The window of a zone in the library."""
    low, high = (polymer.value(f"{zone}_{end}_c") for end in ("low", "high"))
    assert low is not None and high is not None
    return low.value, high.value


def middle(polymer: str, zone: str) -> float:
    """The middle of that window."""
    return sum(window(load().polymers[polymer], zone)) / 2.0


@functools.cache
def _shop() -> Records:
    """The demo's machine that heats everything, its measurements taken away, with a plate of each surface."""
    base = opened("packer_ring", MACHINE)
    bare = attrs.evolve(RECORDS.machines[MACHINE], id=MACHINE)
    hot = {
        "nozzle": attrs.evolve(bare.nozzle, firmware=attrs.evolve(bare.nozzle.firmware, max_c=520.0)),
        "plate": bare.plate, "chamber": bare.chamber,
    }  # fmt: skip
    machine = attrs.evolve(bare, nozzle=hot["nozzle"])
    plates = {
        f"on_{key}": PlateItem(id=f"on_{key}", name=key, surface=key, size_x_mm=300.0, size_y_mm=250.0,
                               cleaned="wiped", prints=5.0, renewed_prints=0.0)
        for key in load().supplies.bonds.surfaces
    }  # fmt: skip
    agents = {
        f"with_{key}": AgentBatch(id=f"with_{key}", name=key, agent=key, mixed_ml=200.0, left_ml=150.0, state="clear",
                                  mixed_utc="2026-02-20T08:00:00Z")
        for key in load().supplies.bonds.agents
    }  # fmt: skip
    tables = {
        "machines": {MACHINE: machine}, "plates": plates, "calibrations": {}, "runs": {}, "proofs": {}, "loads": {},
        "lots": {}, "agents": agents, "services": {}, "parts": {}, "jobs": {},
    }  # fmt: skip
    return base.with_tables(**tables)


def _spool(key: str, polymer: Polymer, *, dry: bool) -> Lot:
    """A spool of the bare polymer: three days in a good dryer and sealed since, or a month in the open."""
    hot = polymer.value("dryer_high_c")
    dried = (
        Stay(place="dryer", from_utc="2026-02-26T08:00:00Z", temperature_c=hot.value if hot is not None else 60.0),
        Stay(place="sealed", from_utc="2026-03-01T20:00:00Z"),
    )
    wet = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", humidity_pct=55.0),)
    return Lot(
        id="spool", name="Spool", polymer=key, grade="bare", diameter="1.75", net_g=2000.0, tare_g=230.0, depth_mm=20.0,
        width_mm=45.0, flange="metal", feed="dry_box", box_humidity_pct=5.0, recycled=False,
        stays=dried if dry else wet,
    )  # fmt: skip


def situation(
    polymer: str, *, size: tuple[float, float, float] = (30.0, 25.0, 30.0), air: float | None = None,
    nozzle: float | None = None, plate: float | None = None, surface: str = "pei_film", layer: float = 0.2,
    bead: float = 0.6, bore: float = 0.4, speed: float = 50.0, infill: float = 100.0, walls: float = 3.0,
    fan: float = 0.0, agent: str = "", release: str = "cold", shape: Shape | None = None, anchor: str = "none",
    brim: float | None = None, purpose: str = "tool", dry: bool = True,
    **changes: Any,
) -> Records:  # fmt: skip
    """A recipe as an engineer would tell it in one breath; air is that beside the part."""
    made = load().polymers[polymer]
    nozzle = middle(polymer, "nozzle") if nozzle is None else nozzle
    air = middle(polymer, "chamber") if air is None else air
    plate = (
        max(middle(polymer, "plate"), air) if plate is None else plate
    )  # nobody prints on a plate colder than the air
    density = made.value("density_g_cm3")
    assert density is not None
    volume = size[0] * size[1] * size[2]
    skin = min(2.0 * (size[0] + size[1]) * walls * bead / (size[0] * size[1]), 1.0)
    mass = volume / 1e3 * density.value * (skin + (1.0 - skin) * infill / 100.0)
    recipe = Recipe(
        name="Asked", part="Block", polymer=polymer,
        brief=Brief(purpose=purpose, size_x_mm=size[0], size_y_mm=size[1], size_z_mm=size[2], mass_g=mass, runs=1.0),
        first_layer=FirstLayer(nozzle_c=nozzle, bed_c=plate, height_mm=layer, width_mm=bead, speed_mm_s=20.0),
        melt=Melt(nozzle_c=nozzle, width_mm=bead, height_mm=layer, speed_mm_s=speed, walls=walls, infill_pct=infill),
        heat=Heat(chamber_c=air, fan_pct=fan),
        plate=Plate(bed_c=plate, anchor=anchor, brim_mm=brim, copies=1.0, release=release),
    )  # fmt: skip
    base = _shop().with_tables(lots={"spool": _spool(polymer, made, dry=dry)})
    chosen = {"machine": MACHINE, "plate": f"on_{surface}", "lot": "spool", "dryer": "kiln"}
    if shape is not None:
        base = base.with_tables(parts={"body": PrintedPart(id="body", name="Body", shape=shape)})
        chosen["part"] = "body"
    if agent:
        chosen["agent"] = f"with_{agent}"
    card = attrs.evolve(base.cards["packer_ring"], recipe=recipe, chosen=chosen)
    records = attrs.evolve(base.with_tables(cards={"asked": card}), current="asked")
    return changed(records, changes)


def asked(records: Records) -> tuple[Recipe, Context, Review]:
    """What is judged, and what is said."""
    recipe, context = records.card.recipe, context_of_records(records, NOW)
    return recipe, context, LIGHT.at_hand(recipe, context).review
