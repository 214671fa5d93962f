"""Pinch: the content drawn to a centre, or swollen there."""

from __future__ import annotations

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number


class PinchSettings(Settings):
    """Centre, reach and how strongly."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(1, 0.02, 6, label="Radius", unit="units", help="Nothing moves at this radius or beyond.")
    amount: float = number(0.5, -1, 1, label="Amount", unit="share", help="Positive pinches, negative bulges.")
    edge: Edge = choice("beyond", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _pinch(x, y, cx, cy, reach, power, out_x, out_y):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        q = max(np.sqrt(px * px + py * py) / reach, np.float32(1e-6))
        k = q**power if q < one else one
        out_x[i] = cx + px * k
        out_y[i] = cy + py * k


def pinch_pull(x: Array, y: Array, before: Frame, after: Frame, s: PinchSettings) -> tuple[Array, Array]:
    """Return where points came from: with q = rad / reach below 1, q becomes q to the power 2^(-amount); pinches of a and -a cancel."""
    return over_points(_pinch, x, y, s.x, s.y, s.reach, 2.0**-s.amount - 1)


PINCH = BendKind(
    key="pinch",
    label="Pinch",
    family="bend",
    purpose="Pinches the picture towards a centre, or bulges it.",
    words=("bulge", "swell", "squeeze", "implode", "bloat", "punch", "warp"),
    settings=PinchSettings,
    handles=("pinch-pull", "centre-reach"),
    starts=(
        Start("Pinched", {"amount": 0.5, "reach": 1.5}, words=("pucker", "squeeze", "implode", "shrink")),
        Start("Bulged", {"amount": -0.5, "reach": 1.5}, words=("bulge", "swell", "bloat", "punch", "fat")),
    ),
    neutral={"amount": 0},
    pull=pinch_pull,
)
