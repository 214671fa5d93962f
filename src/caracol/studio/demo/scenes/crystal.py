"""`salt-crystal`: a cluster of cubes on an empty pale ground."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, smoothstep

LIGHT = np.array([-0.55, 0.75, 0.45]) / np.linalg.norm([-0.55, 0.75, 0.45])


def _cube_faces(
    size: float, spin: float, tip: float, at: tuple[float, float, float]
) -> list[tuple[NDArray[np.float64], NDArray[np.float64]]]:
    """Return (corners, normal) of the six faces of a turned cube in world coordinates (x right, y up, z to the eye)."""
    ca, sa, cb, sb = np.cos(spin), np.sin(spin), np.cos(tip), np.sin(tip)
    turn = np.array([[ca, 0, sa], [0, 1, 0], [-sa, 0, ca]]) @ np.array([[1, 0, 0], [0, cb, -sb], [0, sb, cb]])
    faces = []
    for axis in range(3):
        for sign in (-1, 1):
            normal = np.zeros(3)
            normal[axis] = sign
            a, b = np.eye(3)[(axis + 1) % 3], np.eye(3)[(axis + 2) % 3]
            corners = [normal + i * a + j * b for i, j in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
            faces.append((np.array([turn @ c * size + np.array(at) for c in corners]), turn @ normal))
    return faces


def _project(points: NDArray[np.float64], rows: int, cols: int) -> NDArray[np.float64]:
    """Look down on the table from 32° above it, far away."""
    tilt = np.radians(32)
    y = points[:, 1] * np.cos(tilt) - points[:, 2] * np.sin(tilt)
    return np.stack([cols * 0.5 + points[:, 0] * rows * 0.5, rows * 0.56 - y * rows * 0.5], axis=1)


def _paint(
    scene: Plane, points: NDArray[np.float64], normal: NDArray[np.float64], depth: float, flaws: Plane, lines: Plane, k: float
) -> None:
    """Paint one face of a cube into the scene: lit, a little see-through, paler and brighter at its edges."""
    rows, cols = flaws.shape
    pad = int(depth * 3 + 8)
    (left, top), (right, low) = np.maximum(points.min(axis=0).astype(int) - pad, 0), points.max(axis=0).astype(int) + pad
    part = (slice(top, min(low, rows)), slice(left, min(right, cols)))
    inside = points - (left, top)
    mask = np.zeros(flaws[part].shape, np.float32)
    if not mask.size:
        return
    outline = mask.copy()
    cv2.fillConvexPoly(mask, (inside * 8).astype(np.int32), 1.0, cv2.LINE_AA, 3)
    cv2.polylines(outline, [(inside * 8).astype(np.int32)], True, 1.0, max(1, int(2.2 * k)), cv2.LINE_AA, 3)
    inner = blur(mask, depth)
    lit = float(np.clip(normal @ LIGHT, 0, 1)) ** 1.4
    y, x = np.mgrid[part].astype(np.float32)
    slope = (x - points[:, 0].mean()) / cols * np.float32(normal[0] * 3) - (y - points[:, 1].mean()) / rows * np.float32(3)
    base = np.array([0.98, 0.96, 0.95], np.float32) * np.float32(0.10 + 0.86 * lit) + np.array(
        [0.08, 0.06, 0.075], np.float32
    ) * np.float32(1 - lit)
    through = np.array([0.40, 0.27, 0.24], np.float32) * np.float32((1 - lit) * 0.8)
    face = base * (1 + 0.4 * slope)[..., None] + through * (1 - inner)[..., None]
    face = face * (1 + 0.07 * flaws[part] - 0.22 * smoothstep(0.05, 0, lines[part]))[..., None]
    face = face + (smoothstep(0.9, 0.45, inner) * mask)[..., None] * np.float32(0.10)
    scene[part] = mix(scene[part], mix(face, scene[part], 0.10), mask) + (blur(outline, 1.2 * k) * np.float32(0.10 + 0.5 * lit))[..., None]


def draw(rng: np.random.Generator, cols: int = 3000) -> NDArray[np.uint8]:
    """Draw the photo at 4:3."""
    rows = cols * 3 // 4
    k = cols / 3000
    shape = (rows, cols)
    v, u = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    ground = np.array(linear("#d9d4cb"), np.float32) * (0.82 + 0.3 * smoothstep(1.1, 0.0, np.hypot(u - 0.35, v - 0.35)))[..., None]
    paper = 0.5 * noise(rng, shape, (5, 5), 3) + 0.6 * noise(rng, shape, (300 * k, 500 * k), 4)
    ground = ground * (1 + 0.014 * paper)[..., None]
    scene = ground.astype(np.float32)
    cubes = [
        (0.26, 0.5, 0.0, (0.0, 0.26, 0.0)),
        (0.17, 0.95, 0.12, (0.33, 0.16, 0.12)),
        (0.13, 0.2, 0.0, (-0.31, 0.13, 0.16)),
        (0.2, 1.2, 0.3, (-0.12, 0.3, -0.24)),
    ]
    for _ in range(34):
        far, ang, size = abs(rng.normal(0.25, 0.2)) + 0.12, rng.uniform(0, 2 * np.pi), abs(rng.normal(0, 0.045)) + 0.012
        cubes.append(
            (
                size,
                rng.uniform(0, 1.5),
                rng.choice([0, 0, 0.3]),
                (far * np.cos(ang), size + max(0.0, 0.34 - far) * rng.uniform(0, 1), far * np.sin(ang) * 0.8),
            )
        )
    shadow: Plane = np.zeros(shape, np.float32)
    touch: Plane = np.zeros(shape, np.float32)
    for size, spin, tip, at in cubes:
        corners = np.concatenate([f for f, _ in _cube_faces(size, spin, tip, at)])
        flat = corners - LIGHT * (corners[:, 1:2] / LIGHT[1])
        cv2.fillConvexPoly(shadow, cv2.convexHull(_project(flat, rows, cols).astype(np.float32)).astype(np.int32), 1.0, cv2.LINE_AA)
        under = corners * np.array([1, 0, 1])
        cv2.fillConvexPoly(touch, cv2.convexHull(_project(under, rows, cols).astype(np.float32)).astype(np.int32), 1.0, cv2.LINE_AA)
    glow = blur(shadow, 46 * k)
    scene = scene * (1 - 0.42 * blur(shadow, 12 * k) * (0.55 + 0.45 * (1 - glow)))[..., None] * (1 - 0.45 * blur(touch, 16 * k))[..., None]
    scene = scene + (glow * blur(shadow, 60 * k) * 0.06)[..., None] * np.array([1.0, 0.82, 0.7], np.float32)
    flaws = noise(rng, shape, (46 * k, 46 * k), 5)
    lines = np.abs(noise(rng, shape, (150 * k, 150 * k), 4))
    for size, spin, tip, at in sorted(cubes, key=lambda c: c[3][2] * 0.85 + c[3][1] * 0.52):
        seen = [(f, n) for f, n in _cube_faces(size, spin, tip, at) if n[1] * np.sin(np.radians(32)) + n[2] * np.cos(np.radians(32)) > 0]
        for corners, normal in sorted(seen, key=lambda fn: fn[1][1]):
            _paint(scene, _project(corners, rows, cols), normal, size * rows * 0.1, flaws, lines, k)
    specks = smoothstep(3.1, 3.7, noise(rng, shape, (4, 4), 2)) * np.exp(-(((u - 0.5) * 2.6) ** 2 + ((v - 0.6) * 2.4) ** 2))
    scene = scene + specks[..., None] * 0.5
    away = np.clip(np.abs(v - 0.58) * 2.2 - 0.35, 0, 1)
    scene = mix(scene, blur(scene, 7 * k), away)
    return develop(rng, scene, exposure=1.08, bloom=0.1, vignette=0.35)
