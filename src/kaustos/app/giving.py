"""Giving a revision its status: a release by the rules of the shop, or on concession by names and a reason."""

from kaustos.app.runs import revision_maturity
from kaustos.app.workspace import STATUSES, Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.review.experience import lacks_for_release

CONCESSION = "on concession"


def give_status(workspace: Workspace, number: int, status: str, why: str, second: str = "") -> None:
    """Give a revision of the open recipe another status; what a release lacks is said with it."""
    if status == "released":
        why = _conceded(workspace, number, why, second.strip())
    workspace.set_status(number, status, why)


def _conceded(workspace: Workspace, number: int, why: str, second: str) -> str:
    """Why it is released; with what it lacks, where it lacks anything and somebody answers for it."""
    revision, rules = workspace.revision(workspace.draft.records.current or "", number), workspace.draft.records.rules
    lacks = () if revision is None else lacks_for_release(revision_maturity(workspace, revision), rules)
    if not lacks:
        return why
    missing, who = ", ".join(lacks), workspace.settings.who.strip()
    if not why.strip() or not who:
        raise KaustosError(
            f"Revision {number} lacks {missing}: released all the same it needs a reason, and a name (Settings)."
        )
    if rules.release_names > 1.0 and second.casefold() in ("", who.casefold()):
        raise KaustosError(f"Revision {number} lacks {missing}: by the rules of the shop a second name answers for it.")
    also = f", {second} too" if second else ""
    return f"{CONCESSION}{also}, it lacks {missing}: {why.strip()}"


def concession_of(workspace: Workspace, number: int | None = None, card: str | None = None) -> str:
    """What stands wherever a recipe is used whose newest revision, or that of a number, is released on concession."""
    found = workspace.revisions() if card is None else workspace.revisions_of(card)
    revision = next((each for each in found if number in (None, each.number)), None)
    if revision is None or revision.status != "released":
        return ""
    entry = next((each for each in workspace.statuses(card) if each.number == revision.number), None)
    return CONCESSION if entry is not None and f"{CONCESSION}," in entry.why else ""


def revision_words(workspace: Workspace) -> str:
    """Which revision the open recipe stands on, and by what right it is released."""
    found = workspace.revisions()
    if not found:
        return "not saved yet"
    status = " ".join(filter(None, (STATUSES[found[0].status], concession_of(workspace))))
    changed = ", changed since" if workspace.differs_from_last_revision() else ""
    return f"revision {found[0].number}, {status}{changed}"
