"""Giving a picture the light back that a step has taken: lines, masks and joints darken it."""

from __future__ import annotations

from collections.abc import Callable
from math import exp, log
from typing import Any

import numpy as np

from ..arrays import Array
from .light import coded_to_linear, linear_of, linear_to_coded
from .tables import SIZE, even_values

TRIES = 4
NEAR = 0.02
"""Light that differs by less than this share is the same."""
MOST = 8.0
"""By how much linear light is lifted at most, and its inverse the least."""


def mean_light(picture: Array) -> float:
    """Return the mean linear light of what a picture covers.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.

    Returns
    -------
    float
        0…1; 0 where nothing is covered.
    """
    light = linear_of(picture)
    cover = float(light[..., 3].sum())
    return float(light[..., :3].sum()) / 3 / cover if cover > 0 else 0.0


def lift_of(before: Array, made: Callable[[Array], Array]) -> float:
    """Return the gain with which a picture must be `lifted` before a step, so that its mean light is the same after it.

    Parameters
    ----------
    before : float32 array (rows, cols, 4)
        A small look, coded and premultiplied.
    made : callable (picture) -> picture
        What the step makes of a picture. Lifting comes first, since lines and masks take their part of coded values alike at every size.

    Returns
    -------
    float
        1 where nothing is missing; from 1 / `MOST` to `MOST`.
    """
    wanted = mean_light(before)
    if wanted <= 0:
        return 1.0

    def off(gain: float) -> float:
        return log(max(mean_light(made(lifted(before, exp(gain)))), 1e-6) / wanted)

    most = log(MOST)
    last, here = 0.0, off(0.0)
    gain = min(max(-1.3 * here, -most), most)
    for _ in range(TRIES):
        if abs(here) < NEAR:
            return round(exp(last), 4)
        now = off(gain)
        slope = (now - here) / (gain - last) if gain != last else 1.0
        last, here = gain, now
        gain = min(max(gain - now / max(slope, 0.2), -most), most)
    return round(exp(gain), 4)


def lifted(picture: Array, gain: float) -> Array:
    """Return the picture with its linear light x become gain·x / (1 + (gain - 1)·x): darks by the whole gain, while white stays white.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    gain : float
        Over 0; 1 changes nothing.
    """
    if gain == 1:
        return picture
    light: Any = coded_to_linear(even_values())
    table = linear_to_coded(np.asarray(gain * light / (1 + (gain - 1) * light), np.float32))
    alpha = picture[..., 3:]
    share = np.clip(picture[..., :3] / np.maximum(alpha, np.float32(1e-6)), 0, 1) * np.float32(SIZE - 1)
    low = np.minimum(share.astype(np.int32), SIZE - 2)
    part = share - low
    rgb = (table[low] * (1 - part) + table[low + 1] * part) * alpha
    return np.concatenate([rgb, alpha], axis=-1).astype(np.float32)
