"""What the models of chamber, plate and nozzle say, beside what shops usually find."""

import attrs

from kaustos.core.planning.nozzle_life import colder_k, wear_of
from kaustos.core.planning.warmth import chamber_of, expected_air, power_wanted, top_of, warm_times
from kaustos.core.records import FILLER_WEARS, Enclosure, Estimate, Layer, Machine, Nozzle
from kaustos.core.records.nozzle import band_of

PIGMENT = "claims count until the first layer shows it: that is the look due at 1.2 kg, not the end of the bore"
PLAIN = "this is the end of the bore; the first layer shows wear from 5 kg on, and claims lie between both"


@attrs.frozen
class Beside:
    """One case: what is computed, what is usual, and why otherwise where it differs."""

    title: str
    found: Estimate
    low: float
    high: float
    unit: str
    why: str = ""

    @property
    def off(self) -> float:
        """How many times the likely value lies outside of what is usual; 1 within it."""
        return max(self.low / self.found.value, self.found.value / self.high, 1.0)


def _box(wall: str, size: tuple[float, float, float], plate: float, frame: float):  # type: ignore[no-untyped-def]
    x, y, z = size
    space = Enclosure(kind="box", inner_x_mm=x, inner_y_mm=y, inner_z_mm=z, wall=wall, frame_kg=frame)
    return chamber_of(Machine(id="m", travel_x_mm=plate, travel_y_mm=plate, enclosure=space), None)


def _chambers() -> list[Beside]:
    small = _box("pane", (450.0, 450.0, 500.0), 235.0, 8.0)
    large = _box("insulated", (900.0, 800.0, 900.0), 350.0, 60.0)
    found = [
        Beside(f"unheated box of panes, plate at {plate:g} °C", expected_air(small, plate, 21.0), low, high, "°C")
        for plate, low, high in ((60.0, 28.0, 35.0), (100.0, 38.0, 50.0), (120.0, 42.0, 60.0))
    ]
    soaks = (warm_times(small, 60.0, 300.0, 100.0, 21.0).soaked, warm_times(large, 80.0, 1500.0, 140.0, 21.0).soaked)
    found.append(Beside("soak of a small box at 60 °C with 300 W", soaks[0], 0.25, 1.0, "h"))
    found.append(Beside("soak of a large chamber at 80 °C with 1500 W", soaks[1], 1.0, 3.0, "h"))
    for air, low, high in ((60.0, 100.0, 250.0), (80.0, 200.0, 400.0), (100.0, 300.0, 600.0)):
        title = f"heater for {air:g} °C in a small box, plate at 100 °C"
        found.append(Beside(title, power_wanted(small, air, 100.0, 21.0), low, high, "W"))
    return found


def _plates() -> list[Beside]:
    stacks = (
        ("4 mm glass", (("glass", 4.0),), 3.0, 10.0),
        ("2 mm laminate", (("laminate", 2.0),), 4.0, 10.0),
        ("a steel sheet on a magnet", (("magnet", 1.5), ("steel", 0.5)), 2.0, 8.0),
    )
    found = []
    for name, layers, low, high in stacks:
        stack = tuple(Layer(material=each, thickness_mm=deep, loose=True) for each, deep in layers)
        top = top_of(stack, 100.0, 30.0, None)
        assert top is not None
        found.append(Beside(f"surface below a sensor at 100 °C, under {name}", top.drop, low, high, "K"))
    return found


def _nozzles() -> list[Beside]:
    rows = (
        ("brass", "carbon", 200.0, 1000.0, ""), ("brass", "white", 1000.0, 2000.0, PIGMENT),
        ("brass", "none", 10_000.0, 15_000.0, PLAIN), ("coated", "carbon", 400.0, 2000.0, ""),
        ("hardened", "carbon", 3000.0, 10_000.0, ""),
    )  # fmt: skip
    titles = {"carbon": "fibre", "white": "pigment", "none": "plain polymer"}
    found = []
    for metal, filler, low, high, why in rows:
        nozzle = Nozzle(id="n", material=metal, bore_mm=0.4, land_mm=0.6, cone_deg=60.0)
        left = wear_of(nozzle, ()).until_end(band_of(FILLER_WEARS[filler]))
        found.append(Beside(f"{titles[filler]} to the end of a {metal} nozzle", left, low, high, "g", why))
    found.append(Beside("setpoint over brass, hardened steel", colder_k("hardened"), 5.0, 20.0, "K"))
    found.append(Beside("setpoint over brass, stainless steel", colder_k("stainless"), 10.0, 25.0, "K"))
    return found


def beside_practice() -> list[Beside]:
    """Every case."""
    return [*_chambers(), *_plates(), *_nozzles()]


def machine_lines() -> list[str]:
    """The cases as lines of the page."""
    lines = [
        "", "## Machines beside practice", "",
        "What the models of chamber, plate and nozzle say, likely value with its 95 % band, beside what shops usually",
        "find (practice; a range, no reference). Where the likely value is off the range by more than a factor of 1.5,",
        "the reason stands beside it.", "",
        "| case | likely | band | usual | why otherwise |", "|---|---:|---|---|---|",
    ]  # fmt: skip
    for each in beside_practice():
        numbers = (each.found.value, each.found.low, each.found.high)
        likely, low, high = (f"{float(f'{value:.2g}'):g}" for value in numbers)
        usual = f"{each.low:g} to {each.high:g} {each.unit}"
        lines.append(f"| {each.title} | {likely} {each.unit} | {low} to {high} | {usual} | {each.why} |")
    return lines
