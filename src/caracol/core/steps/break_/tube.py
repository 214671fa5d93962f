"""Tube: the picture in cells behind the mask of a picture tube."""

from __future__ import annotations

from typing import Any, Literal

import cv2
import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import Earlier, PictureKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, number
from ...pixels.kept_light import lift_of, lifted
from ...pixels.light import coded_of, linear_of
from .mosaic import cells_of
from .scan_lines import summed_profile

LOOK = 1280
JUDGED = 256
"""Pixels of the look on which the light is weighed."""


class TubeSettings(Settings):
    """The mask, the beam behind it, the glass before it."""

    mask: Literal["slots", "dots", "stripes", "bars"] = choice(
        "slots", label="Mask", help="Short upright slots, round dots, stripes from top to bottom, or level bars."
    )
    pitch: float | None = auto_number(
        0.004, 0.2, [{"value": 0.014}], label="Pitch", unit="share", step=0.001,
        help="Height of a cell. Automatic: that of a mosaic before it.",
    )  # fmt: skip
    beam: float = number(1.4, 0.05, 1.5, label="Beam", unit="share", help="How much of a cell the beam fills in dark places.")
    spread: float = number(0.7, 0, 2, label="Spread", unit="factor", help="How much wider the beam gets with brightness.")
    floor: float = number(0.04, 0, 0.6, label="Floor", unit="share", step=0.005, help="Darker places stay black.")
    depth: float = number(0.25, 0, 1, label="Mask depth", unit="share", help="How dark it is between the mask's openings.")
    bloom: float = number(0.25, 0, 2, label="Bloom", unit="factor", help="How much light spills over, in its colour.")
    reach: float = number(
        0.06,
        0.005,
        0.5,
        label="Bloom radius",
        idle=(({"bloom": [0]}, "Bloom is 0."),),
        unit="units",
        step=0.005,
        help="How far light spills.",
    )
    gain: float = number(1.4, 0.5, 5, label="Gain", unit="factor", step=0.05, help="Brightens before the mask is applied.")
    keep_light: float = number(
        1, 0, 1, label="Keep brightness", unit="share", help="Makes up for the light the mask takes away; 0 leaves it darker."
    )
    glass: float = number(0.08, 0, 0.5, label="Glass", unit="share", help="How much the glass bulges.")


def following(settings: TubeSettings, earlier: Earlier) -> TubeSettings:
    """Return the settings with a free pitch taken from the nearest mosaic before, as it comes out in whole cells."""
    if settings.pitch is not None:
        return settings
    near = next((found for kind, found, _ in reversed(earlier) if kind == "mosaic"), None)
    pitch = auto_value(settings, "pitch") if near is None else float(np.clip(1 / max(1, round(1 / near.pitch)), 0.004, 0.2))
    return settings.model_copy(update={"pitch": pitch})


def look_at(picture: Array, s: TubeSettings) -> dict[str, Any]:
    """Return the picture's look in linear light, which the cells are taken from, and the gain that gives it its light back."""
    found: dict[str, Any] = {"linear": linear_of(picture)}
    if s.keep_light:
        scale = min(1.0, JUDGED / max(picture.shape[:2]))
        size = (max(8, round(picture.shape[1] * scale)), max(8, round(picture.shape[0] * scale)))
        small = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
        place = Rows(Frame(picture.shape[1] / picture.shape[0]), *small.shape[:2])
        found["gain"] = lift_of(small, lambda given: tube(given, place, {"linear": linear_of(given)}, s)) ** s.keep_light
    return found


def _bulged(x: Array, y: Array, rows: Rows, glass: float) -> tuple[Array, Array, Array]:
    """Return where on the flat screen points lie, as shares, and which of them lie on it."""
    frame = rows.frame
    u, v = x / np.float32(frame.half_w), y / np.float32(frame.half_h)
    bend = 1 + np.float32(glass) * (u * u + v * v) / 2
    u, v = u * bend, v * bend
    # How much of each pixel lies on the screen: its own extent decides, so that every size has the same rim.
    seen = [np.clip((1 - np.abs(at)) * np.float32(count / 2) + 0.5, 0, 1) for at, count in ((u, rows.cols), (v, rows.rows))]
    on = seen[0] * seen[1] if glass else np.ones_like(u)
    return (u + 1) / 2, (v + 1) / 2, on


def _cells(linear: Array, down: int, across: int, rows: Rows, s: TubeSettings, gain: float = 1.0) -> tuple[Array, Array]:
    """Return what cells shine with (coded, premultiplied, above the floor, with the gain) and how broad their beam is, both (down, across, 4).

    No finer than the output's pixels: smaller cells are averaged, their light as the beam spreads it.
    """
    mean = cv2.resize(linear, (across, down), interpolation=cv2.INTER_AREA if down <= linear.shape[0] else cv2.INTER_LINEAR)
    cells = coded_of(np.asarray(mean, np.float32))
    alpha = cells[..., 3:]

    def beamed(one: Array) -> Array:
        return np.asarray(1 - (1 - one[..., :3] / np.maximum(alpha, np.float32(1e-6))) ** np.float32(s.gain))

    seen = beamed(cells) > s.floor
    lit: Any = np.where(seen, beamed(lifted(cells, gain)), 0) * alpha
    width = np.float32(0.2) * np.float32(s.beam) * (1 + np.float32(s.spread) * lit) + np.float32(0.02)
    high, wide = min(down, max(1, rows.rows)), min(across, max(1, rows.cols))
    if (high, wide) != (down, across):
        spread_light = cv2.resize(lit * width, (wide, high), interpolation=cv2.INTER_AREA)
        width = cv2.resize(width, (wide, high), interpolation=cv2.INTER_AREA)
        lit, alpha = spread_light / width, cv2.resize(cells, (wide, high), interpolation=cv2.INTER_AREA)[..., 3:]
    return np.concatenate([lit, alpha], axis=-1).astype(np.float32), np.asarray(width, np.float32)


def _tables(mask: str) -> Array:
    """Return the running integrals of a mask's profiles across and down a cell, (2, FINE + 1)."""
    across, down = {"dots": ((0.42, 0.85), (0.42, 0.85)), "slots": ((0.44, 0.3), (0.16, 0.12))}.get(mask, ((0.44, 0.3), (0.0, 0.1)))
    return np.stack([summed_profile(*across), summed_profile(*down)])


@nb.njit(inline="always")
def _integral(table, place):  # type: ignore[no-untyped-def]
    whole = np.floor(place)
    fine = len(table) - 1
    t = (place - whole) * fine
    i = int(t)
    return whole * table[fine] + table[i] + (table[i + 1] - table[i]) * (t - i)


@nb.njit(inline="always")
def _covered(table, place, width):  # type: ignore[no-untyped-def]
    return (_integral(table, place + width / 2) - _integral(table, place - width / 2)) / width


@nb.njit(inline="always")
def _bell(t):  # type: ignore[no-untyped-def]
    """Return the integral of the bell (1 - t²)² from 0 to t."""
    t = min(max(t, -1.0), 1.0)
    return t - t * t * t * (2 / 3) + t * t * t * t * t / 5


@nb.njit(inline="always")
def _cell(cells, row, place, width, k):  # type: ignore[no-untyped-def]
    """Return channel k of a row of cells at a place across (in cells), averaged over a pixel's width."""
    count = cells.shape[1]
    low, high = int(np.floor(place - width / 2)), int(np.floor(place + width / 2))
    left, right = cells[row, min(max(low, 0), count - 1), k], cells[row, min(max(high, 0), count - 1), k]
    share = min(max((place + width / 2 - high) / width, 0.0), 1.0) if high > low else 0.0
    return left + share * (right - left)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _light(cells, widths, u, v, tables, mask, depth, down, across, size, out):  # type: ignore[no-untyped-def]
    """Fill `out` with the light that comes through the mask.

    The beam is a bell, (1 - t²)², across each row of cells, as broad as the cell says, summed over a pixel exactly. The mask's cells are as wide as
    high: stripes and slots (0, 1) stand red, green, blue side by side, slots staggered from cell to cell; dots (2) lie in two rows, one
    aside the other; bars (3) have no mask: the beam itself draws them.
    """
    rows, cols = u.shape
    seen_down, seen_across = cells.shape[0], cells.shape[1]
    # Beam and mask follow the same rows: a pixel as high as they are is cut, so that their product is averaged and not its parts.
    cuts = min(6, int(np.ceil(down / size[0] / 0.25)))
    py, px = down / size[0] / cuts, across / size[1]
    height, width = seen_down / size[0] / cuts, seen_across / size[1]
    for r in range(rows):
        for c in range(cols):
            aside, col = u[r, c] * seen_across, u[r, c] * across
            gap_at = 0.0 if int(np.floor(col)) % 2 else 0.5
            for k in range(3):
                out[r, c, k] = 0
                centre = (k + 0.5) / 3
                here, there = _covered(tables[0], col - centre + 0.5, px), 0.0
                if mask == 2:
                    there = _covered(tables[0], col - centre, px)
                for cut in range(cuts):
                    shift = (cut + 0.5) / cuts - 0.5
                    place = v[r, c] * seen_down + shift * seen_down / size[0]
                    row = v[r, c] * down + shift * down / size[0]
                    middle = int(np.floor(place))
                    total = 0.0
                    for one in range(max(middle - 1, 0), min(middle + 2, seen_down)):
                        beam = _cell(widths, one, aside, width, k) * 1.875
                        off = place - one - 0.5
                        if abs(off) < beam + height / 2:
                            share = (_bell((off + height / 2) / beam) - _bell((off - height / 2) / beam)) * beam / height
                            total += share * _cell(cells, one, aside, width, k)
                    if mask < 3:
                        opening = here
                        if mask == 1:
                            opening *= 1 - _covered(tables[1], row + gap_at, py)
                        elif mask == 2:
                            opening *= _covered(tables[1], row + 0.25, py)
                            opening = min(opening + there * _covered(tables[1], row - 0.25, py), 1.0)
                        total *= 1 - depth + depth * opening
                    out[r, c, k] += total / cuts
            out[r, c, 3] = _cell(cells, min(max(int(np.floor(v[r, c] * seen_down)), 0), seen_down - 1), aside, width, 3)


MASKS = ("stripes", "slots", "dots", "bars")


def tube(picture: Array, rows: Rows, measured: dict[str, Any], s: TubeSettings) -> Array:
    """Return a strip of the lit screen.

    Notes
    -----
    Cells are averaged in linear light; beam and mask then weaken their coded values, so that every size averages to the same; bloom, the
    cells' light blurred, is laid over by `screen`.
    """
    down, across = cells_of(rows, s.pitch if s.pitch is not None else 0.014, 1.0)
    x, y = rows.grid()
    u, v, on = _bulged(x, y, rows, s.glass)
    cells, widths = _cells(measured["linear"], down, across, rows, s, measured.get("gain", 1.0))
    light = np.empty((*u.shape, 4), np.float32)
    _light(cells, widths, u, v, _tables(s.mask), MASKS.index(s.mask), np.float32(s.depth), down, across, (rows.rows, rows.cols), light)
    alpha = np.clip(light[..., 3:], 0, 1)
    rgb = light[..., :3]
    if s.bloom:
        sigma = s.reach * cells.shape[0] / 2 / rows.frame.half_h
        glow = cv2.GaussianBlur(np.ascontiguousarray(cells[..., :3]), (0, 0), max(sigma, 0.3), borderType=cv2.BORDER_REPLICATE)
        col, row = (u * cells.shape[1] - 0.5).astype(np.float32), (v * cells.shape[0] - 0.5).astype(np.float32)
        over = np.clip(np.float32(s.bloom * 0.6) * cv2.remap(glow, col, row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE), 0, 1)
        rgb = rgb + over - rgb * over
    return np.concatenate([np.clip(rgb, 0, alpha) * on[..., None], alpha], axis=-1).astype(np.float32)


TUBE = PictureKind(
    key="tube",
    label="Tube",
    family="break",
    purpose="Shows the picture on a CRT.",
    words=("crt", "phosphor", "monitor", "television", "screen", "shadow mask", "glow", "bloom"),
    settings=TubeSettings,
    starts=(
        Start("Living-room tube", {}, words=("crt", "old television")),
        Start("Coarse dots", {"mask": "dots", "pitch": 0.03, "bloom": 0.3, "beam": 1.5, "depth": 0.3}),
        Start("Bright stripes", {"mask": "stripes", "pitch": 0.02, "glass": 0, "depth": 0.35, "gain": 1.6, "bloom": 0.3, "beam": 1.5}),
        Start("Level bars", {"mask": "bars", "pitch": 0.02, "beam": 1, "spread": 1.2, "gain": 1.2}),
    ),
    measure=look_at,
    measure_size=LOOK,
    follow=following,
    effort=12.0,
    apply=tube,
)
