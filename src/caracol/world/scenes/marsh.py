"""`salt-marsh-dusk`: the marsh at low tide, nearly all the way round, the sun just gone."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Panorama, Plane, blur, develop, linear, look_up, mix, noise, ramp, smoothstep, tileable

SUN = 0.62
HORIZON = 0.6


def dusk_sky(rng: np.random.Generator, view: Panorama) -> Plane:
    """Return the evening sky for every row, mirrored below the horizon so that water can show it."""
    bearing, up = view.grid()
    up = np.abs(up)
    toward = np.cos(bearing - SUN * 2 * np.pi) * 0.5 + 0.5
    high = ramp(
        up,
        [(0, linear("#d79a6a")), (0.08, linear("#c98b78")), (0.22, linear("#8d7f98")), (0.42, linear("#51659a")), (0.6, linear("#2f4a82"))],
    )
    away = ramp(up, [(0, linear("#a08a98")), (0.07, linear("#a3879a")), (0.2, linear("#6f7aa0")), (0.6, linear("#2c447a"))])
    sky = mix(away, high, toward)
    near = np.exp(-(((1 - toward) * 7) ** 1.2) - (up * 5.5) ** 1.3)
    sky = sky + near[..., None] * np.array([1.5, 0.62, 0.2], np.float32)
    x, y, distance = view.ceiling(0.2)
    tex = tileable(rng, 1024, 3)
    streak = look_up(tex, x * 0.16, y * 0.16) + 0.5 * look_up(tex, x * 0.43 + 0.3, y * 0.43)
    cloud = smoothstep(-0.1, 1.6, streak) * smoothstep(0.03, 0.14, up) * smoothstep(11, 2, distance)
    lit = mix(
        ramp(up, [(0, (0.95, 0.42, 0.25)), (0.3, (0.62, 0.36, 0.4)), (0.6, (0.30, 0.30, 0.42))]), (0.26, 0.26, 0.38), 0.75 - 0.75 * toward
    )
    return mix(sky, lit, cloud * 0.8)


def _tree(mask: NDArray[np.uint8], rng: np.random.Generator, x: float, foot: float, high: float) -> None:
    """Paint a tree bent by the wind: a trunk that forks and forks again, leaves thick about its twigs, thin towards the wind."""
    twigs: list[tuple[float, float]] = []
    limbs = [(x, foot + high * 0.03, rng.normal(0.12, 0.06), high * rng.uniform(0.34, 0.46), 0)]
    while limbs:
        bx, by, lean, long, depth = limbs.pop()
        ex, ey = bx + long * np.sin(lean), by - long * np.cos(lean)
        cv2.line(
            mask, (int(bx * 8), int(by * 8)), (int(ex * 8), int(ey * 8)), 255, max(1, round(high * 0.045 * 0.62**depth)), cv2.LINE_AA, 3
        )
        if depth >= 2:
            twigs += [(bx + (ex - bx) * t, by + (ey - by) * t) for t in (0.5, 1.0)]
        if depth < 6:
            for _ in range(2 if depth else 3):
                limbs.append((ex, ey, lean + rng.normal(0.07, 0.5), long * rng.uniform(0.58, 0.8), depth + 1))
    for tx, ty in twigs:
        for _ in range(5):
            at = (int((tx + rng.normal(0.012, 0.02) * high) * 8), int((ty + rng.normal(0, 0.014) * high) * 8))
            size = high * rng.uniform(0.004, 0.013)
            cv2.ellipse(
                mask, at, (max(4, int(size * 12)), max(3, int(size * 7))), float(rng.uniform(-25, 25)), 0, 360, 255, -1, cv2.LINE_AA, 3
            )


def _skyline(rng: np.random.Generator, view: Panorama) -> tuple[Plane, Plane]:
    """Return the height of the far land over the horizon by column, in rows, and the mask of tram poles, huts and trees."""
    rows, cols = view.rows, view.cols
    land = 0.010 + 0.006 * noise(rng, (1, cols), (1, cols / 5), 5)[0] + 0.0035 * np.abs(noise(rng, (1, cols), (1, cols / 90), 5)[0])
    mask = np.zeros((rows * 2, cols * 2), np.uint8)
    base = int(view.horizon * rows * 2)
    k = rows * 2
    for centre in np.sort(rng.uniform(0.03, 0.97, 22)):
        x = int(centre * cols * 2)
        kind = rng.integers(0, 4)
        if kind == 0:  # a hut on stilts
            w, h = int(k * rng.uniform(0.018, 0.044)), int(k * rng.uniform(0.02, 0.036))
            lift = int(k * 0.016)
            cv2.rectangle(mask, (x - w, base - lift - h), (x + w, base - lift), 255, -1)
            cv2.fillPoly(
                mask,
                [
                    np.array(
                        [
                            [x - w - w // 4, base - lift - h],
                            [x + w + w // 4, base - lift - h],
                            [x + w // 3, base - lift - int(h * 1.8)],
                            [x - w // 3, base - lift - int(h * 1.8)],
                        ]
                    )
                ],
                255,
            )
            for leg in np.linspace(-0.9, 0.9, 4):
                cv2.line(mask, (x + int(leg * w), base - lift), (x + int(leg * w * 1.05), base + 4), 255, max(2, k // 900))
        elif kind == 1:  # a tall mast with stays
            h = int(k * rng.uniform(0.07, 0.13))
            cv2.line(mask, (x, base), (x, base - h), 255, max(2, k // 700))
            cv2.line(mask, (x, base - h), (x + h // 3, base), 255, max(1, k // 1800))
            cv2.line(mask, (x, base - h), (x - h // 3, base), 255, max(1, k // 1800))
        else:  # wind-bent trees
            for _ in range(rng.integers(2, 6)):
                _tree(mask, rng, x + rng.normal(0, k * 0.03), base, k * rng.uniform(0.03, 0.07))
    small = cv2.resize(mask, (cols, rows), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
    return land * rows, small


def draw(rng: np.random.Generator, cols: int = 4200) -> NDArray[np.uint8]:
    """Draw the photo, three times as wide as high."""
    view = Panorama(cols // 3, cols, HORIZON)
    sky = dusk_sky(rng, view)
    bearing, up = view.grid()
    toward = np.cos(bearing - SUN * 2 * np.pi) * 0.5 + 0.5
    land, objects = _skyline(rng, view)
    far = smoothstep(-0.6, 0.6, land[None, :] - up * view.rows) * (up > 0)
    haze = mix(np.full_like(sky, 0) + np.array(linear("#4d4a60"), np.float32), sky, 0.42)
    scene = mix(sky, haze, far)
    scene = mix(scene, mix(np.zeros_like(sky) + np.array([0.020, 0.019, 0.026], np.float32), sky, 0.06), objects)
    above = scene.copy()

    x, y, distance = view.ground(0.09)
    tex, fine = tileable(rng, 1024, 4), tileable(rng, 1024, 24)
    relief = look_up(tex, x * 0.34, y * 0.34) + 0.4 * look_up(tex, x * 1.1, y * 1.1) + 0.14 * look_up(fine, x * 0.9, y * 0.9)
    water = smoothstep(0.10, -0.05, relief - 0.25 * smoothstep(0.3, 1.2, distance) + 0.3)
    ripple = noise(rng, (view.rows, cols), (9, 120), 3) * np.clip(-up * 30, 0.4, 6)
    row = np.clip(2 * view.horizon * view.rows - np.arange(view.rows, dtype=np.float32)[:, None] + ripple, 0, view.horizon * view.rows - 1)
    col = np.broadcast_to(np.arange(cols, dtype=np.float32), row.shape) + ripple * 0.4
    mirrored = cv2.remap(above, col.astype(np.float32), row.astype(np.float32), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    shine = mix(mirrored * np.array([0.80, 0.82, 0.86], np.float32), linear("#3a4558"), smoothstep(0.02, 0.42, -up) * 0.45)
    grass = look_up(fine, x * 3.1, y * 3.1) + 0.8 * look_up(fine, x * 9, y * 9 + bearing * 0)
    tuft = smoothstep(-1.2, 1.8, grass + relief * 0.8)
    soil = ramp(relief + 0.2, [(-0.4, linear("#2b2a2e")), (0.25, linear("#3d3a33")), (0.9, linear("#5b553c")), (2, linear("#77683f"))])
    soil = soil * (0.12 + 0.62 * tuft[..., None]) * (0.62 + 0.9 * toward[..., None] * np.array([1.25, 0.95, 0.75], np.float32))
    rim_light = np.clip(np.gradient(relief, axis=0) * -6, 0, 1) * toward
    soil = soil + rim_light[..., None] * np.array([0.22, 0.11, 0.05], np.float32)
    ground = mix(soil, shine, water)
    wet = smoothstep(0.12, -0.12, relief) * (1 - water)
    ground = mix(ground, shine * 0.6, wet * 0.5)
    ground = mix(ground, mix(sky, linear("#8d7478"), 0.4), smoothstep(0.9, 9, distance) * 0.55)
    scene = mix(above, ground, smoothstep(0.5, -0.5, up * view.rows))
    mist = np.exp(-((up * 26) ** 2)) * (0.55 + 0.3 * noise(rng, (view.rows, cols), (60, 900), 3))
    scene = mix(scene, mix(blur(sky, view.rows * 0.02), linear("#c09a86"), 0.35), np.clip(mist, 0, 1) * 0.4)
    return develop(rng, scene, exposure=1.25, bloom=0.18)
