"""Timed comparisons: ratios measured side by side in one run, each with its limit."""

import kaustos  # noqa: F401 - before the numerical libraries, as in the program
