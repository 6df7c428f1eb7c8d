"""A stop stops: what is run or released all the same is signed for by name and reason, and a safety stop by nobody."""

from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.review import CODES, Finding, Review


class StopStands(KaustosError):
    """A stop stands: it asks for a name and a reason, or refuses where people or machine would come to harm."""

    def __init__(self, what: str, words: tuple[str, ...], *, is_safety: bool) -> None:
        super().__init__(what, words, is_safety)
        self.what, self.words, self.is_safety = what, words, is_safety

    def __str__(self) -> str:
        said = " ".join(self.words)
        if self.is_safety:
            return f"{self.what} is refused: {said} Cure this first; nobody signs for it."
        return f"{self.what}: a stop stands. {said} Say who answers for it, and why it is done all the same."


def stops_of(review: Review) -> tuple[Finding, ...]:
    """The stops that stand, those of safety first."""
    stops = [finding for finding in review.findings() if finding.severity == "stop"]
    return tuple(sorted(stops, key=lambda finding: not CODES[finding.code].is_safety))


def signed(what: str, review: Review, wording: Wording, who: str, why: str) -> str:
    """Who answers for what is done despite a stop, and why; empty where none stands."""
    stops = stops_of(review)
    if not stops:
        return ""
    safety = tuple(finding for finding in stops if CODES[finding.code].is_safety)
    if safety or not (who.strip() and why.strip()):
        words = tuple(wording.text(finding) for finding in safety or stops)
        raise StopStands(what, words, is_safety=bool(safety))
    return f"{who.strip()}: {why.strip()}"
