"""Follows the README's table "to add something" in a scratch copy: an operation, a kind of record, a room, a device.

What stands in the table is what is touched here; the copy is then used as the program is.
"""

import re
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[2]
README = (ROOT / "README.md").read_text()

PACKAGE = {
    "__init__": '''"""Operation 99, Finish: a made-up one."""

from kaustos.core.review.finish.codes import CODES
from kaustos.core.review.finish.drawing import picture
from kaustos.core.review.finish.judgement import HEAVY, review

__all__ = ["CODES", "HEAVY", "picture", "review"]
''',
    "codes": """from kaustos.core.review.contract import Code

CODES = (
    Code("finish.grit.coarse", "watch", "A grit of {grit:ratio} scratches.", "Coarse paper leaves grooves.",
         "made up", "Ignored, {cost:money} a run are lost.", title="finish: grit too coarse", cap="reduced",
         shows=("strings",)),
)
BY_CODE = {code.code: code for code in CODES}
""",
    "questions": """from kaustos.core.review.making import Question


def questions_of(recipe, context):
    return (Question("finish.grit", recipe.finish.grit is not None, "functional", False),)
""",
    "figures": """from kaustos.core.review.contract import UNKNOWN, Estimate, Figure


def figures_of(recipe, context):
    grit = recipe.finish.grit
    value = UNKNOWN if grit is None else Estimate(grit, grit, grit, "1", "as set", "recipe")
    return (Figure("finish.grit.set", "Grit", value),)
""",
    "remedies": """from kaustos.core.review.contract import Set


def finer():
    return (Set("Take 400", {"finish.grit": 400.0}),)
""",
    "findings": """from kaustos.core.review.finish.codes import BY_CODE
from kaustos.core.review.finish.remedies import finer
from kaustos.core.review.making import make_finding


def findings_of(recipe, context):
    grit = recipe.finish.grit
    if grit is None or grit >= 400.0:
        return ()
    return (make_finding(BY_CODE["finish.grit.coarse"], recipe, context, "finish.grit", finer(), {"grit": grit}),)
""",
    "drawing": """import attrs


@attrs.frozen
class FinishPicture:
    grit: float | None
    is_empty: bool = False


def picture(recipe, context):
    return FinishPicture(recipe.finish.grit)
""",
    "judgement": """from kaustos.core.review.contract import Saying
from kaustos.core.review.finish.codes import BY_CODE
from kaustos.core.review.finish.figures import figures_of
from kaustos.core.review.finish.findings import findings_of
from kaustos.core.review.finish.questions import questions_of
from kaustos.core.review.making import conclude

HEAVY = ()


def review(recipe, context):
    tile = (Saying("grit {grit:ratio}", {"grit": recipe.finish.grit}),) if recipe.finish.grit else ()
    return conclude(40, "finish.grit.set", figures_of(recipe, context), findings_of(recipe, context), (),
                    questions_of(recipe, context), BY_CODE, tile=tile)
""",
}
BENCH = """from PySide6.QtWidgets import QWidget

from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.picture import Picture
from kaustos.ui.forms import Form


class FinishBench(Bench):
    def __init__(self, desk) -> None:
        self.form = Form(desk, ("finish.grit",))
        super().__init__(desk, "finish", self.form, Picture(desk, "finish"))

    def show_field(self, path: str) -> bool:
        return self.form.show_field(path)
"""
PICTURE = """def draw_finish(pen, box, record, wording):
    pen.words(box, f"grit {record.grit}", "ink", "centre")
"""
ROOM = """from kaustos.ui.rooms.room import Room


class JigsRoom(Room):
    def __init__(self, desk) -> None:
        super().__init__(desk, "Jigs", "Made up.", "There is no jig yet.")
"""
PLATE = """import attrs

from kaustos.core.records.fields import extra, number, text


@attrs.frozen(kw_only=True)
class JigRecord:
    id: str
    name: str = text("Plate")
    max_c: float | None = number("temperature", "Hottest")
    retired: bool = False
    extra: dict = extra()
"""
DEVICE = """from kaustos.devices.channels import Channel
from kaustos.devices.registers import Register

AIR = Channel(name="air", quantity="temperature", low=-40.0, high=500.0)
OVEN = (Register(channel=AIR, address=4, scale=10.0),)


class SimulatedOven:
    name, channels = "Oven", (AIR,)

    def read(self):
        return {"air": 182.5}

    def set(self, channel, value):
        raise NotImplementedError
"""
TOUCHED = {  # what is added to each existing file: a line before which, and the lines
    "core/records/recipe.py": (
        (
            "@attrs.frozen(kw_only=True)\nclass Recipe:",
            '@attrs.frozen(kw_only=True)\nclass Finish:\n    """Made up."""\n\n'
            '    grit: float | None = number("ratio", "Grit")\n    extra: dict[str, Any] = extra()\n\n\n',
        ),
        ("    anneal: Anneal = attrs.field(factory=Anneal)\n", "    finish: Finish = attrs.field(factory=Finish)\n"),
    ),
    "core/review/registry.py": (
        (
            "OPERATIONS = (\n",
            "def _finish() -> Package:\n    from kaustos.core.review import finish\n\n    return finish\n\n\n",
        ),
        (
            ")  # fmt: skip\nBY_NUMBER",
            '    Operation(number=99, key="finish", title="Finish", short="Finish", section="Is it smooth?",\n'
            '              reads=Reads(recipe=("finish", "brief"), context=("polymer", "machine", "rules")),\n'
            "              load=_finish),\n",
        ),
    ),
    "ui/benches/__init__.py": (
        (
            "BENCHES: dict",
            "def _finish(desk: Desk) -> Bench:\n    from kaustos.ui.benches.finish import FinishBench\n\n"
            "    return FinishBench(desk)\n\n\n",
        ),
        ('    "brief": _brief,\n', '    "finish": _finish,\n'),
    ),
    "app/pictures/__init__.py": (
        (
            "_DRAWN: Mapping",
            "def _finish() -> Draw:\n    from kaustos.app.pictures.finish import draw_finish\n\n"
            "    return draw_finish\n\n\n",
        ),
        ('    "brief": {"": _brief},', '    "finish": {"": _finish},\n'),
    ),
}
PROGRAM = """
import sys, tempfile
from datetime import UTC, datetime
from pathlib import Path
import kaustos
assert str(Path(kaustos.__file__).parents[1]) == {src!r}, kaustos.__file__
from kaustos.app.settings import Settings
from kaustos.app.sheet import sheet_content
from kaustos.core.records import KINDS
from kaustos.demo import build
from kaustos.app.device_log import DeviceLog
from kaustos.app.wording import Wording
from kaustos.devices.modbus import ModbusDevice, ModbusServer
from kaustos.devices.oven import OVEN, SimulatedOven
from kaustos.formats.sheet import sheet_html
from kaustos.ui.jobs import AT_ONCE
from kaustos.ui.main import fixed_clock, make_application, open_window

now = datetime(2026, 3, 2, 8, tzinfo=UTC)
file = Path(tempfile.mkdtemp()) / "demo.kaustos"
build(file, now)
app = make_application()
window = open_window(file, Settings(), None, fixed_clock(now), AT_ONCE)
window.desk.begin()
window.show()
window.show_operation(99)
bench = window.benches["finish"]
assert bench.form.boxes["finish.grit"].edit.accessibleName() == "grit"
assert not window.desk.propose("finish.grit", "120")
codes = [finding.code for finding in window.desk.review.findings()]
assert "finish.grit.coarse" in codes, codes
assert window.route.tiles["finish"].lines()[1] == "grit 120"
assert bench.picture.is_current
window.findings.choose(codes.index("finish.grit.coarse"))
window.apply_remedy(0)
assert window.desk.workspace.draft.value("finish.grit") == 400.0
assert window.actions_by_id["go.finish"].shortcut().toString() == "Ctrl+F13"
context, found = window.desk.workspace.judged()
content = sheet_content(window.desk.workspace.draft.records.card.recipe, context, found, window.desk.wording,
                        revision="r", printed="p", appendix=True)
assert "99 Finish" in sheet_html(content)
assert [kind.one for kind in KINDS][-1] == "jig"
from kaustos.core.records import Place
from kaustos.core.records.jig_record import JigRecord
window.desk.workspace.draft.add("jigs", "p1", JigRecord(id="p1", name="Glass"), "New jig")
assert not window.desk.propose(Place("jigs", "p1", "max_c"), "302 F")
window.show_room("jigs")
assert window.rooms["jigs"].title.text() == "Jigs"
window.close()
again = open_window(file, Settings(), None, fixed_clock(now), AT_ONCE)
assert abs(again.desk.workspace.draft.records.tables["jigs"]["p1"].max_c - 150.0) < 0.01
assert again.desk.workspace.draft.value("finish.grit") == 400.0
again.close()
server = ModbusServer(SimulatedOven(), OVEN)
client = ModbusDevice("127.0.0.1", server.port, "Oven", OVEN)
entry = DeviceLog((client,), None, lambda: now).look()
client.close()
server.stop()
assert entry.words(Wording()) == "Oven: air 182.5 °C", entry
print("added")
"""


class TestToAdd(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.src = Path(scratch.name) / "src"
        shutil.copytree(ROOT / "src", self.src, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
        self.package = self.src / "kaustos"

    def before(self, file, mark, lines):
        """Lines before a mark that stands once in an existing file."""
        path = self.package / file
        text = path.read_text()
        self.assertEqual(text.count(mark), 1, f"{file}: {mark}")
        path.write_text(text.replace(mark, lines + mark))

    def test_an_operation_a_kind_a_room_and_a_device_are_added_as_the_readme_says(self):
        for name, text in PACKAGE.items():
            file = self.package / "core/review/finish" / f"{name}.py"
            file.parent.mkdir(exist_ok=True)
            file.write_text(text)
        (self.package / "ui/benches/finish.py").write_text(BENCH)
        (self.package / "app/pictures/finish.py").write_text(PICTURE)
        for file, changes in TOUCHED.items():
            for mark, lines in changes:
                self.before(file, mark, lines)
        (self.package / "core/records/jig_record.py").write_text(PLATE)
        self.before("core/records/kinds.py", "from kaustos.core.records.run import Run\n",
                    "from kaustos.core.records.jig_record import JigRecord\n")  # fmt: skip
        line = '    Kind(one="jig", many="jigs", record=JigRecord, title="jig", is_chosen=True),\n'
        self.before("core/records/kinds.py", ")\nBY_MANY", line)
        (self.package / "ui/rooms/jigs.py").write_text(ROOM)
        self.before("ui/rooms/names.py", '    RoomEntry("settings", "Settings", None),\n',
                    '    RoomEntry("jigs", "Jigs", None),\n')  # fmt: skip
        self.before("ui/rooms/making.py", "MAKERS: dict",
                    "def _jigs(shell: Shell) -> Room:\n    from kaustos.ui.rooms.jigs import JigsRoom\n\n"
                    "    return JigsRoom(shell.desk)\n\n\n")  # fmt: skip
        self.before("ui/rooms/making.py", '    "stock": _stock,', '    "jigs": _jigs,\n')
        (self.package / "devices/oven.py").write_text(DEVICE)
        program = PROGRAM.format(src=str(self.src))
        done = subprocess.run(
            [sys.executable, "-c", program], capture_output=True, text=True, check=False, cwd=self.src,
            env={"PYTHONPATH": str(self.src), "QT_QPA_PLATFORM": "offscreen", "HOME": str(self.src),
                 "PATH": "/usr/bin:/bin"},
        )  # fmt: skip
        self.assertEqual(done.stdout.strip(), "added", done.stderr[-3000:])

    def test_an_operation_touches_at_most_four_existing_files_and_the_readme_names_them(self):
        self.assertLessEqual(len(TOUCHED), 4)
        row = next(line for line in README.splitlines() if line.startswith("| an operation"))
        for file in TOUCHED:
            with self.subTest(file):
                self.assertIn(f"`{file}`", row)
        for thing in ("a kind of record", "a room", "a device"):
            self.assertTrue(re.search(rf"^\| {thing}", README, re.M), thing)
