"""Kinds that finish."""
