"""Where a photo's horizon lies and how far it leans.

A horizon parts two regions that differ in colour *and* in texture, over most of the width. So it is looked for twice: first for the line that
best parts the whole photo in two (Ettinger et al.), then, near it, for the row that is sharpest after levelling. A line that parts nothing is
no horizon, however straight it is.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import tan, tau

import cv2
import numpy as np

from ..arrays import AnyArray, Array
from .regions import OF_TEXTURE, look_planes, nothing_of

WIDEST = 12 / 360
"""Leans beyond this many turns are not looked for."""
STRAIGHT = 0.7
"""A line this strong all along is the horizon itself; a weaker one runs through hills, and their ridge is traced."""
MOST_MENDED = 1.0 / 360
MOST_OF_A_PART = 0.5
AS_STEEP = 0.9 / 360
STEEPEST = 2
"""Rows by which a ridge may rise or fall from one column to the next."""
FAINT = 0.015
"""A step of this much light from one row to the next already counts most of the way."""
SANDBOX = 2.18
"""Two regions that explain the photo better than one by so much, in nats a pixel, are a sky and a ground whichever is rougher."""
FAR_APART = 2.8
"""Two that do by so much are so as a whole, whatever lies right at the line: stalls along a quay may be as rough as their sky's clouds."""
PARTED = 0.5
"""Lines that part the photo less well than this share of the best hardly count."""
PARTS = 16
"""Parts of the width, most of which a horizon must part in colour and in texture."""
NOISE = np.diag([0.03**2, 0.02**2, 0.02**2, 0.12**2])
"""Added to every covariance: what is plainer than this counts as equally plain."""


@dataclass(frozen=True)
class Horizon:
    """The line on which ground and sky meet.

    Parameters
    ----------
    tilt : float
        In turns, clockwise positive: the right end lies lower.
    height : float
        Where it crosses the middle of the photo, as a share of the height from the top.
    clearness : float
        How much better two regions explain the photo than one, in nats a pixel.
    """

    tilt: float
    height: float
    clearness: float


@dataclass(frozen=True)
class _Parting:
    """The line that parts a photo best, and how."""

    tilt: float
    height: float
    gain: float
    coloured: float
    textured: float
    rougher: float
    lit: float
    planes: AnyArray
    weight: AnyArray

    def gains(self, tilts: AnyArray, heights: AnyArray) -> AnyArray:
        """Return how well lines part the photo, (tilts, heights); tilts in turns, heights in shares."""
        rows = len(self.planes)
        at = np.unique(np.rint(tilts * 720) / 720)
        known = np.array([_gains(self.planes, self.weight, float(tilt)) for tilt in at])
        near = np.abs(at[:, None] - tilts).argmin(axis=0)
        return np.array([np.interp(heights, (np.arange(rows) + 1) / rows, known[k]) for k in near])

    @property
    def clear(self) -> bool:
        """Whether it parts colour and texture over most of the width, and there is light above."""
        if self.coloured < 0.9 or self.lit <= 0.03:
            return False
        plain = self.gain > 1.4 and self.textured >= 0.75 and self.rougher > 0.4
        # Two regions so unlike that nothing else explains the photo: ground may then be the calmer one, as a lagoon under clouds is.
        return plain or self.gain > FAR_APART or (self.gain > SANDBOX and abs(self.rougher) > 0.12)


def _levelled(planes: AnyArray, tilt: float) -> tuple[AnyArray, AnyArray]:
    """Return planes with every column moved by whole rows so that a line of this tilt lies level, and which pixels there are."""
    rows, cols = planes.shape[:2]
    off = np.rint((np.arange(cols) + 0.5 - cols / 2) * tan(tau * tilt)).astype(int)
    row = np.arange(rows)[:, None] + off
    there = (row >= 0) & (row < rows)
    return planes[np.clip(row, 0, rows - 1), np.arange(cols)], there


def _spread(count: AnyArray, total: AnyArray, products: AnyArray) -> AnyArray:
    """Return the logarithm of the determinant of the covariance of each region."""
    mean = total / count[:, None]
    covariance = products / count[:, None, None] - mean[:, :, None] * mean[:, None, :] + NOISE
    return np.linalg.slogdet(covariance)[1]


def _gains(planes: AnyArray, weight: AnyArray, tilt: float) -> AnyArray:
    """Return for every row how much better the photo is explained by the two regions above and below it than as one.

    References
    ----------
    S. Ettinger, M. Nechyba, P. Ifju and M. Waszak, Vision-guided flight stability and control for micro air vehicles, Advanced Robotics 17
    (2003): the line that leaves the least covariance on either side.
    """
    level, there = _levelled(np.dstack([planes, weight]), tilt)
    w = level[..., 4] * there
    f = level[..., :4]
    count, total = w.sum(axis=1).cumsum(), (f * w[..., None]).sum(axis=1).cumsum(axis=0)
    weighted = f * w[..., None]
    products = np.matmul(weighted.transpose(0, 2, 1), f).cumsum(axis=0)
    whole = count[-1]
    above = np.maximum(count, 1.0)
    below = np.maximum(whole - count, 1.0)
    gain = _spread(count[-1:], total[-1:], products[-1:])[0] - (
        above * _spread(above, total, products) + below * _spread(below, total[-1] - total, products[-1] - products)
    ) / (above + below)
    return np.where((count > 0.06 * whole) & (count < 0.94 * whole), gain, -1.0)


def _parting(picture: Array, nothing: AnyArray) -> _Parting | None:
    """Return the line that parts the photo best; None where there is too little to part."""
    planes = look_planes(picture)
    rows, cols = planes.shape[:2]
    weight = 1 - cv2.resize(nothing.astype(np.float32), (cols, rows), interpolation=cv2.INTER_AREA)
    weight = np.where(weight > 0.98, weight, 0)
    if weight.mean() < 0.5:
        return None
    tilts = np.linspace(-WIDEST, WIDEST, 13)
    gains = np.array([_gains(planes, weight, float(tilt)) for tilt in tilts])
    best, _ = np.unravel_index(int(gains.argmax()), gains.shape)
    near = tilts[best] + np.array([-1, -0.5, 0, 0.5, 1]) / 360
    gains = np.array([_gains(planes, weight, float(tilt)) for tilt in near])
    lean, at = np.unravel_index(int(gains.argmax()), gains.shape)
    level, there = _levelled(np.dstack([planes, weight]), float(near[lean]))
    w = (level[..., 4] * there)[..., None]
    row = int(at) + 1
    gap, high = max(1, rows // 40), max(4, rows // 5)
    above, below = slice(max(0, row - gap - high), max(1, row - gap)), slice(min(rows - 1, row + gap), row + gap + high)

    def means(part: slice) -> AnyArray:
        columns = np.array_split(np.arange(cols), PARTS)
        return np.stack([(level[part, c, :4] * w[part, c]).sum(axis=(0, 1)) / max(float(w[part, c].sum()), 1e-6) for c in columns])

    step = means(below) - means(above)
    way = step[:, :3].mean(axis=0)
    coloured = step[:, :3] @ (way / max(float(np.linalg.norm(way)), 1e-6))
    textured = step[:, 3] / OF_TEXTURE
    return _Parting(
        float(near[lean]), row / rows, float(gains.max()), float((coloured > 0.05).mean()), float((textured > 0.25).mean()),
        float(np.median(textured)), float(np.median(level[: max(1, row), :, 0])), planes, weight,
    )  # fmt: skip


def _steps_down(grey: Array) -> Array:
    """Return how much lighter each pixel's lower neighbour is, compressed so that a weak edge all along counts more than a strong tower."""
    soft = cv2.GaussianBlur(grey, (0, 0), 1.0)
    return np.asarray(np.tanh(cv2.Sobel(soft, cv2.CV_32F, 0, 1, ksize=3) / 8 / FAINT), np.float32)


def _sheared(steps: Array, tilt: float) -> Array:
    """Return the steps with every column moved so that a line of this tilt lies level."""
    rows, cols = steps.shape
    across = np.arange(cols, dtype=np.float32) + 0.5 - cols / 2
    row = np.arange(rows, dtype=np.float32)[:, None] + (across * tan(tau * tilt)).astype(np.float32)
    col = np.ascontiguousarray(np.broadcast_to(np.arange(cols, dtype=np.float32), steps.shape))
    return np.asarray(cv2.remap(steps, col, row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))


def _all_along(level: Array) -> Array:
    """Return how strong each row's step is over most of the width, 0…1.

    The median of parts and their mean with none counting for more than half, together: roofs cannot outdo the horizon between them.
    """
    parts = np.stack([part.mean(axis=1) for part in np.array_split(level, PARTS, axis=1)])
    parts = parts * np.sign(parts.sum(axis=0))
    held = np.clip(parts, -MOST_OF_A_PART, MOST_OF_A_PART).mean(axis=0) / MOST_OF_A_PART
    return np.asarray(np.sqrt(np.maximum(held, 0) ** 1.7 * np.maximum(np.median(parts, axis=0), 0) ** 0.3), np.float32)


def _ridge(level: Array, row: int) -> Array:
    """Return for each column of a levelled look how far below `row` its step lies, by the best path through a band (dynamic programming).

    Between columns the path moves `STEEPEST` rows at most.
    """
    half = max(4, level.shape[0] // 10)
    band = level[max(0, row - half) : row + half + 1]
    way = np.sign(level[max(0, row - 2) : row + 3].sum()) or 1.0
    gain = np.maximum(band * way, 0)
    rows, cols = gain.shape
    total = gain[:, 0].copy()
    came = np.zeros((cols, rows), np.int64)
    at = np.arange(rows)
    for col in range(1, cols):
        padded = np.pad(total, STEEPEST, constant_values=-np.inf)
        near = np.lib.stride_tricks.sliding_window_view(padded, 2 * STEEPEST + 1) - 0.05 * np.abs(np.arange(-STEEPEST, STEEPEST + 1))
        move = near.argmax(axis=1)
        came[col] = np.clip(at + move - STEEPEST, 0, rows - 1)
        total = near[at, move] + gain[:, col]
    path = np.empty(cols)
    here = int(total.argmax())
    for col in range(cols - 1, -1, -1):
        path[col] = here
        here = int(came[col, here])
    return path + max(0, row - half) - row


def _lean_of(path: Array) -> float:
    """Return the slope of a path, in rows per column: a straight line that towers and gaps do not pull (Tukey's weights)."""
    across = np.arange(len(path)) - (len(path) - 1) / 2
    weight = np.ones(len(path))
    slope = middle = 0.0
    for _ in range(12):
        middle = float((weight * path).sum() / weight.sum())
        centre = float((weight * across).sum() / weight.sum())
        slope = float((weight * (across - centre) * (path - middle)).sum() / (weight * (across - centre) ** 2).sum())
        off = np.abs(path - middle - slope * (across - centre))
        scale = max(6 * float(np.median(off)), 3.0)
        weight = np.maximum(1 - (off / scale) ** 2, 1e-3) ** 2
    return slope


def _exactly(steps: Array, tilt: float, row: int) -> float:
    """Return the lean near `tilt` at which the step near a row is sharpest: the middle of those that do nearly as well."""
    near = tilt + np.linspace(-0.6, 0.6, 25) / 360
    rows = slice(max(0, row - 4), row + 5)
    strength = np.array([np.abs(_sheared(steps, float(lean))[rows].mean(axis=1)).max() for lean in near])
    weight = np.clip(strength - 0.9 * strength.max(), 0, None)
    return float((near * weight).sum() / weight.sum()) if weight.sum() > 0 else tilt


def find_horizon(picture: Array) -> Horizon | None:
    """Find the horizon of a photo.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        A small look, some 500 pixels wide, coded and premultiplied.

    Returns
    -------
    Horizon or None
        None where no line parts two regions of different colour and texture over most of the width.

    Notes
    -----
    Near the line that parts the photo, and for each lean near its own, the photo's vertical steps are sheared level and averaged along the
    rows, as in a Radon transform; the true lean gathers the horizon's step in one row. Houses and trees stand on a horizon, so the row is
    looked for further down than up. Where hills break it, a line through their ridge makes the lean exact.
    """
    if min(picture.shape[:2]) < 24:
        return None
    nothing = nothing_of(picture)
    parting = _parting(picture, nothing)
    if parting is None or not parting.clear or abs(parting.tilt) > WIDEST:
        return None
    steps = _steps_down(np.asarray(picture[..., :3].mean(axis=2), np.float32))
    steps[cv2.dilate(nothing.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0] = 0
    rows = len(steps)
    first, last = max(2, int((parting.height - 0.13) * rows)), min(rows - 2, int((parting.height + 0.25) * rows) + 1)
    tilts = parting.tilt + np.linspace(-3, 3, 41) / 360
    profiles = np.array([_all_along(_sheared(steps, float(tilt))[first:last]) for tilt in tilts])
    # Eaves and quays are lines as well: a line counts by how well it parts the photo.
    parts = parting.gains(tilts, (np.arange(first, last) + 0.5) / rows)
    counted = profiles * (0.35 + np.clip((parts / max(float(parts.max()), 1e-6) - PARTED) / (1 - PARTED), 0, 1))
    strength = counted.max(axis=1)
    # The middle of the tilts that do nearly as well: steadier on soft horizons than the very best one.
    weight = np.clip(strength - 0.9 * strength.max(), 0, None) * (np.abs(tilts - tilts[strength.argmax()]) < AS_STEEP)
    if weight.sum() <= 0:
        return Horizon(parting.tilt, parting.height, parting.gain)
    tilt = float((tilts * weight).sum() / weight.sum())
    level = _sheared(steps, tilt)
    lean = int(np.abs(tilts - tilt).argmin())
    row = first + int(counted[max(0, lean - 1) : lean + 2].max(axis=0).argmax())
    tilt = _exactly(steps, tilt, row)
    level = _sheared(steps, tilt)
    if np.abs(level.mean(axis=1)[max(0, row - 2) : row + 3]).max() < STRAIGHT:
        tilt += float(np.clip(np.arctan(_lean_of(_ridge(level, row))) / tau, -MOST_MENDED, MOST_MENDED))
    return Horizon(tilt, (row + 0.5) / rows, parting.gain)
