"""Steps whose every pixel depends on that pixel alone, as operations that any number of are done in one pass (docs/tone.md).

A picture is read once and written once, however many operations there are: a block of a row is made straight (colours no longer multiplied
by alpha), led through all of them in the processor's nearest cache, kept within 0…1, and multiplied by its alpha again.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from enum import IntEnum

import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.rows import Rows
from .blending import LUMA
from .noise import lattice
from .tables import SIZE

BLOCK = 1024
"""Pixels led through all operations at a time: three planes of them stay in the nearest cache."""
ROOM = 20
"""How many numbers an operation has at most."""
_RED, _GREEN, _BLUE = (np.float32(part) for part in LUMA)
_ZERO, _HALF, _ONE, _TWO, _THREE, _SIX = (np.float32(n) for n in (0, 0.5, 1, 2, 3, 6))
_LAST = np.float32(SIZE - 1) * np.float32(1 - 1e-6)
"""The last place in a table, a hair short of it, so that there is always a next entry."""
_RAMP: Array = np.arange(BLOCK, dtype=np.float32)
_SKIN, _SKIN_REACH = np.float32(0.065), np.float32(0.075)
"""Hue of skin, in turns, and how far from it colours still count as skin."""


class Code(IntEnum):
    """What an operation does; its numbers follow in this order."""

    TABLE = 0
    """Each channel through a table of its own."""
    LIGHT_TABLE = 1
    """The light through a table, colours carried along."""
    MATRIX = 2
    """Nine factors, row by row: new red, green, blue of the old ones; what leaves 0…1 is drawn to the grey of its light."""
    VIVID = 3
    """Amount: colours away from grey, strong ones and skin less."""
    GREY = 4
    """Share, then what red, yellow, green, cyan, blue and magenta add to the light."""
    MAP = 5
    """The light through a table of colours: 1 where a fourth row says how much of the pixel's own colour stays; dither, seed."""
    THRESHOLD = 6
    """Level, half the width of the passage, dark colour, light colour."""
    POSTERISE = 7
    """Steps less one; 1 where only the light is stepped; the values of the first and the last step."""
    LIGHT = 8
    """1 for a side else round, place, cosine and sine of the turn, reaches across and along, softness, gains inside, gains outside."""
    FOG = 9
    """Colour, share; with a field of densities over the whole frame."""


@dataclass(frozen=True)
class Op:
    """One operation.

    Parameters
    ----------
    code : Code
    numbers : tuple of float
        What the code says, `ROOM` of them at most.
    table : float32 array (3 or 4, SIZE), optional
        New values for even old ones.
    field : float32 array (rows, cols), optional
        Values over the whole frame, read between their pixels.
    """

    code: Code
    numbers: tuple[float, ...] = ()
    table: Array | None = field(default=None, compare=False)
    field: Array | None = field(default=None, compare=False)


@nb.njit(inline="always")
def _within(r, g, b, light):  # type: ignore[no-untyped-def]
    """Return a colour drawn to the grey of its light until it lies within 0…1."""
    low, high = min(r, min(g, b)), max(r, max(g, b))
    share = _ONE
    if low < _ZERO:
        share = light / max(light - low, np.float32(1e-9))
    if high > _ONE:
        share = min(share, (_ONE - light) / max(high - light, np.float32(1e-9)))
    return light + (r - light) * share, light + (g - light) * share, light + (b - light) * share


@nb.njit(inline="always")
def _light_of(r, g, b):  # type: ignore[no-untyped-def]
    return _RED * r + _GREEN * g + _BLUE * b


@nb.njit(inline="always")
def _unit(value):  # type: ignore[no-untyped-def]
    return min(max(value, _ZERO), _ONE)


@nb.njit(inline="always")
def _smooth(t):  # type: ignore[no-untyped-def]
    t = _unit(t)
    return t * t * (_THREE - _TWO * t)


@nb.njit(inline="always")
def _place(value):  # type: ignore[no-untyped-def]
    """Return between which entries of a table a value lies: the lower one, and how far beyond it."""
    place = _unit(value) * _LAST
    # Told to be no negative number, it needs no look at whether it counts from the end.
    lower = np.uint32(place)
    return lower, place - np.float32(lower)


@nb.njit(inline="always")
def _read(row, value):  # type: ignore[no-untyped-def]
    i, part = _place(value)
    low = row[i]
    return low + (row[i + np.uint32(1)] - low) * part


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _plane(plane, row):  # type: ignore[no-untyped-def]
    for i in range(plane.size):
        plane[i] = _read(row, plane[i])


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _table(r, g, b, table):  # type: ignore[no-untyped-def]
    _plane(r, table[0])
    _plane(g, table[1])
    _plane(b, table[2])


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _light_table(r, g, b, table, by):  # type: ignore[no-untyped-def]
    row = table[0]
    # What reads a table goes pixel by pixel; the rest, in a loop of its own, eight at a time.
    for i in range(r.size):
        by[i] = _read(row, _light_of(r[i], g[i], b[i]))
    for i in range(r.size):
        new = _unit(by[i])
        more = new - _light_of(r[i], g[i], b[i])
        r[i], g[i], b[i] = _within(r[i] + more, g[i] + more, b[i] + more, new)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _matrix(r, g, b, n):  # type: ignore[no-untyped-def]
    # Numbers are taken out of their array first, here and below: as far as the compiler knows, what is written might change them.
    n0, n1, n2, n3, n4, n5, n6, n7, n8 = n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7], n[8]
    for i in range(r.size):
        x, y, z = r[i], g[i], b[i]
        p, q, s = n0 * x + n1 * y + n2 * z, n3 * x + n4 * y + n5 * z, n6 * x + n7 * y + n8 * z
        r[i], g[i], b[i] = _within(p, q, s, _unit(_light_of(p, q, s)))


@nb.njit(inline="always")
def _hue_of(r, g, b, low, high):  # type: ignore[no-untyped-def]
    """Return the hue in turns, 0…1; the colour is no grey."""
    wide = high - low
    if high == r:
        hue = (g - b) / wide
    elif high == g:
        hue = _TWO + (b - r) / wide
    else:
        hue = np.float32(4) + (r - g) / wide
    hue = hue / _SIX
    return hue - np.floor(hue)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _vivid(r, g, b, amount):  # type: ignore[no-untyped-def]
    for i in range(r.size):
        low, high = min(r[i], min(g[i], b[i])), max(r[i], max(g[i], b[i]))
        wide = high - low
        if wide < np.float32(1e-6):
            continue
        away = abs(_hue_of(r[i], g[i], b[i], low, high) - _SKIN)
        away = min(away, _ONE - away)
        spared = _ONE - np.float32(0.75) * max(_ZERO, _ONE - away / _SKIN_REACH)
        weak = _ONE - wide
        if amount < _ZERO:
            weak = np.float32(0.35) + np.float32(0.65) * weak
        factor = _ONE + amount * weak * spared * (_TWO if amount > _ZERO else _ONE)
        light = _light_of(r[i], g[i], b[i])
        r[i], g[i], b[i] = _within(
            light + (r[i] - light) * factor, light + (g[i] - light) * factor, light + (b[i] - light) * factor, _unit(light)
        )


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _grey(r, g, b, n):  # type: ignore[no-untyped-def]
    share, red, yellow, green, cyan, blue, magenta = n[0], n[1], n[2], n[3], n[4], n[5], n[6]
    for i in range(r.size):
        x, y, z = r[i], g[i], b[i]
        low, high = min(x, min(y, z)), max(x, max(y, z))
        mid = x + y + z - low - high
        # A colour is so much grey, so much of a pure hue, and so much of the mixed hue beside it.
        if high == x:
            pure, mixed = red, (yellow if y >= z else magenta)
        elif high == y:
            pure, mixed = green, (yellow if x >= z else cyan)
        else:
            pure, mixed = blue, (cyan if y >= x else magenta)
        grey = _unit(_light_of(x, y, z) + pure * (high - mid) + mixed * (mid - low))
        r[i], g[i], b[i] = x + share * (grey - x), y + share * (grey - y), z + share * (grey - z)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _map(r, g, b, table, keeps, dither, seed, row, left):  # type: ignore[no-untyped-def]
    red, green, blue, kept = table[0], table[1], table[2], table[3]
    for i in range(r.size):
        light = _light_of(r[i], g[i], b[i])
        if dither > _ZERO:
            light += dither * (lattice(left + i, row, seed) + lattice(left + i, row, seed + 7919) - _ONE)
        k, part = _place(light)
        after = k + np.uint32(1)
        x = red[k] + (red[after] - red[k]) * part
        y = green[k] + (green[after] - green[k]) * part
        z = blue[k] + (blue[after] - blue[k]) * part
        if keeps:
            keep = kept[k] + (kept[after] - kept[k]) * part
            x, y, z = x + keep * r[i], y + keep * g[i], z + keep * b[i]
        r[i], g[i], b[i] = x, y, z


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _threshold(r, g, b, n):  # type: ignore[no-untyped-def]
    level, soft, dark_r, dark_g, dark_b = n[0], n[1], n[2], n[3], n[4]
    by_r, by_g, by_b = n[5] - dark_r, n[6] - dark_g, n[7] - dark_b
    for i in range(r.size):
        light = _light_of(r[i], g[i], b[i])
        # Seven places are as many as such numbers have: a light that is the level to that counts as reaching it.
        t = (_ONE if light >= level - np.float32(1e-6) else _ZERO) if soft <= _ZERO else _smooth((light - level) / (_TWO * soft) + _HALF)
        r[i], g[i], b[i] = dark_r + t * by_r, dark_g + t * by_g, dark_b + t * by_b


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _posterise(r, g, b, n):  # type: ignore[no-untyped-def]
    steps, by_light, dark, span = n[0], n[1] > _HALF, n[2], n[3] - n[2]
    for i in range(r.size):
        if by_light:
            light = _light_of(r[i], g[i], b[i])
            new = dark + span * np.floor(_unit((light - dark) / span) * steps + _HALF) / steps
            r[i], g[i], b[i] = _within(r[i] + new - light, g[i] + new - light, b[i] + new - light, new)
        else:
            r[i] = dark + span * np.floor(_unit((r[i] - dark) / span) * steps + _HALF) / steps
            g[i] = dark + span * np.floor(_unit((g[i] - dark) / span) * steps + _HALF) / steps
            b[i] = dark + span * np.floor(_unit((b[i] - dark) / span) * steps + _HALF) / steps


@nb.njit(inline="always")
def _lit(value, gain):  # type: ignore[no-untyped-def]
    """Return a value in more or less light; more of it never goes beyond white."""
    return value * gain / (_ONE + max(gain - _ONE, _ZERO) * value)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _light(r, g, b, n, x0, y, step, ramp):  # type: ignore[no-untyped-def]
    flat, c, s = n[0] > _HALF, n[3], n[4]
    wide, long, soft = _ONE / n[5], _ONE / n[6], _HALF / n[7]
    dx, dy = x0 - n[1], y - n[2]
    along, across = (dx * s - dy * c) * long, (dx * c + dy * s) * wide
    by_along, by_across = step * s * long, step * c * wide
    start = (_ONE + n[7]) * soft
    shade_r, shade_g, shade_b = n[11], n[12], n[13]
    by_r, by_g, by_b = n[8] - shade_r, n[9] - shade_g, n[10] - shade_b
    for i in range(r.size):
        a, q = along + ramp[i] * by_along, across + ramp[i] * by_across
        inside = _smooth(a * _HALF + _HALF if flat else start - np.sqrt(a * a + q * q) * soft)
        r[i] = _lit(r[i], shade_r + inside * by_r)
        g[i] = _lit(g[i], shade_g + inside * by_g)
        b[i] = _lit(b[i], shade_b + inside * by_b)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _fog(r, g, b, n, density, v, u0, step, ramp, line, share):  # type: ignore[no-untyped-def]
    rows, cols = density.shape
    down = min(max(v * np.float32(rows) - _HALF, _ZERO), np.float32(rows - 1))
    top = min(np.int32(down), np.int32(rows - 2))
    ty = down - np.float32(top)
    upper, lower = density[top], density[top + 1]
    red, green, blue, most = n[0], n[1], n[2], n[3]
    place, by, last = u0 * np.float32(cols) - _HALF, step * np.float32(cols), np.float32(cols - 1) * np.float32(1 - 1e-6)
    for k in range(cols):
        line[k] = most * (upper[k] + (lower[k] - upper[k]) * ty)
    for i in range(r.size):
        at = min(max(place + ramp[i] * by, _ZERO), last)
        low = np.uint32(at)
        share[i] = line[low] + (line[low + np.uint32(1)] - line[low]) * (at - np.float32(low))
    for i in range(r.size):
        r[i] += share[i] * (red - r[i])
        g[i] += share[i] * (green - g[i])
        b[i] += share[i] * (blue - b[i])


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _block(r, g, b, codes, numbers, slots, tables, fields, row, left, x0, y, step, v, u0, across, ramp, line, share):  # type: ignore[no-untyped-def]
    for k in range(codes.size):
        code, n = codes[k], numbers[k]
        if code == 0:
            _table(r, g, b, tables[slots[k]])
        elif code == 1:
            _light_table(r, g, b, tables[slots[k]], share)
        elif code == 2:
            _matrix(r, g, b, n)
        elif code == 3:
            _vivid(r, g, b, n[0])
        elif code == 4:
            _grey(r, g, b, n)
        elif code == 5:
            _map(r, g, b, tables[slots[k]], n[0] > _HALF, n[1], np.int64(n[2]), row, left)
        elif code == 6:
            _threshold(r, g, b, n)
        elif code == 7:
            _posterise(r, g, b, n)
        elif code == 8:
            _light(r, g, b, n, x0, y, step, ramp)
        else:
            _fog(r, g, b, n, fields[slots[k]], v, u0, across, ramp, line, share)


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _pass(picture, out, codes, numbers, slots, tables, fields, top, rows, half_w, half_h, ramp):  # type: ignore[no-untyped-def]
    count, cols, _ = picture.shape
    r, g, b, a = np.empty(BLOCK, np.float32), np.empty(BLOCK, np.float32), np.empty(BLOCK, np.float32), np.empty(BLOCK, np.float32)
    line, share = np.empty(fields.shape[2], np.float32), np.empty(BLOCK, np.float32)
    step, across = _TWO * half_w / np.float32(cols), _ONE / np.float32(cols)
    for row in range(count):
        v = (np.float32(top + row) + _HALF) / np.float32(rows)
        y = (v * _TWO - _ONE) * half_h
        for left in range(0, cols, BLOCK):
            n = min(BLOCK, cols - left)
            for i in range(n):
                alpha = picture[row, left + i, 3]
                straight = _ONE / max(alpha, np.float32(1e-6))
                a[i] = alpha
                r[i] = min(picture[row, left + i, 0] * straight, _ONE)
                g[i] = min(picture[row, left + i, 1] * straight, _ONE)
                b[i] = min(picture[row, left + i, 2] * straight, _ONE)
            u0 = (np.float32(left) + _HALF) * across
            x0 = (u0 * _TWO - _ONE) * half_w
            _block(
                r[:n], g[:n], b[:n], codes, numbers, slots, tables, fields, top + row, left, x0, y, step, v, u0, across, ramp, line, share
            )
            for i in range(n):
                alpha = a[i]
                out[row, left + i, 0] = _unit(r[i]) * alpha
                out[row, left + i, 1] = _unit(g[i]) * alpha
                out[row, left + i, 2] = _unit(b[i]) * alpha
                out[row, left + i, 3] = alpha


def _joined(ops: Iterable[Op]) -> list[Op]:
    """Return the operations with tables that follow each other made one."""
    found: list[Op] = []
    for op in ops:
        last = found[-1] if found else None
        if last is not None and last.table is not None and op.table is not None and op.code == last.code == Code.TABLE:
            even = np.linspace(0, 1, SIZE, dtype=np.float32)
            table = np.stack([np.interp(np.clip(last.table[k], 0, 1), even, op.table[k]) for k in range(3)]).astype(np.float32)
            found[-1] = Op(Code.TABLE, table=table)
        else:
            found.append(op)
    return found


class Pass:
    """Operations in order, ready for any strip of a picture."""

    def __init__(self, ops: Iterable[Op]) -> None:
        joined = _joined(ops)
        tables = [op.table for op in joined if op.table is not None]
        fields = [op.field for op in joined if op.field is not None]
        self._codes = np.array([op.code for op in joined], np.int32)
        self._numbers = np.zeros((len(joined), ROOM), np.float32)
        self._slots = np.zeros(len(joined), np.int32)
        table = place = 0
        for k, op in enumerate(joined):
            self._numbers[k, : len(op.numbers)] = op.numbers
            self._slots[k] = place if op.field is not None else table
            table += op.table is not None
            place += op.field is not None
        self._tables = np.zeros((len(tables), 4, SIZE), np.float32)
        for slot, rows in zip(self._tables, tables, strict=True):
            slot[: len(rows)] = rows
        self._fields = np.stack(fields) if fields else np.zeros((0, 2, 2), np.float32)

    def __call__(self, strip: Array, rows: Rows, out: Array | None = None) -> Array:
        """Return a strip led through all operations.

        Parameters
        ----------
        strip : float32 array (rows, cols, 4)
            Coded 0…1, premultiplied; not written into.
        rows : Rows
            Where it lies.
        out : float32 array (rows, cols, 4), optional
            Written into and returned, where it is given.
        """
        if out is None:
            out = np.empty(strip.shape, np.float32)
        _pass(
            np.ascontiguousarray(strip, np.float32), out, self._codes, self._numbers, self._slots, self._tables, self._fields, rows.top,
            rows.rows, np.float32(rows.frame.half_w), np.float32(rows.frame.half_h), _RAMP,
        )  # fmt: skip
        return out
