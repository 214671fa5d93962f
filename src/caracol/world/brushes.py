"""What every scene of the demo world is drawn with: noise, panoramas, light, and the camera that takes the photo.

Scenes are linear-light float32 RGB, (rows, cols, 3), values from 0 with no upper end; `develop` turns them into a photo.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Plane = NDArray[Any]


def noise(rng: np.random.Generator, shape: tuple[int, int], cell: tuple[float, float], octaves: int = 5, gain: float = 0.5) -> Plane:
    """Return smooth noise of mean about 0 and deviation about 1, from octaves of grids drawn large.

    Parameters
    ----------
    cell : (float, float)
        Height and width of the largest features in pixels.
    """
    rows, cols = shape
    total = np.zeros(shape, np.float32)
    weight, power = 1.0, 0.0
    for octave in range(octaves):
        grid = (max(2, int(rows / cell[0] * 2**octave) + 2), max(2, int(cols / cell[1] * 2**octave) + 2))
        if octave and (grid[0] > rows * 2 + 4 or grid[1] > cols * 2 + 4):
            break
        small = rng.standard_normal(grid).astype(np.float32)
        total += weight * cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC)
        power += weight * weight
        weight *= gain
    return total / np.float32(np.sqrt(power) * 0.75)


def tileable(rng: np.random.Generator, size: int, cells: int, octaves: int = 6, gain: float = 0.55) -> Plane:
    """Return square noise that repeats without a join; `cells` features across in the largest octave."""
    total = np.zeros((size, size), np.float32)
    weight, power = 1.0, 0.0
    for octave in range(octaves):
        n = cells * 2**octave
        if n > size:
            break
        small = np.pad(rng.standard_normal((n, n)).astype(np.float32), 2, mode="wrap")
        axis = ((np.arange(size) + 0.5) / size * n - 0.5 + 2).astype(np.float32)
        col, row = np.meshgrid(axis, axis)
        total += weight * cv2.remap(small, col, row, cv2.INTER_CUBIC)
        power += weight * weight
        weight *= gain
    return total / np.float32(np.sqrt(power) * 0.75)


def look_up(texture: Plane, x: Plane, y: Plane) -> Plane:
    """Read a tileable texture at coordinates in periods; coarser where the coordinates run fast."""
    size = texture.shape[0]
    across = np.hypot(np.diff(x[:, :2], axis=1), np.diff(y[:, :2], axis=1))
    down = np.hypot(np.gradient(x[:, 0]), np.gradient(y[:, 0]))[:, None]
    speed = np.broadcast_to(np.sqrt(across * down), x.shape) * size
    level = np.clip(np.log2(np.maximum(speed, 1e-3)), 0, 6)
    out = np.zeros(x.shape, np.float32)
    current = texture
    for step in range(7):
        share = np.clip(1 - np.abs(level - step), 0, 1)
        used = np.flatnonzero(share.any(axis=1))
        if len(used):
            part = slice(used[0], used[-1] + 1)
            n = current.shape[0]
            padded = np.pad(current, 1, mode="wrap")
            col, row = (x[part] % 1) * n + 0.5, (y[part] % 1) * n + 0.5
            out[part] += share[part] * cv2.remap(padded, col.astype(np.float32), row.astype(np.float32), cv2.INTER_LINEAR)
        current = cv2.resize(current, (current.shape[1] // 2, current.shape[0] // 2), interpolation=cv2.INTER_AREA)
    return out


def read_at(texture: Plane, x: Plane, y: Plane) -> Plane:
    """Read a tileable texture at scattered places (n,), in periods."""
    count, wide = len(x), 1024
    rows = -(-count // wide)
    size = texture.shape[0]
    padded = np.pad(texture, 1, mode="wrap")
    col, row = (np.resize(np.asarray(at % 1 * size + 0.5, np.float32), (rows, wide)) for at in (x, y))
    return np.asarray(cv2.remap(padded, col, row, cv2.INTER_LINEAR)).reshape(-1)[:count]


def smoothstep(low: float, high: float, value: Plane) -> Plane:
    """Return 0 below `low`, 1 above `high` (or the other way round), smooth between."""
    t = np.clip((value - low) / (high - low), 0, 1)
    return np.asarray(t * t * (3 - 2 * t), np.float32)


def mix(a: Plane, b: Plane | tuple[float, ...], share: Plane | float) -> Plane:
    """Return a mixed with b; colours may be given as a triple."""
    other = np.asarray(b, np.float32)
    s = np.asarray(share, np.float32)
    if a.ndim == 3 and s.ndim == 2:
        s = s[..., None]
    return np.asarray(a + (other - a) * s, np.float32)


def ramp(value: Plane, stops: list[tuple[float, tuple[float, float, float]]]) -> Plane:
    """Colour a plane of values by linear colours at given places."""
    places = [p for p, _ in stops]
    return np.stack([np.interp(value, places, [c[k] for _, c in stops]) for k in range(3)], axis=-1).astype(np.float32)


def linear(code: str) -> tuple[float, float, float]:
    """Return a `#rrggbb` colour in linear light."""
    values = np.array([int(code[i : i + 2], 16) for i in (1, 3, 5)]) / 255
    return tuple(float(v) for v in np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4))  # type: ignore[return-value]


@dataclass(frozen=True)
class Panorama:
    """A view all the way (nearly) round, from a little above the ground.

    Parameters
    ----------
    horizon : float
        Row of the horizon, as a share of the height.
    turn : float
        Share of the full circle seen; a little under 1 leaves edges that nearly match.
    """

    rows: int
    cols: int
    horizon: float
    turn: float = 0.985

    def grid(self) -> tuple[Plane, Plane]:
        """Return bearing in radians, and height over the horizon in photo heights (negative below)."""
        v, u = np.mgrid[0 : self.rows, 0 : self.cols].astype(np.float32)
        bearing = (u + 0.5) / self.cols * np.float32(2 * np.pi * self.turn)
        return bearing, self.horizon - (v + 0.5) / self.rows

    def ground(self, height: float = 0.1) -> tuple[Plane, Plane, Plane]:
        """Return world x and y of the ground seen below the horizon (junk above), and its distance."""
        bearing, up = self.grid()
        distance = height / np.maximum(-up, 4e-4)
        return distance * np.cos(bearing), distance * np.sin(bearing), distance

    def ceiling(self, height: float = 0.25) -> tuple[Plane, Plane, Plane]:
        """Return world x and y of a cloud layer seen above the horizon, and its distance."""
        bearing, up = self.grid()
        distance = height / np.maximum(up + 0.03, 4e-3)
        return distance * np.cos(bearing), distance * np.sin(bearing), distance


def blur(picture: Plane, sigma: float) -> Plane:
    """Return the picture blurred; large radii through a smaller picture."""
    if sigma < 8:
        return np.asarray(cv2.GaussianBlur(picture, (0, 0), max(sigma, 0.1)))
    shrink = int(sigma // 4)
    rows, cols = picture.shape[:2]
    small = cv2.resize(picture, (max(1, cols // shrink), max(1, rows // shrink)), interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.resize(cv2.GaussianBlur(small, (0, 0), sigma / shrink), (cols, rows), interpolation=cv2.INTER_LINEAR))


def develop(
    rng: np.random.Generator, scene: Plane, exposure: float = 1.0, grain: float = 0.012, bloom: float = 0.12, vignette: float = 0.0
) -> NDArray[np.uint8]:
    """Take the photo: veiling light, exposure, a film-like shoulder, lens softness, grain, 8 bits of sRGB."""
    rows, cols = scene.shape[:2]
    light = np.maximum(scene, 0) * np.float32(exposure)
    if bloom:
        bright = np.maximum(light - 0.7, 0)
        light = light + bloom * (blur(bright, rows * 0.01) + 0.6 * blur(bright, rows * 0.05))
    if vignette:
        y, x = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : cols * 1j].astype(np.float32)
        light = light * (1 - np.float32(vignette) * (x * x + y * y) / 2)[..., None]
    light = light * (1 + light * 0.12) / (1 + light * 0.42)
    light = blur(light, 0.7)
    coded = np.asarray(
        np.where(light <= 0.0031308, light * 12.92, 1.055 * np.maximum(light, 1e-6) ** np.float32(1 / 2.4) - 0.055), np.float32
    )
    speck = cv2.GaussianBlur(rng.standard_normal((rows, cols, 3), np.float32), (0, 0), 0.6)
    coded = coded + speck * (np.float32(grain) * (np.float32(1.3) - coded))
    np.clip(coded, 0, 1, out=coded)
    return (coded * np.float32(255) + np.float32(0.5)).astype(np.uint8)
