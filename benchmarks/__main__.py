"""Runs every comparison and prints each beside its limit: python -m benchmarks

Each figure is a ratio of two things measured side by side in the same run.
"""

import sys

from benchmarks import anneals, jobs, kills, large, logs, parts, responsive, review_again, start, welds

COMPARISONS = (
    *review_again.COMPARISONS, *responsive.COMPARISONS, *start.COMPARISONS, *large.COMPARISONS, *logs.COMPARISONS,
    *parts.COMPARISONS, *welds.COMPARISONS, *jobs.COMPARISONS, *anneals.COMPARISONS, *kills.COMPARISONS,
)  # fmt: skip


def main() -> int:
    """Print every ratio beside its limit; 1 where one is over."""
    over = 0
    for name, limit, unit, measure in COMPARISONS:
        found = measure()
        over += found > limit
        print(f"{'OVER ' if found > limit else 'ok   '}{name:62} {found:8.2f} of at most {limit:g} {unit}")
    return 1 if over else 0


if __name__ == "__main__":
    sys.exit(main())
