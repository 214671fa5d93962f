"""The array types that signatures in the core speak of."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
"""Coordinates of any shape, or a picture of shape (rows, cols, 4)."""

Texels = NDArray[np.uint16]
"""A 16-bit linear-light premultiplied picture of shape (rows, cols, 4)."""

AnyArray = NDArray[Any]
