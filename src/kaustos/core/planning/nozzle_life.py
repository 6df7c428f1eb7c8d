"""What a nozzle has lost by what was fed through it and found on it, and how much more it takes."""

import functools
import math

import attrs
import numpy as np

from kaustos.core.estimates import NOZZLES
from kaustos.core.estimates.assumed import Band
from kaustos.core.memo import by_identity
from kaustos.core.physics.wear import loss_at_bore, tip_drop, tip_loss, worn_bore
from kaustos.core.planning.draws import DRAWS, Array, drawn, estimate, normal, spread
from kaustos.core.records import FILLER_WEARS, Estimate, Nozzle
from kaustos.core.records.nozzle import Fed, Inspection, band_of

WIDER = 2.0  # the wear is drawn from that much more than is thought of it, so that what is found may differ
FEWEST = 20.0  # draws that agree with what was found, below which the last look alone is believed
SHORT_M, WIDE = NOZZLES["short"].value / 1e3, NOZZLES["wide"].value / 100.0
HARD = NOZZLES["hard"].value
_WORN_STATES = ("enlarged", "damaged")


@attrs.frozen(eq=False)
class Wear:
    """Draws of what a nozzle has lost, each with its weight, and what is made of them."""

    loss_m: Array
    looked_m: Array  # what was lost when it was last looked at
    land_m: Array
    half_angle: Array
    rate: Array  # [m/kg] of unfilled polymer, this nozzle's own
    weights: Array
    bore_m: float | None  # when new
    fed_g: float
    fed_since_look_g: float
    is_found_worn: bool
    agrees: bool  # whether what was found agrees with what was fed
    looks: int
    source: str

    def lost(self) -> Estimate:
        """How much shorter its tip is than new."""
        return self._estimate(self.loss_m * 1e6, "µm", "wear by grams fed" + self._by_looks())

    def lost_since_look(self) -> Estimate:
        """How much shorter its tip is than when it was looked at."""
        return self._estimate((self.loss_m - self.looked_m) * 1e6, "µm", "wear by grams fed" + self._by_looks())

    def bore(self) -> Estimate | None:
        """Its bore now, None where it is not known how wide it was when new."""
        if self.bore_m is None:
            return None
        now = worn_bore(self.bore_m, self.land_m, self.half_angle, self.loss_m)
        return self._estimate(now * 1e3, "mm", "bore when new, opened along the cone" + self._by_looks())

    def until_look(self, wears: Band) -> Estimate:
        """Filament until it has lost so much since it was looked at that the first layer shows it [g]."""
        return _until_look(self, wears)

    def until_end(self, wears: Band) -> Estimate:
        """Filament until its bore is wider than walls and details allow; none where it was found worn [g]."""
        return _until_end(self, wears)

    def grams(self, left_m: Array, wears: Band, method: str) -> Estimate:
        """The filament that wears off so much [g]."""
        per_kg = self.rate * drawn(f"wears {wears}", wears)
        return self._estimate(1e3 * left_m / per_kg, "g", method + self._by_looks())

    def _by_looks(self) -> str:
        if not self.looks:
            return ", never looked at"
        words = f", corrected by {self.looks} look{'' if self.looks == 1 else 's'}"
        return words if self.agrees else f"{words}, which do not agree with what was fed"

    def _estimate(self, draws: Array, unit: str, method: str) -> Estimate:
        return estimate(draws, unit, method, self.source, self.weights)


@functools.lru_cache(512)
def _until_look(wear: Wear, wears: Band) -> Estimate:
    left_m = np.maximum(0.0, SHORT_M - (wear.loss_m - wear.looked_m))
    return wear.grams(left_m, wears, "grams until the tip is shorter by what a first layer shows")


@functools.lru_cache(512)
def _until_end(wear: Wear, wears: Band) -> Estimate:
    bore = wear.bore_m or 0.0
    end = loss_at_bore(bore, wear.land_m, wear.half_angle, (1.0 + WIDE) * bore)
    left_m = np.maximum(0.0, end - wear.loss_m) * (0.0 if wear.is_found_worn else 1.0)
    return wear.grams(left_m, wears, "grams until the bore is too wide")


def hardness_of(material: str | None) -> Band:
    """How a nozzle of a material wears, times one of brass; soft where it is not known.

    Parameters
    ----------
    material : str or None
        One of ``MATERIALS`` [-]

    Returns
    -------
    tuple of float
        Least, likely, most [1]
    """
    return NOZZLES[f"hardness.{material}"].band if material else NOZZLES["unknown_material"].band


@by_identity(256)
def wear_of(nozzle: Nozzle, by_runs: tuple[Fed, ...]) -> Wear:
    """Draws of what a nozzle has lost.

    Parameters
    ----------
    nozzle : Nozzle
        Material, land, cone, what was fed by hand and found [shop units]
    by_runs : tuple of Fed
        What runs fed through it [g]

    Returns
    -------
    Wear
        Draws with their weights [m]

    Notes
    -----
    Loss in proportion to grams times the wear of the filler times that of the nozzle's material, each drawn within its
    band; every look weighs the draws by how well they agree with it. Draws are always the same, so that more filament
    never gives less wear.

    References
    ----------
    Importance sampling, as in Robert and Casella, Monte Carlo Statistical Methods.
    """
    fed = (*(Fed(each.at_utc, each.grams or 0.0, band_of(FILLER_WEARS.get(each.filler or ""))) for each in nozzle.fed),
           *by_runs)  # fmt: skip
    looks = tuple(sorted(nozzle.inspections, key=lambda each: each.at_utc))
    measured = tuple(each for each in looks if each.lost_mm is not None or each.bore_mm is not None)
    wide = WIDER if measured else 1.0
    rate_draws = wide * normal("rate")
    rate = spread(rate_draws, NOZZLES["wear"].band) * 1e-6 * spread(normal("hardness"), hardness_of(nozzle.material))
    land = spread(normal("land"), _exact(nozzle.land_mm, "land")) / 1e3
    half_angle = np.radians(spread(normal("cone"), _exact(nozzle.cone_deg, "cone"))) / 2.0
    weights = np.exp(-0.5 * rate_draws**2 * (1.0 - 1.0 / wide**2))
    now = _loss(fed, rate)
    then = [_loss(tuple(each for each in fed if each.at_utc <= look.at_utc), rate) for look in measured]
    bore_m = None if nozzle.bore_mm is None else nozzle.bore_mm / 1e3
    agreed = weights.copy()
    for look, loss in zip(measured, then, strict=True):
        agreed = agreed * _agreement(look, loss, bore_m, land, half_angle)
    agrees = not measured or float(agreed.sum()) ** 2 > FEWEST * float((agreed**2).sum())
    if agrees:
        weights = agreed
    else:
        now, rate = _believing(measured[-1], then[-1], now, rate, bore_m, land, half_angle)
    last = looks[-1].at_utc if looks else ""
    looked = _loss(tuple(each for each in fed if each.at_utc <= last), rate) if looks else np.zeros(DRAWS)
    return Wear(
        loss_m=now, looked_m=np.minimum(looked, now), land_m=land, half_angle=half_angle, rate=rate,
        weights=weights / weights.sum(), bore_m=bore_m, fed_g=sum(each.grams for each in fed),
        fed_since_look_g=sum(each.grams for each in fed if each.at_utc > last or not looks),
        is_found_worn=bool(looks) and looks[-1].state in _WORN_STATES, agrees=agrees, looks=len(looks),
        source=f"{nozzle.name or nozzle.id}: material, log and looks; rates of wear: practice, estimate",
    )  # fmt: skip


def _exact(known: float | None, key: str) -> Band:
    return NOZZLES[key].band if known is None or not known > 0.0 else (known, known, known)


def _loss(fed: tuple[Fed, ...], rate: Array) -> Array:
    plain_kg = np.zeros(DRAWS)
    grams: dict[Band, float] = {}
    for each in fed:
        grams[each.wears] = grams.get(each.wears, 0.0) + each.grams
    for wears, mass in grams.items():
        plain_kg = plain_kg + mass / 1e3 * drawn(f"wears {wears}", wears)
    return tip_loss(plain_kg, rate)


def _agreement(look: Inspection, loss: Array, bore_m: float | None, land: Array, half_angle: Array) -> Array:
    """How well draws agree with what one look found."""
    off = np.zeros(DRAWS)
    if look.lost_mm is not None:
        off = off + ((loss * 1e3 - look.lost_mm) / NOZZLES["seen_lost"].value) ** 2
    if look.bore_mm is not None and bore_m is not None:
        found = worn_bore(bore_m, land, half_angle, loss) * 1e3
        off = off + ((found - look.bore_mm) / NOZZLES["seen_bore"].value) ** 2
    return np.exp(-0.5 * np.minimum(off, 1400.0))


def _believing(
    look: Inspection, then: Array, now: Array, rate: Array, bore_m: float | None, land: Array, half_angle: Array
) -> tuple[Array, Array]:
    """Loss and rate where what was found is far from what was fed: as found, and from there on at that pace."""
    noise = NOZZLES["seen_lost"].value / 1e3 * normal("seen")
    if look.lost_mm is not None:
        found = look.lost_mm / 1e3 + noise
    else:
        wide = (look.bore_mm or 0.0) / 1e3
        new = bore_m if bore_m is not None else wide
        found = np.where(wide > new, loss_at_bore(new, land, half_angle, wide), 0.5 * land) + noise
    found = np.maximum(found, 0.0)
    pace = found / np.maximum(then, 1e-12)
    return found + (now - then) * np.maximum(pace, 0.1), rate * np.maximum(pace, 0.1)


@functools.cache
def colder_k(material: str) -> Estimate:
    """How much colder than through brass a melt leaves a nozzle of a material at the same setpoint.

    Parameters
    ----------
    material : str
        One of ``MATERIALS`` [-]

    Returns
    -------
    Estimate
        Positive for one that conducts worse [K]
    """
    section, power = drawn("section", NOZZLES["tip_section"].band), drawn("power", NOZZLES["tip_power"].band)
    path = drawn("path", NOZZLES["tip_path"].band) / 1e3
    drops = [
        tip_drop(power, path, section / 1e6, drawn(f"conducts {each}", NOZZLES[f"conducts.{each}"].band))
        for each in (material, "brass")
    ]
    return estimate(
        drops[0] - drops[1], "K", "drop along the nozzle less that along one of brass",
        "conductivity of the material, size of a nozzle: practice, estimate",
    )  # fmt: skip


def bores_for(filler: str) -> tuple[float, float] | None:
    """The least bore for a filler, and from where on it runs well.

    Parameters
    ----------
    filler : str
        One of ``FILLERS`` [-]

    Returns
    -------
    tuple of float or None
        Both [mm]; None where the filler asks for none
    """
    if f"bore_least.{filler}" not in NOZZLES:
        return None
    return NOZZLES[f"bore_least.{filler}"].value, NOZZLES[f"bore_good.{filler}"].value


def is_hard(nozzle: Nozzle | None) -> bool:
    """Whether a nozzle is known to be hard enough for fibres.

    Parameters
    ----------
    nozzle : Nozzle or None
        With its material, as far as it is recorded [-]

    Returns
    -------
    bool
        False where the material is not known [-]
    """
    return nozzle is not None and nozzle.material is not None and hardness_of(nozzle.material)[1] <= HARD


@attrs.frozen
class Section:
    """The section of a nozzle to scale: as it was new, and what of its tip is gone by least, likely, most [mm]."""

    bore_mm: float
    land_mm: float
    half_angle: float  # [rad]
    lost_mm: Band
    end_mm: float  # lost when its bore is too wide
    is_guessed: bool  # whether bore, land or cone are those of any nozzle
    title: str


def section_of(nozzle: Nozzle, wear: Wear) -> Section:
    """The section of a nozzle with its wear.

    Parameters
    ----------
    nozzle : Nozzle
        Bore, land and cone; usual ones where they are not recorded [shop units]
    wear : Wear
        What it has lost [m]

    Returns
    -------
    Section
        To scale [mm]
    """
    bore, land, cone = (
        NOZZLES[key].value if each is None else each
        for key, each in (("bore", nozzle.bore_mm), ("land", nozzle.land_mm), ("cone", nozzle.cone_deg))
    )
    lost, half = wear.lost(), math.radians(cone) / 2.0
    end = float(loss_at_bore(bore, land, half, (1.0 + WIDE) * bore))
    return Section(
        bore_mm=bore, land_mm=land, half_angle=half, lost_mm=(lost.low / 1e3, lost.value / 1e3, lost.high / 1e3),
        end_mm=end, is_guessed=None in (nozzle.bore_mm, nozzle.land_mm, nozzle.cone_deg), title=nozzle.name,
    )  # fmt: skip
