"""How a part that left an oven dry takes its water up again."""

from kaustos.core.planning.draws import drawn, estimate
from kaustos.core.records import Estimate, Polymer
from kaustos.core.review.contract import Context
from kaustos.core.review.section import Wall

GAS = 8.314462618e-3  # kJ/mol/K
HALF = 0.1963  # Fourier number at which a slab open on both faces is half full, by its half thickness
LEAST_PCT = 0.5  # water at half humidity from which size and stiffness change with it


def hours_to_water(polymer: Polymer | None, wall: Wall | None, context: Context) -> Estimate | None:
    """Hours until half of its water is back [h]; None where it takes hardly any, or that is not known."""
    if polymer is None or wall is None or wall.by == "size":  # a smallest side is far more than a wall
        return None
    takes, spreads, energy = (
        polymer.value(key) for key in ("moisture_50_pct", "diffusivity_80c_um2_s", "diffusion_energy_kj_mol")
    )
    if takes is None or spreads is None or energy is None or takes.value < LEAST_PCT or not spreads.low > 0.0:
        return None
    room = context.rules.room_c + 273.15
    half_um = wall.mm * 500.0
    at_80 = drawn("diffusivity", spreads.band)
    colder = (1.0 / room - 1.0 / 353.15) / GAS
    diffusivity = at_80 * 2.718281828459045 ** (-drawn("diffusion energy", energy.band) * colder)
    found = HALF * half_um**2 / diffusivity / 3600.0
    return estimate(found, "h", "half of its water, by diffusion into a slab", spreads.source)
