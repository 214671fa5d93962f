"""Pixel sort: stretches of pixels between two thresholds, ordered along a direction."""

from __future__ import annotations

from typing import Any, Literal, cast

import numpy as np

from ...arrays import Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, auto_number, choice, number
from ...kinds.settings import seed as any_draw
from ...pixels.ordering import KEYS, Key, Lines, find_keys, going_round, mark_lines, polar_lines, sort_lines, straight_lines
from ...pixels.raster import Raster

CENTRED = ["round", "outwards"]
LONGEST = 4.0
"""A stretch this long, in units, is not limited."""


class PixelSortSettings(Settings):
    """Along what, by what, which stretches, and how they are ordered."""

    along: Literal["heading", "round", "outwards"] = choice(
        "heading", label="Along", help="Straight lines, circles round a centre, or rays from it."
    )
    heading: float = number(
        0.5,
        -1,
        1,
        label="Direction",
        unit="turns",
        step=0.0025,
        help="Direction of the lines, clockwise from the top.",
        when={"along": ["heading"]},
    )
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre of the circles or rays.", when={"along": list(CENTRED)})
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre of the circles or rays.", when={"along": list(CENTRED)})
    key: Key = choice("light", label="Sort by", help="What pixels are sorted by. Warmth is red against blue.")
    low: float | None = auto_number(
        0,
        1,
        [{"value": 0.25}],
        label="From",
        unit="share",
        step=0.005,
        help="Lower pixels are not sorted. Automatic: the lowest seventh.",
    )
    high: float | None = auto_number(
        0,
        1,
        [{"value": 0.8}],
        label="To",
        unit="share",
        step=0.005,
        help="Higher pixels are not sorted. Automatic: the highest twentieth.",
    )
    order: Literal["rising", "falling"] = choice("rising", label="Order", help="Whether the lowest or the highest comes first.")
    shortest: float = number(0, 0, LONGEST, label="Shortest stretch", unit="units", step=0.005, help="Shorter stretches are not sorted.")
    longest: float = number(
        LONGEST,
        0.01,
        LONGEST,
        label="Longest stretch",
        unit="units",
        help="Longer stretches are cut unevenly; 4 sets no limit.",
    )
    jitter: float = number(0, 0, 1, label="Jitter", unit="share", help="Disturbs the order.")
    breaks: float = number(0, 0, 1, label="Stop at edges", unit="share", help="How faint an edge still ends a stretch; 0 ignores edges.")
    lines: int = number(
        1080,
        0,
        4320,
        label="Resolution",
        unit="count",
        step=60,
        help="Resolution of the effect: lines along the shorter side. 0 uses every pixel.",
    )
    seed: int = any_draw(idle=(({"jitter": [0]}, "Nothing is drawn while Jitter is 0."),))


FREE = (0.15, 0.95)
"""Between these shares of all keys lie the pixels of stretches whose limits are left free."""
EVERY = 3
"""Of a raster's rows and columns, one in so many is asked for its keys."""


def _found(picture: Array, s: PixelSortSettings) -> PixelSortSettings:
    """Return the settings with the limits that are left free taken from the picture's own keys."""
    if s.low is not None and s.high is not None:
        return s
    pixels = np.ascontiguousarray(picture[::EVERY, ::EVERY].reshape(-1, 4))
    keys = np.empty(len(pixels), np.float32)
    find_keys(pixels, KEYS.index(s.key), keys)
    keys = keys[keys >= 0]
    free = [float(limit) for limit in np.quantile(keys, FREE)] if len(keys) else [0.0, 1.0]
    return s.model_copy(update={name: at for name, at in zip(("low", "high"), free, strict=True) if getattr(s, name) is None})


def _lines_for(raster: Raster, s: PixelSortSettings) -> Lines:
    rows, cols, frame = raster.rows.rows, raster.rows.cols, raster.rows.frame
    if s.along == "heading":
        return raster.remember(("lines", s.heading), lambda: straight_lines(rows, cols, s.heading))
    (u,), (v,) = frame.to_shares(np.array([s.x]), np.array([s.y]))
    along = s.along
    return raster.remember(("lines", u, v, along), lambda: polar_lines(rows, cols, u * cols, v * rows, along))


def _lined(picture: Array, raster: Raster, s: PixelSortSettings) -> tuple[Lines, Array]:
    """Return the lines, and the raster's pixels line after line."""
    lines = _lines_for(raster, s)
    pixels = lines.gather(picture)
    if s.along == "round":
        lines = going_round(lines, pixels, KEYS.index(s.key), cast(float, s.low), cast(float, s.high), s.order == "falling")
        pixels = lines.gather(picture)
    return lines, pixels


def _finding(lines: Lines, raster: Raster, s: PixelSortSettings) -> tuple[int, Array, tuple[np.float32, ...], bool]:
    """Return what stretches are found by: the key, what is kept along the lines, the limits, and whether edges break."""
    kept = np.empty(0, np.float32) if raster.keep is None else lines.gather(raster.keep)
    longest = float(1 << 30) if s.longest >= LONGEST else max(1.0, raster.pixels(s.longest))
    limits = (s.low, s.high, raster.pixels(s.shortest), longest, 0.01 + 0.5 * (1 - s.breaks) ** 2)
    return KEYS.index(s.key), kept, tuple(np.float32(n) for n in limits), s.breaks > 0


def _noise(lines: Lines, raster: Raster, s: PixelSortSettings) -> Array:
    if not s.jitter:
        return np.empty(0, np.float32)
    rows, cols = raster.rows.rows, raster.rows.cols
    bits: Any = np.random.PCG64(s.seed).random_raw(rows * cols)
    noise = (bits >> np.uint64(40)).astype(np.float32) / np.float32(1 << 24) - np.float32(0.5)
    return lines.gather(noise.reshape(rows, cols))


def pixel_sort(picture: Array, raster: Raster, s: PixelSortSettings) -> Array:
    """Return the raster with each stretch in order.

    Notes
    -----
    A stretch is a longest row of pixels along the line with low ≤ key ≤ high; each is ordered stably, the lowest key first along the direction
    (the highest where `order` is falling). Pixels move whole: the result is a permutation of the raster's pixels.
    """
    s = _found(picture, s)
    lines, pixels = _lined(picture, raster, s)
    key, kept, limits, breaks = _finding(lines, raster, s)
    noise = _noise(lines, raster, s)
    out = np.empty_like(pixels)

    def work(first: int, last: int) -> None:
        falling = s.order == "falling"
        sort_lines(pixels, lines.starts, first, last, key, kept, noise, np.float32(s.jitter), limits, breaks, s.seed, falling, out)

    raster.in_parts(len(lines.starts) - 1, work)
    return lines.scatter(out, raster.rows.rows, raster.rows.cols)


def runs_shown(picture: Array, raster: Raster, s: PixelSortSettings) -> Array:
    """Return which pixels lie in stretches, (rows, cols): 0 where in none, else in turn 0.55 and 1, so that one stretch is told from the next."""
    s = _found(picture, s)
    lines, pixels = _lined(picture, raster, s)
    key, kept, limits, breaks = _finding(lines, raster, s)
    stretches = np.zeros(len(pixels), np.int32)

    def work(first: int, last: int) -> None:
        mark_lines(pixels, lines.starts, first, last, key, kept, limits, breaks, s.seed, stretches)

    raster.in_parts(len(lines.starts) - 1, work)
    shown = np.zeros(len(stretches), np.float32)
    begins = np.flatnonzero(stretches)
    step = np.zeros(len(stretches) + 1, np.int64)
    np.add.at(step, begins, 1)
    np.add.at(step, begins + stretches[begins], -1)
    ordinal = np.cumsum(stretches > 0)
    inside = np.cumsum(step)[:-1] > 0
    shown[inside] = np.where(ordinal[inside] % 2 == 0, np.float32(0.55), np.float32(1))
    return lines.scatter(shown, raster.rows.rows, raster.rows.cols)


def tell_limits(picture: Array, s: PixelSortSettings) -> dict[str, float]:
    """Return the limits that are left free, as they are found in a look of the step's input."""
    found = _found(picture, s)
    return {name: round(float(getattr(found, name)), 3) for name in ("low", "high") if getattr(s, name) is None}


PIXEL_SORT = RasterKind(
    key="pixel-sort",
    label="Pixel sort",
    family="break",
    purpose="Sorts stretches of pixels along a direction.",
    words=("sorting", "glitch", "streak", "threshold", "smear", "rain"),
    settings=PixelSortSettings,
    handles=("sort-way",),
    starts=(
        Start("Sorted rain", {}),
        Start("Swept aside", {"heading": 0.25, "breaks": 0.45}),
        Start("Slanting threads", {"heading": 0.4, "breaks": 0.3, "longest": 0.7, "shortest": 0.02}),
        Start("Rays", {"along": "outwards", "high": 0.97, "order": "falling", "longest": 0.8, "shortest": 0.04}),
        Start("Orbits", {"along": "round", "longest": 1.6, "shortest": 0.05}),
    ),
    respects_keep=True,
    effort=1.5,
    work=pixel_sort,
    show=runs_shown,
    survey=tell_limits,
)
