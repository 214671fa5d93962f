"""Kaleidoscope: one sector of the picture all round."""

from __future__ import annotations

from math import tau

import cv2
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

    sectors: int = number(8, 1, 32, label="Sectors", unit="count", step=1, help="How often the sector is repeated.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    angle: float = number(
        0, -1, 1, label="First ray", unit="turns", step=0.0025, help="Where the repeated sector begins, clockwise from the top."
    )
    seek: bool = choice(True, label="Busiest sector", help="Finds the sector with the most detail. First ray then turns from there.")
    mirrored: bool = choice(
        True, label="Mirrored", help="Flips every other half-sector, so that edges meet. Off: the sector is only turned."
    )
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


BEARINGS = 720
LOOK = 256
CLEAR_EDGE = 0.08
"""A step of this much light or colour within a hundredth of the frame counts most of the way."""


def busiest_ray(picture: Array, sectors: int, x: float, y: float, mirrored: bool) -> Array:
    """Return the ray at which the sector with the most edges begins, in turns clockwise from the top: float32 (1,).

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        A small look, coded and premultiplied.
    sectors, x, y, mirrored
        The settings of these names.

    Notes
    -----
    Of a mirrored sector only one half is shown. Edges are counted within one unit of the centre, compressed, so that clutter counts more than
    one strong line.
    """
    smaller = LOOK / max(picture.shape[:2])
    if smaller < 1:
        size = (max(1, round(picture.shape[1] * smaller)), max(1, round(picture.shape[0] * smaller)))
        picture = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
    rows, cols = picture.shape[:2]
    soft = cv2.GaussianBlur(picture, (0, 0), max(1.0, rows / 200))
    step = np.hypot(cv2.Sobel(soft, cv2.CV_32F, 1, 0, scale=0.125), cv2.Sobel(soft, cv2.CV_32F, 0, 1, scale=0.125)).max(axis=-1)
    busy = np.tanh(step * min(rows, cols) / 100 / CLEAR_EDGE)
    across, down = Frame(cols / rows).grid(rows, cols)
    across, down = across - np.float32(x), down - np.float32(y)
    near = np.hypot(across, down) < 1
    bearing = np.arctan2(across[near], -down[near]) / tau
    along = np.bincount((bearing * BEARINGS).astype(int) % BEARINGS, busy[near], minlength=BEARINGS)
    width = max(1, round(BEARINGS / sectors / (2 if mirrored else 1)))
    running = np.concatenate([[0], np.cumsum(np.concatenate([along, along]))])
    seen = running[width : width + BEARINGS] - running[:BEARINGS]
    return np.array([int(seen.argmax()) / BEARINGS], np.float32)


def _told(picture: Array, s: KaleidoscopeSettings) -> dict[str, float]:
    return {"busiest": round(float(busiest_ray(picture, s.sectors, s.x, s.y, s.mirrored)[0]), 4)}


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


def kaleidoscope_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: KaleidoscopeSettings, guide: Array | None = None,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: n mirrored sectors are 2n half-sectors, alternately flipped; n turned ones are n copies.

    `guide` is what `busiest_ray` gave, where that is sought.
    """
    angle = s.angle if guide is None else s.angle + float(guide[0])
    return over_points(_kaleidoscope, x, y, s.x, s.y, angle, 1 / s.sectors, s.mirrored)


KALEIDOSCOPE = BendKind(
    key="kaleidoscope",
    label="Kaleidoscope",
    family="bend",
    purpose="Repeats one sector of the picture all round.",
    words=("mirror", "symmetry", "mandala", "sectors", "reflect", "rosette"),
    settings=KaleidoscopeSettings,
    handles=("sector-ray", "centre"),
    starts=(
        Start("Mirror flower", {"sectors": 6, "seek": True}),
        Start("Mirror star", {"sectors": 12, "seek": True}),
        Start("Mirror wheel", {"sectors": 9, "seek": True, "y": 0.12}),
    ),
    guide=busiest_ray,
    guide_settings=("sectors", "x", "y", "mirrored"),
    guide_size=LOOK,
    decides=True,
    guides=lambda s: s.seek,
    survey=_told,
    effort=4.0,
    pull=kaleidoscope_pull,
)
