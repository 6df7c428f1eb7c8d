"""First painted window of the demo workspace against a bare main window that imports nothing else."""

import os
import statistics
import subprocess
import sys
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

from kaustos.demo import build

PAIRS = 11
BARE = """
import os
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
window = QMainWindow()
window.resize(1280, 800)
window.show()
while not window.windowHandle().isExposed():
    app.processEvents()
app.processEvents()
os._exit(0)
"""
OURS = """
import os
from pathlib import Path
import gc
gc.disable()
from PySide6.QtWidgets import QApplication
from kaustos.ui.main import show_first
window = show_first(Path({file!r}))
app = QApplication.instance()
while not window.windowHandle().isExposed():
    app.processEvents()
app.processEvents()
os._exit(1 if window.desk.cannot_judge else 0)
"""


def _timed(program: str, cache: str) -> float:
    """Seconds of a program, its modules compiled before as those of an installed program are."""
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    environment |= {"QT_QPA_PLATFORM": os.environ.get("BENCH_QPA", "offscreen"), "PYTHONPYCACHEPREFIX": cache}
    start = time.perf_counter()
    subprocess.run([sys.executable, "-c", program], env=environment, check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - start


def start_in_bare_windows() -> float:
    """Median of our start over the bare one, in turn."""
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "demo.kaustos"
        build(file, datetime(2026, 3, 2, 8, tzinfo=UTC))
        ours = OURS.format(file=str(file))
        for program in (ours, BARE):
            _timed(program, scratch)
        return statistics.median(_timed(ours, scratch) / _timed(BARE, scratch) for _ in range(PAIRS))


COMPARISONS = (("first painted window of the demo workspace", 3.5, "bare main windows", start_in_bare_windows),)
