"""A generic polymer with its values, each with range and source."""

import itertools
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import extra
from kaustos.core.records.quantities import QUANTITIES, check_number

LEAST_POINTS = 5  # of a modulus over temperature
LEAST_SATURATION = 1.2  # times the moisture at half humidity: no polymer is known to saturate below that
KNOWN_FROM = {
    "handbook": "handbook value for the generic polymer",
    "standard": "value from a standard",
    "paper": "value from a paper",
    "estimate": "estimate",
    "label": "label or data sheet of the grade",
    "own": "own value",
}
STRUCTURES = {"amorphous": "Amorphous", "semi_crystalline": "Semi-crystalline"}
WELD_CLASSES = {
    "amorphous": "amorphous: chains heal the weld above the glass transition",
    "slow": "crystallises so slowly that it prints amorphous",
    "crystallising": "crystallises while it prints",
}
CHARACTERS = {"stiff": "Stiff", "tough": "Tough", "rubbery": "Rubbery"}
OUTDOOR = {
    "good": "stands sun and rain",
    "fair": "stands sun and rain for a while",
    "poor": "turns brittle in sun and rain",
}
CLARITIES = {"clear": "clear", "translucent": "lets light through", "opaque": "opaque"}
FINISHES = {"gloss": "glossy", "satin": "satin", "matt": "matt"}
CHEMICALS = {
    "oils": "Oils and greases",
    "fuels": "Fuels",
    "acids": "Dilute acids",
    "strong_acids": "Concentrated acids",
    "alkalis": "Alkalis",
    "alcohols": "Alcohols",
    "ketones": "Ketones",
    "chlorinated": "Chlorinated solvents",
    "hot_water": "Hot water",
    "steam": "Cycles of steam",
}


@attrs.frozen(kw_only=True)
class Datum:
    """One value with its 95 % range, its unit and where it is known from."""

    value: float
    low: float
    high: float
    unit: str
    kind: str
    source: str
    doubt: str = ""
    rival: float | None = None  # the other value that is held, where two are
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        if self.kind not in KNOWN_FROM:
            raise FieldError("kind", f"{self.kind!r} is none of {', '.join(KNOWN_FROM)}")
        if not self.low <= self.value <= self.high:
            raise FieldError("low, value, high", f"{self.low:g}, {self.value:g}, {self.high:g} must not fall")
        if not self.source.strip():
            raise FieldError("source", "must not be empty")
        if self.rival is not None and not self.doubt.strip():
            raise FieldError("doubt", "must say why two values are held")

    @property
    def band(self) -> tuple[float, float, float]:
        """Least, likely, most [its unit]."""
        return self.low, self.value, self.high


HANDLINGS = {  # what is done with a part afterwards, and how that goes badly
    "glued": "hardly any glue holds without treating its surface",
    "painted": "paint peels off without a primer of its own",
    "sanded": "it smears or frays under sandpaper",
    "inserts": "it cracks or lets go round pressed inserts",
    "slides": "it galls or wears where it slides",
}


@attrs.frozen(kw_only=True)
class Curve:
    """Modulus over temperature, and by what factor each of it may lie off."""

    points: tuple[tuple[float, float], ...]  # [°C, MPa]
    factor: float
    kind: str
    source: str

    def __attrs_post_init__(self) -> None:
        if self.kind not in KNOWN_FROM:
            raise FieldError("kind", f"{self.kind!r} is none of {', '.join(KNOWN_FROM)}")
        if len(self.points) < LEAST_POINTS:
            raise FieldError("points", f"at least {LEAST_POINTS} points of temperature and modulus are wanted")
        if any(len(each) != 2 for each in self.points):
            raise FieldError("points", "each must be a temperature and a modulus")
        if not all(one[0] < other[0] for one, other in itertools.pairwise(self.points)):
            raise FieldError("points", "temperatures must rise")
        if not all(modulus > 0.0 for _, modulus in self.points):
            raise FieldError("points", "every modulus must be above nothing")
        if not self.factor >= 1.0:
            raise FieldError("factor", f"must be at least 1, got {self.factor!r}")
        if not self.source.strip():
            raise FieldError("source", "must not be empty")


@attrs.frozen(kw_only=True)
class Traits:
    """What is known in words: weather, light, look, what attacks the polymer, and what is hard to do with its parts."""

    outdoor: str
    clarity: str
    finish: str
    attacked_by: tuple[str, ...]
    goes_badly: tuple[str, ...]
    kind: str
    source: str

    def __attrs_post_init__(self) -> None:
        words = {"outdoor": OUTDOOR, "clarity": CLARITIES, "finish": FINISHES, "kind": KNOWN_FROM}
        for name, known in words.items():
            if getattr(self, name) not in known:
                raise FieldError(name, f"{getattr(self, name)!r} is none of {', '.join(known)}")
        for each in self.attacked_by:
            if each not in CHEMICALS:
                raise FieldError("attacked_by", f"{each!r} is none of {', '.join(CHEMICALS)}")
        for each in self.goes_badly:
            if each not in HANDLINGS:
                raise FieldError("goes_badly", f"{each!r} is none of {', '.join(HANDLINGS)}")


@attrs.frozen(kw_only=True)
class ValueKind:
    """Declares one polymer value: what it is called and what it measures."""

    key: str
    title: str
    quantity: str
    note: str = ""

    @property
    def unit(self) -> str:
        """Its shop unit."""
        return QUANTITIES[self.quantity].unit


def deflection_key(stress_mpa: float, history: str, moisture: str) -> str:
    """Key of the deflection temperature for a load and the state of the part.

    Parameters
    ----------
    stress_mpa : float
        Tabulated load, 0.45 or 1.8 [MPa]
    history : str
        as_printed or annealed [-]
    moisture : str
        dry or conditioned [-]

    Returns
    -------
    str
        Key among the polymer's values [-]

    Examples
    --------
    >>> deflection_key(0.45, "as_printed", "dry")
    'deflection_045_as_printed_dry_c'
    """
    return f"deflection_{round(stress_mpa * 100):03d}_{history}_{moisture}_c"


DEFLECTION_STRESSES_MPA = (0.45, 1.8)
_DEFLECTION = tuple(
    ValueKind(
        key=deflection_key(stress, history, moisture),
        title=f"Deflection temperature at {stress:g} MPa, {history.replace('_', ' ')}, {moisture}",
        quantity="temperature",
        note="ISO 75 under bending",
    )
    for stress in DEFLECTION_STRESSES_MPA
    for history in ("as_printed", "annealed")
    for moisture in ("dry", "conditioned")
)
POLYMER_VALUES = {
    kind.key: kind
    for kind in (
        ValueKind(
            key="glass_transition_c",
            title="Glass transition",
            quantity="temperature",
            note="ISO 11357-2, midpoint",
        ),
        ValueKind(key="melting_c", title="Melting", quantity="temperature", note="ISO 11357-3, peak"),
        ValueKind(
            key="crystallisation_c",
            title="Crystallisation onset on cooling",
            quantity="temperature",
            note="ISO 11357-3, cooling at 10 to 20 K/min",
        ),
        ValueKind(
            key="decomposition_c",
            title="Start of decomposition in the melt",
            quantity="temperature",
            note="where processing begins to break chains, well below mass loss in a thermobalance",
        ),
        ValueKind(key="nozzle_low_c", title="Nozzle window, lower end", quantity="temperature"),
        ValueKind(key="nozzle_high_c", title="Nozzle window, upper end", quantity="temperature"),
        ValueKind(key="plate_low_c", title="Plate window, lower end", quantity="temperature"),
        ValueKind(key="plate_high_c", title="Plate window, upper end", quantity="temperature"),
        ValueKind(key="chamber_low_c", title="Chamber window, lower end", quantity="temperature"),
        ValueKind(key="chamber_high_c", title="Chamber window, upper end", quantity="temperature"),
        ValueKind(key="dryer_low_c", title="Dryer window, lower end", quantity="temperature"),
        ValueKind(key="dryer_high_c", title="Dryer window, upper end", quantity="temperature"),
        ValueKind(key="fan_low", title="Fan, least", quantity="share"),
        ValueKind(key="fan_high", title="Fan, most", quantity="share"),
        ValueKind(key="density_g_cm3", title="Density", quantity="density", note="ISO 1183, solid"),
        ValueKind(
            key="abrasion",
            title="Abrasion of the nozzle",
            quantity="ratio",
            note="wear per gram, unfilled polymer = 1; an order of magnitude only",
        ),
        ValueKind(
            key="moisture_50_pct",
            title="Moisture in air at half saturation",
            quantity="moisture",
            note="ISO 62, in equilibrium; water per dry polymer",
        ),
        ValueKind(key="moisture_saturated_pct", title="Moisture at saturation", quantity="moisture", note="ISO 62"),
        ValueKind(key="moisture_limit_pct", title="Moisture that still prints well", quantity="moisture"),
        ValueKind(key="diffusivity_80c_um2_s", title="Diffusivity of water at 80 °C", quantity="diffusivity"),
        ValueKind(key="diffusion_energy_kj_mol", title="Activation energy of diffusion", quantity="molar_energy"),
        ValueKind(
            key="drying_most_h",
            title="Hours of drying that begin to harm",
            quantity="duration",
            note="in air at the upper end of the dryer window",
        ),
        ValueKind(key="label_dries_low_h", title="Hours in the dryer on the label, least", quantity="duration"),
        ValueKind(key="label_dries_high_h", title="Hours in the dryer on the label, most", quantity="duration"),
        ValueKind(
            key="long_service_c",
            title="Hottest air for years",
            quantity="temperature",
            note="air in which it keeps half its strength for about 20 000 h, without load",
        ),
        ValueKind(
            key="expansion_glassy_um_mk",
            title="Expansion below the glass transition",
            quantity="expansion",
            note="linear, ISO 11359-2, along the bead",
        ),
        ValueKind(key="expansion_rubbery_um_mk", title="Expansion above the glass transition", quantity="expansion"),
        ValueKind(
            key="crystal_shrinkage_pct",
            title="Shrinkage of crystallisation",
            quantity="share",
            note="linear, from melt to part, as far as it crystallises while it prints",
        ),
        ValueKind(key="strength_mpa", title="Yield stress", quantity="stress", note="ISO 527, 23 °C, along the bead"),
        ValueKind(key="fracture_kj_m2", title="Energy of fracture of the bulk", quantity="fracture"),
        ValueKind(key="conductivity_w_mk", title="Heat conductivity", quantity="conductivity"),
        ValueKind(key="heat_capacity_kj_kgk", title="Heat capacity", quantity="heat_capacity"),
        ValueKind(
            key="viscosity_pa_s",
            title="Viscosity of the melt",
            quantity="viscosity",
            note="at 1000/s and the middle of the nozzle window",
        ),
        ValueKind(
            key="fusion_kj_kg", title="Heat of fusion", quantity="heat_of_fusion", note="of the filament as it is fed"
        ),
        ValueKind(
            key="stable_min", title="Stands in the hot end", quantity="minutes", note="at the top of the nozzle window"
        ),
        ValueKind(key="speed_most_mm_s", title="Speed that suppliers allow", quantity="speed"),
        ValueKind(key="crystal_fastest_c", title="Crystallises fastest at", quantity="temperature"),
        ValueKind(
            key="crystal_half_s", title="Half crystallised after", quantity="seconds", note="at the fastest, no flow"
        ),
        ValueKind(key="price_per_kg", title="Price of filament", quantity="price"),
        *_DEFLECTION,
    )
}


def check_datum(key: str, datum: Datum) -> Datum:
    """The datum itself where its numbers are possible for the value it gives.

    Parameters
    ----------
    key : str
        Which polymer value it is [-]
    datum : Datum
        Value with its range [unit of the datum]

    Returns
    -------
    Datum
        The same datum [unit of the datum]
    """
    kind = POLYMER_VALUES[key]
    for number in datum.band:
        check_number(key, number, kind.quantity)
    return datum


def check_sorption(values: Mapping[str, Datum]) -> Mapping[str, Datum]:
    """The values themselves; a saturation that is none is refused: a day in water says little of what a polymer holds.

    Parameters
    ----------
    values : mapping of str to Datum
        Values of a polymer, those for water among them or not [units of the data]

    Returns
    -------
    mapping of str to Datum
        The same values [units of the data]
    """
    half, full = values.get("moisture_50_pct"), values.get("moisture_saturated_pct")
    if half is not None and full is not None and not full.value > LEAST_SATURATION * half.value:
        raise FieldError(
            POLYMER_VALUES["moisture_saturated_pct"].title,
            f"{full.value:g} % is hardly more than the {half.value:g} % at half humidity; a 24 h figure is no "
            "saturation: weigh until it gains nothing, or leave it out",
        )
    return values


@attrs.frozen(kw_only=True)
class Polymer:
    """Typical values of a generic polymer, or what is left of them under a lot's own values."""

    id: str
    name: str
    structure: str
    weld_class: str
    emissions: str
    traits: Traits
    family: str = ""  # whose bonds to surfaces are alike
    modulus: Curve | None = None
    character: str = "stiff"
    is_support: bool = False  # washed away after printing: no part is made of it
    hydrolyses: bool = False  # wet melt loses chains
    absorbs: bool = True  # else water stays on its surface
    wet_signs: str = ""  # how a wet melt shows; empty for polymers that show nothing
    cautions: tuple[str, ...] = ()
    values: Mapping[str, Datum] = attrs.field(hash=False)

    @property
    def is_glassy(self) -> bool:
        """Whether the glass transition, not crystals, gives the fresh print its stiffness."""
        return self.weld_class != "crystallising"

    def value(self, key: str) -> Datum | None:
        """The datum for a key, None where nothing is known."""
        return self.values.get(key)
