"""The warm space of a machine and what lies on its plate."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, flag, number, text

ENCLOSURES = {
    "open": "Open",
    "box": "Closed box",
    "cover": "Cover or blanket laid over it",
    "heated": "Built with a hot chamber",
}
WALLS = {
    "sheet": "Sheet metal",
    "pane": "Plastic panes",
    "glass": "Glass",
    "wood": "Wood board",
    "insulated": "Insulated panels",
    "card": "Card or cloth",
}
LAYERS = {
    "aluminium": "Aluminium",
    "steel": "Steel sheet",
    "glass": "Glass",
    "laminate": "Fibre laminate",
    "polymer": "Polymer film or sheet",
    "magnet": "Magnetic sheet",
    "adhesive": "Adhesive",
    "ceramic": "Ceramic",
}


@attrs.frozen(kw_only=True)
class Enclosure:
    """The space round the part."""

    kind: str | None = choice(ENCLOSURES, "Enclosure")
    inner_x_mm: float | None = number("length", "Inside, length")
    inner_y_mm: float | None = number("length", "Inside, width")
    inner_z_mm: float | None = number("length", "Inside, height")
    wall: str | None = choice(WALLS, "Walls", "What most of them are")
    insulation_mm: float | None = number("length", "Insulation", "Thickness that was added", typed=(0.0, 500.0))
    frame_kg: float | None = number("mass_kg", "Frame inside", "Metal in the warm space")
    fan: bool | None = flag("Air is stirred")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Layer:
    """One layer on the plate, from the heater upwards."""

    material: str | None = choice(LAYERS, "Layer")
    thickness_mm: float | None = number("length", "Thickness", typed=(0.0, 100.0))
    loose: bool | None = flag("Lies loose", "Not bonded to the one below: there is a gap")
    name: str = text("Make or note")
    extra: dict[str, Any] = extra()
