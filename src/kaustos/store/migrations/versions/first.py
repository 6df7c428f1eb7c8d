"""The first layout: documents, revisions, history."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    """Make the tables of the first layout."""
    op.create_table(
        "documents",
        sa.Column("kind", sa.String(16), primary_key=True),
        sa.Column("id", sa.String(80), primary_key=True),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("changed_utc", sa.String(32), nullable=False),
    )
    op.create_table(
        "revisions",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("card", sa.String(80), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("status", sa.String(16), nullable=False),
        sa.Column("who", sa.String(200), nullable=False),
        sa.Column("why", sa.Text, nullable=False),
        sa.Column("saved_utc", sa.String(32), nullable=False),
        sa.Column("polymer", sa.String(80)),
        sa.Column("machine", sa.String(80)),
        sa.Column("grade", sa.String(16), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.UniqueConstraint("card", "number"),
    )
    op.create_table(
        "history",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at_utc", sa.String(32), nullable=False),
        sa.Column("who", sa.String(200), nullable=False),
        sa.Column("title", sa.Text, nullable=False),
        sa.Column("changes", sa.Text, nullable=False),
        sa.Column("revision", sa.Integer, sa.ForeignKey("revisions.id")),
    )
    op.create_index("history_by_time", "history", ["at_utc"])
