"""The second layout: attachments by fingerprint, and the changes of a revision's status."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add the tables of the second layout; every revision gets its present status as its first entry."""
    op.create_table(
        "attachments",
        sa.Column("sha256", sa.String(64), primary_key=True),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("added_utc", sa.String(32), nullable=False),
    )
    op.create_table(
        "statuses",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("card", sa.String(80), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("status", sa.String(16), nullable=False),
        sa.Column("who", sa.String(200), nullable=False),
        sa.Column("why", sa.Text, nullable=False),
        sa.Column("at_utc", sa.String(32), nullable=False),
    )
    op.execute(
        "INSERT INTO statuses (card, number, status, who, why, at_utc) "
        "SELECT card, number, status, who, why, saved_utc FROM revisions ORDER BY id"
    )
    op.create_index("statuses_by_revision", "statuses", ["card", "number"])
