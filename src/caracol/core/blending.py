"""Blend modes, and how a step's or layer's result is laid over what was there.

References
----------
W3C, Compositing and Blending Level 1: sections 9 (separable modes B(cb, cs)) and 5.1 (source over). `add` and `subtract` are
the clipped sum and difference of the coded values.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, get_args

import numpy as np

from .arrays import Array

Blend = Literal[
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light", "soft-light", "difference",
    "exclusion", "add", "subtract",
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
    "add": lambda b, s: np.minimum(b + s, 1),
    "subtract": lambda b, s: np.maximum(b - s, 0),
}
assert set(MODES) == set(get_args(Blend))


def _straight(picture: Array) -> tuple[Array, Array]:
    alpha = picture[..., 3:]
    return picture[..., :3] / np.maximum(alpha, 1e-6), alpha


def blended(backdrop: Array, source: Array, mode: str) -> Array:
    """Return the source with its colours blended into the backdrop's, premultiplied, alpha as the source's.

    The mixed colour is (1 - αb)·cs + αb·B(cb, cs), as the text says.
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


def mix(before: Array, after: Array, strength: float, mode: str, channels: frozenset[str], where: Array | None) -> Array:
    """Lay a step's result over its input: in + strength·where·(B(in, result) - in), premultiplied, alpha included.

    Parameters
    ----------
    where : float32 array (rows, cols), 0…1, or None for everywhere
    """
    changed = on_channels(before, blended(before, after, mode), channels)
    if where is None and strength == 1:
        return changed
    share = np.float32(strength) if where is None else (where * np.float32(strength))[..., None]
    return (before + share * (changed - before)).astype(np.float32)
