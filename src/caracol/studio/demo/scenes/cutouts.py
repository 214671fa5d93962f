"""Cut-outs and textures: `heron`, `paper-boat` on nothing; `tape-bars`, `salt-dust` to be laid over pictures."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, linear, mix, noise, smoothstep

FINE = 3
"""Outlines are drawn this many times larger."""


def _coded(light: Plane) -> Plane:
    light = np.clip(light, 0, 1)
    return np.asarray(np.where(light <= 0.0031308, light * 12.92, 1.055 * np.maximum(light, 1e-6) ** (1 / 2.4) - 0.055))


def _cut(rng: np.random.Generator, light: Plane, cover: Plane, grain: float = 0.012) -> NDArray[np.uint8]:
    """Return RGBA bytes: coded colours with a little grain, and how far the subject covers."""
    coded = _coded(blur(light, 0.7)) + rng.standard_normal(light.shape).astype(np.float32) * grain
    return (np.clip(np.concatenate([coded, cover[..., None]], axis=-1), 0, 1) * 255 + 0.5).astype(np.uint8)


def _poly(shape: tuple[int, int], points: list[tuple[float, float]], size: float, closed: bool = True, wide: float = 0.0) -> Plane:
    """Return how a smooth outline (or stroke) through points, in shares of the height, covers the picture."""
    big = np.zeros((shape[0] * FINE, shape[1] * FINE), np.uint8)
    p = np.array(points, np.float64)
    p = np.concatenate([p[-1:], p, p[:2]]) if closed else np.concatenate([p[:1], p, p[-1:]])
    out = []
    for k in range(1, len(p) - 2):
        for t in np.linspace(0, 1, 12, endpoint=False):
            a, b, c, d = p[k - 1], p[k], p[k + 1], p[k + 2]
            out.append(0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * (b - c) + d - a) * t**3))
    line = (np.array(out) * size * FINE).astype(np.int32)
    if wide:
        cv2.polylines(big, [line], False, 255, max(1, int(wide * size * FINE)), cv2.LINE_AA)
    else:
        cv2.fillPoly(big, [line], 255, cv2.LINE_AA)
    return cv2.resize(big, shape[::-1], interpolation=cv2.INTER_AREA).astype(np.float32) / 255


def draw_heron(rng: np.random.Generator, cols: int = 1400) -> NDArray[np.uint8]:
    """Draw a grey heron standing, lit from the left, 3:4."""
    rows = cols * 4 // 3
    shape, k = (rows, cols), float(rows)
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32) / k
    feather = noise(rng, shape, (rows * 0.012, rows * 0.06), 5)
    grey = np.array(linear("#8b98a6"), np.float32)
    body = _poly(
        shape,
        [(0.29, 0.36), (0.35, 0.34), (0.44, 0.42), (0.55, 0.53), (0.66, 0.63), (0.58, 0.63), (0.47, 0.62), (0.36, 0.57), (0.28, 0.47)],
        k,
    )
    wing = _poly(shape, [(0.36, 0.38), (0.47, 0.45), (0.58, 0.55), (0.68, 0.645), (0.55, 0.61), (0.43, 0.55), (0.34, 0.46)], k)
    neck = _poly(
        shape, [(0.325, 0.43), (0.25, 0.37), (0.235, 0.31), (0.285, 0.255), (0.325, 0.2), (0.315, 0.145), (0.27, 0.125)], k, False, 0.036
    )
    head = _poly(shape, [(0.235, 0.115), (0.27, 0.098), (0.315, 0.11), (0.325, 0.138), (0.285, 0.15), (0.245, 0.14)], k)
    bill = _poly(shape, [(0.25, 0.118), (0.17, 0.136), (0.105, 0.156), (0.17, 0.15), (0.25, 0.142)], k)
    crest = _poly(shape, [(0.28, 0.105), (0.34, 0.115), (0.41, 0.16), (0.34, 0.128)], k)
    legs = np.maximum(
        _poly(shape, [(0.415, 0.6), (0.42, 0.7), (0.412, 0.77), (0.418, 0.93), (0.37, 0.948)], k, False, 0.0105),
        _poly(shape, [(0.475, 0.61), (0.492, 0.71), (0.472, 0.78), (0.48, 0.945), (0.435, 0.962)], k, False, 0.0105),
    )
    light = np.zeros((rows, cols, 3), np.float32) + grey
    lit = np.clip(1.25 - 1.7 * (x - 0.3) - 0.5 * (y - 0.4), 0.35, 1.4)
    light = light * (lit * (1 + 0.1 * feather))[..., None]
    light = mix(light, np.array(linear("#5c6a7a"), np.float32) * (lit * (1 + 0.22 * feather))[..., None], wing)
    light = mix(
        light, np.array(linear("#e4e2da"), np.float32) * np.clip(1.3 - 2.2 * (x - 0.25), 0.55, 1.2)[..., None], np.maximum(neck, head)
    )
    streak = smoothstep(0.3, 1.2, noise(rng, shape, (rows * 0.02, rows * 0.004), 3)) * neck * smoothstep(0.2, 0.34, y)
    light = mix(light, linear("#2b3038"), streak * 0.8)
    light = mix(light, linear("#14181e"), np.maximum(crest, smoothstep(0.012, 0.008, np.hypot(x - 0.3, (y - 0.108) * 1.7) - 0.016) * head))
    light = mix(light, np.array(linear("#c98d2e"), np.float32) * np.clip(1.5 - 4 * np.abs(y - 0.138) * 10, 0.6, 1.2)[..., None], bill)
    light = mix(light, np.array(linear("#8a7b4d"), np.float32) * np.clip(0.8 + 0.1 * feather, 0.4, 1.2)[..., None], legs)
    eye = np.hypot(x - 0.262, y - 0.122)
    light = mix(mix(light, linear("#e0b542"), smoothstep(0.0085, 0.0065, eye)), linear("#08090b"), smoothstep(0.0045, 0.003, eye))
    cover = np.maximum.reduce([body, wing, neck, head, bill, crest, legs])
    return _cut(rng, light, cover)


def draw_boat(rng: np.random.Generator, cols: int = 1500) -> NDArray[np.uint8]:
    """Draw a folded paper boat, 3:2."""
    rows = cols * 2 // 3
    shape, k = (rows, cols), float(rows)
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32) / k
    fibre = noise(rng, shape, (rows * 0.004, rows * 0.03), 4)
    parts = (
        ([(0.5, 0.62), (0.75, 0.18), (1.0, 0.62), (0.75, 0.72)], "#efe9dc", 1.0), ([(0.75, 0.18), (1.0, 0.62), (0.84, 0.62)], "#d6cdbb", 1.0),
        ([(0.08, 0.5), (0.5, 0.62), (0.75, 0.7), (0.45, 0.88), (0.32, 0.86)], "#f6f1e6", 1.0), ([(1.42, 0.5), (1.0, 0.62), (0.75, 0.7), (1.05, 0.88), (1.18, 0.86)], "#d9d0bf", 1.0),
        ([(0.45, 0.88), (0.75, 0.7), (1.05, 0.88)], "#e6dfd0", 1.0),
    )  # fmt: skip
    light, cover = np.zeros((rows, cols, 3), np.float32), np.zeros(shape, np.float32)
    for points, code, _ in parts:
        big = np.zeros((rows * FINE, cols * FINE), np.uint8)
        cv2.fillPoly(big, [(np.array(points) * k * FINE).astype(np.int32)], 255, cv2.LINE_AA)
        one = cv2.resize(big, (cols, rows), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
        low = min(p[1] for p in points)
        shade = np.clip(1.02 - 0.35 * (y - low) + 0.03 * fibre, 0.4, 1.1)
        light = mix(light, np.array(linear(code), np.float32) * shade[..., None], one)
        cover = np.maximum(cover, one)
    print_lines = smoothstep(0.16, 0.1, np.abs((x * 0.35 + y * 2.6) * 9 % 1 - 0.5)) * smoothstep(
        0.1, 0.6, noise(rng, shape, (rows * 0.01, rows * 0.02), 2) + 0.5
    )
    light = mix(light, linear("#4f6d78"), print_lines * 0.32 * ((y > 0.5) & (x < 0.78)))
    fold = smoothstep(0.004, 0.0, np.abs(x - 0.75)) * (y < 0.7) * (y > 0.2)
    return _cut(rng, light * (1 - 0.2 * fold)[..., None], cover)


def draw_bars(rng: np.random.Generator, cols: int = 2400) -> NDArray[np.uint8]:
    """Draw noisy level bars of tape damage on black, to be laid over by `screen` or `lighten`, 16:9."""
    rows = cols * 9 // 16
    out = np.zeros((rows, cols, 3), np.float32)
    line = noise(rng, (rows, cols), (1.5, cols * 0.05), 3)
    for _ in range(20):
        at, high = rng.uniform(0, 1), min(rng.pareto(2.2) * 0.004 + 0.001, 0.03)
        v = np.abs((np.arange(rows) + 0.5) / rows - at) / high
        body = np.exp(-(v**2))[:, None] * np.clip(0.4 + 0.8 * line, 0, 2)
        tint = np.array(linear(str(rng.choice(["#cfd8e6", "#e6e0d0", "#9fb8d8", "#e8a7b8", "#a8e0c8"]))), np.float32)
        out += (body * rng.uniform(0.15, 0.9))[..., None] * tint
    streak = smoothstep(2.6, 3.4, noise(rng, (rows, cols), (1.2, cols * 0.02), 1)) * rng.uniform(0, 1, (rows, 1))
    out += streak[..., None] * 0.9
    foot = smoothstep(0.93, 0.98, np.arange(rows) / rows)[:, None] * np.clip(line + 0.5, 0, 2)
    out += foot[..., None] * 0.5
    return (np.clip(_coded(np.clip(out, 0, 1)) + rng.standard_normal((rows, cols, 1)) * 0.012, 0, 1) * 255 + 0.5).astype(np.uint8)


def draw_dust(rng: np.random.Generator, cols: int = 2400) -> NDArray[np.uint8]:
    """Draw salt dust, hairs and scratches on black, 3:2."""
    rows = cols * 2 // 3
    out = np.zeros((rows, cols), np.float32)
    count = 3800
    y, x = (rng.uniform(0, n, count).astype(int) for n in (rows, cols))
    sizes = rng.pareto(2.4, count) * cols * 0.0005 + 0.5
    for px, py, size in zip(x, y, np.minimum(sizes, cols * 0.005), strict=True):
        angle, ratio = rng.uniform(0, 180), rng.uniform(0.4, 1)
        cv2.ellipse(out, (int(px), int(py)), (max(1, int(size)), max(1, int(size * ratio))), angle, 0, 360, float(rng.uniform(0.25, 1)), -1)
    for _ in range(46):
        start, turn, bend = rng.uniform(0, 1, 2) * (cols, rows), rng.uniform(0, 6.3), rng.normal(0, 0.05)
        points = [start]
        for _ in range(int(rng.integers(14, 70))):
            turn += bend + rng.normal(0, 0.04)
            points.append(points[-1] + np.array([np.cos(turn), np.sin(turn)]) * cols * 0.0032)
        cv2.polylines(out, [np.array(points).astype(np.int32)], False, float(rng.uniform(0.2, 0.7)), max(1, cols // 1500))
    for _ in range(14):
        px = rng.uniform(0, cols)
        cv2.line(out, (int(px), 0), (int(px + rng.normal(0, cols * 0.01)), rows), float(rng.uniform(0.06, 0.2)), 1)
    haze = np.clip(noise(rng, (rows, cols), (rows * 0.3, rows * 0.3), 5), 0, 2) * 0.018
    light = blur(out, cols / 2400 * 0.9) + 0.25 * blur(out, cols / 2400 * 4) + haze
    coded = _coded(np.clip(light, 0, 1))[..., None] * np.array([1, 0.985, 0.95])
    return (np.clip(coded + rng.standard_normal((rows, cols, 1)) * 0.006, 0, 1) * 255 + 0.5).astype(np.uint8)
