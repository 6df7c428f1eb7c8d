"""Air, winding and dryer."""

from kaustos.core.estimates.assumed import Area, Assumed

DRYING = Area(
    "Drying and air",
    Assumed(key="came_with", value=0.15, low=0.05, high=0.50, unit="1",
            why="humidity that a spool of which nothing is logged is in balance with; a sealed pack is unknown too"),
    Assumed(key="box_humidity", value=0.20, low=0.10, high=0.40, unit="1",
            why="humidity in a dry box where it is not recorded"),
    Assumed(key="feeder_heat", value=60.0, low=50.0, high=70.0, unit="°C",
            why="air of a heated dryer that feeds a printer: none of the common ones does less"),
    Assumed(key="dryer_below", value=5.0, low=2.0, high=10.0, unit="K",
            why="how far a dryer may stay below its setpoint"),
    Assumed(key="dryer_above", value=2.0, low=0.0, high=5.0, unit="K",
            why="how far a dryer may go above its setpoint"),
    Assumed(key="winding_gaps", value=0.2, low=0.1, high=0.3, unit="1", why="share of gaps in a winding"),
    Assumed(key="winding_tortuosity", value=1.7, low=1.4, high=2.2, unit="1",
            why="way of vapour through the gaps of a winding over the straight one"),
    Assumed(key="winding_conductivity", value=0.10, low=0.06, high=0.15, unit="W/m/K",
            why="heat through a winding with its gaps, across the strands"),
    Assumed(key="surface_transfer", value=11.0, low=8.0, high=15.0, unit="W/m²/K",
            why="heat from circulated air to the winding"),
    Assumed(key="winding_capacity", value=1.3e6, low=1.1e6, high=1.6e6, unit="J/m³/K",
            why="heat that a winding of plastic and gaps takes up"),
    Assumed(key="warming_spread", value=1.0, low=0.6, high=1.7, unit="1",
            why="how far the time to warm through is off, from conductivity and film of windings"),
    Assumed(key="lost_at", value=3.0, low=2.0, high=5.0, unit="1",
            why="times over the printing limit from which a melt that hydrolyses is lost"),
    Assumed(key="floor_far_above", value=2.0, low=1.5, high=3.0, unit="1",
            why="times the printing limit up to which a floor is a watch: what is left prints poorly, not badly"),
    Assumed(key="longest_plan", value=72.0, low=48.0, high=96.0, unit="h", why="nobody plans to dry for longer"),
)  # fmt: skip
