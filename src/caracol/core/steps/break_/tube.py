"""Tube: the picture in cells behind the mask of a picture tube."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

import cv2
import numpy as np

from ...arrays import Array
from ...kinds import PictureKind, Rows, Start
from ...light import coded_of, linear_of
from ...settings import Settings, auto_number, auto_value, choice, number
from .mosaic import cells_of
from .scan_lines import line_cover

LOOK = 1280


class TubeSettings(Settings):
    """The mask, the beam behind it, the glass before it."""

    mask: Literal["slots", "dots", "stripes", "bars"] = choice(
        "slots", label="Mask", help="Short upright slots, round dots, stripes from top to bottom, or level bars."
    )
    pitch: float | None = auto_number(
        0.004, 0.2, [{"value": 0.014}], label="Pitch", unit="share", step=0.001,
        help="Height of a cell, of the height; left free, that of a mosaic before it.",
    )  # fmt: skip
    beam: float = number(0.85, 0.05, 1.5, label="Beam", unit="share", help="How far the beam fills a cell in the darks.")
    spread: float = number(0.6, 0, 2, label="Spread", unit="factor", help="How much broader the beam grows with brightness.")
    floor: float = number(0.04, 0, 0.6, label="Floor", unit="share", step=0.005, help="What is darker stays empty.")
    depth: float = number(0.7, 0, 1, label="Mask depth", unit="share", help="How dark it is between the mask's openings.")
    bloom: float = number(0.4, 0, 2, label="Bloom", unit="factor", help="How much light runs over, in its colour.")
    reach: float = number(0.06, 0.005, 0.5, label="Bloom reach", unit="units", step=0.005, help="How far it runs.")
    gain: float = number(1.9, 0.5, 5, label="Gain", unit="factor", step=0.05, help="Lifts the light before the mask takes its part.")
    glass: float = number(0.08, 0, 0.5, label="Glass", unit="share", help="How much the glass bulges.")


def following(settings: TubeSettings, earlier: Sequence[tuple[str, Any]]) -> TubeSettings:
    """Return the settings with a free pitch taken from the nearest mosaic before, as it comes out in whole cells."""
    if settings.pitch is not None:
        return settings
    near = next((found for kind, found in reversed(earlier) if kind == "mosaic"), None)
    pitch = auto_value(settings, "pitch") if near is None else float(np.clip(1 / max(1, round(1 / near.pitch)), 0.004, 0.2))
    return settings.model_copy(update={"pitch": pitch})


def look_at(picture: Array, **settings: Any) -> dict[str, Any]:
    """Return the picture's look in linear light, which the cells are taken from."""
    return {"linear": linear_of(picture)}


def _bulged(x: Array, y: Array, rows: Rows, glass: float) -> tuple[Array, Array, Array]:
    """Return where on the flat screen points lie, as shares, and which of them lie on it."""
    frame = rows.frame
    u, v = x / np.float32(frame.half_w), y / np.float32(frame.half_h)
    bend = 1 + np.float32(glass) * (u * u + v * v) / 2
    u, v = u * bend, v * bend
    soft = np.float32(4 / max(rows.rows, 64))
    on = np.clip((1 - np.maximum(np.abs(u), np.abs(v))) / soft + 0.5, 0, 1) if glass else np.ones_like(u)
    return (u + 1) / 2, (v + 1) / 2, on


def _cells(linear: Array, down: int, across: int, rows: Rows, s: dict[str, Any]) -> tuple[Array, Array]:
    """Return what cells shine with (coded, premultiplied, above the floor, with the gain) and how broad their beam is, both (down, across, 4).

    No finer than the output's pixels: smaller cells are averaged, their light as the beam spreads it.
    """
    mean = cv2.resize(linear, (across, down), interpolation=cv2.INTER_AREA if down <= linear.shape[0] else cv2.INTER_LINEAR)
    cells = coded_of(np.asarray(mean, np.float32))
    alpha = cells[..., 3:]
    lifted = 1 - (1 - cells[..., :3] / np.maximum(alpha, np.float32(1e-6))) ** np.float32(s["gain"])
    lit: Any = np.where(lifted > s["floor"], lifted, 0) * alpha
    width = np.float32(0.2) * np.float32(s["beam"]) * (1 + np.float32(s["spread"]) * lit) + np.float32(0.02)
    high, wide = min(down, max(1, rows.rows)), min(across, max(1, rows.cols))
    if (high, wide) != (down, across):
        spread_light = cv2.resize(lit * width, (wide, high), interpolation=cv2.INTER_AREA)
        width = cv2.resize(width, (wide, high), interpolation=cv2.INTER_AREA)
        lit, alpha = spread_light / width, cv2.resize(cells, (wide, high), interpolation=cv2.INTER_AREA)[..., 3:]
    return np.concatenate([lit, alpha], axis=-1).astype(np.float32), np.asarray(width, np.float32)


def _row_of(cells: Array, row: Array, place: Array, width: float) -> Array:
    """Return the light of cells of a row (indices) at places across (in cells), averaged over a pixel's width."""
    count = cells.shape[1]
    low, high = np.floor(place - width / 2).astype(int), np.floor(place + width / 2).astype(int)
    share = np.where(high > low, np.clip((place + width / 2 - high) / max(width, 1e-6), 0, 1), 0).astype(np.float32)[..., None]
    rows = np.clip(row, 0, cells.shape[0] - 1)
    left, right = cells[rows, np.clip(low, 0, count - 1)], cells[rows, np.clip(high, 0, count - 1)]
    return np.asarray(left + share * (right - left))


def _beamed(cells: Array, widths: Array, u: Array, v: Array, rows: Rows) -> Array:
    """Return the light of the beam: sech² across each cell, as broad as the cell says, summed over a pixel exactly."""
    down, across = cells.shape[:2]
    place, height = v * down, np.float32(down / rows.rows)
    middle = np.floor(place).astype(int)
    total = np.zeros((*u.shape, 4), np.float32)
    for step in (-1, 0, 1):
        row = middle + step
        light = _row_of(cells, row, u * across, across / rows.cols)
        width = _row_of(widths, row, u * across, across / rows.cols)
        off = (place - (row + np.float32(0.5)))[..., None]
        share = (np.tanh((off + height / 2) / width) - np.tanh((off - height / 2) / width)) * (width / height)
        within = ((row >= 0) & (row < down))[..., None]
        total[..., :3] += np.where(within, light[..., :3] * share, 0)
        if step == 0:
            total[..., 3] = light[..., 3]
    return total


def mask_at(u: Array, v: Array, down: int, across: int, rows: Rows, mask: str) -> Array:
    """Return how far the mask is open for red, green and blue, 0…1 (rows, cols, 3), averaged over pixels.

    A cell of the mask is as wide as high; `stripes` and `slots` stand red, green, blue side by side in it, slots staggered from cell to
    cell; `dots` lie in two rows, one aside the other; `bars` has no mask: the beam itself draws them.
    """
    px, py = across / rows.cols, down / rows.rows
    col, row = u * across, v * down
    if mask == "bars":
        return np.ones((*u.shape, 3), np.float32)
    odd = np.floor(col).astype(int) % 2
    parts = []
    for k in range(3):
        centre = (k + 0.5) / 3
        if mask == "dots":
            one = line_cover(col - centre + 0.5, px, 0.44, 0.36) * line_cover(row + 0.25, py, 0.5, 0.4)
            two = line_cover(col - centre, px, 0.44, 0.36) * line_cover(row - 0.25, py, 0.5, 0.4)
            parts.append(np.minimum(1, one + two))
            continue
        stripe = line_cover(col - centre + 0.5, px, 0.44, 0.3)
        if mask == "slots":
            gap = line_cover(row + np.where(odd, np.float32(0), np.float32(0.5)), py, 0.16, 0.12)
            stripe = stripe * (1 - gap)
        parts.append(stripe)
    return np.stack(parts, axis=-1).astype(np.float32)


def tube(picture: Array, rows: Rows, measured: dict[str, Any], **s: Any) -> Array:
    """Return a strip of the lit screen.

    Notes
    -----
    Cells are averaged in linear light; beam and mask then weaken their coded values, so that every size averages to the same; bloom, the
    cells' light blurred, is laid over by `screen`.
    """
    down, across = cells_of(rows, s["pitch"] if s["pitch"] is not None else 0.014, 1.0)
    x, y = rows.grid()
    u, v, on = _bulged(x, y, rows, s["glass"])
    cells, widths = _cells(measured["linear"], down, across, rows, s)
    light = _beamed(cells, widths, u, v, rows)
    depth = np.float32(s["depth"])
    alpha = np.clip(light[..., 3:], 0, 1)
    rgb = light[..., :3] * (1 - depth + depth * mask_at(u, v, down, across, rows, s["mask"]))
    if s["bloom"]:
        sigma = s["reach"] * cells.shape[0] / 2 / rows.frame.half_h
        glow = cv2.GaussianBlur(np.ascontiguousarray(cells[..., :3]), (0, 0), max(sigma, 0.3), borderType=cv2.BORDER_REPLICATE)
        col, row = (u * cells.shape[1] - 0.5).astype(np.float32), (v * cells.shape[0] - 0.5).astype(np.float32)
        over = np.clip(np.float32(s["bloom"] * 0.6) * cv2.remap(glow, col, row, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE), 0, 1)
        rgb = rgb + over - rgb * over
    return np.concatenate([np.clip(rgb, 0, alpha) * on[..., None], alpha], axis=-1).astype(np.float32)


TUBE = PictureKind(
    key="tube",
    label="Tube",
    family="break",
    purpose="Shows the picture on a picture tube.",
    settings=TubeSettings,
    starts=(
        Start("Living-room tube", {}),
        Start("Coarse dots", {"mask": "dots", "pitch": 0.03, "bloom": 0.5, "beam": 1.2}),
        Start("Bright stripes", {"mask": "stripes", "pitch": 0.02, "glass": 0, "depth": 0.85, "gain": 3.2, "bloom": 0.45}),
        Start("Level bars", {"mask": "bars", "pitch": 0.02, "beam": 0.6, "spread": 1, "gain": 1.2, "bloom": 0.25}),
    ),
    measure=look_at,
    measure_size=LOOK,
    follow=following,
    apply=tube,
)
