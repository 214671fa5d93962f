"""Kinds that bend."""
