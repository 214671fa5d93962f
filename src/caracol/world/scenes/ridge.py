"""`observatory-ridge-night`: an observatory on a bare ridge under the stars, seen nearly all the way round."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..brushes import Panorama, Plane, blur, develop, linear, look_up, mix, ramp, read_at, smoothstep, tileable
from ..tracing import TRACED, Mesh, enlarged, lamps_on, lit

HORIZON = 0.66
TURN = 0.985 * 2 * np.pi
RATIO = 2.8
EYE = np.array([0, 24.0, 0], np.float32)
MOON = np.array([-0.55, 0.42, 0.72]) / np.linalg.norm([-0.55, 0.42, 0.72])
DOMES = ((2.28, 118.0, 13.0), (2.95, 150.0, 8.0), (4.35, 128.0, 9.5))
"""Bearing, distance and radius of the domes, in radians and metres."""
GROUND, TREE, SHELL, DRUM, DOOR, SLIT = range(6)


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


def _height(rng: np.random.Generator) -> tuple[Plane, Plane]:
    return tileable(rng, 1024, 5, 8, 0.5), tileable(rng, 1024, 7, 8, 0.55)


def _land(x: Plane, z: Plane, soft: Plane, sharp: Plane) -> Plane:
    """Return how high the land is at places in metres: a rocky shoulder all round, a valley, far ranges."""
    far = np.hypot(x, z)
    shape = x.shape
    u, w = x.reshape(-1), z.reshape(-1)
    rocks = (1 - np.abs(read_at(sharp, u / 900, w / 900))).reshape(shape)
    fine = (1 - np.abs(read_at(sharp, u / 130 + 0.3, w / 130))).reshape(shape)
    rolling = read_at(soft, u / 2600, w / 2600).reshape(shape)
    shoulder = 15 * np.exp(-(((far - 125) / 62) ** 2)) + 5 * rocks * np.exp(-(((far - 110) / 80) ** 2))
    near = 4 + shoulder + 3.2 * fine * smoothstep(15, 60, far) + 3 * rolling
    valley = -150 * smoothstep(190, 620, far)
    ridged = (1 - np.abs(read_at(sharp, u / 7800 + 0.1, w / 7800))).reshape(shape)
    crag = (1 - np.abs(read_at(sharp, u / 1700, w / 1700 + 0.4))).reshape(shape)
    peaks = (250 * np.clip(ridged, -0.5, 1) + 110 * crag * np.clip(ridged + 0.3, 0, 1) + 90 * rolling) * smoothstep(1300, 3800, far)
    return np.asarray(near + valley + peaks, np.float32)


def _dome(mesh: Mesh, at: Plane, size: float, spin: float) -> None:
    """Build an observatory: a drum with ribs and a door, a dome whose slit is open, a rail round its foot."""
    ang = np.linspace(0, 2 * np.pi, 65)
    ring = np.stack([np.sin(ang), np.zeros_like(ang), -np.cos(ang)], axis=1)
    mesh.quads(np.stack([at + ring * size + [0, y, 0] for y in (-8, size * 0.75)]), DRUM)
    mesh.quads(np.stack([at + ring * size * r + [0, size * 0.75, 0] for r in (1.0, 1.07)]), DRUM)
    mesh.quads(np.stack([at + ring * size * 1.07 + [0, size * y, 0] for y in (0.75, 0.83)]), DRUM)
    slit = 0.13
    v = np.linspace(0, np.pi / 2, 25)
    turn = np.linspace(spin + slit, spin + 2 * np.pi - slit, 90)
    shell = np.stack(
        [np.sin(v)[:, None] * np.sin(turn), np.broadcast_to(np.cos(v)[:, None], (25, 90)), -np.sin(v)[:, None] * np.cos(turn)], axis=-1
    )
    mesh.quads(at + [0, size * 0.83, 0] + shell * size * 1.02, SHELL)
    inner = np.linspace(spin - slit, spin + slit, 5)
    lit_part = np.stack(
        [np.sin(v)[:, None] * np.sin(inner), np.broadcast_to(np.cos(v)[:, None], (25, 5)), -np.sin(v)[:, None] * np.cos(inner)], axis=-1
    )
    mesh.quads(at + [0, size * 0.83, 0] + lit_part * size * 0.9, SLIT)
    for side in (-slit, slit):
        edge = np.stack([np.sin(v) * np.sin(spin + side), np.cos(v), -np.sin(v) * np.cos(spin + side)], axis=1)
        mesh.tube(at + [0, size * 0.83, 0] + edge * size * 1.03, size * 0.025, DRUM, 6)
    for n in np.linspace(0, 2 * np.pi, 41)[:-1]:
        foot = at + np.array([np.sin(n), 0, -np.cos(n)]) * size * 1.06
        mesh.box(foot + [0, size * 0.9, 0], np.array([0.05, size * 0.07, 0.05]), DRUM)
    to = -at / np.hypot(at[0], at[2])
    door = at + np.array([to[0], 0, to[2]]) * size * 1.005
    mesh.box(door + [0, 2.6, 0], np.array([1.1, 1.8, 0.08]), DOOR, -np.arctan2(at[0], -at[2]))
    hut = at + np.array([-to[2], 0, to[0]]) * size * 1.9
    mesh.box(hut + [0, 0.2, 0], np.array([3.4, 2.2, 2.4]), DRUM, -np.arctan2(at[0], -at[2]))
    mesh.box(hut + np.array([to[0], 0, to[2]]) * 2.45 + [0, 0.9, 0], np.array([0.8, 0.7, 0.06]), SLIT, -np.arctan2(at[0], -at[2]))


def _tree(mesh: Mesh, rng: np.random.Generator, at: Plane, high: float) -> None:
    ang = np.linspace(0, 2 * np.pi, 12)
    for level in range(5):
        low, top = high * (0.08 + 0.17 * level), high * (0.42 + 0.145 * level)
        wide = high * 0.2 * (1 - level / 6.2) * (1 + 0.32 * rng.standard_normal(12))
        wide[-1] = wide[0]
        skirt = at + np.stack([np.sin(ang) * wide, np.full(12, low) - 0.05 * high * rng.random(12), -np.cos(ang) * wide], axis=1)
        tip = np.broadcast_to(at + [0, top, 0], (11, 3))
        mesh.add(np.stack([skirt[:-1], skirt[1:], tip], axis=1), TREE)


def draw(rng: np.random.Generator, cols: int = 4200) -> NDArray[np.uint8]:
    """Draw the photo, nearly three times as wide as high."""
    full = (cols, int(cols / RATIO))
    view = Panorama(full[1], full[0], HORIZON)
    sky = night_sky(rng, view)
    cols = round(cols * TRACED)
    rows = int(cols / RATIO)
    shape = (rows, cols)
    soft, sharp = _height(rng)
    mesh = Mesh()
    # As fine as the photo is: a small one needs no more.
    fine = min(1.0, full[0] / 2400)
    far = np.concatenate([np.geomspace(6, 420, round(170 * fine) + 12), np.geomspace(440, 9000, round(130 * fine) + 12)])
    turn = np.linspace(0, 2 * np.pi, round(1100 * fine) + 60)
    x, z = far[:, None] * np.sin(turn), -far[:, None] * np.cos(turn)
    high = _land(x, z, soft, sharp)
    lamps = []
    for bearing, away, size in DOMES:
        at = np.array([np.sin(bearing) * away, 0, -np.cos(bearing) * away])
        level = float(_land(at[None, :1], at[None, 2:], soft, sharp)[0, 0]) + 1.5
        near = np.exp(-((np.hypot(x - at[0], z - at[2]) / (size * 2.3)) ** 4))
        high = high * (1 - near) + level * near
        at[1] = level
        _dome(mesh, at, size, bearing + np.pi + 0.35)
        to = -np.array([at[0], 0, at[2]]) / away
        lamps += [at + to * (size + 2) + [0, 5, 0], at + to * (size * 0.4) + [-to[2] * size * 1.9, 4, to[0] * size * 1.9]]
    mesh.quads(np.stack([x, high, z], axis=-1), GROUND)
    count = round(2600 * fine) + 100
    bearings, aways = rng.uniform(0, 2 * np.pi, count), rng.uniform(28, 420, count)
    px, pz = np.sin(bearings) * aways, -np.cos(bearings) * aways
    apart = np.min([np.hypot(px - np.sin(b) * d, pz + np.cos(b) * d) - 2.6 * s for b, d, s in DOMES], axis=0)
    woods = (apart > 0) & (read_at(soft, px / 520, pz / 520) > rng.uniform(-0.4, 0.9, count))
    level = _land(px[None], pz[None], soft, sharp)[0] - 0.3
    for tx, ty, tz in zip(px[woods], level[woods], pz[woods], strict=True):
        _tree(mesh, rng, np.array([tx, ty, tz]), rng.uniform(3, 9))
    tree = mesh.built()
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    bearing = (u + rng.random(shape, np.float32)) / cols * np.float32(TURN)
    rise = (HORIZON - (v + rng.random(shape, np.float32)) / rows) * np.float32(TURN / RATIO)
    way = np.stack([np.sin(bearing), rise, -np.cos(bearing)], axis=-1)
    way = (way / np.linalg.norm(way, axis=-1, keepdims=True)).reshape(-1, 3).astype(np.float32)
    hits = tree.hits(EYE, way)
    m, p = hits.matter, hits.point
    dim = np.array([0.022, 0.031, 0.058], np.float32)
    light = lit(tree, hits, shape, rng, 3, sun=MOON, sunlight=np.array([0.075, 0.092, 0.13]), sky=lambda w: dim * (0.6 + 0.6 * np.clip(w[:, 1:2], 0, 1)),
                colours=lambda one: np.full((len(one.far), 3), 0.12, np.float32), rays=3, wide=0.02)  # fmt: skip
    light = light.reshape(-1, 3) + lamps_on(hits, np.array(lamps), np.array([9.0, 5.2, 2.2]), 1.5)
    grit = read_at(sharp, p[:, 0] / 17, p[:, 2] / 17)
    moss = read_at(soft, p[:, 0] / 90, p[:, 2] / 90)
    steep = smoothstep(0.86, 0.6, hits.normal[:, 1])
    grass = np.array(linear("#6f6a4e"), np.float32) * (0.8 + 0.3 * grit + 0.12 * moss)[:, None]
    stone = np.array(linear("#8d8a86"), np.float32) * (0.7 + 0.35 * grit)[:, None]
    base = mix(grass, stone, np.clip(steep + 0.5 * smoothstep(0.6, 1.2, grit + 0.5 * moss), 0, 1)[:, None])
    snow = smoothstep(70, 190, p[:, 1] + 60 * moss + 25 * grit) * smoothstep(0.45, 0.75, hits.normal[:, 1]) * (hits.far > 900)
    base = mix(np.clip(base, 0.02, 1), (0.82, 0.84, 0.9), snow[:, None])
    for code, tint in ((TREE, "#39452f"), (SHELL, "#d4d7da"), (DRUM, "#b9b4aa"), (DOOR, "#5d4c3a")):
        base = np.where((m == code)[:, None], np.array(linear(tint), np.float32), base)
    panel = 1 - 0.16 * smoothstep(0.05, 0.0, np.abs((hits.place[:, 0] * 26) % 1 - 0.5) - 0.45)
    base = np.where((m == SHELL)[:, None], base * panel[:, None], base)
    solid = base * light
    solid = np.where((m == SLIT)[:, None], np.array([1.1, 0.42, 0.2], np.float32) * (0.35 + 0.65 * hits.place[:, 1:2]), solid)
    # Air between here and the ranges, bluish, and mist in the valley.
    low = sky[int((HORIZON - 0.02) * full[1])]
    tint = low[np.clip(bearing.reshape(-1) / TURN * full[0], 0, full[0] - 1).astype(int)]
    haze = 1 - np.exp(-hits.far / 5200 - np.clip(-p[:, 1] / 110, 0, 1.2) * smoothstep(250, 1500, hits.far))
    solid = mix(solid, tint * 0.8, haze[:, None])
    land = (m >= 0).reshape(shape).astype(np.float32)
    ground = enlarged(np.where(land[..., None] > 0, solid.reshape(*shape, 3), tint.reshape(*shape, 3) * 0.9), full)
    cover = np.clip(enlarged(land, full), 0, 1)
    scene = mix(sky, ground, cover)
    # A few lit windows in the far valley.
    for _ in range(46):
        at = (int((HORIZON + rng.uniform(-0.004, 0.03)) * full[1]), int(rng.uniform(0, full[0])))
        if cover[at] > 0.9:
            scene[at] += np.array([3.4, 2.0, 0.8], np.float32) * rng.uniform(0.2, 1)
    return develop(rng, blur(scene, 0.6), exposure=1.9, grain=0.02, bloom=0.26)
