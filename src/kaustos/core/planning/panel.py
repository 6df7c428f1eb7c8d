"""What a machine's own panel holds of a recipe: values rounded to its steps, in its range, and what it cannot hold."""

import math
from collections.abc import Sequence

import attrs

from kaustos.core.records import PANEL_PATHS, Machine, PanelField, Recipe
from kaustos.core.records.fields import value_at


@attrs.frozen
class Typed:
    """One setting: what the recipe says, what the panel can take of it [°C], and why it cannot."""

    path: str
    title: str
    wanted: float | None
    typed: float | None  # None where the panel has no such field, or its range ends before
    fault: str


def panel_of(recipe: Recipe, machine: Machine) -> tuple[Typed, ...]:
    """Every setting as it is typed at a machine's panel.

    Parameters
    ----------
    recipe : Recipe
        Its setpoints [°C]
    machine : Machine
        With the fields of its panel, in the order in which they are typed [°C]

    Returns
    -------
    tuple of Typed
        The panel's fields first, then what it does not hold [°C]; nothing where its panel is not recorded
    """
    fields = {each.path: each for each in machine.panel_fields if each.path}
    if not fields:
        return ()
    held = [_typed(str(path), each, value_at(recipe, str(path))) for path, each in fields.items()]
    left = [
        Typed(path, title, value_at(recipe, path), None, "the panel has no such field")
        for path, title in PANEL_PATHS.items()
        if path not in fields and value_at(recipe, path) is not None
    ]
    return (*held, *left)


def _typed(path: str, field: PanelField, wanted: float | None) -> Typed:
    title = field.label or PANEL_PATHS[path]
    if wanted is None:
        return Typed(path, title, None, None, "not set in the recipe")
    value = rounded(wanted, field.step)
    if field.low is not None and value < field.low - 1e-9:
        return Typed(path, title, wanted, None, f"the panel begins at {field.low:g} °C")
    if field.high is not None and value > field.high + 1e-9:
        return Typed(path, title, wanted, None, f"the panel ends at {field.high:g} °C")
    return Typed(path, title, wanted, value, "")


def rounded(value: float, step: float | None) -> float:
    """A value in the steps of a panel, the nearest one.

    Parameters
    ----------
    value : float
        Wanted [any unit]
    step : float or None
        Of the panel; None for any value [the same unit]

    Returns
    -------
    float
        What can be typed [the same unit]

    Examples
    --------
    >>> rounded(247.0, 5.0), rounded(247.3, 1.0), rounded(247.3, None)
    (245.0, 247.0, 247.3)
    """
    if not step:
        return value
    return round(math.floor(value / step + 0.5) * step, 9)


def short_name(name: str, letters: float | None, taken: Sequence[str] = ()) -> str:
    """A name that a panel takes: short, plain letters, unlike those that are there.

    Parameters
    ----------
    name : str
        Of the recipe [-]
    letters : float or None
        How many the panel takes; None for any [-]
    taken : sequence of str
        Names that stand there already [-]

    Returns
    -------
    str
        Capitals, figures and hyphens [-]

    Examples
    --------
    >>> short_name("Probe head shell", 8.0), short_name("Probe head shell", 8.0, ["PROBE-HE"])
    ('PROBE-HE', 'PROBE-2')
    """
    plain = "".join(each if each.isascii() and each.isalnum() else "-" for each in name.upper()).strip("-")
    most = int(letters) if letters else len(plain)
    found, count = plain[:most].strip("-") or "RECIPE"[:most], 1
    while found in taken:
        count += 1
        tail = f"-{count}"
        room = len(plain) if letters is None else max(most - len(tail), 1)  # a panel that takes any length cuts nothing
        found = plain[:room].strip("-") + tail
    return found


def translated(setpoint_c: float, here_k: float, there_k: float) -> float:
    """A setpoint carried from one machine to another, so that the true heat stays.

    Parameters
    ----------
    setpoint_c : float
        As it is set here [°C]
    here_k : float
        True less shown temperature on this machine [K]
    there_k : float
        The same on the other [K]

    Returns
    -------
    float
        As it is set there [°C]

    Examples
    --------
    >>> translated(250.0, 4.0, -6.0)
    260.0
    """
    return setpoint_c + here_k - there_k
