"""`pier-globe`: everything there is to see from the round end of the night market's pier, 360° by 180°."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, develop, linear, look_up, mix, noise, ramp, read_at, smoothstep, tileable
from ..tracing import TRACED, Hits, Mesh, around, enlarged, lamps_on, lit

EYE = 1.65
ROUND = 6.4
"""Radius of the platform in metres; the pier leaves it at bearing 0."""
SUN_AT, SUN_UP = 2.25, 0.055
SUN = np.array([np.sin(SUN_AT) * np.cos(SUN_UP), np.sin(SUN_UP), -np.cos(SUN_AT) * np.cos(SUN_UP)])
DECK, TIMBER, PALE, LAMP, CRATE, ROPE = range(6)
CLOTH = 100
CLOTHS = tuple(np.array(linear(code), np.float32) for code in ("#b8442f", "#e6d9bd", "#27616b", "#d9a13b"))


def _sky(rng: np.random.Generator, bearing: Plane, up: Plane) -> Plane:
    """The evening sky for every height from 0 to the zenith, with a broken layer of cloud lit from below."""
    toward = np.cos(bearing - SUN_AT) * 0.5 + 0.5
    height = np.clip(up / (np.pi / 2), 0, 1)
    warm = ramp(height, [(0, linear("#f2b27c")), (0.08, linear("#e8a18c")), (0.28, linear("#9a8fb4")), (1, linear("#2e4a86"))])
    cool = ramp(height, [(0, linear("#b3a6b6")), (0.16, linear("#8a94b8")), (1, linear("#24437f"))])
    sky = mix(cool, warm, toward**1.4)
    sky = sky + (np.exp(-((1 - toward) * 26) - (height * 15) ** 1.2))[..., None] * np.array([2.4, 1.35, 0.55], np.float32)
    tex = tileable(rng, 2048, 5, 8, 0.56)
    far = 1 / np.maximum(np.tan(np.clip(up, 0.03, 1.55)), 0.02)
    x, y = far * np.cos(bearing), far * np.sin(bearing)

    def body(dx: float, dy: float) -> Plane:
        return look_up(tex, (x + dx) * 0.075, (y + dy) * 0.075) + 0.4 * look_up(tex, (x + dx) * 0.31 + 0.2, (y + dy) * 0.31)

    thick = body(0, 0)
    # Light comes in low from the sun's side: the edges towards it are bright, what lies behind is grey.
    edge = thick - body(0.35 * np.cos(SUN_AT), 0.35 * np.sin(SUN_AT))
    cover = smoothstep(0.15, 1.25, thick) * smoothstep(0.02, 0.16, up) * (0.55 + 0.45 * smoothstep(1.5, 0.6, up))
    shade = mix(
        np.zeros_like(sky) + np.array(linear("#6f7391"), np.float32), linear("#ffcfa2"), np.clip(0.35 + 0.5 * toward + 0.55 * edge, 0, 1.2)
    )
    return mix(sky, shade, cover * (0.9 - 0.25 * smoothstep(1.2, 2.2, thick)))


def _stall(mesh: Mesh, bearing: float, cloth: int, rng: np.random.Generator) -> list[Plane]:
    """Put up one stall that looks at the middle; return where its lamps hang."""
    far, out = 5.0, np.array([np.sin(bearing), 0, -np.cos(bearing)])
    side = np.array([np.cos(bearing), 0, np.sin(bearing)])
    spin = -bearing
    for a in (-1, 1):
        for b, high in ((-0.55, 2.15), (0.55, 2.45)):
            at = out * (far + b) + side * 1.05 * a
            mesh.box(at + [0, high / 2, 0], np.array([0.04, high / 2, 0.04]), TIMBER, spin)
    mesh.box(out * (far - 0.45) + [0, 0.46, 0], np.array([1.05, 0.46, 0.28]), CRATE, spin)
    mesh.box(out * (far - 0.45) + [0, 0.95, 0], np.array([1.15, 0.03, 0.36]), TIMBER, spin)
    u, v = np.meshgrid(np.linspace(-1.3, 1.3, 25), np.linspace(-1.0, 0.85, 9))
    sag = 0.05 * np.sin(u * 5) * (v < -0.7) - 0.07 * np.cos(u * 1.2) ** 2
    roof = out * (far + v[..., None]) + side * u[..., None] + np.array([0, 1.0, 0]) * (2.24 + 0.2 * v + sag)[..., None]
    mesh.quads(roof, CLOTH + cloth)
    flap = (
        out * (far - 1.0)
        + side * u[:3, :, None]
        + np.array([0, 1.0, 0]) * (2.03 - np.linspace(0, 0.22, 3)[:, None] - 0.05 * np.sin(u[:3] * 5))[..., None]
    )
    mesh.quads(flap, CLOTH + cloth)
    for _ in range(9):
        size = rng.uniform(0.06, 0.13)
        at = out * (far - 0.45 + rng.uniform(-0.2, 0.2)) + side * rng.uniform(-0.95, 0.95)
        mesh.ball(at + [0, 0.98 + size * 0.8, 0], (size, size * rng.uniform(0.7, 1.3), size), (PALE, CRATE)[rng.integers(2)], 8)
    lamps = [out * (far - 0.75) + side * a + [0, 1.9, 0] for a in (-0.55, 0.55)]
    for lamp in lamps:
        mesh.ball(lamp, 0.075, LAMP, 8)
    return lamps


def _world(rng: np.random.Generator) -> tuple[Mesh, Plane]:
    mesh, lamps = Mesh(), []
    ang = np.linspace(0, 2 * np.pi, 97)
    ring = np.stack([np.sin(ang), np.zeros_like(ang), -np.cos(ang)], axis=1)
    fan = np.stack([np.zeros((96, 3)), ring[:-1] * ROUND, ring[1:] * ROUND], axis=1)
    mesh.add(fan, DECK)
    mesh.quads(np.stack([ring * ROUND, ring * ROUND - [0, 0.25, 0]]), TIMBER)
    mesh.box((0, -0.12, -ROUND - 30), (1.6, 0.12, 31.5), DECK)
    for bearing in np.linspace(0.3, 2 * np.pi - 0.3, 27):
        at = np.array([np.sin(bearing), 0, -np.cos(bearing)]) * (ROUND - 0.12)
        mesh.box(at + [0, 0.35, 0], np.array([0.055, 0.8, 0.055]), TIMBER, -bearing)
    arc = np.linspace(0.3, 2 * np.pi - 0.3, 160)
    line = np.stack([np.sin(arc), np.zeros_like(arc), -np.cos(arc)], axis=1) * (ROUND - 0.12)
    mesh.tube(line + [0, 1.12, 0], 0.045, TIMBER, 8)
    mesh.tube(
        line + np.array([0, 1.0, 0]) * (0.6 - 0.05 * np.abs(np.cos((arc - 0.3) / (2 * np.pi - 0.6) * 26 * np.pi)))[:, None], 0.018, ROPE, 6
    )
    for side in (-1.5, 1.5):
        for z in np.arange(-ROUND - 1, -60, -2.2):
            mesh.box((side, 0.2, z), (0.055, 0.95, 0.055), TIMBER)
        mesh.box((side, 1.12, -36), (0.045, 0.04, 30), TIMBER)
    for n, bearing in enumerate((0.62, 1.5, 2.75, 3.55, 4.55, 5.5)):
        lamps += _stall(mesh, bearing, n % 4, rng)
    poles = []
    for bearing in np.linspace(0.32, 2 * np.pi - 0.32, 9):
        foot = np.array([np.sin(bearing), 0, -np.cos(bearing)]) * (ROUND - 0.2)
        mesh.tube([foot, foot + [0, 3.3, 0]], [0.05, 0.035], TIMBER, 8)
        poles.append(foot + [0, 3.25, 0])
    for a, b in pairwise(poles):
        t = np.linspace(0, 1, 25)[:, None]
        wire = a + (b - a) * t - np.array([0, 0.55, 0]) * (4 * t * (1 - t))
        mesh.tube(wire, 0.008, ROPE, 4)
        for n in (5, 12, 19):
            mesh.ball(wire[n] - [0, 0.1, 0], 0.085, LAMP, 8)
            lamps.append(wire[n] - [0, 0.1, 0])
    return mesh, np.array(lamps)


def draw(rng: np.random.Generator, cols: int = 4000) -> NDArray[np.uint8]:
    """Draw the photo at 2:1."""
    full = (cols, cols // 2)
    cols = round(cols * TRACED)
    rows = cols // 2
    shape = (rows, cols)
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    bearing, up = (u + 0.5) / cols * np.float32(2 * np.pi), (0.5 - (v + 0.5) / rows) * np.float32(np.pi)
    high = _sky(rng, bearing, np.maximum(np.abs(up), np.float32(1e-3)))
    mesh, lamps = _world(rng)
    tree = mesh.built()
    way = around(bearing, up)
    hits = tree.hits(np.array([0, EYE, 0], np.float32), way)
    small = high[:: max(1, rows // 64), :: max(1, cols // 128)]

    def sky(ways: Plane) -> Plane:
        turn, rise = np.arctan2(ways[:, 0], -ways[:, 2]) % (2 * np.pi), np.arcsin(np.clip(ways[:, 1], -1, 1))
        row = np.clip((0.5 - rise / np.pi) * len(small), 0, len(small) - 1).astype(int)
        seen = small[row, np.clip(turn / (2 * np.pi) * small.shape[1], 0, small.shape[1] - 1).astype(int)]
        return np.where((ways[:, 1] < 0)[:, None], seen * np.float32(0.3), seen)

    matter = hits.matter
    base = np.zeros((len(matter), 3), np.float32)
    for code, tint in ((TIMBER, "#6a5845"), (CRATE, "#7d5f3e"), (PALE, "#c8a24c"), (ROPE, "#5b5145")):
        base[matter == code] = linear(tint)
    for n, tint in enumerate(CLOTHS):
        stripe = (np.floor(hits.place[:, 0] * 13) % 2)[:, None]
        base = np.where((matter == CLOTH + n)[:, None], tint * (1 - stripe) + CLOTHS[1] * stripe, base)

    def colours(one: Hits) -> Plane:
        return np.where((one.matter == LAMP)[:, None], np.array([6, 3.4, 1.4], np.float32), np.array([0.2, 0.16, 0.12], np.float32))

    light = lit(tree, hits, shape, rng, sun=SUN, sunlight=np.array([2.2, 1.25, 0.6]), sky=sky, colours=colours, rays=4, wide=0.03)
    # Planks across the deck, each of its own tone, their grain along them, gaps and nails.
    x, z = hits.point[:, 0], hits.point[:, 2]
    plank = np.floor(z / 0.145)
    grain = read_at(tileable(rng, 1024, 7), x * 0.10 + plank * 0.37, z * 1.7)
    part = (z / 0.145) % 1
    pixel = np.minimum(hits.far * np.float32(np.pi / rows) / 0.145, 1.0)
    gap = 1 - 0.85 * smoothstep(0.045, 0.02, np.minimum(part, 1 - part)) * smoothstep(0.5, 0.1, pixel)
    tone = rng.uniform(0.66, 1.15, 997).astype(np.float32)[plank.astype(int) % 997]
    nail = smoothstep(0.008, 0.005, np.hypot((x + 0.35) % 1.4 - 0.7, (part - 0.5) * 0.145 - np.where(part > 0.5, 0.035, -0.035)))
    worn = 0.85 + 0.2 * read_at(tileable(rng, 512, 3), x * 0.07, z * 0.07)
    wood = np.array(linear("#93806c"), np.float32) * (tone * worn * (0.82 + 0.16 * grain) * gap * (1 - 0.6 * nail))[:, None]
    base = np.where((matter == DECK)[:, None], wood, base)
    grainy = 0.9 + 0.12 * read_at(tileable(rng, 512, 9), hits.point[:, 1] * 0.35 + x * 2.1, z * 2.1 + x)
    base = np.where((matter == TIMBER)[:, None] | (matter == CRATE)[:, None], base * grainy[:, None], base)
    every = light.reshape(-1, 3) + lamps_on(hits, lamps, np.array([0.62, 0.34, 0.13]), 0.3)
    # Cloth lets the low sun through from behind.
    thin = ((matter >= CLOTH) & ((hits.normal @ SUN.astype(np.float32)) < 0))[:, None]
    every = every + thin * np.array([0.5, 0.3, 0.14], np.float32) * np.abs(hits.normal @ SUN.astype(np.float32))[:, None]
    surfaces = base * every
    surfaces = np.where((matter == LAMP)[:, None], np.array([7.0, 4.2, 1.9], np.float32), surfaces)

    # The sea, three metres below, mirrors the sky and the lamps' glow; towards the feet it is seen into.
    reach = (EYE + 3) / np.maximum(np.tan(np.clip(-up, 1e-3, 1.55)), 1e-3)
    sx, sy = reach * np.cos(bearing), reach * np.sin(bearing)
    wave = tileable(rng, 2048, 14, 8, 0.6)
    swell = look_up(wave, sx * 0.02, sy * 0.02) + 0.6 * look_up(wave, sx * 0.07, sy * 0.07)
    fresnel = np.clip(0.08 + 0.82 * np.exp(np.minimum(up, 0) * 3.6), 0, 1)
    tilted = np.clip(np.abs(up) + 0.05 * swell * np.exp(np.minimum(up, 0) * 1.0), 0.002, 1.5)
    mirror = _mirrored(high, tilted, rows)
    deep = np.array(linear("#17414b"), np.float32) * (0.8 + 0.14 * swell)[..., None]
    sea = mix(deep, mirror, fresnel * (1 - 0.12 * np.clip(swell, 0, 2)))
    toward = np.cos(bearing - SUN_AT) * 0.5 + 0.5
    glitter = smoothstep(1.1, 2.6, swell + 2.4 * np.exp(-((1 - toward) * 40) + np.minimum(up, 0) * 2.5) - 0.5)
    sea = sea + glitter[..., None] * np.array([1.6, 0.95, 0.45], np.float32)
    ground = mix(high, sea, (up < 0).astype(np.float32))
    # The far shore in haze, with the lights of the town.
    rough = noise(rng, (1, cols), (1, cols / 9), 9, 0.6)[0]
    # It goes all round: what the ends lack of meeting is spread over the way.
    rough = rough - (rough[-1] - rough[0]) * np.linspace(0, 1, cols, dtype=np.float32)
    hills = np.clip(0.012 + 0.012 * rough + 0.010 * np.cos(bearing[0] - 0.6), 0.002, 1)
    shore = mix(ground * 0.3, linear("#7d7a92"), 0.55)
    ground = mix(ground, shore, smoothstep(-0.0016, 0.0016, hills - up) * (up > -0.001))
    for _ in range(90):
        c, r = int(rng.uniform(0, cols)), int(rows * 0.5 - rng.uniform(0.5, 5) * rows / 1000)
        ground[r, c] += np.array([3.2, 2.1, 0.9], np.float32) * rng.uniform(0.2, 1)
    scene = np.where((matter >= 0).reshape(*shape, 1), surfaces.reshape(*shape, 3), ground)
    veil = (1 - np.exp(-hits.far / 90)).reshape(*shape, 1) * (matter >= 0).reshape(*shape, 1)
    scene = scene + (mix(np.zeros_like(scene), linear("#c79a8c"), 1.0) - scene) * veil
    return develop(rng, enlarged(scene, full), exposure=1.0, grain=0.012, bloom=0.2)


def _mirrored(high: Plane, up: Plane, rows: int) -> Plane:
    """Return the sky at these heights over the horizon, column by column."""
    row = np.clip((0.5 - up / np.float32(np.pi)) * rows - 0.5, 0, rows - 1).astype(int)
    return high[row, np.arange(high.shape[1])[None]]
