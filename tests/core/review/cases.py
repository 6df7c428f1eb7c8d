"""A context that raises each code and a near one that does not: card, machine, raising and sparing changes."""

import attrs

from kaustos.core.records import (
    AnnealStep,
    Bath,
    Calibration,
    Damage,
    Decision,
    Feeding,
    GapOffset,
    Inspection,
    Layer,
    NearPart,
    Observation,
    PanelField,
    PartChange,
    ProbeGrid,
    ProbePoint,
    ProofRow,
    Run,
    Settled,
    Stay,
    Wash,
)
from kaustos.demo.scenario import RECORDS

SHELL, BLADE, CAGE, GUIDE = "probe_head_shell", "centraliser_blade", "sensor_cage", "cable_guide"
RING, BRACKET = "packer_ring", "winch_bracket"
COVER, CLAMP = "wellhead_cover", "cable_clamp"
BLOCK = {"brief.size_x_mm": 150.0, "brief.size_y_mm": 120.0, "brief.size_z_mm": 60.0, "melt.infill_pct": 100.0,
         "plate.copies": 1.0, "context.part": None}  # fmt: skip
NO_PLATE = {"context.plate": None}  # then the polymer's usual window stands
TALL = {"brief.size_x_mm": 12.0, "brief.size_y_mm": 12.0, "brief.size_z_mm": 120.0, "plate.anchor": "none"}
ON_GLASS = {"context.plate": "plate_g2"}
SMALL = {"brief.size_x_mm": 40.0, "brief.size_y_mm": 40.0}
TIP = {"brief.size_x_mm": 8.0, "brief.size_y_mm": 8.0, "brief.size_z_mm": 60.0, "heat.least_layer_s": 0.0}
THIN = attrs.evolve(RECORDS.tables["parts"]["part_head"].shape, thinnest_mm=0.3)
HANGS = attrs.evolve(THIN, thinnest_mm=3.0, shadow_mm2=3000.0, contact_mm2=450.0)
BODIES = attrs.evolve(RECORDS.tables["parts"]["part_head"].shape, gap_mm=0.1)
SADDLE = RECORDS.tables["parts"]["part_clamp"].shape  # a ceiling of 24 mm, two ledges of 10 mm
ALONE = attrs.evolve(SADDLE, overhangs=())


def saddle(**changes):
    """The clamp with every place of it changed."""
    return attrs.evolve(SADDLE, overhangs=tuple(attrs.evolve(each, **changes) for each in SADDLE.overhangs))


def decision(what, place=SADDLE.overhangs[0], why="it seals", layer_mm=None):
    """What somebody decided on a place of the clamp."""
    return Decision(x_mm=place.x_mm, y_mm=place.y_mm, low_mm=place.low_mm, what=what, why=why, layer_mm=layer_mm)


def slit(wide_mm):
    """The outline of a place of that width."""
    return ((0.0, 0.0), (30.0, 0.0), (30.0, wide_mm), (0.0, wide_mm))


def tank(**changes):
    """An alkaline bath of five litres, mixed a day ago, nothing in it."""
    new = Bath(id="bath_t2", name="T-2", material="alkali_acrylic", volume_ml=5000.0, mixed_utc="2026-03-01T08:00:00Z",
               warm_c=60.0, taken_g=0.0)  # fmt: skip
    return attrs.evolve(new, **changes)


LEFT = (decision("leave"),)
PVA = {"supports.way": "soluble", "supports.material": "pva", "machine.two_feeds": True, "heat.chamber_c": None}
ON_ASA = {"polymer": "asa", "supports.way": "soluble", "machine.two_feeds": True, "supports.bath_c": 60.0}
IN_TANK = {"supports.material": "alkali_acrylic", "context.bath": "bath_t2"}
GOOD_COVER = Run(id="r", card="wellhead_cover", revision=1.0, lot="lot_a190", outcome="good")
HUMID = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", temperature_c=24.0, humidity_pct=75.0),)
CLAIMED = {"machine.nozzle.heater.max_c": 385.0, "machine.nozzle.heater.basis": "claimed", "machine.heat_steps": ()}
HEATER_ENDS = {"machine.heat_steps": (), "machine.nozzle.heater.max_c": 380.0, "machine.nozzle.heater.basis": "proven"}
IN_KILN = {"lots/lot_c042/stays": (Stay(place="dryer", dryer="kiln", from_utc="2026-03-02T06:00:00Z",
                                        temperature_c=105.0),)}  # fmt: skip
DRIED = {"context.dryer": "kiln", "stock.dryer_c": 95.0, "stock.dryer_h": 72.0}
WAITS = DRIED | {"stock.wait_h": 8.0, "stock.wait_in": "open"}
LONG = DRIED | {"brief.print_h": 60.0}
MUCH = {"nozzle.fed": (Feeding(grams=3000.0, filler="carbon", at_utc="2026-01-01T08:00:00Z"),)}
STRUNG = Run(id="r", card=GUIDE, revision=1.0, polymer="petg", machine="beck", outcome="usable",
             started_utc="2026-02-20T08:00:00Z", observations=(Observation(what="strings"),))  # fmt: skip
SEEN_SINCE = {"nozzle.inspections": (Inspection(at_utc="2026-02-21T08:00:00Z", lost_mm=0.1, state="sound"),)}
PLATE_OFF = {"calibrations/c": Calibration(id="c", machine="crag", kind="plate_offset", values={"offset_k": -6.0},
                                            done_utc="2026-02-20T08:00:00Z")}  # fmt: skip
COMPARED = Calibration(id="c", machine="tarn", kind="chamber_offset", values={"offset_k": 0.0},
                       done_utc="2026-02-20T08:00:00Z")  # fmt: skip
THICK = Layer(material="glass", thickness_mm=20.0, loose=True)
WARM = {"plate.bed_c": 70.0}
AIR_OFF = {"calibrations/c": Calibration(id="c", machine="crag", kind="chamber_offset", values={"offset_k": -5.0},
                                          done_utc="2026-02-20T08:00:00Z")}  # fmt: skip
CHANGED = (PartChange(part="nozzle_sensor", at_utc="2026-02-20T08:00:00Z"),)
DROOPY = NearPart(name="Duct", place="nozzle", softens_c=80.0, clearance_mm=5.0)


JUMPED = tuple(GapOffset(offset_mm=each, at_utc=f"2026-02-0{n}T08:00:00Z") for n, each in enumerate((-1.8, 1.9), 1))
STEPS_OF_50 = tuple(PanelField(path=path, step=50.0 if path == "melt.nozzle_c" else None)
                    for path in ("first_layer.bed_c", "plate.bed_c", "first_layer.nozzle_c", "melt.nozzle_c",
                                 "heat.chamber_c"))  # fmt: skip


def measured(kind, machine, lot, **values):
    """A calibration of a machine with one lot."""
    return {"calibrations/m": Calibration(id="m", machine=machine, kind=kind, lot=lot, values=values,
                                          done_utc="2026-02-28T08:00:00Z")}  # fmt: skip


def ran(machine, polymer):
    """The last run of a machine was of a polymer."""
    return {"runs/r": Run(id="r", card=GUIDE, revision=1.0, machine=machine, polymer=polymer, outcome="good",
                          started_utc="2026-03-01T08:00:00Z")}  # fmt: skip


def at_holds(*holds, hours=4.0):
    """An anneal by its holds, ramps that no section minds."""
    return tuple(AnnealStep(temperature_c=each, hold_h=hours, ramp_k_h=30.0) for each in holds)


BLADE_STEEP = tuple(attrs.evolve(each, ramp_k_h=120.0) for each in at_holds(150.0, 170.0))


def good_runs(card, machine, *shapes, lot=None):
    """Good runs of a recipe, one a day, one for each shape."""
    polymer = RECORDS.cards[card].recipe.polymer
    return {
        f"runs/g{day}": Run(
            id=f"g{day}", card=card, revision=1.0, machine=machine, polymer=polymer, lot=lot, outcome="good",
            shape=shape, started_utc=f"2026-02-{day:02d}T08:00:00Z",
        )
        for day, shape in enumerate(shapes, start=10)
    }  # fmt: skip


def rows_of(proof):
    """Rows of a piece of evidence of the demo."""
    return RECORDS.tables["proofs"][proof].rows


def softer(proof, hz):
    """The bar of a coupon with another tone."""
    return tuple(attrs.evolve(each, hz=hz) for each in rows_of(proof))


ACCEPTED = {"verdict": "as_is", "verdict_by": "R. A.", "verdict_why": "clears its bolt"}
LIFTED = (*rows_of("size_clamp"), ProofRow(what="lift", found_mm=0.4))
EVERY_GROUP = tuple(
    ProofRow(group=group, strength_mpa=each + off)
    for group, each in (("across", 18.0), ("along", 38.0), ("moulded", 44.0), ("aged", 12.0))
    for off in (-1.0, 0.0, 1.0)
)
NO_COUPON = {f"proofs/tone_{number}/retired": True for number in (1, 2, 3)}
LOOKED = Inspection(at_utc="2026-03-01T08:00:00Z", lost_mm=0.0, state="sound")


def off_runs(*off):
    """Parts of the clamp's polymer that came off its plate, one a day."""
    bond = {"load": 0.5, "cold": 0.5, "damage": -0.5}
    return {
        f"runs/r{day}": Run(
            id=f"r{day}",
            card=CLAMP,
            revision=1.0,
            machine="tarn",
            polymer="pc_cf",
            plate="plate_s7",
            outcome="good",
            off=each,
            bond=bond,
            started_utc=f"2026-02-{day:02d}T08:00:00Z",
        )
        for day, each in enumerate(off, start=10)
    }


def left(what, **more):
    """An earlier run on the clamp's machine and plate in which something was seen."""
    run = Run(id="run_0090", card=CLAMP, revision=1.0, machine="tarn", plate="plate_s7", outcome="failed",
              started_utc="2026-02-28T08:00:00Z", observations=(Observation(what=what),))  # fmt: skip
    return {"runs/run_0090": attrs.evolve(run, **more)}


def closed(what):
    """What closes it."""
    return {"settled": (Settled(what=what, by="R. A.", proof="looked at, sound"),)}


def grid(sag, tilt, plate_c=158.0):
    """Nine points with the middle sunk, and tilted along."""
    points = tuple(ProbePoint(x_mm=100.0 * x, y_mm=100.0 * y, z_mm=tilt * x / 2.0 - (sag if x == y == 1 else 0.0))
                   for x in range(3) for y in range(3))  # fmt: skip
    return ProbeGrid(points=points, plate_c=plate_c, at_utc="2026-02-20T08:00:00Z")


def hot(card, machine, hours, **zones):
    """A run that kept zones hot for hours."""
    return Run(id="r", card=card, revision=1.0, machine=machine, started_utc="2026-02-25T08:00:00Z", planned_h=hours,
               outcome="good", hot=zones)  # fmt: skip


def tested_flow(flow):
    """A flow that was kept as tested with the guide's lot."""
    test = Calibration(id="flow", machine="beck", kind="flow", lot="lot_g310", done_utc="2026-02-25T08:00:00Z",
                       values={"flow_mm3_s": flow, "at_c": 240.0})  # fmt: skip
    return {"calibrations/flow": test}


LONG_BAR = {"context.part": None, "brief.size_x_mm": 220.0, "brief.size_y_mm": 60.0, "brief.size_z_mm": 25.0,
            "brief.mass_g": 400.0}  # fmt: skip
ON_NYLON = {"polymer": "pa_cf", "context.lot": None}

CASES = {
    "machine.nozzle.reads_off": (CAGE, "tarn", {"melt.nozzle_c": 273.0}, {"melt.nozzle_c": 274.0}),
    "machine.plate.reads_off": (SHELL, "crag", {"plate.bed_c": 155.0} | PLATE_OFF,
                                {"plate.bed_c": 165.0, "first_layer.bed_c": 165.0} | PLATE_OFF),
    "machine.chamber.reads_off": (SHELL, "crag", {"heat.chamber_c": 129.0} | AIR_OFF,
                                  {"heat.chamber_c": 130.0} | AIR_OFF),
    **{
        f"machine.{zone}.wrong_table": (SHELL, "crag", {f"machine.{zone}.sensor.table": "ntc"},
                                        {f"machine.{zone}.sensor.table": "pt1000"})
        for zone in ("nozzle", "plate", "chamber")
    },
    "machine.nozzle.heater_weak": (SHELL, "crag", {"machine.nozzle.heater.power_w": 30.0}, {}),
    "machine.plate.heater_weak": (SHELL, "crag", {"machine.plate.heater.power_w": 30.0}, {}),
    "machine.near.softens": (SHELL, "crag", {"machine.near": (DROOPY,)},
                             {"machine.near": (NearPart(name="Duct", place="nozzle", softens_c=300.0),)}),
    "machine.chamber.electronics_limit": (
        SHELL, "crag", {"machine.chamber.electronics.max_c": 80.0, "machine.chamber.electronics.fitted": True}, {},
    ),
    "machine.chamber.heater_weak": (SHELL, "crag", {"machine.chamber.heater.power_w": 60.0}, {}),
    "machine.chamber.expected_short": (BRACKET, "gill", {"machine.chamber.heater.max_c": None} | WARM,
                                       {"machine.chamber.heater.max_c": 48.0}),
    "machine.chamber.never_measured": (SHELL, "tarn", {"calibrations/tarn_x": None}, {"calibrations/c": COMPARED}),
    "machine.chamber.cover": (BRACKET, "gill", {"machine.enclosure.kind": "cover"}, {}),
    "machine.plate.surface_below": (BRACKET, "gill", {"plate.bed_c": 71.0, "machine.stack": (THICK,)} | NO_PLATE,
                                    {"plate.bed_c": 80.0, "machine.stack": (THICK,)} | NO_PLATE),
    "machine.gap.jumped": (SHELL, "tarn", {"machine.offsets": JUMPED}, {"machine.offsets": JUMPED[:1]}),
    "machine.plate.sag": (SHELL, "crag", {"machine.grids": (grid(0.2, 0.0),)}, {"machine.grids": (grid(0.05, 0.0),)}),
    "machine.plate.tilt": (SHELL, "crag", {"machine.grids": (grid(0.0, 0.4),)}, {"machine.grids": (grid(0.0, 0.2),)}),
    "machine.plate.cold_probed": (SHELL, "crag", {"machine.grids": (grid(0.0, 0.0, 25.0),)},
                                  {"machine.grids": (grid(0.0, 0.0, 150.0),)}),
    "machine.panel.cannot": (BRACKET, "gill", {"machine.panel_fields": (PanelField(path="melt.nozzle_c", high=250.0),)},
                             {"machine.panel_fields": ()}),
    "machine.panel.causes": (SHELL, "crag", {"machine.panel_fields": STEPS_OF_50, "melt.nozzle_c": 372.0}, {}),
    "machine.calibration.stale": (SHELL, "crag", {"machine.changes": CHANGED}, {}),
    "machine.feed.slips": (GUIDE, "gill", {"polymer": "tpu", "machine.tube_mm": 400.0},
                           {"polymer": "tpu", "machine.tube_mm": 200.0}),
    "machine.site.fumes": (GUIDE, "gill", {"machine.site": "office"}, {"machine.site": "workshop"}),
    "machine.nozzle.liner_aged": (GUIDE, "beck", {"runs/r": hot(GUIDE, "beck", 101.0, nozzle=235.0)},
                                  {"runs/r": hot(GUIDE, "beck", 300.0, nozzle=225.0)}),
    "machine.plate.magnet_aged": (GUIDE, "beck", {"runs/r": hot(GUIDE, "beck", 101.0, plate=75.0)},
                                  {"runs/r": hot(GUIDE, "beck", 50.0, plate=75.0)}),
    "machine.nozzle.worn": (GUIDE, "beck", MUCH, {}),
    "machine.nozzle.wears_out": (BRACKET, "beck", {"context.nozzle": "nozzle_b11"}, {"context.nozzle": "nozzle_w01"}),
    "machine.nozzle.look_due": (GUIDE, "beck", {}, SEEN_SINCE),
    "machine.nozzle.ask_first": (GUIDE, "beck", {"runs/r": STRUNG}, {"runs/r": STRUNG} | SEEN_SINCE),
    "machine.nozzle.edge": (GUIDE, "beck", {"nozzle.edge": "burred"}, {"nozzle.edge": "rounded"}),
    "machine.nozzle.unchecked": (GUIDE, "beck", {"context.nozzle": "nozzle_c07"},
                                 {"context.nozzle": "nozzle_c07", "nozzle.edge": "sharp"}),
    "machine.nozzle.bore_small": ("turbine_vane", "crag", {"nozzle.bore_mm": 0.35}, {"nozzle.bore_mm": 0.6}),
    "machine.nozzle.poor_conductor": (CAGE, "tarn", {"melt.nozzle_c": 280.0}, {"melt.nozzle_c": 283.0}),
    "machine.nozzle.not_fitted": (CAGE, "tarn", {"context.nozzle": "nozzle_w01"}, {}),
    "plate.corner.lifts": (COVER, "gill", {"plate.cleaned": "touched"}, {}),
    "plate.sheet.comes_up": (COVER, "gill", LONG_BAR, LONG_BAR | {"plate.thick_mm": 6.0}),
    "plate.surface.torn": (GUIDE, "gill", {"context.plate": "plate_f6"},
                           {"context.plate": "plate_f6", "context.agent": "agent_k9"}),
    "plate.surface.breaks": (RING, "crag", BLOCK | ON_GLASS | {"brief.mass_g": 1380.0, "plate.release": "cold"},
                             BLOCK | ON_GLASS | {"plate.release": "hot"}),
    "plate.weld.splits": (BLADE, "tarn", BLOCK | {"heat.chamber_c": 50.0}, {}),
    "plate.limit.beyond": (CLAMP, "tarn", {}, {"context.plate": "plate_g2"}),
    "plate.limit.softens": (SHELL, "tarn", {}, {"plate.bed_c": 80.0, "first_layer.bed_c": 80.0}),
    "plate.heat.below_air": (RING, "crag", {"plate.bed_c": 110.0, "first_layer.bed_c": 110.0}, {"plate.bed_c": 138.0}),
    "plate.pair.untried": (BRACKET, "gill", {"context.agent": "agent_v14"}, {}),
    "plate.pair.contested": (CAGE, "tarn", {"context.agent": None}, {"context.plate": "plate_l5"}),
    "plate.film.used_up": (GUIDE, "beck", {"plate.film_prints": 3.0}, {"plate.film_prints": 0.0}),
    "plate.agent.not_ready": (SHELL, "tarn", {"context.agent": "agent_v15"}, {}),
    "plate.agent.stale": (SHELL, "tarn", {"agent.mixed_utc": "2025-03-02T07:30:00Z"}, {}),
    "plate.agent.short": (SHELL, "tarn", {"agent.left_ml": 0.1}, {"agent.left_ml": 20.0}),
    "plate.agent.lumps": (SHELL, "tarn", {"agent.state": "lumps"}, {"agent.state": "clear"}),
    "plate.item.broken": (SHELL, "tarn", {"plate.damages": (Damage(kind="crack"),)},
                          {"plate.damages": (Damage(kind="scuff"),)}),
    "plate.item.worn": (SHELL, "tarn", {"plate.prints": 4000.0}, {}),
    "plate.item.elsewhere": (GUIDE, "gill", {}, {"plate.fits_on": "gill"}),
    "plate.item.test_only": (SHELL, "tarn", {"plate.test_only": True}, {"plate.test_only": False}),
    "plate.room.crowded": (SHELL, "tarn", {"plate.copies": 400.0}, {"plate.copies": 4.0}),
    "plate.anchor.marks": (SHELL, "tarn", {"plate.anchor": "raft"}, {"plate.anchor": "none"}),
    "plate.part.little_contact": (SHELL, "tarn", {"parts/part_head/shape": HANGS}, {}),
    "plate.part.slender": (COVER, "gill", TALL, TALL | {"plate.anchor": "brim", "plate.brim_mm": 10.0}),
    "plate.anchor.fuses": (SHELL, "tarn", {"parts/part_head/shape": BODIES}, {}),
    "plate.release.wrong": (SHELL, "tarn", {"plate.release": "flex"}, {"plate.release": "hot"}),
    "first_layer.conditions.two_off": (GUIDE, "beck", {"first_layer.gap_mm": 0.5, "first_layer.bed_c": 45.0},
                                       {"first_layer.gap_mm": 0.5}),
    "first_layer.gap.ploughs": (GUIDE, "beck", {"first_layer.gap_mm": 0.1}, {}),
    "first_layer.gap.close": (GUIDE, "beck", {"first_layer.gap_mm": 0.15}, {}),
    "first_layer.gap.wide": (GUIDE, "beck", {"first_layer.gap_mm": 0.35}, {}),
    "first_layer.bead.thinner_than_high": (GUIDE, "beck", {"first_layer.width_mm": 0.15}, {}),
    "first_layer.bead.wide": (GUIDE, "beck", {"first_layer.width_mm": 1.2}, {}),
    "first_layer.bead.narrow": (GUIDE, "beck", {"first_layer.width_mm": 0.3}, {}),
    "first_layer.speed.fast": (GUIDE, "beck", {"first_layer.speed_mm_s": 60.0}, {}),
    "first_layer.look.nobody": (SHELL, "tarn", {"first_layer.look_by": ""}, {"first_layer.look_by": "M. Thwaite"}),
    "melt.bead.thinner_than_high": (GUIDE, "beck", {"melt.width_mm": 0.15}, {}),
    "melt.bead.narrow": (GUIDE, "beck", {"melt.width_mm": 0.35}, {}),
    "melt.bead.wide": (GUIDE, "beck", {"melt.width_mm": 0.9}, {}),
    "melt.layer.over_bore": (GUIDE, "beck", {"melt.height_mm": 0.41, "melt.width_mm": 0.8}, {}),
    "melt.layer.drags": (GUIDE, "beck", {"melt.height_mm": 0.05}, {}),
    "melt.layer.remainder": (GUIDE, "beck", SMALL | {"brief.size_z_mm": 10.1}, SMALL | {"brief.size_z_mm": 10.0}),
    "melt.wall.vanishes": (SHELL, "tarn", {"parts/part_head/shape": THIN}, {}),
    "melt.wall.residual": (SHELL, "tarn", {}, {"melt.width_mm": 0.75}),
    "melt.flow.beyond": (GUIDE, "beck", {"melt.speed_mm_s": 400.0}, {}),
    "melt.flow.odd": (GUIDE, "beck", tested_flow(250.0), tested_flow(12.0)),
    "melt.flow.core_cold": (GUIDE, "beck", {"melt.speed_mm_s": 115.0}, {}),
    "melt.speed.above_polymer": (BRACKET, "gill", {"melt.speed_mm_s": 70.0}, {}),
    "melt.residence.ages": (GUIDE, "beck", {"melt.pause_min": 60.0}, {"melt.pause_min": 1.0}),
    "melt.change.no_window": (RING, "crag", ran("crag", "pva"), ran("crag", "peek")),
    "melt.change.due": (RING, "crag", ran("crag", "pekk_a"), ran("crag", "peek")),
    "melt.multiplier.off": (SHELL, "tarn", measured("multiplier", "tarn", "lot_h117", multiplier=0.9, half=0.01),
                            measured("multiplier", "tarn", "lot_h117", multiplier=0.96, half=0.01)),
    "melt.multiplier.odd": (GUIDE, "beck", {"melt.multiplier": 0.7}, {"melt.multiplier": 0.95}),
    "melt.ladder.away": (SHELL, "tarn", measured("ladder", "tarn", "lot_h117", best_c=375.0, low_c=370.0, high_c=380.0),
                         measured("ladder", "tarn", "lot_h117", best_c=365.0, low_c=360.0, high_c=370.0)),
    "heat.weld.weak": (SHELL, "crag", {"heat.chamber_c": 40.0}, {}),
    "heat.weld.doubtful": (SHELL, "crag", {"heat.chamber_c": 82.0}, {}),
    "heat.weld.unproven": (RING, "crag", {}, measured("across", "crag", "lot_k008", ratio=0.7, ratio_half=0.1)),
    "heat.layer.too_hot": (GUIDE, "beck", TIP, TIP | {"heat.least_layer_s": 60.0}),
    "heat.fan.too_much": (SHELL, "tarn", {"heat.fan_pct": 80.0}, {}),
    "heat.fan.too_little": (GUIDE, "beck", {"heat.fan_pct": 0.0}, {"heat.fan_pct": 30.0}),
    "heat.soak.short": (SHELL, "tarn", {"heat.soak_min": 5.0}, {"heat.soak_min": 600.0}),
    "brief.part.broken": (SHELL, "tarn", {"parts/part_head/broken": ("2 edges have but one face",)}, {}),
    "brief.part.thin_wall": (SHELL, "tarn", {"parts/part_head/shape": THIN}, {}),
    "brief.part.cut_through": (RING, "crag", {"part.stock_mm": 4.8}, {"part.stock_mm": 1.0}),
    "brief.part.seals": (RING, "crag", {"part.stock_mm": 0.0}, {}),
    "brief.part.holes_unproven": (BLADE, "crag", {}, {"part.hole_error_mm": 0.2}),
    "brief.part.scaled": (BLADE, "crag", {"part.scale": 1.02}, {}),
    "brief.part.twin_apart": (BLADE, "crag", {"plate.copies": 1.0}, {"plate.copies": 2.0}),
    "brief.value.outside": (SHELL, "crag", {"brief.service_c": 2000.0}, {"brief.service_c": 120.0}),
    "plate.value.outside": (SHELL, "tarn", {"plate.stands_c": 2000.0}, {"plate.stands_c": 200.0}),
    "melt.value.outside": (SHELL, "tarn", {"melt.nozzle_c": 1500.0}, {}),
    "heat.value.outside": (SHELL, "tarn", {"heat.chamber_c": 1500.0}, {}),
    "first_layer.value.outside": (SHELL, "tarn", {"first_layer.nozzle_c": 1500.0}, {}),
    "stock.value.outside": (BRACKET, "gill", {"stock.dryer_c": 374.0}, {"stock.dryer_c": 90.0}),
    "machine.value.outside": (SHELL, "crag", {"machine.plate.heater.max_c": 1500.0},
                              {"machine.plate.heater.max_c": 200.0}),
    "stock.moisture.wet": (BRACKET, "gill", {}, DRIED),
    "stock.moisture.unsure": (BRACKET, "gill", DRIED | {"stock.dryer_h": 18.0, "lot.flange": "metal"}, DRIED),
    "stock.moisture.unknown": (SHELL, "crag", {"stock.dryer_h": None, "lot.stays": ()}, {"stock.dryer_h": None}),
    "stock.dryer.floor": (BRACKET, "gill", {"stock.dryer_c": 35.0}, {"stock.dryer_c": 75.0}),
    "stock.dryer.beyond_reach": (BRACKET, "gill", {"stock.dryer_c": 86.0}, {"stock.dryer_c": 85.0}),
    "stock.dryer.below_window": (BRACKET, "gill", {"stock.dryer_c": 79.0}, {"stock.dryer_c": 80.0}),
    "stock.dryer.above_window": (BRACKET, "gill", {"stock.dryer_c": 96.0}, {"stock.dryer_c": 95.0}),
    "stock.spool.softens": (BRACKET, "gill", {"stock.dryer_c": 81.0}, {"stock.dryer_c": 70.0}),
    "stock.drying.too_long": (BRACKET, "gill", {"stock.dryer_h": 68.0}, {"stock.dryer_h": 67.0}),
    "stock.drying.late": (SHELL, "crag", {"stock.wanted_utc": "2026-03-02T09:00:00Z"},
                          {"stock.wanted_utc": "2026-03-03T09:00:00Z"}),
    "stock.dryer.full": (SHELL, "crag", IN_KILN | {"dryer.places": 1.0}, IN_KILN | {"dryer.places": 2.0}),
    "stock.desiccant.alone": (BRACKET, "gill", {"lot.feed": "dry_box", "stock.dryer_h": None, "lot.stays": HUMID},
                              {"stock.dryer_h": None}),
    "stock.exposure.rewets": (BRACKET, "gill", LONG, LONG | {"lot.feed": "dry_box", "lot.box_humidity_pct": 3.0}),
    "stock.waiting.rewets": (BRACKET, "gill", WAITS, WAITS | {"stock.wait_in": "sealed"}),
    "stock.desiccant.spent": (RING, "crag", {}, {"lot.desiccant_utc": "2026-02-28T08:00:00Z"}),
    "stock.strand.signs": (BRACKET, "gill", {"stock.dryer_h": None}, {"stock.dryer_h": None, "lot.strands": ()}),
    "stock.lot.undisclosed": (CAGE, "tarn", {"lot.ingredients": "secret"}, {"lot.ingredients": "declared"}),
    "stock.mass.short": (BRACKET, "gill", {"brief.mass_g": 350.0}, {"brief.mass_g": 340.0}),
    "stock.lot.other_polymer": (CAGE, "tarn", {"polymer": "petg"}, {}),
    "stock.lot.dates": (
        CLAMP, "tarn", {"lot.received_utc": "2026-02-10T08:00:00Z", "lot.opened_utc": "2026-02-01T08:00:00Z"},
        {"lot.received_utc": "2026-01-10T08:00:00Z", "lot.opened_utc": "2026-02-01T08:00:00Z"},
    ),
    "stock.lot.unqualified": ("wellhead_cover", "gill", {"runs/r": GOOD_COVER, "context.lot": "lot_a204"},
                              {"runs/r": GOOD_COVER}),
    "stock.lot.elsewhere": (SHELL, "crag", {"lot.loaded_on": "beck"}, {"lot.loaded_on": "crag"}),
    "stock.lot.wears": (CAGE, "tarn", {"lot.filler": "glow", "nozzle.material": "brass"}, {"lot.filler": "glow"}),
    "stock.lot.recycled": (CAGE, "tarn", {"lot.recycled": True}, {"lot.recycled": False}),
    "stock.lot.low": (SHELL, "crag", {"lot.reorder_g": 800.0}, {"lot.reorder_g": 700.0}),
    "stock.lot.planned": (BLADE, "crag", {"brief.runs": 8.0}, {"brief.runs": 1.0}),
    "brief.weather.poor": (SHELL, "crag", {"brief.outdoor": True}, {"brief.outdoor": False}),
    "brief.chemical.attacked": (SHELL, "crag", {"brief.chemical": "ketones"}, {"brief.chemical": "oils"}),
    "brief.load.across_unproven": (RING, "crag", {"brief.load_across": True}, {"brief.load_across": False}),
    "brief.look.not_clear": (SHELL, "crag", {"brief.clear": True}, {"brief.clear": False}),
    "brief.look.other_finish": (SHELL, "crag", {"brief.look": "gloss"}, {"brief.look": "satin"}),
    "brief.handling.poor": (SHELL, "crag", {"brief.slides": True}, {"brief.glued": True}),
    "machine.size.too_big": (SHELL, "crag", {"brief.size_x_mm": 380.0}, {"brief.size_x_mm": 320.0}),
    "machine.strand.other": (SHELL, "crag", {"machine.feeds": "2.85"}, {"machine.feeds": None}),
    "brief.price.dearer": (SHELL, "crag", {"brief.service_c": 50.0}, {}),
    "machine.plate.near_melting": (BRACKET, "crag", {"plate.bed_c": 207.0}, {"plate.bed_c": 206.0}),
    "machine.chamber.near_crystallisation": (BRACKET, "crag", {"heat.chamber_c": 179.0}, {"heat.chamber_c": 178.0}),
    "brief.service.above_softening": (SHELL, "crag", {"brief.service_c": 170.0}, {"brief.service_c": 149.0}),
    "brief.service.short_margin": (SHELL, "crag", {"brief.service_c": 141.0}, {"brief.service_c": 140.0}),
    "brief.service.ages": (BRACKET, "gill", {"brief.service_c": 75.0, "brief.service_h": 100000.0},
                           {"brief.service_c": 75.0}),
    "brief.character.other": (SHELL, "crag", {"brief.character": "rubbery"}, {"brief.character": "tough"}),
    "brief.service.no_value": (SHELL, "crag", {"brief.moisture": "conditioned"}, {"brief.moisture": "dry"}),
    "brief.margin.below_purpose": (SHELL, "crag", {"brief.margin_k": 19.0}, {"brief.margin_k": 20.0}),
    "brief.anneal.not_planned": (BLADE, "crag", {"anneal.steps": ()}, {}),
    "machine.nozzle.beyond_reach": (SHELL, "tarn", {"melt.nozzle_c": 401.0}, {"melt.nozzle_c": 390.0}),
    "machine.nozzle.below_window": (SHELL, "tarn", {"melt.nozzle_c": 345.0}, {"melt.nozzle_c": 355.0}),
    "machine.nozzle.above_window": (SHELL, "crag", {"melt.nozzle_c": 386.0}, {"melt.nozzle_c": 385.0}),
    "machine.nozzle.no_headroom": (SHELL, "tarn", HEATER_ENDS | {"melt.nozzle_c": 378.0},
                                   HEATER_ENDS | {"melt.nozzle_c": 377.0, "first_layer.nozzle_c": 377.0}),
    "machine.nozzle.reach_claimed": (
        SHELL, "crag",
        CLAIMED | {"melt.nozzle_c": 366.0},
        CLAIMED | {"melt.nozzle_c": 365.0,
         "first_layer.nozzle_c": 365.0},
    ),
    "machine.nozzle.liner_limit": (GUIDE, "beck", {"melt.nozzle_c": 256.0}, {"melt.nozzle_c": 255.0}),
    "machine.nozzle.liner_rated": (GUIDE, "beck", {"melt.nozzle_c": 241.0}, {"melt.nozzle_c": 240.0,
                                                                           "first_layer.nozzle_c": 240.0}),
    "machine.nozzle.liner_at_stop": (GUIDE, "beck", {"melt.nozzle_c": 240.0, "first_layer.nozzle_c": 237.0},
                                     {"melt.nozzle_c": 237.0, "first_layer.nozzle_c": 237.0}),
    "machine.chamber.not_heated": (BRACKET, "beck", {}, {"context.machine": "gill"}),
    "machine.chamber.no_setpoint": (BRACKET, "gill", {"heat.chamber_c": 40.0}, {}),
    "machine.nozzle.liner_unknown": (
        SHELL, "crag", {"machine.nozzle.liner.fitted": None}, {"machine.nozzle.liner.fitted": False}
    ),
    "machine.nozzle.cannot_extrude": (SHELL, "crag", {"melt.nozzle_c": 274.0}, {"melt.nozzle_c": 275.0}),
    "machine.nozzle.decomposition": (SHELL, "crag", {"melt.nozzle_c": 421.0}, {"melt.nozzle_c": 420.0}),
    "machine.nozzle.near_decomposition": (SHELL, "crag", {"melt.nozzle_c": 390.0}, {"melt.nozzle_c": 389.0}),
    "machine.nozzle.below_plate": (GUIDE, "crag", {"plate.bed_c": 243.0, "melt.nozzle_c": 242.0},
                                   {"plate.bed_c": 242.0, "melt.nozzle_c": 242.0}),
    "machine.plate.beyond_reach": (SHELL, "tarn", {"plate.bed_c": 161.0}, {"plate.bed_c": 160.0}),
    "machine.plate.below_window": (SHELL, "crag", {"plate.bed_c": 154.0} | NO_PLATE, {"plate.bed_c": 155.0} | NO_PLATE),
    "machine.plate.above_window": (SHELL, "crag", {"plate.bed_c": 181.0} | NO_PLATE, {"plate.bed_c": 180.0} | NO_PLATE),
    "machine.plate.no_headroom": (SHELL, "tarn", {"plate.bed_c": 158.0},
                                  {"plate.bed_c": 157.0, "first_layer.bed_c": 157.0}),
    "machine.plate.reach_claimed": (
        SHELL, "tarn",
        {"machine.plate.heater.basis": "claimed", "plate.bed_c": 156.0},
        {"machine.plate.heater.basis": "rated", "plate.bed_c": 155.0, "first_layer.bed_c": 155.0},
    ),
    "machine.plate.magnet_limit": (GUIDE, "beck", {"plate.bed_c": 81.0}, {"plate.bed_c": 80.0}),
    "machine.plate.backing_limit": (
        SHELL, "tarn", {"machine.plate.backing.max_c": 150.0}, {"machine.plate.backing.max_c": 160.0}
    ),
    "machine.plate.above_glass_transition": (SHELL, "crag", {"plate.bed_c": 186.0}, {"plate.bed_c": 185.0}),
    "machine.plate.foot_sags": (SHELL, "crag", {"plate.bed_c": 196.0}, {"plate.bed_c": 195.0}),
    "machine.chamber.below_room": (GUIDE, "tarn", {"heat.chamber_c": 20.0}, {"heat.chamber_c": 21.0}),
    "machine.chamber.beyond_reach": (SHELL, "crag", {"heat.chamber_c": 176.0}, {"heat.chamber_c": 175.0}),
    "machine.chamber.below_window": (SHELL, "crag", {"heat.chamber_c": 124.0}, {"heat.chamber_c": 125.0}),
    "machine.chamber.above_window": (SHELL, "crag", {"heat.chamber_c": 166.0}, {"heat.chamber_c": 165.0}),
    "machine.chamber.no_headroom": (SHELL, "crag", {"heat.chamber_c": 173.0}, {"heat.chamber_c": 172.0}),
    "machine.chamber.reach_claimed": (
        CAGE, "tarn", {"machine.chamber.plastics.basis": "claimed", "heat.chamber_c": 80.0},
        {"machine.chamber.plastics.basis": "claimed", "heat.chamber_c": 70.0},
    ),
    "machine.chamber.parts_soften": (SHELL, "tarn", {"heat.chamber_c": 91.0}, {"heat.chamber_c": 90.0}),
    "machine.chamber.above_glass_transition": (
        CAGE, "crag", {"heat.chamber_c": 142.0}, {"heat.chamber_c": 141.0}
    ),
    "run.hours.layers": (SHELL, "tarn", {"brief.print_h": 14.0}, {"brief.print_h": 6.0}),
    "heat.pause.cold": (CLAMP, "tarn", {"supports.way": "coat", "melt.nozzle_c": 310.0, "heat.chamber_c": 88.0},
                        {"supports.way": "coat", "polymer": "petg", "melt.nozzle_c": 245.0, "heat.chamber_c": None}),
    "supports.place.unheld": (CLAMP, "tarn", {"supports.way": "none"}, {"supports.way": "none", "part.shape": ALONE}),
    "supports.place.no_reach": (CLAMP, "tarn", {"part.shape": saddle(reached=0.5)},
                                {"part.shape": saddle(reached=0.95)}),
    "supports.place.closed": (CLAMP, "tarn", {"part.shape": saddle(open=0.0)}, {"part.shape": saddle(open=1.0)}),
    "supports.place.left": (CLAMP, "tarn", {"part.decided": LEFT}, {"part.decided": (decision("drawn"),)}),
    "supports.place.gone": (CLAMP, "tarn", {"part.decided": LEFT, "part.shape": ALONE}, {"part.decided": LEFT}),
    "supports.way.needless": (CLAMP, "tarn", {"part.shape": ALONE}, {}),
    "supports.from.low": (CLAMP, "tarn", {"supports.from_deg": 34.0}, {"supports.from_deg": 35.0}),
    "supports.from.high": (CLAMP, "tarn", {"supports.from_deg": 90.0}, {"supports.from_deg": 51.0}),
    "supports.gap.fuses": (CLAMP, "tarn", {"supports.gap_mm": 0.1}, {"supports.gap_mm": 0.3}),
    "supports.gap.sags": (CLAMP, "tarn", {"supports.gap_mm": 1.5}, {"supports.gap_mm": 1.2}),
    "supports.gap.not_whole": (CLAMP, "tarn", {"supports.gap_mm": 0.5}, {"supports.gap_mm": 0.6}),
    "supports.pair.none": (CLAMP, "tarn", {"supports.way": "breakaway"},
                           {"supports.way": "breakaway", "supports.material": "sulfone"}),
    "supports.pair.one_feed": (CLAMP, "tarn", PVA | {"machine.two_feeds": False}, PVA),
    "supports.pair.nozzle": (CLAMP, "tarn", PVA, PVA | {"polymer": "pla", "melt.nozzle_c": 210.0}),
    "supports.pair.bad": (CLAMP, "tarn", PVA | {"polymer": "hips"}, PVA | {"polymer": "pla"}),
    "supports.pair.untried": (CLAMP, "tarn", PVA, PVA | {"polymer": "pla"}),
    "supports.pair.heat": (CLAMP, "tarn", PVA | {"polymer": "pla", "heat.chamber_c": 51.0},
                           PVA | {"polymer": "pla", "heat.chamber_c": 50.0}),
    "supports.bath.attacks": (CLAMP, "tarn", ON_ASA | {"polymer": "petg", "supports.material": "alkali_acrylic"},
                              ON_ASA | {"supports.material": "alkali_acrylic"}),
    "supports.bath.coupon": (CLAMP, "tarn", ON_ASA | {"supports.material": "hips"},
                             ON_ASA | {"supports.material": "alkali_acrylic"}),
    "supports.bath.softens": (CLAMP, "tarn", PVA | {"polymer": "pla", "supports.bath_c": 51.0},
                              PVA | {"polymer": "pla", "supports.bath_c": 45.0}),
    "supports.bath.small": (CLAMP, "tarn", PVA | {"polymer": "pla", "supports.bath_ml": 100.0},
                            PVA | {"polymer": "pla", "supports.bath_ml": 5000.0}),
    "supports.bath.full": (CLAMP, "tarn", ON_ASA | IN_TANK | {"baths/bath_t2": tank(taken_g=80.0)},
                           ON_ASA | IN_TANK | {"baths/bath_t2": tank(taken_g=0.0)}),
    "supports.bath.stale": (CLAMP, "tarn", ON_ASA | IN_TANK | {"baths/bath_t2": tank(mixed_utc="2026-01-30T08:00:00Z")},
                            ON_ASA | IN_TANK | {"baths/bath_t2": tank(mixed_utc="2026-02-01T08:00:00Z")}),
    "supports.bath.untold": (CLAMP, "tarn", ON_ASA | IN_TANK | {"baths/bath_t2": tank(washes=(Wash(part="lid"),))},
                             ON_ASA | IN_TANK | {"baths/bath_t2": tank(washes=(Wash(part="lid", supports_g=2.0),))}),
    "supports.bath.unnoted": (CLAMP, "tarn", ON_ASA | IN_TANK | {"baths/bath_t2": tank(mixed_utc="")},
                              ON_ASA | IN_TANK | {"baths/bath_t2": tank()}),
    "supports.bath.kept": (CLAMP, "tarn", ON_ASA | IN_TANK | {"baths/bath_t2": tank(warm_c=66.0)},
                           ON_ASA | IN_TANK | {"baths/bath_t2": tank(warm_c=64.0)}),
    "supports.bath.wrong": (CLAMP, "tarn", ON_ASA | IN_TANK | {"supports.material": "hips"}, ON_ASA | IN_TANK),
    "supports.foot.tips": (CLAMP, "tarn", {"plate.anchor": "ears", "part.shape": saddle(outline=slit(2.0))},
                           {"plate.anchor": "ears", "part.shape": saddle(outline=slit(8.0))}),
    "supports.skin.moved": (CLAMP, "tarn", {"part.decided": (decision("skin", layer_mm=0.2),)},
                            {"part.decided": (decision("skin", layer_mm=0.3),)}),
    "supports.residue.unseen": (CLAMP, "tarn", PVA | {"supports.contrast": False}, PVA | {"supports.contrast": True}),
    **{f"run.job.{key}": (CLAMP, "tarn", {path: off}, {path: same}) for key, path, off, same in (
        ("nozzle", "melt.nozzle_c", 305.0, 292.0), ("first_nozzle", "first_layer.nozzle_c", 290.0, 301.0),
        ("plate", "plate.bed_c", 110.0, 125.0), ("first_plate", "first_layer.bed_c", 120.0, 129.0),
        ("chamber", "heat.chamber_c", 60.0, 81.0), ("fan", "heat.fan_pct", 20.0, 4.0),
        ("layer", "melt.height_mm", 0.25, 0.3), ("first_layer", "first_layer.height_mm", 0.25, 0.3),
        ("first_speed", "first_layer.speed_mm_s", 30.0, 20.0), ("speed", "melt.speed_mm_s", 90.0, 62.0),
        ("bead", "melt.width_mm", 1.0, 0.7), ("mass", "brief.mass_g", 90.0, 48.0),
        ("hours", "brief.print_h", 3.5, 0.9),
    )},
    "run.job.unhomed": (CLAMP, "tarn", {"job.is_homed": False}, {"job.is_homed": True}),
    "run.job.moved": (CLAMP, "tarn", {"machine.corner_mm_s": 20.0}, {"machine.corner_mm_s": 9.0}),
    "run.job.unheated": (CLAMP, "tarn", {"job.chamber_c": None}, {"job.chamber_c": 80.0}),
    "run.matter.danger": (CLAMP, "tarn", left("heater_fault"), left("heater_fault", **closed("heater_fault"))),
    "run.matter.open": (CLAMP, "tarn", left("stuck"), left("stuck", **closed("stuck"))),
    "run.job.size": (CLAMP, "tarn", {"machine.travel_x_mm": 50.0}, {}),
    "run.job.tools": (CLAMP, "tarn", {"job.filament_mm": {"0": 900.0, "1": 50.0}, "machine.two_feeds": None},
                      {"job.filament_mm": {"0": 900.0, "1": 50.0}, "machine.two_feeds": True}),
    "run.job.pauses": (CLAMP, "tarn", {"supports.way": "coat"}, {"supports.way": "grid"}),
    "run.job.words": (CLAMP, "tarn", {}, {"job.unknown": {}}),
    "run.day.alone": (CLAMP, "tarn", {"rules.staffed_from_h": 10.0}, {}),
    "run.day.nobody": (CLAMP, "tarn", {"rules.staffed_days": 0.0}, {}),
    "run.day.timer": (CLAMP, "tarn", {"machine.timer_h": 1.0}, {"machine.timer_h": 8.0}),
    "run.day.timer_tight": (CLAMP, "tarn", {"machine.timer_h": 2.0}, {"machine.timer_h": 8.0}),
    "run.value.outside": (CLAMP, "tarn", {"job.nozzle_c": 1500.0}, {}),
    "release.shut.long": (CLAMP, "tarn", ON_NYLON, ON_NYLON | {"plate.bed_c": 60.0, "heat.chamber_c": None}),
    "release.shut.never": (CLAMP, "tarn", ON_NYLON | {"rules.room_c": 46.0}, ON_NYLON),
    "release.door.cracks": (SHELL, "tarn", {}, {"plate.release": "hot"}),
    "release.hot.alone": (BRACKET, "gill", {"plate.release": "hot", "rules.staffed_days": 0.0},
                          {"plate.release": "hot", "brief.print_h": 2.0}),
    "release.trend.harder": (CLAMP, "tarn", off_runs("let_go", "easy", "easy", "hard", "hard", "stuck"),
                             off_runs("let_go", "easy", "hard", "let_go", "hard", "easy")),
    "release.trend.looser": (CLAMP, "tarn", off_runs("stuck", "hard", "hard", "easy", "easy", "let_go"),
                             off_runs("hard", "easy", "let_go", "hard", "easy")),
    "anneal.hold.cold": (BLADE, "crag", {"anneal.steps": at_holds(100.0, 150.0)}, {}),
    "anneal.hold.hot": (BLADE, "crag", {"anneal.steps": at_holds(150.0, 180.0)}, {}),
    "anneal.hold.lost": (BLADE, "crag", {"anneal.steps": at_holds(150.0, 190.0)},
                         {"anneal.steps": at_holds(150.0, 180.0)}),
    "anneal.hold.hurried": (RING, "crag", {}, {"anneal.steps.1.hold_h": 4.0}),
    "anneal.hold.short": (BLADE, "crag", {"anneal.steps": at_holds(150.0, 168.0, hours=5.0)},
                          {"anneal.steps": at_holds(150.0, 175.0, hours=30.0)}),
    "anneal.ramp.steep": (RING, "crag", {"anneal.steps.1.ramp_k_h": None, "oven.rise_k_h": 280.0},
                          {"anneal.steps.0.ramp_k_h": 30.0, "anneal.steps.1.ramp_k_h": 30.0}),
    "anneal.cool.steep": (RING, "crag", {}, {"anneal.cool_k_h": 30.0}),
    "anneal.out.hot": (RING, "crag", {"anneal.out_c": 120.0}, {}),
    "anneal.reach.short": (RING, "crag", {"anneal.where": "machine"}, {}),
    "anneal.reach.small": (BLADE, "crag", {f"oven.size_{axis}_mm": 100.0 for axis in "xyz"}, {}),
    "anneal.support.soft": (RING, "crag", {"polymer": "pekk_a", "context.lot": None, "anneal.packed": "free"},
                            {"polymer": "pekk_a", "context.lot": None, "anneal.packed": "sand"}),
    "anneal.state.unsaid": (RING, "crag", {"brief.history": "as_printed"}, {}),
    "anneal.state.dry": (BRACKET, "gill", {"anneal.steps": at_holds(60.0, 100.0), "anneal.wall_mm": 6.0},
                         {"anneal.steps": at_holds(60.0, 100.0), "anneal.wall_mm": 6.0, "brief.moisture": "dry"}),
    "anneal.part.wet": (RING, "crag", {"supports.way": "soluble"}, {"supports.way": "none"}),
    "anneal.air.browns": (BRACKET, "gill", {"anneal.steps": at_holds(80.0, 130.0)},
                          {"anneal.steps": at_holds(80.0, 105.0)}),
    "anneal.size.doubt": (RING, "crag", {"brief.purpose": "fit_check", "context.part": None}, {"context.part": None}),
    "anneal.load.short": (RING, "crag", {}, {"loads/load_03/retired": True}),
    "anneal.load.unread": (RING, "crag", {"loads/load_03/sensors": (), "loads/load_03/grown": ()}, {}),
    "anneal.load.bad": (BLADE, "crag", {"loads/load_02/outcome": "cracked", "anneal.steps": BLADE_STEEP,
                                        "loads/load_02/steps": BLADE_STEEP, "anneal.wall_mm": 30.0},
                        {"loads/load_02/outcome": "cracked"}),
    "anneal.glue.untested": (CLAMP, "tarn", {"brief.glued": True}, {}),
    "anneal.glue.weak": (CLAMP, "tarn", {"brief.glued": True, "anneal.joint_mpa": 4.0, "anneal.joint_wanted_mpa": 3.0},
                         {"brief.glued": True, "anneal.joint_mpa": 8.0, "anneal.joint_wanted_mpa": 3.0}),
    "anneal.paint.untested": (COVER, "gill", {"anneal.patch": None}, {}),
    "anneal.bush.open": (BRACKET, "gill", {"anneal.cure_h": None}, {}),
    "anneal.value.outside": (RING, "crag", {"anneal.wall_mm": 900.0}, {}),
    "proof.runs.few": (SHELL, "tarn", good_runs(SHELL, "tarn", "tall"), {}),
    "proof.runs.one_shape": (SHELL, "tarn", good_runs(SHELL, "tarn", "tall", "tall", "tall"),
                             good_runs(SHELL, "tarn", "tall", "flat", "tall")),
    "proof.across.unmeasured": (SHELL, "tarn", good_runs(SHELL, "tarn", "tall"),
                                good_runs(SHELL, "tarn", "tall") | {"brief.load_across": False}),
    "proof.across.few": (COVER, "gill", {"proofs/pull_cover/rows": rows_of("pull_cover")[:5]}, {}),
    "proof.across.unkept": (COVER, "gill", {}, measured("across", "gill", "lot_a190", ratio=0.5)),
    "proof.size.out": (CLAMP, "tarn", {}, {f"proofs/size_clamp/{field}": words for field, words in ACCEPTED.items()}),
    "proof.size.holes": (CLAMP, "tarn", {}, {"part.hole_error_mm": 0.18}),
    "proof.warp.out": (CLAMP, "tarn", {"part.flat_mm": 0.2, "proofs/size_clamp/rows": LIFTED},
                       {"part.flat_mm": 0.5, "proofs/size_clamp/rows": LIFTED}),
    "proof.lot.new": (COVER, "gill", good_runs(COVER, "gill", "shell", lot="lot_g310") | NO_COUPON,
                      good_runs(COVER, "gill", "shell", lot="lot_a190") | NO_COUPON),
    "proof.machine.changed": (COVER, "gill", good_runs(COVER, "gill", "shell") | {"machine.changes": CHANGED},
                              good_runs(COVER, "gill", "shell")),
    "proof.look.nozzle": (CLAMP, "tarn", {"nozzle.inspections": ()}, {"nozzle.inspections": (LOOKED,)}),
    "proof.ladder.skips": (SHELL, "tarn", {}, {"brief.print_h": 1.0}),
    "proof.dead_end.near": (RING, "crag", {"melt.nozzle_c": 402.0, "heat.chamber_c": 95.0}, {}),
    "proof.coupon.drifted": (COVER, "gill", {"proofs/tone_3/rows": softer("tone_3", 500.0)}, {}),
    "proof.service.short": (COVER, "gill", {"services/cover_1/ended": "brittle", "services/cover_1/out_utc":
                                            "2025-02-02T08:00:00Z", "brief.service_h": 9000.0},
                            {"services/cover_1/ended": "brittle", "services/cover_1/out_utc": "2025-02-02T08:00:00Z",
                             "brief.service_h": 100.0}),
    "proof.value.outside": (CLAMP, "tarn", {"part.flat_mm": 2e5}, {}),
    "release.value.outside": (CLAMP, "tarn", {"plate.size_x_mm": 2e5}, {}),
    "supports.value.outside": (CLAMP, "tarn", {"supports.gap_mm": 6.0}, {"supports.gap_mm": 5.0}),
    "supports.scar.matters": (CLAMP, "tarn", {"part.sides": "sealing"}, {"part.sides": "free"}),
}  # fmt: skip


def by_recipe(case):
    """Sorts cases of one recipe beside each other: what they share was judged just before."""
    code, (card, machine, *_) = case
    return card, str(machine), code.split(".")[0]
