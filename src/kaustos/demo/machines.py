"""The made-up machines of the firm, of unequal reach."""

from kaustos.core.records import Machine, Part, PassivePart
from kaustos.core.records.machine import ChamberZone, NozzleZone, PlateZone

NONE = PassivePart(fitted=False)
NO_PART = Part(fitted=False)


def _part(max_c: float, basis: str = "rated", *, fitted: bool = True) -> Part:
    return Part(fitted=fitted, max_c=max_c, basis=basis)


def _passive(max_c: float, basis: str, price: float) -> PassivePart:
    return PassivePart(fitted=True, max_c=max_c, basis=basis, price=price)


TARN = Machine(
    id="tarn",
    name="Tarn",
    nozzle=NozzleZone(
        heater=_part(420.0, "proven"), sensor=_part(410.0), firmware=_part(400.0), liner=NONE
    ),
    plate=PlateZone(
        heater=_part(160.0, "proven"), sensor=_part(165.0), firmware=_part(170.0), magnet=NONE,
        backing=_passive(180.0, "claimed", 35.0),
    ),
    chamber=ChamberZone(
        heater=_part(110.0, "claimed"), sensor=_part(120.0), firmware=_part(105.0),
        plastics=_passive(90.0, "rated", 80.0)
    ),
    travel_x_mm=320.0,
    travel_y_mm=320.0,
    travel_z_mm=400.0,
    feeds="1.75",
    power_w=900.0,
    rate_per_h=4.0,
)  # fmt: skip
CRAG = Machine(
    id="crag",
    name="Crag",
    nozzle=NozzleZone(heater=_part(450.0, "proven"), sensor=_part(450.0), firmware=_part(440.0), liner=NONE),
    plate=PlateZone(
        heater=_part(210.0, "proven"), sensor=_part(250.0), firmware=_part(200.0), magnet=NONE, backing=NONE
    ),
    chamber=ChamberZone(
        heater=_part(175.0, "proven"), sensor=_part(180.0), firmware=_part(190.0), plastics=NONE
    ),
    travel_x_mm=300.0,
    travel_y_mm=250.0,
    travel_z_mm=280.0,
    feeds="1.75",
    power_w=2400.0,
    rate_per_h=11.0,
)  # fmt: skip
BECK = Machine(
    id="beck",
    name="Old Beck",
    nozzle=NozzleZone(
        heater=_part(280.0), sensor=_part(280.0), firmware=_part(275.0), liner=_passive(260.0, "rated", 12.0)
    ),
    plate=PlateZone(
        heater=_part(100.0, "proven"), sensor=_part(150.0), firmware=_part(110.0), magnet=_passive(80.0, "rated", 18.0),
        backing=PassivePart(),
    ),
    chamber=ChamberZone(
        heater=_part(32.0, "proven", fitted=False), sensor=NO_PART, firmware=NO_PART,
        plastics=_passive(65.0, "rated", 20.0)
    ),
    travel_x_mm=220.0,
    travel_y_mm=220.0,
    travel_z_mm=240.0,
    feeds="1.75",
    power_w=180.0,
    rate_per_h=1.5,
)  # fmt: skip
GILL = Machine(
    id="gill",
    name="Gill",
    nozzle=NozzleZone(heater=_part(310.0, "proven"), sensor=_part(320.0), firmware=_part(300.0), liner=NONE),
    plate=PlateZone(
        heater=_part(118.0, "proven"), sensor=_part(150.0), firmware=_part(120.0),
        magnet=_passive(110.0, "rated", 25.0), backing=_passive(130.0, "rated", 30.0),
    ),
    chamber=ChamberZone(
        heater=_part(48.0, "proven", fitted=False), sensor=_part(100.0), firmware=NO_PART,
        plastics=_passive(70.0, "rated", 60.0)
    ),
    travel_x_mm=250.0,
    travel_y_mm=210.0,
    travel_z_mm=210.0,
    feeds="1.75",
    power_w=320.0,
    rate_per_h=2.5,
)  # fmt: skip
MACHINES = (TARN, CRAG, BECK, GILL)
