"""What is looked up often, made once a change: runs by recipe, what recipes still want, which records changed."""

import functools
import operator
from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from typing import Any

import attrs

from kaustos.app.records import Records
from kaustos.core.planning.booking import booking_of
from kaustos.core.planning.ledger import fed_by_runs, taken_by_runs
from kaustos.core.planning.pace import took_over_told
from kaustos.core.planning.supply import grams_wanted
from kaustos.core.records import JobFile, Lot, Machine, PlateItem, Polymer, RecipeCard, Run, with_own_values
from kaustos.core.records.nozzle import Fed
from kaustos.core.review import Bonded, Hot, LastRun
from kaustos.core.review.filed import grams_of, strand_mm


def changed_keys(before: Mapping[str, Any], after: Mapping[str, Any]) -> tuple[str, ...] | None:
    """Keys under which another record stands than before; None where keys came or went."""
    if before is after:
        return ()
    if len(before) != len(after) or any(one != other for one, other in zip(before, after, strict=True)):
        return None
    pairs = zip(before, before.values(), after.values(), strict=True)
    return tuple(key for key, old, new in pairs if old is not new)


@attrs.frozen
class _Wish:
    """What the runs still to come of one recipe take of its lot [g]."""

    made_of: tuple[Any, ...]
    done: int
    lot: str
    grams: float


_Groups = dict[str, list[Run]]
_Changed = list[tuple[Run | None, Run | None]]  # as it was, as it is
_NO_RUNS: list[Run] = []  # one and the same, to be known again
_FEW = 50  # changed runs, up to which lists are changed instead of made anew


class OfRuns:
    """What a log is looked through for, each worked out once."""

    def __init__(self, runs: Mapping[str, Run], before: "OfRuns | None" = None) -> None:
        self.runs, self.by_card, self.by_lot = runs, _Groups(), _Groups()
        self.by_nozzle, self.by_machine, self.by_plate = _Groups(), _Groups(), _Groups()
        changed = None if before is None else _changed(before.runs, runs)
        for groups, old, group in (
            (self.by_card, before.by_card if before else {}, lambda run: run.card),
            (self.by_lot, before.by_lot if before else {}, lambda run: run.lot or ""),
            (self.by_nozzle, before.by_nozzle if before else {}, lambda run: run.nozzle or ""),
            (self.by_plate, before.by_plate if before else {}, lambda run: run.plate or ""),
            (self.by_machine, before.by_machine if before else {}, lambda run: run.machine or ""),
        ):
            if changed is None:
                _group(groups, runs.values(), group)
            else:
                groups.update(old)
                _group_again(groups, changed, group)
        if (
            before is not None
            and changed is not None
            and not any(run and run.is_ended for pair in changed for run in pair)
        ):
            for name in ("done", "good_lots", "last"):  # what they tell is of ended runs: these tell the same as before
                self.__dict__[name] = getattr(before, name)

    def record(self, polymer: str) -> Mapping[str, Any]:
        """How often each finding was right in runs of a polymer."""
        if polymer not in self._records:
            from kaustos.core.review.experience import tallies  # with the codes of all operations

            self._records[polymer] = tallies(run for run in self.runs.values() if run.polymer == polymer)
        return self._records[polymer]

    @functools.cached_property
    def _records(self) -> dict[str, Mapping[str, Any]]:
        return {}

    @functools.cached_property
    def done(self) -> Counter[str]:
        """Good and usable runs of each recipe."""
        return Counter(run.card for run in self.runs.values() if run.outcome in ("good", "usable") and not run.retired)

    @functools.cached_property
    def good_lots(self) -> frozenset[str]:
        """Lots of which a good run was printed."""
        good = (run for run in self.runs.values() if run.outcome == "good" and not run.retired)
        return frozenset(run.lot for run in good if run.lot)

    @functools.cached_property
    def last(self) -> tuple[LastRun, ...]:
        """The latest ended run of each recipe, polymer and machine, the latest first."""
        found: dict[tuple[str, str, str], Run] = {}
        for run in self.runs.values():
            if run.is_ended and not run.retired:
                key = (run.card, run.polymer or "", run.machine or "")
                before = found.get(key)
                if before is None or before.started_utc <= run.started_utc:
                    found[key] = run
        newest = sorted(found.items(), key=lambda each: each[1].started_utc, reverse=True)
        return tuple(
            LastRun(
                *key, run.started_utc, str(run.outcome), tuple(dict.fromkeys(each.what for each in run.observations))
            )
            for key, run in newest
        )


def _changed(before: Mapping[str, Run], after: Mapping[str, Run]) -> _Changed | None:
    """Runs that came, went or were changed, where they are few."""
    pairs: _Changed = [(before.get(key), run) for key, run in after.items() if before.get(key) is not run]
    pairs += [(run, None) for key, run in before.items() if key not in after]
    return pairs if len(pairs) <= _FEW else None


def _group(groups: _Groups, runs: Iterable[Run], group: Callable[[Run], str]) -> None:
    for run in runs:
        groups.setdefault(group(run), []).append(run)


def _group_again(groups: _Groups, changed: _Changed, group: Callable[[Run], str]) -> None:
    """New lists for the groups of changed runs; all others stay the lists they are, and are known again."""
    for old, new in changed:
        if old is not None and new is not None and group(old) == group(new):
            groups[group(new)] = [new if each is old else each for each in groups[group(new)]]
            continue
        if old is not None:
            groups[group(old)] = [each for each in groups[group(old)] if each is not old]
        if new is not None:
            groups[group(new)] = [*groups.get(group(new), ()), new]


class Indexes:
    """Look-ups over the tables of a workspace, each made anew when its table is another one."""

    def __init__(self) -> None:
        self._of_runs = OfRuns({})
        self._wishes: dict[str, _Wish] = {}
        self._taken: dict[str, tuple[Lot, list[Run], float]] = {}
        self._hot: dict[str, tuple[list[Run], tuple[Hot, ...]]] = {}
        self._bonded: dict[str, tuple[list[Run], str, tuple[Bonded, ...]]] = {}
        self._paces: dict[str, tuple[list[Run], tuple[float, ...]]] = {}
        self._fed: dict[str, tuple[tuple[Any, ...], tuple[Fed, ...]]] = {}
        self.due: dict[tuple[str | None, str, str], tuple[tuple[Any, ...], bool]] = {}  # supplies: asked of, to order

    def of_runs(self, runs: Mapping[str, Run]) -> OfRuns:
        """What the log tells, for this state of it."""
        if self._of_runs.runs is not runs:
            self._of_runs = OfRuns(runs, self._of_runs)
        return self._of_runs

    def runs_of(self, runs: Mapping[str, Run], card: str) -> list[Run]:
        """The runs of a recipe."""
        return self.of_runs(runs).by_card.get(card, [])

    def taken_by_lot(self, lots: Mapping[str, Lot], runs: Mapping[str, Run]) -> dict[str, float]:
        """What runs took of each lot since it was weighed [g]; worked out anew for what has changed."""
        by_lot = self.of_runs(runs).by_lot
        before, self._taken = self._taken, {}
        for key, lot in lots.items():
            mine, known = by_lot.get(key, _NO_RUNS), before.get(key)
            if known is None or known[0] is not lot or known[1] is not mine:
                known = (lot, mine, taken_by_runs({key: lot}, mine).get(key, 0.0) if mine else 0.0)
            self._taken[key] = known
        return {key: grams for key, (_, _, grams) in self._taken.items() if grams}

    def hot_by_machine(self, runs: Mapping[str, Run]) -> dict[str, tuple[Hot, ...]]:
        """How hot each machine was in its runs; worked out anew for what has changed."""
        before, self._hot = self._hot, {}
        for key, mine in self.of_runs(runs).by_machine.items():
            known = before.get(key)
            self._hot[key] = known if known is not None and known[0] is mine else (mine, _hot_of(mine))
        return {key: hot for key, (_, hot) in self._hot.items()}

    def paces_by_machine(self, runs: Mapping[str, Run]) -> dict[str, tuple[float, ...]]:
        """How long runs of each machine took over what their files said; worked out anew for what has changed."""
        before, self._paces = self._paces, {}
        for key, mine in self.of_runs(runs).by_machine.items():
            known = before.get(key)
            self._paces[key] = known if known is not None and known[0] is mine else (mine, _paces_of(mine))
        return {key: paces for key, (_, paces) in self._paces.items() if paces}

    def bonded_by_plate(
        self, runs: Mapping[str, Run], plates: Mapping[str, PlateItem]
    ) -> dict[str, tuple[Bonded, ...]]:  # fmt: skip
        """What became of each plate's runs; worked out anew for what has changed."""
        before, self._bonded = self._bonded, {}
        for key, mine in self.of_runs(runs).by_plate.items():
            if key:
                surface = (plates[key].surface if key in plates else None) or ""
                known = before.get(key)
                is_same = known is not None and known[0] is mine and known[1] == surface
                self._bonded[key] = known if is_same and known else (mine, surface, _bonded_of(mine, surface))
        return {key: bonded for key, (_, _, bonded) in self._bonded.items() if bonded}

    def fed_by_nozzle(
        self, lots: Mapping[str, Lot], runs: Mapping[str, Run], polymers: Mapping[str, Polymer]
    ) -> dict[str, tuple[Fed, ...]]:
        """What runs fed through each nozzle; worked out anew for what has changed."""
        before, self._fed = self._fed, {}
        for key, mine in self.of_runs(runs).by_nozzle.items():
            if not key:
                continue
            made_of = (mine, polymers, *(lots.get(run.lot or "") for run in mine))
            known = before.get(key)
            if known is None or not all(map(operator.is_, known[0], made_of)) or len(known[0]) != len(made_of):
                known = (made_of, fed_by_runs(mine, lots, polymers))
            self._fed[key] = known
        return {key: fed for key, (_, fed) in self._fed.items()}

    def wanted_by_lot(
        self, records: Records, done: Mapping[str, int], without: str | None = None
    ) -> dict[str, float]:  # fmt: skip
        """What the runs still to come take of each lot [g], those of one recipe left out."""
        self._bring_up(records, done)
        wanted: dict[str, float] = {}
        for key, wish in self._wishes.items():
            if wish.grams and key != without:
                wanted[wish.lot] = wanted.get(wish.lot, 0.0) + wish.grams
        return wanted

    def _bring_up(self, records: Records, done: Mapping[str, int]) -> None:
        before, self._wishes = self._wishes, {}
        for key, card in records.cards.items():
            made_of = (card, *_told_by(card, records))
            wish = before.get(key)
            if wish is None or wish.done != done.get(key, 0) or not all(map(operator.is_, wish.made_of, made_of)):
                wish = _wish(made_of, done.get(key, 0))
            self._wishes[key] = wish


_Told = tuple[JobFile | None, Polymer | None, Lot | None, Machine | None]  # what tells a mass beside a brief


def mass_of(card: RecipeCard, records: Records) -> float | None:
    """Filament of one run of a recipe [g]: by its job file where one is bound, else as it is typed."""
    return _mass(card, *_told_by(card, records))


def _told_by(card: RecipeCard, records: Records) -> _Told:
    job = records.tables["jobs"].get(card.chosen.get("job") or "")
    if job is None:
        return None, None, None, None
    lot, machine = records.lots.get(card.lot or ""), records.machines.get(card.machine or "")
    return job, records.polymers.get(card.recipe.polymer or ""), lot, machine


def _mass(
    card: RecipeCard, job: JobFile | None, polymer: Polymer | None, lot: Lot | None, machine: Machine | None
) -> float | None:  # fmt: skip
    if job is None or polymer is None:
        return card.recipe.brief.mass_g
    filed = grams_of(job, with_own_values(polymer, lot), strand_mm(job, lot, machine))
    return card.recipe.brief.mass_g if filed is None else filed


def _bonded_of(runs: Iterable[Run], surface: str) -> tuple[Bonded, ...]:
    """What ended runs say of the grip, as far as it was worked out when they began."""
    ended = (run for run in runs if run.is_ended and not run.retired and {"load", "cold", "damage"} <= run.bond.keys())
    return tuple(
        Bonded(
            run.id, run.started_utc, run.polymer or "", run.agent or "", run.lot or "", run.bond["load"],
            run.bond["cold"], run.bond["damage"], tuple(dict.fromkeys(each.what for each in run.observations)),
            max((each.lift_mm for each in run.observations if each.lift_mm is not None), default=None),
            str(run.outcome), run.off or next((each for each in ("let_go", "stuck") if each in run.seen), None),
            run.plate or "", surface,
        )
        for run in ended
    )  # fmt: skip


def _paces_of(runs: Iterable[Run]) -> tuple[float, ...]:
    return tuple(ratio for run in runs if (ratio := took_over_told(run)) is not None)


def _hot_of(runs: Iterable[Run]) -> tuple[Hot, ...]:
    hours = ((run, booking_of(run).hours) for run in runs if run.hot and not run.retired)
    return tuple(Hot(run.started_utc, each, run.hot) for run, each in hours if each)


def _wish(made_of: tuple[Any, ...], done: int) -> _Wish:
    card: RecipeCard = made_of[0]
    runs, counts = card.recipe.brief.runs, card.lot and not card.retired
    grams = grams_wanted(runs, done, _mass(*made_of)) if runs and counts else 0.0
    return _Wish(made_of, done, card.lot or "", grams)


def named(cards: Iterable[tuple[str, RecipeCard]]) -> list[tuple[str, str]]:
    """Names and ids of recipes, by name as a person looks for them."""
    found = [(card.recipe.name or "Unnamed recipe", key) for key, card in cards]
    return sorted(found, key=lambda each: each[0].lower())
