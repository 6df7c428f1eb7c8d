"""The shop's thresholds of judgement: estimates to start with, editable, shown as what they are."""

from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import extra
from kaustos.core.records.quantities import AIR_C, check_number

LINER_HARD_STOP_C = 240.0


def _rule(
    default: float, title: str, quantity: str, why: str, typed: tuple[float, float] | None = None
) -> Any:  # fmt: skip
    meta = {"title": title, "quantity": quantity, "help": why, "typed": typed}
    return attrs.field(default=default, metadata=meta)


@attrs.frozen(kw_only=True)
class Rules:
    """Each threshold with its starting value; all are estimates unless the help line says otherwise."""

    reduced_within_k: float = _rule(
        15.0, "Shortfall of a window that is a watch", "temperature_difference",
        "Nozzle or chamber short of the window by up to this is a watch, by more a stop; the weld decides the grade",
    )  # fmt: skip
    functional_pct: float = _rule(
        50.0, "Strength across layers that still gives functional", "share",
        "Share of the strength of the bulk that the weakest weld must keep; below it the part is reduced",
    )  # fmt: skip
    reduced_pct: float = _rule(
        30.0, "Strength across layers that still gives reduced", "share",
        "Below this share of the strength of the bulk a part is only looked at",
    )  # fmt: skip
    core_short_pct: float = _rule(
        5.0, "Core of the melt short of its heat", "share",
        "Share of the way from room to nozzle that the core of the melt may lack; more flow costs weld",
    )  # fmt: skip
    headroom_k: float = _rule(
        3.0, "Headroom a controller needs", "temperature_difference",
        "A setpoint this close below the reach leaves nothing to regulate with",
    )  # fmt: skip
    foot_sag_k: float = _rule(
        10.0, "Plate above glass transition that sags the foot", "temperature_difference",
        "An amorphous part on a plate this far above its glass transition sags at the foot",
    )  # fmt: skip
    extrusion_k: float = _rule(
        90.0, "Nozzle above glass transition to extrude at all", "temperature_difference",
        "Colder than this above the glass transition an amorphous melt is too stiff for a filament drive (80 to 110)",
    )  # fmt: skip
    crystals_k: float = _rule(
        15.0, "Distance to crystals that keeps a part firm", "temperature_difference",
        "A crystallising part stays soft on a plate this close to its melting point, or in air this close to its "
        "crystallisation onset",
    )  # fmt: skip
    liner_stop_c: float = _rule(
        LINER_HARD_STOP_C, "Hard stop of a lined hot end", "temperature",
        "A fluoropolymer liner creeps and begins to give off toxic fumes; may be lowered, never raised",
    )  # fmt: skip
    start_in_window_pct: float = _rule(
        50.0, "Start in the window of nozzle and plate", "share",
        "Where a new recipe starts: low ages less and strings less, hot welds at once and is then brought down, the "
        "middle is neither; shops disagree",
        (0.0, 100.0),
    )  # fmt: skip
    start_below_glass_k: float = _rule(
        0.0, "Plate below the glass transition, at the start", "temperature_difference",
        "0 goes by the polymer's window; some shops start amorphous polymers 5 to 10 K below their glass transition, "
        "whatever the table says",
        (0.0, 40.0),
    )  # fmt: skip
    start_first_k: float = _rule(
        0.0, "First layer hotter, at the start", "temperature_difference",
        "What a new recipe gives the nozzle more for its first layer: 5 to 10 K wet the plate better, none keeps one "
        "heat to judge by; shops disagree",
        (0.0, 30.0),
    )  # fmt: skip
    fan_after_runs: float = _rule(
        0.0, "Good runs before the fan goes on", "ratio",
        "0 starts the fan where the polymer's window does, for overhangs; some shops keep it off until that many runs "
        "have shown that the part stays down and its layers hold",
        (0.0, 20.0),
    )  # fmt: skip
    start_clips: float = _rule(
        0.0, "Clips on a sheet, at the start", "ratio",
        "0 trusts magnet or vacuum, which is quick; clips hold where a magnet loses to heat and shrinkage, and take "
        "strips off the plate",
        (0.0, 12.0),
    )  # fmt: skip
    start_coats: float = _rule(
        1.0, "Coats of agent, at the start", "ratio",
        "One thin even coat, or several that are dried one by one and last for more prints; shops disagree",
        (1.0, 12.0),
    )  # fmt: skip
    mix_from_ml: float = _rule(
        0.0, "Agents are mixed here from", "volume",
        "A bottle of less is bought: it saves the labour of mixing; 0 mixes all of them",
        (0.0, 20_000.0),
    )  # fmt: skip

    room_c: float = _rule(
        21.0, "Room temperature", "temperature", "Nothing that is merely not heated gets colder than this",
        AIR_C,
    )  # fmt: skip
    dew_point_c: float = _rule(
        10.0, "Dew point of the room", "temperature", "How much water the room's air holds; a hygrometer shows it",
        AIR_C,
    )  # fmt: skip
    scale_g: float = _rule(
        1.0, "Repeatability of the scale", "mass", "Spread of its readings of one spool; its data sheet says",
    )  # fmt: skip
    desiccant_g: float = _rule(
        100.0, "Desiccant in a dry box", "mass", "What the shop puts in, dry; the library says how much it takes up",
    )  # fmt: skip
    weigh_price: float = _rule(
        1.0, "Ranking: a doubling of the price", "ratio",
        "What a doubling of the price of a litre counts, 0 for nothing",
    )  # fmt: skip
    weigh_margin: float = _rule(
        0.3, "Ranking: 25 K more margin", "ratio", "What 25 K beyond the margin wanted counts, up to 50 K",
    )  # fmt: skip
    weigh_ease: float = _rule(
        0.5, "Ranking: a hindrance here", "ratio",
        "What each thing counts that makes a polymer hard to run here: no dryer hot enough, wear, a hot chamber, fumes",
    )  # fmt: skip
    staffed_from_h: float = _rule(
        8.0, "Somebody is there from", "duration", "Hour of the day, by the clock on the wall", (0.0, 24.0)
    )  # fmt: skip
    staffed_to_h: float = _rule(
        17.0, "Somebody is there until", "duration", "Hour of the day; earlier than the first is a night shift",
        (0.0, 24.0),
    )  # fmt: skip
    staffed_days: float = _rule(
        5.0, "Days of the week with somebody there", "ratio", "From Monday", (0.0, 7.0)
    )  # fmt: skip
    release_runs: float = _rule(
        3.0, "Good runs before a release", "ratio", "Under the same settings; one is never a proof",
        (1.0, 50.0),
    )  # fmt: skip
    release_shapes: float = _rule(
        2.0, "Shape classes before a release", "ratio", "That good runs came in; what is proven is proven for these",
        (1.0, 6.0),
    )  # fmt: skip
    release_names: float = _rule(
        1.0, "Names for a release on concession", "ratio", "How many people answer for one that lacks runs or shapes",
        (1.0, 2.0),
    )  # fmt: skip
    wage_per_h: float = _rule(
        45.0, "Wage", "money_rate", "An hour of the people who clear up after a lost run",
    )  # fmt: skip
    machine_per_h: float = _rule(
        4.0, "Machine hour", "money_rate", "Taken for machines whose own rate is not recorded",
    )  # fmt: skip
    energy_per_kwh: float = _rule(
        0.3, "Price of energy", "energy_price", "What a kilowatt hour costs the shop",
    )  # fmt: skip

    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        for field in attrs.fields(type(self))[:-1]:  # the last one keeps what a newer version knows
            check_number(field.name, getattr(self, field.name), field.metadata["quantity"])
        if not self.dew_point_c <= self.room_c:
            raise FieldError("dew_point_c", "cannot lie above the room temperature")
        if not self.liner_stop_c <= LINER_HARD_STOP_C:
            raise FieldError("liner_stop_c", f"may be lowered but not raised above {LINER_HARD_STOP_C:g} °C")
        for name in (
            "reduced_within_k", "headroom_k", "foot_sag_k", "extrusion_k", "crystals_k", "start_below_glass_k",
            "start_first_k",
        ):  # fmt: skip
            if not 0.0 <= getattr(self, name) <= 500.0:
                raise FieldError(name, "must lie between 0 and 500 K")
