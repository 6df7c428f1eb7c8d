"""Simulated weighings with a known truth, for fits."""

import numpy as np


def weighings(tau_h, loss_g, seed, scale_g=0.5, count=7, span=2.5):
    """Times and noisy masses of a spool that loses water with a time constant."""
    rng = np.random.default_rng(seed)
    hours = np.linspace(0.0, span * tau_h, count)
    return hours, 1000.0 + loss_g * np.exp(-hours / tau_h) + rng.normal(scale=scale_g, size=count)
