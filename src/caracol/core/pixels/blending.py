"""Blend modes, and how a step's or layer's result is laid over what was there.

References
----------
W3C, Compositing and Blending Level 1: sections 9 (modes B(cb, cs), separable and not) and 5.1 (source over). `add`, `subtract` and
`divide` are the clipped sum, difference and quotient of the coded values; `darker-pixel` and `lighter-pixel` take the whole pixel of
lower or higher luma.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, get_args

import numba as nb
import numpy as np

from ..arrays import Array

Blend = Literal[
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light", "soft-light", "difference",
    "exclusion", "hue", "saturation", "color", "luminosity", "add", "subtract", "divide", "darker-pixel", "lighter-pixel",
]  # fmt: skip
Channel = Literal["r", "g", "b", "light", "colour"]

LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)


def _hard_light(b: Array, s: Array) -> Array:
    return np.where(s <= 0.5, b * 2 * s, b + (2 * s - 1) - b * (2 * s - 1))


def _soft_light(b: Array, s: Array) -> Array:
    d = np.where(b <= 0.25, ((16 * b - 12) * b + 4) * b, np.sqrt(np.maximum(b, 0)))
    return np.where(s <= 0.5, b - (1 - 2 * s) * b * (1 - b), b + (2 * s - 1) * (d - b))


def _dodge(b: Array, s: Array) -> Array:
    return np.where(b <= 0, 0, np.where(s >= 1, 1, np.minimum(1, b / np.maximum(1 - s, 1e-7))))


def _burn(b: Array, s: Array) -> Array:
    return np.where(b >= 1, 1, np.where(s <= 0, 0, 1 - np.minimum(1, (1 - b) / np.maximum(s, 1e-7))))


LUM = np.array([0.3, 0.59, 0.11], np.float32)
"""The weights of the text's non-separable modes."""


def _lum(c: Array) -> Array:
    return (c @ LUM)[..., None]


def _clip_colour(c: Array) -> Array:
    lum, low, high = _lum(c), c.min(axis=-1, keepdims=True), c.max(axis=-1, keepdims=True)
    c = np.where(low < 0, lum + (c - lum) * lum / np.maximum(lum - low, 1e-7), c)
    return np.where(high > 1, lum + (c - lum) * (1 - lum) / np.maximum(high - lum, 1e-7), c)


def _set_lum(c: Array, lum: Array) -> Array:
    return _clip_colour(c + (lum - _lum(c)))


def _sat(c: Array) -> Array:
    return np.asarray(c.max(axis=-1, keepdims=True) - c.min(axis=-1, keepdims=True))


def _set_sat(c: Array, sat: Array) -> Array:
    """Stretch the colour so that its least part is 0 and its greatest `sat`; grey becomes black."""
    spread = _sat(c)
    return np.where(spread > 0, (c - c.min(axis=-1, keepdims=True)) / np.maximum(spread, 1e-7) * sat, 0)


def _divide(b: Array, s: Array) -> Array:
    return np.where(b <= 0, 0, np.where(s <= 0, 1, np.minimum(1, b / np.maximum(s, 1e-7))))


def _by_luma(b: Array, s: Array, lighter: bool) -> Array:
    luma_b, luma_s = (b @ LUMA)[..., None], (s @ LUMA)[..., None]
    return np.where((luma_s > luma_b) if lighter else (luma_s < luma_b), s, b)


MODES: dict[str, Callable[[Array, Array], Array]] = {
    "normal": lambda b, s: s,
    "multiply": lambda b, s: b * s,
    "screen": lambda b, s: b + s - b * s,
    "overlay": lambda b, s: _hard_light(s, b),
    "darken": np.minimum,
    "lighten": np.maximum,
    "color-dodge": _dodge,
    "color-burn": _burn,
    "hard-light": _hard_light,
    "soft-light": _soft_light,
    "difference": lambda b, s: np.abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s,
    "hue": lambda b, s: _set_lum(_set_sat(s, _sat(b)), _lum(b)),
    "saturation": lambda b, s: _set_lum(_set_sat(b, _sat(s)), _lum(b)),
    "color": lambda b, s: _set_lum(s, _lum(b)),
    "luminosity": lambda b, s: _set_lum(b, _lum(s)),
    "add": lambda b, s: np.minimum(b + s, 1),
    "subtract": lambda b, s: np.maximum(b - s, 0),
    "divide": _divide,
    "darker-pixel": lambda b, s: _by_luma(b, s, lighter=False),
    "lighter-pixel": lambda b, s: _by_luma(b, s, lighter=True),
}
assert set(MODES) == set(get_args(Blend))


def _straight(picture: Array) -> tuple[Array, Array]:
    alpha = picture[..., 3:]
    return picture[..., :3] / np.maximum(alpha, 1e-6), alpha


def blended(backdrop: Array, source: Array, mode: str) -> Array:
    """Return the source with its colours blended into the backdrop's, premultiplied, alpha as the source's.

    The mixed colour is (1 - αb)·cs + αb·B(cb, cs), as the text says.

    Parameters
    ----------
    backdrop, source : float32 array (rows, cols, 4)
        Coded 0…1, premultiplied, of one shape.
    mode : str
        One of `MODES`.

    Returns
    -------
    float32 array (rows, cols, 4)

    References
    ----------
    W3C, Compositing and Blending Level 1, sections 5 and 10.
    """
    if mode == "normal":
        return source
    cb, ab = _straight(backdrop)
    cs, alpha = _straight(source)
    colour = (1 - ab) * cs + ab * MODES[mode](cb, cs)
    return np.concatenate([colour * alpha, alpha], axis=-1).astype(np.float32)


def on_channels(before: Array, after: Array, channels: frozenset[str]) -> Array:
    """Return `after` on the chosen channels and `before` on the others; alpha is taken from `after`.

    Channels are r, g, b, or `light` (the luma of the coded values) and `colour` (what is left of them).

    Parameters
    ----------
    before, after : float32 array (rows, cols, 4)
        Coded 0…1, premultiplied.
    channels : frozenset of str

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    if channels >= {"r", "g", "b"} or channels >= {"light", "colour"}:
        return after
    out = after.copy()
    if channels & {"light", "colour"}:
        luma_before, luma_after = before[..., :3] @ LUMA, after[..., :3] @ LUMA
        light = (luma_after if "light" in channels else luma_before)[..., None]
        rest = after[..., :3] - luma_after[..., None] if "colour" in channels else before[..., :3] - luma_before[..., None]
        out[..., :3] = np.clip(light + rest, 0, np.clip(out[..., 3:], 0, 1))
        return out
    for k, name in enumerate("rgb"):
        if name not in channels:
            out[..., k] = before[..., k]
    return out


@nb.njit(nogil=True, cache=True)
def _cross_fade(before, after, share, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = before.shape
    for r in range(rows):
        for c in range(cols):
            part = share[r if share.shape[0] > 1 else 0, c if share.shape[1] > 1 else 0]
            for k in range(4):
                out[r, c, k] = before[r, c, k] + part * (after[r, c, k] - before[r, c, k])


def mix(before: Array, after: Array, strength: float, mode: str, channels: frozenset[str], where: Array | None) -> Array:
    """Lay a step's result over its input: in + strength·where·(B(in, result) - in), premultiplied, alpha included.

    Parameters
    ----------
    where : float32 array (rows, cols), 0…1, or None for everywhere
    """
    changed = on_channels(before, blended(before, after, mode), channels)
    if where is None and strength == 1:
        return changed
    share = np.full((1, 1), strength, np.float32) if where is None else np.ascontiguousarray(where * np.float32(strength), np.float32)
    out = np.empty(before.shape, np.float32)
    _cross_fade(np.ascontiguousarray(before), np.ascontiguousarray(changed, np.float32), share, out)
    return out


@nb.njit(nogil=True, fastmath=True, cache=True)
def _lay_normal(backdrop, source, cover, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = backdrop.shape
    one = np.float32(1)
    for r in range(rows):
        for c in range(cols):
            share = cover[r if cover.shape[0] > 1 else 0, c if cover.shape[1] > 1 else 0]
            rest = one - source[r, c, 3] * share
            for k in range(4):
                out[r, c, k] = backdrop[r, c, k] * rest + source[r, c, k] * share


def lay(backdrop: Array, source: Array, opacity: float, mode: str, where: Array | None) -> Array:
    """Lay a layer over what is below it, both premultiplied; returns a new picture.

    Parameters
    ----------
    backdrop, source : float32 array (rows, cols, 4)
        Coded 0…1, premultiplied, of one shape.
    opacity : float
        0…1.
    mode : str
        One of `MODES`.
    where : float32 array (rows, cols), optional
        0…1.

    Returns
    -------
    float32 array (rows, cols, 4)

    Notes
    -----
    result = (1 - αs)·backdrop + αs·((1 - αb)·source + αb·B(backdrop, source)), αs = the source's alpha · opacity · where.

    References
    ----------
    W3C, Compositing and Blending Level 1, section 5.
    """
    cover = np.full((1, 1), opacity, np.float32) if where is None else np.ascontiguousarray(where * np.float32(opacity), np.float32)
    blended_source = blended(backdrop, source, mode)
    out = np.empty(backdrop.shape, np.float32)
    _lay_normal(np.ascontiguousarray(backdrop), np.ascontiguousarray(blended_source), cover, out)
    return out
