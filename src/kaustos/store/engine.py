"""Opens the SQLite file the way the workspace needs it, and brings it to the present version."""

from pathlib import Path

from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.pool import StaticPool

from kaustos.store.errors import DamagedWorkspace, NewerWorkspace, NotAWorkspace

APPLICATION_ID = 0x4B415553  # "KAUS", stands in the header of every workspace file
HEAD = "0002"
VERSIONS = ("0001", "0002")


def open_engine(file: Path, *, write: bool) -> Engine:
    """An engine on a workspace file; made anew where it is missing and ``write`` is on."""
    if not write and not file.exists():
        raise NotAWorkspace(str(file), "there is no such file")
    if file.is_dir():
        raise NotAWorkspace(str(file), "is a folder, not a workspace file")
    mode = "rwc" if write else "ro"
    url = f"sqlite:///file:{_quoted(file)}?mode={mode}&uri=true"
    engine = create_engine(url, poolclass=StaticPool, connect_args={"timeout": 5.0, "check_same_thread": False})
    event.listen(engine, "connect", _prepare_writer if write else _prepare_reader)
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql(_BEGIN[write]))
    try:
        _check(engine, file, write=write)
    except DatabaseError as error:
        engine.dispose()
        raise _fault(file, error) from error
    except Exception:
        engine.dispose()
        raise
    return engine


_BEGIN = {True: "BEGIN IMMEDIATE", False: "BEGIN"}


def _quoted(file: Path) -> str:
    return str(file.absolute()).replace("%", "%25").replace("?", "%3f").replace("#", "%23")


def _prepare_reader(connection: object, _: object) -> None:
    connection.isolation_level = None  # type: ignore[attr-defined]  # BEGIN is ours to send
    connection.execute("PRAGMA foreign_keys = ON")  # type: ignore[attr-defined]


def _prepare_writer(connection: object, record: object) -> None:
    _prepare_reader(connection, record)
    found = connection.execute("PRAGMA schema_version").fetchone()[0]  # type: ignore[attr-defined]
    application = connection.execute("PRAGMA application_id").fetchone()[0]  # type: ignore[attr-defined]
    if found and application != APPLICATION_ID:
        return  # not ours: the check refuses it, and it must stay as it is
    for pragma in ("journal_mode = WAL", "synchronous = FULL", "busy_timeout = 5000"):
        connection.execute(f"PRAGMA {pragma}")  # type: ignore[attr-defined]


def _fault(file: Path, error: DatabaseError) -> NotAWorkspace | DamagedWorkspace:
    text = str(error.orig)
    if "not a database" in text:
        return NotAWorkspace(str(file), "is not a Kaustos workspace")
    return DamagedWorkspace(str(file), f"cannot be read ({text}); it was left as it is")


def _check(engine: Engine, file: Path, *, write: bool) -> None:
    with engine.connect() as connection:
        application = connection.exec_driver_sql("PRAGMA application_id").scalar()
        empty = connection.exec_driver_sql("SELECT count(*) FROM sqlite_master").scalar() == 0
        if not empty and application != APPLICATION_ID:
            raise NotAWorkspace(str(file), "is a database, but not a Kaustos workspace")
        version = None if empty else connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()
    if version is not None and version not in VERSIONS:
        raise NewerWorkspace(str(file), f"was written by a newer version of Kaustos (layout {version})")
    if version != HEAD:
        if not write:
            raise DamagedWorkspace(str(file), "has an older layout; open it once for writing to bring it up to date")
        if version is not None:
            copy_database(engine, backup_of(file, version))
        migrate(engine)


def backup_of(file: Path, version: str) -> Path:
    """Where the state before a migration is kept."""
    return file.with_name(f"{file.name}.before-layout-{version}")


def copy_database(engine: Engine, target: Path) -> None:
    """Copy the whole database by SQLite's backup call; the copy takes its name only when it is whole."""
    import os
    import sqlite3

    scratch = target.with_name(target.name + ".new")
    scratch.unlink(missing_ok=True)
    with engine.connect() as connection:
        connection.rollback()
        copy = sqlite3.connect(scratch)
        try:
            connection.connection.driver_connection.backup(copy)  # type: ignore[union-attr]
            copy.execute("PRAGMA journal_mode = DELETE")
        finally:
            copy.close()
    os.replace(scratch, target)


def migrate(engine: Engine) -> None:
    """Bring the file to the present layout in one transaction."""
    from alembic.migration import MigrationContext
    from alembic.operations import Operations

    from kaustos.store.migrations import STEPS

    with engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA foreign_keys = OFF")
        connection.rollback()
        with connection.begin():
            context = MigrationContext.configure(connection)
            present = context.get_current_revision()
            names = list(STEPS)
            for name in names[names.index(present) + 1 if present else 0 :]:
                with Operations.context(context):
                    STEPS[name]()
                _stamp(context, name)
            if connection.exec_driver_sql("PRAGMA foreign_key_check").fetchall():
                raise DamagedWorkspace("workspace", "rows point to rows that are not there; nothing was changed")
            connection.exec_driver_sql(f"PRAGMA application_id = {APPLICATION_ID}")
        connection.exec_driver_sql("PRAGMA foreign_keys = ON")
        connection.rollback()


def _stamp(context: object, name: str) -> None:
    connection = context.connection  # type: ignore[attr-defined]
    connection.exec_driver_sql("CREATE TABLE IF NOT EXISTS alembic_version (version_num VARCHAR(32) NOT NULL)")
    connection.exec_driver_sql("DELETE FROM alembic_version")
    connection.exec_driver_sql(f"INSERT INTO alembic_version VALUES ('{name}')")
