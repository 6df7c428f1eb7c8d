"""Melt in the hot end, beads and layers: how heat gets in, what pushes, what a bead fills."""

from kaustos.core.estimates.assumed import Area, Assumed


def _of(key: str, value: float, low: float, high: float, unit: str, why: str) -> Assumed:
    return Assumed(key=key, value=value, low=low, high=high, unit=unit, why=why)


MELT = Area(
    "Melt, beads and layers",
    _of("zone", 13.0, 9.0, 22.0, "mm", "heated length of a hot end, where it is not recorded"),
    _of("zone_known", 1.0, 0.85, 1.15, "1", "how far the length that works is from the one that is recorded"),
    _of("heat_rises", 1.25, 1.1, 1.4, "1", "mean heat capacity from room to melt, over that of the solid at room heat"),
    _of("flows_above", 60.0, 40.0, 85.0, "K", "above its glass transition a core is soft enough to pass a nozzle"),
    _of("flows_melting", 0.0, -8.0, 10.0, "K", "above its melting point the core of a crystalline polymer passes"),
    _of("flows_slow", 35.0, 15.0, 60.0, "K", "below its melting point the core of a slow crystalliser passes"),
    _of("thinning", 0.42, 0.32, 0.55, "1", "exponent of shear thinning of melts at the rates of a nozzle"),
    _of("entry", 3.0, 2.2, 4.2, "1", "force that the drive gives, over that of cone and land: entry, unmolten core"),
    _of("push_geared", 60.0, 45.0, 85.0, "N", "what a geared drive pushes before it slips, where it was not measured"),
    _of("push_plain", 38.0, 27.0, 55.0, "N", "the same of a drive that is not geared, or of which nothing is known"),
    _of("push_soft", 6.0, 3.0, 12.0, "N", "with a rubbery strand, which buckles"),
    _of("tube_drag", 0.12, 0.05, 0.3, "1", "share of the push that half a metre of tube takes"),
    _of("reserve", 10.0, 5.0, 20.0, "%", "distance to the hard limit of flow that a recipe keeps"),
    _of("bore", 0.4, 0.25, 0.8, "mm", "bore where no nozzle is recorded"),
    _of("width", 1.12, 1.0, 1.3, "1", "width of a bead over the bore, where it is not recorded"),
    _of("height", 0.5, 0.3, 0.7, "1", "height of a layer over the bore, where it is not recorded"),
    _of("speed", 50.0, 25.0, 90.0, "mm/s", "speed where it is not recorded"),
    _of("wide_school", 1.9, 1.6, 2.0, "1", "width over bore of the school that lays wide, hot beads"),
    _of("fine_school", 1.1, 1.0, 1.2, "1", "width over bore of the school that keeps close to the bore"),
    _of("widest", 2.0, 1.8, 2.2, "1", "width over bore above which the edge of the tip no longer presses the bead"),
    _of("layer_most", 0.8, 0.7, 0.85, "1", "height over bore above which a bead is hardly pressed on"),
    _of("layer_least", 0.2, 0.1, 0.25, "1", "height over bore below which a nozzle drags through what it laid"),
    _of("wall_off", 0.15, 0.08, 0.25, "1", "share of a bead by which a wall may miss a whole number of them"),
    _of("layers_off", 0.25, 0.1, 0.4, "1", "share of a layer by which the height may miss a whole number of them"),
    _of("moves", 1.25, 1.1, 1.5, "1", "time of a layer with travels and corners, over path through speed"),
    _of("layer_s", 25.0, 6.0, 90.0, "s", "time of a layer where the size of the part is not known"),
    _of("pressed", 0.35, 0.2, 0.55, "1", "share of its height that the round sides of a bead keep from its neighbours"),
    _of("gaps", 0.04, 0.01, 0.10, "1", "share of a section that stays open between beads at a multiplier of 1"),
    _of("odd_low", 0.85, 0.82, 0.88, "1", "multiplier below which something else is wrong"),
    _of("odd_high", 1.10, 1.07, 1.15, "1", "multiplier above which something else is wrong"),
    _of("multiplier", 0.95, 0.9, 1.0, "×", "multiplier that is usually right, where none was measured with the spool"),
    _of("multiplier_off", 0.03, 0.02, 0.05, "1", "distance of a multiplier to the measured one that shows in a wall"),
    _of("flushes", 20.0, 10.0, 35.0, "K", "above where it begins to flow a melt carries another one out"),
    _of("purge_zones", 12.0, 6.0, 25.0, "1", "melt zones of new filament that carry the old one out"),
    _of("purge_more", 2.0, 1.5, 3.0, "1", "the same once more where the old one is thicker or clings"),
    _of("pellet_flow", 250.0, 80.0, 800.0, "mm³/s", "flow of pellet extruders with bores of 2 to 5 mm"),
    _of("pellet_bore", 3.0, 2.0, 5.0, "mm", "bore of a pellet extruder"),
    _of("pellet_price", 0.3, 0.15, 0.5, "1", "price of a kilogram of pellets over that of filament"),
    _of("pellet_rate", 25.0, 12.0, 45.0, "money/h", "hour of a pellet extruder"),
    _of("stock_each", 0.5, 0.3, 1.0, "mm", "stock on a face that is machined after printing with filament"),
    _of("stock_pellet", 2.0, 1.0, 4.0, "mm", "the same after pellets"),
    _of("mill_rate", 60.0, 40.0, 90.0, "money/h", "hour of a machine tool with who sets it up"),
    _of("mill_setup", 0.75, 0.3, 2.0, "h", "setting up a part that was printed near its shape"),
    _of("mill_removes", 60.0, 20.0, 150.0, "cm³/h", "what milling removes from plastics in walls that must not sing"),
)
