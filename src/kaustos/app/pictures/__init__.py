"""The pictures of the operations, each drawn once with a pen: for the window and for the sheet.

Each is imported when it is first drawn.
"""

from collections.abc import Callable, Mapping
from typing import Any

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording

Draw = Callable[[Pen, Box, Any, Wording], None]  # the record is the operation's own frozen picture


def _brief() -> Draw:
    from kaustos.app.pictures.brief import draw_margins

    return draw_margins


def _stock() -> Draw:
    from kaustos.app.pictures.stock import draw_moisture

    return draw_moisture


def _machine() -> Draw:
    from kaustos.app.pictures.machine import draw_chain

    return draw_chain


def _machine_nozzle() -> Draw:
    from kaustos.app.pictures.nozzle import draw_section

    return lambda pen, box, record, wording: draw_section(pen, box, record.nozzle, wording)


def _plate() -> Draw:
    from kaustos.app.pictures.plate import draw_plate

    return draw_plate


def _plate_axis() -> Draw:
    from kaustos.app.pictures.plate import draw_axis

    return draw_axis


def _first_layer() -> Draw:
    from kaustos.app.pictures.first_layer import draw_bead

    return draw_bead


def _melt() -> Draw:
    from kaustos.app.pictures.melt import draw_melt

    return draw_melt


def _heat_map(along: str) -> Callable[[], Draw]:
    def load() -> Draw:
        from kaustos.app.pictures.heat import draw_map

        return draw_map(along)

    return load


def _heat_height() -> Draw:
    from kaustos.app.pictures.heat import draw_height

    return draw_height


def _supports() -> Draw:
    from kaustos.app.pictures.supports import draw_supports

    return draw_supports


def _gaps() -> Draw:
    from kaustos.app.pictures.washing import draw_gaps

    return draw_gaps


def _bath() -> Draw:
    from kaustos.app.pictures.washing import draw_bath

    return draw_bath


def _day() -> Draw:
    from kaustos.app.pictures.run import draw_day

    return draw_day


def _file() -> Draw:
    from kaustos.app.pictures.run import draw_file

    return draw_file


def _release() -> Draw:
    from kaustos.app.pictures.release import draw_release

    return draw_release


def _anneal() -> Draw:
    from kaustos.app.pictures.anneal import draw_anneal

    return draw_anneal


def _proof(name: str) -> Callable[[], Draw]:
    def load() -> Draw:
        from kaustos.app.pictures import proof

        return {"Ladder": proof.draw_ladder, "Curves": proof.draw_curves, "Sizes": proof.draw_sizes}[name]

    return load


_DRAWN: Mapping[str, Mapping[str, Callable[[], Draw]]] = {  # by operation, by view
    "brief": {"": _brief},
    "stock": {"": _stock},
    "machine": {"Limits": _machine, "Nozzle": _machine_nozzle},
    "plate": {"Plate": _plate, "Grip": _plate_axis},
    "first_layer": {"": _first_layer},
    "melt": {"": _melt},
    "heat": {
        "Air": _heat_map("chamber"),
        "Layer time": _heat_map("layer"),
        "Speed": _heat_map("speed"),
        "Height": _heat_height,
    },
    "supports": {"Part": _supports, "Gap": _gaps, "Bath": _bath},
    "run": {"Day": _day, "File": _file},
    "release": {"": _release},
    "anneal": {"": _anneal},
    "proof": {name: _proof(name) for name in ("Ladder", "Curves", "Sizes")},
}


def views_of(key: str) -> tuple[str, ...]:
    """The views of an operation's picture, the first one first; one without a name where there is but one."""
    return tuple(_DRAWN[key])


def drawing_of(key: str, view: str = "") -> Draw:
    """What draws a view of the picture of an operation, the first where none is named."""
    return _DRAWN[key][view or views_of(key)[0]]()


__all__ = ["Box", "Draw", "Pen", "drawing_of", "views_of"]
