"""The workspace file: SQLAlchemy tables, Alembic migrations, history. Hands out plain frozen records."""

from kaustos.store.copies import Backup, back_up, backups_of, before_restore, move_aside, newest_words, prune
from kaustos.store.errors import (
    DamagedWorkspace,
    Displaced,
    InUse,
    NewerWorkspace,
    NotAWorkspace,
    NotWritable,
    SourceLost,
    StoreError,
)
from kaustos.store.lock import WriterLock
from kaustos.store.sqlite import Stored, sorted_out
from kaustos.store.workspace import HistoryEntry, Revision, StatusEntry, Store

__all__ = [
    "Backup",
    "DamagedWorkspace",
    "Displaced",
    "HistoryEntry",
    "InUse",
    "NewerWorkspace",
    "NotAWorkspace",
    "NotWritable",
    "Revision",
    "SourceLost",
    "StatusEntry",
    "Store",
    "StoreError",
    "Stored",
    "WriterLock",
    "back_up",
    "backups_of",
    "before_restore",
    "move_aside",
    "newest_words",
    "prune",
    "sorted_out",
]
