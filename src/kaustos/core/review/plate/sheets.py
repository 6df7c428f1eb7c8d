"""A thin sheet that comes up with the part before the part comes off it."""

from collections.abc import Iterator
from typing import Any

import numpy as np

from kaustos.core.estimates import BOND
from kaustos.core.memo import by_identity
from kaustos.core.planning.draws import drawn
from kaustos.core.records import HELD, Recipe
from kaustos.core.review.contract import Advice, Context, Finding
from kaustos.core.review.making import make_finding
from kaustos.core.review.plate.case import METALS, Case
from kaustos.core.review.plate.codes import BY_CODE

TOLD = BOND["lift_watch"].value
FAST = ("screws", "glued")  # what holds a sheet everywhere
ASSUMED = " (taken as usual, for not recorded)"
USUAL = "magnet"  # where nobody said how it is held
Array = Any


@by_identity(64)
def rise_of(case: Case) -> Array | None:
    """How far the sheet rises with the part while that holds on to it, draw by draw [mm]; None where none is thin."""
    item, surface = case.item, case.surface
    if item is None or surface is None or case.loads is None or case.bond is None:
        return None
    if surface.is_brittle or item.held in FAST or not (surface.is_flexible or item.thick_mm):
        return None
    thick = case.sheet_mm or drawn("sheet", BOND["sheet.thick"].band)
    stiff = drawn("sheet stiff", BOND["sheet.metal" if surface.body in METALS else "sheet.other"].band) * 1e9
    held = item.held or USUAL
    holds = drawn("sheet held", BOND[f"holds.{held}"].band) * 1e3 if held != "clips" else 0.0
    rise = drawn("sheet bends", BOND["sheet.bends"].band) * case.loads.sheet_rise_mm(thick, stiff, holds)
    return np.where(case.bond.lift_mm > case.bond.limit_mm, 0.0, rise)  # where the part lets go, the sheet stays


def comes_up(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A sheet that a stiff part pulls up over what holds it."""
    rise, item = rise_of(case), case.item
    if rise is None or item is None or case.bond is None:
        return
    chance = float((rise > drawn("sheet counts", BOND["sheet.counts"].band)).mean())
    if chance < TOLD:
        return
    thick = case.sheet_mm or BOND["sheet.thick"].value
    firm = Advice(
        "Put it on a thick plate, or screw it down",
        "A plate of some millimetres is not bent, and what is screwed or clamped close to the part stays. More grip "
        "or more clips at the rim change nothing: the part is stiffer than the sheet.",
    )
    softer = Advice(
        "Let it pull less",
        "Warmer air, a sparser inside, or cuts into the underside that part long ways of shrinking.",
    )
    values: dict[str, float | str | None] = {
        "plate": case.plate_name, "thick": thick,
        "held": HELD[item.held or USUAL].lower() + ("" if item.held else ASSUMED),
        "gap": round(100.0 * chance), "most": round(float(np.percentile(rise, 90.0)), 1),
        "known": "" if case.sheet_mm else ASSUMED,
    }  # fmt: skip
    yield make_finding(
        BY_CODE["plate.sheet.comes_up"], recipe, context, "plate.thick_mm", (firm, softer), values, chance=chance
    )
