"""Annealing, growth and tones beside practice: usual programmes against what is asked, known bars against theirs."""

import math

import attrs

from kaustos.core.planning.anneal_programme import Load, Programme, Step, window_of
from kaustos.core.planning.annealing import annealed, hold_wanted_h, ramp_limit
from kaustos.core.planning.growth import growth_of
from kaustos.core.planning.tone import Bar, tone_wanted
from kaustos.library import load

WALLS = (3.0, 10.0, 30.0)
STIFF = ((1.0, 2.0), (2.0, 4.0), (5.0, 12.0))  # hours of the walls; the last practice tells of 25 mm, for 30 here
USUAL = (  # polymer, hold [°C], hours at it for each wall, why hours or holds differ by more than 1.5
    ("pla", 80.0, 110.0, ((0.5, 1.5),) * 3, ""),
    ("pet_cf", 110.0, 150.0, ((4.0, 12.0),) * 3, ""),
    ("pa6", 80.0, 120.0, ((4.0, 8.0),) * 3, ""),
    ("pps_cf", 110.0, 150.0, ((4.0, 12.0),) * 3, ""),
    ("peek", 195.0, 250.0, ((1.0, 2.0), (3.0, 4.0), (6.0, 12.0)), ""),
    ("pekk_a", 180.0, 230.0, STIFF, ""),
    ("pc", 120.0, 135.0, STIFF, ""),
    ("pei", 195.0, 205.0, STIFF, ""),
)
THICK_RAMP = (5.0, 60.0)  # usual for 30 mm [K/h]
GROWTH = (  # polymer, usual growth along the beads and across the layers [%]
    ("pla", (-3.0, -0.5), (0.0, 2.0)), ("pet_cf", (-1.0, -0.1), (-0.3, 1.0)), ("pa6", (-1.0, -0.2), (-0.5, 0.3)),
    ("pps_cf", (-0.6, 0.0), (-0.6, 0.3)), ("peek", (-1.0, -0.3), (-0.8, 0.3)), ("pekk_a", (-2.0, -0.5), (-1.0, 1.5)),
    ("pc", (-0.8, -0.1), (-0.1, 0.6)), ("pei", (-0.6, 0.0), (-0.1, 0.5)),
)  # fmt: skip
BARS = (  # material, modulus [GPa], density [g/cm³]
    ("steel", 207.0, 7.85), ("aluminium", 70.0, 2.70), ("glass", 70.0, 2.50), ("acrylic", 3.2, 1.19),
    ("PC, moulded", 2.35, 1.20), ("PEEK, moulded", 3.7, 1.30),
)  # fmt: skip


@attrs.frozen
class Beside:
    """One wall of one polymer: what practice does, and what is asked."""

    polymer: str
    wall_mm: float
    hold_c: tuple[float, float]
    aim_c: float
    hold_h: tuple[float, float]
    core_h: float
    oven_h: float  # of the air at its hold
    ramp_k_h: float
    why: str

    @property
    def off(self):
        """By what factor the hours at the hold lie outside practice; 1 inside."""
        low, high = self.hold_h
        return max(low / self.oven_h, self.oven_h / high, 1.0)


def anneals():
    """Every polymer and wall, in a fan oven."""
    polymers = load().polymers
    for key, low_c, high_c, by_wall, why in USUAL:
        polymer, window = polymers[key], window_of(polymers[key])
        for wall, usual_h in zip(WALLS, by_wall, strict=True):
            load_ = Load(wall_mm=wall, fan=True)
            ramp = ramp_limit(load_, polymer).ramp_k_h
            used = min(ramp, 60.0)
            plan = Programme(from_c=21.0, steps=(Step(ramp_k_h=used, hold_c=window.aim, hold_h=1.0),), cool_k_h=used,
                             out_c=50.0)  # fmt: skip
            hours = hold_wanted_h(plan, load_, polymer, strict=False)
            found = annealed(attrs.evolve(plan, steps=(attrs.evolve(plan.steps[0], hold_h=hours),)), load_, polymer)
            yield Beside(polymer.name, wall, (low_c, high_c), window.aim, usual_h, hours,
                         hours + found.waits_h[0], ramp, why)  # fmt: skip


def growths():
    """Usual growth and the band that is reckoned with: name, axis, practice, band."""
    polymers = load().polymers
    for key, along, up in GROWTH:
        for axis, usual in (("x", along), ("z", up)):
            found = growth_of((), polymers[key], axis)
            yield polymers[key].name, axis, usual, (found.low, found.high)


def tones():
    """Bars of 150 x 20 x 4 mm: name, modulus [GPa], tone by thin-beam theory and as reckoned [Hz]."""
    length, width, thick = 0.150, 0.020, 0.004
    for name, modulus, density in BARS:
        plain = 22.3733 / (2.0 * math.pi * length**2) * math.sqrt(modulus * 1e9 * thick**2 / 12.0 / density / 1e3)
        bar = Bar(length_mm=150.0, width_mm=20.0, thick_mm=4.0, mass_g=density * 1e6 * length * width * thick)
        yield name, modulus, plain, tone_wanted(bar, modulus * 1e3)


def proof_lines():
    """The tables as lines of a page."""
    lines = ["", "## Annealing beside practice", "", "In a fan oven; hours of the core are what the likely crystals or "
             "stress ask, at least an hour; hours of the air add the wait for the core. Ramps are those that a section "
             "bears; practice takes 30 to 60 K/h, and 5 to 20 K/h for thick PEEK and PEI.", ""]  # fmt: skip
    lines += ["| polymer | wall [mm] | practice [°C] | aim [°C] | practice [h] | core [h] | air [h] | bears | why |"]
    lines += ["|---|---|---|---|---|---|---|---|---|"]
    lines += [
        f"| {each.polymer} | {each.wall_mm:g} | {each.hold_c[0]:g} to {each.hold_c[1]:g} | {each.aim_c:.0f} | "
        f"{each.hold_h[0]:g} to {each.hold_h[1]:g} | {each.core_h:g} | {each.oven_h:.1f} | {each.ramp_k_h:.0f} | "
        f"{each.why if each.off > 1.5 else ''} |"
        for each in anneals()
    ]
    lines += ["", "Growth without any coupon [%]:", "", "| polymer | axis | practice | reckoned |", "|---|---|---|---|"]
    lines += [f"| {name} | {axis} | {usual[0]:g} to {usual[1]:g} | {band[0]:g} to {band[1]:g} |"
              for name, axis, usual, band in growths()]  # fmt: skip
    lines += ["", "First tone of a bar of 150 x 20 x 4 mm [Hz]:", ""]
    lines += ["| material | GPa | thin beam | reckoned |", "|---|---|---|---|"]
    lines += [f"| {name} | {modulus:g} | {plain:.1f} | {found:.1f} |" for name, modulus, plain, found in tones()]
    return lines
