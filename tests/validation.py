"""The tables of reference values: each number of the core against something outside this project.

    python -m tests.validation        writes docs/validation.md

A reference is a closed form evaluated by hand or another way, a published constant, or a limit; never our own output.
"""

import sys
from collections.abc import Callable
from pathlib import Path

import attrs

from tests.bond_practice import bond_lines
from tests.machine_practice import machine_lines
from tests.practice.rows import practice_lines
from tests.proof_practice import proof_lines
from tests.run_practice import run_lines
from tests.support_practice import support_lines
from tests.weld_practice import weld_lines

TARGET = Path(__file__).parents[1] / "docs" / "validation.md"


@attrs.frozen
class Check:
    """One number with its reference and the tolerance that fits it."""

    model: str
    case: str
    source: str
    reference: float
    compute: Callable[[], float]
    tolerance: float

    @property
    def computed(self) -> float:
        return self.compute()

    @property
    def holds(self) -> bool:
        return abs(self.computed - self.reference) <= self.tolerance


def _units() -> list[Check]:
    from kaustos.app.quantities import read

    rows = (
        ("400 °F", "temperature", (400 - 32) / 1.8, "definition of the degree Fahrenheit"),
        ("36 °F of difference", "temperature_difference", 20.0, "definition of the degree Fahrenheit"),
        ("1/16 in", "length", 1.5875, "international inch, 25.4 mm"),
        ("1.5 oz", "mass", 42.524, "international avoirdupois ounce, 28.349523125 g"),
        ("65 psi", "stress", 65 * 4.4482216152605 / 645.16, "pound force over square inch"),
        ("30 Torr", "pressure", 30 * 1013.25 / 760, "torr, 1/760 of the standard atmosphere"),
        ("2 h 30", "duration", 2.5, "sixty minutes in an hour"),
    )
    return [
        Check("Units typed", text, source, value, lambda text=text, q=q: read(text.split(" of ")[0], q), 5e-4)
        for text, q, value, source in rows
    ]


def _shares() -> list[Check]:
    from kaustos.core.planning.specimens import lower_bound

    return [
        Check("Share of good runs, lower bound", f"{n} of {n}", "0.05^(1/n), Clopper and Pearson", 0.05 ** (1 / n),
              lambda n=n: lower_bound(n, n), 1e-12)
        for n in (1, 5, 20)
    ] + [
        Check("Share of good runs, lower bound", "3 of 4", "root of 4 p³ (1 - p) + p⁴ = 0.05 by bisection", 0.24860,
              lambda: lower_bound(3, 4), 1e-5)
    ]  # fmt: skip


def _service() -> list[Check]:
    from kaustos.core.records import Datum
    from kaustos.core.review.brief import service_margin

    datum = Datum(value=147.0, low=143.0, high=150.0, unit="°C", kind="own", source="test")
    return [
        Check("Margin in service", "147 °C, service 110 °C", "subtraction", 37.0,
              lambda: service_margin(datum, 110.0).value, 0.0),
    ]  # fmt: skip


def _money() -> list[Check]:
    from kaustos.core.review import Estimate
    from kaustos.core.review.money import at_stake

    run = Estimate(39.6 + 56.0, 39.6 + 56.0, 39.6 + 56.0, "money", "m", "s")
    return [
        Check("Cost of a lost run", "220 g at 0.18, 14 h at 4, plate 15, half an hour at 45", "sum by hand", 133.1,
              lambda: at_stake(run, 45.0, 15.0).value, 1e-9),
    ]  # fmt: skip


def _air() -> list[Check]:
    from kaustos.core.physics.humidity import relative_humidity, saturation_pressure, vapour_density

    rows = ((0.01, 611.66), (20.0, 2339.3), (60.0, 19_946.0), (100.0, 101_418.0), (200.0, 1_554_900.0))
    return [
        Check("Saturation pressure of water [Pa]", f"{celsius:g} °C", "steam tables, IAPWS", pascal,
              lambda c=celsius: float(saturation_pressure(c)), 1.5e-4 * pascal)
        for celsius, pascal in rows
    ] + [
        Check("Relative humidity", "air of dew point 10 °C at 80 °C", "ratio of two steam table values",
              1228.1 / 47_416.0, lambda: float(relative_humidity(1228.1, 80.0)), 1e-5),
        Check("Water in saturated air [kg/m³]", "20 °C", "steam tables: specific volume of saturated vapour",
              0.01729, lambda: float(vapour_density(2339.3, 20.0)), 2e-5),
    ]  # fmt: skip


def _strand() -> list[Check]:
    from kaustos.core.physics.cylinder import eigenvalues, share_lost

    shares = ((0.05, float("inf"), 0.45212), (0.2, float("inf"), 0.78215), (0.2, 5.0, 0.60380))
    roots = ((0.1, 0.4417), (1.0, 1.2558), (5.0, 1.9898), (10.0, 2.1795))
    return [
        Check("Strand: share of water lost", f"Fo {fo:g}, Bi {biot:g}", "series summed to thirty digits", value,
              lambda fo=fo, biot=biot: float(share_lost(fo, biot)), 5e-6)
        for fo, biot, value in shares
    ] + [
        Check("Strand: first eigenvalue", f"Bi {biot:g}", "printed roots of b J1(b) = Bi J0(b), four digits", root,
              lambda biot=biot: float(eigenvalues(biot)[0]), 6e-5)
        for biot, root in roots
    ] + [
        Check("Strand: time constant, no film", "first zero of J0, squared", "2.404825558²", 5.783185963,
              lambda: float(eigenvalues(float("inf"))[0]) ** 2, 1e-8),
    ]  # fmt: skip


def _polymer() -> list[Check]:
    import math

    from kaustos.core.physics.moisture import diffusivity, equilibrium_moisture

    arrhenius = math.exp(-45e3 / 8.314462618 * (1 / 383.15 - 1 / 353.15))
    return [
        Check("Diffusivity, 110 over 80 °C", "45 kJ/mol", "Arrhenius by hand", arrhenius,
              lambda: float(diffusivity(1.0, 80.0, 45e3, 110.0)), 1e-6),
        Check("Moisture in balance [%]", "2.8 % at half, 9.5 % saturated, full humidity", "limit", 9.5,
              lambda: float(equilibrium_moisture(2.8, 9.5, 1.0)), 1e-9),
        Check("Moisture in balance [%]", "2.8 % at half, 9.5 % saturated, half humidity", "limit", 2.8,
              lambda: float(equilibrium_moisture(2.8, 9.5, 0.5)), 1e-9),
    ]  # fmt: skip


def _warming() -> list[Check]:
    import math

    from kaustos.core.physics.warming import plane_wall

    rows = ((1.0, 0.8603, 1.1191, 0.8), (10.0, 1.4289, 1.2620, 1.5))
    return [
        Check("Plane wall, middle", f"Bi {biot:g}, Fo {fo:g}", "one-term solution, Incropera and DeWitt",
              c * math.exp(-(zeta**2) * fo), lambda fo=fo, biot=biot: float(plane_wall(fo, biot)[2]), 5e-4)
        for biot, zeta, c, fo in rows
    ]  # fmt: skip


def _scale() -> list[Check]:
    from kaustos.core.fitting.weighing import least_loss_g, water_lost

    return [
        Check("Water lost by weighing [%]", "1012.4 to 1009.3 g, spool 237 g, 772.4 g of filament",
              "3.1 g of 772.4 g by hand", 100.0 * 3.1 / 772.4,
              lambda: water_lost(1012.4, 1009.3, 772.4, 237.0, (0.0, 0.0), 0.1).percent.value, 2e-3),
        Check("Least loss that a scale tells [g]", "divisions of 1 g", "1.96 times the root of two", 2.771858582,
              lambda: float(least_loss_g(1.0)), 1e-3),
    ]  # fmt: skip


@attrs.frozen
class Usual:
    """How long practice dries a spool of a polymer that lay in the room, and why we say otherwise where we do."""

    polymer: str
    low_h: float
    high_h: float
    why: str = ""


# hours that shops and makers of filament usually give for the middle of the window; the reason where ours differ by
# more than half as much again
DAMP = "that is for a spool kept in its pack or a dry box; this one lay open and holds {0} %"
USUAL = (
    Usual("abs", 2.0, 6.0), Usual("asa", 3.0, 6.0), Usual("petg", 4.0, 8.0), Usual("tpu", 4.0, 12.0),
    Usual("tpc", 3.0, 6.0), Usual("pa12", 6.0, 12.0), Usual("pc", 3.0, 6.0), Usual("pc_cf", 3.0, 6.0),
    Usual("peek", 3.0, 6.0), Usual("peek_cf", 3.0, 6.0), Usual("pekk_a", 3.0, 6.0), Usual("pei", 4.0, 6.0),
    Usual("pei_pc_blend", 4.0, 6.0), Usual("psu", 3.0, 5.0), Usual("ppsu", 3.0, 6.0), Usual("pet_cf", 6.0, 12.0),
    Usual("ppa_cf", 8.0, 12.0), Usual("pom", 2.0, 4.0),
    Usual("pla", 4.0, 8.0, "room air at 50 °C leaves 0.08 %, close to the limit of 0.10 %; after 8 h 0.2 %, which many "
                           "print; dried air reaches the limit in 11 h"),
    Usual("pa6", 8.0, 16.0, DAMP.format("2.8")), Usual("pa6_gf", 8.0, 16.0, DAMP.format("2.0")),
    Usual("pa_cf", 8.0, 16.0, DAMP.format("2.2")),
    Usual("pva", 4.0, 12.0, DAMP.format("4") + "; room air at 52 °C leaves 0.8 %, no less than prints"),
    Usual("bvoh", 4.0, 12.0, DAMP.format("3.5")),
)  # fmt: skip


def usual_hours(polymer: str) -> tuple[float, float, float]:
    """Likely, soonest and latest time of the deepest turn: sixty days at 23 °C and half humidity, then the dryer."""
    import numpy as np

    from kaustos.core.physics.cylinder import uniform
    from kaustos.core.planning.air import dryer_air
    from kaustos.core.planning.drying import DEEPEST, Winding, hung, resting, water_of
    from kaustos.core.planning.scenarios import COUNT
    from kaustos.core.records import Rules
    from kaustos.library import load

    found = load().polymers[polymer]
    water = water_of(found)
    limit, low, high = (found.value(key) for key in ("moisture_limit_pct", "dryer_low_c", "dryer_high_c"))
    assert water and limit and low and high, polymer
    lain = resting(uniform(np.broadcast_to(np.array(water.half)[:, None], (COUNT, 3))), 23.0)
    air = dryer_air(None, (low.value + high.value) / 2.0, Rules(room_c=23.0, dew_point_c=12.0))
    return hung(lain, water, Winding(0.875e-3, 0.045, 0.06), air, limit.value)[0].hours(DEEPEST)


def _practice() -> list[str]:
    from kaustos.app.wording import hours_words
    from kaustos.library import load

    lines = [
        "", "## Drying beside practice", "",
        "A full one-kilogram spool of 1.75 mm on a metal body, in balance with 23 °C and half humidity, in a dryer",
        "that takes room air of dew point 12 °C, at the middle of the polymer's window: likely time of the deepest",
        "turn with its 95 % band, beside what shops and makers usually give (practice; a range, no reference). Where",
        "the likely time is off the range by more than a factor of 1.5, the reason stands beside it.", "",
        "| polymer | dryer | likely | band | usual | why otherwise |", "|---|---:|---:|---|---|---|",
    ]  # fmt: skip
    for each in USUAL:
        polymer = load().polymers[each.polymer]
        low, high = polymer.value("dryer_low_c"), polymer.value("dryer_high_c")
        likely, soon, late = map(hours_words, usual_hours(each.polymer))
        at = f"{(low.value + high.value) / 2.0:.0f} °C" if low and high else ""
        lines.append(f"| {polymer.name} | {at} | {likely} | {soon} to {late} | {each.low_h:g} to {each.high_h:g} h "
                     f"| {each.why} |")  # fmt: skip
    return lines


def _bond() -> list[Check]:
    """Closed forms of stress, load, support and learning."""
    import math

    import numpy as np
    import shapely

    from kaustos.core.belief import PREDICTIONS, Seen, believe
    from kaustos.core.part.outline import local_support
    from kaustos.core.physics.grip import contact_temperature
    from kaustos.core.physics.stress import Solid, Stiffness, stress_parts
    from kaustos.core.physics.warp import breadth_factor, energy_release, foot_strain, layered_bar, strip_support

    def tall() -> float:
        z = np.linspace(0.0, 0.5, 100_001)
        return float(energy_release(z, np.full(z.size, 1e4), 0.02)) / 200.0

    def low() -> float:
        z = np.linspace(0.0, 0.003, 301)
        return float(energy_release(z, np.full(z.size, 1e4), 3.0, 1.5))

    def corner(degrees: float) -> float:
        a = math.radians(degrees)
        wedge = shapely.Polygon([(0, 0), (99, 0), (99 * math.cos(a), 99 * math.sin(a))])
        return float(local_support(np.zeros((1, 2)), np.ones(1), wedge)[0])

    def bar() -> float:
        found = layered_bar(length=0.1, height=0.005, layer=0.00025, expansion=8e-5, glass_c=105.0, ends_c=65.0)
        return 1e3 * (found.lift or 0.0)

    def held() -> float:
        grip = PREDICTIONS["grip"]
        at = {each.name: "here" for each in grip.levels}
        seen = Seen(at=tuple(sorted(at.items())), over=-0.3, error=0.0, side="above")
        return believe(grip, [seen], at, 0.47).mean

    even = Stiffness(celsius=np.linspace(0.0, 200.0, 5), modulus=np.full(5, 2e9))
    glass = Solid(stiffness=even, glass_c=105.0, solid_c=105.0, expansion_glassy=8e-5, expansion_rubbery=2e-4)
    radius = 20**3 * 0.00025 / (6 * 8e-5 * 40 * 19)
    x = np.linspace(-4.0, 4.0, 200_001)
    density = np.exp(-0.5 * (x / 0.47) ** 2) / (1.0 + np.exp(-math.pi / math.sqrt(3.0) * (x + 0.3) / 0.35))
    mean = float((x * density).sum() / density.sum())
    return [
        Check("Stress of a layer", "even modulus, 105 to 23 °C, MPa", "E α ΔT by hand", 2e3 * 8e-5 * 82.0,
              lambda: float(stress_parts(glass, 23.0)[0]) / 1e6, 1e-6),
        Check("Load, tall part", "over u L", "limit of the form as the height grows", 0.244, tall,
              1e-3),
        Check("Load, long low part", "B u H, J/m²", "limit of the form", 45.0, low, 1e-6),
        Check("Wide footprint", "ν = 0.38", "plane stress over bar, (1 + ν)/(1 - ν)", 1.38 / 0.62,
              lambda: float(breadth_factor(1e6, 0.001, 0.38)), 1e-6),
        *(Check("Support at a corner", f"{degrees:g}°", "angle over the whole turn", degrees / 360.0,
                lambda degrees=degrees: corner(degrees), 1e-6) for degrees in (15.0, 60.0, 90.0, 150.0)),
        Check("Support of a strip", "half as wide as its disc", "area of a slice of a circle, by hand",
              (math.asin(0.5) + 0.5 * math.sqrt(0.75)) / math.pi, lambda: float(strip_support(0.5, 1.0)), 1e-9),
        Check("Layered bar", "lift of its ends, mm", "Wang, Xi and Jin, as published",
              1e3 * radius * (1 - math.cos(0.1 / (2 * radius))), bar, 1e-6),
        Check("Contact of two bodies", "equal effusivities", "mean of both temperatures", 160.0,
              lambda: float(contact_temperature(240.0, 500.0, 80.0, 500.0)), 1e-9),
        Check("Foot above its glass transition", "at it, for an hour", "ρ g H t/(3 η), η = 1e12 Pa s",
              1100 * 9.81 * 0.1 * 3600 / 3e12,
              lambda: float(foot_strain(1100.0, 0.1, 105.0 + 1e-9, 105.0, 3600.0, (17.44, 51.6))), 1e-12),
        Check("One part that held", "mean of the belief", "integral of a normal cut by a logistic", mean, held, 5e-3),
    ]  # fmt: skip


def _machine() -> list[Check]:
    import math

    from kaustos.core.physics.chamber import Chamber, radiation, surface, warm_up
    from kaustos.core.physics.near import melt_power, platinum_ohm
    from kaustos.core.physics.wear import tip_drop, worn_bore

    one = Chamber(air=8_000.0, wall=1e-3, air_to_wall=1e-9, air_to_room=5.0, wall_to_room=1.0)
    cone = math.pi / 6.0
    return [
        Check("Platinum sensor [ohm]", "1000 ohm at 100 °C", "IEC 60751", 1385.055,
              lambda: float(platinum_ohm(100.0, 1000.0)), 1e-3),
        Check("Heat into a melt [W]", "15 mm³/s of 1.24 g/cm³, 375 J/g", "product by hand", 6.975,
              lambda: float(melt_power(15e-9, 1240.0, 375e3)), 1e-9),
        Check("Worn bore [mm]", "0.4 mm, land 0.6, 60° cone, 0.9 lost", "0.4 + 0.6 tan 30° by hand",
              0.4 + 0.6 * math.tan(cone), lambda: 1e3 * float(worn_bore(4e-4, 6e-4, cone, 9e-4)), 1e-9),
        Check("Drop along a nozzle [K]", "5 W, 3 mm, 35 mm², 25 W/m/K", "Fourier's law by hand", 17.142857,
              lambda: float(tip_drop(5.0, 3e-3, 35e-6, 25.0)), 1e-5),
        Check("Chamber, single node [°C]", "200 W, 5 W/K, 8 kJ/K, 27 min", "exponential by hand",
              21.0 + 40.0 * (1.0 - math.exp(-1.0125)),
              lambda: float(warm_up(one, 200.0, 21.0, 21.0).air(1620.0)[0]), 1e-4),
        Check("Radiation [W/K]", "1 m² at 20 °C against 20 °C", "4 times the constant times T³",
              4 * 5.670374419e-8 * 293.15**3, lambda: float(radiation(1.0, 20.0, 20.0)), 1e-9),
        Check("Top of a plate [°C]", "100 °C, 6e-3 m²K/W, 12 W/m²/K, air at 30 °C", "two resistances in a row",
              30.0 + 70.0 / 1.072, lambda: float(surface(100.0, 6e-3, 12.0, 30.0)), 1e-9),
    ]  # fmt: skip


def _melt() -> list[Check]:
    import math

    import numpy as np

    from kaustos.core.physics.flow import flow_for_core, melt_exit, nozzle_pressure
    from kaustos.core.physics.layers import Stack, film_of, responses
    from kaustos.core.physics.weld import crystallised, healed
    from kaustos.core.planning.bead import bead_section, wall_of

    alpha, zone = 1.1e-7, 0.012
    flow = alpha * zone * math.pi / 0.4
    missing = 4.0 / 2.404826**2 * math.exp(-(2.404826**2) * 0.4)
    tau = 1e9 * 10.0 ** (-17.44 * 55.0 / 106.6)
    slow = Stack(layer=2e-4, period=30.0, below=60, conductivity=0.2, heat=1.9e6, edge=2.0 / 6e-4)
    found = responses(slow, 12.0)
    fin = Stack(layer=2e-4, period=4000.0, below=20, conductivity=0.2, heat=1.9e6, edge=400.0)
    m = math.sqrt(15.0 * 400.0 / 0.2)
    biot = 15.0 / (0.2 * m)
    top, z = 21 * 2e-4, 20 * 2e-4
    still = (math.cosh(m * (top - z)) + biot * math.sinh(m * (top - z))) / (
        math.cosh(m * top) + biot * math.sinh(m * top)
    )
    return [
        Check("Melt leaves at [°C]", "rod in a hot tube, Fo = 0.4", "first term of Carslaw and Jaeger's series",
              240.0 - 220.0 * missing, lambda: float(melt_exit(240.0, 20.0, flow, alpha, zone)), 1e-3),
        Check("Flow for a core 5 % short [mm³/s]", "1.1e-7 m²/s, 12 mm", "5.783 pi a L / ln(1.602/0.05)",
              5.783186 * math.pi * alpha * zone / math.log(1.601974 / 0.05) * 1e9,
              lambda: 1e9 * float(flow_for_core(0.05, alpha, zone)), 1e-6),
        Check("Pressure of a land [MPa]", "Newtonian, 200 Pa s, 5 mm³/s, 0.4 x 0.8 mm", "Hagen and Poiseuille",
              128.0 * 200.0 * 0.8e-3 * 5e-9 / (math.pi * 0.4e-3**4) / 1e6,
              lambda: float(nozzle_pressure(5e-9, 0.4e-3, 0.8e-3, 200.0, 1.0, entry=0.4e-3)) / 1e6, 1e-6),
        Check("Section of a bead [mm²]", "0.7 x 0.3 mm", "stadium by hand", 0.4 * 0.3 + math.pi * 0.09 / 4.0,
              lambda: bead_section(0.7, 0.3), 1e-9),
        Check("Wall of three lines [mm]", "0.7 x 0.3 mm", "by hand", 0.7 + 2 * (0.7 - 0.3 * (1 - math.pi / 4)),
              lambda: wall_of(3, 0.7, 0.3), 1e-9),
        Check("Degree of healing", "55 K above glass for 3 s", "fourth root of time over Wool's time",
              (3.0 / tau) ** 0.25, lambda: float(healed(np.full(4, 0.75), np.full(4, 160.0), 105.0)) / 1e9**0.25, 1e-9),
        Check("Relative crystallinity", "rate 0.05/s, 20 s, exponent 3", "Avrami's law", 1.0 - math.exp(-1.0),
              lambda: float(crystallised(np.linspace(0.0, 20.0, 9), np.full(9, 0.05), 3.0)[-1]), 1e-6),
        Check("Face of two layers", "at first, far from the plate", "two half-spaces in contact: the mean",
              0.5 * (1.0 + float(found.skin_melt[0])), lambda: float(found.melt[0][0]), 1e-2),
        Check("Warmth of a plate in a part", "20 layers up, at rest", "fin with a cooled tip", still,
              lambda: float(np.interp(4000.0, (rest := responses(fin, 15.0)).times, rest.plate[0])), 1e-2),
        Check("Film [W/m²/K]", "still air, 20 °C", "8 and Stefan's law at 45 K more",
              8.0 + 0.95 * 5.670374e-8 * (338.15**4 - 293.15**4) / 45.0, lambda: float(film_of(8.0, 20.0)), 1e-6),
    ]  # fmt: skip


def _supports() -> list[Check]:
    import math

    from kaustos.core.part.overhang import overhangs_of
    from kaustos.core.planning.support import again
    from kaustos.demo.bonding import profile

    wedge = profile(((0.0, 0.0), (10.0, 0.0), (40.0, 30.0), (0.0, 30.0)), 10.0)
    arch = profile(((0.0, 0.0), (5.0, 0.0), (5.0, 20.0), (25.0, 20.0), (25.0, 0.0), (30.0, 0.0), (30.0, 30.0),
                    (0.0, 30.0)), 8.0)  # fmt: skip
    return [
        Check("Slope of 45° [mm²]", "30 mm high, 10 mm deep", "by hand", 300.0 * math.sqrt(2.0),
              lambda: overhangs_of(wedge, 3.0)[0][0].area_mm2, 1e-6),
        Check("Room under it [mm³]", "down to the plate", "triangle by depth", 4500.0,
              lambda: overhangs_of(wedge, 3.0)[0][0].beyond(40.0).column_mm3, 1e-6),
        Check("Bridge [mm]", "arch of 20 mm", "by drawing", 20.0, lambda: overhangs_of(arch, 3.0)[0][0].span_mm, 1e-6),
        Check("Lost runs before a good one", "every fourth is lost", "mean of a geometric law", 1.0 / 3.0,
              lambda: again(0.25), 1e-9),
    ]  # fmt: skip


GROUPS: list[Callable[[], list[Check]]] = [
    _units, _shares, _service, _money, _air, _strand, _polymer, _warming, _scale, _machine, _bond,
    _melt, _supports,
]  # fmt: skip


def checks() -> list[Check]:
    """Every check of every group."""
    return [check for group in GROUPS for check in group()]


def document() -> str:
    """The checks as a page."""
    lines = [
        "# Validation",
        "",
        "Written by `python -m tests.validation` from the tests' own tables; a test fails where a number or this page",
        "is out of date. References come from outside this project.",
        "",
        "| model | case | reference from | reference | computed | tolerance |",
        "|---|---|---|---|---|---|",
    ]
    lines += [
        f"| {each.model} | {each.case} | {each.source} | {each.reference:.8g} | {each.computed:.8g} "
        f"| {each.tolerance:.1g} |"
        for each in checks()
    ]
    return (
        "\n".join(
            [
                *lines,
                *_practice(),
                *machine_lines(),
                *bond_lines(),
                *weld_lines(),
                *support_lines(),
                *run_lines(),
                *proof_lines(),
                *practice_lines(),
            ]
        )
        + "\n"
    )


if __name__ == "__main__":
    TARGET.write_text(document(), encoding="utf-8")
    sys.exit(0)
