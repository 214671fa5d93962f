"""Kinds that mend."""
