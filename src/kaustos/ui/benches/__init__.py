"""Benches: one for each operation, named like its key. They show inputs, one live picture and the figures.

Each is imported when it is first shown.
"""

from collections.abc import Callable

from kaustos.ui.benches.bench import Bench
from kaustos.ui.desk import Desk
from kaustos.ui.jobs import Runner


def _brief(desk: Desk, run: Runner) -> Bench:
    from kaustos.ui.benches.brief import BriefBench

    return BriefBench(desk, run)


def _stock(desk: Desk, run: Runner) -> Bench:
    from kaustos.ui.benches.stock import StockBench

    return StockBench(desk, run)


def _machine(desk: Desk, run: Runner) -> Bench:
    from kaustos.ui.benches.machine import MachineBench

    return MachineBench(desk, run)


BENCHES: dict[str, Callable[[Desk, Runner], Bench]] = {"brief": _brief, "stock": _stock, "machine": _machine}

__all__ = ["BENCHES", "Bench"]
