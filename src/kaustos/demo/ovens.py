"""The firm's ovens, made up: one with a fan that is known well, one small and hot that nobody measured; their loads."""

from datetime import datetime, timedelta

import numpy as np

from kaustos.core.physics.annealing import followed
from kaustos.core.planning.anneal_programme import Load
from kaustos.core.planning.annealing import section_of
from kaustos.core.records import AnnealStep, Growth, Oven, OvenLoad, RunSensor
from kaustos.library import load as library

OVENS = {
    each.id: each
    for each in (
        Oven(
            id="oven_o1", name="O-1, fan oven", max_c=250.0, offset_k=-3.0, even_k=4.0, fan=True,
            rise_k_h=280.0, size_x_mm=480.0, size_y_mm=400.0, size_z_mm=400.0,
        ),
        Oven(
            id="oven_o2", name="O-2, small oven", max_c=320.0, fan=False, size_x_mm=150.0, size_y_mm=150.0,
            size_z_mm=120.0,
        ),
    )
}  # fmt: skip


def loads_at(now: datetime) -> dict[str, OvenLoad]:
    """Loads of both, dated before a moment: blades twice as planned, a ring that was taken out too soon."""
    blades = (AnnealStep(temperature_c=150.0, hold_h=2.0), AnnealStep(temperature_c=170.0, hold_h=4.0))
    ring = (AnnealStep(temperature_c=150.0, hold_h=1.0), AnnealStep(temperature_c=200.0, hold_h=3.0))
    made = (
        _load(now, 34.0, "load_01", "oven_o1", "centraliser_blade", "pei_pc_blend", blades, 8.0, 4.2, "good",
              (Growth(name="blade 1", x_mm=140.02, after_x_mm=139.71, y_mm=60.03, after_y_mm=59.9, z_mm=24.01,
                      after_z_mm=24.05),)),
        _load(now, 20.0, "load_02", "oven_o1", "centraliser_blade", "pei_pc_blend", blades, 8.0, 4.1, "good",
              (Growth(name="blade 3", x_mm=139.98, after_x_mm=139.61, y_mm=60.0, after_y_mm=59.86, z_mm=23.98,
                      after_z_mm=24.03),)),
        _load(now, 6.0, "load_03", "oven_o2", "packer_ring", "peek", ring, 14.0, 0.6, "good",
              (Growth(name="coupon", mass_g=13.184, water_g=2.961, after_g=13.171, after_water_g=2.998),)),
    )  # fmt: skip
    return {each.id: each for each in made}


def _load(
    now: datetime, days: float, key: str, oven: str, card: str, polymer: str, steps: tuple[AnnealStep, ...],
    wall: float, held_h: float, outcome: str, grown: tuple[Growth, ...],
) -> OvenLoad:  # fmt: skip
    began = now - timedelta(days=days)
    nodes_h, nodes_c = [0.0, 2.2, 4.6, 5.2, 5.2 + 0.7 + held_h], [21.0, 150.0, 150.0, 0.0, 0.0]
    nodes_c[3] = nodes_c[4] = float(steps[-1].temperature_c or 0.0)
    nodes_h, nodes_c = [*nodes_h, nodes_h[-1] + 2.5], [*nodes_c, 60.0]
    hours = np.linspace(0.0, nodes_h[-1], 90)
    section = section_of(Load(wall_mm=wall, fan=OVENS[oven].fan), library().polymers[polymer], 1)
    assert section is not None
    course = followed(section, np.array(nodes_h) * 3600.0, np.array(nodes_c), hours * 3600.0)
    wobble = 0.6 * np.sin(hours * 9.0)
    sensors = tuple(
        RunSensor(name=name, from_utc=_stamp(began), hours=tuple(np.round(hours, 3).tolist()),
                  shown_c=tuple(np.round(values, 1).tolist()))
        for name, values in (("oven", course.air + wobble), ("dummy", course.core[0]))
    )  # fmt: skip
    return OvenLoad(
        id=key, oven=oven, card=card, polymer=polymer, started_utc=_stamp(began),
        ended_utc=_stamp(began + timedelta(hours=float(hours[-1]))), steps=steps, wall_mm=wall, packed="free",
        cool_k_h=45.0, out_c=60.0, sensors=sensors, witness="dummy", grown=grown, outcome=outcome, by="R. Askew",
    )  # fmt: skip


def _stamp(moment: datetime) -> str:
    return moment.strftime("%Y-%m-%dT%H:%M:%SZ")
