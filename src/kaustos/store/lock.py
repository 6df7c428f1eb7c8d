"""One writer for each workspace: an flock on NAME.lock, held while the writer lives, and gone when it ends.

A lock file is never followed where it is a link. It is taken away by whoever holds it, so whoever gets hold of one
looks whether it still stands under its name.
"""

import errno
import fcntl
import os
import pwd
import stat
from pathlib import Path
from types import TracebackType

from kaustos.disk import name_of
from kaustos.store.errors import InUse, NotWritable

_TRIES = 50
_REFUSED = {errno.EACCES, errno.EPERM, errno.EROFS, errno.ELOOP, errno.EISDIR, errno.ENXIO}


class WriterLock:
    """Holds the right to write a workspace."""

    def __init__(self, workspace: Path) -> None:
        self._workspace = workspace
        self._path = workspace.with_name(workspace.name + ".lock")
        for _ in range(_TRIES):
            self._descriptor = self._opened()
            try:
                self._take()
            except BaseException:
                os.close(self._descriptor)
                raise
            if self.is_held():
                break
            os.close(self._descriptor)  # its holder took the file away between our opening it and our turn
        else:
            raise InUse(str(workspace), "is being opened and closed by others all the time; try again")

    def __enter__(self) -> "WriterLock":
        return self

    def __exit__(self, kind: type | None, fault: BaseException | None, trace: TracebackType | None) -> None:
        self.release()

    def is_held(self) -> bool:
        """Whether the lock still stands under its name, so that nobody else can take it."""
        try:
            there = os.stat(self._path, follow_symlinks=False)
        except OSError:
            return False
        mine = os.fstat(self._descriptor)
        return (there.st_dev, there.st_ino) == (mine.st_dev, mine.st_ino)

    def release(self) -> None:
        """Let others write."""
        if self.is_held():
            try:
                self._path.unlink()
            except OSError as error:
                if error.errno not in _REFUSED:
                    raise
        os.close(self._descriptor)

    def _opened(self) -> int:
        flags = os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK
        try:
            rights = stat.S_IMODE(os.stat(self._path.parent).st_mode) & 0o666  # who may write the folder may lock here
            try:
                found = os.open(self._path, os.O_RDWR | flags, rights)
            except PermissionError:
                found = os.open(self._path, os.O_RDONLY | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK)
        except (OSError, ValueError) as error:
            raise NotWritable(str(self._workspace), f"could not be written: {_why(error)}") from error
        if not stat.S_ISREG(os.fstat(found).st_mode):
            os.close(found)
            raise NotWritable(str(self._workspace), f"could not be written: {name_of(self._path)} beside it is no file")
        return found

    def _take(self) -> None:
        try:
            fcntl.flock(self._descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            holder = os.pread(self._descriptor, 200, 0).decode("utf-8", "replace").strip() or "somebody"
            raise InUse(str(self._workspace), f"is being written by {holder}; open it for reading only") from error
        except OSError as error:
            raise NotWritable(str(self._workspace), f"could not be written: {_why(error)}") from error
        if fcntl.fcntl(self._descriptor, fcntl.F_GETFL) & os.O_ACCMODE == os.O_RDWR:
            os.ftruncate(self._descriptor, 0)
            os.pwrite(self._descriptor, f"{_user()} on {os.uname().nodename} (process {os.getpid()})\n".encode(), 0)


def _why(error: Exception) -> str:
    if isinstance(error, OSError) and error.errno == errno.ELOOP:
        return "the lock file beside it is a link, and links are not followed"
    return (error.strerror or str(error)) if isinstance(error, OSError) else str(error)


def _user() -> str:
    try:
        return pwd.getpwuid(os.getuid()).pw_name
    except KeyError:
        return f"user {os.getuid()}"
