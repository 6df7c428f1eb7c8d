"""The made-up recipes of the firm."""

from typing import Any

from kaustos.core.records import AnnealStep, Recipe, card_of
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.records.recipe import Anneal, Brief, FirstLayer, Heat, Melt, Plate, Stock, Supports

_UNWORKED: dict[str, Any] = dict.fromkeys(HANDLINGS, False)  # nothing is done with it afterwards


def _setpoints(
    plate: float,
    first_plate: float,
    nozzle: float,
    first_nozzle: float,
    chamber: float | None,
    dryer: float,
    hours: float,
    wait: tuple[float, str | None] | None = None,
    bond: dict[str, Any] | None = None,
    first: dict[str, Any] | None = None,
    filled: float | None = None,
    laid: dict[str, Any] | None = None,
    air: dict[str, Any] | None = None,
) -> dict[str, object]:
    wait_h, wait_in = wait or (None, None)
    return {
        "stock": Stock(dryer_c=dryer, dryer_h=hours, wait_h=wait_h, wait_in=wait_in),
        "plate": Plate(bed_c=plate, **(bond or {})),
        "first_layer": FirstLayer(bed_c=first_plate, nozzle_c=first_nozzle, **(first or {})),
        "melt": Melt(nozzle_c=nozzle, infill_pct=filled, **(laid or {})),
        "heat": Heat(chamber_c=chamber, **(air or {})),
    }


def _bond(anchor: str, width_mm: float | None, release: str, **more: float) -> dict[str, Any]:
    usual = {"copies": 1.0, "clips": 0.0, "apart_mm": 2.0}
    return {"anchor": anchor, "brim_mm": width_mm, "release": release, **usual, **more}


def _laid(
    width_mm: float, height_mm: float, speed_mm_s: float, walls: float, times: float | None = 1.0
) -> dict[str, Any]:
    return {"width_mm": width_mm, "height_mm": height_mm, "speed_mm_s": speed_mm_s, "walls": walls,
            "multiplier": times, "pause_min": 0.0}  # fmt: skip


def _air(fan_pct: float | None, soak_min: float | None, least_s: float | None = 0.0) -> dict[str, Any]:
    return {"fan_pct": fan_pct, "soak_min": soak_min, "least_layer_s": least_s}


def _layer(height_mm: float, width_mm: float, speed_mm_s: float, who: str = "M. Thwaite") -> dict[str, Any]:
    return {"height_mm": height_mm, "gap_mm": height_mm, "width_mm": width_mm, "speed_mm_s": speed_mm_s,
            "slow_layers": 2.0, "look_by": who}  # fmt: skip


def _recipe(name: str, part: str, polymer: str, brief: Brief, setpoints: dict[str, object], **more: object) -> Recipe:
    return Recipe(name=name, part=part, polymer=polymer, brief=brief, **setpoints, **more)  # type: ignore[arg-type]


SHELL = _recipe(
    "Probe head shell", "Logging probe head, 62 mm", "pei_pc_blend",
    Brief(
        purpose="loaded", character="stiff", service_c=135.0, service_h=8.0, margin_k=20.0, stress_mpa=0.4,
        history="as_printed", moisture="dry",
        load_across=True, outdoor=False, chemical="oils", clear=False, look="any",
        **_UNWORKED,
        size_x_mm=62.0, size_y_mm=62.0, size_z_mm=180.0,
        mass_g=162.0, print_h=5.8, runs=2.0,
    ),
    _setpoints(158.0, 160.0, 365.0, 370.0, 125.0, 120.0, 6.0, (2.0, "dry_box"),
               _bond("none", None, "cold", coats=1.0, clips=4.0),
               _layer(0.3, 0.6, 18.0), 40.0, _laid(0.72, 0.3, 40.0, 4.0, 0.96), _air(0.0, 60.0, 12.0)),
)  # fmt: skip
BLADE = _recipe(
    "Centraliser blade", "Centraliser blade, set of 3", "pei_pc_blend",
    Brief(
        purpose="safety", character="stiff", service_c=125.0, margin_k=15.0, service_h=24.0, stress_mpa=1.2,
        history="annealed", moisture="dry",
        load_across=True, outdoor=False, chemical="oils", clear=False, look="any",
        **_UNWORKED,
        size_x_mm=140.0, size_y_mm=60.0, size_z_mm=24.0,
        mass_g=231.0, print_h=7.5, runs=1.0,
    ),
    _setpoints(172.0, 176.0, 372.0, 375.0, 150.0, 135.0, 6.0, (12.0, "sealed"), _bond("brim", 5.0, "cold", clips=6.0),
               _layer(0.25, 0.5, 15.0), 100.0, _laid(0.76, 0.2, 60.0, 4.0), _air(0.0, 90.0)),
    anneal=Anneal(
        steps=(AnnealStep(temperature_c=150.0, hold_h=2.0, ramp_k_h=60.0),
               AnnealStep(temperature_c=170.0, hold_h=4.0, ramp_k_h=30.0)),
        where="oven", packed="free", wall_mm=8.0, cool_k_h=45.0, out_c=60.0,
    ),
)  # fmt: skip
CAGE = _recipe(
    "Sensor cage", "Cage for the pressure sensor", "pc",
    Brief(
        purpose="tool", character="stiff", service_c=118.0, service_h=40.0, margin_k=20.0, stress_mpa=0.3,
        history="as_printed", moisture="conditioned",
        load_across=False, outdoor=False, chemical="none", clear=False, look="any",
        **_UNWORKED,
        size_x_mm=70.0, size_y_mm=70.0, size_z_mm=90.0,
        mass_g=64.0, print_h=2.5, runs=6.0,
    ),
    _setpoints(120.0, 125.0, 288.0, 290.0, 88.0, 105.0, 5.0, None,
               _bond("skirt", None, "flex"), _layer(0.25, 0.5, 20.0), 40.0,
               _laid(0.72, 0.25, 50.0, 3.0), _air(0.0, 30.0)),
    supports=Supports(way="branches", from_deg=45.0, gap_mm=0.5, filled_pct=12.0),
)  # fmt: skip
GUIDE = _recipe(
    "Cable guide", "Guide for the winch cable", "petg",
    Brief(
        purpose="prototype", character="tough", service_c=45.0, service_h=200.0, margin_k=10.0, stress_mpa=0.4,
        history="as_printed",
        moisture="conditioned", outdoor=False, chemical="none", clear=True,
        **_UNWORKED, mass_g=38.0, runs=4.0,
    ),
    _setpoints(72.0, 75.0, 242.0, 245.0, None, 62.0, 24.0, None,
               _bond("skirt", None, "flex"), _layer(0.2, 0.45, 25.0, ""), 20.0,
               _laid(0.45, 0.2, 60.0, 3.0, None), _air(None, None, None)),
    supports=Supports(way="none"),
)  # fmt: skip
RING = _recipe(
    "Packer back-up ring", "Back-up ring, 88 mm", "peek",
    Brief(
        purpose="loaded", character="stiff", service_c=120.0, service_h=72.0, margin_k=20.0, stress_mpa=1.5,
        history="annealed", moisture="dry",
        load_across=False, outdoor=False, chemical="acids", clear=False, look="any",
        **_UNWORKED,
        size_x_mm=88.0, size_y_mm=88.0, size_z_mm=14.0,
        mass_g=140.0, print_h=7.0, runs=5.0,
    ),
    _setpoints(150.0, 155.0, 415.0, 420.0, 140.0, 140.0, 5.0, None,
               _bond("brim", 6.0, "cold", coats=2.0, copies=3.0), _layer(0.25, 0.5, 12.0, "R. Askew"),
               100.0, _laid(0.6, 0.2, 50.0, 4.0, 1.02), _air(0.0, 120.0)),
    anneal=Anneal(
        steps=(AnnealStep(temperature_c=150.0, hold_h=1.0, ramp_k_h=60.0),
               AnnealStep(temperature_c=200.0, hold_h=3.0, ramp_k_h=60.0)),
        where="oven", packed="jig", pack_mm=5.0, wall_mm=14.0, cool_k_h=120.0, out_c=60.0,
    ),
)  # fmt: skip
VANE = _recipe(
    "Turbine vane", "Flow-meter vane, 40 mm", "pps_cf",
    Brief(
        purpose="loaded", character="stiff", service_c=140.0, service_h=400.0, margin_k=20.0, stress_mpa=1.0,
        history="annealed", moisture="conditioned",
        load_across=True, outdoor=False, chemical="hot_water", clear=False, look="matt",
        **_UNWORKED,
        size_x_mm=40.0, size_y_mm=40.0, size_z_mm=30.0,
        mass_g=22.0, print_h=1.3, runs=24.0,
    ),
    _setpoints(125.0, 130.0, 335.0, 338.0, 110.0, 120.0, 4.0, None,
               _bond("brim", 4.0, "cold", coats=1.0, copies=4.0), _layer(0.3, 0.6, 15.0),
               100.0, _laid(0.6, 0.2, 45.0, 3.0), _air(0.0, 60.0)),
    supports=Supports(way="none"),
)  # fmt: skip
BRACKET = _recipe(
    "Winch bracket", "Bracket for the cable winch", "pa_cf",
    Brief(
        purpose="tool", character="stiff", service_c=60.0, margin_k=25.0, service_h=2000.0, stress_mpa=1.2,
        history="as_printed", moisture="conditioned",
        load_across=False, outdoor=False, chemical="oils", clear=False, look="matt",
        **_UNWORKED | {"inserts": True},
        why="Stiff when damp, and the shop has welded it before",
        rejected="PETG: creeps in the sun on the winch; PC: cracked round the bushes in the last bracket",
        size_x_mm=180.0, size_y_mm=90.0, size_z_mm=44.0,
        mass_g=310.0, print_h=9.0, runs=1.0,
    ),
    _setpoints(95.0, 95.0, 285.0, 285.0, None, 80.0, 12.0, (0.0, None),
               _bond("brim", 8.0, "cold", coats=1.0, clips=4.0),
               _layer(0.3, 0.6, 20.0), 35.0, _laid(0.8, 0.35, 45.0, 3.0), _air(0.0, 60.0)),
    supports=Supports(way="grid", from_deg=45.0, gap_mm=0.7, filled_pct=15.0),
    anneal=Anneal(cure_h=0.0, wall_mm=6.0),
)  # fmt: skip
CLAMP = _recipe(
    "Cable clamp", "Clamp, split, 12 mm cable", "pc_cf",
    Brief(
        purpose="tool", character="stiff", service_c=90.0, service_h=500.0, margin_k=20.0, stress_mpa=1.6,
        history="as_printed", moisture="dry",
        load_across=True, outdoor=False, chemical="none", clear=False, look="matt",
        **_UNWORKED,
        size_x_mm=60.0, size_y_mm=40.0, size_z_mm=28.0,
        mass_g=45.0, print_h=3.5, runs=12.0,
    ),
    _setpoints(125.0, 128.0, 298.0, 300.0, 80.0, 110.0, 4.0, (14.0, "open"),
               _bond("brim", 5.0, "flex"), _layer(0.3, 0.6, 18.0), 60.0, _laid(0.72, 0.3, 60.0, 3.0), _air(0.0, 30.0)),
    supports=Supports(way="grid", from_deg=30.0, gap_mm=0.6, filled_pct=15.0),
)  # fmt: skip
COVER = _recipe(
    "Wellhead cover", "Rain cover of the wellhead box", "asa",
    Brief(
        purpose="outdoor", character="tough", service_c=55.0, margin_k=20.0, service_h=300.0, stress_mpa=0.4,
        history="as_printed", moisture="conditioned",
        load_across=False, outdoor=True, chemical="none", clear=False, look="any",
        **_UNWORKED | {"painted": True, "glued": True},
        size_x_mm=200.0, size_y_mm=160.0, size_z_mm=90.0,
        mass_g=260.0, print_h=12.0, runs=3.0,
    ),
    _setpoints(100.0, 105.0, 252.0, 255.0, None, 75.0, 6.0, None,
               _bond("ears", 10.0, "cold"), _layer(0.25, 0.5, 40.0, ""), 20.0,
               _laid(0.8, 0.3, 45.0, 3.0), _air(0.0, 0.0)),
    supports=Supports(way="soluble", material="alkali_acrylic", contact_only=True, contrast=True, from_deg=50.0,
                      gap_mm=0.0, filled_pct=20.0, bath_ml=8000.0, bath_c=60.0),
    anneal=Anneal(joint_mpa=9.0, joint_wanted_mpa=1.5, cure_h=24.0, patch=True),
)  # fmt: skip

FIRST = "probe_head_shell"
CARDS = {
    FIRST: card_of(
        SHELL, machine="tarn", lot="lot_h117", dryer="kiln", plate="plate_g2", agent="agent_v14", part="part_head"
    ),
    "centraliser_blade": card_of(
        BLADE, machine="crag", oven="oven_o1", lot="lot_h117", dryer="kiln", plate="plate_e1", part="part_blade"
    ),
    "sensor_cage": card_of(CAGE, machine="tarn", lot="lot_c042", dryer="kiln", plate="plate_s7", agent="agent_v14"),
    "cable_guide": card_of(GUIDE, machine="beck", lot="lot_g310", dryer="shelf", plate="plate_f3"),
    "packer_ring": card_of(
        RING,
        machine="crag",
        oven="oven_o2",
        lot="lot_k008",
        dryer="kiln",
        plate="plate_a3",
        agent="agent_h2",
        part="part_ring",
    ),
    "turbine_vane": card_of(VANE, machine="crag", lot="lot_s225", dryer="kiln", plate="plate_a3", agent="agent_h2"),
    "winch_bracket": card_of(
        BRACKET, machine="gill", lot="lot_n061", dryer="shelf", plate="plate_l5", agent="agent_k9"
    ),
    "cable_clamp": card_of(
        CLAMP, machine="tarn", lot="lot_c077", dryer="kiln", plate="plate_s7", part="part_clamp", job="job_clamp"
    ),
    "wellhead_cover": card_of(COVER, machine="gill", lot="lot_a190", dryer="pot", plate="plate_f6", bath="bath_t2"),
}
