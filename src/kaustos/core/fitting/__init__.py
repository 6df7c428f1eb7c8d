"""Fits to a shop's own measurements: values with their intervals, and what the data cannot determine."""

from kaustos.core.fitting.weighing import (
    DryingFit,
    WaterLost,
    effective_diffusivity,
    fit_drying,
    least_loss_g,
    water_lost,
)

__all__ = ["DryingFit", "WaterLost", "effective_diffusivity", "fit_drying", "least_loss_g", "water_lost"]
