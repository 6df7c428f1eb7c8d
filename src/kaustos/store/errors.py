"""Faults of the store that a user can act on."""

import os

from kaustos.core.errors import KaustosError


class StoreError(KaustosError):
    """Something is wrong with a workspace file."""

    def __init__(self, file: str, problem: str) -> None:
        super().__init__(file, problem)
        self.file, self.problem = file, problem

    def __str__(self) -> str:
        return f"{os.fsencode(self.file).decode('utf-8', 'backslashreplace')}: {self.problem}"


class NotAWorkspace(StoreError):
    """The file is something else."""


class DamagedWorkspace(StoreError):
    """The file is a workspace that cannot be read."""


class NewerWorkspace(StoreError):
    """The file was written by a newer version."""


class InUse(StoreError):
    """Somebody else has the file open for writing."""


class NotWritable(StoreError):
    """The file or its folder cannot be written."""


class SourceLost(StoreError):
    """What is open can no longer be read from its file."""


class Displaced(StoreError):
    """The file under the name is no longer the one that is open."""
