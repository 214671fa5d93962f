"""Frames and rules for coordinates: numbers, no pixels."""
