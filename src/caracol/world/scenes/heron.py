"""`heron-in-reeds`: a heron at the edge of the reed bed, the reeds behind it out of focus."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import blur, develop, linear, mix, noise, ramp, smoothstep
from .cutouts import draw_heron
from .reeds import draw_stalks


def _decoded(pixels: NDArray[np.uint8]) -> NDArray[np.float32]:
    coded = pixels[..., :3].astype(np.float32) / 255
    return np.asarray(np.where(coded <= 0.04045, coded / 12.92, ((coded + 0.055) / 1.055) ** 2.4), np.float32)


def draw(rng: np.random.Generator, cols: int = 3000) -> NDArray[np.uint8]:
    """Draw the photo at 3:2, lit from the upper left."""
    rows = cols * 2 // 3
    k = cols / 3000
    v, u = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    glow = np.exp(-(((u - 0.22) * 1.3) ** 2 + ((v - 0.25) * 1.6) ** 2) * 4)
    scene = ramp(v, [(0, linear("#9fb3a6")), (0.45, linear("#b8b283")), (0.75, linear("#6f7346")), (1, linear("#3a4436"))]) * 0.75
    scene = scene + glow[..., None] * np.array([0.75, 0.62, 0.34], np.float32)
    for count, width, height, soft, haze in ((210, 7, (0.5, 0.95), 22.0, 0.55), (110, 11, (0.4, 0.9), 11.0, 0.25)):
        cover, tone = draw_stalks(rng, (rows, cols), count, width * k, height)
        cover, tone = blur(cover, soft * k), blur(tone, soft * 0.7 * k)
        leaf = ramp(tone, [(0, linear("#2c3a1e")), (0.5, linear("#5f6a2c")), (1, linear("#a89a4c"))]) * (0.6 + 0.9 * glow * tone)[..., None]
        scene = mix(scene, mix(leaf, blur(scene, 40 * k), haze), np.clip(cover * 0.85, 0, 1))
    # Shallow water that the bird stands in.
    shore = 0.8 + 0.012 * noise(rng, (rows, cols), (20 * k + 2, 500 * k + 2), 3)
    ripple = noise(rng, (rows, cols), (7 * k + 2, 150 * k + 2), 4)
    mirrored = blur(scene[::-1], 14 * k) * 0.62
    water = mirrored * (1 + 0.22 * ripple)[..., None] + smoothstep(1.0, 2.2, ripple)[..., None] * np.array([0.26, 0.26, 0.2], np.float32)
    wet = smoothstep(-0.01, 0.02, v - shore)
    scene = mix(scene, water, wet)
    bird = draw_heron(np.random.default_rng(7), round(0.5 * cols))
    high, wide = bird.shape[:2]
    left, top = round(0.36 * cols), round(0.94 * rows - 0.96 * high)
    first = max(0, -top)
    light = _decoded(bird) * 1.15
    cover = blur(bird[..., 3].astype(np.float32) / 255, 0.8 * k)
    # A mirrored, broken picture of it below its feet.
    foot = round(0.94 * rows)
    below = np.zeros((rows, cols), np.float32)
    flipped = cv2.resize(cover[::-1], (wide, round(high * 0.6)))[: rows - foot]
    below[foot : foot + flipped.shape[0], left : left + wide] = flipped[:, : cols - left]
    scene = mix(scene, linear("#3c4650"), blur(below, 5 * k) * 0.5 * smoothstep(-0.4, 0.8, 0.6 + ripple * 0.5))
    part = scene[max(top, 0) : max(top, 0) + high - first, left : left + wide]
    part[...] = mix(part, light[first : first + part.shape[0]], cover[first : first + part.shape[0]])
    # Reeds before it at the left and the right, far too near to be sharp.
    near, tone = draw_stalks(rng, (rows, cols), 26, 26 * k, (0.35, 0.8))
    aside = smoothstep(0.26, 0.12, u) + smoothstep(0.8, 0.93, u)
    near = blur(near * aside, 13 * k)
    scene = mix(scene, np.array(linear("#4a4f22"), np.float32) * (0.7 + 0.8 * glow)[..., None], np.clip(near, 0, 1) * 0.9)
    return develop(rng, scene, exposure=1.05, bloom=0.12, vignette=0.35)
