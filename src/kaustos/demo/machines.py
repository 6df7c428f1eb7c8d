"""The made-up machines of the firm, of unequal reach."""

from datetime import datetime, timedelta
from typing import Any

import attrs

from kaustos.core.records import (
    Calibration,
    Enclosure,
    GapOffset,
    HeatStep,
    Layer,
    Machine,
    NearPart,
    PanelField,
    Part,
    PartChange,
    PassivePart,
    ProbeGrid,
    ProbePoint,
)
from kaustos.core.records.machine import ChamberZone, HeaterPart, NozzleZone, PlateZone, SensorPart

NONE = PassivePart(fitted=False)
NO_PART = Part(fitted=False)


def _part(max_c: float, basis: str = "rated", *, fitted: bool = True) -> Part:
    return Part(fitted=fitted, max_c=max_c, basis=basis)


def _heater(max_c: float, basis: str, power_w: float, volts: float = 24.0, *, fitted: bool = True,
            **more: Any) -> HeaterPart:  # fmt: skip
    return HeaterPart(fitted=fitted, max_c=max_c, basis=basis, power_w=power_w, volts=volts, **more)


def _sensor(max_c: float, kind: str) -> SensorPart:
    return SensorPart(fitted=True, max_c=max_c, basis="rated", kind=kind, table=kind)


NO_SENSOR = SensorPart(fitted=False)


def _passive(max_c: float, basis: str, price: float) -> PassivePart:
    return PassivePart(fitted=True, max_c=max_c, basis=basis, price=price)


def _panel(step: float, *fields: tuple[str, str, float]) -> tuple[PanelField, ...]:
    return tuple(PanelField(path=path, label=label, low=0.0, high=high, step=step) for path, label, high in fields)


TARN = Machine(
    id="tarn",
    name="Tarn",
    nozzle=NozzleZone(
        heater=_heater(420.0, "proven", 80.0, rated_c=450.0, claimed_c=450.0),
        sensor=_sensor(410.0, "pt1000"),
        firmware=_part(400.0),
        liner=NONE,
    ),
    plate=PlateZone(
        heater=_heater(160.0, "proven", 900.0, 230.0, rated_c=180.0, claimed_c=180.0),
        sensor=_sensor(165.0, "ntc"),
        firmware=_part(170.0),
        magnet=NONE,
        backing=_passive(180.0, "claimed", 35.0),
    ),
    chamber=ChamberZone(
        heater=_heater(110.0, "claimed", 500.0, 230.0, rated_c=120.0, claimed_c=110.0),
        sensor=_sensor(120.0, "ntc"),
        firmware=_part(105.0),
        plastics=_passive(90.0, "rated", 80.0),
        electronics=NONE,
    ),
    travel_x_mm=320.0,
    travel_y_mm=320.0,
    travel_z_mm=400.0,
    accel_mm_s2=1200.0,
    corner_mm_s=8.0,
    enclosure=Enclosure(
        kind="heated",
        inner_x_mm=560.0,
        inner_y_mm=520.0,
        inner_z_mm=620.0,
        wall="insulated",
        insulation_mm=0.0,
        frame_kg=22.0,
        fan=True,
    ),
    stack=(
        Layer(material="aluminium", thickness_mm=6.0, loose=False),
        Layer(material="magnet", thickness_mm=1.5, loose=False),
        Layer(material="steel", thickness_mm=0.5, loose=True),
        Layer(material="polymer", thickness_mm=0.15, loose=False),
    ),
    screw_pitch_mm=0.5,
    panel_letters=16.0,
    panel_fields=_panel(
        1.0,
        ("first_layer.bed_c", "BASE 1", 170.0),
        ("plate.bed_c", "BASE", 170.0),
        ("first_layer.nozzle_c", "TIP 1", 400.0),
        ("melt.nozzle_c", "TIP", 400.0),
        ("heat.chamber_c", "AIR", 130.0),
    ),
    geared=True,
    two_feeds=False,
    tube_mm=0.0,
    melt_zone_mm=20.0,
    site="workshop",
    extraction="filter",
    near=(NearPart(name="Cooling duct", place="nozzle", softens_c=215.0, clearance_mm=6.0, printed=False),),
    feeds="1.75",
    power_w=900.0,
    rate_per_h=4.0,
    timer_h=0.0,
)
CRAG = Machine(
    id="crag",
    name="Crag",
    nozzle=NozzleZone(
        heater=_heater(450.0, "proven", 100.0, 48.0, rated_c=480.0),
        sensor=_sensor(450.0, "pt1000"),
        firmware=_part(440.0),
        liner=NONE,
    ),
    plate=PlateZone(
        heater=_heater(210.0, "proven", 1200.0, 230.0, rated_c=220.0),
        sensor=_sensor(250.0, "pt1000"),
        firmware=_part(200.0),
        magnet=NONE,
        backing=NONE,
    ),
    chamber=ChamberZone(
        heater=_heater(175.0, "proven", 1000.0, 230.0, rated_c=180.0, claimed_c=200.0),
        sensor=_sensor(180.0, "pt1000"),
        firmware=_part(190.0),
        plastics=NONE,
        electronics=NONE,
    ),
    travel_x_mm=300.0,
    travel_y_mm=250.0,
    travel_z_mm=280.0,
    enclosure=Enclosure(
        kind="heated",
        inner_x_mm=700.0,
        inner_y_mm=620.0,
        inner_z_mm=650.0,
        wall="insulated",
        insulation_mm=40.0,
        frame_kg=45.0,
        fan=True,
    ),
    stack=(
        Layer(material="aluminium", thickness_mm=8.0, loose=False),
        Layer(material="glass", thickness_mm=4.0, loose=True),
    ),
    geared=True,
    two_feeds=True,
    tube_mm=0.0,
    melt_zone_mm=16.0,
    push_n=55.0,
    site="workshop",
    extraction="outdoors",
    near=(NearPart(name="Cable clip", place="chamber", softens_c=215.0, clearance_mm=40.0, printed=True),),
    feeds="1.75",
    power_w=2400.0,
    rate_per_h=11.0,
    timer_h=48.0,
)
BECK = Machine(
    id="beck",
    name="Old Beck",
    nozzle=NozzleZone(
        heater=_heater(280.0, "rated", 40.0, 12.0, rated_c=280.0, claimed_c=300.0),
        sensor=_sensor(280.0, "ntc"),
        firmware=_part(275.0),
        liner=_passive(260.0, "rated", 12.0),
    ),
    plate=PlateZone(
        heater=_heater(100.0, "proven", 220.0, 12.0),
        sensor=_sensor(150.0, "ntc"),
        firmware=_part(110.0),
        magnet=_passive(80.0, "rated", 18.0),
        backing=PassivePart(),
    ),
    chamber=ChamberZone(
        heater=_heater(32.0, "proven", 0.0, 0.0, fitted=False),
        sensor=NO_SENSOR,
        firmware=NO_PART,
        plastics=_passive(65.0, "rated", 20.0),
        electronics=_passive(70.0, "rated", 60.0),
    ),
    travel_x_mm=220.0,
    travel_y_mm=220.0,
    travel_z_mm=240.0,
    enclosure=Enclosure(kind="open"),
    stack=(
        Layer(material="aluminium", thickness_mm=3.0, loose=False),
        Layer(material="glass", thickness_mm=4.0, loose=True),
    ),
    geared=False,
    two_feeds=False,
    tube_mm=420.0,
    melt_zone_mm=12.0,
    site="office",
    extraction="none",
    near=(
        NearPart(
            name="Cooling duct",
            place="nozzle",
            softens_c=100.0,
            clearance_mm=9.0,
            printed=False,
            incident="corner drooped after a hot trial, 2025-10",
        ),
        NearPart(name="Probe mount", place="nozzle", softens_c=75.0, clearance_mm=28.0, printed=True),
    ),
    feeds="1.75",
    power_w=180.0,
    rate_per_h=1.5,
)
GILL = Machine(
    id="gill",
    name="Gill",
    nozzle=NozzleZone(
        heater=_heater(310.0, "proven", 60.0), sensor=_sensor(320.0, "pt1000"), firmware=_part(300.0), liner=NONE
    ),
    plate=PlateZone(
        heater=_heater(118.0, "proven", 350.0, rated_c=110.0, claimed_c=120.0),
        sensor=_sensor(150.0, "ntc"),
        firmware=_part(120.0),
        magnet=_passive(110.0, "rated", 25.0),
        backing=_passive(130.0, "rated", 30.0),
    ),
    chamber=ChamberZone(
        heater=_heater(48.0, "proven", 0.0, 0.0, fitted=False),
        sensor=_sensor(100.0, "ntc"),
        firmware=NO_PART,
        plastics=_passive(70.0, "rated", 60.0),
        electronics=NONE,
    ),
    travel_x_mm=250.0,
    travel_y_mm=210.0,
    travel_z_mm=210.0,
    enclosure=Enclosure(
        kind="box",
        inner_x_mm=480.0,
        inner_y_mm=430.0,
        inner_z_mm=500.0,
        wall="pane",
        insulation_mm=0.0,
        frame_kg=9.0,
        fan=False,
    ),
    stack=(
        Layer(material="aluminium", thickness_mm=4.0, loose=False),
        Layer(material="magnet", thickness_mm=1.2, loose=False),
        Layer(material="laminate", thickness_mm=1.5, loose=True),
    ),
    screw_pitch_mm=0.7,
    panel_letters=8.0,
    panel_fields=_panel(
        5.0,
        ("first_layer.bed_c", "BED START", 120.0),
        ("plate.bed_c", "BED HEAT", 120.0),
        ("first_layer.nozzle_c", "HEAD START", 300.0),
        ("melt.nozzle_c", "HEAD HEAT", 300.0),
    ),
    geared=True,
    two_feeds=True,
    tube_mm=300.0,
    site="workshop",
    extraction="carbon",
    near=(NearPart(name="Cooling duct", place="nozzle", softens_c=145.0, clearance_mm=8.0, printed=True),),
    feeds="1.75",
    power_w=320.0,
    rate_per_h=2.5,
    timer_h=24.0,
)
MACHINES = (TARN, CRAG, BECK, GILL)
_STEPS = (  # machine, days ago, zone, set, reached, minutes, seen, verdict
    ("tarn", 140.0, "nozzle", 375.0, 376.0, 5.0, "nothing", "go"),
    ("tarn", 140.0, "nozzle", 420.0, 420.0, 7.0, "nothing", "go"),
    ("crag", 200.0, "nozzle", 400.0, 399.0, 6.0, "nothing", "go"),
    ("crag", 200.0, "nozzle", 450.0, 450.0, 9.0, "nothing", "go"),
    ("crag", 199.0, "plate", 210.0, 210.0, 26.0, "nothing", "go"),
    ("crag", 199.0, "chamber", 150.0, 149.0, 48.0, "smell", "go"),
    ("crag", 198.0, "chamber", 175.0, 175.0, 71.0, "nothing", "go"),
    ("tarn", 139.0, "chamber", 70.0, 70.0, 35.0, "nothing", "go"),
    ("tarn", 139.0, "chamber", 90.0, 90.0, 62.0, "nothing", "go"),
    ("gill", 100.0, "plate", 100.0, 99.0, 9.0, "nothing", "go"),
    ("gill", 100.0, "plate", 120.0, 118.0, 21.0, "short", "go"),
)
_CHANGES = (  # machine, days ago, part, was, now, why
    ("beck", 21.0, "head", "liner, brown at its end", "new liner", "smelled during a trial"),
    ("tarn", 60.0, "plate_stack", "sheet on glass", "sheet on steel", "glass chipped"),
)
_CALIBRATIONS = (  # machine, days ago, kind, true less shown
    ("tarn", 50.0, "nozzle_offset", -4.0),
    ("tarn", 90.0, "plate_offset", -6.0),
    ("crag", 45.0, "nozzle_offset", 2.0),
    ("crag", 45.0, "chamber_offset", 1.0),
    ("gill", 30.0, "nozzle_offset", 3.0),
    ("beck", 40.0, "nozzle_offset", -9.0),
)


_MEASURED = (  # machine, days ago, kind, lot, what was found with it
    ("tarn", 9.0, "multiplier", "lot_h117", {"multiplier": 0.96, "half": 0.012}),
    ("crag", 30.0, "multiplier", "lot_h117", {"multiplier": 1.0, "half": 0.015}),
    ("crag", 35.0, "multiplier", "lot_k008", {"multiplier": 1.02, "half": 0.02}),
    ("tarn", 8.0, "ladder", "lot_h117", {"best_c": 366.0, "low_c": 357.0, "high_c": 375.0}),
    ("crag", 29.0, "ladder", "lot_h117", {"best_c": 371.0, "low_c": 362.0, "high_c": 380.0}),
)


_GRIDS = (  # machine, days ago, plate, heights row by row from the front
    ("tarn", 12.0, 155.0, ((0.02, 0.00, 0.01), (0.03, -0.02, 0.02), (0.05, 0.02, 0.04))),
    ("crag", 20.0, 150.0, ((0.00, 0.01, 0.02), (0.01, 0.01, 0.03), (0.02, 0.02, 0.03))),
    ("gill", 5.0, 90.0, ((0.01, 0.03, 0.02), (0.04, 0.02, 0.01), (0.03, 0.05, 0.04))),
    ("beck", 9.0, 25.0, ((-0.21, -0.12, 0.02), (-0.10, 0.04, 0.12), (0.03, 0.15, 0.22))),
)
_OFFSETS = (  # machine, days ago, offset
    ("tarn", 40.0, -1.82), ("tarn", 12.0, -1.80), ("gill", 30.0, -0.95), ("gill", 5.0, -0.91),
)  # fmt: skip


def _grid(machine: Machine, heights: tuple[tuple[float, ...], ...]) -> tuple[ProbePoint, ...]:
    wide, deep = machine.travel_x_mm or 200.0, machine.travel_y_mm or 200.0
    return tuple(
        ProbePoint(x_mm=20.0 + (wide - 40.0) * column / 2.0, y_mm=20.0 + (deep - 40.0) * row / 2.0, z_mm=height)
        for row, line in enumerate(heights)
        for column, height in enumerate(line)
    )


def _ago(now: datetime, days: float) -> str:
    return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")


def machines_at(now: datetime) -> dict[str, Machine]:
    """The machines with what was changed and proven, dated before a moment."""
    return {
        each.id: attrs.evolve(
            each,
            heat_steps=tuple(
                HeatStep(at_utc=_ago(now, days), zone=zone, setpoint_c=asked, reached_c=came, minutes=minutes,
                         seen=seen, verdict=verdict, sensor="thermocouple 2", by="M. Thwaite")
                for key, days, zone, asked, came, minutes, seen, verdict in _STEPS if key == each.id
            ),
            grids=tuple(
                ProbeGrid(at_utc=_ago(now, days), plate_c=plate, soaked_min=20.0, by="R. Askew",
                          points=_grid(each, heights))
                for key, days, plate, heights in _GRIDS if key == each.id
            ),
            offsets=tuple(
                GapOffset(at_utc=_ago(now, days), offset_mm=offset, by="R. Askew")
                for key, days, offset in _OFFSETS if key == each.id
            ),
            changes=tuple(
                PartChange(at_utc=_ago(now, days), part=part, was=was, now=new, why=why, by="R. Askew")
                for key, days, part, was, new, why in _CHANGES if key == each.id
            ),
        )
        for each in MACHINES
    }  # fmt: skip


def calibrations_at(now: datetime) -> dict[str, Calibration]:
    """What was calibrated on them, dated before a moment."""
    found: dict[str, Any] = {
        f"{machine}_{kind}": Calibration(
            id=f"{machine}_{kind}", machine=machine, kind=kind, values={"offset_k": offset, "spread_k": 2.0},
            done_utc=_ago(now, days), sensor="thermocouple 2", by="M. Thwaite",
        )
        for machine, days, kind, offset in _CALIBRATIONS
    }  # fmt: skip
    measured = {
        f"{machine}_{kind}_{lot}": Calibration(
            id=f"{machine}_{kind}_{lot}", machine=machine, kind=kind, lot=lot, values=values,
            done_utc=_ago(now, days), sensor="caliper" if kind == "multiplier" else "by eye and hand", by="R. Askew",
        )
        for machine, days, kind, lot, values in _MEASURED
    }  # fmt: skip
    return found | measured
