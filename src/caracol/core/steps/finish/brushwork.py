"""Brushwork: smeared along the picture's own flow, as with a brush."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, number
from ...kinds.settings import seed as any_draw
from ...pixels.blending import LUMA
from ...pixels.draws import draw
from ...pixels.raster import Raster, scaled
from ...pixels.smear import smear_along
from ..break_.stipple import flow_of


class BrushworkSettings(Settings):
    """How long and broad the strokes are, and how much the bristles show."""

    length: float = number(0.1, 0.005, 0.4, label="Length", unit="units", step=0.005, help="Length of a stroke.")
    breadth: float = number(
        0.02, 0.003, 0.2, label="Breadth", unit="units", step=0.001, help="How coarse the shapes are that strokes follow."
    )
    across: float = number(0, -0.25, 0.25, label="Across", unit="turns", step=0.0025, help="Turns strokes away from the shapes.")
    bristle: float = number(0.55, 0, 1, label="Bristles", unit="share", help="How much single bristles show.")
    lines: int = number(
        1080, 240, 2160, label="Resolution", unit="count", step=60, help="Resolution of the effect: lines along the shorter side."
    )
    seed: int = any_draw(idle=(({"bristle": [0]}, "Nothing is drawn while Bristles is 0."),))


def bristles(rows: int, cols: int, seed: int) -> Array:
    """Return noise of deviation 1 that is as soft as bristles are thin, (rows, cols)."""
    bits: Any = np.random.PCG64(int(draw(seed, 0) * 2**53)).random_raw(-(-rows * cols // 4))
    noise = bits.view(np.uint16)[: rows * cols].reshape(rows, cols).astype(np.float32) / 65535 - np.float32(0.5)
    noise = cv2.GaussianBlur(noise, (0, 0), max(0.6, rows / 1000))
    return np.asarray(noise / np.float32(max(float(noise.std()), 1e-6)))


def brushwork(picture: Array, raster: Raster, s: BrushworkSettings) -> Array:
    """Return the raster averaged along its flow; bristles are noise averaged along the same flow, added to its light."""
    rows, cols = picture.shape[:2]
    sigma = max(1.0, raster.pixels(s.breadth))
    luma = cv2.GaussianBlur(np.ascontiguousarray(picture[..., :3] @ LUMA), (0, 0), max(0.8 / raster.finer, sigma / 4))
    angle = flow_of(luma, sigma) + np.float32(2 * np.pi * s.across)
    own = (round(rows * raster.finer), round(cols * raster.finer))
    noise = scaled(raster.remember(("bristles", own, s.seed), lambda: bristles(*own, s.seed)), rows, cols)[..., None]
    whole = np.ascontiguousarray(np.concatenate([picture, noise], axis=-1), np.float32)
    out = np.empty_like(whole)
    raster.in_parts(rows, lambda first, last: smear_along(whole, angle, max(1.0, raster.pixels(s.length) / 2), first, last, out))
    alpha = np.clip(out[..., 3:4], 0, 1)
    rgb = out[..., :3] + np.float32(s.bristle * 0.12) * out[..., 4:] * alpha
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


BRUSHWORK = RasterKind(
    key="brushwork",
    label="Brushwork",
    family="finish",
    purpose="Paints the picture in brush strokes along its own shapes.",
    words=("paint", "oil", "painterly", "strokes", "streak", "canvas"),
    settings=BrushworkSettings,
    starts=(
        Start("Fine brush", {}),
        Start("Broad brush", {"length": 0.2, "breadth": 0.045, "bristle": 0.7}, words=("oil painting", "oil")),
        Start("Against the grain", {"length": 0.12, "across": 0.25, "breadth": 0.03, "bristle": 0.5}),
    ),
    draft=400_000,
    effort=25.0,
    work=brushwork,
)
