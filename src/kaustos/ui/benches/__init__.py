"""Benches: one for each operation, named like its key. They show inputs, one live picture and the figures.

Each is imported when it is first shown.
"""

from collections.abc import Callable

from kaustos.ui.benches.bench import Bench
from kaustos.ui.desk import Desk


def _brief(desk: Desk) -> Bench:
    from kaustos.ui.benches.brief import BriefBench

    return BriefBench(desk)


def _stock(desk: Desk) -> Bench:
    from kaustos.ui.benches.stock import StockBench

    return StockBench(desk)


def _machine(desk: Desk) -> Bench:
    from kaustos.ui.benches.machine import MachineBench

    return MachineBench(desk)


BENCHES: dict[str, Callable[[Desk], Bench]] = {"brief": _brief, "stock": _stock, "machine": _machine}

__all__ = ["BENCHES", "Bench"]
