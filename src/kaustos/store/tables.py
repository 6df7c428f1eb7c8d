"""The tables as the present version knows them."""

from sqlalchemy import Column, ForeignKey, Index, Integer, MetaData, String, Table, Text, UniqueConstraint

METADATA = MetaData()

documents = Table(  # the present state of every record: card, machine, lot, rules
    "documents",
    METADATA,
    Column("kind", String(16), primary_key=True),
    Column("id", String(80), primary_key=True),
    Column("document", Text, nullable=False),
    Column("changed_utc", String(32), nullable=False),
)
revisions = Table(
    "revisions",
    METADATA,
    Column("id", Integer, primary_key=True),
    Column("card", String(80), nullable=False),
    Column("number", Integer, nullable=False),
    Column("status", String(16), nullable=False),
    Column("who", String(200), nullable=False),
    Column("why", Text, nullable=False),
    Column("saved_utc", String(32), nullable=False),
    Column("polymer", String(80)),
    Column("machine", String(80)),
    Column("grade", String(16), nullable=False),
    Column("document", Text, nullable=False),
    UniqueConstraint("card", "number"),
)
history = Table(
    "history",
    METADATA,
    Column("id", Integer, primary_key=True),
    Column("at_utc", String(32), nullable=False),
    Column("who", String(200), nullable=False),
    Column("title", Text, nullable=False),
    Column("changes", Text, nullable=False),
    Column("revision", Integer, ForeignKey("revisions.id")),
)
Index("history_by_time", history.c.at_utc)
