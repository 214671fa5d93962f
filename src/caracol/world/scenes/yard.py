"""`rail-yard-night`: rails, signal posts and waiting wagons under lamps, after rain."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, develop, linear, mix, ramp, read_at, smoothstep, tileable
from ..tracing import TRACED, Hits, Mesh, Tree, camera_rays, enlarged, lamps_on, lit, on_fewer

EYE = (0.6, 4.6, 4.0)
TRACKS = (-12.4, -8.2, -4.0, 0.2, 4.4, 8.6, 12.8)
BALLAST, RAIL, SLEEPER, STEEL, WAGON, WINDOW, LAMP, HOUSE, GLOW = 0, 1, 2, 3, 10, 30, 40, 50, 60
WAGONS = ("#6b2f24", "#3d4a52", "#5b5a32", "#27454f", "#7a5a34")
SIGNALS = (
    ("#ff3a26", -6.1, -16.0, 4.6), ("#35e07f", -2.0, -30.0, 4.8), ("#ffa62e", 2.3, -22.0, 4.4), ("#ff3a26", 6.5, -38.0, 5.0),
    ("#35e07f", 10.7, -18.0, 4.6), ("#ff3a26", -10.3, -42.0, 5.0), ("#f3f0ff", 2.3, -60.0, 4.6), ("#35e07f", -6.1, -70.0, 4.8),
)  # fmt: skip
MASTS = ((-14.6, -20.0), (15.0, -12.0), (15.0, -46.0), (-14.6, -58.0), (-14.6, 2.0))
WARM = np.array([1.0, 0.72, 0.42], np.float32)


def _wagon(mesh: Mesh, track: float, z: float, matter: int, high: float) -> None:
    """Put a covered wagon onto a track, seven metres long, with ribs, doors, buffers and wheels."""
    mesh.box((track, 1.15 + high / 2, z), np.array([1.3, high / 2, 4.6]), matter)
    mesh.box((track, 1.05, z), np.array([1.25, 0.12, 4.7]), STEEL)
    for rib in np.linspace(-4.5, 4.5, 12):
        for side in (-1.33, 1.33):
            mesh.box((track + side, 1.15 + high / 2, z + rib), np.array([0.04, high / 2, 0.05]), matter)
    for side in (-1.36, 1.36):
        mesh.box((track + side, 1.15 + high * 0.46, z), np.array([0.03, high * 0.44, 1.0]), matter)
        mesh.box((track + side, 1.15 + high * 0.5, z + 0.9), np.array([0.05, 0.05, 0.12]), STEEL)
    arc = np.linspace(-1, 1, 15)
    roof = np.array([[[track + 1.36 * a, 1.15 + high + 0.32 * (1 - a * a), z + s * 4.68] for a in arc] for s in (-1, 1)])
    mesh.quads(roof, STEEL)
    ends = np.array([[[track, 1.15 + high, z + s * 4.6], [track + 1.3 * a, 1.15 + high + 0.3 * (1 - a * a), z + s * 4.6], [track + 1.3 * b, 1.15 + high + 0.3 * (1 - b * b), z + s * 4.6]]
                     for s in (-1, 1) for a, b in pairwise(arc)])  # fmt: skip
    mesh.add(ends, matter)
    for wheel in (-3.2, -2.2, 2.2, 3.2):
        for side in (-0.74, 0.74):
            ang = np.linspace(0, 2 * np.pi, 25)
            ring = np.stack([np.zeros(25), 0.45 * np.cos(ang) + 0.62, 0.45 * np.sin(ang)], axis=1) + [track, 0, z + wheel]
            for off in (-0.06, 0.06):
                middle = np.array([track + side + off, 0.62, z + wheel])
                mesh.add(
                    np.stack([np.broadcast_to(middle, (24, 3)), ring[:-1] + [side + off, 0, 0], ring[1:] + [side + off, 0, 0]], axis=1),
                    STEEL,
                )
            mesh.quads(np.stack([ring + [side - 0.06, 0, 0], ring + [side + 0.06, 0, 0]]), STEEL)
    for end in (-4.75, 4.75):
        for side in (-0.85, 0.85):
            mesh.box((track + side, 1.05, z + end), np.array([0.16, 0.16, 0.12]), STEEL)


def _lay_tracks(mesh: Mesh, rng: np.random.Generator) -> None:
    """Lay the ballast, rails and sleepers, and put wagons onto the outer tracks."""
    u, v = np.meshgrid(np.linspace(-60, 60, 180), np.linspace(12, -200, 320))
    nearest = np.abs(u[..., None] - np.array(TRACKS)).min(axis=-1)
    bed = 0.12 * smoothstep(2.0, 1.3, nearest) + 0.035 * rng.standard_normal(u.shape)
    mesh.quads(np.stack([u, bed - 0.05, v], axis=-1), BALLAST)
    for n, track in enumerate(TRACKS):
        for side in (-0.735, 0.735):
            mesh.box((track + side, 0.28, -110), np.array([0.036, 0.025, 120]), RAIL)
            mesh.box((track + side, 0.2, -110), np.array([0.012, 0.08, 120]), STEEL)
            mesh.box((track + side, 0.15, -110), np.array([0.07, 0.015, 120]), STEEL)
        for z in np.arange(8, -85, -0.66):
            mesh.box((track, 0.08, z + rng.normal(0, 0.02)), np.array([1.28, 0.07, 0.12]), SLEEPER, rng.normal(0, 0.008))
        if n in (0, 1, 5, 6):
            z = -16.0 - 7 * n if n < 3 else -34.0 + 5 * (n - 5)
            for one in range(int(rng.integers(4, 7))):
                _wagon(mesh, track, z - one * 10.1, WAGON + int(rng.integers(len(WAGONS))), rng.uniform(2.1, 2.5))


def _signal(mesh: Mesh, number: int, x: float, z: float, high: float) -> None:
    """Put up a signal: a post with its ladder, two lenses under hoods, the upper one alight."""
    mesh.tube([(x, 0, z), (x, high + 0.9, z)], [0.09, 0.07], STEEL, 10)
    mesh.box((x, high, z + 0.12), np.array([0.26, 0.62, 0.09]), STEEL)
    for lens in (-0.3, 0.3):
        mesh.ball((x, high + lens, z + 0.22), 0.13, GLOW + number if lens > 0 else STEEL, 8)
        arc = np.linspace(-0.3, np.pi + 0.3, 12)
        hood = np.array([[[x + 0.17 * np.cos(a), high + lens + 0.17 * np.sin(a), z + d] for a in arc] for d in (0.2, 0.46)])
        mesh.quads(hood, STEEL)
    for rung in np.arange(0.5, high - 0.6, 0.34):
        mesh.box((x + 0.28, rung, z), np.array([0.16, 0.014, 0.014]), STEEL)
    for side in (0.14, 0.42):
        mesh.box((x + side, high / 2, z), np.array([0.014, high / 2, 0.014]), STEEL)


def _masts(mesh: Mesh) -> None:
    """Put up the lamps."""
    for n, (x, z) in enumerate(MASTS):
        mesh.tube([(x, 0, z), (x, 9.4, z)], [0.14, 0.08], STEEL, 10)
        arm = -1.6 if x > 0 else 1.6
        mesh.tube([(x, 9.3, z), (x + arm, 9.7, z)], 0.05, STEEL, 8)
        mesh.box((x + arm, 9.66, z), np.array([0.42, 0.06, 0.18]), STEEL)
        mesh.box((x + arm, 9.58, z), np.array([0.36, 0.03, 0.14]), LAMP + n)


def _wires(mesh: Mesh) -> None:
    """Hang the wires from lattice gantries."""
    for z in (-26.0, -62.0, -98.0):
        for x in (-15.2, 15.6):
            for off in (-0.3, 0.3):
                mesh.box((x + off, 3.9, z), np.array([0.05, 3.9, 0.05]), STEEL)
            for step in np.arange(0.3, 7.6, 0.6):
                mesh.tube([(x - 0.3, step, z), (x + 0.3, step + 0.55, z)], 0.022, STEEL, 5)
        for y in (7.3, 7.9):
            mesh.box((0.2, y, z), np.array([15.6, 0.05, 0.06]), STEEL)
        for x in np.arange(-15, 15.5, 0.9):
            mesh.tube([(x, 7.3, z), (x + 0.45, 7.9, z)], 0.025, STEEL, 5)
    for track in TRACKS:
        for y in (5.9, 6.9):
            mesh.tube([(track, y, 10), (track, y - 0.12, -40), (track, y, -140)], 0.012, STEEL, 4)


def _town(mesh: Mesh, rng: np.random.Generator) -> None:
    """Build a shed and a signal box at the sides, and houses behind."""
    mesh.box((24, 3.0, -60), np.array([7, 3.0, 42]), HOUSE)
    for z in np.arange(-96, -22, 4.4):
        mesh.box((16.98, 3.2, z), np.array([0.03, 0.9, 1.2]), WINDOW if rng.random() < 0.4 else STEEL)
    mesh.box((-21, 2.4, -30), np.array([2.6, 2.4, 4]), HOUSE)
    mesh.box((-21, 5.6, -30), np.array([2.9, 1.0, 4.3]), WINDOW)
    for z in np.linspace(-34, -26, 9):
        mesh.box((-18.06, 5.6, z), np.array([0.06, 1.0, 0.07]), STEEL)
    mesh.box((-21, 6.9, -30), np.array([3.4, 0.2, 4.8]), HOUSE)
    for _ in range(70):
        x, z, high = rng.uniform(-110, 110), rng.uniform(-220, -150), rng.uniform(4, 15)
        wide = rng.uniform(4, 9)
        mesh.box((x, high / 2, z), np.array([wide, high / 2, 6]), HOUSE)
        for _ in range(int(rng.integers(2, 9))):
            at = (x + rng.uniform(-0.8, 0.8) * wide, rng.uniform(1.5, max(high - 1, 2)), z + 6.02)
            mesh.box(at, np.array([0.5, 0.7, 0.02]), WINDOW)


def _world(rng: np.random.Generator) -> Mesh:
    mesh = Mesh()
    _lay_tracks(mesh, rng)
    for number, (_, x, z, high) in enumerate(SIGNALS):
        _signal(mesh, number, x, z, high)
    _masts(mesh)
    _wires(mesh)
    _town(mesh, rng)
    return mesh


def _base(hits: Hits, rng: np.random.Generator) -> Plane:
    base = np.full((len(hits.matter), 3), 0.05, np.float32)
    m, p = hits.matter, hits.point
    stones, stain = tileable(rng, 1024, 60, 4), tileable(rng, 1024, 5)
    grit = read_at(stones, p[:, 0] * 0.16, p[:, 2] * 0.16)
    patch = read_at(stain, p[:, 0] * 0.05 + p[:, 1] * 0.11, p[:, 2] * 0.05 + p[:, 1] * 0.07)
    base = np.where(
        (m == BALLAST)[:, None],
        np.array(linear("#6d655c"), np.float32) * np.clip(0.55 + 0.3 * grit + 0.1 * patch, 0.12, 1.3)[:, None],
        base,
    )
    base = np.where((m == SLEEPER)[:, None], np.array(linear("#57493d"), np.float32) * (0.7 + 0.16 * grit)[:, None], base)
    base = np.where((m == RAIL)[:, None], np.array(linear("#a9adb3"), np.float32), base)
    base = np.where((m == STEEL)[:, None], np.array(linear("#4b4a4c"), np.float32) * (0.8 + 0.16 * patch)[:, None], base)
    base = np.where((m == HOUSE)[:, None], np.array(linear("#5e5148"), np.float32) * (0.8 + 0.12 * patch)[:, None], base)
    for n, tint in enumerate(WAGONS):
        rust = smoothstep(0.5, 1.6, patch + 0.4 * grit)
        paint = mix(np.zeros((len(m), 3), np.float32) + np.array(linear(tint), np.float32) * 1.3, linear("#5a3220"), (0.6 * rust)[:, None])
        base = np.where((m == WAGON + n)[:, None], paint * (1 + 0.1 * grit)[:, None], base)
    return base


def _shine(hits: Hits) -> Plane:
    """Return the light that lamps, signals and windows give off themselves."""
    out = np.zeros((len(hits.matter), 3), np.float32)
    for n, (tint, *_) in enumerate(SIGNALS):
        out[hits.matter == GLOW + n] = np.array(linear(tint), np.float32) * 14
    lamp = (hits.matter >= LAMP) & (hits.matter < LAMP + len(MASTS))
    out[lamp] = WARM * 16
    return np.where((hits.matter == WINDOW)[:, None], np.array([1.5, 0.95, 0.42], np.float32) * (0.5 + 0.5 * hits.place[:, :1] ** 2), out)


def _lamps(hits: Hits, tree: Tree | None) -> Plane:
    heads = np.array([(x + (-1.6 if x > 0 else 1.6), 9.4, z) for x, z in MASTS])
    light = lamps_on(hits, heads, WARM * 26, 0.6, tree)
    for tint, x, z, high in SIGNALS:
        light = light + lamps_on(hits, np.array([(x, high + 0.3, z + 0.5)]), np.array(linear(tint), np.float32) * 0.9, 0.3)
    return light + lamps_on(hits, np.array([(-17.6, 5.2, -28.0), (16.2, 3.0, -30.0), (16.2, 3.0, -52.0)]), np.array([2.4, 1.6, 0.8]), 0.8)


def draw(rng: np.random.Generator, cols: int = 3400) -> NDArray[np.uint8]:
    """Draw the photo at 1.85 : 1."""
    full = (cols, int(cols / 1.85))
    # Night and mist hide what a finer picture would show.
    cols = round(cols * 0.85 * TRACED)
    rows = int(cols / 1.85)
    shape = (rows, cols)
    tree = _world(rng).built()
    eye, way = camera_rays(rows, cols, EYE, (0.6, 3.2, -12.0), 1.3, rng)
    up = np.clip(way[:, 1], 0, 1)
    cloud = tileable(rng, 1024, 4, 7)
    ceiling = 1 / np.maximum(up, 0.03)
    veil = read_at(cloud, way[:, 0] * ceiling * 0.05, way[:, 2] * ceiling * 0.05)
    night = ramp(up, [(0, (0.085, 0.06, 0.055)), (0.05, (0.05, 0.042, 0.055)), (0.25, (0.016, 0.02, 0.036)), (1, (0.006, 0.009, 0.02))])
    night = night * (1 + 0.35 * smoothstep(-0.3, 1.5, veil) * np.exp(-up * 3))[:, None]
    hits = tree.hits(eye, way)
    base = _base(hits, rng)
    dusk = lit(
        tree, hits, shape, rng, 4, sun=np.array([0.0, 1.0, 0.0]), sunlight=np.zeros(3),
        sky=lambda w: np.float32(0.035) + np.float32(0.03) * np.clip(w[:, 1:2], 0, 1) * np.array([0.6, 0.8, 1.3], np.float32), colours=lambda one: np.full((len(one.far), 3), 0.1, np.float32), rays=2,
    )  # fmt: skip
    light = on_fewer(hits, shape, 2, lambda few: _lamps(few, tree)).reshape(-1, 3) + dusk.reshape(-1, 3)
    scene = np.where((hits.matter >= 0)[:, None], base * light + _shine(hits), night)
    # After rain: puddles between the tracks, a film on sleepers, polished rails.
    ground = np.flatnonzero(np.isin(hits.matter, (BALLAST, SLEEPER, RAIL)))
    p, w = hits.point[ground], way[ground]
    pools = smoothstep(0.15, 0.75, read_at(tileable(rng, 1024, 6, 5), p[:, 0] * 0.055, p[:, 2] * 0.03) - 5 * np.maximum(p[:, 1], 0))
    rail = hits.matter[ground] == RAIL
    ripple = tileable(rng, 512, 30, 4)
    rough = np.where(rail, 0.02, 0.012 + 0.1 * (1 - pools))
    normal = np.stack(
        [
            rough * read_at(ripple, p[:, 0] * 0.3, p[:, 2] * 0.3),
            np.ones(len(p)),
            rough * read_at(ripple, p[:, 0] * 0.3 + 0.5, p[:, 2] * 0.3),
        ],
        axis=1,
    )
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    mirror = w - 2 * (w * normal).sum(axis=1, keepdims=True) * normal
    mirror[:, 1] = np.maximum(mirror[:, 1], 0.002)
    back = tree.hits((p + np.array([0, 0.02, 0])).astype(np.float32), mirror.astype(np.float32))
    shown = np.where(
        (back.matter >= 0)[:, None],
        _base(back, rng) * (_lamps(back, None) + 0.04) + _shine(back),
        np.array([0.03, 0.028, 0.04], np.float32),
    )
    fresnel = 0.04 + 0.96 * (1 - np.clip(-(w * normal).sum(axis=1), 0, 1)) ** 5
    share = np.where(rail, 0.55, fresnel * (0.16 + 0.84 * pools))
    dark = np.where(rail, 1, 1 - 0.6 * pools)[:, None]
    scene[ground] = scene[ground] * dark + shown * share[:, None]
    # Damp air round every light and in the distance.
    haze = (1 - np.exp(-np.minimum(hits.far, 400) / 260))[:, None]
    scene = mix(scene, np.array([0.075, 0.058, 0.055], np.float32), haze * (hits.matter >= 0)[:, None])
    for tint, at, size in [*((np.array(linear(t), np.float32) * 0.055, (x, h + 0.3, z + 0.3), 1.0) for t, x, z, h in SIGNALS),
                           *((WARM * 0.10, (x + (-1.6 if x > 0 else 1.6), 9.5, z), 2.6) for x, z in MASTS)]:  # fmt: skip
        to = np.asarray(at, np.float32) - eye
        reach = float(np.linalg.norm(to))
        off = np.linalg.norm(np.cross(way, to / reach), axis=1) * reach
        facing = (way @ (to / reach)) > 0
        scene = scene + (facing * (size / (0.5 + off * off)) * 0.5 + facing * 0.12 / (0.03 + off * off) * 0.05)[:, None] * tint
    return develop(rng, enlarged(scene.reshape(*shape, 3), full), exposure=2.3, grain=0.018, bloom=0.3)
