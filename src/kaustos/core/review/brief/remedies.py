"""What helps against a finding of the brief: another margin, another state, another polymer."""

import math

import attrs

from kaustos.core.planning import propose_setpoints
from kaustos.core.planning.pairing import statement_of
from kaustos.core.records import PlateItem, Polymer, Recipe
from kaustos.core.review.brief.ranking import Candidate
from kaustos.core.review.contract import PENDING, Absent, Advice, Context, Remedy, Set
from kaustos.core.review.zones import agent_on, limits_of


def switch_to(recipe: Recipe, context: Context, candidate: Candidate) -> tuple[Set, ...]:
    """Another polymer with every setpoint in the middle of its windows, where the present machine reaches them."""
    polymer, machine = context.shop.polymers.get(candidate.polymer), context.machine
    if polymer is None or machine is None or machine.name not in candidate.runs_on:
        return ()
    proposed = propose_setpoints(polymer, machine, context.rules)
    usual_c = next((each.value for each in proposed if each.field == "first_layer.bed_c"), 0.0)
    plate, bed_c = _plate_for(polymer, context, usual_c)
    if any(each.short > 0 for each in proposed) or (context.plate is not None and plate is None):
        return ()
    changes: dict[str, float | str | None] = {
        "polymer": candidate.polymer,
        **{each.field: each.value for each in proposed},
    }
    if bed_c is not None:
        changes |= dict.fromkeys(("plate.bed_c", "first_layer.bed_c"), bed_c)
    lot = next((each for each in context.shop.lots if each.polymer == candidate.polymer), None)
    changes["context.lot"] = lot.id if lot else ""  # a lot of the old polymer would be the wrong one
    changes["supports.material"] = None  # what is under the old one is not under this
    if recipe.anneal.steps:
        from kaustos.core.review.anneal.remedies import planned, without_steps

        anew = planned(recipe, attrs.evolve(context, polymer=polymer, loads=()))
        changes |= without_steps(recipe) if anew is None else anew.changes
    if recipe.stock.dryer_c is not None and candidate.dryer_c:
        low, high = candidate.dryer_c
        limits = [high, *([context.dryer.max_c] if context.dryer and context.dryer.max_c is not None else [])]
        body = context.supplies.stands_c(lot.flange) if lot else None
        limits += [body] if body is not None else []
        changes["stock.dryer_c"] = float(math.floor(min((low + high) / 2.0, *limits)))
    title = "Take {other:text} with setpoints of its own"
    if recipe.stock.dryer_h is not None:
        changes["stock.dryer_h"], title = None, f"{title}; plan its drying anew"
    values: dict[str, float | str] = {"other": candidate.name}
    if plate is not None and context.plate is not None and plate.id != context.plate.id:
        changes["context.plate"], values["plate"] = plate.id, plate.name
        title = f"{title}; on {{plate:text}}"
    return (Set(title, changes, values),)


def _plate_for(polymer: Polymer, context: Context, usual_c: float) -> tuple[PlateItem | None, float | None]:
    """The present plate where it holds a polymer and lets it go, else another that fits; with the heat of the pair."""
    bonds, machine = context.supplies.bonds, context.machine
    fits = [each for each in context.shop.plates if machine is None or each.fits_on in (None, machine.id)]
    for item in [] if context.plate is None else [context.plate, *fits]:
        agent = agent_on(attrs.evolve(context, plate=item))
        if item.surface not in bonds.surfaces or item.is_chipped:
            continue
        said = statement_of(bonds, polymer, item.surface or "", agent.id if agent else "")
        bed_c = None if said.bed_c is None else float(round(sum(said.bed_c) / 2.0))
        stands = limits_of(item, bonds.surfaces[item.surface or ""], agent)
        if said.holds in ("fair", "good") and (usual_c if bed_c is None else bed_c) <= stands[0][1]:
            return item, bed_c
    return None, None


def other_polymers(
    recipe: Recipe, context: Context, ranking: tuple[Candidate, ...] | None, code: str
) -> tuple[Remedy | Absent, ...]:
    """The polymers that would do and do not raise the same code, the first that runs here as a remedy."""
    if ranking is None:
        return (PENDING,)
    others = [
        each
        for each in ranking
        if each.would_do and each.polymer != recipe.polymer and code not in {reason.code for reason in each.reasons}
    ]
    here = next((remedy for each in others for remedy in switch_to(recipe, context, each)), None)
    names = ", ".join(f"{each.name} on {each.runs_on[0]}" for each in others[:6])
    text = (
        f"This shop could run: {names}."
        if others
        else "No polymer that this shop can run is known to stand this service."
    )
    advice = Advice("Take a polymer that stands this service", text)
    return (here, advice) if here else (advice,)


def judge_as_printed(recipe: Recipe) -> Recipe:
    return attrs.evolve(recipe, brief=attrs.evolve(recipe.brief, history="as_printed"))
