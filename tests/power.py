"""A power cut at any moment: what is written is lost until it is synced, a name until its folder is."""

import hashlib
import os
import stat
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from unittest.mock import patch

Event = tuple[str, object, str]  # what happened, to which file or folder, with which content


def _content(file: Path | int) -> str:
    name = file if isinstance(file, Path) else Path(f"/proc/self/fd/{file}")
    return hashlib.sha256(name.read_bytes()).hexdigest()


class Power:
    """Records the order of syncs and renames of a piece of work."""

    def __init__(self) -> None:
        self.events: list[Event] = []

    def _on_sync(self, descriptor: int, real) -> None:
        found = os.fstat(descriptor)
        if stat.S_ISDIR(found.st_mode):
            self.events.append(("folder", found.st_ino, ""))
        else:
            self.events.append(("file", found.st_ino, _content(descriptor)))
        real(descriptor)

    def _on_name(self, source, target, real) -> None:
        file, folder = Path(source), Path(target).parent
        self.events.append(("name", (file.stat().st_ino, folder.stat().st_ino, str(target)), _content(file)))
        real(source, target)

    def losses(self) -> list[str]:
        """Names that a power cut could leave leading to less than was written, or take back at the end."""
        synced: dict[object, str] = {}
        unsure: dict[object, set[str]] = {}
        found = []
        for what, which, content in self.events:
            if what == "file":
                synced[which] = content
            elif what == "folder":
                unsure.pop(which, None)
            else:
                file, folder, name = which
                if synced.get(file) != content:
                    found.append(f"{name} is named before its content is on the disk")
                unsure.setdefault(folder, set()).add(name)
        return found + [f"{name} may be lost: its folder is not synced" for names in unsure.values() for name in names]

    def named(self) -> set[str]:
        """The files that took their names."""
        return {Path(which[2]).name for what, which, _ in self.events if what == "name"}


@contextmanager
def power() -> Iterator[Power]:
    """Record what our own code does; the database's own syncs stand in its pragmas."""
    found = Power()
    with ExitStack() as patched:
        for name, act in (("fsync", found._on_sync), ("replace", found._on_name), ("link", found._on_name)):
            real = getattr(os, name)
            patched.enter_context(patch(f"os.{name}", lambda *given, act=act, real=real: act(*given, real)))
        yield found
