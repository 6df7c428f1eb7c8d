"""The made-up lots, spools and dryers of the firm."""

from datetime import datetime, timedelta
from typing import Any

import attrs

from kaustos.core.records import Datum, Dryer, Lot, Reserve, Stay, StrandCheck, Weighing

KILN = Dryer(id="kiln", name="Kiln", max_c=150.0, air="dry", dew_point_c=-30.0, places=4.0)
SHELF = Dryer(id="shelf", name="Shelf dryer", max_c=85.0, air="room", places=2.0)
POT = Dryer(id="pot", name="Vacuum pot", max_c=110.0, air="vacuum", pressure_mbar=40.0, places=1.0)
DRYERS = (KILN, SHELF, POT)

LOADED = {"lot_h117": "tarn", "lot_n061": "gill", "lot_g310": "beck", "lot_k008": "crag"}


def _lot(key: str, name: str, grade: str, polymer: str, colour: str, **more: Any) -> Lot:
    spool: dict[str, Any] = {
        "diameter": "1.75", "net_g": 1000.0, "tare_g": 230.0, "depth_mm": 42.0, "width_mm": 55.0, "flange": "metal",
        "feed": "dry_box", "box_humidity_pct": 12.0, "reorder_g": 150.0, "lead_h": 14 * 24.0, "ingredients": "declared",
        "filler": "none", "recycled": False,
        "loaded_on": LOADED.get(key),
    }  # fmt: skip
    return Lot(id=key, name=name, grade=grade, polymer=polymer, colour=colour, **(spool | more))


def _label(grade: str, **celsius: float) -> dict[str, Datum]:
    source = f"label of {grade}, read 2026-01-20"
    return {
        key: Datum(value=each, low=each, high=each, unit="°C", kind="label", source=source)
        for key, each in celsius.items()
    }


def _dries(least_h: float, most_h: float) -> dict[str, Datum]:
    source = "label of PETG, clear, read 2026-01-20"
    ends = {"label_dries_low_h": least_h, "label_dries_high_h": most_h}
    return {
        key: Datum(value=each, low=each, high=each, unit="h", kind="label", source=source) for key, each in ends.items()
    }


LOTS = (
    _lot("lot_h117", "H-117, amber", "PEI-PC blend, house grade", "pei_pc_blend", "amber", depth_mm=38.0,
         reserves=(Reserve(grams=60.0, purpose="test bars of the weld trial"),)),
    _lot(
        "lot_c042", "C-042, black", "PC, tough grade", "pc", "black", flange="polycarbonate",
        grade_values={
            "glass_transition_c": Datum(
                value=141.0, low=139.0, high=143.0, unit="°C", kind="own", source="own measurement, grade C, 2025-11"
            )
        },
    ),
    _lot("lot_g310", "G-310, clear", "PETG, clear", "petg", "clear", flange="styrenic",
         grade_values=_label("PETG, clear", nozzle_low_c=235.0, nozzle_high_c=250.0, plate_low_c=68.0,
                             plate_high_c=75.0, dryer_low_c=60.0, dryer_high_c=65.0) | _dries(4.0, 6.0)),
    _lot("lot_k008", "K-008, natural", "PEEK, medium flow", "peek", "natural", depth_mm=28.0, width_mm=45.0,
         net_g=500.0),
    _lot("lot_s225", "S-225, black", "PPS-CF, 15 %", "pps_cf", "black", ingredients="asked", filler="carbon"),
    _lot("lot_n061", "N-061, black", "PA6-CF, 20 %", "pa_cf", "black", filler="carbon", flange="card", feed="open",
         box_humidity_pct=None),
    _lot("lot_c077", "C-077, black", "PC-CF, 10 %", "pc_cf", "black", filler="carbon"),
    _lot("lot_a190", "A-190, grey", "ASA, weather grade", "asa", "grey", flange="polycarbonate"),
    _lot("lot_a204", "A-204, red", "ASA, weather grade", "asa", "red", flange="polycarbonate"),
)  # fmt: skip
_STORED = (  # lot, days ago, where, °C, % humidity
    ("lot_h117", 20.0, "sealed", None, None), ("lot_h117", 9.5, "open", 21.0, 45.0),
    ("lot_h117", 9.0, "dryer", 120.0, 0.1), ("lot_h117", 8.7, "dry_box", 21.0, 12.0),
    ("lot_c042", 30.0, "sealed", None, None), ("lot_c042", 6.0, "dry_box", 21.0, 12.0),
    ("lot_g310", 40.0, "open", 21.0, 50.0), ("lot_g310", 21.0, "dry_box", 21.0, 15.0),
    ("lot_k008", 25.0, "dry_box", 21.0, 12.0), ("lot_s225", 25.0, "dry_box", 21.0, 12.0),
    ("lot_n061", 27.5, "dryer", 80.0, 2.5), ("lot_n061", 27.0, "open", 21.0, 48.0),
    ("lot_c077", 12.0, "dry_box", 21.0, 12.0), ("lot_a190", 30.5, "dry_box", 21.0, 12.0),
    ("lot_a204", 2.0, "dry_box", 21.0, 12.0),
)  # fmt: skip
FINE_G = 0.1  # the shop's better scale; the usual one is among its rules
_WEIGHED = (  # lot, days ago, gross
    ("lot_h117", 9.0, 1014.6), ("lot_h117", 8.95, 1013.2), ("lot_h117", 8.9, 1012.5), ("lot_h117", 8.8, 1012.1),
    ("lot_h117", 8.7, 1012.0), ("lot_c042", 6.0, 1180.0), ("lot_g310", 20.5, 690.0), ("lot_k008", 15.0, 610.0),
    ("lot_s225", 13.0, 940.0), ("lot_n061", 25.0, 590.0), ("lot_c077", 4.0, 1150.0), ("lot_a190", 11.0, 760.0),
    ("lot_a204", 2.0, 1230.0),
)  # fmt: skip

_STRANDS = (("lot_n061", 25.0, ("bubbles", "drool")), ("lot_g310", 20.5, ()))  # lot, days ago, signs
_DESICCANT = {"lot_h117": 8.7, "lot_g310": 21.0, "lot_k008": 130.0, "lot_c077": 12.0, "lot_a190": 30.5}  # days ago


def lots_at(now: datetime) -> dict[str, Lot]:
    """The lots with their past, dated before a moment."""

    def when(days: float) -> str:
        return (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%S.%fZ")

    found = {}
    for lot in LOTS:
        stays = tuple(
            Stay(place=place, from_utc=when(days), temperature_c=celsius, humidity_pct=humidity)
            for key, days, place, celsius, humidity in _STORED
            if key == lot.id
        )
        weighings = tuple(
            Weighing(at_utc=when(days), gross_g=gross, scale_g=FINE_G if key == "lot_h117" else None)
            for key, days, gross in _WEIGHED
            if key == lot.id
        )
        first = stays[0].from_utc if stays else ""
        strands = tuple(StrandCheck(at_utc=when(days), signs=signs) for key, days, signs in _STRANDS if key == lot.id)
        reserves = tuple(attrs.evolve(each, at_utc=when(8.0)) for each in lot.reserves)
        desiccant = when(_DESICCANT[lot.id]) if lot.id in _DESICCANT else ""
        found[lot.id] = attrs.evolve(
            lot, stays=stays, weighings=weighings, strands=strands, reserves=reserves, received_utc=first,
            opened_utc=first, desiccant_utc=desiccant,
        )  # fmt: skip
    return found
