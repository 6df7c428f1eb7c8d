"""Benches: one for each operation, named like its key. They show inputs, one live picture and the figures."""

from collections.abc import Callable

from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.brief import BriefBench
from kaustos.ui.benches.machine import MachineBench
from kaustos.ui.desk import Desk
from kaustos.ui.jobs import Runner

BENCHES: dict[str, Callable[[Desk, Runner], Bench]] = {"brief": BriefBench, "machine": MachineBench}

__all__ = ["BENCHES", "Bench"]
