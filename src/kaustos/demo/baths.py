"""The firm's baths, made up: one alkaline tank with its washes, one of warm water that is past its time."""

from datetime import datetime, timedelta

from kaustos.core.records import Bath, Look, Wash, Weighing


def baths_at(now: datetime) -> dict[str, Bath]:
    """The baths, dated before a moment."""

    def ago(days: float, hours: float = 0.0) -> str:
        return (now - timedelta(days=days) + timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M:%SZ")

    def washed(part: str, days: float, grams: float, some_h: float, none_h: float, masses: tuple[float, ...]) -> Wash:
        before, *after = masses
        dried = tuple(
            Weighing(at_utc=ago(days, none_h + 5.0 * (number + 1)), gross_g=mass, scale_g=0.01)
            for number, mass in enumerate(after)
        )
        looks = (
            Look(at_utc=ago(days, some_h), seen="some", bath_c=60.0),
            Look(at_utc=ago(days, none_h), seen="none", bath_c=59.0, added_ml=200.0),
        )
        return Wash(
            part=part, at_utc=ago(days), supports_g=grams, advised_h=12.0, before_g=before, looks=looks,
            out_utc=ago(days, none_h), dried=dried, ended="clean", by="R. Askew",
        )  # fmt: skip

    alkaline = Bath(
        id="bath_t2", name="T-2, alkaline tank", material="alkali_acrylic", volume_ml=8000.0, dose_g=320.0,
        mixed_utc=ago(12.0), warm_c=60.0, taken_g=0.0,
        washes=(
            washed("cover 1", 11.0, 17.5, 10.0, 15.0, (277.31, 259.84, 259.83)),
            washed("cover 2", 8.0, 17.4, 12.0, 16.0, (276.95, 259.50, 259.50)),
            Wash(
                part="gauge cap", at_utc=ago(0.0, -7.0), supports_g=6.2, advised_h=20.0, before_g=88.42,
                looks=(Look(at_utc=ago(0.0, -2.0), seen="most", bath_c=58.0),), by="M. Thwaite",
            ),
        ),
    )  # fmt: skip
    water = Bath(
        id="bath_w1", name="W-1, warm water", material="pva", volume_ml=3000.0, mixed_utc=ago(20.0), warm_c=35.0,
        taken_g=11.0, washes=(Wash(part="jig pads", at_utc=ago(18.0), out_utc=ago(17.0), ended="clean"),),
    )  # fmt: skip
    return {each.id: each for each in (alkaline, water)}
