"""One writer for each workspace: an flock on NAME.lock, held while the writer lives."""

import fcntl
import os
import pwd
from pathlib import Path

from kaustos.store.errors import InUse


class WriterLock:
    """Holds the right to write a workspace."""

    def __init__(self, workspace: Path) -> None:
        path = workspace.with_name(workspace.name + ".lock")
        self._file = open(path, "a+", encoding="utf-8")  # noqa: SIM115 - held while the writer lives
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            self._file.seek(0)
            holder = self._file.read(200).strip() or "somebody"
            self._file.close()
            raise InUse(str(workspace), f"is being written by {holder}; open it for reading only") from error
        self._file.truncate(0)
        self._file.write(f"{_user()} on {os.uname().nodename} (process {os.getpid()})\n")
        self._file.flush()

    def release(self) -> None:
        """Let others write."""
        self._file.truncate(0)
        self._file.close()


def _user() -> str:
    try:
        return pwd.getpwuid(os.getuid()).pw_name
    except KeyError:
        return f"user {os.getuid()}"
