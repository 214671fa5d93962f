"""A small ray tracer for the demo's scenes: triangles in a tree of boxes, a sun with soft shadows, a sky, and light that things throw on each other.

World coordinates are in metres, x right, y up, z towards the eye at bearing 0; scenes are linear light.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import cv2
import numba as nb
import numpy as np
from numpy.typing import NDArray

Plane = NDArray[Any]
BINS = 16
"""Places along each axis at which a box may be parted."""
LEAF = 4
TRACED = 0.5
"""Scenes are traced at this share of a photo's width, and enlarged: a lens is no sharper, and grain lies over it."""
FAR = 1e9


@dataclass
class Mesh:
    """Triangles being gathered: corners, their normals, their place on the thing (u, v), and what they are made of."""

    corners: list[Plane] = field(default_factory=list)
    normals: list[Plane] = field(default_factory=list)
    places: list[Plane] = field(default_factory=list)
    made_of: list[Plane] = field(default_factory=list)

    def add(self, corners: Plane, matter: int, normals: Plane | None = None, places: Plane | None = None) -> None:
        """Add triangles (n, 3, 3); flat where no normals are given."""
        c = np.asarray(corners, np.float32).reshape(-1, 3, 3)
        if normals is None:
            flat = np.cross(c[:, 1] - c[:, 0], c[:, 2] - c[:, 0])
            flat /= np.maximum(np.linalg.norm(flat, axis=1, keepdims=True), 1e-12)
            normals = np.repeat(flat[:, None], 3, axis=1)
        self.corners.append(c)
        self.normals.append(np.asarray(normals, np.float32).reshape(-1, 3, 3))
        self.places.append(np.zeros((len(c), 3, 2), np.float32) if places is None else np.asarray(places, np.float32).reshape(-1, 3, 2))
        self.made_of.append(np.full(len(c), matter, np.int32))

    def quads(self, grid: Plane, matter: int, smooth: bool = True) -> None:
        """Add a surface from a grid of points (rows, cols, 3); u runs along the columns, v along the rows, 0…1."""
        g = np.asarray(grid, np.float32)
        rows, cols = g.shape[:2]
        v, u = np.mgrid[0 : 1 : rows * 1j, 0 : 1 : cols * 1j].astype(np.float32)
        across, down = np.gradient(g, axis=1), np.gradient(g, axis=0)
        n = np.cross(across, down)
        n /= np.maximum(np.linalg.norm(n, axis=2, keepdims=True), 1e-12)

        def corners(a: Plane) -> Plane:
            p, q, r, s = a[:-1, :-1], a[:-1, 1:], a[1:, 1:], a[1:, :-1]
            return np.stack([np.stack([p, q, r], axis=2), np.stack([p, r, s], axis=2)], axis=2).reshape(-1, 3, a.shape[2])

        self.add(corners(g), matter, corners(n) if smooth else None, corners(np.dstack([u, v])))

    def box(self, middle: Any, half: Any, matter: int, spin: float = 0.0, turn: Plane | None = None) -> None:
        """Add a box; `spin` turns it about the upright, in radians; `turn` is a rotation instead."""
        c, s = np.cos(spin), np.sin(spin)
        rotate = np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]]) if turn is None else turn
        out, places = [], []
        for axis in range(3):
            for sign in (-1.0, 1.0):
                a, b = (axis + 1) % 3, (axis + 2) % 3
                quad = []
                for i, j in ((-1, -1), (1, -1), (1, 1), (-1, 1)) if sign > 0 else ((-1, -1), (-1, 1), (1, 1), (1, -1)):
                    p = np.zeros(3)
                    p[axis], p[a], p[b] = sign, i, j
                    quad.append((p, (i * half[a], j * half[b])))
                for k in ((0, 1, 2), (0, 2, 3)):
                    out.append([quad[n][0] * half for n in k])
                    places.append([quad[n][1] for n in k])
        self.add(np.array(out) @ rotate.T + np.asarray(middle), matter, places=np.array(places))

    def tube(self, path: Any, radius: Any, matter: int, sides: int = 10, flat: float = 1.0) -> None:
        """Add a tube along a path (n, 3) with a radius for each point; `flat` squashes it sideways. u runs round it, v along it."""
        p = np.asarray(path, np.float64)
        r = np.broadcast_to(np.asarray(radius, np.float64), len(p))
        way = np.gradient(p, axis=0)
        way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-12)
        first = np.cross(way, [0.0, 0.0, 1.0])
        lost = np.linalg.norm(first, axis=1) < 0.1
        first[lost] = np.cross(way[lost], [1.0, 0.0, 0.0])
        first /= np.linalg.norm(first, axis=1, keepdims=True)
        second = np.cross(way, first)
        ang = np.linspace(0, 2 * np.pi, sides + 1)
        ring = first[:, None] * np.cos(ang)[None, :, None] + flat * second[:, None] * np.sin(ang)[None, :, None]
        self.quads(p[:, None] + ring * r[:, None, None], matter)

    def ball(self, middle: Any, radius: Any, matter: int, fine: int = 12) -> None:
        """Add a ball, or an ellipsoid with three radii."""
        v, u = np.mgrid[0 : np.pi : (fine + 1) * 1j, 0 : 2 * np.pi : (2 * fine + 1) * 1j]
        shape = np.dstack([np.sin(v) * np.cos(u), np.cos(v), np.sin(v) * np.sin(u)])
        self.quads(np.asarray(middle) + shape * np.asarray(radius), matter)

    def built(self) -> Tree:
        """Return the triangles in a tree that rays can be shot at."""
        return Tree(np.concatenate(self.corners), np.concatenate(self.normals), np.concatenate(self.places), np.concatenate(self.made_of))


class Tree:
    """Triangles sorted into boxes within boxes."""

    def __init__(self, corners: Plane, normals: Plane, places: Plane, made_of: Plane) -> None:
        order, boxes, links = _sorted(corners.mean(axis=1), corners.min(axis=1), corners.max(axis=1))
        self.corners = np.ascontiguousarray(corners[order])
        self.normals, self.places, self.made_of = normals[order], places[order], made_of[order]
        self.boxes, self.links = boxes, links

    def hits(self, origin: Plane, way: Plane) -> Hits:
        """Shoot rays (n, 3) and return what they meet first."""
        n = len(way)
        start = np.ascontiguousarray(np.broadcast_to(np.asarray(origin, np.float32), (n, 3)))
        far, which, b1, b2 = np.empty(n, np.float32), np.empty(n, np.int32), np.empty(n, np.float32), np.empty(n, np.float32)
        self._shoot(start, way, FAR, False, far, which, b1, b2)
        seen = which >= 0
        k = np.where(seen, which, 0)
        weights = np.stack([1 - b1 - b2, b1, b2], axis=1)[..., None]
        normal = (self.normals[k] * weights).sum(axis=1)
        normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9)
        # Normals look at whom they are seen by.
        normal *= np.where((normal * way).sum(axis=1, keepdims=True) > 0, -1, 1)
        place = (self.places[k] * weights).sum(axis=1)
        return Hits(
            far, np.where(seen, self.made_of[k], -1), normal.astype(np.float32), place.astype(np.float32), start + way * far[:, None]
        )

    def open_to(self, points: Plane, ways: Plane, far: Plane | float = FAR) -> Plane:
        """Return for each point whether a ray that way meets nothing before `far`."""
        n = len(points)
        which = np.empty(n, np.int32)
        self._shoot(points, ways, far, True, np.empty(n, np.float32), which, np.empty(n, np.float32), np.empty(n, np.float32))
        return np.asarray(which < 0, np.float32)

    def _shoot(self, start: Plane, way: Plane, far: Plane | float, any_: bool, *out: Plane) -> None:
        reach = np.ascontiguousarray(np.broadcast_to(np.asarray(far, np.float32), len(way)))
        rays = (np.ascontiguousarray(part, dtype=np.float32) for part in (start, way))
        _rays(self.boxes, self.links, self.corners, *rays, reach, any_, *out)


@dataclass
class Hits:
    """What rays met: how far away, of what matter (-1: nothing), the normal there, the place on the thing, and where in the world."""

    far: Plane
    matter: Plane
    normal: Plane
    place: Plane
    point: Plane


@nb.njit(inline="always")
def _surface(box):  # type: ignore[no-untyped-def]
    a, b, c = box[3] - box[0], box[4] - box[1], box[5] - box[2]
    return a * b + b * c + c * a if a >= 0 else np.float32(0)


@nb.njit(inline="always")
def _grow(box, low, high):  # type: ignore[no-untyped-def]
    for k in range(3):
        box[k], box[3 + k] = min(box[k], low[k]), max(box[3 + k], high[k])


@nb.njit
def _parted(order, first, last, middles, low, high):  # type: ignore[no-untyped-def]
    """Sort a part of the triangles in two where rays will meet the fewest, and return where (Wald 2007: surface area heuristic in bins)."""
    counts = np.empty(BINS, np.int64)
    boxes = np.empty((BINS, 6), np.float32)
    after = np.empty(BINS, np.float32)
    best, axis, cut = np.float32(1e38), -1, np.float32(0)
    for k in range(3):
        a, b = np.float32(1e30), np.float32(-1e30)
        for i in range(first, last):
            a, b = min(a, middles[order[i], k]), max(b, middles[order[i], k])
        if b - a < np.float32(1e-9):
            continue
        scale = np.float32(BINS * 0.9999) / np.float32(b - a)
        counts[:] = 0
        boxes[:, :3], boxes[:, 3:] = np.float32(1e30), np.float32(-1e30)
        for i in range(first, last):
            t = order[i]
            one = int((middles[t, k] - a) * scale)
            counts[one] += 1
            _grow(boxes[one], low[t], high[t])
        box = boxes[BINS - 1].copy()
        number = 0
        for one in range(BINS - 1, 0, -1):
            number += counts[one]
            _grow(box, boxes[one, :3], boxes[one, 3:])
            after[one] = _surface(box) * number
        box = boxes[0].copy()
        number = 0
        for one in range(BINS - 1):
            number += counts[one]
            _grow(box, boxes[one, :3], boxes[one, 3:])
            cost = _surface(box) * number + after[one + 1]
            if cost < best and 0 < number < last - first:
                best, axis, cut = cost, k, np.float32(a + (one + 1) / scale)
    part = order[first:last].copy()
    left, right = first, last - 1
    if axis >= 0:
        for t in part:
            if middles[t, axis] < cut:
                order[left] = t
                left += 1
            else:
                order[right] = t
                right -= 1
    if left in {first, last}:
        return (first + last) // 2
    return left


@nb.njit(cache=True)
def _sorted(middles, low, high):  # type: ignore[no-untyped-def]
    """Return the order of the triangles, and nodes: boxes (n, 6) and links (n, 2): left child and 0, or first and count of a leaf."""
    count = len(middles)
    order = np.arange(count)
    boxes = np.empty((2 * count + 1, 6), np.float32)
    links = np.zeros((2 * count + 1, 2), np.int32)
    stack = np.empty((128, 3), np.int64)
    stack[0] = (0, 0, count)
    depth, used = 1, 1
    while depth > 0:
        depth -= 1
        node, first, last = stack[depth]
        for k in range(3):
            a, b = np.float32(1e30), np.float32(-1e30)
            for i in range(first, last):
                a = min(a, low[order[i], k])
                b = max(b, high[order[i], k])
            boxes[node, k], boxes[node, 3 + k] = a, b
        if last - first <= LEAF:
            links[node] = (first, last - first)
            continue
        half = _parted(order, first, last, middles, low, high)
        links[node] = (used, 0)
        stack[depth] = (used, first, half)
        stack[depth + 1] = (used + 1, half, last)
        depth += 2
        used += 2
    return order, boxes[:used], links[:used]


@nb.njit(inline="always")
def _enters(box, ox, oy, oz, ix, iy, iz, far):  # type: ignore[no-untyped-def]
    a, b = (box[0] - ox) * ix, (box[3] - ox) * ix
    near, out = min(a, b), max(a, b)
    a, b = (box[1] - oy) * iy, (box[4] - oy) * iy
    near, out = max(near, min(a, b)), min(out, max(a, b))
    a, b = (box[2] - oz) * iz, (box[5] - oz) * iz
    near, out = max(near, min(a, b)), min(out, max(a, b))
    return near if out >= max(near, np.float32(0)) and near < far else np.float32(1e30)


@nb.njit(fastmath=True, nogil=True)
def _shoot(boxes, links, corners, o, d, far, any_, stack, starts):  # type: ignore[no-untyped-def]
    """Return how far a ray goes, which triangle it meets (-1: none) and where on it (Möller and Trumbore, 1997)."""
    tiny = np.float32(1e-9)
    one = np.float32(1)
    ix = one / (d[0] if abs(d[0]) > tiny else tiny)
    iy = one / (d[1] if abs(d[1]) > tiny else tiny)
    iz = one / (d[2] if abs(d[2]) > tiny else tiny)
    stack[0], starts[0] = 0, _enters(boxes[0], o[0], o[1], o[2], ix, iy, iz, far)
    depth, which = 1, -1
    b1 = b2 = np.float32(0)
    while depth > 0:
        depth -= 1
        node = stack[depth]
        if starts[depth] > far:
            continue
        first, count = links[node]
        if count == 0:
            near = _enters(boxes[first], o[0], o[1], o[2], ix, iy, iz, far)
            other = _enters(boxes[first + 1], o[0], o[1], o[2], ix, iy, iz, far)
            if near <= other:
                if other < far:
                    stack[depth], starts[depth] = first + 1, other
                    depth += 1
                if near < far:
                    stack[depth], starts[depth] = first, near
                    depth += 1
            else:
                if near < far:
                    stack[depth], starts[depth] = first, near
                    depth += 1
                if other < far:
                    stack[depth], starts[depth] = first + 1, other
                    depth += 1
            continue
        for i in range(first, first + count):
            p = corners[i]
            ax, ay, az = p[1, 0] - p[0, 0], p[1, 1] - p[0, 1], p[1, 2] - p[0, 2]
            bx, by, bz = p[2, 0] - p[0, 0], p[2, 1] - p[0, 1], p[2, 2] - p[0, 2]
            qx, qy, qz = d[1] * bz - d[2] * by, d[2] * bx - d[0] * bz, d[0] * by - d[1] * bx
            det = ax * qx + ay * qy + az * qz
            if abs(det) < np.float32(1e-14):
                continue
            inv = np.float32(1) / det
            tx, ty, tz = o[0] - p[0, 0], o[1] - p[0, 1], o[2] - p[0, 2]
            u = (tx * qx + ty * qy + tz * qz) * inv
            if u < 0 or u > 1:
                continue
            rx, ry, rz = ty * az - tz * ay, tz * ax - tx * az, tx * ay - ty * ax
            v = (d[0] * rx + d[1] * ry + d[2] * rz) * inv
            if v < 0 or u + v > 1:
                continue
            t = (bx * rx + by * ry + bz * rz) * inv
            if np.float32(1e-5) < t < far:
                far, which, b1, b2 = t, i, u, v
                if any_:
                    return far, which, b1, b2
    return far, which, b1, b2


@nb.njit(cache=True, nogil=True)
def _rays(boxes, links, corners, start, way, reach, any_, far, which, b1, b2):  # type: ignore[no-untyped-def]
    stack, starts = np.empty(128, np.int32), np.empty(128, np.float32)
    for n in range(len(way)):
        far[n], which[n], b1[n], b2[n] = _shoot(boxes, links, corners, start[n], way[n], reach[n], any_, stack, starts)


Colours = Callable[[Hits], Plane]
Sky = Callable[[Plane], Plane]


def scattered(rng: np.random.Generator, normals: Plane) -> Plane:
    """Return a direction for each normal (n, 3), cosine-weighted about it."""
    way = rng.standard_normal(normals.shape, np.float32)
    way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-6)
    way = normals * np.float32(1.001) + way
    return way / np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-6)


def towards(rng: np.random.Generator, sun: Plane, count: int, wide: float) -> Plane:
    """Return directions (count, 3) to places on a sun of a radius of `wide` radians."""
    way = np.asarray(sun, np.float32) + rng.standard_normal((count, 3), np.float32) * np.float32(wide * 0.6)
    return np.asarray(way / np.linalg.norm(way, axis=1, keepdims=True), np.float32)


def light_on(
    tree: Tree,
    hits: Hits,
    rng: np.random.Generator,
    sun: Plane,
    sunlight: Plane,
    sky: Sky,
    colours: Colours,
    rays: int = 2,
    wide: float = 0.02,
) -> Plane:
    """Return the light that falls on what was hit, (n, 3): the sun's with soft shadows, the sky's, and what other things throw on it.

    Noisy; to be smoothed by `smoothed`.
    """
    out = np.zeros((len(hits.far), 3), np.float32)
    seen = np.flatnonzero(hits.matter >= 0)
    points, normals = hits.point[seen] + hits.normal[seen] * np.float32(2e-3), hits.normal[seen]

    def sunlit(where: Plane, facing: Plane) -> Plane:
        way = towards(rng, sun, len(where), wide)
        share = np.clip((facing * way).sum(axis=1), 0, 1)
        lit = np.flatnonzero(share > 0)
        shone = np.zeros(len(where), np.float32)
        shone[lit] = tree.open_to(where[lit], way[lit]) * share[lit]
        return shone[:, None] * np.asarray(sunlight, np.float32)

    total = np.zeros((len(seen), 3), np.float32)
    if np.any(np.asarray(sunlight) > 0):
        total += sunlit(points, normals)
    for _ in range(rays):
        way = scattered(rng, normals)
        met = tree.hits(points, way)
        free = met.matter < 0
        part = np.empty_like(total)
        part[free] = sky(way[free])
        other = np.flatnonzero(~free)
        if len(other):
            one = Hits(met.far[other], met.matter[other], met.normal[other], met.place[other], met.point[other])
            there = sunlit(one.point + one.normal * np.float32(2e-3), one.normal) + np.float32(0.35) * sky(one.normal)
            part[other] = colours(one) * there
        total += part / np.float32(rays)
    out[seen] = total
    return out


@nb.njit(cache=True, nogil=True, fastmath=True)
def _spread(light, normal, far, step, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = light.shape
    for r in range(rows):
        for c in range(cols):
            total = np.float32(0)
            a = b = d = np.float32(0)
            nx, ny, nz, here = normal[r, c, 0], normal[r, c, 1], normal[r, c, 2], far[r, c]
            for i in range(-2, 3):
                for j in range(-2, 3):
                    y, x = r + i * step, c + j * step
                    if y < 0 or x < 0 or y >= rows or x >= cols:
                        continue
                    alike = nx * normal[y, x, 0] + ny * normal[y, x, 1] + nz * normal[y, x, 2]
                    if alike < np.float32(0.7):
                        continue
                    near = abs(far[y, x] - here) / (here * np.float32(0.01 * step) + np.float32(1e-4))
                    if near > 3:
                        continue
                    w = (alike - np.float32(0.7)) * np.exp(-near - np.float32(0.15) * (i * i + j * j))
                    a += w * light[y, x, 0]
                    b += w * light[y, x, 1]
                    d += w * light[y, x, 2]
                    total += w
            if total > 0:
                out[r, c, 0], out[r, c, 1], out[r, c, 2] = a / total, b / total, d / total
            else:
                out[r, c] = light[r, c]


def smoothed(light: Plane, normal: Plane, far: Plane, passes: int = 3) -> Plane:
    """Return light (rows, cols, 3) with its noise spread over surfaces, not across their edges.

    References
    ----------
    H. Dammertz, D. Sewtz, J. Hanika and H. Lensch, Edge-Avoiding À-Trous Wavelet Transform for fast Global Illumination Filtering, HPG (2010).
    """
    out = light
    for n in range(passes):
        fresh = np.empty_like(light)
        _spread(np.ascontiguousarray(out), np.ascontiguousarray(normal), np.ascontiguousarray(far), 2**n, fresh)
        out = fresh
    return out


@nb.njit(cache=True, nogil=True, fastmath=True)
def _raised(light, small_normal, small_far, normal, far, step, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = normal.shape
    high, wide, _ = light.shape
    for r in range(rows):
        for c in range(cols):
            y, x = r / step - 0.5, c / step - 0.5
            top, left = int(np.floor(y)), int(np.floor(x))
            total, here = np.float32(1e-8), far[r, c]
            a = b = d = np.float32(0)
            for i in range(-1, 3):
                for j in range(-1, 3):
                    p, q = min(max(top + i, 0), high - 1), min(max(left + j, 0), wide - 1)
                    alike = (
                        normal[r, c, 0] * small_normal[p, q, 0]
                        + normal[r, c, 1] * small_normal[p, q, 1]
                        + normal[r, c, 2] * small_normal[p, q, 2]
                    )
                    near = abs(small_far[p, q] - here) / (here * np.float32(0.02) + np.float32(1e-3))
                    off = (y - top - i) ** 2 + (x - left - j) ** 2
                    w = np.exp(-min(near, np.float32(20)) - np.float32(0.6) * off) * max(alike, np.float32(0)) ** 8 + np.float32(1e-7) / (
                        1 + off
                    )
                    a += w * light[p, q, 0]
                    b += w * light[p, q, 1]
                    d += w * light[p, q, 2]
                    total += w
            out[r, c, 0], out[r, c, 1], out[r, c, 2] = a / total, b / total, d / total


def on_fewer(hits: Hits, shape: tuple[int, int], step: int, light: Callable[[Hits], Plane], passes: int = 0) -> Plane:
    """Return light on a whole picture, (rows, cols, 3): asked for at every `step`-th pixel, smoothed, and led back along surfaces."""
    rows, cols = shape
    step = max(1, min(step, rows // 200))
    at = (np.arange(rows)[step // 2 :: step, None] * cols + np.arange(cols)[step // 2 :: step]).reshape(-1)
    few = Hits(hits.far[at], hits.matter[at], hits.normal[at], hits.place[at], hits.point[at])
    small = (len(range(step // 2, rows, step)), len(range(step // 2, cols, step)))
    normal, far = few.normal.reshape(*small, 3), few.far.reshape(small)
    found = smoothed(light(few).reshape(*small, 3), normal, far, passes)
    out = np.empty((rows, cols, 3), np.float32)
    _raised(found, normal, far, hits.normal.reshape(rows, cols, 3), hits.far.reshape(shape), np.float32(step), out)
    return out


def lit(tree: Tree, hits: Hits, shape: tuple[int, int], rng: np.random.Generator, step: int = 3, **lamps: Any) -> Plane:
    """Return the light on a whole picture, (rows, cols, 3), found `on_fewer` pixels; `lamps` are what `light_on` takes."""
    return on_fewer(hits, shape, step, lambda few: light_on(tree, few, rng, **lamps), 3)


def camera_rays(rows: int, cols: int, eye: Any, at: Any, wide: float, rng: np.random.Generator | None = None) -> tuple[Plane, Plane]:
    """Return eye and directions (rows · cols, 3) of a camera that sees `wide` radians across, each somewhere within its pixel."""
    eye, at = np.asarray(eye, np.float64), np.asarray(at, np.float64)
    ahead = (at - eye) / np.linalg.norm(at - eye)
    right = np.cross(ahead, [0.0, 1.0, 0.0])
    right /= np.linalg.norm(right)
    up = np.cross(right, ahead)
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    off = rng.random((2, rows, cols), np.float32) if rng is not None else np.full((2, rows, cols), 0.5, np.float32)
    scale = 2 * np.tan(wide / 2) / cols
    x, y = (u + off[0] - cols / 2) * scale, (rows / 2 - v - off[1]) * scale
    way = ahead + x[..., None] * right + y[..., None] * up
    way /= np.linalg.norm(way, axis=2, keepdims=True)
    return eye.astype(np.float32), way.reshape(-1, 3).astype(np.float32)


def around(bearing: Plane, up: Plane) -> Plane:
    """Return directions (n, 3) for bearings (radians, 0 ahead at -z, growing to the right) and heights over the horizon in radians."""
    return np.stack([np.sin(bearing) * np.cos(up), np.sin(up), -np.cos(bearing) * np.cos(up)], axis=-1).reshape(-1, 3).astype(np.float32)


def enlarged(scene: Plane, size: tuple[int, int]) -> Plane:
    """Return a traced scene at the size (cols, rows) of its photo, the stairs of its edges smoothed."""
    return np.maximum(cv2.resize(cv2.GaussianBlur(scene, (0, 0), 0.55), size, interpolation=cv2.INTER_CUBIC), 0)


def lamps_on(hits: Hits, lamps: Plane, tint: Any, size: float = 0.2, tree: Tree | None = None) -> Plane:
    """Return the light of small lamps (n, 3) on what was hit, (m, 3): it falls off with the square of the way; shadows where a tree is given."""
    out = np.zeros(len(hits.far), np.float32)
    for lamp in np.asarray(lamps, np.float32):
        way = lamp - hits.point
        far = np.maximum((way * way).sum(axis=1), np.float32(size * size))
        share = np.maximum((way * hits.normal).sum(axis=1), 0) / (far * np.sqrt(far))
        if tree is not None:
            reached = np.flatnonzero((share > 1e-4) & (hits.matter >= 0))
            long = np.sqrt(far[reached])
            ways = way[reached] / long[:, None]
            share[reached] *= tree.open_to(hits.point[reached] + hits.normal[reached] * np.float32(4e-3), ways, long * np.float32(0.97))
        out += share
    return out[:, None] * np.asarray(tint, np.float32)
