"""`reed-bed`: tall reeds against a low sun."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, ramp, smoothstep


def draw_stalks(
    rng: np.random.Generator, shape: tuple[int, int], count: int, width: float, height: tuple[float, float]
) -> tuple[Plane, Plane]:
    """Return the cover of many bent stalks with leaves and plumes, and a tone that differs from one to the next."""
    rows, cols = shape
    cover, tone = np.zeros(shape, np.float32), np.zeros(shape, np.float32)
    for place in np.sort(rng.uniform(-0.05, 1.05, count)):
        tall = rng.uniform(*height) * rows
        lean, bow = rng.normal(0.04, 0.07), rng.normal(0.05, 0.09)
        t = np.linspace(0, 1, 28)
        x = place * cols + tall * (lean * t + bow * t**2.5)
        y = rows * 1.02 - tall * t
        shade = float(rng.uniform(0.2, 1))
        for k in range(27):
            wide = max(1, round(width * (1.15 - 0.8 * t[k])))
            ends = (int(x[k] * 8), int(y[k] * 8)), (int(x[k + 1] * 8), int(y[k + 1] * 8))
            cv2.line(cover, *ends, 1.0, wide, cv2.LINE_AA, 3)
            cv2.line(tone, *ends, shade, wide, cv2.LINE_AA, 3)
        for at in rng.integers(6, 24, int(rng.integers(2, 6))):
            side = rng.choice([-1, 1])
            reach, droop = tall * rng.uniform(0.1, 0.24), rng.uniform(-0.5, 0.7)
            s = np.linspace(0, 1, 12)
            lx, ly = x[at] + side * reach * s * (0.75 - 0.2 * s), y[at] - reach * (s * 0.9 - (0.7 + droop) * s**2.4)
            edge = width * 1.5 * np.sin(np.pi * np.clip(s * 0.94 + 0.06, 0, 1)) * (1 - s * 0.4)
            outline = np.concatenate([np.stack([lx, ly - edge], 1), np.stack([lx, ly + edge * 0.4], 1)[::-1]])
            poly = [(outline * 8).astype(np.int32)]
            cv2.fillPoly(cover, poly, 1.0, cv2.LINE_AA, 3)
            cv2.fillPoly(tone, poly, min(1.0, shade * float(rng.uniform(0.9, 1.5))), cv2.LINE_AA, 3)
        if rng.random() < 0.6:
            size = width * rng.uniform(7, 13)
            for _ in range(150):
                q = rng.random() ** 0.7
                hx, hy = x[-1] + bow * size * 6 * q + rng.normal(0, size * (0.16 + 0.28 * (1 - q))), y[-1] - size * 3.2 * q + size * 0.6
                end = (hx + rng.normal(bow * 20, 5) * size / 14, hy + size * rng.uniform(0.2, 0.6))
                line = (int(hx * 8), int(hy * 8)), (int(end[0] * 8), int(end[1] * 8))
                cv2.line(cover, *line, 0.85, max(1, int(width * 0.22)), cv2.LINE_AA, 3)
                cv2.line(tone, *line, min(1.0, shade * 1.3), max(1, int(width * 0.22)), cv2.LINE_AA, 3)
    return cover, tone


def draw(rng: np.random.Generator, cols: int = 3600) -> NDArray[np.uint8]:
    """Draw the photo at 3:2."""
    rows = cols * 2 // 3
    k = cols / 3600
    v, u = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    glow = np.exp(-(((u - 0.6) * 1.5) ** 2 + ((v - 0.42) * 1.4) ** 2) * 6)
    scene = ramp(v, [(0, linear("#c9b183")), (0.4, linear("#d9a860")), (0.7, linear("#9a7a45")), (1, linear("#2f3020"))]) * 0.7
    scene = scene + glow[..., None] * np.array([1.9, 1.25, 0.52], np.float32)
    spots = np.zeros_like(scene)
    for _ in range(170):
        x, y = rng.uniform(0, cols), rng.normal(0.55, 0.2) * rows
        near = np.exp(-((x / cols - 0.6) ** 2) * 5)
        cv2.circle(
            spots,
            (int(x), int(y)),
            int(rng.uniform(14, 62) * k),
            tuple(float(c) for c in np.array([1.0, 0.72, 0.3]) * rng.uniform(0.02, 0.34) * near),
            -1,
            cv2.LINE_AA,
        )
    scene = scene + blur(spots, 4 * k)
    layers = (
        (260, 5, (0.5, 0.95), 16.0, 0.74),
        (190, 8, (0.45, 0.98), 6.5, 0.52),
        (120, 11, (0.5, 1.02), 1.4, 0.18),
        (54, 17, (0.45, 1.0), 0.7, 0.0),
    )
    for count, width, height, soft, haze in layers:
        cover, tone = draw_stalks(rng, (rows, cols), count, width * k, height)
        cover, tone = blur(cover, soft * k), blur(tone, max(soft * 0.7, 0.6) * k)
        fibre = noise(rng, (rows, cols), (160 * k + 2, 5 * k + 2), 3)
        leaf = ramp(tone, [(0, linear("#12150c")), (0.45, linear("#3a3a18")), (1, linear("#7c6a2c"))]) * (0.62 + 0.12 * fibre)[..., None]
        edge = np.clip(np.abs(np.gradient(cover, axis=1)) * 2.4, 0, 1) * (0.35 + glow)
        leaf = leaf * (0.6 + 1.7 * glow * tone)[..., None] + edge[..., None] * np.array([0.75, 0.5, 0.18], np.float32)
        scene = mix(scene, mix(leaf, blur(scene, 40 * k), haze), np.clip(cover, 0, 1))
    veil = smoothstep(1.05, 0.3, v) * 0.10 + glow * 0.14
    scene = mix(scene, (1.25, 0.82, 0.36), veil)
    return develop(rng, scene, exposure=1.0, bloom=0.25, vignette=0.5)
