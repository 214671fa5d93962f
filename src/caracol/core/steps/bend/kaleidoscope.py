"""Kaleidoscope: one sector of the picture all round."""

from __future__ import annotations

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import cosine_of, over_points, sine_of
from ...geometry.polar import turns_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number


class KaleidoscopeSettings(Settings):
    """How many sectors, about which centre, from which ray."""

    sectors: int = number(6, 1, 32, label="Sectors", unit="count", step=1, help="How often the sector is repeated.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    angle: float = number(
        0, -1, 1, label="First ray", unit="turns", step=0.0025, help="Ray at which the shown sector begins, clockwise from the top."
    )
    mirrored: bool = choice(
        True, label="Mirrored", help="Every other half-sector is flipped, so that the edges meet; else the sector is just turned."
    )
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _kaleidoscope(x, y, cx, cy, angle, width, mirrored, out_x, out_y):  # type: ignore[no-untyped-def]
    half = np.float32(0.5)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        rad = np.sqrt(px * px + py * py)
        part = (turns_of(px, py) - angle) / width
        part = part - np.floor(part)
        if mirrored and part > half:
            part = np.float32(1) - part
        ang = angle + part * width
        out_x[i] = cx + rad * sine_of(ang)
        out_y[i] = cy - rad * cosine_of(ang)


def kaleidoscope_pull(x: Array, y: Array, before: Frame, after: Frame, s: KaleidoscopeSettings) -> tuple[Array, Array]:
    """Return where points came from: n mirrored sectors are 2n half-sectors, alternately flipped; n turned ones are n copies."""
    return over_points(_kaleidoscope, x, y, s.x, s.y, s.angle, 1 / s.sectors, s.mirrored)


KALEIDOSCOPE = BendKind(
    key="kaleidoscope",
    label="Kaleidoscope",
    family="bend",
    purpose="Repeats one sector of the picture all round.",
    words=("mirror", "symmetry", "mandala", "sectors", "reflect", "rosette"),
    settings=KaleidoscopeSettings,
    handles=("sector-ray", "centre"),
    starts=(
        Start("Mirror flower", {"sectors": 6, "angle": 0.2083}),
        Start("Mirror star", {"sectors": 12, "angle": 0.2292}),
        Start("Mirror wheel", {"sectors": 9, "angle": 0.7222, "y": 0.12}),
    ),
    effort=4.0,
    pull=kaleidoscope_pull,
)
