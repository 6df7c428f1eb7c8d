"""The one reader of files from elsewhere: a regular file of a bounded size, never a pipe or a device."""

import os
import stat
from pathlib import Path

from kaustos.core.errors import KaustosError

LARGEST_TEXT = 100_000_000  # bytes of a text; 10,000 runs as a table are 2 MB


def name_of(file: Path) -> str:
    """The name of a file as it can be shown and printed; bytes that are no text are spelled out."""
    return os.fsencode(file.name or str(file)).decode("utf-8", "backslashreplace")


def read_bytes(file: Path, limit: int) -> bytes:
    """The content of a regular file of at most so many bytes; asking for it never waits for anybody."""
    try:
        opened = os.open(file, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except (OSError, ValueError) as error:
        raise KaustosError(f"{name_of(file)}: cannot be read: {_why(error)}") from error
    found = os.fstat(opened)
    if not stat.S_ISREG(found.st_mode) or found.st_size > limit:
        os.close(opened)
        if not stat.S_ISREG(found.st_mode):
            raise KaustosError(f"{name_of(file)}: is no file with content but a folder, pipe or device")
        raise _too_large(file, found.st_size, limit)
    with open(opened, "rb") as stream:
        try:
            content = stream.read(limit + 1)
        except OSError as error:
            raise KaustosError(f"{name_of(file)}: cannot be read: {_why(error)}") from error
    if len(content) > limit:  # it grew, or told a size that it does not have
        raise _too_large(file, len(content), limit)
    return content


def read_text(file: Path, limit: int = LARGEST_TEXT) -> str:
    """The text of a file in UTF-8, a byte order mark before it taken off."""
    try:
        return read_bytes(file, limit).decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise KaustosError(f"{name_of(file)}: is not UTF-8 text (byte {error.start})") from error


def _too_large(file: Path, size: int, limit: int) -> KaustosError:
    return KaustosError(f"{name_of(file)}: {size / 1e6:.1f} MB; at most {limit / 1e6:.1f} MB are taken")


def _why(error: Exception) -> str:
    return (error.strerror or str(error)) if isinstance(error, OSError) else str(error)
