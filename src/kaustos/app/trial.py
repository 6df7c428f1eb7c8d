"""The next trial of one setting: proposed from what was tried, never outside what the machine bears, said in words."""

import numpy as np

from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.ledger import ledger_of
from kaustos.core.planning.reach import reach_through
from kaustos.core.planning.trial_plan import REASONS, Factor, Proposal, Result, propose
from kaustos.core.review import Context

TRIED = {"melt.nozzle_c": (5.0, "Nozzle"), "heat.chamber_c": (5.0, "Chamber"), "plate.bed_c": (5.0, "Plate"),
         "melt.speed_mm_s": (1.0, "Speed"), "heat.least_layer_s": (1.0, "Least layer time")}  # fmt: skip
QUANTITIES = {"melt.speed_mm_s": "speed", "heat.least_layer_s": "seconds"}
PIECE_G = 20.0  # a test piece


def next_trial_of(workspace: Workspace, context: Context, field: str, text: str, limits: str) -> Proposal:
    """The next level of one setting, by results typed as level and score, 350 2; 370 3.5, within limits: 340 400."""
    wording = workspace.draft.wording
    step, title = TRIED[field]
    quantity = QUANTITIES.get(field, "temperature")
    ends = [wording.read(each, quantity) for each in limits.split()]
    if len(ends) != 2 or not ends[0] < ends[1]:
        raise KaustosError(f"{title}: type between what it may lie, such as 340 400.")
    top = _limit_of(field, context)
    if top is not None and ends[1] > top:
        raise KaustosError(f"{title}: this machine ends at {wording.value(top, quantity)}; no trial goes beyond.")
    results = []
    for each in filter(None, (part.strip() for part in text.split(";"))):
        words = each.split()
        if len(words) != 2:
            raise KaustosError(f"“{each:.40}”: a level and what it scored, such as 350 2.")
        try:
            score = float(words[1].replace(",", "."))
        except ValueError as error:
            raise KaustosError(f"“{each:.40}”: {words[1]!r} is no score.") from error
        results.append(Result(at=(wording.read(words[0], quantity),), value=score))
    return propose((Factor(field=field, low=ends[0], high=ends[1], step=step),), results)


def _limit_of(field: str, context: Context) -> float | None:
    zone = {"melt.nozzle_c": "nozzle", "heat.chamber_c": "chamber", "plate.bed_c": "plate"}.get(field)
    if zone is None or context.machine is None:
        return None
    reach = reach_through(context.machine, zone, context.rules, context.nozzle)
    return reach.bottleneck.max_c if reach is not None and reach.bottleneck is not None else None


def trial_words(field: str, found: Proposal, context: Context, wording: Wording) -> str:
    """A proposal in words: what is varied, what stays, what is expected, when to stop, whether filament lasts."""
    quantity = QUANTITIES.get(field, "temperature")
    level = wording.value(found.at[0], quantity)
    words = [f"{TRIED[field][1]} {level}, all else as it stands: {REASONS[found.reason]}."]
    if np.isfinite(found.high):
        words.append(f"Expected {found.expected:.2f} ({found.low:.2f} to {found.high:.2f}).")
    if found.best is not None and found.reason != "done":
        words.append(f"Stop where it scores below {found.low:.2f}, or two trials gain less than "
                     f"{max(0.02 * abs(found.best), 0.01):.2f}.")  # fmt: skip
    ledger = ledger_of(context.lot, context.shop.taken_g.get(context.lot.id, 0.0)) if context.lot is not None else None
    if ledger is not None and ledger.free_g < PIECE_G:
        left = wording.value(round(ledger.free_g), "mass")
        words.append(f"The lot has {left} free: too little for a test piece.")
    return " ".join(words)
