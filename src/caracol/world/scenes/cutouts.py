"""Cut-outs and textures: `heron`, `paper-boat` on nothing; `tape-bars`, `salt-dust` to be laid over pictures."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, linear, mix, noise, read_at, smoothstep, tileable
from ..tracing import Mesh, camera_rays, lit

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


def _inflated(cover: Plane, k: float, deep: float) -> Plane:
    """Return how far a flat outline bulges towards the eye, as a balloon of it would, in shares of the height."""
    far = cv2.distanceTransform((cover > 0.5).astype(np.uint8), cv2.DIST_L2, 5).astype(np.float32) / np.float32(k)
    round_ = np.sqrt(np.maximum(2 * deep * np.minimum(far, deep) - np.minimum(far, deep) ** 2, 0))
    return blur(round_, k * 0.003)


def _feathers(
    rng: np.random.Generator,
    shape: tuple[int, int],
    cover: Plane,
    rows: list[tuple[float, float, float, float]],
    k: float,
    tail: tuple[float, float],
) -> tuple[Plane, Plane, Plane]:
    """Lay feathers over an outline, the ones at the tail first: their tone, how far across each a pixel lies (-1 … 1), and how far along (0 … 1).

    Parameters
    ----------
    rows : list of (x, y, length, width)
        Where feathers grow, in shares of the height.
    tail : (x, y)
        What they all point to.
    """
    tone, across, along = np.full(shape, 0.5, np.float32), np.zeros(shape, np.float32), np.full(shape, 0.5, np.float32)
    order = sorted(rows, key=lambda one: -(one[0] * 0.75 + one[1] * 0.66))
    t = np.linspace(0, 1, 9)
    for x, y, long, wide in order:
        way = np.array([tail[0] - x, tail[1] - y])
        way = way / max(float(np.linalg.norm(way)), 1e-6)
        lean = rng.normal(0, 0.12)
        way = np.array([way[0] * np.cos(lean) - way[1] * np.sin(lean), way[1] * np.cos(lean) + way[0] * np.sin(lean)])
        side = np.array([-way[1], way[0]])
        breadth = wide * (np.minimum(t * 3.2, 1) ** 0.6) * np.sqrt(np.clip(1 - (np.maximum(t - 0.62, 0) / 0.38) ** 2.2, 0, 1))
        middle = np.array([x, y]) + way * (t * long)[:, None]
        shade = float(np.clip(rng.normal(0.5, 0.16), 0, 1))
        for part in range(8):
            for half, sign in ((-1.0, -1), (1.0, 1)):
                quad = [
                    middle[part],
                    middle[part] + side * half * breadth[part],
                    middle[part + 1] + side * half * breadth[part + 1],
                    middle[part + 1],
                ]
                poly = [(np.array(quad) * k * 8).astype(np.int32)]
                cv2.fillPoly(tone, poly, shade, cv2.LINE_AA, 3)
                cv2.fillPoly(across, poly, sign * 0.7, cv2.LINE_AA, 3)
                cv2.fillPoly(along, poly, float((t[part] + t[part + 1]) / 2), cv2.LINE_AA, 3)
        edge = [(np.concatenate([middle + side * breadth[:, None], (middle - side * breadth[:, None])[::-1]]) * k * 8).astype(np.int32)]
        cv2.polylines(along, edge, False, 1.0, max(1, int(k * 0.0012)), cv2.LINE_AA, 3)
    return tone, across, along


def draw_heron(rng: np.random.Generator, cols: int = 1400) -> NDArray[np.uint8]:
    """Draw a grey heron standing, lit from the upper left, 3:4."""
    rows = cols * 4 // 3
    shape, k = (rows, cols), float(rows)
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32) / k
    body = _poly(
        shape,
        [(0.285, 0.37), (0.34, 0.335), (0.42, 0.385), (0.52, 0.485), (0.62, 0.585), (0.69, 0.655), (0.6, 0.645), (0.5, 0.63), (0.4, 0.59), (0.31, 0.52), (0.275, 0.44)],
        k,
    )  # fmt: skip
    path = [(0.33, 0.45), (0.262, 0.39), (0.232, 0.325), (0.262, 0.268), (0.315, 0.215), (0.327, 0.16), (0.29, 0.128)]
    neck = np.maximum.reduce(
        [_poly(shape, path, k, False, 0.036), _poly(shape, path[:4], k, False, 0.046), _poly(shape, path[:3], k, False, 0.06)]
    )
    neck = smoothstep(0.25, 0.75, blur(neck, k * 0.006))
    head = _poly(shape, [(0.236, 0.118), (0.262, 0.1), (0.3, 0.098), (0.33, 0.118), (0.33, 0.142), (0.295, 0.152), (0.25, 0.142)], k)
    bill = _poly(shape, [(0.252, 0.117), (0.2, 0.126), (0.148, 0.142), (0.103, 0.16), (0.15, 0.156), (0.2, 0.151), (0.252, 0.144)], k)
    crest = np.maximum(
        _poly(shape, [(0.27, 0.103), (0.33, 0.108), (0.375, 0.132), (0.425, 0.175), (0.365, 0.14), (0.32, 0.124)], k),
        _poly(shape, [(0.33, 0.118), (0.38, 0.16), (0.402, 0.2)], k, False, 0.004),
    )
    knees = [
        [(0.415, 0.585), (0.419, 0.66), (0.424, 0.745), (0.412, 0.775), (0.414, 0.86), (0.418, 0.935)],
        [(0.47, 0.6), (0.484, 0.68), (0.49, 0.735), (0.474, 0.775), (0.476, 0.86), (0.48, 0.948)],
    ]
    legs, joints = np.zeros(shape, np.float32), np.zeros(shape, np.float32)
    for leg in knees:
        foot = leg[-1]
        legs = np.maximum.reduce([
            legs, _poly(shape, leg, k, False, 0.0098), _poly(shape, leg[:2], k, False, 0.0135),
            *(_poly(shape, [foot, (foot[0] + dx, foot[1] + dy), (foot[0] + 1.7 * dx, foot[1] + 1.5 * dy)], k, False, 0.006)
              for dx, dy in ((-0.03, 0.011), (-0.012, 0.018), (0.024, 0.009))),
        ])  # fmt: skip
        joints = np.maximum(joints, np.exp(-(((x - leg[3][0]) / 0.011) ** 2) - ((y - leg[3][1] + 0.004) / 0.014) ** 2))
    legs = smoothstep(0.3, 0.7, np.maximum(legs, joints * 0.9))
    # Feathers: small ones on the shoulder, longer ones over the wing, the long dark quills last.
    rows_of: list[tuple[float, float, float, float]] = []
    for u in np.linspace(0, 1, 26):
        for v in np.linspace(0, 1, 13):
            px, py = 0.3 + 0.36 * u + rng.normal(0, 0.004), 0.365 + 0.27 * u + 0.12 * (v - 0.35) * (1 - 0.75 * u) + rng.normal(0, 0.004)
            rows_of.append((px, py, 0.022 + 0.05 * u, 0.0075 + 0.006 * u))
    for u in np.linspace(0, 1, 12):
        rows_of.append((0.4 + 0.17 * u, 0.5 + 0.085 * u, 0.15 - 0.05 * u, 0.0095))
    tone, across, along = _feathers(rng, shape, body, rows_of, k, (0.715, 0.675))
    deep = np.maximum.reduce([_inflated(body, k, 0.085), _inflated(neck, k, 0.024) + 0.02 * neck, _inflated(head, k, 0.026) + 0.02 * head])
    deep = np.maximum(deep, np.maximum(_inflated(bill, k, 0.009), _inflated(legs, k, 0.006)))
    barbs = noise(rng, shape, (k * 0.0022, k * 0.02), 3)
    lift = deep + body * (0.0030 * (1 - np.abs(across)) - 0.0042 * smoothstep(0.75, 1.0, along) + 0.0005 * barbs)
    slope_x, slope_y = np.gradient(lift, axis=1) * k, np.gradient(lift, axis=0) * k
    norm = 1 / np.sqrt(1 + slope_x**2 + slope_y**2)
    sun = np.array([-0.52, -0.62, 0.58])
    direct = np.clip((-slope_x * sun[0] - slope_y * sun[1] + sun[2]) * norm, 0, 1)
    above = 0.5 + 0.5 * np.clip(-slope_y * norm * -1.0 * -1.0, -1, 1)
    hidden = blur(np.maximum(body, neck), k * 0.012) * smoothstep(0.0, 0.02, y - 0.36) * (1 - smoothstep(0.0, 0.05, deep))
    grey = mix(np.zeros((rows, cols, 3), np.float32) + np.array(linear("#7d8896"), np.float32), linear("#aab2ba"), np.clip(tone, 0, 1))
    wing = smoothstep(-0.01, 0.035, (y - 0.36) - 0.62 * (x - 0.3) - 0.012) * smoothstep(0.52, 0.7, x + 0.25 * (y - 0.5))
    grey = mix(grey, linear("#3b4552"), np.clip(0.75 * wing + 0.35 * smoothstep(0.6, 1.0, along) * smoothstep(0.3, 0.6, x), 0, 0.9))
    belly = smoothstep(0.02, -0.03, (y - 0.44) * 0.62 - (x - 0.265)) * smoothstep(0.5, 0.58, y + 0.25 * (x - 0.3))
    grey = mix(grey, linear("#c3c6c6"), 0.6 * belly)
    white = np.array(linear("#d9d8d2"), np.float32) * (1 + 0.05 * barbs)[..., None]
    light = mix(grey * (1 + 0.07 * barbs)[..., None], white, np.maximum(neck, head))
    plume = _poly(shape, [(0.27, 0.41), (0.262, 0.47), (0.285, 0.545)], k, False, 0.026)
    light = mix(light, white * 0.92, smoothstep(0.2, 0.9, blur(plume, k * 0.006)) * 0.85)
    streak = smoothstep(
        0.5, 1.3, noise(rng, shape, (k * 0.016, k * 0.0045), 3) + 1.3 * np.exp(-(((x - 0.246 - 0.25 * np.abs(y - 0.33)) / 0.012) ** 2))
    )
    light = mix(light, linear("#23272e"), np.clip(streak * neck * smoothstep(0.2, 0.27, y), 0, 1) * 0.85)
    brow = smoothstep(0.0075, 0.004, np.abs((y - 0.108) - 0.16 * (x - 0.28) ** 2 - 0.06 * (x - 0.28))) * smoothstep(0.248, 0.262, x) * head
    light = mix(light, linear("#11151b"), np.clip(np.maximum(crest, brow), 0, 1))
    horn = mix(
        np.zeros_like(light) + np.array(linear("#c28a2e"), np.float32),
        linear("#7d5a2a"),
        smoothstep(0.02, -0.01, (y - 0.117) - 0.27 * (0.252 - x))[...],
    )
    light = mix(light, horn * (1 - 0.45 * smoothstep(0.0016, 0.0006, np.abs((y - 0.1315) - 0.19 * (0.252 - x))))[..., None], bill)
    scales = 0.86 + 0.14 * np.sin(y * k * 0.16) * smoothstep(0.5, 1, np.abs(noise(rng, shape, (k * 0.004, k * 0.01), 2)))
    light = mix(light, np.array(linear("#8d7c50"), np.float32) * scales[..., None], legs)
    shade = direct[..., None] * np.array([1.12, 1.04, 0.9], np.float32) + (0.24 + 0.3 * above)[..., None] * np.array(
        [0.78, 0.88, 1.02], np.float32
    )
    light = light * shade * (1 - 0.45 * np.clip(hidden, 0, 1))[..., None]
    eye = np.hypot(x - 0.2655, y - 0.1215)
    light = mix(
        mix(mix(light, linear("#1a1d20"), smoothstep(0.0100, 0.0085, eye)), linear("#e3b23c"), smoothstep(0.0082, 0.0066, eye)),
        linear("#050608"),
        smoothstep(0.0044, 0.0032, eye),
    )
    light = light + (smoothstep(0.0018, 0.0008, np.hypot(x - 0.2638, y - 0.1195)) * 0.8)[..., None]
    cover = np.maximum.reduce([body, neck, head, bill, crest, legs])
    # The outline is not cut with a knife: quills and plumes stand out of it.
    near = blur(cover, k * 0.0012)
    ragged = smoothstep(
        0.42,
        0.58,
        near
        + smoothstep(0.1, 0.4, near)
        * 0.13
        * noise(rng, shape, (k * 0.003, k * 0.007), 3)
        * smoothstep(0.25, 0.3, x)
        * (y < 0.68)
        * (y > 0.33),
    )
    fine = np.maximum.reduce([neck, head, bill, crest, legs])
    return _cut(rng, light, np.maximum(ragged * (y < 0.7), fine))


def draw_boat(rng: np.random.Generator, cols: int = 1500) -> NDArray[np.uint8]:
    """Draw a boat folded from a printed sheet, 3:2."""
    rows = cols * 2 // 3
    mesh = Mesh()

    def sheet(corners: list[tuple[float, float, float]], bulge: float = 0.0) -> None:
        """Lay a slightly bent triangle or quadrangle of paper."""
        p = np.array(corners, np.float64)
        a, b, c, d = p if len(p) == 4 else (p[0], p[1], p[2], p[2])
        u, v = np.meshgrid(np.linspace(0, 1, 21), np.linspace(0, 1, 21))
        grid = (a * (1 - u[..., None]) + b * u[..., None]) * (1 - v[..., None]) + (d * (1 - u[..., None]) + c * u[..., None]) * v[..., None]
        n = np.cross(b - a, c - a)
        n /= np.linalg.norm(n)
        wave = bulge * np.sin(np.pi * u) * np.sin(np.pi * v) + 0.004 * np.sin(7 * u + 3 * v) + 0.003 * np.sin(11 * v)
        mesh.quads(grid + n * wave[..., None], 0)

    for side in (-1.0, 1.0):
        low = 0.16 * side
        wide = 0.5 * side
        sheet([(-0.78, 0.0, low), (0.78, 0.0, low), (1.55, 0.66, 0.06 * side), (-1.55, 0.66, 0.06 * side)], 0.07 * side)
        sheet([(-1.55, 0.66, 0.06 * side), (0.0, 0.42, wide), (1.55, 0.66, 0.06 * side), (0.0, 0.02, low)], 0.03 * side)
        sheet([(-0.66, 0.3, 0.1 * side), (0.66, 0.3, 0.1 * side), (0.0, 1.22, 0.012 * side)], 0.05 * side)
    sheet([(-0.78, 0.0, -0.16), (0.78, 0.0, -0.16), (0.78, 0.0, 0.16), (-0.78, 0.0, 0.16)])
    tree = mesh.built()
    # Half as fine again as the photo, for its edges.
    high, wide = rows * 3 // 2, cols * 3 // 2
    eye, way = camera_rays(high, wide, (1.7, 1.75, 4.6), (0.0, 0.5, 0), 0.74)
    hits = tree.hits(eye, way)
    sun = np.array([-0.55, 0.68, 0.48]) / np.linalg.norm([-0.55, 0.68, 0.48])
    paper = np.array(linear("#e6dfcd"), np.float32)
    light = lit(tree, hits, (high, wide), rng, 3, sun=sun, sunlight=np.array([0.82, 0.77, 0.68]), sky=lambda w: np.array([0.36, 0.4, 0.47], np.float32) * (0.75 + 0.4 * w[:, 1:2]),
                colours=lambda one: np.broadcast_to(paper * np.float32(0.85), (len(one.far), 3)), rays=5, wide=0.05).reshape(-1, 3)  # fmt: skip
    behind = np.clip(-(hits.normal @ sun.astype(np.float32)), 0, 1)[:, None]
    light = light + behind * np.array([0.2, 0.17, 0.12], np.float32)
    p = hits.point
    fibre = read_at(tileable(rng, 1024, 30, 5), p[:, 0] * 0.4, p[:, 1] * 0.4 + p[:, 2] * 0.3)
    crease = read_at(tileable(rng, 1024, 5, 6), p[:, 0] * 0.3 + 0.2, p[:, 1] * 0.3)
    line = (p[:, 1] * 21 + p[:, 0] * 3.2) % 1
    words = smoothstep(0.05, 0.5, read_at(tileable(rng, 1024, 40, 2), p[:, 0] * 0.62, np.floor(p[:, 1] * 21 + p[:, 0] * 3.2) * 0.173))
    column = smoothstep(0.46, 0.42, np.abs((p[:, 0] * 1.15 + 0.2) % 1 - 0.5))
    ink = smoothstep(0.62, 0.5, np.abs(line - 0.5) * 2) * words * column * (np.abs(p[:, 2]) < 0.46)
    base = paper * (1 + 0.035 * fibre - 0.02 * np.abs(crease))[:, None]
    base = mix(base, linear("#37444c"), (0.62 * ink)[:, None])
    seen = (hits.matter >= 0).astype(np.float32)[:, None]
    big = np.concatenate([base * light * seen, seen], axis=1).reshape(high, wide, 4)
    small = cv2.resize(big, (cols, rows), interpolation=cv2.INTER_AREA)
    cover = small[..., 3]
    return _cut(rng, small[..., :3] / np.maximum(cover, 1e-3)[..., None], cover)


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
