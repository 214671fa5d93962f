"""Tables that coded values are led through."""

from __future__ import annotations

import numpy as np

from ..arrays import Array

SIZE = 4096
"""Entries of a table, for even values 0…1; read with interpolation."""


def even_values() -> Array:
    """Return the old values a table is made for."""
    return np.linspace(0, 1, SIZE, dtype=np.float32)
