"""Giving a revision its status: a release by the rules of the shop, or on concession by name and reason."""

from kaustos.app.runs import revision_maturity
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.review.experience import lacks_for_release


def give_status(workspace: Workspace, number: int, status: str, why: str) -> None:
    """Give a revision of the open recipe another status; what a release lacks is said with it."""
    if status == "released":
        why = _conceded(workspace, number, why)
    workspace.set_status(number, status, why)


def _conceded(workspace: Workspace, number: int, why: str) -> str:
    """Why it is released; with what it lacks, where it lacks anything and somebody answers for it."""
    revision = workspace.revision(workspace.draft.records.current or "", number)
    lacks = () if revision is None else lacks_for_release(
        revision_maturity(workspace, revision), workspace.draft.records.rules
    )  # fmt: skip
    if not lacks:
        return why
    missing = ", ".join(lacks)
    if not why.strip() or not workspace.settings.who.strip():
        raise KaustosError(
            f"Revision {number} lacks {missing}: released all the same it needs a reason, and a name (Settings)."
        )
    return f"on concession, it lacks {missing}: {why.strip()}"
