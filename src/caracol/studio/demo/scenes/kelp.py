"""`kelp-garden`: a forest of kelp in green water, the light coming down through it."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, ramp, smoothstep


def _ribbons(rng: np.random.Generator, shape: tuple[int, int], count: int, width: float, sway: float) -> tuple[Plane, Plane, Plane]:
    """Return cover, tone and how far across each blade a pixel lies (-1 … 1), of many long wavy blades that rise from the ground."""
    rows, cols = shape
    cover, tone, across = np.zeros(shape, np.float32), np.zeros(shape, np.float32), np.zeros(shape, np.float32)
    for place in rng.uniform(-0.05, 1.05, count):
        tall = rng.uniform(0.6, 1.25) * rows
        t = np.linspace(0, 1, 70)
        phase, twist, lean = rng.uniform(0, 6.3), rng.uniform(2, 5), rng.normal(0, 0.12)
        x = place * cols + tall * (lean * t + sway * np.sin(phase + twist * t * 2) * t)
        y = rows * 1.04 - tall * t
        wide = width * (0.35 + 0.65 * np.abs(np.cos(phase + twist * t * 4))) * np.sin(np.pi * np.clip(t * 0.93 + 0.07, 0, 1)) ** 0.5 + 1
        edge = 1 + 0.22 * np.sin(t * 90 + phase)
        shade = float(rng.uniform(0.15, 1))
        for k in range(69):
            quad = [
                (x[k] - wide[k] * edge[k], y[k]),
                (x[k] + wide[k] * edge[k], y[k]),
                (x[k + 1] + wide[k + 1] * edge[k + 1], y[k + 1]),
                (x[k + 1] - wide[k + 1] * edge[k + 1], y[k + 1]),
            ]
            poly = [(np.array(quad) * 8).astype(np.int32)]
            cv2.fillPoly(cover, poly, 1.0, cv2.LINE_AA, 3)
            cv2.fillPoly(tone, poly, float(np.clip(shade + 0.3 * np.cos(phase + twist * t[k] * 4), 0, 1.2)), cv2.LINE_AA, 3)
            half = [
                (np.array([quad[0], ((quad[0][0] + quad[1][0]) / 2, y[k]), ((quad[2][0] + quad[3][0]) / 2, y[k + 1]), quad[3]]) * 8).astype(
                    np.int32
                )
            ]
            cv2.fillPoly(across, poly, 1.0, cv2.LINE_AA, 3)
            cv2.fillPoly(across, half, -1.0, cv2.LINE_AA, 3)
        for at in rng.integers(8, 60, int(rng.integers(2, 6))):
            cv2.circle(cover, (int(x[at] + wide[at]), int(y[at])), int(width * 0.5), 1.0, -1, cv2.LINE_AA)
            cv2.circle(tone, (int(x[at] + wide[at]), int(y[at])), int(width * 0.5), min(1.2, shade + 0.4), -1, cv2.LINE_AA)
    return cover, tone, across


def draw(rng: np.random.Generator, cols: int = 3600) -> NDArray[np.uint8]:
    """Draw the photo at 3:2."""
    rows, k = cols * 2 // 3, cols / 3600
    shape = (rows, cols)
    v, u = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    scene = ramp(v, [(0, linear("#9fd3b8")), (0.25, linear("#4f9e93")), (0.6, linear("#1f5f68")), (1, linear("#0c2c38"))])
    sun = np.exp(-(((u - 0.42) * 2.2) ** 2 + (v * 1.5) ** 2) * 3)
    scene = scene + sun[..., None] * np.array([0.9, 1.0, 0.62], np.float32)
    fan = (u - 0.42) / (v + 0.35)
    beams = noise(rng, (2, cols), (4, cols / 40), 4)[0]
    rays = np.interp(fan, np.linspace(-1.3, 1.8, cols), beams).astype(np.float32)
    scene = scene * (1 + 0.24 * rays * np.exp(-v * 1.6))[..., None]
    for count, width, soft, haze, sway in (
        (70, 16, 13.0, 0.72, 0.05),
        (52, 26, 5.0, 0.46, 0.07),
        (34, 42, 1.5, 0.16, 0.09),
        (13, 70, 0.7, 0.0, 0.11),
    ):
        cover, tone, across = _ribbons(rng, shape, count, width * k, sway)
        cover, tone, across = blur(cover, soft * k), blur(tone, max(soft * 0.6, 0.7) * k), blur(across, max(soft, 5.0) * k)
        vein = noise(rng, shape, (120 * k + 2, 12 * k + 2), 4)
        leaf = ramp(tone, [(0, linear("#1d1c0d")), (0.4, linear("#57501b")), (0.8, linear("#a5842c")), (1.2, linear("#dcbd5c"))])
        light = 0.35 + 0.75 * np.exp(-v * 1.2) + 0.8 * sun * tone
        leaf = leaf * (light * (1 + 0.16 * vein + 0.25 * across))[..., None]
        rim_light = np.clip(np.abs(np.gradient(cover, axis=1)) * 2.2, 0, 1) * (0.25 + sun)
        leaf = leaf + rim_light[..., None] * np.array([0.55, 0.5, 0.22], np.float32)
        scene = mix(scene, mix(leaf, blur(scene, 46 * k), haze), np.clip(cover, 0, 1))
    specks = np.zeros(shape, np.float32)
    for _ in range(900):
        cv2.circle(
            specks,
            (int(rng.uniform(0, cols)), int(rng.uniform(0, rows))),
            max(1, int(abs(rng.normal(0, 5)) * k)),
            float(rng.uniform(0.05, 0.5)),
            -1,
            cv2.LINE_AA,
        )
    scene = scene + (blur(specks, 2.2 * k) * (0.12 + sun))[..., None] * np.array([0.7, 0.9, 0.75], np.float32)
    scene = mix(scene, linear("#3f8f8d"), 0.05 + 0.12 * smoothstep(0.2, 1, v))
    return develop(rng, scene, exposure=1.12, bloom=0.2, vignette=0.35)
