"""The made-up scenario: Hollin Fell Instruments builds logging probes for geothermal boreholes."""

from kaustos.demo.scenario import build

__all__ = ["build"]
