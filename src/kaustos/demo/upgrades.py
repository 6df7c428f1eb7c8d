"""The made-up catalogue of changes of the firm."""

from kaustos.core.records import Upgrade
from kaustos.core.records.upgrade import GONE

UPGRADES = {
    each.id: each
    for each in (
        Upgrade(id="all_metal", name="All-metal hot end", part="head", price=85.0, hours=2.5, risk="some",
                lifts={"nozzle.liner": GONE, "nozzle.heater": 320.0}),
        Upgrade(id="platinum", name="Platinum sensor with its amplifier", part="nozzle_sensor", price=38.0, hours=2.0,
                risk="some", lifts={"nozzle.sensor": 450.0}, skilled=True),
        Upgrade(id="hot_heater", name="Heater of 80 W with its supply", part="nozzle_heater", price=64.0, hours=3.0,
                risk="high", lifts={"nozzle.heater": 450.0}, needs=("all_metal", "platinum"), skilled=True),
        Upgrade(id="firmware", name="Firmware for hot nozzles, by the maker", part="firmware", price=0.0, hours=1.5,
                risk="some", lifts={"nozzle.firmware": 450.0, "plate.firmware": 140.0, "chamber.firmware": 110.0},
                needs=("platinum",), skilled=True),
        Upgrade(id="clips", name="Clips instead of the magnet", part="plate_stack", price=9.0, hours=0.5, risk="low",
                lifts={"plate.magnet": GONE}),
        Upgrade(id="hot_magnet", name="Magnets for 150 °C", part="plate_stack", price=48.0, hours=1.5, risk="low",
                lifts={"plate.magnet": 150.0, "plate.backing": 150.0}),
        Upgrade(id="mains_plate", name="Mains heater under the plate", part="plate_heater", price=120.0, hours=6.0,
                risk="high", lifts={"plate.heater": 140.0, "plate.sensor": 160.0, "plate.firmware": 140.0},
                skilled=True),
        Upgrade(id="box", name="Insulated box with its electronics outside", part="enclosure", price=140.0, hours=8.0,
                risk="some", lifts={"chamber.heater": 65.0, "chamber.electronics": GONE, "chamber.plastics": 75.0}),
        Upgrade(id="reprint", name="Ducts and mounts printed anew in a hot polymer", part="fan", price=30.0, hours=5.0,
                risk="low", lifts={"chamber.plastics": 120.0}),
        Upgrade(id="capable", name="A machine with a hot chamber", price=6900.0, whole=True),
    )
}  # fmt: skip
