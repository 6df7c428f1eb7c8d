"""A context that raises each code and a near one that does not: card, machine, raising and sparing changes."""

from kaustos.core.records import Run, Stay

SHELL, BLADE, CAGE, GUIDE = "probe_head_shell", "centraliser_blade", "sensor_cage", "cable_guide"
RING, BRACKET = "packer_ring", "winch_bracket"
GOOD_COVER = Run(id="r", card="wellhead_cover", revision=1.0, lot="lot_a190", outcome="good")
HUMID = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", temperature_c=24.0, humidity_pct=75.0),)
HEATER_ENDS = {"machine.nozzle.heater.max_c": 380.0, "machine.nozzle.heater.basis": "proven"}
IN_KILN = {"lots/lot_c042/stays": (Stay(place="dryer", dryer="kiln", from_utc="2026-03-02T06:00:00Z",
                                        temperature_c=105.0),)}  # fmt: skip
DRIED = {"context.dryer": "kiln", "stock.dryer_c": 95.0, "stock.dryer_h": 72.0}
WAITS = DRIED | {"stock.wait_h": 8.0, "stock.wait_in": "open"}
LONG = DRIED | {"brief.print_h": 60.0}
CASES = {
    "brief.value.outside": (SHELL, "crag", {"brief.service_c": 2000.0}, {"brief.service_c": 120.0}),
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
    "stock.lot.unqualified": ("wellhead_cover", "gill", {"runs/r": GOOD_COVER, "context.lot": "lot_a204"},
                              {"runs/r": GOOD_COVER}),
    "stock.lot.elsewhere": (SHELL, "crag", {"lot.loaded_on": "beck"}, {"lot.loaded_on": "crag"}),
    "stock.lot.wears": (CAGE, "tarn", {"lot.filler": "glow"}, {"lot.filler": "white"}),
    "stock.lot.recycled": (CAGE, "tarn", {"lot.recycled": True}, {"lot.recycled": False}),
    "stock.lot.low": (SHELL, "crag", {"lot.reorder_g": 800.0}, {"lot.reorder_g": 700.0}),
    "stock.lot.planned": (BLADE, "crag", {"brief.runs": 8.0}, {"brief.runs": 2.0}),
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
    "machine.nozzle.below_window": (SHELL, "tarn", {"melt.nozzle_c": 354.0}, {"melt.nozzle_c": 355.0}),
    "machine.nozzle.above_window": (SHELL, "crag", {"melt.nozzle_c": 386.0}, {"melt.nozzle_c": 385.0}),
    "machine.nozzle.no_headroom": (SHELL, "tarn", HEATER_ENDS | {"melt.nozzle_c": 378.0},
                                   HEATER_ENDS | {"melt.nozzle_c": 377.0, "first_layer.nozzle_c": 377.0}),
    "machine.nozzle.reach_claimed": (
        SHELL, "crag",
        {"machine.nozzle.heater.max_c": 385.0, "machine.nozzle.heater.basis": "claimed", "melt.nozzle_c": 366.0},
        {"machine.nozzle.heater.max_c": 385.0, "machine.nozzle.heater.basis": "claimed", "melt.nozzle_c": 365.0,
         "first_layer.nozzle_c": 365.0},
    ),
    "machine.nozzle.liner_limit": (GUIDE, "beck", {"melt.nozzle_c": 256.0}, {"melt.nozzle_c": 255.0}),
    "machine.nozzle.liner_rated": (GUIDE, "beck", {"melt.nozzle_c": 241.0}, {"melt.nozzle_c": 240.0,
                                                                           "first_layer.nozzle_c": 240.0}),
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
    "machine.plate.below_window": (SHELL, "crag", {"plate.bed_c": 154.0}, {"plate.bed_c": 155.0}),
    "machine.plate.above_window": (SHELL, "crag", {"plate.bed_c": 181.0}, {"plate.bed_c": 180.0}),
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
}  # fmt: skip
