"""Proof: how many specimens, what tests cost, when a change is one."""

from kaustos.core.estimates.assumed import Area
from kaustos.core.estimates.assumed import practice as _of

PROOF = Area(
    "Proof",
    _of("specimens", 3.0, 3.0, 5.0, "1", "specimens of a condition from which it is judged"),
    _of("blows", 3.0, 3.0, 5.0, "1", "pieces that are struck or broken by hand for each condition"),
    _of("coupon_min", 20.0, 12.0, 30.0, "min", "a coupon weighed, measured and tapped"),
    _of("drift", 0.1, 0.06, 0.2, "1", "change of a coupon's stiffness beyond its band, from which it is one"),
    _of("abrades", 8.0, 4.0, 20.0, "1", "wear over that of unfilled polymer, from which a nozzle is looked at first"),
    _of("near_c", 6.0, 3.0, 10.0, "K", "nozzle from a dead end within which one is near it"),
    _of("near_air", 15.0, 8.0, 25.0, "K", "chamber from a dead end, the same"),
    _of("worth", 3.0, 2.0, 5.0, "1", "what a part costs over a test that it is to wait for"),
    _of("solid_g", 15.0, 8.0, 25.0, "g", "a simple solid"),
    _of("solid_h", 1.0, 0.5, 2.0, "h", "the same"),
    _of("detail_g", 25.0, 12.0, 40.0, "g", "a benchmark with holes, bridges, walls"),
    _of("detail_h", 2.5, 1.5, 4.0, "h", "the same"),
    _of("tall_g", 18.0, 10.0, 30.0, "g", "a tall thin one"),
    _of("tall_h", 3.0, 2.0, 5.0, "h", "the same"),
    _of("flat_g", 40.0, 20.0, 70.0, "g", "a long flat one"),
    _of("flat_h", 3.0, 2.0, 5.0, "h", "the same"),
    _of("refuted_runs", 3.0, 3.0, 5.0, "1", "runs from which a warning can be refuted"),
    _of("refuted_share", 0.3, 0.2, 0.5, "1", "share of them in which it was right, under which it stops nobody"),
    _of("record_worth", 4.0, 2.0, 8.0, "1", "runs that a chance which nobody drew is worth beside its own record"),
    _of("loose", 0.2, 0.1, 0.3, "mm", "tolerance of a length where nobody says one"),
)
