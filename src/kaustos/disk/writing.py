"""Files are written whole or not at all: aside in the same folder, synced, renamed, and the folder synced.

A power cut between any two of these steps leaves the old file or the new one under the name.
"""

import errno
import os
import secrets
import stat
from collections.abc import Iterable, Mapping
from pathlib import Path

from kaustos.core.errors import KaustosError
from kaustos.disk.reading import name_of

_NO_LINKS = {errno.EPERM, errno.EOPNOTSUPP, errno.ENOSYS, errno.EMLINK}  # file systems without hard links


def write_whole(target: Path, content: str | bytes) -> None:
    """Write a file in the place of one that is there; a link there is replaced, never followed."""
    scratch = _written_aside(target, content)
    try:
        put_in_place(scratch, target)
    except BaseException:
        scratch.unlink(missing_ok=True)
        raise


def write_all_new(contents: Mapping[Path, str | bytes]) -> tuple[Path, ...]:
    """Write files that are not there yet, all or none; where one is, a link among them, nothing is written."""
    _refuse_present(file for file in contents if os.path.lexists(file))
    aside: dict[Path, Path] = {}
    made: list[Path] = []
    try:
        for file, content in contents.items():
            aside[file] = _written_aside(file, content)
        for file, scratch in aside.items():
            _put_where_nothing_is(scratch, file)
            made.append(file)
    except BaseException:
        for file in made:
            file.unlink(missing_ok=True)
        raise
    finally:
        for scratch in aside.values():
            scratch.unlink(missing_ok=True)
    for folder in {file.parent for file in contents}:
        sync_folder(folder)
    return tuple(contents)


def put_in_place(scratch: Path, target: Path) -> None:
    """Give a file that is whole and synced its name, in the place of what had it."""
    if target.is_dir():
        raise KaustosError(f"{name_of(target)}: is a folder")
    os.replace(scratch, target)
    sync_folder(target.parent)


def sync_file(file: Path) -> None:
    """Bring what is written to a file onto the disk."""
    _sync(file, os.O_RDONLY)


def sync_folder(folder: Path) -> None:
    """Bring the names in a folder onto the disk."""
    _sync(folder, os.O_RDONLY | os.O_DIRECTORY)


def _sync(place: Path, flags: int) -> None:
    opened = os.open(place, flags | os.O_CLOEXEC)
    try:
        os.fsync(opened)
    except OSError as error:
        if error.errno != errno.EINVAL:  # some network file systems sync no folders: there is nothing to wait for
            raise
    finally:
        os.close(opened)


def _written_aside(target: Path, content: str | bytes) -> Path:
    """The content in a synced file beside the target, with the rights that the target has or would get."""
    rights = _rights(target)
    scratch = target.with_name(f".kaustos-{secrets.token_hex(8)}.new")
    try:
        opened = os.open(scratch, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC, 0o666)
    except OSError as error:
        raise _not_written(target, error) from error
    try:
        with open(opened, "wb") as stream:
            if rights is not None:
                os.fchmod(opened, rights)
            stream.write(content.encode("utf-8", "backslashreplace") if isinstance(content, str) else content)
            stream.flush()
            os.fsync(opened)
    except BaseException as error:
        scratch.unlink(missing_ok=True)
        if isinstance(error, OSError):
            raise _not_written(target, error) from error
        raise
    return scratch


def _not_written(target: Path, error: OSError) -> KaustosError:
    shown = target.with_name(name_of(target))
    return KaustosError(f"{shown}: cannot be written: {error.strerror or error}")


def _rights(target: Path) -> int | None:
    """The rights of a file that is there, None where a new one gets the usual ones."""
    try:
        found = target.lstat().st_mode
    except FileNotFoundError:
        return None
    if stat.S_ISREG(found):
        return stat.S_IMODE(found) & 0o777
    if stat.S_ISLNK(found):
        return None
    raise KaustosError(f"{name_of(target)}: is a folder, pipe or device; nothing was written")


def _put_where_nothing_is(scratch: Path, target: Path) -> None:
    try:
        os.link(scratch, target)
    except FileExistsError:
        _refuse_present([target])
    except OSError as error:
        if error.errno not in _NO_LINKS:
            raise
        _refuse_present([target] if os.path.lexists(target) else [])
        os.replace(scratch, target)


def _refuse_present(files: Iterable[Path]) -> None:
    present = [str(file.with_name(name_of(file))) for file in files]
    if present:
        raise KaustosError(f"{', '.join(present)}: is there already; nothing was written")
