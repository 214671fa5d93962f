"""`stilt-village-noon`: painted houses on stilts in a lagoon under heaped clouds; the camera leaned by 2.3°."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, develop, linear, look_up, mix, noise, ramp, read_at, smoothstep, tileable
from ..clouds import clouds
from ..tracing import TRACED, Hits, Mesh, Tree, enlarged, lit

HORIZON = 0.6
LEAN = 2.3
TURN = 0.9 * 2 * np.pi
EYE = np.array([0, 2.3, 0], np.float32)
SUN = np.array([0.45, 0.72, 0.53]) / np.linalg.norm([0.45, 0.72, 0.53])
SUNLIGHT = np.array([2.35, 2.2, 1.95], np.float32)
WALLS = ("#c2543d", "#d99a4e", "#3f7d8c", "#d6cfbe", "#7a9a7c", "#a97884", "#5b6c8f", "#d8b765", "#8fb0a8")
ROOFS = ("#6b5a50", "#8a4f3a", "#7c8084", "#59616b", "#9a6a4c")
TIMBER, GLASS, TRIM, LEAF, BOAT = 0, 1, 2, 3, 4
WALL, ROOF = 10, 40


Put = Callable[[tuple[float, float, float], tuple[float, float, float], int], None]
"""Sets a box of a matter into a house: its middle, half its sides."""


def _windows(put: Put, base: float, wide: float, deep: float, high: float, shutters: int, door: bool) -> None:
    """Set the windows of a storey into front and sides, and a door into the front of the lowest."""
    for n, x in enumerate(np.linspace(-wide * 0.66, wide * 0.66, 3 if wide < 3.2 else 4)):
        if door and n == 1:
            put((x, base + 0.95, deep + 0.02), (0.42, 0.95, 0.03), TIMBER)
            put((x, base + 0.98, deep + 0.03), (0.36, 0.88, 0.04), GLASS)
            continue
        put((x, base + high * 1.05, deep + 0.03), (0.46, 0.56, 0.04), TRIM)
        put((x, base + high * 1.05, deep + 0.05), (0.39, 0.49, 0.04), GLASS)
        put((x, base + high * 1.05, deep + 0.07), (0.03, 0.49, 0.04), TRIM)
        for side in (-1, 1):
            put((x + side * 0.72, base + high * 1.05, deep + 0.04), (0.22, 0.56, 0.03), shutters)
    for z in (-deep * 0.4, deep * 0.4):
        for side in (-1, 1):
            put((side * (wide + 0.03), base + high * 1.05, z), (0.04, 0.5, 0.4), TRIM)
            put((side * (wide + 0.05), base + high * 1.05, z), (0.04, 0.43, 0.33), GLASS)


def _roof(mesh: Mesh, at: Plane, turn: Plane, wide: float, deep: float, top: float, peak: float, wall: int, roof: int) -> None:
    """Lay a gable roof that stands over."""
    over = 0.45
    for side in (-1, 1):
        slope = np.array([
            [[-wide - over, top - 0.18, side * (deep + over)], [wide + over, top - 0.18, side * (deep + over)]],
            [[-wide - over, peak, 0], [wide + over, peak, 0]],
        ])  # fmt: skip
        mesh.quads(at + slope @ turn.T, roof, smooth=False)
        mesh.quads(at + (slope - np.array([0, 0.09, 0])) @ turn.T, TIMBER, smooth=False)
    gable = np.array([[[x, top, -deep], [x, top, deep], [x, peak - 0.1, 0]] for x in (-wide, wide)])
    mesh.add(at + gable @ turn.T, wall, places=np.array([[[0, 0], [1, 0], [0.5, 1]]] * 2))


def _porch(put: Put, rng: np.random.Generator, wide: float, deep: float, lift: float) -> None:
    """Build a porch on the front: posts and a rail, washing on a line, a ladder down to the water."""
    for x in np.linspace(-wide, wide, 4):
        put((x, lift + 0.5, deep + 1.15), (0.04, 0.5, 0.04), TIMBER)
    put((0, lift + 1.0, deep + 1.15), (wide * 1.04, 0.035, 0.04), TIMBER)
    put((0, lift + 0.55, deep + 1.15), (wide * 1.04, 0.025, 0.03), TIMBER)
    for n in range(int(rng.integers(0, 5))):
        x = -wide * 0.7 + n * 0.62
        put((x, lift + 1.75, deep + 0.8), (0.24, 0.34, 0.012), WALL + int(rng.integers(len(WALLS))))
    ladder = rng.uniform(-0.5, 0.5) * wide
    for x in (ladder - 0.2, ladder + 0.2):
        put((x, lift / 2 - 0.2, deep + 1.25), (0.03, lift / 2 + 0.3, 0.03), TIMBER)
    for y in np.arange(-0.1, lift, 0.26):
        put((ladder, y, deep + 1.25), (0.2, 0.02, 0.02), TIMBER)


def _house(mesh: Mesh, rng: np.random.Generator, at: Plane, spin: float) -> None:
    """Build one house on its platform; its front looks to where `spin` turns it."""
    wide, deep, high, lift = rng.uniform(2.4, 3.9), rng.uniform(1.9, 2.7), rng.uniform(1.4, 1.75), rng.uniform(1.0, 1.5)
    storeys = 2 if rng.random() < 0.2 else 1
    wall, roof = WALL + int(rng.integers(len(WALLS))), ROOF + int(rng.integers(len(ROOFS)))
    c, s = np.cos(spin), np.sin(spin)
    turn = np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]])

    def put(middle: tuple[float, float, float], half: tuple[float, float, float], matter: int) -> None:
        mesh.box(at + turn @ np.array(middle), np.array(half), matter, spin)

    for x in np.linspace(-wide * 0.92, wide * 0.92, 5):
        for z in (-deep * 0.85, 0.2, deep + 0.9):
            put((x + rng.normal(0, 0.03), lift / 2 - 0.5, z), (0.09, lift / 2 + 0.5, 0.09), TIMBER)
    put((0, lift, 0.5), (wide * 1.08, 0.08, deep + 0.7), TIMBER)
    top = lift + 0.08 + 2 * high * storeys
    put((0, (lift + top) / 2, 0), (wide, (top - lift) / 2, deep), wall)
    for floor in range(storeys):
        _windows(put, lift + 0.08 + 2 * high * floor, wide, deep, high, ROOF + (wall - WALL) % len(ROOFS), floor == 0)
    _roof(mesh, at, turn, wide, deep, top, top + rng.uniform(0.9, 1.5), wall, roof)
    _porch(put, rng, wide, deep, lift)


def _boat(mesh: Mesh, rng: np.random.Generator, at: Plane, spin: float) -> None:
    length, beam = rng.uniform(1.5, 2.3), rng.uniform(0.38, 0.5)
    t, a = np.meshgrid(np.linspace(-1, 1, 25), np.linspace(-1, 1, 11))
    wide = beam * (1 - np.abs(t) ** 2.6)
    hull = np.stack([a * wide, 0.36 * np.abs(a) ** 1.6 - 0.12 + 0.26 * np.abs(t) ** 3, t * length], axis=-1)
    c, s = np.cos(spin), np.sin(spin)
    mesh.quads(at + hull @ np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]]).T, BOAT + 60 + int(rng.integers(len(WALLS))))
    for z in (-0.5, 0.2, 0.8):
        mesh.box(at + np.array([s * z * length * 0.7, 0.16, c * z * length * 0.7]), np.array([beam * 0.7, 0.02, 0.1]), TIMBER, spin)


def _world(rng: np.random.Generator) -> Mesh:
    mesh = Mesh()
    for bearing in np.arange(0.1, TURN, 0.34):
        # Between the houses the lagoon is seen, out to its horizon.
        if round((bearing - 0.1) / 0.34) % 4 in (2, 3):
            continue
        for row, far in ((0, rng.uniform(15, 21)), (1, rng.uniform(27, 40))):
            ang = bearing + rng.normal(0, 0.05) + 0.17 * row
            at = np.array([np.sin(ang), 0, -np.cos(ang)]) * far
            _house(mesh, rng, at, -ang + rng.normal(0, 0.35))
            if row == 0 and rng.random() < 0.7:
                side = ang + rng.choice([-1, 1]) * 0.2
                _boat(mesh, rng, np.array([np.sin(side), 0, -np.cos(side)]) * (far - 3), rng.uniform(0, 6.3))
    # Walkways on piles between the houses.
    for bearing in np.arange(0.3, TURN - 0.4, 0.34):
        if round((bearing - 0.3) / 0.34) % 4 != 0:
            continue
        a, b = (np.array([np.sin(x), 0, -np.cos(x)]) * 22.5 for x in (bearing, bearing + 0.3))
        mesh.box((a + b) / 2 + [0, 1.15, 0], np.array([np.linalg.norm(a - b) / 2, 0.05, 0.5]), TIMBER, -(bearing + 0.15))
        for t in np.linspace(0, 1, 4):
            for side in (-0.4, 0.4):
                out = np.array([np.sin(bearing + 0.15), 0, -np.cos(bearing + 0.15)]) * side
                mesh.box(a + (b - a) * t + out + [0, 0.3, 0], np.array([0.06, 0.9, 0.06]), TIMBER)
    # Palms and bushes on a low bank behind.
    for _ in range(60):
        ang, far = rng.uniform(0, TURN + 0.3), rng.uniform(46, 80)
        foot, high = np.array([np.sin(ang), 0, -np.cos(ang)]) * far, rng.uniform(4, 10)
        lean = rng.normal(0, 0.12, 2) * high
        t = np.linspace(0, 1, 9)[:, None]
        crown = foot + np.array([lean[0], high, lean[1]])
        mesh.tube(foot + t * [0, high, 0] + t**2 * [lean[0], 0, lean[1]], 0.22 - 0.1 * t[:, 0], TIMBER, 6)
        for frond in np.linspace(0, 2 * np.pi, int(rng.integers(11, 17))):
            way = np.array([np.cos(frond + rng.normal(0, 0.15)), 0, np.sin(frond)])
            along = np.linspace(0, 1, 9)[:, None] * rng.uniform(1.8, 3.0)
            rise = rng.uniform(0.1, 0.7)
            mid = crown + way * along + np.array([0, 1, 0]) * (rise * along - 0.32 * along**2)
            side = np.cross(way, [0, 1, 0]) * (0.34 * np.sin(np.linspace(0.25, np.pi, 9)))[:, None]
            mesh.quads(np.stack([mid - side - [0, 0.14, 0], mid, mid + side - [0, 0.14, 0]], axis=1), LEAF)
    for _ in range(260):
        ang, far, size = rng.uniform(0, TURN + 0.3), rng.uniform(44, 75), rng.uniform(0.7, 2.4)
        mesh.ball(np.array([np.sin(ang) * far, size * 0.35, -np.cos(ang) * far]), (size * 1.3, size, size * 1.3), LEAF, 7)
    return mesh


def _painted(hits: Hits, rng: np.random.Generator) -> Plane:
    """Return the colour of what was hit: boards and their shadows, stains, sun-bleached paint."""
    base = np.zeros((len(hits.matter), 3), np.float32)
    matter, p = hits.matter, hits.point
    for code, tint in ((TIMBER, "#75614e"), (GLASS, "#1c2a33"), (TRIM, "#d9d4c6"), (LEAF, "#47612f")):
        base[matter == code] = linear(tint)
    for n, tint in enumerate(WALLS):
        base[(matter == WALL + n) | (matter == BOAT + 60 + n)] = np.array(linear(tint), np.float32) * 0.8
    for n, tint in enumerate(ROOFS):
        base[matter == ROOF + n] = linear(tint)
    around = p[:, 0] + p[:, 2]
    stain, fine = tileable(rng, 1024, 4), tileable(rng, 1024, 20)
    streaks = read_at(stain, around * 0.19, p[:, 1] * 0.05)
    board = (p[:, 1] / 0.19) % 1
    walls = (matter >= WALL) & (matter < ROOF)
    roofs = (matter >= ROOF) & (matter < ROOF + len(ROOFS))
    worn = 1 + 0.12 * streaks + 0.07 * read_at(fine, around * 0.4, p[:, 1] * 0.4)
    boards = 1 - 0.4 * smoothstep(0.13, 0.04, np.minimum(board, 1 - board)) * np.clip(24 / np.maximum(hits.far, 1) - 0.35, 0, 1)
    foot = 1 - 0.35 * smoothstep(1.9, 1.1, p[:, 1] + 0.25 * streaks)
    base = base * np.where(walls, worn * boards * foot, 1)[:, None]
    ridge = 0.84 + 0.2 * np.abs(((hits.place[:, 0] * 24) % 1) * 2 - 1)
    rust = smoothstep(0.3, 1.6, read_at(stain, hits.place[:, 0] * 0.7 + around * 0.05, hits.place[:, 1] * 0.4))
    base = np.where(
        roofs[:, None],
        mix(base * (ridge * (1 + 0.1 * read_at(fine, around * 0.3, p[:, 1] * 0.3)))[:, None], linear("#7a4a30"), 0.55 * rust[:, None]),
        base,
    )
    wood = 0.85 + 0.22 * read_at(fine, around * 0.15, p[:, 1] * 0.9) + 0.1 * streaks
    wet = 1 - 0.6 * smoothstep(0.55, 0.1, p[:, 1])
    base = np.where((matter == TIMBER)[:, None], base * (wood * wet)[:, None], base)
    leafy = 0.75 + 0.5 * read_at(fine, p[:, 0] * 0.35, p[:, 1] * 0.35 + p[:, 2] * 0.2)
    return np.where((matter == LEAF)[:, None], base * leafy[:, None], base)


def noon_sky(way: Plane) -> Plane:
    """Return the blue of the sky along rays (n, 3)."""
    up = np.clip(way[:, 1], 0, 1)
    sky = ramp(up, [(0, linear("#d5e3ea")), (0.06, linear("#b2d0e6")), (0.3, linear("#6ba2d6")), (0.8, linear("#2d68ad"))]) * 1.1
    near = np.clip(way @ SUN.astype(np.float32), 0, 1) ** 24
    return np.asarray(sky + near[:, None] * np.array([0.5, 0.45, 0.35], np.float32))


def _seen(tree: Tree, start: Plane, way: Plane, rng: np.random.Generator, shape: tuple[int, int], step: int) -> tuple[Hits, Plane]:
    hits = tree.hits(start, way)
    light = lit(
        tree, hits, shape, rng, step, sun=SUN, sunlight=SUNLIGHT, sky=lambda w: np.where((w[:, 1] < 0)[:, None], np.float32(0.16), noon_sky(np.abs(w)) * np.float32(1.15)),
        colours=lambda one: _flat(one), rays=3,
    )  # fmt: skip
    through = (hits.matter == LEAF)[:, None] * np.clip(-(hits.normal @ SUN.astype(np.float32)), 0, 1)[:, None] * SUNLIGHT * np.float32(0.5)
    colour = _painted(hits, rng) * (light.reshape(-1, 3) + through)
    mirror = way - 2 * (way * hits.normal).sum(axis=1, keepdims=True) * hits.normal
    colour = np.where((hits.matter == GLASS)[:, None], colour + noon_sky(np.abs(mirror)) * np.float32(0.14), colour)
    haze = 1 - np.exp(-np.minimum(hits.far, 1e4) / 320)
    return hits, mix(colour, np.array([0.66, 0.76, 0.84], np.float32), haze[:, None])


def _flat(hits: Hits) -> Plane:
    out = np.full((len(hits.matter), 3), 0.16, np.float32)
    for n, tint in enumerate(WALLS):
        out[hits.matter == WALL + n] = np.array(linear(tint), np.float32) * 0.7
    return out


def draw(rng: np.random.Generator, cols: int = 4000) -> NDArray[np.uint8]:
    """Draw the photo, two and a half times as wide as high."""
    full = (cols, int(cols / 2.5))
    cols = round(cols * TRACED)
    rows = int(cols / 2.5)
    shape = (rows, cols)
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    # The camera leans: its rows are turned about the middle of the photo.
    lean = np.radians(LEAN)
    x, y = u + rng.random(shape, np.float32) - cols / 2, v + rng.random(shape, np.float32) - rows / 2
    across, down = x * np.cos(lean) + y * np.sin(lean), y * np.cos(lean) - x * np.sin(lean)
    bearing = (0.5 + across / cols) * TURN
    rise = (HORIZON - 0.5 - down / rows) * np.float32(TURN / 2.5)
    way = np.stack([np.sin(bearing), rise, -np.cos(bearing)], axis=-1)
    way = (way / np.linalg.norm(way, axis=-1, keepdims=True)).reshape(-1, 3).astype(np.float32)
    above = np.stack([way[:, 0], np.abs(way[:, 1]), way[:, 2]], axis=1)
    cover, shine = clouds(rng, above, shape, SUN, 0.45)
    cover = np.clip(cover, 0, 1) * smoothstep(0.03, 0.14, above[:, 1]).reshape(shape)
    cloud = np.clip(shine, 0.2, 1.5)[..., None] * np.array([1.02, 1.03, 1.06], np.float32)
    sky = mix(noon_sky(above).reshape(*shape, 3), cloud, cover)
    # Far hills in haze.
    rough = noise(rng, (1, 4096), (1, 420), 8, 0.55)[0]
    ridge = 0.018 + 0.013 * np.interp(bearing.reshape(-1) / TURN * 4095, np.arange(4096), rough)
    hills = smoothstep(0.0015, -0.0015, above[:, 1] - np.clip(ridge, 0.003, 1)).reshape(shape)
    sky = mix(sky, mix(np.full_like(sky, 0) + np.array(linear("#6e8b8c"), np.float32), linear("#b9cfdb"), 0.45), hills)
    tree = _world(rng).built()
    hits, solid = _seen(tree, EYE, way, rng, shape, 3)
    water = (way[:, 1] < 0) & (hits.far > EYE[1] / np.maximum(-way[:, 1], 1e-5))
    scene = np.where((hits.matter >= 0)[:, None], solid, sky.reshape(-1, 3)).reshape(*shape, 3)

    far = np.minimum(EYE[1] / np.maximum(-way[:, 1], 1e-4), 4e3)
    wx, wz = way[:, 0] * far, way[:, 2] * far
    wave = tileable(rng, 1024, 12, 7, 0.6)
    gx, gz = wx.reshape(shape), wz.reshape(shape)
    swell = look_up(wave, gx * 0.045, gz * 0.045) + 0.5 * look_up(wave, gx * 0.16, gz * 0.16)
    tip_x = look_up(wave, gx * 0.05 + 0.3, gz * 0.05) + 0.7 * look_up(wave, gx * 0.21, gz * 0.21 + 0.4)
    calm = np.clip(9 / np.maximum(far, 1), 0.06, 1).reshape(shape)
    normal = np.stack([0.018 * tip_x * calm, np.ones(shape), 0.03 * swell * calm], axis=-1).reshape(-1, 3)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    mirror = (way - 2 * (way * normal).sum(axis=1, keepdims=True) * normal).astype(np.float32)
    mirror[:, 1] = np.abs(mirror[:, 1])
    start = np.stack([wx, np.zeros_like(wx) + 1e-3, wz], axis=1).astype(np.float32)
    at = np.flatnonzero(water)
    back = tree.hits(start[at], mirror[at])
    glow = np.clip((back.normal @ SUN.astype(np.float32)), 0, 1)[:, None] * SUNLIGHT * np.float32(0.72) + np.float32(0.5)
    shown = _painted(back, rng) * glow
    # The reflected sky is looked up where its ray would be seen.
    turn = np.arctan2(mirror[at, 0], -mirror[at, 2]) % (2 * np.pi)
    col = np.clip(turn / TURN * cols, 0, cols - 1)
    height = mirror[at, 1] / np.maximum(np.hypot(mirror[at, 0], mirror[at, 2]), 1e-4)
    row = np.clip((HORIZON - height / np.float32(TURN / 2.5)) * rows, 0, rows - 1)
    # In the leaning photo that place lies turned about the middle.
    cx, cy = col - cols / 2, row - rows / 2
    fx, fy = cx * np.cos(lean) - cy * np.sin(lean) + cols / 2, cy * np.cos(lean) + cx * np.sin(lean) + rows / 2
    above_water = sky[np.clip(fy, 0, rows - 1).astype(int), np.clip(fx, 0, cols - 1).astype(int)]
    shown = np.where((back.matter >= 0)[:, None], shown, above_water)
    steep = np.clip(-(way[at] * normal[at]).sum(axis=1), 0, 1)
    fresnel = np.clip(0.03 + 0.97 * (1 - steep) ** 4, 0.03, 0.92)[:, None]
    depth = far[at]
    deep = ramp(depth, [(2, linear("#2c7f7c")), (9, linear("#2f8a8c")), (30, linear("#4a9ba0")), (120, linear("#86b4bb"))]) * 0.8
    sand = smoothstep(0.1, 1.5, read_at(tileable(rng, 512, 3), wx[at] * 0.03, wz[at] * 0.03)) * smoothstep(26, 5, depth)
    caustic = 1 - np.abs(read_at(wave, wx[at] * 0.11, wz[at] * 0.11))
    deep = mix(deep, np.array(linear("#b9b487"), np.float32) * (0.72 + 0.3 * smoothstep(0.6, 1, caustic))[:, None], (0.6 * sand)[:, None])
    sunny = tree.open_to(start[at] + np.array([0, 0.01, 0], np.float32), np.broadcast_to(SUN.astype(np.float32), (len(at), 3)))
    wet = mix(deep * (0.55 + 0.45 * sunny)[:, None], shown, fresnel)
    flash = np.clip((mirror[at] @ SUN.astype(np.float32)), 0, 1) ** 900 * sunny
    scene.reshape(-1, 3)[at] = wet + (2.5 * flash)[:, None]
    return develop(rng, enlarged(cv2.GaussianBlur(scene, (0, 0), 0.4), full), exposure=1.0, bloom=0.08, grain=0.01)
