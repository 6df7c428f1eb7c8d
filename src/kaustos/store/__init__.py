"""The workspace file: SQLAlchemy tables, Alembic migrations, history. Hands out plain frozen records."""

from kaustos.store.errors import DamagedWorkspace, InUse, NewerWorkspace, NotAWorkspace, StoreError
from kaustos.store.workspace import HistoryEntry, Revision, StatusEntry, Store

__all__ = [
    "DamagedWorkspace",
    "HistoryEntry",
    "InUse",
    "NewerWorkspace",
    "NotAWorkspace",
    "Revision",
    "StatusEntry",
    "Store",
    "StoreError",
]
