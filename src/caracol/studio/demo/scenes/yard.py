"""`rail-yard-night`: rails, signal posts and waiting wagons under lamps, after rain."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, ramp, smoothstep

HORIZON = 0.42
MIDDLE = 0.47
WIDE = 8.5
"""How far aside is seen, for each unit of distance."""
LAMPS = (
    ("#ff4a38", 0.30, 0.31, 1.0), ("#4ee08a", 0.405, 0.335, 0.62), ("#ffb13d", 0.62, 0.29, 1.15), ("#ff4a38", 0.735, 0.345, 0.5),
    ("#4ee08a", 0.155, 0.22, 1.5), ("#f4f0ff", 0.865, 0.14, 1.7), ("#ffd9a0", 0.045, 0.13, 1.5), ("#ff4a38", 0.505, 0.372, 0.3),
)  # fmt: skip
"""Colour, place and size of the signals and lamps; sizes go with nearness."""


def _ground(rng: np.random.Generator, rows: int, cols: int) -> tuple[Plane, Plane, Plane]:
    """Return for every point below the horizon how far away it lies, and rails and sleepers there, 0…1."""
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
    down = np.maximum(y / rows - HORIZON, 1e-4)
    away = 0.085 / down
    aside = (x / cols - MIDDLE) * away * WIDE * cols / rows
    rails, sleepers = np.zeros_like(x), np.zeros_like(x)
    for track in (-3.6, -2.25, -0.95, 0.35, 1.65, 3.0):
        bend = track + (0.06 * away * (1 if track > 1 else 0))
        for side in (-0.24, 0.24):
            off = np.abs(aside - bend - side)
            pixel = away * WIDE / rows
            rails = np.maximum(rails, np.clip((0.026 + 0.5 * pixel - off) / np.maximum(pixel, 1e-4), 0, 1))
        in_track = np.abs(aside - bend) < 0.42
        beat = (away * 26) % 1
        sleepers = np.maximum(sleepers, in_track * smoothstep(0.3, 0.2, np.abs(beat - 0.5)) * smoothstep(0.9, 0.35, away))
    return away, rails, sleepers


def _post(scene: Plane, x: float, head: float, size: float, foot: float, gantry: float | None) -> None:
    """Paint a straight post with its signal's box, and perhaps a beam across the tracks."""
    rows, cols = scene.shape[:2]
    wide = max(2, int(size * cols * 0.0032))
    px, top, bottom = int(x * cols), int(head * rows), int(foot * rows)
    cv2.rectangle(scene, (px - wide // 2, top), (px + wide // 2, bottom), (0.02, 0.022, 0.03), -1)
    cv2.rectangle(scene, (px - wide // 2, top), (px - wide // 2 + max(1, wide // 4), bottom), (0.09, 0.09, 0.11), -1)
    box = int(size * cols * 0.0085)
    cv2.rectangle(scene, (px - box, top - int(box * 2.1)), (px + box, top + int(box * 2.1)), (0.012, 0.013, 0.017), -1)
    for rung in range(top + box * 3, bottom, max(6, int(size * rows * 0.02))):
        cv2.line(scene, (px, rung), (px + wide * 2, rung), (0.03, 0.03, 0.035), max(1, wide // 4))
    if gantry is not None:
        beam = top - int(box * 2.6)
        cv2.rectangle(scene, (min(px, int(gantry * cols)), beam), (max(px, int(gantry * cols)), beam + wide), (0.022, 0.024, 0.032), -1)


def _wagon(scene: Plane, rng: np.random.Generator, left: tuple[float, float], right: tuple[float, float], code: str) -> None:
    """Paint the side of a wagon between two upright edges, given as (place, height) about the horizon, with doors and lettering bands."""
    rows, cols = scene.shape[:2]
    (x0, h0), (x1, h1) = left, right
    steps = int(abs(x1 - x0) * cols)
    paint = np.array(linear(code), np.float32)
    for n in range(steps):
        t = n / max(steps - 1, 1)
        col = int((x0 + (x1 - x0) * t) * cols)
        if not 0 <= col < cols:
            continue
        h = h0 + (h1 - h0) * t
        along = (1 / h - 1 / h0) / (1 / h1 - 1 / h0)
        top, foot = int((HORIZON - h * 0.62) * rows), int((HORIZON + h * 0.34) * rows)
        part = (along * 5.0) % 1
        tone = 0.24 * (0.86 if 0.45 < part < 0.55 else 1.0) * (0.5 if part < 0.02 else 1.0)
        ridge = 0.85 + 0.15 * np.cos(along * 5 * 2 * np.pi * 9)
        column = paint * (tone * ridge)
        shade = np.linspace(1.3, 0.55, max(foot - top, 1), dtype=np.float32)[:, None]
        a, b = max(top, 0), min(foot, rows)
        scene[a:b, col] = (column[None, :] * shade)[a - top : b - top]
        band = int((HORIZON - h * 0.2) * rows)
        scene[max(band, 0) : max(min(band + int(h * 0.05 * rows), rows), 0), col] *= 1.9
        scene[max(foot, 0) : max(min(foot + int(h * 0.1 * rows), rows), 0), col] = 0.008


def draw(rng: np.random.Generator, cols: int = 3900) -> NDArray[np.uint8]:
    """Draw the photo, nearly twice as wide as high."""
    rows = int(cols / 1.85)
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
    v, u = y / rows, x / cols
    sky = ramp(v, [(0, linear("#0d1626")), (0.25, linear("#1c2a44")), (HORIZON, linear("#4a4a5c")), (1, linear("#4a4a5c"))]) * 0.75
    cloud = noise(rng, (rows, cols), (rows * 0.14, cols * 0.2), 6)
    sky = sky * (1 + 0.3 * cloud[..., None]) + np.exp(-(((v - HORIZON) * 8) ** 2))[..., None] * np.array([0.13, 0.07, 0.03], np.float32)
    scene = sky.copy()
    edge = (
        HORIZON
        - 0.012
        - 0.02 * np.clip(noise(rng, (1, cols), (1, cols / 26), 3)[0], 0, 2)
        - 0.02 * (np.floor(u[0] * 37 + np.sin(u[0] * 60)) % 3 == 0)
    )
    scene = mix(scene, linear("#10141d"), smoothstep(-0.0006, 0.0006, v - edge[None, :]) * (v < HORIZON + 0.004))
    for _ in range(120):
        px, py = int(rng.uniform(0, cols)), int((HORIZON - rng.uniform(0.002, 0.03)) * rows)
        scene[py : py + 2, px : px + 2] += np.array([1.6, 1.0, 0.45], np.float32) * rng.uniform(0.2, 1)
    away, rails, sleepers = _ground(rng, rows, cols)
    below = v > HORIZON
    stones = noise(rng, (rows, cols), (5, 7), 3) * np.clip(2.4 - away, 0.15, 1)
    puddle = smoothstep(0.5, 1.1, noise(rng, (rows, cols), (rows * 0.05, cols * 0.13), 5)) * smoothstep(3.5, 1.2, away)
    ballast = np.clip(0.036 + 0.012 * stones, 0.006, 1)[..., None] * np.array([0.9, 0.88, 0.95], np.float32)
    ballast = mix(ballast, (0.022, 0.018, 0.016), sleepers * 0.85)
    _wagon(scene, rng, (-0.02, 0.78), (0.335, 0.075), "#7c4a3a")
    _wagon(scene, rng, (1.02, 0.62), (0.66, 0.07), "#3d5f73")
    for k, place in enumerate((0.30, 0.405, 0.62, 0.735, 0.155, 0.865, 0.045)):
        head, size = next((lamp[2], lamp[3]) for lamp in LAMPS if lamp[1] == place)
        _post(scene, place, head, size, HORIZON + 0.06 * size * (1.4 if size > 1 else 1), 0.62 if k == 0 else None)
    for wire in range(6):
        t = np.linspace(0, 1, 200)
        sx, ex = 0.04 + 0.17 * wire, MIDDLE + (wire - 2.5) * 0.012
        px, py = (sx + (ex - sx) * t**0.6) * cols, (0.02 + (HORIZON - 0.05) * t**0.55 + 0.02 * np.sin(t * np.pi)) * rows
        cv2.polylines(scene, [np.stack([px, py], 1).astype(np.int32)], False, (0.012, 0.013, 0.018), max(1, cols // 2600), cv2.LINE_AA)
    lights = np.zeros_like(scene)
    for code, px, py, size in LAMPS:
        cv2.circle(
            lights,
            (int(px * cols), int(py * rows)),
            max(2, int(size**0.7 * cols * 0.003)),
            tuple(float(c) * 7 for c in linear(code)),
            -1,
            cv2.LINE_AA,
        )
    flipped = np.flipud(scene + lights)
    shift = round((2 * HORIZON - 1) * rows)
    mirrored = np.roll(flipped, shift, axis=0)
    mirrored = blur(mirrored, rows * 0.004) + 0.7 * cv2.GaussianBlur(mirrored, (0, 0), 2, sigmaY=rows * 0.05)
    wet = np.clip(0.14 + 0.6 * puddle + 0.05 * stones, 0.05, 0.85) * below
    ground = mix(ballast, mix(mirrored, mirrored.mean(axis=2, keepdims=True) * np.array([0.92, 0.96, 1.1], np.float32), 0.45) * 0.8, wet)
    shine = mirrored.mean(axis=2) * 0.8 + 0.12
    ground = mix(ground, np.clip(shine, 0.05, 3)[..., None] * np.array([0.75, 0.8, 0.95], np.float32), rails * 0.95)
    solid = (np.abs(scene - sky).max(axis=2) > 0.012) & below
    scene = np.where((below & ~solid)[..., None], ground, scene)
    halo = 1.1 * blur(lights, rows * 0.006) + 2.2 * blur(lights, rows * 0.025) + 2.6 * blur(lights, rows * 0.1)
    haze = np.exp(-(((v - HORIZON) * 5) ** 2))[..., None] * np.array([0.035, 0.032, 0.04], np.float32)
    return develop(rng, blur(scene, 0.8) + lights + halo + haze, exposure=1.9, grain=0.018, bloom=0.2)
