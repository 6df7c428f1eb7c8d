"""Readers and writers, one per open format."""
