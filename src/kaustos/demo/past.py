"""What happened before today at the made-up firm: revisions and runs, told in the order in which they came."""

from typing import Any

import attrs

from kaustos.core.records import Observation, Settled

M, A = "M. Thwaite", "R. Askew"


@attrs.frozen(kw_only=True)
class Step:
    """One day in the past: settings changed, a revision kept, perhaps a run with its outcome."""

    days_ago: float
    card: str
    who: str
    why: str
    changes: dict[str, Any] = attrs.field(factory=dict)
    run: dict[str, Any] | None = None
    status: str = ""
    status_why: str = ""


def _run(outcome: str, shape: str, *seen: Observation, **more: Any) -> dict[str, Any]:
    return {"outcome": outcome, "shape": shape, "observations": seen, **more}


def _seen(what: str, where: str, at_h: float | None = None, at_mm: float | None = None, note: str = "") -> Observation:
    return Observation(what=what, where=where, at_h=at_h, at_mm=at_mm, note=note)


STEPS = (
    Step(
        days_ago=30, card="wellhead_cover", who=M, why="From the label, plate a little hotter",
        run=_run("good", "shell", note="Edges sound after a day in the rain barrel"),
    ),
    Step(
        days_ago=27, card="winch_bracket", who=M, why="First try, plate at the low end",
        changes={"plate.bed_c": 75.0},
        run=_run("failed", "flat", _seen("corner_lift", "corner", 1.2, 8.0), _seen("came_off", "all", 3.5, 21.0),
                 hours_lost=4.0, money_lost=12.0),
    ),
    Step(
        days_ago=26, card="winch_bracket", who=M, why="Plate 20 K hotter, nothing else",
        changes={"plate.bed_c": 95.0},
        run=_run("usable", "flat", _seen("corner_lift", "corner", 8.5, 44.0, "0.4 mm, one corner"), hours_lost=0.5),
    ),
    Step(
        days_ago=24, card="wellhead_cover", who=M, why="Second cover",
        run=_run("good", "shell", kind="production"),
    ),
    Step(
        days_ago=21, card="cable_guide", who=A, why="Quick look on the old machine",
        run=_run("stopped", "detail", _seen("smell", "machine", 0.3), hours_lost=1.0, money_lost=12.0,
                 note="Liner end brown; replaced",
                 settled=(Settled(what="smell", by=A, proof="Liner end brown: new liner, heated in steps, no smell"),)),
    ),
    Step(
        days_ago=18, card="packer_ring", who=A, why="First ring, chamber cool",
        changes={"heat.chamber_c": 75.0, "melt.nozzle_c": 395.0},
        run=_run("failed", "ring", _seen("layers_split", "middle", 6.0, 12.0), _seen("warped", "edge"),
                 hours_lost=7.0, money_lost=60.0),
    ),
    Step(
        days_ago=16, card="packer_ring", who=A, why="Chamber and nozzle up together",
        changes={"heat.chamber_c": 140.0, "melt.nozzle_c": 415.0},
        run=_run("good", "ring"), status="on_trial", status_why="Two more rings before release",
    ),
    Step(
        days_ago=14, card="turbine_vane", who=A, why="First vane", run=_run("good", "detail"),
    ),
    Step(
        days_ago=12, card="wellhead_cover", who=M, why="Clip for the cover, same settings",
        run=_run("good", "detail", part="Clip for the cover"),
        status="released", status_why="Three good runs over two kinds of shape",
    ),
    Step(
        days_ago=9.1, card="probe_head_shell", who=M, why="First try on Tarn, values from the spool's label",
        changes={"melt.nozzle_c": 350.0, "heat.chamber_c": 70.0, "plate.bed_c": 150.0, "brief.margin_k": None},
        run=_run("failed", "shell", _seen("layers_split", "middle", 1.4, 40.0), _seen("corner_lift", "corner", 0.8),
                 hours_lost=6.0, money_lost=38.0),
    ),
    Step(
        days_ago=6.1, card="probe_head_shell", who=M, why="Hotter all round after the shell split at 40 mm",
        changes={"melt.nozzle_c": 365.0, "heat.chamber_c": 90.0, "plate.bed_c": 158.0},
        run=_run("usable", "shell", _seen("weak_layers", "all", note="snaps by hand along the layers"), hours_lost=1.0),
    ),
    Step(
        days_ago=5, card="cable_clamp", who=M, why="First clamp", run=_run("good", "block"),
    ),
    Step(
        days_ago=3.1, card="probe_head_shell", who=A, why="Chamber as the polymer wants it; can Tarn do that?",
        changes={"heat.chamber_c": 125.0, "brief.margin_k": 20.0},
    ),
)  # fmt: skip
