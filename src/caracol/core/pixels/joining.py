"""Joins: where one side of a picture meets the other, looked at as a strip with the join in its middle.

A *strip* is a float32 array (rows, 2·band, 4), coded and premultiplied. Its left half is the end of one side (*first*), its right half the
beginning of the other (*second*); the join lies between its two middle columns. Distances from the join are in bands: -1…1.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import cv2
import numba as nb
import numpy as np

from ..arrays import AnyArray, Array
from .strokes import shown_at

OVERLAP = 0.4
"""How far each side is led beyond the join for a cut or a crossfade, in bands."""
LED_FROM = 1.5
"""How slowly the leading begins at the far edge of the band: the power of its growth."""
DIMMEST = 0.5 / 255
"""A row whose columns differ less than this counts as differing so much."""


def smooth(share: Array) -> Array:
    """Return 0…1 eased at both ends."""
    share = np.clip(share, 0, 1)
    return np.asarray(share * share * (3 - 2 * share), np.float32)


def distances(strip: Array) -> Array:
    """Return how far each column's middle lies from the join, in bands, (cols,): negative on the first side."""
    band = strip.shape[1] // 2
    return ((np.arange(2 * band, dtype=np.float32) + np.float32(0.5)) / band - 1).astype(np.float32)


def usual_steps(picture: Array) -> Array:
    """Return how much neighbouring columns differ in each row of a picture, in the mean, (rows,); no row counts as quite even."""
    steps = np.abs(np.diff(picture[..., :3], axis=1)).mean(axis=(1, 2)) if picture.shape[1] > 1 else np.zeros(len(picture), np.float32)
    return np.asarray(np.maximum(steps, DIMMEST), np.float32)


def visibility(step: Array, usual: Array) -> float:
    """Return how visible a join is: the mean over its rows of its step against the usual one; 1 is like everywhere.

    Parameters
    ----------
    step : float32 array (rows, 3)
        What lies on one side minus what lies on the other.
    usual : float32 array (rows,)
        From `usual_steps`.
    """
    return float((np.abs(step).mean(axis=1) / usual).mean())


def seam_visibility(picture: Array) -> float:
    """Return how visible the join of a picture's left and right edge is: `visibility` of the step from its last column to its first."""
    return visibility(picture[:, -1, :3] - picture[:, 0, :3], usual_steps(picture))


@dataclass(frozen=True)
class Drift:
    """How the two sides differ along the join, in even places from its top to its bottom.

    Parameters
    ----------
    drop : float32 array (places,)
        How much lower the first side's picture lies, as a share of the height.
    tone : float32 array (places, 3)
        How much brighter it is.
    """

    drop: Array
    tone: Array


def spread(places: Array, rows: int) -> Array:
    """Return values in even places along the join as values of rows: (places, …) to (rows, …)."""
    at = (np.arange(rows) + 0.5) / rows * len(places) - 0.5
    flat = places.reshape(len(places), -1)
    out = np.stack([np.interp(at, np.arange(len(places)), column) for column in flat.T], axis=1)
    return out.reshape(rows, *places.shape[1:]).astype(np.float32)


def led_together(strip: Array, drift: Drift) -> Array:
    """Return the strip with both sides brought to the same heights and tones at the join, each half of the way; its outer edges stay."""
    rows, cols = strip.shape[:2]
    d = distances(strip)
    share = (1 - smooth(np.abs(d))) * np.where(d < 0, 0.5, -0.5).astype(np.float32)
    out = strip
    if drift.drop.any():
        down = np.arange(rows, dtype=np.float32)[:, None] + spread(drift.drop, rows)[:, None] * rows * share
        out = shown_at(strip, np.broadcast_to(np.arange(cols, dtype=np.float32), (rows, cols)), down)
    return toned(out, -spread(drift.tone, rows)[:, None] * share[:, None])


def toned(strip: Array, change: Array) -> Array:
    """Return a strip with a change of its colours, (rows, cols, 3), as far as it is opaque and colours go."""
    alpha = np.clip(strip[..., 3:], 0, 1)
    return np.concatenate([np.clip(strip[..., :3] + change * alpha, 0, alpha), alpha], axis=-1, dtype=np.float32)


def overlapping(strip: Array, overlap: float = OVERLAP) -> tuple[Array, Array]:
    """Return both sides led beyond the join by `overlap` bands, as two strips; each shows nothing but itself, and stays at its outer edge.

    A side is drawn out, more the nearer it comes to the join: at distance d (-1 its outer edge) it shows what lay at
    d - overlap·((d + 1) / (1 + overlap))^1.5.
    """
    band = strip.shape[1] // 2
    t = np.clip((distances(strip) + 1) / (1 + overlap), 0, 1)
    from_first = distances(strip) - np.float32(overlap) * t ** np.float32(LED_FROM)
    columns = np.clip((from_first + 1) * band - 0.5, 0, band - 1)
    return _columns_at(strip[:, :band], columns), np.ascontiguousarray(_columns_at(strip[:, band:][:, ::-1], columns)[:, ::-1])


def _columns_at(side: Array, columns: Array) -> Array:
    """Return a side read at columns, (cols,): between four of them by Catmull and Rom, the outermost going on."""
    low = np.floor(columns).astype(int)
    t = (columns - low).astype(np.float32)[None, :, None]
    last = side.shape[1] - 1
    a, b, c, d = (side[:, np.clip(low + k, 0, last)] for k in (-1, 0, 1, 2))
    return np.asarray(b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a))), np.float32)


def membrane(step: Array, band: int, reach: AnyArray | None = None) -> Array:
    """Return half of a step along the join as it dies away from there, (rows, band, 3): the harmonic function that is 0 a band away.

    Parameters
    ----------
    step : float32 array (rows, 3)
    band : int
        Columns.

    Notes
    -----
    Laplace's equation on a strip with free ends: a wave along the join of k half periods in its height dies away like
    sinh(κ(1 - t)) / sinh(κ), κ = π·k·band / rows. So a tone is spread over the whole band, and a fine line only over its own width: the
    join of the two sides' gradients (Pérez, Gangnet and Blake, Poisson Image Editing, 2003).
    """
    rows = len(step)
    mirrored = np.concatenate([step, step[::-1]])
    waves = np.fft.rfft(mirrored, axis=0)
    kappa = np.pi * np.arange(len(waves)) * band / rows
    t = np.arange(band) / band
    with np.errstate(over="ignore"):
        fall = np.exp(-np.outer(t, kappa)) * -np.expm1(-2 * np.outer(1 - t, kappa)) / np.maximum(-np.expm1(-2 * kappa), 1e-12)
    fall[:, 0] = 1 - t
    return np.asarray(0.5 * np.fft.irfft(waves[:, None] * fall.T[..., None], 2 * rows, axis=0)[:rows], np.float32)


def _along(field: Array, t: Array) -> Array:
    """Return a membrane (rows, band, 3) read at shares t of the band, (rows, cols); nothing beyond."""
    rows, band = field.shape[:2]
    columns = (t * band).astype(np.float32)
    down = np.broadcast_to(np.arange(rows, dtype=np.float32)[:, None], t.shape)
    return np.asarray(cv2.remap(field, columns, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT), np.float32)


SHARP = 1.5
"""Pixels over which a cut fades where both sides show other things: as sharp as any outline."""
ALIKE = 0.11
"""Sides that differ by so much along their path hardly show the same thing; …"""
LEAST_ALIKE = 0.04
"""… and below this they surely do."""


MOST_SEEN = 0.35
"""A step along a path is no more visible for being larger."""
OF_FINE = 0.3
"""What is levelled counts so much, where it is fine."""
HIDDEN = 0.01
"""Steps of so much are seen nowhere, however plain a picture is."""


def alike_along(step: Array) -> Array:
    """Return for each row of a path how surely both sides show the same surface there, in another light: 0…1, (rows,).

    A roof that meets a sky is cut: were their difference spread, it would go on as its own ghost.
    """
    off = np.abs(step).mean(axis=1)
    sure = 1 - smooth((off - LEAST_ALIKE) / (ALIKE - LEAST_ALIKE))
    return _softened(np.asarray(sure, np.float32)[:, None], max(0.7, len(step) / 400))[:, 0]


@dataclass(frozen=True)
class Meeting:
    """Where two sides are laid together: the first up to a path, the second beyond it.

    Parameters
    ----------
    first, second : float32 array (rows, cols, 4)
        Both sides as strips, led beyond the path.
    path : float32 array (rows,)
        Where they meet, in bands from the join.
    soft : float
        How wide they fade into each other, in bands, where both show the same.
    level : bool
        Whether their difference along the path is spread over the band first (`membrane`), where both show the same.
    """

    first: Array
    second: Array
    path: Array
    soft: float
    level: bool

    @property
    def band(self) -> int:
        return self.first.shape[1] // 2

    @cached_property
    def step(self) -> Array:
        """What the first side has more than the second along the path, (rows, 3), where both are opaque."""
        both = self.first[:, :, 3].min(axis=1) * self.second[:, :, 3].min(axis=1)
        columns = np.broadcast_to(((self.path[:, None] + 1) * self.band - 0.5).astype(np.float32), (len(self.path), 1))
        down = np.arange(len(self.path), dtype=np.float32)[:, None]
        return np.asarray((shown_at(self.first, columns, down) - shown_at(self.second, columns, down))[:, 0, :3] * both[:, None])

    @cached_property
    def alike(self) -> Array:
        """How surely both sides show the same, (rows, 1); taken for granted where nothing is levelled."""
        return alike_along(self.step)[:, None] if self.level else np.ones((len(self.path), 1), np.float32)

    @cached_property
    def share(self) -> Array:
        """How much of the first side is seen, (rows, cols)."""
        soft = np.maximum(self.soft * self.alike, SHARP / self.band)
        return smooth((self.path[:, None] - distances(self.first)[None, :]) / soft + np.float32(0.5))

    def laid(self) -> Array:
        """Return both sides laid together."""
        first, second, way = self.first, self.second, self.path[:, None]
        if self.level:
            d = distances(first)[None, :]
            field = membrane(self.step * self.alike, self.band)
            first = toned(first, -_along(field, np.clip((way - d) / (1 + way), 0, 1)))
            second = toned(second, _along(field, np.clip((d - way) / (1 - way), 0, 1)))
        return np.asarray(second + (first - second) * self.share[..., None])

    def seen(self, usual: Array) -> float:
        """Return how much an eye finds of it: 1 is what is like everywhere in the picture, 2 is found by who looks.

        Notes
        -----
        What stays a step along the path counts whole, less where the path slants and looks like an outline; what is levelled but fine, less;
        and so does what is mixed of two different things. Against the usual steps of the picture, in which they hide.
        """
        slant = np.abs(np.gradient(self.path * self.band)) if len(self.path) > 1 else np.zeros(1)
        left = np.minimum(np.abs(self.step * (1 - self.alike)).mean(axis=1), MOST_SEEN) / (1 + slant)
        fine = np.abs(without_slow(self.step * self.alike, self.band)).mean(axis=1) if self.level else np.zeros(1)
        apart = np.abs(self.first - self.second)[..., :3].mean(axis=2)
        mixed = (4 * self.share * (1 - self.share) * apart).sum(axis=1) / self.band
        return float((left.mean() + OF_FINE * fine.mean() + mixed.mean()) / (usual.mean() + HIDDEN))


def without_slow(step: Array, band: int) -> Array:
    """Return what of a step along the join cannot be spread over the band unseen."""
    soft = cv2.GaussianBlur(
        np.ascontiguousarray(step[:, None]), (1, 0), sigmaX=1, sigmaY=max(0.5, band / 4), borderType=cv2.BORDER_REPLICATE
    )
    return np.asarray(step - soft.reshape(step.shape), np.float32)


def least_path(first: Array, second: Array, pulls: tuple[tuple[float, float], ...] = (), overlap: float = OVERLAP) -> Array:
    """Return the path from top to bottom along which two overlapping sides differ least, (rows,), in bands from the join.

    Parameters
    ----------
    first, second : float32 array (rows, cols, 4)
    pulls : tuple of (share of the height, bands)
        Places that the path goes through.
    overlap : float
        How far from the join it may go, in bands.

    References
    ----------
    A. A. Efros and W. T. Freeman, Image Quilting for Texture Synthesis and Transfer, SIGGRAPH (2001).
    """
    d = distances(first)
    inside = np.flatnonzero(np.abs(d) <= max(overlap, 1.01 * float(np.abs(d).min())))
    costs = np.abs(first - second)[:, inside].mean(axis=2)
    costs += 0.5 * np.abs(np.gradient(first, axis=0) - np.gradient(second, axis=0))[:, inside].mean(axis=2) if len(first) > 1 else 0
    rows = len(costs)
    # What is equal is best in the middle, where neither side is drawn out far.
    costs = cv2.GaussianBlur(costs, (0, 0), 0.8) + 0.004 * np.abs(d[inside]) / overlap
    for v, at in pulls:
        costs[min(rows - 1, max(0, int(v * rows)))] += 10 * np.abs(d[inside] - at)
    if len(inside) < 3:
        return np.zeros(rows, np.float32)
    return np.asarray(d[inside][cheapest_way(costs, 0.002)], np.float32)


@nb.njit(nogil=True, cache=True)
def _cheapest(total, stiff, way):  # type: ignore[no-untyped-def]
    rows, places = total.shape
    for row in range(1, rows):
        for place in range(places):
            best = total[row - 1, place]
            if place > 0:
                best = min(best, total[row - 1, place - 1] + stiff)
            if place + 1 < places:
                best = min(best, total[row - 1, place + 1] + stiff)
            total[row, place] += best
    way[rows - 1] = np.argmin(total[rows - 1])
    for row in range(rows - 2, -1, -1):
        here = way[row + 1]
        way[row] = here
        best = total[row, here]
        for place in (here - 1, here + 1):
            if 0 <= place < places and total[row, place] + stiff < best:
                best, way[row] = total[row, place] + stiff, place


def cheapest_way(costs: Array, stiff: float) -> AnyArray:
    """Return the place in each row that makes the cheapest way from the first to the last, (rows,); it moves one place a row at most.

    Parameters
    ----------
    costs : float32 array (rows, places)
    stiff : float
        What a move costs.
    """
    way = np.empty(len(costs), np.int64)
    _cheapest(np.ascontiguousarray(costs, np.float64), stiff, way)
    return way


def drift_of(strip: Array, places: int) -> Drift:
    """Return how the two sides differ along the join: led by what both show, not row by row.

    Heights: the edges' colours and steps down are matched by dynamic programming, so that a horizon finds its other end while a plain sky
    stays where it is. Tones: only where both edges then look alike, and without anything fine.
    """
    rows, cols = strip.shape[:2]
    band = cols // 2
    wide = max(1, band // 6)
    first, second = strip[:, band - wide : band, :3].mean(axis=1), strip[:, band : band + wide, :3].mean(axis=1)
    drop = _matched(first, second)
    down = np.arange(rows, dtype=np.float32)
    a, b = (
        np.stack([np.interp(down + sign * drop / 2, down, side[:, k]) for k in range(3)], axis=1)
        for sign, side in ((1, first), (-1, second))
    )
    seen = np.minimum(strip[:, :band, 3].mean(axis=1), strip[:, band:, 3].mean(axis=1))
    step = (a - b).astype(np.float32)
    fine = np.abs(_softened(a, rows / 300) - _softened(a, rows / 40) - _softened(b, rows / 300) + _softened(b, rows / 40)).mean(axis=1)
    alike = np.exp(-((np.abs(step).mean(axis=1) / 0.2) ** 2) - (fine / 0.05) ** 2) * seen
    weight = _softened(alike[:, None], rows / 14)
    tone = _softened(step * alike[:, None], rows / 14) / (weight + 0.1)
    at = ((np.arange(places) + 0.5) / places * rows).astype(int)
    return Drift((drop / rows).astype(np.float32)[at], tone.astype(np.float32)[at])


FAR = 0.25
"""So much of a picture's width on each side of its join takes part in levelling what changes slowly."""


BUSY = 0.012
"""An edge whose neighbouring pixels differ so much is no longer plain."""
SAME = 0.42
"""Edges that differ so much do not show the same thing in another light: one sky is white and blue, but not white and black."""


def slow_difference(picture: Array, places: int) -> Array:
    """Return how much brighter the right edge of a picture is than the left one where both are plain, (places, 3), without anything fine.

    A sky that is white on one side and blue on the other differs so; a tree beside a sky does not.
    """
    rows, cols = picture.shape[:2]
    if min(rows, cols) < 2:
        return np.zeros((places, 3), np.float32)  # what is one pixel wide or high is never plain
    wide = max(2, cols // 30)
    sides = [side[..., :3] for side in (picture[:, -wide:], picture[:, :wide])]
    a, b = (side.mean(axis=1) for side in sides)
    # What of a side changes from pixel to pixel, across and down: next to nothing of a sky.
    busy = [np.abs(np.diff(side, axis=1)).mean(axis=(1, 2)) + np.abs(np.gradient(side.mean(axis=1), axis=0)).mean(axis=1) for side in sides]
    seen = np.minimum(picture[:, -wide:, 3].mean(axis=1), picture[:, :wide, 3].mean(axis=1))
    apart = np.abs(a - b).mean(axis=1) / SAME
    plain = np.exp(-((busy[0] / BUSY) ** 2) - (busy[1] / BUSY) ** 2 - apart**4) * seen
    weight = _softened(plain[:, None], rows / 24)
    tone = _softened((a - b) * plain[:, None], rows / 24) / (weight + 0.12)
    return np.asarray(tone[((np.arange(places) + 0.5) / places * rows).astype(int)], np.float32)


def levelled(picture: Array, slow: Array) -> Array:
    """Return a picture whose edges have the same slow tones, each led half of the way over a quarter of the width."""
    rows, cols = picture.shape[:2]
    far = max(1, round(FAR * cols))
    share = 0.5 * (1 - smooth((np.arange(far, dtype=np.float32) + 0.5) / far))
    change = spread(slow, rows)[:, None] * share[None, :, None]
    out = picture.copy()
    out[:, :far] = toned(picture[:, :far], change)
    out[:, cols - far :] = toned(picture[:, cols - far :], -change[:, ::-1])
    return out


def _softened(column: AnyArray, sigma: float) -> Array:
    """Return values along the join softened down it, (rows, n)."""
    values = np.ascontiguousarray(column[:, None], np.float32)
    return np.asarray(
        cv2.GaussianBlur(values, (1, 0), sigmaX=1, sigmaY=max(sigma, 0.3), borderType=cv2.BORDER_REPLICATE), np.float32
    ).reshape(column.shape)


MOST_DROP = 0.12
"""Horizons are led together that miss each other by no more than this share of the height."""
STIFF = 0.03
"""What it costs a match to change its drop by one row."""


def _matched(first: Array, second: Array) -> Array:
    """Return the drop of each row, in rows, that matches two edges best; 0 throughout where nothing much is won."""
    rows = len(first)
    reach = int(rows * MOST_DROP)
    if reach < 1:
        return np.zeros(rows, np.float32)
    # Without what changes slowly: a sky that is lighter on one side shows the same thing there.
    looks = [
        np.concatenate([_softened(side, 1) - _softened(side, rows / 6), 3 * np.gradient(_softened(side, 1.5), axis=0)], axis=1)
        for side in (first, second)
    ]
    down = np.arange(rows)
    drops = np.arange(-reach, reach + 1)
    costs = np.empty((rows, len(drops)), np.float32)
    for n, drop in enumerate(drops):
        ahead, behind = np.clip(down + (drop + 1) // 2, 0, rows - 1), np.clip(down - drop // 2, 0, rows - 1)
        costs[:, n] = np.abs(looks[0][ahead] - looks[1][behind]).mean(axis=1)
    costs = np.asarray(cv2.GaussianBlur(costs, (1, 0), sigmaX=1, sigmaY=max(1.0, rows / 150)) + 0.0004 * np.abs(drops), np.float32)
    way = cheapest_way(costs, STIFF)
    won = costs[down, way].sum() + STIFF * np.abs(np.diff(way)).sum()
    if won > 0.85 * costs[:, reach].sum():
        return np.zeros(rows, np.float32)
    return _softened(drops[way].astype(np.float32)[:, None], rows / 50)[:, 0]
