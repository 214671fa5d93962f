"""`stilt-village-noon`: painted houses over a lagoon under fair-weather clouds; the camera leaned by 2.3°."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Panorama, Plane, blur, develop, linear, look_up, mix, noise, ramp, smoothstep, tileable

HORIZON = 0.6
LEAN = 2.3
WALLS = ("#c8553d", "#e0a458", "#3f7d8c", "#d9d2c3", "#7a9e7e", "#b5838d", "#5b6c8f", "#e3c16f")


def noon_sky(rng: np.random.Generator, view: Panorama) -> Plane:
    """Return the sky for every row, mirrored below the horizon."""
    _, up = view.grid()
    up = np.abs(up)
    sky = ramp(up, [(0, linear("#cfe0ea")), (0.08, linear("#a9cbe6")), (0.3, linear("#5d9ad2")), (0.6, linear("#2f6fb5"))]) * 1.15
    x, y, distance = view.ceiling(0.42)
    tex, fine = tileable(rng, 1024, 4), tileable(rng, 1024, 12)
    body = look_up(tex, x * 0.22, y * 0.22) + 0.3 * look_up(fine, x * 0.31, y * 0.31)
    lit = look_up(tex, x * 0.22 + 0.012, y * 0.22 + 0.01) + 0.3 * look_up(fine, x * 0.31 + 0.01, y * 0.31 + 0.008)
    cover = smoothstep(0.35, 1.25, body) * smoothstep(0.015, 0.09, up) * smoothstep(0.52, 0.3, up)
    shade = np.clip(0.62 + 0.9 * (body - lit) - 0.16 * smoothstep(1.1, 2.4, body), 0.35, 1.05)
    cloud = shade[..., None] * np.array([1.25, 1.27, 1.32], np.float32)
    cloud = mix(cloud, sky * 1.12, smoothstep(2, 9, distance) * 0.7)
    return mix(sky, cloud, cover)


def _house(scene: Plane, x: int, base: int, k: float, rng: np.random.Generator) -> None:
    """Paint one house into the scene, standing on stilts over row `base`."""
    paint = np.array(linear(str(rng.choice(WALLS))), np.float32)
    wall = (paint * 0.62 + paint.mean() * 0.3 + 0.02) * np.float32(rng.uniform(0.75, 1.05))
    w, h, lift = int(k * rng.uniform(0.022, 0.052)), int(k * rng.uniform(0.034, 0.075)), int(k * rng.uniform(0.02, 0.034))
    top, foot = base - lift - h, base - lift
    for leg in np.linspace(-0.94, 0.94, rng.integers(4, 8)):
        cv2.line(
            scene,
            (x + int(leg * w), foot),
            (x + int(leg * w), base + int(k * 0.006)),
            (0.05, 0.045, 0.04),
            max(1, int(k * 0.0028)),
            cv2.LINE_AA,
        )
    cv2.rectangle(scene, (x - int(w * 1.12), foot), (x + int(w * 1.12), foot + max(2, int(k * 0.004))), (0.12, 0.1, 0.085), -1, cv2.LINE_AA)
    split = x + int(w * rng.uniform(0.1, 0.5))
    cv2.rectangle(scene, (x - w, top), (split, foot), tuple(float(c) for c in wall), -1, cv2.LINE_AA)
    cv2.rectangle(scene, (split, top), (x + w, foot), tuple(float(c) for c in wall * 0.45), -1, cv2.LINE_AA)
    board = max(3, int(k * 0.0042))
    for row in range(top + board, foot, board):
        scene[row, x - w : x + w] *= 0.86
    roof = np.array(linear(str(rng.choice(["#5a4a42", "#7d4f3a", "#6a6f73", "#8a5a44"]))), np.float32)
    peak = top - int(h * rng.uniform(0.35, 0.7))
    over = int(w * 0.16)
    cv2.fillPoly(
        scene,
        [np.array([[x - w - over, top], [split + over // 2, top], [split - (split - x + w) // 2, peak]])],
        tuple(float(c) for c in roof * 1.1),
        cv2.LINE_AA,
    )
    cv2.fillPoly(
        scene,
        [np.array([[split - over // 4, top + 1], [x + w + over, top], [x + w - over, peak], [split - (split - x + w) // 2, peak]])],
        tuple(float(c) for c in roof * 0.7),
        cv2.LINE_AA,
    )
    side = max(2, int(w * 0.16))
    for place in np.linspace(x - w * 0.75, split - side * 1.4, rng.integers(2, 4)):
        t = top + int(h * rng.uniform(0.22, 0.3))
        cv2.rectangle(scene, (int(place), t), (int(place) + side, t + int(side * 1.5)), (0.02, 0.03, 0.045), -1, cv2.LINE_AA)
        cv2.rectangle(
            scene,
            (int(place) - 1, t - 1),
            (int(place) + side + 1, t + int(side * 1.5) + 1),
            (0.7, 0.7, 0.66),
            max(1, int(k * 0.0012)),
            cv2.LINE_AA,
        )
    door = int(split - side * rng.uniform(2.2, 3.4))
    cv2.rectangle(scene, (door, foot - int(h * 0.42)), (door + side, foot), (0.09, 0.05, 0.03), -1, cv2.LINE_AA)


def draw(rng: np.random.Generator, cols: int = 4000) -> NDArray[np.uint8]:
    """Draw the photo, two and a half times as wide as high."""
    wide, high = int(cols * 1.06), int(cols / 2.5 * 1.14)
    view = Panorama(high, wide, HORIZON, 0.9)
    sky = noon_sky(rng, view)
    _, up = view.grid()
    base = int(HORIZON * high)
    scene = sky.copy()
    hills = (0.024 + 0.014 * noise(rng, (1, wide), (1, wide / 4), 6)[0]) * high
    far = smoothstep(-1, 1, hills[None, :] - up * high) * (up > 0)
    scene = mix(scene, mix(np.zeros_like(sky) + np.array(linear("#5f7d78"), np.float32), sky, 0.5), far)
    bank = (0.006 + 0.008 * np.clip(noise(rng, (1, wide), (1, wide / 40), 6)[0], 0, None)) * high
    scene = mix(
        scene,
        np.array(linear("#4c5f3c"), np.float32) * (0.5 + 0.4 * np.clip(noise(rng, (high, wide), (6, 9), 2)[..., None], 0, 2)),
        smoothstep(-0.6, 0.6, bank[None, :] - up * high) * (up > 0),
    )
    k = float(cols / 2.5)
    for centre in np.sort(rng.uniform(0.02, 0.98, 26)):
        if 0.43 < centre < 0.5 or 0.77 < centre < 0.86:
            continue
        _house(scene, int(centre * wide), base + int(k * rng.uniform(0.0, 0.02)), k * float(rng.uniform(0.8, 1.5)), rng)
    scene[: base + int(k * 0.03)] = blur(scene[: base + int(k * 0.03)], 0.8)
    stains = 0.6 * noise(rng, (high, wide), (70, 7), 4) + 0.8 * noise(rng, (high, wide), (40, 40), 5)
    solid = (np.abs(scene - sky).max(axis=2) > 0.02).astype(np.float32)
    near = (np.abs(scene - sky).max(axis=2) > 0.22).astype(np.float32)
    scene = scene * (1 + 0.11 * (near * stains)[..., None])
    scene = mix(scene, linear("#b9cdd6"), solid * 0.13)

    x, y, distance = view.ground(0.1)
    wave = tileable(rng, 1024, 10)
    swell = look_up(wave, x * 1.5, y * 1.5) + 0.5 * look_up(wave, x * 4.3, y * 4.3)
    depth = np.clip(-up, 0, 1)
    bend = swell * (2 + 90 * depth) * high / 1600
    row = np.clip(2 * base - np.arange(high, dtype=np.float32)[:, None] * 1.0 + bend + 2, 0, base + k * 0.02)
    col = np.broadcast_to(np.arange(wide, dtype=np.float32), row.shape) + bend * 0.15
    mirrored = cv2.remap(scene, col.astype(np.float32), row.astype(np.float32), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    deep = ramp(distance, [(0.2, linear("#1f6f78")), (0.6, linear("#2f8a8c")), (3, linear("#5fa8a8")), (9, linear("#9cc4cc"))])
    sand = smoothstep(0.3, 1.6, look_up(tileable(rng, 512, 3), x * 0.5, y * 0.5)) * smoothstep(1.6, 0.2, distance)
    deep = mix(deep, linear("#b5b083"), sand * 0.55) * (1 + 0.10 * swell[..., None])
    fresnel = np.clip(0.2 + 0.65 * np.exp(-depth * 7), 0, 0.85)
    water = mix(deep, mirrored, fresnel)
    sparkle = look_up(wave, x * 11, y * 11) + 0.5 * noise(rng, (high, wide), (2, 5), 2) + 0.35 * swell
    water = water + smoothstep(2.4, 3.6, sparkle)[..., None] * 0.8
    below = np.arange(high)[:, None] > base + int(k * 0.004)
    legs = np.all(scene < 0.35 * sky, axis=2) & (np.arange(high)[:, None] < base + k * 0.05)
    scene = mix(scene, water, (below & ~legs).astype(np.float32))
    matrix = cv2.getRotationMatrix2D((wide / 2, high / 2), -LEAN, 1.0)
    scene = cv2.warpAffine(scene, matrix, (wide, high), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REFLECT)
    rows = int(cols / 2.5)
    top, left = (high - rows) // 2, (wide - cols) // 2
    return develop(rng, scene[top : top + rows, left : left + cols], exposure=1.0, bloom=0.1)
