"""The rooms by name and number."""

import attrs


@attrs.frozen
class RoomEntry:
    """One room by name and number."""

    key: str
    title: str
    number: int | None  # Ctrl and this digit


ROOMS = (
    RoomEntry("recipe", "Recipe", 1),
    RoomEntry("stock", "Stock", 2),
    RoomEntry("machines", "Machines", 3),
    RoomEntry("runs", "Runs", 4),
    RoomEntry("predictions", "Predictions", None),
    RoomEntry("atlas", "Atlas", 7),
    RoomEntry("begin", "First steps", None),
    RoomEntry("recipes", "All recipes", None),
    RoomEntry("workspaces", "Workspaces", None),
    RoomEntry("settings", "Settings", None),
)
