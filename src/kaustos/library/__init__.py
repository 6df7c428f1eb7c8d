"""Shipped reference data: polymers and machines with a source for every value."""

from kaustos.library.loader import Library, check, load

__all__ = ["Library", "check", "load"]
