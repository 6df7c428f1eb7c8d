"""Whatever a record can hold survives the file: made-up records of every kind, saved, killed off and read again."""

import random
import tempfile
import unittest
from pathlib import Path

import attrs

from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, fill
from kaustos.core.planning.standing import box_shape
from kaustos.core.records import (
    KINDS,
    STAYS,
    AgentBatch,
    AnnealStep,
    Bath,
    Calibration,
    Damage,
    Datum,
    Dryer,
    Feeding,
    Fit,
    Growth,
    Inspection,
    JobFile,
    JobPause,
    Look,
    Lot,
    Machine,
    Nozzle,
    Oven,
    OvenLoad,
    OwnPolymer,
    PartFile,
    Photo,
    PlateItem,
    PrintedPart,
    Proof,
    ProofRow,
    Recipe,
    RecipeCard,
    Run,
    RunSensor,
    ServicePart,
    Stay,
    Upgrade,
    Wash,
    Weighing,
)
from kaustos.core.records.quantities import QUANTITIES
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from tests.support import NOW

BOX = box_shape(9.5, 0.1 + 0.2, 3.0, 0.4)
OWN = Datum(value=0.1 + 0.2, low=0.0, high=1e3, unit="°C", kind="own", source="ä; “x”, 2026")
ODD = ("", "ä µm ½ – “x”", "a,b;c\td", "NaN", "null", "0", "'; drop table x; --", "e\u0301 \u202e abc")


def made_up(record, rng, **more):
    """A record of a class with whatever its declarations let in."""
    values = {}
    for field in attrs.fields(record):
        meta = field.metadata
        if field.name in more:
            continue
        if "quantity" in meta:
            quantity = QUANTITIES[meta["quantity"]]
            values[field.name] = rng.choice([None, quantity.low, quantity.high, rng.uniform(0.0, 100.0), 0.1 + 0.2])
        elif "choices" in meta:
            values[field.name] = rng.choice([None, *meta["choices"]])
        elif meta.get("flag"):
            values[field.name] = rng.choice([None, True, False])
        elif meta.get("moment"):
            values[field.name] = rng.choice(["", "2026-02-28T23:59:59.5+13:00", "2026-03-01T08:00:00Z"])
        elif meta.get("text"):
            values[field.name] = rng.choice(ODD)
        elif isinstance(field.type, type) and attrs.has(field.type):
            values[field.name] = made_up(field.type, rng)
    return record(**(values | more))


def lot_of(rng, key):
    """A lot with a past."""
    stays = tuple(made_up(Stay, rng, place=place, from_utc=f"2026-01-0{1 + n}T08:00:00Z")
                  for n, place in enumerate(rng.sample([*STAYS], 3)))  # fmt: skip
    return made_up(
        Lot, rng, id=key, polymer=rng.choice([None, *load().polymers]), stays=stays,
        weighings=tuple(made_up(Weighing, rng) for _ in range(rng.randint(0, 4))),
        photos=tuple(Photo(sha256=f"{rng.getrandbits(256):064x}", name=rng.choice(ODD)) for _ in range(2)),
    )  # fmt: skip


class TestRoundTrip(unittest.TestCase):
    def test_records_of_every_kind_come_back_as_they_were(self):
        for seed in range(20):
            rng = random.Random(seed)
            odd = {
                "machine": made_up(Machine, rng, id="odd"), "lot": lot_of(rng, "odd"),
                "dryer": made_up(Dryer, rng, id="odd"), "run": made_up(Run, rng, id="odd", card="odd", revision=1.0),
                "own_polymer": made_up(OwnPolymer, rng, id="odd", based_on=rng.choice([None, "pc", "pa6"]),
                                       values={"glass_transition_c": OWN}, opinions={"glass_transition_c": OWN}),
                "nozzle": made_up(Nozzle, rng, id="odd", fed=(made_up(Feeding, rng),),
                                  inspections=(made_up(Inspection, rng),)),
                "calibration": made_up(Calibration, rng, id="odd", machine="odd", values={"offset_k": -3.5}),
                "upgrade": made_up(Upgrade, rng, id="odd", lifts={"nozzle.heater": 450.0}, needs=("odd",)),
                "plate": made_up(PlateItem, rng, id="odd", surface=rng.choice([None, "pei_film", "gone"]),
                                 damages=(made_up(Damage, rng), made_up(Damage, rng))),
                "agent": made_up(AgentBatch, rng, id="odd", agent=rng.choice([None, "pvp_glue", "gone"])),
                "bath": made_up(Bath, rng, id="odd", washes=(
                    made_up(Wash, rng, looks=(made_up(Look, rng),), dried=(made_up(Weighing, rng),)),)),
                "oven": made_up(Oven, rng, id="odd"),
                "load": made_up(OvenLoad, rng, id="odd", steps=(made_up(AnnealStep, rng),), runs=("odd",),
                                grown=(made_up(Growth, rng),),
                                sensors=(RunSensor(name="dummy", hours=(0.0, 0.1 + 0.2), shown_c=(20.0, 1e3)),)),
                "proof": made_up(Proof, rng, id="odd", rows=(
                    made_up(ProofRow, rng, strain_pct=(0.0, 0.1 + 0.2), stress_mpa=(0.0, 3.0)),)),
                "service": made_up(ServicePart, rng, id="odd"),
                "job": made_up(JobFile, rng, id="odd", filament_mm={"0": 812.5}, unknown={"ODD_WORD": 3.0},
                               heights_mm=(0.2, 0.4), seconds=(3.0, 4.0), layers=(1.0, 2.0), feeds_mm_s=(1.0, 1.5),
                               pauses=(JobPause(line=7.0, at_mm=0.4, after_h=0.1, word="M600"),)),
                "part": made_up(PrintedPart, rng, id="odd", shape=rng.choice([None, BOX]),
                                files=(made_up(PartFile, rng, sha256=f"{rng.getrandbits(256):064x}"),),
                                fits=(made_up(Fit, rng),), broken=("ä; “x”",)),
                "card": RecipeCard(recipe=made_up(Recipe, rng, polymer=rng.choice([None, "odd"])),
                                   chosen={**RECORDS.card.chosen, "lot": "odd", "plate": "odd", "agent": "odd",
                                                              "part": "odd"}),
            }  # fmt: skip
            self.assertEqual(set(odd), {kind.one for kind in KINDS}, "a kind that is not tried")
            records = RECORDS.with_tables(
                **{kind.many: {**RECORDS.tables[kind.many], "odd": odd[kind.one]} for kind in KINDS}
            )
            with tempfile.TemporaryDirectory() as scratch, self.subTest(seed):
                file = Path(scratch) / "odd.kaustos"
                fill(file, records, lambda: NOW)
                workspace = Workspace(file, Settings(), lambda: NOW)
                try:
                    found = workspace.draft.records
                    for kind in KINDS:
                        self.assertEqual(found.tables[kind.many]["odd"], odd[kind.one], kind.one)
                    workspace.draft.open_card("odd")
                    self.assertTrue(workspace.review().grade.value, "whatever a record holds can be judged")
                finally:
                    workspace.close()
