"""`kelp-garden`: a forest of kelp in green water, the light coming down through it."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, mix, noise, ramp, read_at, smoothstep, tileable
from ..tracing import TRACED, Mesh, camera_rays, enlarged, lit

SUN = np.array([-0.22, 0.93, -0.3]) / np.linalg.norm([-0.22, 0.93, -0.3])
SUNLIGHT = np.array([1.5, 1.75, 1.15], np.float32)
WATER = np.array(linear("#2f8580"), np.float32)
STIPE, BLADE, FLOAT = 0, 1, 2
EYE = (0.0, 2.4, 5.2)


def _plant(mesh: Mesh, rng: np.random.Generator, foot: Plane, tall: float, size: float) -> None:
    """Grow one plant: a stem that sways with the swell, a blade and a float at every joint."""
    t = np.linspace(0, 1, 40)
    sway, lean, phase = rng.uniform(0.1, 0.32), rng.normal(0.25, 0.12), rng.uniform(0, 6.3)
    path = foot + np.stack([
        tall * (lean * t**1.4 + sway * 0.5 * np.sin(phase + 4.2 * t) * t), tall * t, tall * 0.4 * sway * np.cos(phase * 2 + 3.3 * t) * t,
    ], axis=1)  # fmt: skip
    mesh.tube(path, size * 0.016, STIPE, 6)
    turn = rng.uniform(0, 6.3)
    for n in range(2, 39):
        if rng.random() < 0.1:
            continue
        turn += 2.4 + rng.normal(0, 0.3)
        at = path[n]
        out = np.array([np.cos(turn) * 0.85 + 0.35, rng.uniform(0.15, 0.75), np.sin(turn) * 0.85])
        out /= np.linalg.norm(out)
        long = size * rng.uniform(0.55, 1.15) * (0.6 + 0.5 * np.sin(np.pi * min(n / 38 + 0.1, 1)))
        s = np.linspace(0, 1, 17)
        drift = np.array([0.5, 0.1, 0.12]) * rng.uniform(0.3, 1.1)
        middle = at + out * (long * s)[:, None] + drift * (long * 0.6 * s**2)[:, None] + np.array([0, -0.28, 0]) * (long * s**2.2)[:, None]
        middle[:, 1] += 0.035 * long * np.sin(9 * s + phase + n) * s
        side = np.cross(out, [0.0, 1.0, 0.0]) + rng.normal(0, 0.45, 3)
        side /= np.linalg.norm(side)
        up = np.cross(side, out)
        wide = 0.085 * size * np.sin(np.pi * (0.06 + 0.94 * s) ** 0.75) ** 0.8
        across = np.linspace(-1, 1, 7)
        ruffle = np.sin(s[:, None] * rng.uniform(24, 34) + phase + 2.2 * np.sign(across)) * np.abs(across) ** 2
        sheet = (
            middle[:, None]
            + side * (wide[:, None] * across)[..., None]
            + up * (0.4 * wide[:, None] * ruffle + 0.12 * wide[:, None] * across**2)[..., None]
        )
        mesh.quads(sheet, BLADE)
        mesh.ball(at + out * 0.03 * size, np.array([0.022, 0.032, 0.022]) * size, FLOAT, 6)


def draw(rng: np.random.Generator, cols: int = 3600) -> NDArray[np.uint8]:
    """Draw the photo at 3:2."""
    full = (cols, cols * 2 // 3)
    cols = round(cols * TRACED)
    rows, k = cols * 2 // 3, cols / 3600
    shape = (rows, cols)
    mesh = Mesh()
    places = [(rng.uniform(-1.9, 1.9), rng.uniform(1.4, 2.6), 1.0) for _ in range(6)]
    places += [(rng.uniform(-4.2, 4.2), rng.uniform(-1.6, 1.4), 1.1) for _ in range(20)]
    places += [(rng.uniform(-9, 9), rng.uniform(-8, -1.6), 1.25) for _ in range(42)]
    for x, z, size in places[:: 1 if full[0] > 800 else 3]:
        _plant(mesh, rng, np.array([x - 0.5, -0.9, z]), rng.uniform(3.8, 7.5), size)
    u, v = np.meshgrid(np.linspace(-14, 14, 90), np.linspace(6, -14, 70))
    stones = 0.25 * noise(rng, u.shape, (9, 9), 4)
    mesh.quads(np.stack([u, -0.75 + stones, v], axis=-1), STIPE)
    tree = mesh.built()
    eye, way = camera_rays(rows, cols, EYE, (0.05, 2.75, 0), 1.05, rng)
    hits = tree.hits(eye, way)

    def water(w: Plane) -> Plane:
        high = w[:, 1]
        glow = np.clip(w @ SUN.astype(np.float32), 0, 1)
        body = ramp(high, [(-0.6, linear("#0b2a33")), (0.0, linear("#1f6a6c")), (0.35, linear("#4fa392")), (0.9, linear("#b6dfbe"))])
        return np.asarray(body + (glow**10)[:, None] * np.array([0.7, 0.85, 0.5], np.float32) + (glow**60)[:, None] * np.float32(1.3))

    m = hits.matter
    thick, fine = tileable(rng, 1024, 6), tileable(rng, 1024, 22)
    vein = read_at(thick, hits.place[:, 0] * 0.9 + hits.point[:, 0], hits.place[:, 1] * 0.35 + hits.point[:, 2])
    spots = read_at(fine, hits.place[:, 0] * 0.7 + hits.point[:, 1], hits.place[:, 1] * 0.9)
    rib = smoothstep(0.09, 0.02, np.abs(hits.place[:, 0] - 0.5))
    blade = ramp(0.5 + 0.22 * vein + 0.1 * spots, [(0, linear("#54400f")), (0.5, linear("#a27a26")), (1, linear("#d8ad4a"))])
    base = np.where((m == BLADE)[:, None], blade * (1 - 0.25 * rib)[:, None], np.array(linear("#5c5224"), np.float32))
    base = np.where((m == FLOAT)[:, None], np.array(linear("#b08e34"), np.float32), base)
    light = lit(tree, hits, shape, rng, 3, sun=SUN, sunlight=SUNLIGHT, sky=lambda w: water(w) * np.float32(0.75),
                colours=lambda one: np.full((len(one.far), 3), 0.14, np.float32) * np.array([1.1, 1, 0.5], np.float32), rays=2, wide=0.12)  # fmt: skip
    # Blades glow where the light is behind them.
    behind = np.clip(-(hits.normal @ SUN.astype(np.float32)), 0, 1)
    seen = np.flatnonzero((m == BLADE) & (behind > 0))
    clear = np.zeros(len(m), np.float32)
    clear[seen] = tree.open_to(
        hits.point[seen] - hits.normal[seen] * np.float32(4e-3), np.broadcast_to(SUN.astype(np.float32), (len(seen), 3))
    )
    through = (
        ((0.25 + 0.75 * clear) * behind)[:, None]
        * SUNLIGHT
        * np.array([0.95, 0.8, 0.22], np.float32)
        * (0.8 + 0.25 * vein)[:, None]
        * (m == BLADE)[:, None]
    )
    # The surface's waves throw a net of light on everything near it.
    net = 1 - np.abs(read_at(thick, hits.point[:, 0] * 0.16 - hits.point[:, 1] * 0.05, hits.point[:, 2] * 0.16 + hits.point[:, 1] * 0.04))
    caustic = 0.72 + 1.3 * smoothstep(0.72, 1.0, net)
    high = np.clip(hits.point[:, 1:2] / 5, 0, 1)
    mirror = way - 2 * (way * hits.normal).sum(axis=1, keepdims=True) * hits.normal
    gleam = (np.clip(mirror @ SUN.astype(np.float32), 0, 1) ** 18 * 0.3)[:, None] * np.array([0.8, 1, 0.8], np.float32)
    solid = (
        base * light.reshape(-1, 3) * caustic[:, None] * (0.45 + 0.75 * high)
        + through * np.float32(0.5) * caustic[:, None]
        + gleam * (m == BLADE)[:, None]
    )
    open_water = water(way)
    veil = 1 - np.exp(-np.minimum(hits.far, 60)[:, None] * np.array([0.21, 0.12, 0.13], np.float32) * 0.72)
    scene = np.where((m >= 0)[:, None], solid + (open_water - solid) * veil, open_water).reshape(*shape, 3)
    # Shafts of light from the sun's place on the surface, through the haze.
    y, x = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
    fan = (x - 0.36) / (y + 0.42)
    beams = noise(rng, (2, 4096), (4, 90), 5)[0]
    rays = np.interp(fan, np.linspace(-1.3, 1.8, 4096), beams).astype(np.float32)
    scene = scene + (np.clip(rays, 0, 2) * np.exp(-y * 1.7) * 0.13)[..., None] * np.array([0.7, 1.0, 0.72], np.float32)
    # Near things swim out of focus; grains drift before the lens.
    near = smoothstep(3.0, 1.6, hits.far.reshape(shape)) * (m.reshape(shape) >= 0)
    scene = mix(scene, blur(scene, 7 * k / TRACED * 0.6), cv2.GaussianBlur(near.astype(np.float32), (0, 0), 4))
    specks = np.zeros(shape, np.float32)
    for _ in range(500):
        at = (int(rng.uniform(0, cols)), int(rng.uniform(0, rows)))
        cv2.circle(specks, at, max(1, int(abs(rng.normal(0, 2.6)) * cols / 2200)), float(rng.uniform(0.03, 0.28)), -1, cv2.LINE_AA)
    scene = scene + (blur(specks, 1.6 * cols / 2200) * np.exp(-y * 0.7))[..., None] * np.array([0.6, 0.85, 0.7], np.float32)
    return develop(rng, enlarged(scene, full), exposure=1.35, bloom=0.16, vignette=0.35)
