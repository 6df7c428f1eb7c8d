"""Reads recordings of sound: WAV of one or more channels, the loudest taken."""

import io
import warnings
from pathlib import Path
from typing import Any

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import KaustosError
from kaustos.disk import name_of, read_bytes

LARGEST = 60_000_000  # bytes: five minutes of two channels at 48 kHz
LONGEST_S = 120.0


@attrs.frozen(eq=False)
class Recording:
    """Samples of one channel, full scale 1."""

    name: str
    rate_hz: float
    samples: NDArray[np.float64]


def read_recording(file: Path) -> Recording:
    """The loudest channel of a WAV file; what is none, empty or too long is named."""
    from scipy.io import wavfile

    name, content = name_of(file), read_bytes(file, LARGEST)
    if not content:
        raise KaustosError(f"{name}: is empty")
    if content[:4] not in (b"RIFF", b"RIFX", b"RF64"):
        raise KaustosError(f"{name}: is no WAV recording")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # chunks that it does not know are none of ours
            rate, data = wavfile.read(io.BytesIO(content))
    except Exception as error:  # the reader raises whatever a broken header makes it stumble over
        raise KaustosError(f"{name}: is a broken WAV recording: {error}") from error
    if not rate > 0 or data.size == 0:
        raise KaustosError(f"{name}: the recording has no length")
    samples = _scaled(data, name)
    if samples.ndim == 2:
        samples = samples[:, int(np.argmax(np.max(np.abs(samples), axis=0)))]
    if samples.size > LONGEST_S * rate:
        raise KaustosError(f"{name}: {samples.size / rate:.0f} s; one tap takes less than {LONGEST_S:.0f} s")
    return Recording(name, float(rate), samples)


def _scaled(data: "NDArray[Any]", name: str) -> NDArray[np.float64]:
    kind, found = data.dtype, np.asarray(data, np.float64)
    if kind == np.uint8:
        return np.asarray((found - 128.0) / 128.0)
    if np.issubdtype(kind, np.signedinteger):
        return np.asarray(found / 2.0 ** (8 * kind.itemsize - 1))
    if np.issubdtype(kind, np.floating):
        return found
    raise KaustosError(f"{name}: samples of {kind} are not read")
