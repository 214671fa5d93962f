"""Kinds that prepare."""
