"""`observatory-ridge-night`: an observatory on a bare ridge under the stars, seen nearly all the way round."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Panorama, Plane, blur, develop, linear, look_up, mix, noise, ramp, smoothstep, tileable

HORIZON = 0.72
DOMES = ((0.36, 1.0), (0.44, 0.55), (0.71, 0.7))
"""Where the domes stand, as shares of the width, and how large."""


def night_sky(rng: np.random.Generator, view: Panorama) -> Plane:
    """Return the sky for every row: a glow low in the west, a band of far stars, single stars of many colours."""
    bearing, up = view.grid()
    up = np.clip(up, 0, 1)
    sky = ramp(up, [(0, linear("#3f4f6b")), (0.1, linear("#26385c")), (0.35, linear("#141f42")), (0.75, linear("#0b1229"))]) * 0.6
    glow = np.exp(-((np.cos(bearing - 5.1) - 1) ** 2) * 5 - up * 9)
    sky = sky + glow[..., None] * np.array([0.34, 0.17, 0.07], np.float32)
    across = up * 1.35 - 0.42 - 0.24 * np.sin(bearing * 1.0 + 0.6)
    tex = tileable(rng, 1024, 5)
    dust = look_up(tex, bearing * 0.32, up * 0.9) + 0.6 * look_up(tex, bearing * 0.9, up * 2.4)
    band = np.exp(-((across * 7) ** 2)) * (0.55 + 0.3 * dust)
    lane = smoothstep(0.1, 1.5, dust + 1.2 * np.exp(-((across * 17) ** 2)) - 0.4)
    sky = sky + (np.clip(band, 0, 2) * (1 - 0.75 * lane))[..., None] * np.array([0.16, 0.15, 0.2], np.float32)
    rows, cols = up.shape
    lights = np.zeros((rows, cols, 3), np.float32)
    count = int(9000 * cols / 4200)
    y, x = rng.uniform(0, HORIZON * rows, count * 2), rng.uniform(0, cols, count * 2)
    dense = np.clip(band[y.astype(int), x.astype(int)], 0, 1)
    keep = rng.random(count * 2) < 0.35 + 0.65 * dense
    for px, py in zip(x[keep], y[keep], strict=True):
        size = rng.pareto(2.2) * 0.16 + 0.05
        tint = np.array([1.0, 0.92, 0.8]) if rng.random() < 0.35 else np.array([0.82, 0.9, 1.0])
        lights[int(py), int(px)] += (tint * min(size, 14) * 4.2).astype(np.float32)
    near = blur(lights, cols / 4200 * 0.8)
    wide = blur(np.where(lights > 8, lights, 0), cols / 4200 * 6)
    clear = smoothstep(0.0, 0.12, up)[..., None]
    return sky + (near * 1.6 + wide * 1.3) * clear


def _ridge(rng: np.random.Generator, cols: int, rows: int, low: float, rough: float, waves: float) -> Plane:
    """Return the height of a ridge line over the horizon by column, in rows; the ends nearly meet."""
    t = np.arange(cols) / cols * 2 * np.pi
    line = sum(np.sin(t * k + rng.uniform(0, 6)) / k for k in (1, 2, 3, 5))
    fine = noise(rng, (1, cols), (1, cols / waves), 7, 0.55)[0]
    return np.asarray((low + rough * (0.5 * line + 0.5 * fine)) * rows, np.float32)


def _dome(scene: Plane, mask: Plane, x: float, foot: float, size: float, rng: np.random.Generator) -> None:
    """Paint an observatory: a drum, a dome with its slit open and lit, a railing, a small hut beside it."""
    r = size
    drum = (int(x - r), int(foot - r * 0.75), int(x + r), int(foot + r * 0.2))
    shade = np.linspace(0.36, 0.07, drum[2] - drum[0], dtype=np.float32)[None, :, None] * np.array([0.62, 0.7, 0.9], np.float32)
    scene[drum[1] : drum[3], drum[0] : drum[2]] = shade
    mask[drum[1] : drum[3], drum[0] : drum[2]] = 1
    yy, xx = np.mgrid[int(foot - r * 1.9) : drum[1], drum[0] - 2 : drum[2] + 2].astype(np.float32)
    px, py = (xx - x) / (r * 1.04), (yy - (foot - r * 0.75)) / (r * 1.04)
    inside = px * px + py * py < 1
    normal = np.sqrt(np.clip(1 - px * px - py * py, 0, 1))
    light = np.clip(-0.62 * px + 0.5 * normal - 0.25 * py, 0.05, 1) * 0.62
    rib = 0.93 + 0.07 * np.cos(np.arctan2(px, normal + 0.2) * 18)
    shell = (light * rib)[..., None] * np.array([0.66, 0.74, 0.94], np.float32)
    slit = inside & (np.abs(px - 0.18 - 0.08 * py) < 0.1) & (py < -0.12)
    shell[slit] = np.array([1.9, 1.15, 0.55], np.float32)
    part = (slice(int(foot - r * 1.9), drum[1]), slice(drum[0] - 2, drum[2] + 2))
    scene[part] = np.where(inside[..., None], shell, scene[part])
    mask[part] = np.maximum(mask[part], inside)
    cv2.line(scene, (drum[0], drum[1]), (drum[2], drum[1]), (0.5, 0.52, 0.6), max(1, int(r * 0.04)))
    for k in range(3):
        left = int(x - r * 0.6 + k * r * 0.45)
        cv2.rectangle(scene, (left, int(foot - r * 0.45)), (left + int(r * 0.17), int(foot - r * 0.2)), (1.5, 0.95, 0.42), -1)
    cv2.rectangle(scene, (int(x + r * 1.05), int(foot - r * 0.34)), (int(x + r * 1.9), int(foot + r * 0.2)), (0.05, 0.055, 0.08), -1)
    mask[int(foot - r * 0.34) : int(foot + r * 0.2), int(x + r * 1.05) : int(x + r * 1.9)] = 1
    cv2.rectangle(scene, (int(x + r * 1.3), int(foot - r * 0.18)), (int(x + r * 1.42), int(foot + r * 0.02)), (1.8, 1.2, 0.5), -1)


def draw(rng: np.random.Generator, cols: int = 4200) -> NDArray[np.uint8]:
    """Draw the photo, nearly three times as wide as high."""
    rows = int(cols / 2.8)
    view = Panorama(rows, cols, HORIZON)
    sky = night_sky(rng, view)
    _, up = view.grid()
    height = up * rows
    scene = sky
    for low, rough, waves, code, haze in ((0.06, 0.05, 6, "#32415f", 0.5), (0.02, 0.05, 9, "#1f2b45", 0.25)):
        line = _ridge(rng, cols, rows, low, rough, waves)
        cover = smoothstep(-1.0, 1.0, line[None, :] - height)
        body = mix(np.zeros_like(scene) + np.array(linear(code), np.float32) * 0.55, blur(sky, rows * 0.05), haze)
        scene = mix(scene, body, cover)
    line = _ridge(rng, cols, rows, -0.045, 0.045, 14)
    at = np.arange(cols) / cols
    for place, size in DOMES:
        # The ridge is levelled where something stands on it.
        flat = np.exp(-(((at - place) / (0.02 + 0.028 * size)) ** 4))
        line = line * (1 - flat) + line[int(place * cols)] * flat
    cover = smoothstep(-0.8, 0.8, line[None, :] - height)
    depth = np.clip((line[None, :] - height) / rows, 0, 1)
    stone = noise(rng, (rows, cols), (22, 40), 6, 0.6)
    slope = np.gradient(cv2.GaussianBlur(stone, (0, 0), 1.2), axis=1) * 6
    rock = np.clip(0.45 + 0.6 * slope + 0.16 * stone, 0.06, 1.1)[..., None] * np.array([0.026, 0.031, 0.045], np.float32)
    rock = rock * (1.25 - 0.9 * np.clip(depth * 3.2, 0, 1))[..., None]
    scene = mix(scene, rock, cover)
    for place, size in DOMES:
        x, foot = place * cols, HORIZON * rows - line[int(place * cols)] + rows * 0.006
        r = rows * 0.068 * size
        mask = np.zeros((rows, cols), np.float32)
        _dome(scene, mask, x, foot, r, rng)
        pool = np.exp(-(((np.arange(cols)[None, :] - x) / (r * 2.6)) ** 2) - ((np.arange(rows)[:, None] - foot) / (r * 0.8)) ** 2)
        scene = scene + (pool * cover * (0.5 + 0.5 * np.clip(stone, -1, 2)) * (1 - mask))[..., None] * np.array(
            [0.2, 0.12, 0.05], np.float32
        )
    road = np.cumsum(rng.normal(0, 0.002, 60))
    for k in range(60):
        t = k / 59
        px = (0.36 + 0.16 * t + road[k] * 2 + 0.03 * np.sin(t * 9)) * cols
        py = (HORIZON + 0.03 + 0.2 * t**1.3) * rows
        if k % 6 == 2:
            scene[int(py), int(px)] += np.array([40, 24, 9], np.float32) * (0.4 + t)
    return develop(rng, blur(scene, 0.7), exposure=1.7, grain=0.02, bloom=0.28)
