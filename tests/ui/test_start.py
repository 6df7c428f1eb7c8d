"""What start-up loads, that a real screen works, and that the binding is a sound one."""

import contextlib
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace
from tests.support import demo_bytes

NOT_AT_START = (
    "pint",
    "sqlalchemy",
    "numpy",
    "alembic",
    "weasyprint",
    "jinja2",
    "typer",
    "PySide6.QtSvg",
    "PySide6.QtNetwork",
)

CLOSING = "QBackingStore::flush()"  # Qt, where a last repaint meets a window that is closing


class TestStart(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.file = self.folder / "demo.kaustos"
        self.file.write_bytes(demo_bytes())

    def test_the_first_window_loads_nothing_that_it_does_not_need(self):
        program = (
            "import sys\nfrom pathlib import Path\nfrom kaustos.app.settings import Settings\n"
            "from kaustos.ui.main import make_application, open_window\n"
            f"app = make_application(); window = open_window(Path({str(self.file)!r}), Settings(), None)\n"
            "window.show(); app.processEvents(); window.close()\n"
            f"print([name for name in {NOT_AT_START!r} if name in sys.modules])"
        )
        done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "[]")

    def test_twenty_thousand_calls_that_return_nothing_do_not_bring_the_binding_down(self):
        program = (
            "from PySide6.QtCore import QObject\nobject = QObject()\n"
            "for _ in range(20_000): object.setObjectName('a')\nprint('sound')"
        )
        done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
        self.assertEqual(done.stdout.strip(), "sound", done.stderr)

    def test_a_job_of_any_length_holds_nobody_back_at_the_end_and_all_is_saved(self):
        program = (
            "import sys, time\nfrom pathlib import Path\nfrom PySide6.QtCore import QTimer\n"
            "from kaustos.app.results import Request\nfrom kaustos.ui import main\n"
            "window = main.show_first(Path(sys.argv[1]))\nwindow.desk.begin()\n"
            "window.desk.workspace.draft.propose('brief.mass_g', '77')\n"
            "window.desk.queue.ask(Request('slow', (), lambda _: time.sleep(300)))\n"
            "QTimer.singleShot(300, window.close)\n"
            "main.show_first = lambda *_: window\n"
            "sys.exit(main.run(None))\n"
        )
        done = subprocess.run(
            [sys.executable, "-c", program, str(self.file)], capture_output=True, text=True, timeout=120, check=False,
            env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        )  # fmt: skip
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        with contextlib.closing(Workspace(self.file, Settings())) as again:
            self.assertEqual(again.draft.records.card.recipe.brief.mass_g, 77.0)

    @unittest.skipUnless(shutil.which("Xvfb"), "Xvfb is not installed")
    def test_a_real_window_opens_on_a_screen_and_closes_saved_when_signalled(self):
        read, write = os.pipe()
        screen = subprocess.Popen(
            ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
            pass_fds=(write,), stderr=subprocess.DEVNULL,
        )  # fmt: skip
        self.addCleanup(screen.wait)
        self.addCleanup(screen.terminate)
        number = ""
        while not number.endswith("\n"):  # the server writes its number and the end of the line apart
            number += os.read(read, 16).decode()
        number = number.strip()
        os.close(read)
        os.close(write)
        environment = {name: value for name, value in os.environ.items() if name != "QT_QPA_PLATFORM"}
        environment |= {
            "DISPLAY": f":{number}",
            "XDG_CONFIG_HOME": str(self.folder),
            "XDG_STATE_HOME": str(self.folder),
        }
        program = subprocess.Popen(
            [sys.executable, "-m", "kaustos.entry", "--workspace", str(self.file)], env=environment,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        )  # fmt: skip
        lock = self.folder / "demo.kaustos.lock"
        until = time.monotonic() + 30
        while not (lock.exists() and lock.read_text()) and time.monotonic() < until and program.poll() is None:
            time.sleep(0.05)
        time.sleep(4.0)  # compiling what is not compiled yet takes its time
        if program.poll() is not None:
            self.fail(f"the window did not stay open: {program.communicate()[0].decode()}")
        program.send_signal(signal.SIGTERM)
        output, _ = program.communicate(timeout=20)
        said = [line for line in output.decode().splitlines() if not line.startswith(CLOSING)]
        self.assertEqual((program.returncode, said), (0, []))
        self.assertEqual([path.name for path in self.folder.glob("*-wal")], [])
