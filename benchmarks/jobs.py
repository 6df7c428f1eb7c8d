"""Reading a job file beside reading it line by line and splitting each line in plain Python; and its memory."""

import math
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

BYTES = 30_000_000
WORK = """
import resource, sys
from kaustos.formats.job_code import read_job
with open(sys.argv[1], "rb") as opened:
    read_job(iter(lambda: opened.read(4 << 20), b""), "job")
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0)
"""


def _made(file: Path, size: int) -> None:
    """A made-up file: arcs of short moves, accelerations, travels, drawn back, remarks."""
    draws, z, written = random.Random(3), 0.0, 0
    with file.open("w") as opened:
        opened.write("M140 S60\nM104 S240\nG28\nG90\nM83\nM190 S60\nM109 S240\n")
        while written < size:
            z += 0.2
            lines = [f";layer\nG1 Z{z:.2f} F600\nM106 S{100 if z > 1 else 0}\n"]
            for _ in range(60):
                x, y = draws.uniform(50, 150), draws.uniform(50, 150)
                lines.append(f"G1 X{x + 20:.3f} Y{y:.3f} F7200\nM204 S{draws.choice((800, 1200))}\nG1 F2400\n")
                lines += [f"G1 X{x + 20 * math.cos(n / 20):.3f} Y{y + 20 * math.sin(n / 20):.3f} E0.03330\n"
                          for n in range(1, 100)]  # fmt: skip
                lines.append("G1 E-1.00000 F2100\nG1 E1.00000 F2100\n")
            text = "".join(lines)
            opened.write(text)
            written += len(text)


def reading() -> float:
    """Times that plain splitting takes: the least of three each, one after the other."""
    from kaustos.formats.job_code import read_job

    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "job.gcode"
        _made(file, BYTES)
        plain, ours = [], []
        for _ in range(3):
            begun = time.perf_counter()
            with file.open() as opened:
                for line in opened:
                    line.split()
            plain.append(time.perf_counter() - begun)
            begun = time.perf_counter()
            with file.open("rb") as whole:
                read_job(iter(lambda source=whole: source.read(4 << 20), b""), "job")
            ours.append(time.perf_counter() - begun)
        return min(ours) / min(plain)


def memory() -> float:
    """Of a process of its own that reads 100 MB, over 400 MB."""
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "job.gcode"
        _made(file, 100_000_000)
        done = subprocess.run(
            [sys.executable, "-c", WORK, str(file)], capture_output=True, text=True, check=True, timeout=600
        )  # fmt: skip
        return float(done.stdout) / 400.0


COMPARISONS = (
    ("job file read, over splitting its lines", 5.0, "times", reading),
    ("job file of 100 MB: memory", 1.0, "of 400 MB", memory),
)
