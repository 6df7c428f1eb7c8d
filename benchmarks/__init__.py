"""Timed comparisons: ratios measured side by side in one run, each with its limit."""
