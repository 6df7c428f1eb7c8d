"""Pages that are no operation."""

from kaustos.ui.rooms.revisions import RevisionsPage

__all__ = ["RevisionsPage"]
