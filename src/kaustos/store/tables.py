"""The tables as the queries see them: names only. Types and constraints stand in the migrations, which make them.

Light constructs on purpose: declaring whole tables costs a start 40 ms that no query needs.
"""

from sqlalchemy import column, table


def _table(name: str, columns: str):  # type: ignore[no-untyped-def]
    return table(name, *(column(each) for each in columns.split()))


# the present state of every record: card, machine, lot, run, shop
documents = _table("documents", "kind id document changed_utc")
revisions = _table("revisions", "id card number status who why saved_utc polymer machine grade document")
history = _table("history", "id at_utc who title changes revision")
attachments = _table("attachments", "sha256 name content added_utc")
statuses = _table("statuses", "id card number status who why at_utc")
ALL = (documents, revisions, history, attachments, statuses)
