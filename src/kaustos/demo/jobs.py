"""A job file of the firm, made up: rectangles in layers, in plain words, a little off its recipe."""

import functools
import gzip
import hashlib

import attrs

from kaustos.app.jobs import FoundJob, job_of
from kaustos.core.planning.motion import planned_of
from kaustos.core.records import JobFile
from kaustos.formats.job_code import read_job

NAME = "clamp_60.gcode"
STRAND_MM2 = 2.40528  # 1.75 mm


def _content() -> bytes:
    heats = ["M140 S128", "M104 S300", "M141 S80", "M190 S128", "M109 S300"]
    lines = ["; cable clamp, PC-CF", *heats, "G28", "G90", "M83", "M106 S0", "M204 S1200"]
    for layer in range(93):
        height = 0.3 * (layer + 1)
        if layer == 1:
            lines += ["M104 S292", "M140 S125"]
        lines.append(f"G1 Z{height:.2f} F1200")
        speed, height_mm = (1080, 0.3) if layer == 0 else (3600, 0.3)
        fed = 0.72 * height_mm / STRAND_MM2 * 0.95
        for inset in range(11):
            near, wide, deep = 0.72 * inset, 60.0 - 1.44 * inset, 40.0 - 1.44 * inset
            lines.append(f"G1 X{100 + near:.3f} Y{100 + near:.3f} F9000")
            corners = ((wide, 0.0), (0.0, deep), (-wide, 0.0), (0.0, -deep))
            x, y = 100 + near, 100 + near
            lines.append(f"G1 F{speed}")
            for dx, dy in corners:
                x, y = x + dx, y + dy
                lines.append(f"G1 X{x:.3f} Y{y:.3f} E{(abs(dx) + abs(dy)) * fed:.5f}")
        lines += ["G1 E-1.2 F2400", "G1 E1.2 F2400"]
    lines += ["M104 S0", "M140 S0", "M141 S0", "CHAMBER_DOOR WAIT=1", ""]
    return "\n".join(lines).encode()


@functools.cache
def jobs() -> tuple[dict[str, JobFile], dict[str, tuple[str, bytes]]]:
    """The file as a record, and its packed copy by id."""
    content, planned = _content(), planned_of(None)
    packed = gzip.compress(content, 1, mtime=0)
    found = FoundJob(name=NAME, job=read_job([content], NAME, planned), packed=packed, planned=planned)
    record = attrs.evolve(
        job_of("job_clamp", found), copy=hashlib.sha256(packed).hexdigest(), added_utc="2026-02-24T09:00:00Z",
    )  # fmt: skip
    return {"job_clamp": record}, {"job_clamp": (f"{NAME}.gz", packed)}
