"""Printed parts: room that what goes into a hole wants, how much too small holes come out, grooves of layers."""

from kaustos.core.estimates.assumed import Area, Assumed

_CLEARANCES = {  # over what goes in [mm]: least, likely, most
    "slide": (0.2, 0.3, 0.5),
    "push": (0.1, 0.15, 0.25),
    "press": (-0.1, 0.0, 0.05),
    "screw": (0.3, 0.4, 0.6),
    "insert": (-0.4, -0.2, -0.1),
    "hose": (0.1, 0.2, 0.4),
}

PARTS = Area(
    "Printed parts",
    *(
        Assumed(
            key=f"clearance.{fit}", value=value, low=low, high=high, unit="mm",
            why="how much wider than what goes in a hole is wanted; the maker of an insert knows better",
        )
        for fit, (low, value, high) in _CLEARANCES.items()
    ),
    Assumed(key="hole_error", value=0.2, low=0.05, high=0.45, unit="mm", why="how much too small holes come out"),
    Assumed(key="groove", value=0.05, low=0.02, high=0.12, unit="mm", why="depth of grooves between layers, by hand"),
    Assumed(key="detail_mm", value=25.0, low=15.0, high=40.0, unit="mm", why="longest side of what is small"),
    Assumed(key="ring_open", value=0.2, low=0.1, high=0.35, unit="1", why="share of its foot that a ring leaves open"),
    Assumed(key="tall", value=2.5, low=2.0, high=4.0, unit="1", why="height of a tall part over root of its ground"),
    Assumed(key="flat", value=0.25, low=0.15, high=0.35, unit="1", why="height of a flat part over its longest side"),
    Assumed(key="shell_mm", value=5.0, low=3.0, high=7.0, unit="mm", why="wall of a shell: volume over half surface"),
    Assumed(key="walls_loaded", value=2.0, low=2.0, high=4.0, unit="1", why="beads across a wall that is to carry"),
)  # fmt: skip
