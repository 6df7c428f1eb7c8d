"""Supports: what grows over air without help, what help costs, and how it comes off again."""

from kaustos.core.estimates.assumed import Area, Assumed


def _of(key: str, value: float, low: float, high: float, unit: str, why: str) -> Assumed:
    return Assumed(key=key, value=value, low=low, high=high, unit=unit, why=why)


SUPPORT = Area(
    "Supports",
    _of("tool", 3.0, 2.0, 5.0, "mm", "width of blade, pick or pliers that take supports out"),
    _of("bridge", 8.0, 5.0, 15.0, "mm", "bridge that a bead spans without a fan"),
    _of("bridge_fan", 14.0, 8.0, 30.0, "mm", "what a full fan adds to it"),
    _of("out", 1.0, 0.5, 2.0, "mm", "how far a ceiling may reach out from one hold"),
    _of("sags", 2.0, 1.5, 3.0, "1", "times the bridge that holds, from which a ceiling falls"),
    _of("slope_lost", 15.0, 8.0, 25.0, "°", "beyond the limit, at which a slope is as good as lost"),
    _of("reached", 0.9, 0.8, 0.98, "1", "share of a place that a tool must come up to"),
    _of("small", 4.0, 2.0, 10.0, "mm²", "area of a place below which nothing is held"),
    _of("filled", 0.15, 0.08, 0.25, "1", "share of a grid of supports that is filled"),
    _of("branches", 0.4, 0.25, 0.6, "1", "filament of branches over that of a grid"),
    _of("contact", 0.6, 0.4, 1.0, "mm", "thickness of the dense layers that touch"),
    _of("off_min", 0.8, 0.3, 2.0, "min/cm²", "taking off what has the right gap"),
    _of("off_least", 1.0, 0.5, 3.0, "min", "taking off one place, at least"),
    _of("off_pair", 0.4, 0.2, 0.8, "1", "the same of a polymer that does not bond, over that of the same polymer"),
    _of("clean_min", 15.0, 8.0, 30.0, "min", "work at a bath: in, looks, rinse, drying, weighing"),
    _of("change_s", 30.0, 12.0, 90.0, "s", "change between two polymers, purge with it"),
    _of("change_g", 0.3, 0.1, 0.8, "g", "what a change purges"),
    _of("pause_min", 4.0, 2.0, 8.0, "min", "coating a contact by hand, the machine at rest"),
    _of("draw_min", 20.0, 10.0, 60.0, "min", "drawing supports, skins or a teardrop into the part"),
    _of("agent_l", 4.0, 1.0, 12.0, "money", "what goes into a litre of bath"),
    _of("pair_k", 40.0, 25.0, 60.0, "K", "between two nozzles' windows, above which one chars while the other prints"),
    _of("gap_layers", 2.0, 1.0, 3.0, "1", "layers between part and support of the same polymer"),
    _of("gap_welds", 3.0, 2.0, 4.0, "1", "the same of polymers that weld to themselves easily"),
    _of("gap_most", 4.0, 3.0, 6.0, "1", "layers above which what lies on the support sags"),
    _of("bath_below", 10.0, 5.0, 20.0, "K", "below its softening that a part stays in a bath"),
    _of("lost_grid", 0.04, 0.02, 0.10, "1", "chance that taking a grid off harms the part"),
    _of("lost_branches", 0.06, 0.03, 0.15, "1", "the same of branches, which fall over under what warps"),
    _of("lost_pair", 0.05, 0.02, 0.12, "1", "chance that a second polymer comes loose or oozes into the part"),
    _of("lost_bath", 0.03, 0.01, 0.08, "1", "chance that a bath harms what it is said to be safe for"),
    _of("lost_coat", 0.08, 0.03, 0.2, "1", "chance that a pause leaves a cold weld or a scar"),
    _of("from_off", 8.0, 5.0, 12.0, "°", "between what is generated and the own limit, that shows"),
)
