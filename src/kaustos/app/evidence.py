"""What the bench of proof shows: the ladder, sizes, specimens, tones, what was found, what a release still lacks."""

from kaustos.app.maturity import changed_fields, leaves_as_run
from kaustos.app.revisions import leaves_of
from kaustos.app.runs import number_of
from kaustos.app.use import use_class
from kaustos.app.wording import hours_words, when_words
from kaustos.app.workspace import Workspace
from kaustos.core.planning.evidence import by_hand
from kaustos.core.records import GROUPS, HANDS, MEASURED, PROOFS, SERVICE_ENDS, VERDICTS
from kaustos.core.review import Context, Review
from kaustos.core.review.experience import lacks_for_release
from kaustos.core.review.part_changes import ANEW, changed_by
from kaustos.core.review.proof import modulus_of, proof_case
from kaustos.core.review.proof.findings import life_h

LADDER_HEADINGS = ("Test", "Stands", "Filament", "Hours")
SIZE_HEADINGS = ("Measured", "Axis", "Drawn", "Found", "Off", "Within")
PULL_HEADINGS = ("Specimen", "Direction", "Strength", "Modulus", "Breaks at", "")
TONE_HEADINGS = ("Bar", "When", "Lot", "Tone", "Rings", "Stiffness", "Verdict")
HAND_HEADINGS = ("Done", "Direction", "Pieces", "On average", "Broke between layers")
LOG_HEADINGS = ("When", "What", "", "By")
Rows = list[tuple[str, ...]]


def ladder_rows(context: Context, workspace: Workspace) -> Rows:
    """The ladder of tests with what each puts at stake."""
    wording, case = workspace.draft.wording, proof_case(workspace.draft.records.card.recipe, context)
    rows: Rows = []
    for rung in case.ladder:
        stands = "passed" if rung.is_climbed else "next" if case.next is not None and rung.key == case.next.key else ""
        rows.append(
            (
                rung.title, stands, "" if rung.grams is None else wording.value(rung.grams, "mass"),
                "" if rung.hours is None else hours_words(rung.hours),
            )
        )  # fmt: skip
    return rows


def size_rows(context: Context, workspace: Workspace) -> Rows:
    """Readings of the newest proof of sizes, those out of tolerance named so."""
    wording, case = workspace.draft.wording, proof_case(workspace.draft.records.card.recipe, context)
    if case.sizes is None or case.sized is None:
        return []
    out = {id(row) for row, _ in case.sized.out}
    rows: Rows = []
    for row in case.sizes.rows:
        off = None if row.nominal_mm is None or row.found_mm is None else row.found_mm - row.nominal_mm
        cells = [
            row.name or MEASURED.get(str(row.what), ""), row.axis or "",
            *("" if each is None else wording.value(each, "length") for each in (row.nominal_mm, row.found_mm)),
            "" if off is None else f"{off:+.2f}".replace("-", "−") + (" out" if id(row) in out else ""),
            "" if row.tolerance_mm is None else wording.value(row.tolerance_mm, "length"),
        ]  # fmt: skip
        rows.append(tuple(cells))
    return rows


def pull_rows(context: Context, workspace: Workspace) -> Rows:
    """Specimens of the newest proof."""
    case = proof_case(workspace.draft.records.card.recipe, context)
    if case.pulls is None:
        return []
    return [
        (
            row.name or f"{place}", GROUPS.get(str(row.group), ""),
            "" if row.strength_mpa is None else f"{row.strength_mpa:.1f} MPa",
            "" if row.modulus_mpa is None else f"{row.modulus_mpa:.0f} MPa",
            "" if row.break_pct is None else f"{row.break_pct:.2f} %", row.note,
        )
        for place, row in enumerate(case.pulls.rows, 1)
    ]  # fmt: skip


def pull_words(context: Context, workspace: Workspace) -> str:
    """What specimens add up to."""
    case = proof_case(workspace.draft.records.card.recipe, context)
    if case.strengths is None:
        return "Three or more of each direction, printed as the part is; clamp, goggles, nobody beside."
    words = []
    for key, group in case.strengths.groups.items():
        band = "one specimen: no interval" if group.low is None else f"{group.low:.1f} to {group.high:.1f}"
        words.append(f"{GROUPS[key]}: {group.mean:.1f} MPa ({band})")
    for name, found in (("Across to along", case.strengths.ratio), ("to moulded", case.strengths.of_moulded),
                        ("left after ageing", case.strengths.retained)):  # fmt: skip
        if found is not None:
            words.append(f"{name} {found.value:.2f} ({found.low:.2f} to {found.high:.2f})")
    return "; ".join(words) + "."


def tone_rows(context: Context, workspace: Workspace) -> Rows:
    """Every tapped bar of the recipe, the newest first."""
    lots = workspace.draft.records.lots
    rows: Rows = []
    for proof in context.proofs:
        if proof.sort != "tone":
            continue
        for row in proof.rows:
            found = modulus_of(row)
            lot = lots.get(proof.lot or "")
            rows.append(
                (
                    row.name, when_words(proof.at_utc)[:10], lot.name if lot is not None else "",
                    "" if row.hz is None else f"{row.hz:.0f} Hz",
                    "" if row.decay_s is None else f"{1e3 * row.decay_s:.0f} ms",
                    "" if found is None else f"{found.value:.0f} ± {(found.high - found.low) / 2.0:.0f} MPa",
                    VERDICTS.get(proof.verdict or "", "open"),
                )
            )  # fmt: skip
    return rows


def hand_rows(context: Context) -> Rows:
    """Pieces broken, struck or squeezed by hand, by condition; what was looked over below."""
    proof = next((each for each in context.proofs if each.sort == "hand"), None)
    rows: Rows = []
    for each in by_hand(proof.rows) if proof is not None else ():
        unit = {"squeeze": " N/mm", "hammer": " blows"}.get(each.hand, " of 4")
        share = each.between
        between = "" if share is None else f"{share.method} ({100.0 * share.low:.0f} to {100.0 * share.high:.0f} %)"
        rows.append(
            (
                HANDS[each.hand], GROUPS[each.group], f"{each.count}{', too few' if each.is_few else ''}",
                "" if each.mean is None else f"{each.mean:.1f}{unit}", between,
            )
        )  # fmt: skip
    looked = next((each for each in context.proofs if each.sort == "look"), None)
    for row in looked.rows if looked is not None else ():
        asked = "" if row.expected is None else "expected" if row.expected else "not expected"
        rows.append((row.name, "looked over", "", f"{row.grade or 0.0:.0f} of 4", asked))
    return rows


def log_rows(context: Context, workspace: Workspace) -> Rows:
    """Dead ends, lucky finds and parts in service."""
    rows: Rows = [
        (when_words(each.at_utc)[:10], PROOFS[str(each.sort)], each.note, each.by)
        for each in context.proofs if each.sort in ("dead_end", "lucky")
    ]  # fmt: skip
    for part in context.services:
        life = life_h(part)
        ended = SERVICE_ENDS.get(part.ended or "", "serves")
        months = "" if life is None else f" after {life / 730.0:.1f} months"
        rows.append((when_words(part.in_utc)[:10], part.name, f"{part.place}: {ended.lower()}{months}", ""))
    return rows


def release_words(workspace: Workspace, review: Review) -> str:
    """What stands between the open recipe and its release."""
    current = workspace.draft.records.current
    if current is None:
        return ""
    maturity = workspace.maturity()
    lacks = list(lacks_for_release(maturity, workspace.draft.records.rules))
    lacks += ["a stop to be cured"] if review.standing == "stop" else []
    words = f"Use: {use_class(review.grade.value, maturity.word)}. {maturity.word.capitalize()}"
    words += f"; lacks {', '.join(lacks)}." if lacks else ": nothing is lacking by the rules of the shop."
    return " ".join(filter(None, (words, changed_words(workspace))))


MOST_TOLD = 3


def changed_words(workspace: Workspace) -> str:
    """What was changed since the last run of the open recipe that changes its part, and what is to be proven anew."""
    records = workspace.draft.records
    runs = workspace.indexes.runs_of(records.runs, records.current or "")
    ended = sorted((run for run in runs if run.is_ended and not run.retired), key=lambda run: run.started_utc)
    revision = workspace.revision(ended[-1].card, ended[-1].revision) if ended else None
    if revision is None or records.current is None:
        return ""
    was = leaves_as_run(revision.document, tuple(ended[-1].settings.items()))
    now = leaves_of(workspace.document(records.current))
    paths = changed_fields(was, now)
    if not paths:
        return ""
    wording = workspace.draft.wording
    told = [f"{wording.field(path)} {wording.field_value(path, was.get(path))} → "
            f"{wording.field_value(path, now.get(path))}" for path in paths[:MOST_TOLD]]  # fmt: skip
    more = f" and {len(paths) - MOST_TOLD} more" if len(paths) > MOST_TOLD else ""
    falls = dict.fromkeys(each for path in paths for each in changed_by(path))
    anew = "; ".join(ANEW[each] for each in ANEW if each in falls)
    return f"Changed since run {number_of(ended[-1].id)}: {', '.join(told)}{more}. To be shown anew: {anew}."
