"""The made-up firm."""
