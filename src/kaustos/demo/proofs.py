"""The firm's evidence, made up: sizes of a clamp, specimens and coupons of a cover, dead ends, parts in service."""

import math
from datetime import datetime, timedelta

from kaustos.core.records import Proof, ProofRow, ServicePart


def _pulled(name: str, group: str, strength: float, modulus: float, gives: float) -> ProofRow:
    """A specimen whose curve bends over before it breaks."""
    shares = [number / 40.0 for number in range(41)]
    stress = tuple(round(strength * math.sin(0.5 * math.pi * share), 3) for share in shares)
    strain = tuple(round(100.0 * each / modulus * (1.0 + gives * share**3), 4)
                   for each, share in zip(stress, shares, strict=True))  # fmt: skip
    return ProofRow(name=name, group=group, width_mm=10.1, thick_mm=4.1, force_n=round(strength * 41.41, 1),
                    strength_mpa=strength, modulus_mpa=modulus, break_pct=strain[-1], strain_pct=strain,
                    stress_mpa=stress)  # fmt: skip


def _size(name: str, what: str, axis: str | None, nominal: float, found: float, within: float) -> ProofRow:
    return ProofRow(name=name, what=what, axis=axis, nominal_mm=nominal, found_mm=found, tolerance_mm=within)


def proofs_at(now: datetime) -> dict[str, Proof]:
    """The evidence, dated before a moment."""

    def ago(days: float) -> str:
        return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")

    def bar(number: int, days: float, hz: float) -> Proof:
        row = ProofRow(name=f"bar {number}", length_mm=100.0, width_mm=15.0, thick_mm=4.0, mass_g=6.31, hz=hz,
                       decay_s=0.06, direction="flat")  # fmt: skip
        return Proof(id=f"tone_{number}", sort="tone", card="wellhead_cover", machine="gill", lot="lot_a190",
                     polymer="asa", at_utc=ago(days), by="R. Askew", moisture="dry", rows=(row,), verdict="pass",
                     verdict_by="R. Askew")  # fmt: skip

    made = (
        Proof(
            id="size_clamp", sort="size", card="cable_clamp", machine="tarn", lot="lot_c077", polymer="pc_cf",
            at_utc=ago(3.0), by="M. Thwaite", history="as_printed", moisture="dry",
            rows=(
                _size("length", "length", "x", 60.0, 59.82, 0.25), _size("width", "length", "y", 34.0, 33.9, 0.25),
                _size("height", "length", "z", 28.0, 28.05, 0.2), _size("bore", "hole", "x", 6.4, 6.21, 0.15),
                _size("slot", "hole", "y", 4.2, 4.03, 0.2), _size("wall", "wall", "x", 3.0, 3.06, 0.15),
            ),
        ),
        Proof(
            id="pull_cover", sort="pull", card="wellhead_cover", machine="gill", lot="lot_a190", polymer="asa",
            at_utc=ago(8.0), by="R. Askew", history="as_printed", moisture="dry", nozzle_c=252.0, chamber_c=48.0,
            layer_s=100.0, plate_c=100.0, fan_pct=0.0, width_mm=0.5, height_mm=0.25, speed_mm_s=80.0,
            rows=(
                *(_pulled(f"a{n}", "along", each, 1950.0, 0.9) for n, each in enumerate((38.2, 37.5, 39.0), 1)),
                *(_pulled(f"q{n}", "across", each, 1720.0, 0.1) for n, each in enumerate((17.8, 15.9, 18.6), 1)),
            ),
        ),
        *(bar(number, days, hz) for number, days, hz in ((1, 60.0, 557.0), (2, 33.0, 559.5), (3, 9.0, 555.5))),
        Proof(
            id="dead_peek", sort="dead_end", card="packer_ring", machine="crag", polymer="peek", at_utc=ago(40.0),
            by="M. Thwaite", nozzle_c=400.0, chamber_c=90.0, note="cold chamber and brim: corners lift after 3 mm",
        ),
    )  # fmt: skip
    return {each.id: each for each in made}


def services_at(now: datetime) -> dict[str, ServicePart]:
    """Parts in wells, dated before a moment."""

    def ago(days: float) -> str:
        return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")

    made = (
        ServicePart(id="cover_1", name="cover 1", card="wellhead_cover", polymer="asa", place="well 2, in the sun",
                    in_utc=ago(400.0)),
        ServicePart(id="bracket_1", name="bracket 1", card="winch_bracket", polymer="pa_cf", place="winch, outdoors",
                    in_utc=ago(300.0), out_utc=ago(90.0), ended="sound"),
    )  # fmt: skip
    return {each.id: each for each in made}
