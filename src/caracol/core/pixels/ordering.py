"""Stretches of pixels along lines, and their stable ordering by a key. Everything here works on pixels laid out line after line."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import cos, hypot, pi, sin, tau
from typing import Literal

import cv2
import numba as nb
import numpy as np

from ..arrays import AnyArray, Array

Key = Literal["light", "hue", "saturation", "red", "green", "blue", "warmth"]
KEYS: tuple[Key, ...] = ("light", "hue", "saturation", "red", "green", "blue", "warmth")
SHORT, MIDDLING = 24, 768
"""Stretches up to these lengths are ordered by insertion and by merging; longer ones digit by digit."""


@nb.njit(nogil=True, cache=True)
def find_keys(pixels, key, out):  # type: ignore[no-untyped-def]
    """Fill `out` with the key of each pixel (n, 4), 0…1, of straight coded values; -1 where it is transparent.

    Parameters
    ----------
    pixels : float32 array (n, 4)
        Premultiplied, coded.
    key : int
        Which key: see `KEYS`.
    out : float32 array (n,)
    """
    one, zero, half = np.float32(1), np.float32(0), np.float32(0.5)
    for i in range(len(pixels)):
        alpha = pixels[i, 3]
        if alpha < np.float32(1 / 512):
            out[i] = np.float32(-1)
            continue
        r, g, b = pixels[i, 0], pixels[i, 1], pixels[i, 2]
        if alpha < one:
            r, g, b = r / alpha, g / alpha, b / alpha
        if key == 0:
            value = np.float32(0.2126) * r + np.float32(0.7152) * g + np.float32(0.0722) * b
        elif key <= 2:
            most, least = max(r, max(g, b)), min(r, min(g, b))
            chroma = most - least
            if key == 2:
                value = chroma / most if most > zero else zero
            else:
                value = zero
                if chroma > zero:
                    if most == r:
                        value = ((g - b) / chroma) / np.float32(6)
                    elif most == g:
                        value = ((b - r) / chroma + np.float32(2)) / np.float32(6)
                    else:
                        value = ((r - g) / chroma + np.float32(4)) / np.float32(6)
                    value = value - np.floor(value)
        elif key == 6:
            value = half + half * (r - b)
        else:
            value = r if key == 3 else (g if key == 4 else b)
        out[i] = min(max(value, zero), one)


@nb.njit(inline="always")
def _hash(seed, a, b):  # type: ignore[no-untyped-def]
    """Return a number 0 … 1 for a seed and a place: SplitMix64's mixing function."""
    state = np.uint64(seed) + np.uint64(a) * np.uint64(0x9E3779B97F4A7C15) + np.uint64(b) * np.uint64(0xD1B54A32D192ED03)
    state = (state ^ (state >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    state = (state ^ (state >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    state = state ^ (state >> np.uint64(31))
    return np.float32(state >> np.uint64(40)) / np.float32(1 << 24)


@nb.njit(nogil=True, cache=True)
def find_stretches(keys, light, kept, line, limits, seed, stretches):  # type: ignore[no-untyped-def]
    """Mark where the stretches of one line begin: `stretches` gets their length at their first pixel, 0 elsewhere.

    `limits` are low, high, shortest, longest and breaks. A stretch is a longest row of pixels with low ≤ key ≤ high; it is cut where the light
    jumps by more than `breaks` (nowhere when `light` is empty), where it grows longer than a limit drawn between `shortest` and `longest`,
    and sooner where more is kept; pieces shorter than `shortest` are left out.
    """
    low, high, shortest, longest, breaks = limits
    begin, count = -1, 0
    limit = longest
    n = len(keys)
    for i in range(n + 1):
        inside = i < n and low <= keys[i] <= high
        if i < n:
            stretches[i] = 0
        if begin >= 0:
            cut = not inside or i - begin >= limit or (len(light) > 0 and abs(light[i] - light[i - 1]) > breaks)
            if not cut and len(kept):
                free = np.float32(1) - max(kept[i - 1], kept[i])
                cut = i - begin >= max(np.float32(1), limit * free * free)
            if cut:
                if i - begin >= max(2, shortest):
                    stretches[begin] = i - begin
                begin = -1
        if inside and begin < 0:
            begin = i
            if shortest < longest < np.float32(1 << 29):
                limit = max(np.float32(1), shortest + (longest - shortest) * _hash(seed, line, count))
            count += 1


@nb.njit(nogil=True, cache=True)
def _merge(keys, order, spare, n, falling):  # type: ignore[no-untyped-def]
    """Order `order[:n]` by keys, stably: blocks by insertion, then merged in pairs."""
    for block in range(0, n, SHORT):
        for i in range(block + 1, min(block + SHORT, n)):
            one = order[i]
            key = keys[one]
            j = i - 1
            while j >= block and ((keys[order[j]] < key) if falling else (keys[order[j]] > key)):
                order[j + 1] = order[j]
                j -= 1
            order[j + 1] = one
    width = SHORT
    while width < n:
        for left in range(0, n, 2 * width):
            middle, right = min(left + width, n), min(left + 2 * width, n)
            i, j = left, middle
            for k in range(left, right):
                if i < middle and j < right:
                    ahead = keys[order[j]] > keys[order[i]] if falling else keys[order[j]] < keys[order[i]]
                else:
                    ahead = i >= middle
                if ahead:
                    spare[k] = order[j]
                    j += 1
                else:
                    spare[k] = order[i]
                    i += 1
        for k in range(n):
            order[k] = spare[k]
        width *= 2


@nb.njit(nogil=True, cache=True)
def _by_digits(bits, order, spare, n, counts):  # type: ignore[no-untyped-def]
    """Order `order[:n]` by the bits of positive floats, stably, eleven bits at a time from the lowest."""
    counts[:] = 0
    for i in range(n):
        value = bits[order[i]]
        counts[0, value & 2047] += 1
        counts[1, (value >> 11) & 2047] += 1
        counts[2, value >> 22] += 1
    for digit in range(3):
        total = 0
        for k in range(2048):
            found = counts[digit, k]
            counts[digit, k] = total
            total += found
    for digit in range(3):
        shift = 11 * digit
        for i in range(n):
            one = order[i]
            k = (bits[one] >> shift) & 2047
            spare[counts[digit, k]] = one
            counts[digit, k] += 1
        for i in range(n):
            order[i] = spare[i]


@nb.njit(nogil=True, cache=True)
def _order_line(pixels, keys, stretches, falling, order, spare, bits, counts, out):  # type: ignore[no-untyped-def]
    """Write one line's pixels with every stretch in order; `keys` must be 0 or more within stretches."""
    place = 0
    while place < len(pixels):
        n = stretches[place]
        if n == 0:
            for k in range(4):
                out[place, k] = pixels[place, k]
            place += 1
            continue
        for i in range(n):
            order[i] = i
        own = keys[place : place + n]
        if n <= MIDDLING:
            _merge(own, order, spare, n, falling)
        else:
            seen = own.view(np.uint32)
            for i in range(n):
                bits[i] = np.uint32(0xFFFFFFFF) ^ seen[i] if falling else seen[i]
            _by_digits(bits, order, spare, n, counts)
        for i in range(n):
            source = place + order[i]
            for k in range(4):
                out[place + i, k] = pixels[source, k]
        place += n


@nb.njit(nogil=True, cache=True)
def sort_lines(pixels, starts, first, last, key, kept, noise, jitter, limits, breaks, seed, falling, out):  # type: ignore[no-untyped-def]
    """Write lines first … last with each stretch in order; `kept` and `noise` are empty where there is none.

    Everything is done line by line in a little room of its own: whole arrays of keys and stretches would cost more than the ordering.
    """
    longest = 0
    for line in range(first, last):
        longest = max(longest, starts[line + 1] - starts[line])
    keys, light = np.empty(longest, np.float32), np.empty(longest if breaks else 0, np.float32)
    stretches, order, spare = np.empty(longest, np.int32), np.empty(longest, np.int32), np.empty(longest, np.int32)
    bits, counts = np.empty(longest, np.uint32), np.zeros((3, 2048), np.int64)
    for line in range(first, last):
        a, b = starts[line], starts[line + 1]
        n = b - a
        find_keys(pixels[a:b], key, keys[:n])
        if breaks:
            find_keys(pixels[a:b], 0, light[:n])
        find_stretches(keys[:n], light[: n if breaks else 0], kept[a : b if len(kept) else a], line, limits, seed, stretches[:n])
        if len(noise):
            for i in range(n):
                keys[i] += np.float32(0.75) + jitter * noise[a + i]
        _order_line(pixels[a:b], keys[:n], stretches[:n], falling, order, spare, bits, counts, out[a:b])


@nb.njit(nogil=True, cache=True)
def mark_lines(pixels, starts, first, last, key, kept, limits, breaks, seed, stretches):  # type: ignore[no-untyped-def]
    """Fill `stretches` with the length of each stretch at its first pixel, for lines first … last."""
    for line in range(first, last):
        a, b = starts[line], starts[line + 1]
        keys, light = np.empty(b - a, np.float32), np.empty(b - a if breaks else 0, np.float32)
        find_keys(pixels[a:b], key, keys)
        if breaks:
            find_keys(pixels[a:b], 0, light)
        find_stretches(keys, light, kept[a : b if len(kept) else a], line, limits, seed, stretches[a:b])


@dataclass(frozen=True)
class Lines:
    """Every pixel of a raster once, line after line.

    Parameters
    ----------
    flat : int64 array or None
        Indices into the raster's pixels in rows order; None where they lie so already.
    starts : int64 array
        Where each line begins, and the end.
    """

    flat: AnyArray | None
    starts: AnyArray
    turned: Literal["rows", "cols", "free"] = "free"
    backwards: bool = False

    @property
    def nbytes(self) -> int:
        return int(self.starts.nbytes + (0 if self.flat is None else self.flat.nbytes))

    def gather(self, raster: Array) -> Array:
        """Return the raster's values line after line, (n,) or (n, channels)."""
        rest = raster.shape[2:]
        if self.flat is not None:
            return np.asarray(raster.reshape(-1, *rest)[self.flat])
        lined = cv2.transpose(raster) if self.turned == "cols" else raster
        if self.backwards:
            lined = lined[:, ::-1]
        return np.ascontiguousarray(lined).reshape(-1, *rest)

    def scatter(self, lined: Array, rows: int, cols: int) -> Array:
        """Return values that lie line after line as a raster again."""
        rest = lined.shape[1:]
        if self.flat is not None:
            out = np.empty_like(lined)
            out[self.flat] = lined
            return out.reshape(rows, cols, *rest)
        across = cols if self.turned == "rows" else rows
        shaped = lined.reshape(-1, across, *rest)
        if self.backwards:
            shaped = np.ascontiguousarray(shaped[:, ::-1])
        return np.asarray(cv2.transpose(shaped) if self.turned == "cols" else shaped)


def straight_lines(rows: int, cols: int, heading: float) -> Lines:
    """Return lines along a heading (turns, clockwise from the top): one pixel for each step along the steeper axis.

    Parameters
    ----------
    rows, cols : int
    heading : float
        Turns, clockwise from the top.

    Returns
    -------
    Lines
        Every pixel lies in one line.
    """
    dx, dy = sin(tau * heading), -cos(tau * heading)
    if abs(dy) < 1e-6:
        return Lines(None, np.arange(rows + 1, dtype=np.int64) * cols, "rows", dx < 0)
    if abs(dx) < 1e-6:
        return Lines(None, np.arange(cols + 1, dtype=np.int64) * rows, "cols", dy < 0)
    row, col = np.mgrid[0:rows, 0:cols]
    steep = abs(dy) >= abs(dx)
    major, minor = (row, col) if steep else (col, row)
    slope = dx / dy if steep else dy / dx
    line = minor - np.rint(major * slope).astype(np.int64)
    along = major if (dy if steep else dx) > 0 else -major
    return _grouped(line, along)


def polar_lines(rows: int, cols: int, col: float, row: float, way: Literal["round", "outwards"]) -> Lines:
    """Return lines round a centre (pixels) clockwise from the top, or from it outwards, one pixel wide at the far corner.

    Parameters
    ----------
    rows, cols : int
    col, row : float
        The centre, in pixels from the left and the top.
    way : "round" or "outwards"

    Returns
    -------
    Lines
    """
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float64)
    x, y = x + 0.5 - col, y + 0.5 - row
    rad = np.hypot(x, y)
    ang = (np.arctan2(x, -y) / tau) % 1
    if way == "round":
        return _grouped(np.floor(rad).astype(np.int64), ang)
    farthest = max(hypot(a - col, b - row) for a in (0, cols) for b in (0, rows))
    count = max(8, round(2 * pi * farthest))
    return _grouped(np.floor(ang * count).astype(np.int64), rad)


def going_round(lines: Lines, pixels: Array, key: int, low: float, high: float, falling: bool) -> Lines:
    """Return closed lines begun where none of their stretches is cut: at a pixel that lies in no stretch, the first clockwise from the top.

    A line whose pixels all lie in one stretch begins with the pixel that comes first in order, which leaves its cut where it would be least
    out of place.

    Parameters
    ----------
    pixels : float32 array (n, 4)
        Line after line.
    """
    if lines.flat is None:
        return lines
    found = np.empty(len(pixels), np.float32)
    find_keys(pixels, key, found)
    free = (found < np.float32(low)) | (found > np.float32(high))
    flat = lines.flat.copy()
    for a, b in pairwise(lines.starts):
        own = free[a:b]
        begin = int(own.argmax()) if own.any() else int(found[a:b].argmax() if falling else found[a:b].argmin())
        flat[a:b] = np.roll(lines.flat[a:b], -begin)
    return Lines(flat, lines.starts)


def _grouped(line: AnyArray, along: AnyArray) -> Lines:
    flat = np.lexsort((along.ravel(), line.ravel()))
    sizes = np.bincount(line.ravel() - line.min())
    return Lines(flat, np.concatenate([[0], np.cumsum(sizes[sizes > 0])]).astype(np.int64))
