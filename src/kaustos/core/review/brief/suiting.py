"""Whether a polymer suits a brief, reason by reason: the one judgement that findings and ranking share."""

from collections.abc import Mapping

import attrs

from kaustos.core.records import CHARACTERS, CHEMICALS, CLARITIES, FINISHES, OUTDOOR, Polymer
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.records.recipe import Brief
from kaustos.core.review.brief.service import (
    is_beyond,
    lets_go_at,
    margin_of,
    softening_of,
    stands_for,
    state_words,
    wanted_margin,
)

WISHED = {
    "glued": "be glued", "painted": "be painted", "sanded": "be sanded", "inserts": "take inserts", "slides": "slide",
}  # fmt: skip
VERDICTS = ("against", "unknown", "mind", "for")  # worst first


@attrs.frozen
class Reason:
    """One reason for or against a polymer: the code it raises, a template and the values for its gaps."""

    verdict: str
    code: str  # empty where nothing is found
    text: str
    values: Mapping[str, float | str]


def reasons_for(brief: Brief, polymer: Polymer) -> tuple[Reason, ...]:
    """What speaks for and against a polymer for a purpose.

    Parameters
    ----------
    brief : Brief
        What the part must stand [°C, K, MPa]
    polymer : Polymer
        Typical or own values [°C]

    Returns
    -------
    tuple of Reason
        Service temperature first, then weather, chemicals, load across layers, look [-]
    """
    found = [_service(brief, polymer)]
    for judge in (_ageing, _character, _weather, _chemical, _across, _clear, _finish, _handling):
        reason = judge(brief, polymer)
        if reason:
            found.append(reason)
    return tuple(found)


def outdoors(brief: Brief) -> bool:
    """Whether the part stands outdoors: said so, or by its purpose."""
    return bool(brief.outdoor) or brief.purpose == "outdoor"


def _service(brief: Brief, polymer: Polymer) -> Reason:
    margin, softening = margin_of(brief, polymer), softening_of(brief, polymer)
    if margin is None or softening is None or brief.service_c is None:
        what = "deflects at an unknown temperature in this state" if brief.service_c is not None else "service unknown"
        return Reason("unknown", "", what, {})
    values: dict[str, float | str] = {"softening": softening.value, "margin": margin.value, "state": state_words(brief)}
    wanted = wanted_margin(brief)
    if not margin.value > 0:
        gone = lets_go_at(brief, polymer)
        verdict = "mind" if gone is not None and brief.service_c < gone else "against"
        return Reason(verdict, "brief.service.above_softening", "deflects at {softening:temperature}", values)
    if wanted is not None and margin.value < wanted:
        text = "margin of only {margin:temperature_difference}"
        return Reason("against", "brief.service.short_margin", text, {**values, "wanted": wanted})
    if is_beyond(brief, polymer):
        return Reason("unknown", "", "at most {softening:temperature} under such a load", values)
    return Reason("for", "", "margin of {margin:temperature_difference}", values)


def _ageing(brief: Brief, polymer: Polymer) -> Reason | None:
    most = stands_for(brief, polymer, brief.service_h)
    if most is None or brief.service_c is None or brief.service_h is None or brief.service_c <= most:
        return None
    values: dict[str, float | str] = {"most": most, "hours": brief.service_h}
    return Reason("against", "brief.service.ages", "ages: stands {most:temperature} for so long", values)


def _character(brief: Brief, polymer: Polymer) -> Reason | None:
    words = CHARACTERS[polymer.character].lower()
    if brief.character is None:
        return Reason("mind", "", "is rubbery", {}) if polymer.character == "rubbery" else None
    wanted = CHARACTERS[brief.character].lower()
    values: dict[str, float | str] = {"wanted": wanted, "character": words}
    if "rubbery" in (brief.character, polymer.character) and brief.character != polymer.character:
        return Reason("against", "brief.character.other", "is {character:text}", values)
    return Reason("for" if brief.character == polymer.character else "mind", "", "is {character:text}", values)


def _weather(brief: Brief, polymer: Polymer) -> Reason | None:
    if not outdoors(brief):
        return None
    trait = polymer.traits.outdoor
    verdict = {"poor": "against", "fair": "mind", "good": "for"}[trait]
    code = "" if trait == "good" else "brief.weather.poor"
    return Reason(verdict, code, "{weather:text}", {"weather": OUTDOOR[trait]})


def _chemical(brief: Brief, polymer: Polymer) -> Reason | None:
    if brief.chemical in (None, "none"):
        return None
    words = {"chemical": CHEMICALS[str(brief.chemical)].lower()}
    if brief.chemical in polymer.traits.attacked_by:
        return Reason("against", "brief.chemical.attacked", "{chemical:text} attack it", words)
    return Reason("for", "", "stands {chemical:text}", words)


def _across(brief: Brief, polymer: Polymer) -> Reason | None:
    if not brief.load_across:
        return None
    if polymer.weld_class == "crystallising":
        return Reason("mind", "brief.load.across_unproven", "welds across layers not proven", {})
    return Reason("for", "", "chains can heal across layers", {})


def _clear(brief: Brief, polymer: Polymer) -> Reason | None:
    if not brief.clear:
        return None
    words = {"clarity": f"is {CLARITIES[polymer.traits.clarity]}".replace("is lets", "only lets")}
    if polymer.traits.clarity == "clear":
        return Reason("for", "", "{clarity:text}", words)
    return Reason("against", "brief.look.not_clear", "{clarity:text}", words)


def _handling(brief: Brief, polymer: Polymer) -> Reason | None:
    """What is to be done with the part afterwards, where it goes badly."""
    wanted = [name for name in HANDLINGS if getattr(brief, name)]
    badly = [name for name in wanted if name in polymer.traits.goes_badly]
    if not wanted:
        return None
    if not badly:
        return Reason("for", "", "can be worked as wanted", {})
    wishes = " and ".join(WISHED[name] for name in badly)
    how = "; ".join(HANDLINGS[name] for name in badly)
    return Reason("mind", "brief.handling.poor", "{how:text}", {"wishes": wishes, "how": how, "first": badly[0]})


def _finish(brief: Brief, polymer: Polymer) -> Reason | None:
    if brief.look in (None, "any"):
        return None
    words = {"wanted": FINISHES[str(brief.look)], "finish": FINISHES[polymer.traits.finish]}
    if brief.look == polymer.traits.finish:
        return Reason("for", "", "prints {finish:text}", words)
    return Reason("mind", "brief.look.other_finish", "prints {finish:text}", words)
