"""Runs every comparison and prints each beside its limit: python -m benchmarks [PART ...]

Each figure is a ratio of two things measured side by side in the same run, with what else the machine did meanwhile
beside it: a load far above 1 says that somebody else worked here. Every part runs in a process of its own: one that
fails or hangs is told, and the rest goes on. All parts together end within 15 minutes on two cores.
"""

import importlib
import json
import logging
import os
import subprocess
import sys
import time

PARTS = ("review_again", "responsive", "start", "large", "logs", "parts", "welds", "jobs", "anneals", "kills")
LIMIT_S = 600  # of one part; alone on this machine the longest takes a third of that
MARK = "\x1ebenchmark "


def main(arguments: list[str]) -> int:
    """Print every ratio beside its limit; 1 where one is over or a part failed, 2 for a part that nobody knows."""
    if arguments[:1] == ["--part"]:
        return _measure(arguments[1])
    unknown = [each for each in arguments if each not in PARTS]
    if unknown:
        print(f"No part {', '.join(unknown)}; known: {', '.join(PARTS)}")
        return 2
    began = time.monotonic()
    wrong = [_run(each) for each in arguments or PARTS]
    print(f"{sum(over for over, _ in wrong)} over their limits, {sum(failed for _, failed in wrong)} failed, "
          f"in {(time.monotonic() - began) / 60.0:.1f} min")  # fmt: skip
    return 1 if any(over or failed for over, failed in wrong) else 0


def _run(part: str) -> tuple[int, int]:
    """Figures of a part that are over their limits, and that could not be measured; printed as they come."""
    over = failed = told = 0
    process = subprocess.Popen([sys.executable, "-m", "benchmarks", "--part", part], stdout=subprocess.PIPE, text=True)
    began = time.monotonic()
    try:
        out, _ = process.communicate(timeout=LIMIT_S)
    except subprocess.TimeoutExpired:
        process.kill()
        out, _ = process.communicate()
        print(f"FAIL {part}: not at its end after {time.monotonic() - began:.0f} s")
        failed += 1
    for each in figures_in(out):
        if isinstance(each, str):
            print(each)
            continue
        told += 1
        if "fault" in each:
            failed += 1
            print(f"FAIL {each['name']:62} {each['fault']}")
            continue
        over += each["found"] > each["limit"]
        print(f"{'OVER ' if each['found'] > each['limit'] else 'ok   '}{each['name']:62} {each['found']:8.2f} "
              f"of at most {each['limit']:g} {each['unit']}   [load {each['load']:.1f}]")  # fmt: skip
    if (process.returncode or not told) and not failed:
        print(f"FAIL {part}: its process ended with {process.returncode}, {told} figures told")
        failed += 1
    sys.stdout.flush()
    return over, failed


def figures_in(out: str) -> list[dict | str]:
    """What a part has printed, line by line: its figures, and whatever else it said."""
    lines = [each for each in out.split("\n") if each]  # splitlines would part them at the mark as well
    return [json.loads(each.removeprefix(MARK)) if each.startswith(MARK) else each for each in lines]


def _measure(part: str) -> int:
    """Measure one part and tell each figure as a line; what fails is told too, and the rest goes on."""
    for name, limit, unit, measure in importlib.import_module(f"benchmarks.{part}").COMPARISONS:
        told = {"name": name, "limit": limit, "unit": unit}
        busy, waited = _spent(), time.monotonic()
        try:
            told["found"] = float(measure())
        except Exception as fault:  # told as this figure's, not as the end of all
            logging.getLogger("benchmarks").exception("%s cannot be measured", name)
            told["fault"] = f"{type(fault).__name__}: {fault}"
        told["load"] = _others(busy, time.monotonic() - waited)
        print(MARK + json.dumps(told), flush=True)
    return 0


def _spent() -> tuple[float, float]:
    """Processor time that the whole machine and this process with its children have spent [s]."""
    with open("/proc/stat", encoding="ascii") as file:
        user, nice, system = (int(each) for each in file.readline().split()[1:4])
    mine = os.times()
    return (user + nice + system) / os.sysconf("SC_CLK_TCK"), sum(mine[:4])


def _others(before: tuple[float, float], seconds: float) -> float:
    """Processors that others kept busy while a figure was measured; children that still run count as others."""
    every, mine = (now - then for now, then in zip(_spent(), before, strict=True))
    return max(0.0, every - mine) / max(seconds, 1e-3)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
