"""Fog: air between what is near and what is far."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import Earlier, PixelKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, colour, number, seed
from ...pixels.colours import rgb_of
from ...pixels.noise import noise_at
from ...pixels.pointwise import Code, Op
from ..bend.ring import left_to_ring

SIZE = 384
"""Densities are computed for so many places along the longer side: fog has no edges."""
_STRETCH = np.float32(3.2)
"""Banks of fog are so much wider than high."""


def _end(of: str, default: float, help: str) -> Any:
    return number(default, -6, 6, label=of, unit="units", help=help, when={"by": ["line"]})


class FogSettings(Settings):
    """Its colour, how dense, and where it is clear and where thick."""

    by: Literal["height", "radius", "line"] = choice(
        "height", label="Thicker by", help="Height, distance from the centre, or along a line on the picture."
    )
    colour: str = colour("#d9dfe0", label="Colour", help="Colour of the fog. The colour of the sky fits best.")
    density: float = number(0.75, 0, 1, label="Density", unit="share", help="How much of the picture it hides where it is thickest.")
    clear: float | None = auto_number(
        -6, 6, [{"when": {"by": "radius"}, "value": 0.95}, {"value": -0.35}], label="Clear at", unit="units",
        help="Where fog begins: a height (down positive) or a radius.", when={"by": ["height", "radius"]},
    )  # fmt: skip
    dense: float | None = auto_number(
        -6, 6, [{"when": {"by": "radius"}, "value": 0.1}, {"value": 0.9}], label="Thick at", unit="units",
        help="Where fog is thickest: a height (down positive) or a radius.", when={"by": ["height", "radius"]},
    )  # fmt: skip
    x: float | None = auto_number(
        -10, 10, [{"value": 0}], label="Centre x", unit="units", help="Automatic: that of the ring before it.", when={"by": ["radius"]}
    )
    y: float | None = auto_number(
        -10, 10, [{"value": 0}], label="Centre y", unit="units", help="Automatic: that of the ring before it.", when={"by": ["radius"]}
    )
    clear_x: float = _end("Clear, across", 0, "Where the line begins, without fog.")
    clear_y: float = _end("Clear, down", -0.3, "Where the line begins, without fog.")
    dense_x: float = _end("Thick, across", 0, "Where the line ends, in the thickest fog.")
    dense_y: float = _end("Thick, down", 0.8, "Where the line ends, in the thickest fog.")
    banks: float = number(0.5, 0, 1, label="Banks", unit="share", help="How uneven the fog is; 0 is a plain gradient.")
    size: float = number(
        0.35, 0.08, 3, label="Size of banks", unit="units", help="Size of the banks.", idle=(({"banks": [0]}, "Banks are 0."),)
    )
    seed: int = seed(idle=(({"banks": [0]}, "Banks are 0."),))


@nb.njit(nogil=True, fastmath=True, cache=True, error_model="numpy")
def _densities(x, y, depth, banks, size, seed, out):  # type: ignore[no-untyped-def]
    one, two, half = np.float32(1), np.float32(2), np.float32(0.5)
    for i in range(x.size):
        t = depth[i]
        if banks > np.float32(0):
            px, py, high, sum_ = x[i] / (size * _STRETCH), y[i] / size, half, np.float32(0)
            for octave in range(4):
                sum_ += high * noise_at(px, py, seed + octave)
                px, py, high = px * two + np.float32(17.3), py * two + np.float32(5.1), high * half
            t += banks * sum_ * np.float32(0.9)
        t = min(max(t, np.float32(0)), one)
        out[i] = t * t * (np.float32(3) - two * t)


def _depth(frame: Frame, x: Array, y: Array, s: FogSettings) -> Array:
    """Return 0 where it is clear and 1 where it is thickest, beyond both as it comes."""
    if s.by == "line":
        way = np.array([s.dense_x - s.clear_x, s.dense_y - s.clear_y])
        long = max(float(way @ way), 1e-6)
        return ((x - s.clear_x) * way[0] + (y - s.clear_y) * way[1]) / long
    clear, dense = auto_value(s, "clear"), auto_value(s, "dense")
    wide = dense - clear if abs(dense - clear) > 1e-3 else 1e-3
    place = y if s.by == "height" else np.hypot(x - auto_value(s, "x"), y - auto_value(s, "y"))
    return (place - clear) / wide


def densities(frame: Frame, **chosen: Any) -> Array:
    """Return how dense the fog is all over a frame, 0…1, (rows, cols)."""
    s = FogSettings(**chosen)
    rows, cols = (max(2, n) for n in frame.pixels(SIZE))
    x, y = (np.ascontiguousarray(part, np.float32) for part in np.broadcast_arrays(*frame.grid(rows, cols)))
    depth = np.ascontiguousarray(np.broadcast_to(_depth(frame, x, y, s), x.shape), np.float32)
    out = np.empty(x.shape, np.float32)
    _densities(x.ravel(), y.ravel(), depth.ravel(), np.float32(s.banks), np.float32(s.size), s.seed, out.ravel())
    return out


def fog(s: FogSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what mixes the fog's colour in, by coded values, as dense as it is there."""
    if s.density:
        yield Op(Code.FOG, (*rgb_of(s.colour), s.density), field=measured["prepared"])


def follow_ring(settings: FogSettings, earlier: Earlier) -> FogSettings:
    """Take the centre from the last ring before the step, where it is left to it."""
    return left_to_ring(settings, earlier, ("x", "y"))


FOG = PixelKind(
    key="fog",
    label="Fog",
    family="finish",
    purpose="Adds fog by height, round a centre or along a line.",
    words=("mist", "atmosphere", "haze", "smoke", "depth", "aerial perspective", "vapour"),
    settings=FogSettings,
    handles=("fog",),
    starts=(
        Start("Light ground fog", {"clear": -0.1, "dense": 0.95, "density": 0.7}),
        Start("Light far off", {"clear": 0.6, "dense": -0.9, "density": 0.7, "banks": 0.45, "size": 0.5}),
        Start("Light at the tunnel's end", {"by": "radius", "density": 0.95, "banks": 0.25}, after="winds"),
        Start("Dark smoke", {"colour": "#2a2a30", "density": 0.7, "banks": 0.9, "size": 0.5, "clear": -1.2, "dense": 1.2}),
    ),
    neutral={"density": 0},
    effort=1.2,
    prepare=densities,
    prepare_settings=tuple(name for name in FogSettings.model_fields if name not in ("colour", "density")),
    prepared_bytes=lambda frame, s: 4 * SIZE * SIZE,
    follow=follow_ring,
    ops=fog,
)
