"""What tests of the store share: a folder, a workspace in it, a user without rights, what of a folder is held open."""

import contextlib
import os
import sqlite3
import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path

from tests.support import demo_bytes

NOW = "2026-03-02T08:00:00.000000Z"
NOBODY = 65534


class StoreTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.file = self.folder / "shop.kaustos"

    def demo(self, name: str = "shop.kaustos") -> Path:
        """The demo's workspace under a name."""
        file = self.folder / name
        file.write_bytes(demo_bytes())
        return file

    def left(self) -> list[str]:
        """What is in the folder now."""
        return sorted(os.listdir(self.folder))


def change(file: Path, *statements: str) -> None:
    """Change a file behind the program's back."""
    with contextlib.closing(sqlite3.connect(file)) as connection:
        connection.execute("PRAGMA writable_schema = ON")
        for statement in statements:
            connection.execute(statement)
        connection.commit()


def opened_in(folder: Path) -> list[str]:
    """Files of a folder that this process holds open; what else it opens meanwhile is not looked at."""
    found = []
    for each in os.listdir("/proc/self/fd"):
        with contextlib.suppress(OSError):  # it was closed while we looked
            found.append(os.readlink(f"/proc/self/fd/{each}"))
    return [each for each in found if each.startswith(f"{folder}/")]


@contextlib.contextmanager
def without_rights(folder: Path, mode: int) -> Iterator[None]:
    """Be somebody who may do no more in a folder than its mode says, as root is not held by modes."""
    for each in (folder, *folder.parents):
        if str(each).startswith("/tmp/"):
            each.chmod(each.stat().st_mode | 0o055)
    before = folder.stat().st_mode
    folder.chmod(mode)
    is_root = os.geteuid() == 0
    if is_root:
        os.seteuid(NOBODY)
    try:
        yield
    finally:
        if is_root:
            os.seteuid(0)
        folder.chmod(before)
