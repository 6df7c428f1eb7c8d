"""The database toolkit on a connection that is open, and the way to the present layout."""

import sqlite3
from pathlib import Path

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.pool import StaticPool

from kaustos.store import sqlite
from kaustos.store.errors import DamagedWorkspace

_BEGIN = {True: "BEGIN IMMEDIATE", False: "BEGIN"}


def engine_on(connection: sqlite3.Connection, *, write: bool) -> Engine:
    """The toolkit on the one connection; it neither opens another nor closes this one."""
    engine = create_engine("sqlite://", creator=lambda: connection, poolclass=StaticPool)
    event.listen(engine, "begin", lambda each: each.exec_driver_sql(_BEGIN[write]))
    return engine


def migrate(connection: sqlite3.Connection, file: Path) -> None:
    """Bring a file to the present layout in one transaction."""
    from alembic import command
    from alembic.config import Config
    from sqlalchemy.exc import DBAPIError

    engine = engine_on(connection, write=True)
    connection.execute("PRAGMA foreign_keys = OFF")
    try:
        with engine.begin() as begun:
            config = Config()
            config.set_main_option("script_location", "kaustos.store:migrations")
            config.attributes["connection"] = begun
            command.upgrade(config, sqlite.HEAD)
            if begun.exec_driver_sql("PRAGMA foreign_key_check").fetchall():
                raise DamagedWorkspace(str(file), "rows point to rows that are not there; nothing was changed")
            begun.exec_driver_sql(f"PRAGMA application_id = {sqlite.APPLICATION_ID}")
    except DBAPIError as error:
        raise DamagedWorkspace(str(file), f"cannot be brought to the present layout ({error.orig})") from error
    finally:
        connection.execute("PRAGMA foreign_keys = ON")
