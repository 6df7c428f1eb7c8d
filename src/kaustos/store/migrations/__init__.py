"""Migrations in order: each a small function on Alembic's operations, shipped inside the package."""

from collections.abc import Callable

from kaustos.store.migrations import first, second

STEPS: dict[str, Callable[[], None]] = {"0001": first.upgrade, "0002": second.upgrade}
