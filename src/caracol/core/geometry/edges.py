"""What happens to points that leave a frame."""

from __future__ import annotations

from typing import Literal

import numba as nb
import numpy as np

from ..arrays import AnyArray, Array
from .frame import Frame

Edge = Literal["tile", "mirror", "stretch", "empty", "beyond"]
EDGE_HELP = (
    "What fills places outside the picture: the picture again (tile), its mirror image (mirror), its last row or column (stretch), "
    "nothing (empty), or what the step before shows there."
)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _tile(values, half):  # type: ignore[no-untyped-def]
    span = np.float32(2) * half
    for i in range(values.size):
        v = values[i]
        if v < -half or v > half:
            values[i] = v - span * np.floor((v + half) / span)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _mirror(values, half):  # type: ignore[no-untyped-def]
    span = np.float32(4) * half
    for i in range(values.size):
        v = values[i]
        if v < -half or v > half:
            v = v + half
            v = v - span * np.floor(v / span)
            values[i] = (v if v <= np.float32(2) * half else span - v) - half


def apply_edge(x: Array, y: Array, frame: Frame, edge: Edge) -> AnyArray | None:
    """Bring points back into `frame` by the rule, in place.

    Parameters
    ----------
    x, y : float32 array
        Points in units of `frame`, right and down positive; written into.
    frame : Frame
    edge : str
        What lies beyond: see `Edge`.

    Returns
    -------
    bool array or None
        For `empty`, which points are outside; else None.
    """
    half_w, half_h = np.float32(frame.half_w), np.float32(frame.half_h)
    if edge == "beyond":
        return None
    if edge == "empty":
        slack = np.float32(1 + 1e-6)
        return np.asarray((np.abs(x) > half_w * slack) | (np.abs(y) > half_h * slack))
    for values, half in ((x, half_w), (y, half_h)):
        if edge == "stretch":
            np.clip(values, -half, half, out=values)
        else:
            (_tile if edge == "tile" else _mirror)(values.reshape(-1), half)
    return None
