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


def _plate(desk: Desk) -> Bench:
    from kaustos.ui.benches.plate import PlateBench

    return PlateBench(desk)


def _first_layer(desk: Desk) -> Bench:
    from kaustos.ui.benches.first_layer import FirstLayerBench

    return FirstLayerBench(desk)


def _melt(desk: Desk) -> Bench:
    from kaustos.ui.benches.melt import MeltBench

    return MeltBench(desk)


def _heat(desk: Desk) -> Bench:
    from kaustos.ui.benches.heat import HeatBench

    return HeatBench(desk)


def _supports(desk: Desk) -> Bench:
    from kaustos.ui.benches.supports import SupportsBench

    return SupportsBench(desk)


def _run(desk: Desk) -> Bench:
    from kaustos.ui.benches.run import RunBench

    return RunBench(desk)


def _release(desk: Desk) -> Bench:
    from kaustos.ui.benches.release import ReleaseBench

    return ReleaseBench(desk)


def _anneal(desk: Desk) -> Bench:
    from kaustos.ui.benches.anneal import AnnealBench

    return AnnealBench(desk)


def _proof(desk: Desk) -> Bench:
    from kaustos.ui.benches.proof import ProofBench

    return ProofBench(desk)


BENCHES: dict[str, Callable[[Desk], Bench]] = {
    "brief": _brief,
    "stock": _stock,
    "machine": _machine,
    "plate": _plate,
    "first_layer": _first_layer,
    "melt": _melt,
    "heat": _heat,
    "supports": _supports,
    "run": _run,
    "release": _release,
    "anneal": _anneal,
    "proof": _proof,
}

__all__ = ["BENCHES", "Bench"]
