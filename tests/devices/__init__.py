"""Tests of the simulated devices and of what speaks to real ones."""
