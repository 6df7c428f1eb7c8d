"""Predictions beside what was found, as rows of words: for the room and the command line."""

from collections.abc import Iterator

import attrs

from kaustos.app.judge import context_of_records
from kaustos.app.recipes import name_of
from kaustos.app.records import Records
from kaustos.app.wording import Wording, when_words
from kaustos.app.workspace import Workspace
from kaustos.core.records import SEEN
from kaustos.core.review import CODES
from kaustos.core.review.foretold import (
    Pair,
    Score,
    hours_pairs,
    lift_odds,
    not_foretold,
    scores_of,
    warnings_of,
)
from kaustos.core.review.heat import heat_case

SCORE_HEADINGS = (
    "Prediction",
    "Machine",
    "Found",
    "Within its band",
    "Found over foretold",
    "Band now",
    "If it is off",
)
PAIR_HEADINGS = ("When", "Prediction", "Machine", "Foretold", "Found", "Held")
WARNING_HEADINGS = ("Warning", "Stood", "Right", "Share")
TITLES = {"hours": "Hours of a run", "weld": "Strength across layers", "lift": "Parts that lift"}
QUANTITIES = {"hours": "duration", "weld": "share"}
USUAL_CAUSES = {
    "hours": "its file knows neither its accelerations nor its waits",
    "weld": "its sensor shows another heat than the melt has, or its air is colder than shown",
    "lift": "its plate is dirty, worn or not level, or warmer or colder than shown",
}


@attrs.frozen
class Predictions:
    """Three tables, and how often something came that nobody had foretold."""

    scores: tuple[tuple[str, ...], ...]
    pairs: tuple[tuple[str, ...], ...]
    warnings: tuple[tuple[str, ...], ...]
    unforetold: str


def predictions_of(workspace: Workspace, wording: Wording) -> Predictions:
    """How good what the program foretells has been in this shop."""
    records, context = workspace.draft.records, workspace.context
    runs = [run for run in records.runs.values() if not run.retired]
    pairs = (*hours_pairs(runs), *_welds(workspace))
    shop = context().shop if records.current is not None else None
    odds = lift_odds(shop.bonded if shop is not None else {}, {run.id: run.machine or "" for run in runs})
    scores = [_score_row(each, workspace) for each in scores_of(pairs)]
    for each in odds:
        inside = each.low <= each.seen <= each.high
        scores.append((
            TITLES["lift"], _machine(workspace, each.machine), str(each.count),
            f"{each.seen} seen, {each.low} to {each.high} foretold",
            f"{each.seen / each.expected:.2f}" if each.expected >= 0.5 else "-", "-",
            "" if inside else USUAL_CAUSES["lift"],
        ))  # fmt: skip
    newest = sorted(pairs, key=lambda each: each.at_utc, reverse=True)
    warnings = tuple(
        (CODES[each.code].title, str(each.of), str(each.right), f"{100.0 * each.right / each.of:.0f} %")
        for each in warnings_of(runs)
    )
    missed = ", ".join(f"{SEEN.get(what, what).lower()} {count}" for what, count in not_foretold(runs).items())
    words = (
        f"Seen though nothing had foretold it: {missed}." if missed else "Everything that was seen had been foretold."
    )
    return Predictions(tuple(scores), tuple(_pair_row(each, workspace, wording) for each in newest), warnings, words)


def _machine(workspace: Workspace, key: str) -> str:
    return name_of(workspace, "machines", key) if key in workspace.draft.records.machines else key or "not recorded"


def _score_row(each: Score, workspace: Workspace) -> tuple[str, ...]:
    now = f"{100.0 * each.narrower:.0f} % as wide as untaught"
    cause = USUAL_CAUSES[each.key] if each.is_off else ""
    held = f"{each.held} of {each.count}"
    return TITLES[each.key], _machine(workspace, each.machine), str(each.count), held, f"{each.off:.2f}", now, cause


def _pair_row(each: Pair, workspace: Workspace, wording: Wording) -> tuple[str, ...]:
    quantity = QUANTITIES[each.key]
    low, likely, high = (wording.value(value, quantity) for value in each.told)
    found = wording.value(each.found, quantity)
    told = f"{likely} ({low} to {high})"
    held = "yes" if each.held else "no"
    return when_words(each.at_utc)[:10], TITLES[each.key], _machine(workspace, each.machine), told, found, held


def _welds(workspace: Workspace) -> Iterator[Pair]:
    """Specimens beside what the model alone said of their recipe; the newest proof that was pulled of each."""
    records: Records = workspace.draft.records
    cards = {proof.card for proof in records.tables["proofs"].values() if proof.sort == "pull" and not proof.retired}
    for card in sorted(cards & set(records.cards)):
        opened = attrs.evolve(records, current=card)
        context = context_of_records(opened, workspace.clock())
        case = heat_case(opened.card.recipe, context)
        evidence, band = case.evidence, case.band()
        if evidence is None or evidence.found is None or band is None:
            continue
        proof = max((each for each in context.proofs if each.sort == "pull"), key=lambda each: each.at_utc)
        least, likely, most = (100.0 * each for each in evidence.told)
        yield Pair(
            key="weld", machine=proof.machine or "", source=proof.id, at_utc=proof.at_utc, found=100.0 * evidence.found,
            told=(least, likely, most), before=(least, likely, most), after=(band.low, band.value, band.high),
        )  # fmt: skip
