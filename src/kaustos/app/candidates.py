"""Words for the candidates of a brief: one line each, and the whole of it for those who ask."""

from kaustos.app.wording import Wording
from kaustos.core.review.brief import VERDICTS, Candidate, Lack

_VERDICT_WORDS = {"against": "no: ", "unknown": "not known: ", "mind": "mind: ", "for": ""}


def candidate_words(candidate: Candidate, wording: Wording) -> tuple[str, str, str, str, str]:
    """Name, margin, price of a litre, machines, and the reason that weighs most."""
    margin = wording.estimate(candidate.margin, band=False) if candidate.margin else "not known"
    price = wording.estimate(candidate.price_per_litre, band=False) if candidate.price_per_litre else "not known"
    runs_on = ", ".join(candidate.runs_on) or "none of ours"
    return candidate.name, margin, price, runs_on, _why(candidate, wording)


def _why(candidate: Candidate, wording: Wording) -> str:
    worst = min(candidate.reasons, key=lambda reason: VERDICTS.index(reason.verdict))
    if worst.verdict == "for" and candidate.nearest:
        return f"suits, but {candidate.nearest.machine}: {lack_words(candidate.nearest, wording)}"
    return _VERDICT_WORDS[worst.verdict] + wording.sentence(worst.text, worst.values)


def lack_words(lack: Lack, wording: Wording) -> str:
    """What a machine lacks, zone by zone; empty for nothing."""
    return ", ".join(
        f"{zone} reach not recorded" if by is None else f"{zone} {wording.value(by, 'temperature_difference')} short"
        for zone, by in lack.zones
    )


def candidate_tip(candidate: Candidate, wording: Wording) -> str:
    """Every reason, and what running it asks for."""
    lines = [candidate.name]
    lines += [_VERDICT_WORDS[each.verdict] + wording.sentence(each.text, each.values) for each in candidate.reasons]
    if candidate.nearest:
        lines.append(f"nearest is {candidate.nearest.machine}: {lack_words(candidate.nearest, wording)}")
    lines += [f"mind: {each}" for each in candidate.hindrances]
    if candidate.dryer_c:
        low, high = (wording.value(each, "temperature") for each in candidate.dryer_c)
        lines.append(f"dryer {low} to {high}")
    if candidate.fan:
        lines.append(f"fan {candidate.fan[0]:g} to {candidate.fan[1]:g} %")
    if candidate.abrasion and candidate.abrasion > 5:
        lines.append(f"wears the nozzle about {candidate.abrasion:g} times as fast as an unfilled polymer")
    return "\n".join(lines)
