"""Supports beside practice: limits, gaps, work, baths, pairs of polymers."""

from kaustos.core.estimates import SUPPORT
from kaustos.core.planning.support import bears
from kaustos.core.records import BONDS_AS, EFFECTS
from kaustos.core.review.supports.case import bond_said
from kaustos.library import load

# what the trade says of a support under a model: breaks away or is washed out, fuses, falls off
PRACTICE = (
    ("pva", "pla", "breaks"), ("bvoh", "petg", "breaks"), ("hips", "abs", "breaks"), ("pla", "petg", "breaks"),
    ("petg", "pla", "breaks"), ("alkali_acrylic", "asa", "breaks"), ("sulfone", "pei", "breaks"),
    ("sulfone", "psu", "fuses"), ("pla", "pla", "fuses"), ("pva", "abs", "falls"), ("pva", "peek", None),
)  # fmt: skip
BATHS = (
    ("hips", "pc", "cracks"), ("hips", "hips", "dissolves"), ("alkali_acrylic", "petg", "cracks"),
    ("alkali_acrylic", "abs", "safe"), ("pva", "pla", "safe"), ("pva", "pa6", "swells"), ("hot_water", "peek", "safe"),
    ("hips", "pla", None), ("pla", "petg", "safe"),
)  # fmt: skip


def figures():
    """What practice says and what is taken: name, least, most, taken."""
    supports = load().supplies.supports
    yield "lean from upright without a fan [°]", 40.0, 45.0, bears(0.0).limit.value
    yield "lean from upright, well cooled [°]", 50.0, 70.0, bears(100.0).limit.value
    yield "bridge without a fan [mm]", 5.0, 15.0, bears(0.0).bridge.value
    yield "bridge, well cooled [mm]", 15.0, 50.0, bears(100.0).bridge.value
    yield "gap, same polymer [layers]", 1.0, 2.0, SUPPORT["gap_layers"].value
    yield "gap, polymer that welds to itself [layers]", 3.0, 3.0, SUPPORT["gap_welds"].value
    yield "taking off 10 cm² with the right gap [min]", 0.5, 20.0, 10.0 * SUPPORT["off_min"].value
    yield "change of polymer with its purge [s]", 15.0, 60.0, SUPPORT["change_s"].value
    for key, hours, grams in (
        ("pva", (3.0, 24.0), (10.0, 20.0)), ("bvoh", (2.0, 12.0), (10.0, 25.0)),
        ("alkali_acrylic", (4.0, 16.0), (10.0, 20.0)), ("hips", (6.0, 24.0), (40.0, 150.0)),
    ):  # fmt: skip
        yield f"{supports[key].name}, bath [h]", *hours, supports[key].bath_h.value
        yield f"{supports[key].name}, a litre takes [g]", *grams, supports[key].grams_per_l.value
    yield "bath hours over those advised [1]", 1.0, 2.0, SUPPORT["bath_slow"].value
    yield "a bath 10 K cooler takes longer by [1]", 1.5, 3.0, SUPPORT["bath_ten_k"].value
    yield "extrusion, part to part [%]", 1.0, 2.0, SUPPORT["extruded"].value
    yield "height of a support over the width of its foot [1]", 5.0, 10.0, SUPPORT["foot"].value
    yield "skin that is drilled open [mm]", 0.2, 0.6, SUPPORT["skin"].value
    for key, days in (("pva", (3.0, 14.0)), ("alkali_acrylic", (14.0, 60.0))):
        yield f"{supports[key].name}, a mixed bath keeps [d]", *days, supports[key].keeps_d.value
    yield "alkali in a litre of bath [g]", 20.0, 60.0, supports["alkali_acrylic"].dose_per_l.value


def support_lines():
    """The tables as lines of a page."""
    library = load()
    supports, polymers = library.supplies.supports, library.polymers
    lines = ["", "## Supports beside practice", "", "| what | practice | taken |", "|---|---|---|"]
    lines += [f"| {name} | {low:g} to {high:g} | {found:g} |" for name, low, high, found in figures()]
    lines += ["", "| support | under | the trade says | taken |", "|---|---|---|---|"]
    for material, model, outcome in PRACTICE:
        found = bond_said(supports[material], polymers[model])
        said, taken = (BONDS_AS.get(each or "", "nobody has tried") for each in (outcome, found))
        lines.append(f"| {supports[material].name} | {polymers[model].name} | {said} | {taken} |")
    lines += ["", "| bath of | part of | the trade says | taken |", "|---|---|---|---|"]
    for material, model, effect in BATHS:
        found = supports[material].does_to(polymers[model])
        said, taken = (EFFECTS.get(each or "", "nobody has tried") for each in (effect, found))
        lines.append(f"| {supports[material].name} | {polymers[model].name} | {said} | {taken} |")
    return lines
