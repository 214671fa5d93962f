"""`tile-wall`: an old façade of glazed tiles that fills the frame."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, smoothstep

SIDE = 220
SCALE = 4


def _motif(index: int) -> Plane:
    """Return one tile's painted pattern: colour over white glaze, (SIDE, SIDE, 3)."""
    n = SIDE * SCALE
    half = n // 2
    blue, deep, ochre = linear("#3c66a8"), linear("#1f3d7a"), linear("#c58a2b")
    tile = np.zeros((n, n, 3), np.float32) + np.array(linear("#ded9cb"), np.float32)
    for corner in ((0, 0), (n, 0), (0, n), (n, n)):
        cv2.circle(tile, corner, int(n * 0.44), blue, max(3, n // 40), cv2.LINE_AA)
        cv2.circle(tile, corner, int(n * 0.36), deep, max(3, n // 90), cv2.LINE_AA)
        cv2.circle(tile, corner, int(n * 0.16), ochre, -1, cv2.LINE_AA)
        cv2.circle(tile, corner, int(n * 0.08), deep, -1, cv2.LINE_AA)
    petals = 8 if index % 2 else 4
    for k in range(petals):
        ang = 2 * np.pi * (k + 0.5 * (index % 3 == 0)) / petals
        way = np.array([np.sin(ang), -np.cos(ang)])
        centre = half + way * n * 0.17
        cv2.ellipse(
            tile,
            tuple(int(c) for c in centre),
            (int(n * 0.13), int(n * 0.055)),
            float(np.degrees(ang) - 90),
            0,
            360,
            blue if k % 2 else deep,
            -1,
            cv2.LINE_AA,
        )
        tip = half + way * n * 0.31
        cv2.circle(tile, tuple(int(c) for c in tip), int(n * 0.022), ochre, -1, cv2.LINE_AA)
    cv2.circle(tile, (half, half), int(n * 0.06), ochre, -1, cv2.LINE_AA)
    cv2.rectangle(tile, (n // 60, n // 60), (n - n // 60, n - n // 60), deep, max(2, n // 120), cv2.LINE_AA)
    return np.asarray(cv2.resize(tile, (SIDE, SIDE), interpolation=cv2.INTER_AREA))


def draw(rng: np.random.Generator, cols: int = 3300) -> NDArray[np.uint8]:
    """Draw the photo at 4:3."""
    scale = cols / 3300
    side = max(16, int(SIDE * scale))
    rows = cols * 3 // 4
    shape = (rows, cols)
    motifs = [cv2.resize(_motif(i), (side, side), interpolation=cv2.INTER_AREA) for i in range(4)]
    wall = np.zeros((rows + side, cols + side, 3), np.float32)
    height = np.zeros(wall.shape[:2], np.float32)
    gap = max(2, side // 44)
    profile = np.minimum(np.arange(side), np.arange(side)[::-1]).astype(np.float32)
    pillow = smoothstep(gap * 0.5, gap * 3.5, np.minimum(profile[:, None], profile[None, :]))
    tone = noise(rng, (rows // side + 2, cols // side + 2), (3, 3), 3)
    for r in range(0, rows + side, side):
        for c in range(0, cols + side, side):
            i, j = r // side, c // side
            tile = np.rot90(motifs[(i % 2) * 2 + (j % 2) if rng.random() > 0.04 else int(rng.integers(4))], int(rng.integers(4)))
            shade = 1 + 0.05 * tone[min(i, len(tone) - 1), min(j, tone.shape[1] - 1)] + 0.055 * rng.standard_normal()
            warm = np.array([1 + 0.03 * rng.standard_normal(), 1, 1 - 0.04 * rng.random()], np.float32)
            part = (slice(r, min(r + side, rows + side)), slice(c, min(c + side, cols + side)))
            size = (part[0].stop - r, part[1].stop - c)
            y, x = np.mgrid[-1 : 1 : side * 1j, -1 : 1 : side * 1j].astype(np.float32)
            lean = 0.05 * (x * rng.standard_normal() + y * rng.standard_normal()).astype(np.float32)
            wall[part] = (tile * (np.float32(shade) * warm) * (1 + lean)[..., None])[: size[0], : size[1]]
            height[part] = (pillow + lean * 2)[: size[0], : size[1]]
    wall, height = wall[:rows, :cols], height[:rows, :cols]
    glaze = noise(rng, shape, (90 * scale, 90 * scale), 5)
    fine = noise(rng, shape, (9 * scale + 2, 9 * scale + 2), 4)
    wall = wall * (1 + 0.06 * glaze + 0.035 * fine)[..., None]
    crackle = np.abs(noise(rng, shape, (34 * scale + 4, 34 * scale + 4), 3))
    wall = wall * (1 - 0.22 * smoothstep(0.045, 0.0, crackle))[..., None]
    chips = smoothstep(1.7, 2.1, noise(rng, shape, (130 * scale, 130 * scale), 6) + 0.9 * smoothstep(0.55, 0.0, height))
    body = np.array(linear("#a5735a"), np.float32) * (0.9 + 0.12 * fine)[..., None]
    wall = mix(wall, body, chips)
    joint = smoothstep(0.35, 0.0, pillow_of(height))
    grout = np.array(linear("#8d8778"), np.float32) * (0.75 + 0.15 * fine)[..., None]
    wall = mix(wall, grout, joint * 0.95)
    relief = blur(height * 2.2 + 0.05 * glaze - chips * 0.6, 1.6)
    slope_x, slope_y = np.gradient(relief, axis=1), np.gradient(relief, axis=0)
    y, x = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    light = 1.18 - 0.55 * x - 0.22 * y - 3.2 * (slope_x + slope_y)
    shadow = smoothstep(-0.02, 0.02, (y - 0.24 - 0.42 * x) + 0.012 * noise(rng, shape, (200 * scale, 200 * scale), 3))
    dapple = smoothstep(-0.4, 0.9, noise(rng, shape, (420 * scale, 300 * scale), 4) + 0.3)
    direct = np.clip((1 - shadow) * 0.35 + shadow * dapple, 0, 1)
    lit = (
        wall
        * np.clip(light, 0.05, 2.5)[..., None]
        * (np.array([0.42, 0.47, 0.56], np.float32) + direct[..., None] * np.array([0.85, 0.74, 0.56], np.float32))
    )
    gloss = np.exp(-(((slope_x - 0.012) ** 2 + (slope_y - 0.012) ** 2) / 0.00016)) * direct * (1 - joint) * (1 - chips)
    lit = lit + gloss[..., None] * np.array([0.20, 0.19, 0.17], np.float32)
    streaks = np.clip(noise(rng, shape, (700 * scale, 26 * scale), 4), 0, 2)
    lit = lit * (1 - 0.13 * streaks * smoothstep(0, 1, y))[..., None]
    return develop(rng, lit, exposure=1.15, bloom=0.06, vignette=0.25)


def pillow_of(height: Plane) -> Plane:
    """Return how far a place stands out of the joints, 0…1."""
    return np.clip(height, 0, 1)
