"""Kaustos judges, records and plans print recipes for engineering and high-temperature filaments."""

__version__ = "0.1.0"
