"""Belong: a figure takes the tone of the ground at its feet, the colour of the light there, and its shade from the scene's light.

References
----------
G. D. Finlayson, E. Trezzi: Shades of gray and colour constancy. Color Imaging Conference 2004 (the illuminant by a Minkowski norm).
"""

from __future__ import annotations

from collections.abc import Iterator
from math import atan2, cos, sin, tau
from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import Beneath, PixelKind, Start
from ...kinds.settings import Settings, auto_number, colour, number
from ...pixels.blending import LUMA
from ...pixels.colours import light_of, rgb_of
from ...pixels.light import coded_to_linear, linear_to_coded
from ...pixels.pointwise import Code, Op
from ...pixels.tables import even_values

DARKEST = 0.02
NORM = 6
"""Of the Minkowski norm: what is bright says more of the light than what is dark, and no single highlight says all."""
WIDE = 4.0
"""How many times as far round the feet as the ground light is looked for: other places have light of their own."""
STRONGEST = 1.6
"""Light is taken to be no more coloured than that, a channel against their mean, on either side."""
MOST = 4.0
"""No value is made more than so many times as large, or as small."""


class BelongSettings(Settings):
    """How much of the ground's tone, of its light's colour, and of the scene's light and shade."""

    tone: float = number(0.25, 0, 1, label="Tone", unit="share", help="How far it becomes as light or dark as the ground.")
    # Before `colour`, which from there on is the setting of that name.
    ground: str | None = colour(None, label="Ground's colour", help="Automatic: the tone at its feet and the colour of the light there.")
    colour: float = number(0.2, 0, 1, label="Colour", unit="share", help="How far it takes on the colour of the light.")
    contrast: float = number(0.3, 0, 1, label="Contrast", unit="share", help="How far its contrast becomes that of the ground.")
    near: float = number(0.35, 0.05, 3, label="Ground", unit="units", help="How far round the feet the ground is measured.")
    shade: float = number(0.35, 0, 1, label="Shade side", unit="share", help="How much darker its shaded side is.")
    light: float | None = auto_number(
        -1, 1, [{"value": 0.75}], label="Light from", unit="turns", step=0.0025,
        help="Where light comes from, clockwise from the top. Automatic: where the scene is lightest.",
    )  # fmt: skip


def _means(picture: Array, weight: Array) -> tuple[Array, float, float]:
    """Return the mean colour, and mean and spread of light, of what is seen of a picture."""
    total = max(float(weight.sum()), 1e-6)
    straight = picture[..., :3] / np.maximum(picture[..., 3:], 1e-6)
    light = straight @ LUMA
    mean = (straight * weight[..., None]).sum(axis=(0, 1)) / total
    middle = float((light * weight).sum() / total)
    return mean, middle, float(np.sqrt(max(float(((light - middle) ** 2 * weight).sum() / total), 0.0)))


def _illuminant(picture: Array, weight: Array) -> Array:
    """Return the colour of the light on what is seen of a picture, linear, of mean 1."""
    straight = np.clip(picture[..., :3] / np.maximum(picture[..., 3:], 1e-6), 0, 1)
    share = weight[..., None] / max(float(weight.sum()), 1e-6)
    norm = ((coded_to_linear(straight).astype(np.float64) ** NORM * share).sum(axis=(0, 1))) ** (1 / NORM)
    return np.asarray((norm + 1e-4) / (norm + 1e-4).mean(), np.float32)


def measure_ground(picture: Array, s: BelongSettings, beneath: Beneath | None) -> dict[str, Any]:
    """Find the figure's tone, its feet and middle, the ground's tone there, and where the scene's light comes from."""
    rows, cols = picture.shape[:2]
    frame = Frame(cols / rows)
    alpha = picture[..., 3]
    if beneath is None or float(alpha.max()) < 0.05:
        return {}
    mean, middle, spread = _means(picture, alpha)
    x, y = frame.grid(rows, cols)
    seen = alpha > 0.3
    low = float(np.quantile(y[seen], 0.985)) if seen.any() else frame.half_h
    lowest = seen & (y > low - 0.15)
    feet = float(x[lowest].mean()) if lowest.any() else 0.0
    centre = float((x * alpha).sum() / alpha.sum()), float((y * alpha).sum() / alpha.sum())
    half = float(np.sqrt(((x - centre[0]) ** 2 * alpha).sum() / alpha.sum()))
    below = beneath.picture
    gx, gy = beneath.frame.grid(*below.shape[:2])
    px, py = beneath.on_piece(feet, low)
    round_feet = np.exp(-0.5 * (((gx - px) / s.near) ** 2 + ((gy - py) / (0.6 * s.near)) ** 2)) * below[..., 3]
    ground, ground_light, ground_spread = _means(below, round_feet)
    about = (np.hypot(gx - px, gy - py) < WIDE * s.near) * below[..., 3]
    lit, own = _illuminant(below, about), _illuminant(picture, alpha)
    # Where the scene is lightest, as seen from the figure: far differences count more than near ones.
    light = cv2.GaussianBlur(np.ascontiguousarray(below[..., :3] @ LUMA), (0, 0), max(below.shape[1] / 24, 1.0))
    cx, cy = beneath.on_piece(*centre)
    more = np.maximum(light - float(np.quantile(light, 0.7)), 0)
    way = float((more * (gx - cx)).sum()), float((more * (gy - cy)).sum())
    dx, dy = beneath.way_in_layer(*way)
    found = {"mean": mean.tolist(), "light": middle, "spread": spread, "centre": centre, "half": max(half, 0.02)}
    found |= {
        "ground": ground.tolist(),
        "ground_light": ground_light,
        "ground_spread": ground_spread,
        "lit": lit.tolist(),
        "own": own.tolist(),
    }
    return found | {"from": (atan2(dx, -dy) / tau) % 1 if more.any() else 0.75}


def _table(gains: Array, about: float, steep: float) -> Array:
    """Return what leads values by gains without reaching beyond white, after spreading them about a light; black stays black, white white."""
    about = min(max(about, DARKEST), 1 - DARKEST)
    even = np.clip(even_values(), 0, 1)
    # Of slope `steep` at the light it is spread about, and of its inverse at black and white, which stay.
    below, above = np.minimum(even / about, 1), np.minimum((1 - even) / (1 - about), 1)
    dark, bright = about * below / (steep + (1 - steep) * below), (1 - about) * above / (steep + (1 - steep) * above)
    value = np.where(even < about, dark, 1 - bright)
    return np.stack([value * g / (1 + max(g - 1, 0) * value) for g in gains]).astype(np.float32)


def belong(s: BelongSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what leads a figure's tone to that of the ground and its colour to that of the light there.

    Notes
    -----
    Each is led by its share: of the ratio between the mean lights, and of that between the illuminants (a white figure on blue water stays
    white in white light). A colour of the ground that was set by hand is led to itself. A value v becomes v·g, or v·g / (1 + (g - 1)·v) where
    that would go beyond white. The shade side is darkened along the light, over the width of the figure.
    """
    if not measured:
        return
    mean, light = np.array(measured["mean"]), max(measured["light"], DARKEST)
    ground = np.array(rgb_of(s.ground) if s.ground else measured["ground"])
    target = max(light_of(tuple(ground)) if s.ground else measured["ground_light"], DARKEST)
    tone = (target / light) ** s.tone
    if s.ground:
        hue = (np.maximum(ground, DARKEST) / target) / (np.maximum(mean, DARKEST) / light)
    else:
        hue = np.clip(linear_to_coded(np.array(measured["lit"]) / np.array(measured["own"])), 1 / STRONGEST, STRONGEST)
    gains = np.clip(tone * hue**s.colour, 1 / MOST, MOST)
    steep = 1 + s.contrast * (float(np.clip(measured["ground_spread"] / max(measured["spread"], DARKEST), 0.4, 1.8)) - 1)
    yield Op(Code.TABLE, table=_table(gains, light, steep))
    if s.shade:
        heading = s.light if s.light is not None else measured["from"]
        (x, y), reach = measured["centre"], 1.4 * measured["half"]
        lit, dark = 1 + 0.2 * s.shade, 1 - 0.55 * s.shade
        turned = cos(tau * heading), sin(tau * heading)
        yield Op(Code.LIGHT, (1, x, y, *turned, reach, reach, 0.5, lit, lit, lit, dark, dark, dark))


def tell_ground(measured: dict[str, Any], s: BelongSettings) -> dict[str, Any]:
    """Tell the ground's colour and where light comes from."""
    if not measured:
        return {}
    code = "#" + "".join(f"{round(min(max(part, 0), 1) * 255):02x}" for part in measured["ground"])
    return {"ground": code, "light": round(measured["from"], 4)}


BELONG = PixelKind(
    key="belong",
    label="Belong",
    family="finish",
    purpose="Matches a figure to the light, tone and colour of the scene.",
    words=("match colour", "harmonise", "harmonize", "composite", "blend in", "relight", "figure", "colour match"),
    settings=BelongSettings,
    handles=("belong-light",),
    starts=(
        Start("At home", {}),
        Start("In the same air", {"tone": 0.3, "colour": 0.8, "contrast": 0.6, "shade": 0.2}),
        Start("Dark against the light", {"tone": 0.9, "colour": 0.6, "contrast": 0.5, "shade": 0.7}),
    ),
    neutral={"tone": 0, "colour": 0, "contrast": 0, "shade": 0},
    measure=measure_ground,
    measure_size=256,
    grounded=True,
    tell=tell_ground,
    effort=1.5,
    ops=belong,
)
