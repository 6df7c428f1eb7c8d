"""Spools and what is on them."""

from kaustos.core.estimates.assumed import Area, Assumed

SPOOL = Area(
    "Spools and stock",
    Assumed(key="spool_mass", value=1000.0, low=500.0, high=2500.0, unit="g",
            why="filament on a spool as it is sold, where no lot of the grade says"),
    Assumed(key="mass_margin", value=0.05, low=0.02, high=0.1, unit="1",
            why="more filament than a run is said to take"),
    Assumed(key="heaviest_body", value=500.0, low=300.0, high=900.0, unit="g",
            why="empty spool of the heavy kind, where it was not weighed"),
    Assumed(key="mass_spread", value=0.1, low=0.05, high=0.2, unit="1",
            why="how far the filament that a run takes is off what its brief says"),
    Assumed(key="winding_depth", value=45.0, low=30.0, high=70.0, unit="mm",
            why="winding of a one-kilogram spool from the outermost turn to the core, where it is not recorded"),
    Assumed(key="winding_width", value=60.0, low=45.0, high=80.0, unit="mm",
            why="winding between the flanges, where it is not recorded"),
    Assumed(key="strand_tells", value=24.0, low=8.0, high=48.0, unit="h",
            why="how long a clean strand speaks for the spool it came from"),
    Assumed(key="box_volume", value=15.0, low=8.0, high=40.0, unit="l", why="air in a dry box for one spool or two"),
    Assumed(key="box_exchanges", value=1.0, low=0.3, high=3.0, unit="1/d",
            why="how often the air of a closed dry box is exchanged in a day, a feed hole included"),
)  # fmt: skip
