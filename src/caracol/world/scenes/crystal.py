"""`salt-crystal`: a cluster of grown-together cubes on an empty pale ground, by a window."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, look_up, mix, read_at, smoothstep, tileable
from ..tracing import TRACED, Hits, Mesh, camera_rays, enlarged, lit

SUN = np.array([-0.62, 0.62, 0.42]) / np.linalg.norm([-0.62, 0.62, 0.42])
SUNLIGHT = np.array([1.5, 1.38, 1.2], np.float32)
GROUND, SALT = 0, 1
PAPER = np.array(linear("#d8d2c8"), np.float32)


def _rotation(spin: float, tip: float, roll: float) -> Plane:
    a, b = np.cos([spin, tip, roll]), np.sin([spin, tip, roll])
    y = np.array([[a[0], 0, b[0]], [0, 1, 0], [-b[0], 0, a[0]]])
    x = np.array([[1, 0, 0], [0, a[1], -b[1]], [0, b[1], a[1]]])
    z = np.array([[a[2], -b[2], 0], [b[2], a[2], 0], [0, 0, 1]])
    return y @ x @ z


def _cluster(rng: np.random.Generator) -> Mesh:
    """Return the ground, the large cubes, smaller ones grown onto their faces, and crumbs that lie about."""
    mesh = Mesh()
    mesh.add(np.array([[[-30, 0, -30], [-30, 0, 30], [30, 0, 30]], [[-30, 0, -30], [30, 0, 30], [30, 0, -30]]], np.float32), GROUND)
    large = [
        (0.30, (0.0, 0.27, 0.0), _rotation(0.55, 0.05, 0.03)), (0.2, (0.42, 0.18, 0.14), _rotation(1.0, 0.06, -0.05)),
        (0.155, (-0.38, 0.145, 0.2), _rotation(0.2, 0.0, 0.04)), (0.22, (-0.2, 0.2, -0.32), _rotation(1.25, 0.1, 0.0)),
        (0.13, (0.14, 0.6, -0.06), _rotation(0.72, 0.12, 0.2)),
    ]  # fmt: skip
    for half, middle, turn in large:
        mesh.box(middle, np.full(3, half) * rng.uniform(0.92, 1.05, 3), SALT, turn=turn)
        for _ in range(9):
            axis, sign = rng.integers(3), rng.choice([-1.0, 1.0])
            at = rng.uniform(-0.8, 0.8, 3)
            at[axis] = sign
            size = half * rng.uniform(0.06, 0.24)
            mesh.box(np.asarray(middle) + turn @ (at * half), np.full(3, size) * rng.uniform(0.7, 1.3, 3), SALT, turn=turn)
    for _ in range(120):
        far, ang, half = abs(rng.normal(0.5, 0.26)) + 0.12, rng.uniform(0, 2 * np.pi), min(0.004 + rng.pareto(2.4) * 0.008, 0.055)
        mesh.box(
            (far * np.cos(ang), half * 0.97, far * np.sin(ang)), np.full(3, half) * rng.uniform(0.8, 1.2, 3), SALT, spin=rng.uniform(0, 1.5)
        )
    return mesh


def _sky(way: Plane) -> Plane:
    """A white room: bright from the window at the left, warm from the wall at the right."""
    window = smoothstep(0.2, 0.9, way @ np.array([-0.86, 0.42, 0.28], np.float32))
    wall = np.array([0.30, 0.27, 0.24], np.float32)
    return wall * (0.7 + 0.6 * way[:, 1:2]) + window[:, None] * np.array([1.1, 1.2, 1.35], np.float32)


def draw(rng: np.random.Generator, cols: int = 3000) -> NDArray[np.uint8]:
    """Draw the photo at 4:3."""
    full = (cols, cols * 3 // 4)
    cols = round(cols * TRACED)
    rows = cols * 3 // 4
    k = cols / 3000
    tree = _cluster(rng).built()
    eye, way = camera_rays(rows, cols, (0.4, 1.7, 3.4), (0.02, 0.26, 0), 0.66, rng)
    hits = tree.hits(eye, way)
    salt = hits.matter == SALT

    def colours(one: Hits) -> Plane:
        return np.where((one.matter == SALT)[:, None], np.array([0.86, 0.8, 0.79], np.float32), PAPER)

    shape = (rows, cols)
    far = hits.far.reshape(shape)
    light = lit(tree, hits, shape, rng, sun=SUN, sunlight=SUNLIGHT, sky=_sky, colours=colours, rays=4, wide=0.05)
    fine, coarse = tileable(rng, 1024, 24), tileable(rng, 1024, 5)
    x, z = hits.point[:, 0].reshape(shape), hits.point[:, 2].reshape(shape)
    paper = 1 + 0.02 * look_up(fine, x * 1.1, z * 1.1) + 0.025 * look_up(coarse, x * 0.3, z * 0.3)
    scene = light * (PAPER * paper[..., None]) * np.float32(0.62)
    # What comes through a crystal: light along the way from the sun, and what lies behind, both weakened by how thick it is there.
    inside = np.flatnonzero(salt)
    point, n, w = hits.point[inside], hits.normal[inside], way[inside]
    into = w + n * np.float32(0.55)
    into /= np.linalg.norm(into, axis=1, keepdims=True)
    through = tree.hits(point - n * np.float32(2e-3), into)
    sunward = tree.hits(point - n * np.float32(2e-3), np.broadcast_to(SUN.astype(np.float32), n.shape))
    tint = np.array([3.2, 4.3, 4.1], np.float32)
    glow = np.exp(-np.minimum(sunward.far, 2)[:, None] * tint) * SUNLIGHT * np.float32(0.16)
    behind_at = through.point + into * np.float32(4e-3)
    behind = tree.hits(behind_at, into)
    seen = np.where(
        (behind.matter == GROUND)[:, None],
        PAPER * np.float32(0.75),
        np.where((behind.matter == SALT)[:, None], np.float32(0.5), _sky(into)),
    )
    seen = seen * np.exp(-np.minimum(through.far, 2)[:, None] * tint * np.float32(0.55))
    mirror = w - 2 * (w * n).sum(axis=1, keepdims=True) * n
    fresnel = 0.04 + 0.6 * (1 - np.clip(-(w * n).sum(axis=1), 0, 1)) ** 5
    # Cracks and veils inside, growth steps along the faces.
    u, v = hits.place[inside, 0], hits.place[inside, 1]
    face = (np.abs(hits.normal[inside]) @ np.array([0.37, 0.71, 0.13], np.float32)) * 7
    veil = read_at(coarse, u * 0.5 + face, v * 0.5)
    steps = read_at(fine, u * 0.16 + face, np.maximum(np.abs(u), np.abs(v)) * 3.1)
    crack = smoothstep(0.05, 0.0, np.abs(read_at(coarse, u * 0.28 - face, v * 0.28 + 0.4)))
    rim = smoothstep(0.9, 1.0, np.maximum(np.abs(u), np.abs(v)) / np.maximum(np.maximum(np.abs(u), np.abs(v)).max(), 1e-6))
    body = light.reshape(-1, 3)[inside] * np.array([0.74, 0.7, 0.7], np.float32) * (0.37 + 0.05 * veil + 0.014 * steps)[:, None]
    salt_light = (
        body + glow * (1 + 0.35 * veil)[:, None] + seen * np.float32(0.22) + (0.07 * crack)[:, None] * (light.reshape(-1, 3)[inside] + 0.1)
    )
    salt_light = salt_light * (1 + 0.1 * rim)[:, None] + fresnel[:, None] * _sky(mirror)
    scene.reshape(-1, 3)[inside] = salt_light
    # The table goes out of focus before and behind the cluster.
    away = np.clip(np.abs(far - 3.25) - 0.45, 0, 1.2) / 1.2
    soft = blur(scene, 9 * k)
    scene = mix(scene, soft, smoothstep(0.05, 0.9, away) * (~salt.reshape(shape)))
    return develop(rng, enlarged(scene, full), exposure=1.0, bloom=0.08, grain=0.011, vignette=0.3)
