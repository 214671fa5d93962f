"""Map: every point comes from where the colours of a coordinate map say."""

from __future__ import annotations

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, layer
from ...pixels.sampling import OUTSIDE

LOOK = 2048
"""Pixels of the map on its longer side that are read; larger ones are read as if they had so many."""
JUMP = np.float32(0.5)
"""Places further apart than this share of the photo lie on two sides of a seam: between them nothing is in between."""


class MapSettings(Settings):
    """Which map, and how far it is followed."""

    by: str | None = layer(
        label="Map", help="A layer below whose red and green say where each point comes from, across and down. Empty: its own."
    )
    amount: float | None = auto_number(
        -2,
        2,
        [{"when": {"by": None}, "value": 0.22}, {"value": 1}],
        label="Amount",
        unit="factor",
        help="0 moves nothing, 100 % moves all the way.",
    )
    coverage: bool = choice(
        True, label="Coverage", help="Blue of the map says where there is anything: dark is transparent. Off: blue is ignored."
    )
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


def map_guide(picture: Array) -> Array:
    """Return u, v and coverage of a look of a map, (rows, cols, 3), each 0…1; what is transparent is not covered.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    """
    alpha = picture[..., 3:]
    told = picture[..., :3] / np.maximum(alpha, np.float32(1e-6))
    told[..., 2:] = np.where(alpha < 0.5, np.float32(0), told[..., 2:])
    return np.ascontiguousarray(told, np.float32)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _map(x, y, guide, half_w, half_h, amount, coverage, jump, outside, out_x, out_y):  # type: ignore[no-untyped-def]
    rows, cols, _ = guide.shape
    half, one, two, zero = np.float32(0.5), np.float32(1), np.float32(2), np.float32(0)
    kx, ky = np.float32(cols) * half / half_w, np.float32(rows) * half / half_h
    for i in range(x.size):
        gx = min(max((x[i] + half_w) * kx - half, zero), np.float32(cols - 1))
        gy = min(max((y[i] + half_h) * ky - half, zero), np.float32(rows - 1))
        c0, r0 = int(gx), int(gy)
        c1, r1 = min(c0 + 1, cols - 1), min(r0 + 1, rows - 1)
        tx, ty = gx - np.float32(c0), gy - np.float32(r0)
        a, b, c, d = guide[r0, c0], guide[r0, c1], guide[r1, c0], guide[r1, c1]
        if coverage and guide[r0 if ty < half else r1, c0 if tx < half else c1, 2] < half:
            out_x[i], out_y[i] = outside, outside
            continue
        torn = False
        for k in range(2):
            low, high = min(min(a[k], b[k]), min(c[k], d[k])), max(max(a[k], b[k]), max(c[k], d[k]))
            torn = torn or high - low > jump
        if torn:
            tx, ty = np.float32(round(tx)), np.float32(round(ty))
        u = (a[0] * (one - tx) + b[0] * tx) * (one - ty) + (c[0] * (one - tx) + d[0] * tx) * ty
        v = (a[1] * (one - tx) + b[1] * tx) * (one - ty) + (c[1] * (one - tx) + d[1] * tx) * ty
        out_x[i] = x[i] + amount * ((two * u - one) * half_w - x[i])
        out_y[i] = y[i] + amount * ((two * v - one) * half_h - y[i])


def map_pull(x: Array, y: Array, before: Frame, after: Frame, s: MapSettings, guide: Array) -> tuple[Array, Array]:
    """Return where points came from: p + amount·(m(p) - p), m being what the map says.

    Parameters
    ----------
    guide : float32 array (rows, cols, 3)
        What `map_guide` gave; it spans the frame, and is read between its pixels by straight lines, but not across a seam.
    """
    half = np.float32(before.half_w), np.float32(before.half_h)

    def kernel(x: Array, y: Array, *rest: Array) -> None:
        _map(x, y, guide, *half, np.float32(auto_value(s, "amount")), s.coverage and s.by is not None, JUMP, OUTSIDE, *rest)

    return over_points(kernel, x, y)


MAP = BendKind(
    key="map",
    label="Map",
    family="bend",
    purpose="Moves every point to where a coordinate map says.",
    words=("coordinate map", "uv map", "remap", "lookup", "warp map", "places"),
    settings=MapSettings,
    starts=(
        Start("Sent by its own colours", {}, words=("tiff", "coordinates")),
        Start("Carried off by its colours", {"amount": 0.5}),
    ),
    neutral={"amount": 0, "coverage": False},
    pull=map_pull,
    guide=map_guide,
    guide_size=LOOK,
    guide_layer="by",
    leaves_out=True,
)
