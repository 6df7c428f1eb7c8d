"""What a run leaves open: what somebody has to see to before the next one, until it is closed with its proof."""

from collections.abc import Iterable, Mapping

import attrs

from kaustos.core.records import Run


@attrs.frozen(kw_only=True)
class Kind:
    """What a mark in a run leaves open."""

    on: str  # machine or plate
    words: str
    proof: str  # what closes it
    is_danger: bool = False  # nothing is heated before
    reads: str = ""  # quantity of which its proof holds a reading


KINDS: Mapping[str, Kind] = {
    "heater_fault": Kind(on="machine", words="a heater failed", is_danger=True,
                         proof="who looked at heater, sensor and wiring, qualified for it, and what was found"),
    "smell": Kind(on="machine", words="there was smoke or a sharp smell", is_danger=True,
                  proof="who looked at it, qualified for it, and what had burnt"),
    "machine_softened": Kind(on="machine", words="a machine part softened", is_danger=True,
                             proof="which part was replaced, by what that stands the heat"),
    "short_of_heat": Kind(on="machine", words="a heater did not get there", reads="temperature",
                          proof="a reading: what it reaches now, by which sensor"),
    "no_soak": Kind(on="machine", words="it was begun without its soak", reads="minutes",
                    proof="that it was soaked this time: minutes, and the reading beside the part"),
    "stood_still": Kind(on="machine", words="a run stood still", proof="why it stood, and what was changed"),
    "jam": Kind(on="machine", words="the nozzle jammed", proof="what was found in it, and a strand that runs free"),
    "no_flow": Kind(on="machine", words="nothing came out", proof="why, and a strand that runs free"),
    "glass_broke": Kind(on="plate", words="the plate chipped or broke", is_danger=True,
                        proof="that it was taken out of use, or what replaced it"),
    "surface_torn": Kind(on="plate", words="its surface tore", proof="a look at it, and its damage in its log"),
    "stuck": Kind(on="plate", words="a part would not come off",
                  proof="how it came off in the end, and how the surface looks"),
}  # fmt: skip


@attrs.frozen(kw_only=True)
class Matter:
    """One thing that is open."""

    run: str
    what: str  # key of KINDS

    @property
    def kind(self) -> Kind:
        """What it is."""
        return KINDS[self.what]


def open_matters(of_machine: Iterable[Run], of_plate: Iterable[Run]) -> tuple[Matter, ...]:
    """What earlier runs left open on a machine and on a plate.

    Parameters
    ----------
    of_machine : iterable of Run
        Runs of the machine [-]
    of_plate : iterable of Run
        Runs on the plate [-]

    Returns
    -------
    tuple of Matter
        The dangerous ones first, then the newest [-]

    Notes
    -----
    One is closed by what somebody wrote with it, or where a later run there came out good: whoever ran it had seen to
    it. A danger stands as soon as it is seen, verdict or none, and is closed by a proof alone.
    """
    found: list[tuple[bool, str, Matter]] = []
    for on, runs in (("machine", of_machine), ("plate", of_plate)):
        kept = sorted((run for run in runs if not run.retired), key=lambda run: run.started_utc)
        last_good = max((run.started_utc for run in kept if run.outcome == "good"), default="")
        for run in kept:
            closed = {each.what for each in run.settled}
            for what in run.happened - closed:
                kind = KINDS.get(what)
                if kind is None or kind.on != on:
                    continue
                if not kind.is_danger and (not run.is_ended or run.started_utc <= last_good):
                    continue
                found.append((not kind.is_danger, run.started_utc, Matter(run=run.id, what=what)))
    newest = sorted(found, key=lambda each: (each[1], each[2].what), reverse=True)
    return tuple(each[2] for each in sorted(newest, key=lambda each: each[0]))
