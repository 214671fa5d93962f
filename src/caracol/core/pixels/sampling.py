"""The sampler: reads a pyramid at the points a coordinate rule gives, each over its own footprint.

See `docs/coordinates.md` for the method. Everything here is serial and lets go of the interpreter lock, so that strips can
run in one shared thread pool.
"""

from __future__ import annotations

from collections.abc import Callable

import numba as nb
import numpy as np

from ..arrays import AnyArray, Array
from .drafts import Coded, sample_draft
from .light import TO_CODED
from .pyramid import Pyramid
from .vectors import add_four_texels, add_square_of_four, add_square_of_two, add_texel

OUTSIDE = np.float32(1e9)
"""Stands in both coordinates of a point that is transparent."""

Rule = Callable[[Array, Array], tuple[Array, Array]]
"""Output coordinates to source coordinates in units, `OUTSIDE` where transparent; any shape."""


BLOCK = 64


TAPS = 12
"""Most bilinear reads per point; a coarser level is used where more would be needed."""
SPLIT = 8
"""Into how many parts a side a rough point is cut, at most."""


@nb.njit(inline="always")
def _fold(i, n, wrap):  # type: ignore[no-untyped-def]
    """Bring a texel index into 0 … n - 1, round the back or by mirrors."""
    if i < 0 or i >= n:
        if wrap:
            return i % n
        i = i % (2 * n)
        if i >= n:
            i = 2 * n - 1 - i
    return i


@nb.njit(nogil=True, fastmath=True, cache=True)
def _footprints(sx, sy, kx, ky, period_x, period_y, r, first, count, longest, spans, rough):  # type: ignore[no-untyped-def]
    """Find the two vectors (in texels) that span each point's footprint, their lengths, and whether the point is rough.

    Of the forward and the backward difference the shorter is taken; where the source goes on round the back (a period in texels, else a
    huge number), a step by a whole period is none. Written without branches, so that it runs on vectors.
    """
    low, part = np.float32(0.5), np.float32(0.25)
    # Slices, so that the compiler knows no index to be negative.
    x0, x1, x2 = sx[r, first + 1 :], sx[r + 1, first:], sx[r + 2, first + 1 :]
    y0, y1, y2 = sy[r, first + 1 :], sy[r + 1, first:], sy[r + 2, first + 1 :]
    found = rough[r, first:]
    for k in range(count):
        px, py = x1[k + 1], y1[k + 1]
        fax, fay = (x1[k + 2] - px) * kx, (y1[k + 2] - py) * ky
        bax, bay = (px - x1[k]) * kx, (py - y1[k]) * ky
        fbx, fby = (x2[k] - px) * kx, (y2[k] - py) * ky
        bbx, bby = (px - x0[k]) * kx, (py - y0[k]) * ky
        fax, bax = fax - period_x * np.rint(fax / period_x), bax - period_x * np.rint(bax / period_x)
        fay, bay = fay - period_y * np.rint(fay / period_y), bay - period_y * np.rint(bay / period_y)
        fbx, bbx = fbx - period_x * np.rint(fbx / period_x), bbx - period_x * np.rint(bbx / period_x)
        fby, bby = fby - period_y * np.rint(fby / period_y), bby - period_y * np.rint(bby / period_y)
        fa, ba = fax * fax + fay * fay, bax * bax + bay * bay
        fb, bb = fbx * fbx + fby * fby, bbx * bbx + bby * bby
        ja = (fax - bax) * (fax - bax) + (fay - bay) * (fay - bay)
        jb = (fbx - bbx) * (fbx - bbx) + (fby - bby) * (fby - bby)
        la, lb = min(fa, ba), min(fb, bb)
        found[k] = (ja > low + part * la) | (jb > low + part * lb)
        la, lb = np.sqrt(la), np.sqrt(lb)
        # A footprint as large as the whole source says no more than that.
        ka, kb = min(np.float32(1), longest / max(la, low)), min(np.float32(1), longest / max(lb, low))
        spans[0, k] = (fax if fa < ba else bax) * ka
        spans[1, k] = (fay if fa < ba else bay) * ka
        spans[2, k] = (fbx if fb < bb else bbx) * kb
        spans[3, k] = (fby if fb < bb else bby) * kb
        spans[4, k] = la * ka
        spans[5, k] = lb * kb


@nb.njit(inline="always")
def _catmull_rom(t):  # type: ignore[no-untyped-def]
    """Return the weights of four neighbours for a point `t` beyond the second of them."""
    half, one, two, more, most = np.float32(0.5), np.float32(1), np.float32(2), np.float32(1.5), np.float32(2.5)
    return (
        ((one - half * t) * t - half) * t,
        (more * t - most) * t * t + one,
        ((two - more * t) * t + half) * t,
        (half * t - half) * t * t,
    )


@nb.njit(nogil=True, fastmath=True, cache=True)
def _sample(block, starts, heights, widths, wrap_x, wrap_y, sx, sy, kx, ky, taps, out, rough):  # type: ignore[no-untyped-def]
    """Read one strip. `sx`, `sy` carry a halo of one point; `kx`, `ky` are texels per unit; fills `out` (linear, 0…65535)."""
    rows, cols, _ = out.shape
    w0, h0 = widths[0], heights[0]
    half, one, zero = np.float32(0.5), np.float32(1), np.float32(0)
    width, height = np.float32(w0), np.float32(h0)
    cx, cy = width * half - half, height * half - half
    last = len(starts) - 1
    spans = np.empty((6, BLOCK), np.float32)
    period_x = width if wrap_x else np.float32(1e15)
    period_y = height if wrap_y else np.float32(1e15)
    # Blocks of columns: where the source is walked downwards, every read is on another memory page.
    for cell in range(rows * ((cols + BLOCK - 1) // BLOCK)):
        r = cell % rows
        first = (cell // rows) * BLOCK
        _footprints(sx, sy, kx, ky, period_x, period_y, r, first, min(BLOCK, cols - first), width + height, spans, rough)
        for k in range(min(BLOCK, cols - first)):
            c = first + k
            px, py = sx[r + 1, c + 1], sy[r + 1, c + 1]
            ax, ay, bx, by, la, lb = spans[0, k], spans[1, k], spans[2, k], spans[3, k], spans[4, k], spans[5, k]
            total = (zero, zero, zero, zero)
            if px < np.float32(1e8):
                x, y = px * kx + cx, py * ky + cy
                size = max(la, lb)
                sharp = zero
                if size < np.float32(1.4):
                    sharp = min(one, (np.float32(1.4) - size) * np.float32(2.5))
                    x0, y0 = np.floor(x), np.floor(y)
                    tx, ty = np.float32(x - x0), np.float32(y - y0)
                    ix, iy = int(x0), int(y0)
                    cubic_x, cubic_y = _catmull_rom(tx), _catmull_rom(ty)
                    if 1 <= ix < w0 - 2 and 1 <= iy < h0 - 2:
                        at = np.uintp(starts[0] + ((iy - 1) * w0 + ix - 1) * 4)
                        line = np.uintp(w0 * 4)
                        total = add_square_of_four(block, at, at + line, at + 2 * line, at + 3 * line, cubic_x, cubic_y, sharp, total)
                    else:
                        for j in range(4):
                            row = starts[0] + _fold(iy + j - 1, h0, wrap_y) * w0 * 4
                            for i in range(4):
                                at = np.uintp(row + _fold(ix + i - 1, w0, wrap_x) * 4)
                                total = add_texel(block, at, cubic_x[i] * cubic_y[j] * sharp, total)
                if sharp < one:
                    scale = one
                    level = 0
                    na = max(1, int(la + np.float32(0.8)))
                    nb_ = max(1, int(lb + np.float32(0.8)))
                    while na * nb_ > taps and level < last:
                        level += 1
                        scale *= half
                        na = max(1, int(la * scale + np.float32(0.8)))
                        nb_ = max(1, int(lb * scale + np.float32(0.8)))
                    na, nb_ = min(na, taps), min(nb_, taps)
                    w, h, start = widths[level], heights[level], starts[level]
                    gx, gy = np.float32(w) / width, np.float32(h) / height
                    fa, fb = np.float32(na), np.float32(nb_)
                    lx, ly = (x + half) * gx - half, (y + half) * gy - half
                    dax, day = ax * gx / fa, ay * gy / fa
                    dbx, dby = bx * gx / fb, by * gy / fb
                    lx -= half * (dax * (fa - one) + dbx * (fb - one))
                    ly -= half * (day * (fa - one) + dby * (fb - one))
                    weight = (one - sharp) / (fa * fb)
                    # From the first tap to the last, either way: where all lie inside, none need be looked at.
                    far_x, far_y = dax * (fa - one), day * (fa - one)
                    off_x, off_y = dbx * (fb - one), dby * (fb - one)
                    low_x, high_x = lx + min(far_x, zero) + min(off_x, zero), lx + max(far_x, zero) + max(off_x, zero)
                    low_y, high_y = ly + min(far_y, zero) + min(off_y, zero), ly + max(far_y, zero) + max(off_y, zero)
                    if low_x >= zero and low_y >= zero and high_x < np.float32(w - 1) and high_y < np.float32(h - 1):
                        line, begin = np.uintp(w * 4), np.uintp(start)
                        for j in range(nb_):
                            fj = np.float32(j)
                            tx, ty = lx + fj * dbx, ly + fj * dby
                            for _ in range(na):
                                ix, iy = int(tx), int(ty)
                                at = begin + np.uintp(iy) * line + np.uintp(ix * 4)
                                total = add_square_of_two(block, at, at + line, tx - np.float32(ix), ty - np.float32(iy), weight, total)
                                tx, ty = tx + dax, ty + day
                    else:
                        for j in range(nb_):
                            for i in range(na):
                                fi, fj = np.float32(i), np.float32(j)
                                tx, ty = lx + fi * dax + fj * dbx, ly + fi * day + fj * dby
                                x0, y0 = np.floor(tx), np.floor(ty)
                                tx, ty = np.float32(tx - x0), np.float32(ty - y0)
                                ix, iy = int(x0), int(y0)
                                top, low = start + _fold(iy, h, wrap_y) * w * 4, start + _fold(iy + 1, h, wrap_y) * w * 4
                                left, right = _fold(ix, w, wrap_x) * 4, _fold(ix + 1, w, wrap_x) * 4
                                p, q, s, t = np.uintp(top + left), np.uintp(top + right), np.uintp(low + left), np.uintp(low + right)
                                w11 = tx * ty * weight
                                w01, w10 = tx * weight - w11, ty * weight - w11
                                total = add_four_texels(block, p, q, s, t, weight - w01 - w10 - w11, w01, w10, w11, total)
            out[r, c, 0] = total[0]
            out[r, c, 1] = total[1]
            out[r, c, 2] = total[2]
            out[r, c, 3] = total[3]


@nb.njit(nogil=True, fastmath=True, cache=True)
def _code(linear, table, out):  # type: ignore[no-untyped-def]
    """Code a linear strip (0…65535, premultiplied) as sRGB values 0…1, premultiplied."""
    rows, cols, _ = linear.shape
    for r in range(rows):
        for c in range(cols):
            alpha = min(max(linear[r, c, 3], np.float32(0)), np.float32(65535))
            if alpha >= np.float32(65534.5):
                for k in range(3):
                    out[r, c, k] = table[int(min(max(linear[r, c, k], np.float32(0)), np.float32(65535)) + np.float32(0.5))]
                out[r, c, 3] = 1
            else:
                share = alpha / np.float32(65535)
                for k in range(3):
                    out[r, c, k] = 0
                    if alpha > 0:
                        value = min(max(linear[r, c, k] / share, np.float32(0)), np.float32(65535))
                        out[r, c, k] = table[int(value + np.float32(0.5))] * share
                out[r, c, 3] = share


def _texels_per_unit(source: Pyramid) -> tuple[np.float32, np.float32]:
    return np.float32(source.cols / 2 / source.frame.half_w), np.float32(source.rows / 2 / source.frame.half_h)


def _read(source: Pyramid, wrap: tuple[bool, bool], sx: Array, sy: Array) -> tuple[Array, AnyArray]:
    rows, cols = sx.shape[0] - 2, sx.shape[1] - 2
    linear = np.empty((rows, cols, 4), np.float32)
    rough = np.empty((rows, cols), np.bool_)
    kx, ky = _texels_per_unit(source)
    _sample(
        source.block, source.starts, source.heights, source.widths, wrap[0], wrap[1],
        sx, sy, kx, ky, TAPS, linear, rough,
    )  # fmt: skip
    return linear, rough


def _mend_rough(source: Pyramid, wrap: tuple[bool, bool], rule: Rule, x: Array, y: Array, linear: Array, rough: AnyArray) -> None:
    """Read rough points again, each cut into parts: their own differences cannot be trusted."""
    at = np.flatnonzero(rough)
    if not len(at):
        return
    share = len(at) / rough.size
    split = SPLIT if share < 0.02 else 4 if share < 0.1 else 2
    row, col = np.divmod(at, rough.shape[1])
    step_x, step_y = (x[1, 2] - x[1, 1]) / split, (y[2, 1] - y[1, 1]) / split
    parts = np.arange(-1, split + 1, dtype=np.float32) - (split - 1) / 2
    for first in range(0, len(at), 4096):
        some = slice(first, first + 4096)
        # Patches stand below each other in one tall strip; each keeps its own halo, whose readings are thrown away.
        px = np.broadcast_to(
            (x[row[some] + 1, col[some] + 1][:, None] + parts * step_x)[:, None, :], (len(row[some]), split + 2, split + 2)
        )
        py = np.broadcast_to((y[row[some] + 1, col[some] + 1][:, None] + parts * step_y)[:, :, None], px.shape)
        tall = (-1, split + 2)
        sx, sy = rule(px.astype(np.float32).reshape(tall), py.astype(np.float32).reshape(tall))
        fine, torn = _read(source, wrap, sx, sy)
        fine = _patches(fine, split).reshape(-1, split * split, 4).mean(axis=1)
        keep = _patches(torn, split)[:, 1 : split - 1, 1 : split - 1].any(axis=(1, 2)) | _is_shrunk(source, sx, sy, split)
        linear[row[some][keep], col[some][keep]] = fine[keep]


def _patches(tall: AnyArray, split: int) -> AnyArray:
    """Cut a tall strip of patches (its first and last row gone) into (patches, split, split, …), without the halos between them."""
    rest = np.zeros((2, *tall.shape[1:]), tall.dtype)
    return np.concatenate([tall, rest]).reshape(-1, split + 2, split, *tall.shape[2:])[:, :split]


def _is_shrunk(source: Pyramid, sx: Array, sy: Array, split: int) -> AnyArray:
    """Return which patches read more than about a texel. Where not, a plain reading is sharper than an average of readings."""
    px, py = sx.reshape(-1, split + 2, split + 2), sy.reshape(-1, split + 2, split + 2)
    scale = np.float32(source.cols / 2 / source.frame.half_w)
    spans = [
        np.hypot(px[:, split, 1] - px[:, 1, 1], py[:, split, 1] - py[:, 1, 1]),
        np.hypot(px[:, 1, split] - px[:, 1, 1], py[:, 1, split] - py[:, 1, 1]),
    ]
    return np.asarray(np.maximum(*spans) * scale * split / (split - 1) > 1.4)


def sample_strip(source: Pyramid | Coded, wrap: tuple[bool, bool], rule: Rule, x: Array, y: Array, out: Array) -> None:
    """Fill `out` with the colours that `rule` points to.

    Parameters
    ----------
    source : Pyramid, or Coded for a draft
    wrap : (bool, bool)
        Whether the source goes on round the back across, and down.
    rule : callable
        From output units to source units.
    x, y : float32 arrays of shape (rows + 2, cols + 2)
        An even grid of output points in units with a halo of one.
    out : float32 array of shape (rows, cols, 4)
        Receives sRGB-coded premultiplied colours.
    """
    if isinstance(source, Coded):
        sample_draft(source, wrap, rule, x, y, out)
        return
    sx, sy = rule(x, y)
    linear, rough = _read(source, wrap, sx, sy)
    _mend_rough(source, wrap, rule, x, y, linear, rough)
    _code(linear, TO_CODED, out)
