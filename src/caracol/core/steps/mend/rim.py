"""Rim: outside a circle, fade into a colour, so that a ring's corners come to rest."""

from __future__ import annotations

from math import tau
from typing import Any, Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, choice, colour, number


class RimSettings(Settings):
    """The circle, and what lies outside it."""

    x: float = number(0, -3, 3, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -3, 3, label="Centre y", unit="units", help="Centre, down positive.")
    radius: float = number(0.92, 0.05, 4, label="Radius", unit="units", help="The picture is whole up to here.")
    width: float = number(0.3, 0, 3, label="Fade", unit="units", help="How far it takes until only the colour is left.")
    into: Literal["colour", "nothing"] = choice("colour", label="Fade into", help="A colour, or nothing (transparent).")
    colour: str | None = colour(
        None, label="Colour", when={"into": ["colour"]}, help="Left to itself it is taken from the picture along the circle."
    )


def measure_rim(picture: Array, s: RimSettings) -> dict[str, Any]:
    """Find the colour of the picture along the circle: the median, so that a tower that sticks out does not count."""
    rows, cols = picture.shape[:2]
    half_w, half_h = max(cols / rows, 1.0), max(rows / cols, 1.0)
    ang = np.arange(360) / 360 * tau
    found = np.empty((0, 4), np.float32)
    for shrink in (1.0, 0.8, 0.6, 0.4, 0.2, 0.0):
        col = ((s.x + s.radius * shrink * np.sin(ang)) / half_w + 1) / 2 * cols
        row = ((s.y - s.radius * shrink * np.cos(ang)) / half_h + 1) / 2 * rows
        inside = (col >= 0) & (col < cols) & (row >= 0) & (row < rows)
        found = picture[row[inside].astype(int), col[inside].astype(int)]
        found = found[found[:, 3] > 0.5]
        if len(found) >= 8:
            break
    if not len(found):
        return {"colour": (0.5, 0.5, 0.5)}
    return {"colour": tuple(float(c) for c in np.median(found[:, :3] / found[:, 3:], axis=0))}


@nb.njit(nogil=True, fastmath=True, cache=True)
def _fade(picture, px, py, cx, cy, begin, width, target, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    zero, one, two, three = np.float32(0), np.float32(1), np.float32(2), np.float32(3)
    for r in range(rows):
        for c in range(cols):
            dx, dy = px[r, c] - cx, py[r, c] - cy
            share = min(max((np.sqrt(dx * dx + dy * dy) - begin) / width, zero), one)
            share = share * share * (three - two * share)
            for k in range(4):
                out[r, c, k] = picture[r, c, k] + (target[k] - picture[r, c, k]) * share


def rim(picture: Array, rows: Rows, measured: dict[str, Any], s: RimSettings) -> Array:
    """Return the picture faded beyond the circle; smooth at both ends of the fade."""
    pixel = 2 * rows.frame.half_w / rows.cols
    if s.into == "nothing":
        target = np.zeros(4, np.float32)
    else:
        rgb = measured["colour"] if s.colour is None else tuple(int(s.colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
        target = np.array([*rgb, 1], np.float32)
    px, py = rows.grid()
    out = np.empty(picture.shape, np.float32)
    numbers = [np.float32(n) for n in (s.x, s.y, s.radius - pixel / 2, max(s.width, pixel))]
    _fade(np.ascontiguousarray(picture), px, py, *numbers, target, out)
    return out


RIM = PictureKind(
    key="rim",
    label="Rim",
    family="mend",
    purpose="Fades everything outside a circle into the sky's colour.",
    words=("border", "corners", "fade", "sky", "round", "vignette"),
    settings=RimSettings,
    handles=("rim",),
    starts=(
        Start("Into the sky", {"radius": 0.92, "width": 0.3}),
        Start("Into the dark", {"radius": 0.8, "width": 0.6, "colour": "#0d1018"}),
        Start("Cut out round", {"radius": 0.98, "width": 0, "into": "nothing"}),
    ),
    apply=rim,
    measure=measure_rim,
)
