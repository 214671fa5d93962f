"""Stipple: the picture in dots or strokes on paper."""

from __future__ import annotations

from typing import Any, Literal

import cv2
import numpy as np

from ...arrays import AnyArray, Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, choice, colour, number
from ...kinds.settings import seed as any_draw
from ...pixels.blending import LUMA
from ...pixels.colours import rgb_of
from ...pixels.draws import draw
from ...pixels.marks import lay_marks
from ...pixels.raster import Raster
from ...pixels.soften import softened


class StippleSettings(Settings):
    """What the marks are, how close they lie, and on what."""

    marks: Literal["dots", "strokes"] = choice("dots", label="Marks", help="Round dots, or strokes that follow the picture's own flow.")
    pitch: float = number(0.034, 0.008, 0.2, label="Pitch", unit="units", step=0.001, help="From mark to mark.")
    size: float = number(1.4, 0.2, 3, label="Size", unit="factor", step=0.05, help="Size of the largest mark, against the pitch.")
    length: float = number(
        3, 1, 10, label="Length", unit="factor", step=0.1, help="Length of a stroke, against its width.", when={"marks": ["strokes"]}
    )
    scatter: float = number(0.7, 0, 1, label="Scatter", unit="share", help="How far marks stray from an even grid.")
    range: float = number(
        0,
        0,
        1,
        label="Whole range",
        unit="share",
        help="Spreads the tones of the picture over all sizes of marks; 0 uses them unchanged.",
    )
    from_dark: bool = choice(True, label="Dark is large", help="Dark places make large marks. Off: light places do.")
    shade: Literal["own", "ink"] = choice("own", label="Colour", help="Marks have the colour of the picture, or of the ink.")
    ink: str = colour("#20262a", label="Ink", help="The colour of the ink.", when={"shade": ["ink"]})
    paper: str | None = colour("#f3ece0", label="Paper", help="The colour under the marks. None leaves it transparent.")
    lines: int = number(
        1080, 240, 4320, label="Resolution", unit="count", step=60, help="Resolution of the effect: lines along the shorter side."
    )
    seed: int = any_draw()


def places(rows: float, cols: float, pitch: float, scatter: float, seed: int) -> AnyArray:
    """Return the middles of marks, (n, 2) as (col, row): rows of even places, every other half a pitch aside, scattered by the seed.

    They depend on how many pitches there are down and across alone, so that a raster of any size has the same.

    Parameters
    ----------
    rows, cols : int
    pitch : float
        Pixels.
    scatter : float
        0…1 of the pitch.
    seed : int

    Returns
    -------
    float array (n, 2)
    """
    down = pitch * 3**0.5 / 2
    count_rows, count_cols = int(rows / down + 1e-4) + 3, int(cols / pitch + 1e-4) + 3
    row, col = np.mgrid[0:count_rows, 0:count_cols].astype(np.float64)
    x, y = (col - 1 + 0.5 * (row % 2)) * pitch, (row - 1) * down
    bits: Any = np.random.PCG64(int(draw(seed, 0) * 2**53)).random_raw(row.size * 2)
    noise = (bits.astype(np.float64) / 2**64 - 0.5).reshape(2, *row.shape)
    return np.stack([(x + noise[0] * scatter * pitch).ravel(), (y + noise[1] * scatter * pitch).ravel()], axis=1)


def flow_of(luma: Array, sigma: float) -> Array:
    """Return the angle (radians, from the x axis) along which a picture changes least, (rows, cols), from its smoothed structure tensor.

    Parameters
    ----------
    luma : float32 array (rows, cols)
    sigma : float
        Deviation of the smoothing, pixels.

    Returns
    -------
    float32 array (rows, cols)

    References
    ----------
    J. Bigün and G. H. Granlund, Optimal Orientation Detection of Linear Symmetry, ICCV (1987).
    """
    gx, gy = cv2.Sobel(luma, cv2.CV_32F, 1, 0), cv2.Sobel(luma, cv2.CV_32F, 0, 1)
    tensor = softened(np.dstack([gx * gx, gy * gy, gx * gy]), sigma, sigma)
    return np.asarray(0.5 * np.arctan2(2 * tensor[..., 2], tensor[..., 0] - tensor[..., 1]) + np.pi / 2, np.float32)


def _ranged(light: Array, alpha: Array, share: float) -> Array:
    """Return lights spread so that nearly all of those that are seen fill 0…1."""
    seen = light[alpha >= 0.25]
    if not share or not len(seen):
        return light
    low, high = np.quantile(seen, (0.03, 0.97))
    return np.asarray(light + np.float32(share) * (np.clip((light - low) / max(high - low, 0.1), 0, 1) - light), np.float32)


def stipple(picture: Array, raster: Raster, s: StippleSettings) -> Array:
    """Return the marks on their paper. A mark's area grows as the place under it is dark (or light)."""
    rows, cols = picture.shape[:2]
    pitch = max(2.0, raster.pixels(s.pitch))
    # Marks see no more of it than this: what is softened so far is as well softened on a smaller picture.
    fine = max(1, int(pitch * 0.2))
    small = cv2.resize(picture, (-(-cols // fine), -(-rows // fine)), interpolation=cv2.INTER_AREA)
    across, down = cols / small.shape[1], rows / small.shape[0]
    small = softened(small, pitch * 0.45 / across, pitch * 0.45 / down)
    luma = small[..., :3] @ LUMA
    angle = flow_of(np.ascontiguousarray(luma), pitch / fine) if s.marks == "strokes" else None
    out = np.zeros((rows, cols, 4), np.float32)
    if s.paper is not None:
        out[...] = (*rgb_of(s.paper), 1)
    frame = raster.rows.frame
    at = places(raster.pixels(2 * frame.half_h), cols, pitch, s.scatter, s.seed)
    at = at[order_of(len(at), s.seed)]
    r, c = (np.clip((at[:, k] / by).astype(int), 0, small.shape[1 - k] - 1) for k, by in ((1, down), (0, across)))
    alpha = small[r, c, 3]
    light = _ranged(luma[r, c] / np.maximum(alpha, np.float32(1e-6)), alpha, s.range)
    radius = 0.62 * pitch * s.size * np.clip(1 - light if s.from_dark else light, 0, 1) ** 0.5
    seen = (alpha >= 0.25) & (radius >= 0.2)
    paint = small[r, c, :3] / np.maximum(alpha, np.float32(1e-6))[:, None] if s.shade == "own" else np.tile(rgb_of(s.ink), (len(at), 1))
    middles, radii = at[seen], radius[seen]
    # A little more than their measure: the smallest still show, and neighbours meet.
    ends, widths = np.concatenate([middles, middles], axis=1), radii + 0.5
    if angle is not None:
        way = np.stack([np.cos(angle[r, c]), np.sin(angle[r, c])], axis=1)[seen] * (0.3 * s.length * pitch)
        ends, widths = np.concatenate([middles - way, middles + way], axis=1), np.maximum(radii, 1) / 2 + 0.8
    numbers = [np.ascontiguousarray(a, np.float32) for a in (ends, widths, np.clip(paint[seen], 0, 1))]
    raster.in_parts(rows, lambda first, last: lay_marks(*numbers, first, last, out))
    return out


def order_of(count: int, seed: int) -> AnyArray:
    """Return the order in which marks are laid, so that none of their rows shows."""
    bits: Any = np.random.PCG64(int(draw(seed, 1) * 2**53)).random_raw(count)
    return np.argsort(bits, kind="stable")


STIPPLE = RasterKind(
    key="stipple",
    label="Stipple",
    family="break",
    purpose="Draws the picture in dots or strokes.",
    words=("halftone", "dots", "pointillism", "print", "ink", "hatching", "screen"),
    settings=StippleSettings,
    starts=(
        Start("Dots on paper", {"range": 0.5}),
        Start("Dark ink dots", {"shade": "ink", "ink": "#3b2620", "pitch": 0.024, "scatter": 0.3, "size": 0.92, "range": 0.8}),
        Start("Strokes", {"marks": "strokes", "pitch": 0.022, "size": 1.6, "range": 0.5}, words=("hatching", "hatch", "engraving")),
        Start("Lights on black", {"from_dark": False, "paper": "#050607", "pitch": 0.044, "size": 1.15, "range": 0.5}),
    ),
    effort=2.5,
    work=stipple,
)
