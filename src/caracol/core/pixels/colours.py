"""Colours as they are written, and what lamps of other colours do to them."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from .blending import LUMA

Rgb = tuple[float, float, float]


def rgb_of(code: str) -> Rgb:
    """Return a colour written `#rrggbb`, or with four digits a part, as coded red, green and blue, 0…1.

    Examples
    --------
    >>> rgb_of("#ff0080")
    (1.0, 0.0, 0.5019607843137255)
    """
    digits = (len(code) - 1) // 3
    red, green, blue = (int(code[k : k + digits], 16) / (16**digits - 1) for k in range(1, len(code), digits))
    return red, green, blue


def light_of(colour: Rgb) -> float:
    """Return the light of a coded colour, 0…1."""
    return float(sum(float(weight) * part for weight, part in zip(LUMA, colour, strict=True)))


def at_light(colour: Rgb, light: Array) -> Array:
    """Return a colour as it is at other lights, (3, n), for lights 0…1, (n,): as much nearer to grey as keeps it within 0…1.

    References
    ----------
    W3C, Compositing and Blending Level 1, section 10.3: SetLum and ClipColor, with the weights of our key light.
    """
    own = light_of(colour)
    away = np.array(colour)[:, None] - own
    low, high = float(away.min()), float(away.max())
    room = np.ones_like(light)
    if low < 0:
        room = np.minimum(room, light / -low)
    if high > 0:
        room = np.minimum(room, (1 - light) / high)
    return np.asarray(light + away * room)


def warmed(warmth: float) -> Rgb:
    """Return factors for coded red, green and blue under a warmer (-1…1) lamp that leaves the light of a grey as it is."""
    gains = 1 + 0.26 * warmth, 1 + 0.02 * warmth, 1 - 0.34 * warmth
    light = light_of(gains)
    return gains[0] / light, gains[1] / light, gains[2] / light
