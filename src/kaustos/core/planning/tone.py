"""A tapped bar: the tone in a recording, how long it rings, and the stiffness that follows."""

import math

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.planning.draws import Array
from kaustos.core.records import Estimate

NODE = 0.224  # of the length from either end, where a bar is laid
HIGHEST = 0.4  # of the sampling rate, above which a tone is not believed
QUIET = 1e-4  # of full scale below which a recording is silence
CLIPS = 0.995  # of full scale at which a recording is cut
LOWEST_HZ = 40.0  # mains and footsteps below
DIRECTIONS = {"flat": "Tapped on its wide face", "edge": "Tapped on its narrow face"}


@attrs.frozen(kw_only=True)
class Tone:
    """What a recording of one tap says."""

    hz: float
    doubt_hz: float
    decay_s: float  # until it has fallen to a third
    clipped: bool
    noise: float  # rms of the noise over that of the tone [1]


def tone_of(samples: Array, rate_hz: float) -> Tone:
    """The lowest strong tone of a tapped bar.

    Parameters
    ----------
    samples : ndarray
        Of one channel, full scale 1 [1]
    rate_hz : float
        Samples in a second [Hz]

    Returns
    -------
    Tone
        Frequency, decay, whether it was cut [Hz, s]

    Notes
    -----
    From the loudest moment on, under a window; the strongest line above 40 Hz, its place from a parabola through the
    logarithm of three lines of a spectrum that is padded eight times. A tone above 0.4 of the sampling rate is refused:
    it may be the image of another one.
    """
    found = np.asarray(samples, float)
    if found.ndim != 1 or found.size < 256 or not rate_hz > 0.0:
        raise KaustosError("A recording of at least 256 samples of one channel is wanted.")
    if not np.all(np.isfinite(found)):
        raise KaustosError("The recording holds what is no number.")
    found = found - found.mean()
    if float(np.abs(found).max()) < QUIET:
        raise KaustosError("The recording is silent.")
    start = int(np.argmax(np.abs(found)))
    tail = found[start:]
    if tail.size < 256:
        raise KaustosError("The tap lies at the very end of the recording: record half a second more.")
    tail = tail[: min(tail.size, int(2.0 * rate_hz))]
    spectrum, lines = _spectrum(tail, rate_hz)
    allowed = (lines >= LOWEST_HZ) & (lines <= rate_hz / 2.0)
    peak = int(np.argmax(np.where(allowed, spectrum, 0.0)))
    hz = _between(spectrum, lines, peak)
    if hz > HIGHEST * rate_hz:
        raise KaustosError(
            f"The tone lies at {hz:.0f} Hz, above 0.4 of the sampling rate of {rate_hz:.0f} Hz: record it faster."
        )
    decay = _decay(tail, rate_hz, hz)
    noise = _noise(spectrum, peak)
    return Tone(
        hz=hz, doubt_hz=max(0.001 * hz, rate_hz / tail.size * 0.1), decay_s=decay,
        clipped=bool(np.count_nonzero(np.abs(samples) >= CLIPS) > 4), noise=noise,
    )  # fmt: skip


def _spectrum(tail: Array, rate_hz: float) -> tuple[Array, Array]:
    count = 8 * 2 ** math.ceil(math.log2(tail.size))
    fade = np.hanning(2 * tail.size)[tail.size :]  # loudest at the tap, nothing at the end
    lines = np.asarray(np.fft.rfftfreq(count, 1.0 / rate_hz), np.float64)
    return np.asarray(np.abs(np.fft.rfft(tail * fade, count)), np.float64), lines


def _between(spectrum: Array, lines: Array, peak: int) -> float:
    if not 0 < peak < spectrum.size - 1:
        return float(lines[peak])
    left, middle, right = np.log(np.maximum(spectrum[peak - 1 : peak + 2], 1e-300))
    bend = left - 2.0 * middle + right
    off = 0.5 * (left - right) / bend if bend < 0.0 else 0.0
    return float(lines[peak] + off * (lines[1] - lines[0]))


def _decay(tail: Array, rate_hz: float, hz: float) -> float:
    """Until the tone has fallen to a third, from a line through the logarithm of its strength in short pieces [s]."""
    piece = max(int(4.0 * rate_hz / hz), 32)
    pieces = tail[: tail.size // piece * piece].reshape(-1, piece)
    if len(pieces) < 3:
        return tail.size / rate_hz
    turn = np.exp(-2j * np.pi * hz * np.arange(piece) / rate_hz)
    strength = np.abs(pieces @ turn)
    loud = strength > 0.05 * strength.max()
    last = int(np.argmin(loud)) if not loud.all() else len(loud)
    if last < 3:
        return piece * last / rate_hz
    at = np.arange(last) * piece / rate_hz
    slope = float(np.polyfit(at, np.log(strength[:last]), 1)[0])
    return min(-1.0 / slope, 60.0) if slope < 0.0 else 60.0


def _noise(spectrum: Array, peak: int) -> float:
    near = slice(max(peak - 80, 0), peak + 81)
    tone = float(np.sqrt(np.sum(spectrum[near] ** 2)))
    rest = spectrum.copy()
    rest[near] = 0.0
    return float(np.sqrt(np.sum(rest**2))) / max(tone, 1e-300)


@attrs.frozen(kw_only=True)
class Bar:
    """A bar on two soft supports at its nodes."""

    length_mm: float
    width_mm: float
    thick_mm: float
    mass_g: float
    direction: str = "flat"
    thick_doubt_mm: float = 0.02


def stiffness_of(bar: Bar, hz: float, doubt_hz: float = 0.0) -> Estimate:
    """Modulus of a free bar from its first bending tone.

    Parameters
    ----------
    bar : Bar
        Sizes and mass [mm, g]
    hz : float
        First tone [Hz]
    doubt_hz : float
        By which it may be off, 95 % [Hz]

    Returns
    -------
    Estimate
        Modulus in bending with the band that thickness, mass and tone give [MPa]

    Notes
    -----
    Free at both ends, laid at 0.224 of its length; the correction for shear and turning of a bar whose length is at
    least five thicknesses.

    References
    ----------
    ASTM E1876, rectangular bars in flexure

    Examples
    --------
    >>> steel = Bar(length_mm=150.0, width_mm=20.0, thick_mm=5.0, mass_g=117.75)
    >>> round(stiffness_of(steel, 1168.0).value / 1000.0)
    207
    """
    across, deep = (bar.width_mm, bar.thick_mm) if bar.direction == "flat" else (bar.thick_mm, bar.width_mm)
    sizes = (bar.length_mm, across, deep, bar.mass_g, hz)
    if not all(each > 0.0 for each in sizes):
        raise KaustosError("Length, width, thickness, mass and tone of a bar must be above nothing.")
    if bar.length_mm < 5.0 * deep:
        raise KaustosError("A bar shorter than five times its thickness rings otherwise: make it longer.")
    slender = deep / bar.length_mm
    shape = 1.0 + 6.585 * slender**2
    value = 0.9465 * (bar.mass_g / 1e3) * hz**2 / (across / 1e3) * (bar.length_mm / deep) ** 3 * shape / 1e6
    doubt = math.hypot(3.0 * bar.thick_doubt_mm / deep, 2.0 * doubt_hz / hz, 0.002)
    low, high = value * math.exp(-doubt), value * math.exp(doubt)
    return Estimate(value, low, high, "MPa", "first tone of a free bar", "ASTM E1876, own recording")


def tone_wanted(bar: Bar, modulus_mpa: float) -> float:
    """The first tone of a bar of a known modulus.

    Parameters
    ----------
    bar : Bar
        Sizes and mass [mm, g]
    modulus_mpa : float
        Of its material [MPa]

    Returns
    -------
    float
        Frequency [Hz]

    Examples
    --------
    >>> steel = Bar(length_mm=150.0, width_mm=20.0, thick_mm=5.0, mass_g=117.75)
    >>> round(tone_wanted(steel, stiffness_of(steel, 1168.0).value))
    1168
    """
    return math.sqrt(modulus_mpa / stiffness_of(bar, 1.0).value)
