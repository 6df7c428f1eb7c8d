"""The made-up nozzles of the firm."""

from datetime import datetime, timedelta

import attrs

from kaustos.core.records import Feeding, Inspection, Nozzle

BRASS = Nozzle(
    id="nozzle_b11", name="B-11, brass 0.4", serial="B-11", material="brass", bore_mm=0.4, land_mm=0.6, cone_deg=60.0,
    max_c=300.0, origin="original", edge="sharp", finish="smooth", price=6.0, fitted_on="beck",
)  # fmt: skip
STEEL = Nozzle(
    id="nozzle_s04", name="S-04, hardened 0.6", serial="S-04", material="hardened", bore_mm=0.6, land_mm=0.8,
    cone_deg=60.0, max_c=450.0, origin="original", edge="sharp", finish="smooth", price=28.0, fitted_on="tarn",
)  # fmt: skip
COPPER = Nozzle(
    id="nozzle_p02", name="P-02, plated copper 0.4", serial="P-02", material="plated_copper", bore_mm=0.4, land_mm=0.6,
    cone_deg=60.0, max_c=500.0, origin="original", edge="sharp", finish="smooth", price=34.0, fitted_on="crag",
)  # fmt: skip
WORN = Nozzle(
    id="nozzle_s01", name="S-01, hardened 0.6", serial="S-01", material="hardened", bore_mm=0.6, land_mm=0.8,
    cone_deg=60.0, max_c=450.0, origin="compatible", edge="rounded", finish="smooth", price=19.0, fitted_on="gill",
)  # fmt: skip
CARBIDE = Nozzle(
    id="nozzle_w01", name="W-01, carbide 0.6", serial="W-01", material="carbide", bore_mm=0.6, land_mm=1.0,
    cone_deg=60.0, max_c=500.0, origin="original", edge="sharp", finish="smooth", price=95.0,
)  # fmt: skip
SPARE = Nozzle(
    id="nozzle_c07", name="C-07, coated brass 0.4", serial="C-07", material="coated", bore_mm=0.4, origin="compatible",
    price=4.0,
)  # fmt: skip
_FED = (  # nozzle, days ago, grams, filler
    ("nozzle_b11", 60.0, 5200.0, "none"), ("nozzle_s04", 120.0, 2100.0, "none"), ("nozzle_s04", 75.0, 450.0, "carbon"),
    ("nozzle_p02", 90.0, 900.0, "none"), ("nozzle_s01", 140.0, 3300.0, "carbon"),
)  # fmt: skip
_LOOKS = (  # nozzle, days ago, bore, shorter by, by which means, looks
    ("nozzle_s04", 40.0, 0.6, 0.05, "imprint", "sound"), ("nozzle_s01", 20.0, 0.61, 0.62, "length", "rounded"),
)  # fmt: skip


def nozzles_at(now: datetime) -> dict[str, Nozzle]:
    """The nozzles with what was fed and found, dated before a moment."""

    def ago(days: float) -> str:
        return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")

    return {
        each.id: attrs.evolve(
            each,
            fed=tuple(Feeding(grams=g, filler=f, at_utc=ago(days)) for key, days, g, f in _FED if key == each.id),
            inspections=tuple(
                Inspection(at_utc=ago(days), bore_mm=bore, lost_mm=lost, found_by=by, state=state)
                for key, days, bore, lost, by, state in _LOOKS
                if key == each.id
            ),
        )
        for each in (BRASS, STEEL, COPPER, WORN, CARBIDE, SPARE)
    }
