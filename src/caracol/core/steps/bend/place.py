"""Place: move, scale, turn, shear and pull the picture by its corners."""

from __future__ import annotations

from functools import lru_cache
from math import cos, sin, tau
from typing import Annotated

import numba as nb
import numpy as np
from pydantic import Field

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number, pairs

REACH = 3.0
NONE = ((0.0, 0.0),) * 4
Offset = Annotated[float, Field(ge=-REACH, le=REACH)]
FAR = 1e6


class PlaceSettings(Settings):
    """Where the picture is put within its frame."""

    x: float = number(0, -4, 4, label="Across", unit="units", help="Moved to the right positive.")
    y: float = number(0, -4, 4, label="Down", unit="units", help="Moved down positive.")
    scale: float = number(1, 0.05, 8, label="Scale", unit="factor", help="Above 1 larger.")
    turn: float = number(0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Clockwise positive.")
    shear: float = number(0, -2, 2, label="Shear", unit="factor", help="Pushes the top to the right.")
    corners: tuple[tuple[Offset, Offset], ...] = pairs(
        NONE, label="Corners", kind="corners", least=4, most=4, reach=REACH,
        help="How far each corner is pulled from its place, in units: top left, top right, bottom right, bottom left.",
    )  # fmt: skip
    edge: Edge = choice("empty", label="Outside", help=EDGE_HELP)


def homography(source: Array, target: Array) -> Array:
    """Return the 3 × 3 matrix that takes four points (4, 2) to four others, by the eight linear equations; None of three may be in line.

    Parameters
    ----------
    source, target : array (4, 2)

    Returns
    -------
    float64 array (3, 3)

    Raises
    ------
    numpy.linalg.LinAlgError
        The target's corners lie so that no such matrix exists.

    References
    ----------
    R. Hartley and A. Zisserman, Multiple View Geometry in Computer Vision, 2nd edition, section 4.1.
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(source, target, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return np.append(np.linalg.solve(np.array(rows, np.float64), np.array(right, np.float64)), 1).reshape(3, 3)


@lru_cache(maxsize=256)
def placed_corners(
    half_w: float, half_h: float, x: float, y: float, scale: float, turn: float, shear: float, corners: tuple[tuple[float, float], ...]
) -> Array:
    """Return where the four corners of the frame come to lie, (4, 2), clockwise from the top left."""
    frame = np.array([[-half_w, -half_h], [half_w, -half_h], [half_w, half_h], [-half_w, half_h]])
    c, s = cos(tau * turn), sin(tau * turn)
    matrix = np.array([[c, -s], [s, c]]) @ np.array([[1, -shear], [0, 1]]) * scale
    return frame @ matrix.T + (x, y) + np.array(corners)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _place(x, y, m, out_x, out_y):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        w = m[2, 0] * x[i] + m[2, 1] * y[i] + m[2, 2]
        if w > np.float32(1e-5):
            out_x[i] = (m[0, 0] * x[i] + m[0, 1] * y[i] + m[0, 2]) / w
            out_y[i] = (m[1, 0] * x[i] + m[1, 1] * y[i] + m[1, 2]) / w
        else:
            out_x[i] = np.float32(FAR)
            out_y[i] = np.float32(FAR)


def place_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: PlaceSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: the inverse of the projective map that takes the frame's corners to their new places.

    Notes
    -----
    Points behind the horizon of a strong perspective, and all points where the corners lie in one line, come from far outside.
    """
    offsets = tuple(tuple(p) for p in s.corners)
    frame = placed_corners(before.half_w, before.half_h, 0, 0, 1, 0, 0, NONE)
    target = placed_corners(before.half_w, before.half_h, s.x, s.y, s.scale, s.turn, s.shear, offsets)
    try:
        matrix = np.linalg.inv(homography(frame, target))
    except np.linalg.LinAlgError:
        return np.full(x.shape, FAR, np.float32), np.full(x.shape, FAR, np.float32)
    middle = target.mean(axis=0)
    if matrix[2] @ (*middle, 1) < 0:
        matrix = -matrix
    matrix = np.ascontiguousarray(matrix, np.float32)

    def kernel(*args: Array) -> None:
        _place(*args[:2], matrix, *args[2:])

    return over_points(kernel, x, y)


PLACE = BendKind(
    key="place",
    label="Place",
    family="bend",
    purpose="Moves, scales, turns, shears and distorts the picture by its corners.",
    words=("move", "scale", "transform", "perspective", "skew", "resize", "rotate"),
    settings=PlaceSettings,
    handles=("place-corners",),
    starts=(
        Start("Leaning back", {"corners": ((0.32, 0.1), (-0.32, 0.1), (0.0, 0.0), (0.0, 0.0)), "scale": 1.06, "edge": "mirror"}),
        Start("Closer", {"scale": 1.4, "edge": "mirror"}),
        Start("Tiled small", {"scale": 0.4, "turn": 0.03, "edge": "tile"}),
    ),
    neutral={"x": 0, "y": 0, "scale": 1, "turn": 0, "shear": 0, "corners": NONE},
    pull=place_pull,
)
