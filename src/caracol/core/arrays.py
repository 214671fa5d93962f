"""The array types that signatures in the core speak of.

NumPy's own types cannot follow which operations keep float32, so these names carry the meaning and the tests the guarantee.
"""

from typing import Any

from numpy.typing import NDArray

Array = NDArray[Any]
"""Float32: coordinates of any shape, or a picture of shape (rows, cols, 4)."""

Texels = NDArray[Any]
"""Uint16: a linear-light premultiplied picture of shape (rows, cols, 4)."""

AnyArray = NDArray[Any]
"""Any other array."""
