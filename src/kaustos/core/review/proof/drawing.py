"""The pictures of operation 120: the ladder of tests, curves of specimens, sizes against what they may be."""

import attrs

from kaustos.core.estimates import PROOF
from kaustos.core.planning.evidence import Rung
from kaustos.core.records import MEASURED, Recipe
from kaustos.core.review.contract import Context, Past
from kaustos.core.review.proof.case import proof_case


@attrs.frozen(kw_only=True)
class Curve:
    """One pulled specimen."""

    group: str
    strain_pct: tuple[float, ...]
    stress_mpa: tuple[float, ...]


@attrs.frozen(kw_only=True)
class Deviation:
    """One reading against what it may be off [mm]."""

    name: str
    off_mm: float
    within_mm: float
    nominal_mm: float


@attrs.frozen(kw_only=True)
class ProofPicture:
    """Evidence, for three views."""

    ladder: tuple[Rung, ...] = ()
    good: int = 0
    ended: int = 0
    same: int = 0  # good ones under the settings as they stand
    wanted: float = 3.0
    curves: tuple[Curve, ...] = ()
    sizes: tuple[Deviation, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw: a ladder always is."""
        return not self.ladder

    @property
    def empty_views(self) -> tuple[str, ...]:
        """Views with nothing on them yet."""
        return (*(() if self.curves else ("Curves",)), *(() if self.sizes else ("Sizes",)))


def picture(recipe: Recipe, context: Context) -> ProofPicture:
    """The evidence of a recipe."""
    case = proof_case(recipe, context)
    curves = () if case.pulls is None else tuple(
        Curve(group=row.group or "along", strain_pct=row.strain_pct, stress_mpa=row.stress_mpa)
        for row in case.pulls.rows if row.strain_pct
    )  # fmt: skip
    sizes = () if case.sizes is None else tuple(
        Deviation(
            name=row.name or MEASURED.get(str(row.what), "size"), off_mm=row.found_mm - row.nominal_mm,
            within_mm=row.tolerance_mm if row.tolerance_mm is not None else PROOF["loose"].value,
            nominal_mm=row.nominal_mm,
        )
        for row in case.sizes.rows if row.nominal_mm is not None and row.found_mm is not None and row.what != "lift"
    )  # fmt: skip
    past = case.past or Past()
    return ProofPicture(
        ladder=case.ladder, good=past.good, ended=past.ended, same=past.as_it_stands,
        wanted=context.rules.release_runs, curves=curves, sizes=sizes,
    )  # fmt: skip
