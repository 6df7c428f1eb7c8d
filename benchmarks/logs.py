"""A log of a million lines and four sensors, read and summarised, against what pandas needs to read it."""

import tempfile
import time
from pathlib import Path

import numpy as np

LINES, SENSORS, ROUNDS = 1_000_000, 4, 3


def _made(folder: Path) -> Path:
    import pandas

    rng, at = np.random.default_rng(1), np.arange(LINES)
    warm = 20.0 + 60.0 * (1.0 - np.exp(-at / 2e5))
    times = pandas.date_range("2026-01-01", periods=LINES, freq="s").strftime("%Y-%m-%d %H:%M:%S")
    columns = {f"TC{n}": np.round(warm + rng.normal(0.0, 0.2, LINES), 2) for n in range(SENSORS)}
    file = folder / "log.csv"
    pandas.DataFrame({"time": times} | columns).to_csv(file, index=False)
    return file


def read_and_summarised() -> float:
    """Our time over that of pandas, the least of some rounds each."""
    import pandas

    from kaustos.app.heat_log import ReadHeatLog

    with tempfile.TemporaryDirectory() as scratch:
        file = _made(Path(scratch))
        theirs, ours = [], []
        for _ in range(ROUNDS):
            began = time.perf_counter()
            table = pandas.read_csv(file)
            pandas.to_datetime(table["time"])
            theirs.append(time.perf_counter() - began)
            began = time.perf_counter()
            ReadHeatLog(file, None)()
            ours.append(time.perf_counter() - began)
    return min(ours) / min(theirs)


COMPARISONS = (("a log of 1,000,000 lines and 4 sensors, of reading it in pandas", 3.0, "times", read_and_summarised),)
