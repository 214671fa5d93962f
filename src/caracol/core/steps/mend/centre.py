"""Centre: the crushed middle of a ring softened, read again, filled with other texture or with the colour round it."""

from __future__ import annotations

from math import cos, hypot, sin, tau
from typing import Any, Literal

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import Earlier, PictureKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, number
from ...pixels.box import Box
from ...pixels.patchwork import Reading, lattice, patchwork
from ...pixels.strokes import lay_over, membrane_over, patch_around, shown_at, to_pixels
from ..bend.ring import left_to_ring, ring_before

Way = Literal["unpinch", "texture", "fill", "soften"]
SPACING = 0.42
"""Between the patches that a middle is read again by, in radii."""
OUT = 1.2
"""The very middle is read so many radii further out."""
FARTHEST = 3.3
"""Nothing is read further from the middle, in radii: not for what is coarse, either."""
WAYS_OUT = 24
"""Texture for the middle is looked for in so many directions."""


class CentreSettings(Settings):
    """Where the middle is, and what becomes of it."""

    method: Way = choice(
        "unpinch", label="Method", help="Even out: redraws the middle as coarse as it is further out. Texture: a patch from further out. Fill: "
        "the colour around it. Soften: blurs the finest detail.",
    )  # fmt: skip
    radius: float | None = auto_number(
        0.01, 1.5, [{"value": 0.18}], default=0.18, label="Radius", unit="units",
        help="How far from the centre the picture changes. Automatic: as far as the ring crushes it.",
    )  # fmt: skip
    soft: float = number(0.5, 0, 1, label="Soft edge", unit="share", help="How much of the radius fades into its surroundings.")
    angular: float = number(
        0.08,
        0,
        1,
        label="Along",
        unit="units",
        step=0.005,
        when={"method": ["soften"]},
        help="Softens detail finer than this along the ring.",
    )
    radial: float = number(
        0.01,
        0,
        1,
        label="Across",
        unit="units",
        step=0.005,
        when={"method": ["soften"]},
        help="Softens detail finer than this across the ring.",
    )
    x: float | None = auto_number(-10, 10, [{"value": 0}], label="Centre x", unit="units", help="Automatic: that of the ring before it.")
    y: float | None = auto_number(-10, 10, [{"value": 0}], label="Centre y", unit="units", help="Automatic: that of the ring before it.")


def follow_ring(settings: CentreSettings, earlier: Earlier) -> CentreSettings:
    """Take from the last ring before the step what is left to it: its centre, and how far it crushes the middle."""
    if settings.radius is None:
        ring = ring_before(earlier)
        crushed = auto_value(settings, "radius") if ring is None else min(max(1.25 * ring.hole, 0.08 * ring.reach), 0.45)
        settings = settings.model_copy(update={"radius": round(max(crushed, 0.01), 4)})
    return left_to_ring(settings, earlier, ("x", "y"))


def _radius(s: CentreSettings) -> float:
    return auto_value(s, "radius")


def _centre(s: CentreSettings) -> tuple[float, float]:
    return auto_value(s, "x"), auto_value(s, "y")


def _disc(picture: Array, s: CentreSettings) -> tuple[Frame, Box, float]:
    """Return the frame, the pixels that may change, and how many pixels a unit has."""
    rows, cols = picture.shape[:2]
    frame = Frame(cols / rows)
    per_unit = cols / 2 / frame.half_w
    x, y = _centre(s)
    col, row = to_pixels(frame, rows, cols, np.array([x], np.float32), np.array([y], np.float32))
    return frame, patch_around(col, row, _radius(s) * per_unit + 1, rows, cols), per_unit


def _cover(picture: Array, s: CentreSettings, disc: Box) -> Array:
    """Return how much of the middle is changed, 0…1, smooth from its edge inwards."""
    rows, cols = picture.shape[:2]
    frame = Frame(cols / rows)
    cx, cy = _centre(s)
    x, y = frame.axes(rows, cols, range(disc.top, disc.bottom), range(disc.left, disc.right))
    away = np.hypot(x[None] - np.float32(cx), y[:, None] - np.float32(cy))
    pixel = 2 * frame.half_w / cols
    share = np.clip((_radius(s) - away) / max(s.soft * _radius(s), pixel), 0, 1)
    return np.asarray(share * share * (3 - 2 * share), np.float32)


def ring_spectrum(picture: Array, x: float, y: float, radius: float) -> Array:
    """Return how strong each wave along the ring is near a middle, (waves,): their energies, from none to a turn upwards.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.
    x, y, radius : float
        Units; rings from a quarter of the radius to it count alike.
    """
    rows, cols = picture.shape[:2]
    polar = _unrolled(picture, Frame(cols / rows), x, y, radius, 16, 512)[:, :, :3].mean(axis=2)
    return np.asarray((np.abs(np.fft.rfft(polar[4:], axis=1)) ** 2).mean(axis=0), np.float32)


def crush_of(picture: Array, x: float, y: float, radius: float) -> float:
    """Return the mean number of waves to a turn near a middle, by their strength: what a crushed middle has many of."""
    energy = ring_spectrum(picture, x, y, radius)[1:]
    return float((energy * np.arange(1, len(energy) + 1)).sum() / max(float(energy.sum()), 1e-9)) if energy.sum() > 1e-6 else 0.0


def _unrolled(picture: Array, frame: Frame, x: float, y: float, radius: float, rings: int, turns: int) -> Array:
    """Return a disc by rings, (rings, turns, 4): from the middle outwards, clockwise from the top."""
    rad = ((np.arange(rings, dtype=np.float32) + np.float32(0.5)) / rings * np.float32(radius))[:, None]
    ang = (np.arange(turns, dtype=np.float32) / turns * np.float32(tau))[None]
    rows, cols = picture.shape[:2]
    col, row = to_pixels(frame, rows, cols, x + rad * np.sin(ang), y - rad * np.cos(ang))
    return shown_at(picture, col, row, fine=False)


def measure_centre(picture: Array, s: CentreSettings) -> dict[str, Any]:
    """Find where texture for the middle lies (`texture`: dx, dy in units), where that is asked for; `look` is the picture itself."""
    return {"look": picture, "texture": _best_patch(picture, s) if s.method == "texture" else (0.0, 0.0)}


def tell_centre(measured: dict[str, Any], s: CentreSettings) -> dict[str, Any]:
    """Return how crushed the middle was and is, in waves to a turn."""
    look: Array = measured["look"]
    rows, cols = look.shape[:2]
    pictures = look, centre(look, Rows(Frame(cols / rows), rows, cols), measured, s)
    before, after = (crush_of(picture, *_centre(s), max(_radius(s) * 0.5, 0.01)) for picture in pictures)
    return {"before": round(before, 1), "after": round(after, 1)}


def _best_patch(picture: Array, s: CentreSettings) -> tuple[float, float]:
    """Return the way to the patch further out whose rim is most like that of the middle, and whose inside goes with it."""
    rows, cols = picture.shape[:2]
    frame = Frame(cols / rows)
    x, y = _centre(s)
    ang = np.arange(48) / 48 * tau
    best, way = np.inf, (2 * _radius(s), 0.0)

    def at(px: Array, py: Array) -> Array:
        col, row = to_pixels(frame, rows, cols, px, py)
        return shown_at(picture, col[None], row[None], fine=False)[0, :, :3]

    circle = (_radius(s) * np.sin(ang)).astype(np.float32), (-_radius(s) * np.cos(ang)).astype(np.float32)
    rim = at(x + circle[0], y + circle[1])
    inner = np.repeat(ang[::4], 2), np.tile([0.4, 0.75], 12)
    grid = (
        (_radius(s) * inner[1] * np.sin(inner[0])).astype(np.float32),
        (_radius(s) * inner[1] * np.cos(inner[0])).astype(np.float32),
    )
    for far in (1.4, 1.7, 2.1):
        for n in range(WAYS_OUT):
            dx, dy = far * _radius(s) * sin(tau * n / WAYS_OUT), -far * _radius(s) * cos(tau * n / WAYS_OUT)
            if abs(x + dx) + _radius(s) > frame.half_w or abs(y + dy) + _radius(s) > frame.half_h:
                continue
            there = at(x + dx + circle[0], y + dy + circle[1])
            unlike = float(np.abs(there - there.mean(0) - rim + rim.mean(0)).mean() + 0.5 * np.abs(there.mean(0) - rim.mean(0)).mean())
            unlike += float(np.abs(at(x + dx + grid[0], y + dy + grid[1]) - rim.mean(0)).mean())
            if unlike < best:
                best, way = unlike, (dx, dy)
    return way


def _read_again(picture: Array, frame: Frame, disc: Box, s: CentreSettings) -> Array:
    """Return the disc shown by patches that lie as far out as things are not crushed, each in its own direction."""
    x, y = _centre(s)
    spacing = SPACING * _radius(s)
    readings = []
    for n, (px, py) in enumerate(lattice(1.1 * _radius(s), spacing)):
        away = hypot(px, py)
        ang = n * 0.381966 * tau if away < 1e-6 else np.arctan2(px, -py)
        out = hypot(away, OUT * _radius(s)) - away
        way = float(out * np.sin(ang)), float(-out * np.cos(ang))
        readings.append(Reading(float(x + px), float(y + py), *way, *way))
    rows, cols = picture.shape[:2]
    col, row = to_pixels(frame, rows, cols, np.array([x], np.float32), np.array([y], np.float32))
    near = patch_around(col, row, FARTHEST * _radius(s) * cols / 2 / frame.half_w, rows, cols)
    return patchwork(picture, frame, disc, readings, spacing, 0.35 * _radius(s), near=near)


def _softened(picture: Array, frame: Frame, disc: Box, s: CentreSettings, per_unit: float) -> Array:
    """Return the disc without what is finer than so much along the ring and across it."""
    x, y = _centre(s)
    rings, turns = max(8, round(_radius(s) * per_unit)), max(64, round(tau * _radius(s) * per_unit))
    polar = _unrolled(picture, frame, x, y, _radius(s), rings, turns)
    if s.radial > 0:
        # Across the ring, and on through the middle to the other side.
        joined = np.concatenate([np.roll(polar, turns // 2, axis=1)[::-1], polar])
        polar = cv2.GaussianBlur(joined, (1, 0), sigmaX=1, sigmaY=max(s.radial * per_unit / 2, 0.01), borderType=cv2.BORDER_REPLICATE)[
            rings:
        ]
    rad = (np.arange(rings) + 0.5) / rings * _radius(s)
    waves = np.arange(turns // 2 + 1)
    fall = np.exp(-0.5 * (waves[None] * (s.angular / 2) / rad[:, None]) ** 2)
    polar = np.fft.irfft(np.fft.rfft(polar, axis=1) * fall[..., None], turns, axis=1).astype(np.float32)
    rows, cols = picture.shape[:2]
    px, py = frame.axes(rows, cols, range(disc.top, disc.bottom), range(disc.left, disc.right))
    dx, dy = np.broadcast_arrays(px[None] - np.float32(x), py[:, None] - np.float32(y))
    ring = np.hypot(dx, dy) / _radius(s) * rings - 0.5
    turn = (np.arctan2(dx, -dy) / tau % 1) * turns
    wide = np.concatenate([polar, polar[:, :2]], axis=1)
    return shown_at(wide, turn, ring, fine=False)


def _moved(picture: Array, disc: Box, cover: Array, way: tuple[float, float], per_unit: float, plain: bool) -> Array:
    """Return the disc with the texture that lies a way off, or none, in the tones of what is round it."""
    under = disc.of(picture)
    over = np.zeros_like(under)
    over[..., 3] = under[..., 3]
    if not plain:
        down = np.arange(disc.top, disc.bottom, dtype=np.float32)[:, None] + np.float32(way[1] * per_unit)
        across = np.arange(disc.left, disc.right, dtype=np.float32)[None] + np.float32(way[0] * per_unit)
        over = shown_at(picture, across, down)
    outside = 1 - np.clip(cover * 4, 0, 1)
    change = membrane_over(under[..., :3] - over[..., :3], outside, max(disc.shape) / 48)
    over[..., :3] += change * over[..., 3:]
    return over


def centre(picture: Array, rows: Rows, measured: dict[str, Any], s: CentreSettings) -> Array:
    """Return the picture with its middle mended: inside the radius alone, more towards the middle.

    Notes
    -----
    Un-pinch: patches on a lattice, each read rigidly from further out in its own direction (at distance d of the middle, from
    √(d² + (1.2 radii)²)), laid into each other with their contrast kept (`pixels/patchwork.py`): along the ring things are as coarse as out there.
    Soften: a wave of n to a turn is dimmed at distance d by exp(-½ (n·along / 2d)²).
    """
    frame, disc, per_unit = _disc(picture, s)
    out = picture.copy()
    if disc.is_empty:
        return out
    cover = _cover(picture, s, disc)
    if s.method == "unpinch":
        over = _read_again(picture, frame, disc, s)
    elif s.method == "soften":
        over = _softened(picture, frame, disc, s, per_unit)
    else:
        over = _moved(picture, disc, cover, measured["texture"], per_unit, plain=s.method == "fill")
    lay_over(disc.of(out), over, cover, 1.0)
    return out


CENTRE = PictureKind(
    key="centre",
    label="Mend middle",
    family="mend",
    purpose="Mends the crushed middle of a ring.",
    words=("pinch", "star", "pole", "nadir", "zenith", "tripod", "hole"),
    settings=CentreSettings,
    handles=("centre-disc",),
    starts=(
        Start("Even out", {}),
        Start("Other texture", {"method": "texture", "radius": 0.2}),
        Start("Soften", {"method": "soften", "radius": 0.3}),
        Start("Plain middle", {"method": "fill", "radius": 0.16, "soft": 0.7}),
    ),
    effort=3.0,
    apply=centre,
    local=False,
    room=0.9,
    measure=measure_centre,
    measure_size=512,
    decides=True,
    tell=tell_centre,
    follow=follow_ring,
)
