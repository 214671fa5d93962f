"""Rim: outside a circle, fade into a colour, a gradient, a wider sky or nothing, so that a ring's corners come to rest."""

from __future__ import annotations

from math import hypot, tau
from typing import Any, Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import Earlier, PictureKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, colour, number
from ...pixels.box import Box
from ...pixels.colours import rgb_of
from ...pixels.patchwork import Reading, lattice, patchwork
from ..bend.ring import ring_before

SPACING = 0.36
"""Between the patches of a wider sky, as a share of how far inwards it is read from."""
INTO = Literal["colour", "gradient", "sky", "nothing"]


class RimSettings(Settings):
    """The circle, and what lies outside it."""

    x: float | None = auto_number(
        -3, 3, [{"value": 0}], default=0, label="Centre x", unit="units", help="Right positive. Automatic: that of the ring before it.",
    )  # fmt: skip
    y: float | None = auto_number(
        -3, 3, [{"value": 0}], default=0, label="Centre y", unit="units", help="Down positive. Automatic: that of the ring before it.",
    )  # fmt: skip
    radius: float | None = auto_number(
        0.05, 4, [{"value": 0.92}], default=0.92, label="Radius", unit="units", help="The picture stays unchanged up to here. Automatic: 0.7 of the ring.",
    )  # fmt: skip
    width: float | None = auto_number(
        0, 3, [{"value": 0.3}], default=0.3, label="Fade", unit="units",
        help="Width of the fade. Automatic: it ends within the ring.",
    )  # fmt: skip
    into: INTO = choice(
        "colour", label="Fade into", help="A colour, a gradient, the sky with its own texture, or nothing, so that the layer "
        "below shows.",
    )  # fmt: skip
    # Before `colour`, which from there on is the setting of that name.
    outer: str = colour("#1d2440", label="At the corners", when={"into": ["gradient"]}, help="The colour the gradient ends with.")
    colour: str | None = colour(
        None,
        label="Colour",
        when={"into": ["colour", "gradient"]},
        help="Automatic: the colour of the picture along the circle.",
    )
    band: float = number(
        0.25,
        0.03,
        1,
        label="Read from",
        unit="units",
        when={"into": ["sky"]},
        help="How far inside the circle the sky is read from.",
    )
    border: Literal["even", "dark", "glow"] = choice(
        "even", label="Border", help="Unchanged, darker along the circle, or glowing.", when={"into": ["nothing", "colour", "gradient"]}
    )


WHOLE, FADE = 0.7, 4 / 15
"""Of a ring's reach: how far the picture is whole, and how far it then fades, so that nothing is seen of what is beyond the reach."""
MOST = 1.05, 0.4
"""In units: further out there are but the corners of a square."""


def follow_ring(settings: RimSettings, earlier: Earlier) -> RimSettings:
    """Take from the last ring before the step what is left to it; without one, what stands for that."""
    ring = ring_before(earlier)
    found = {name: auto_value(settings, name) for name in ("x", "y", "radius", "width")}
    if ring is not None:
        radius, width = min(WHOLE * ring.reach, MOST[0]), min(FADE * ring.reach, MOST[1])
        found = {"x": ring.x, "y": ring.y, "radius": max(round(radius, 4), 0.05), "width": round(width, 4)}
    return settings.model_copy(update={name: value for name, value in found.items() if getattr(settings, name) is None})


def _circle(s: RimSettings) -> tuple[float, float, float, float]:
    """Return centre, radius and fade."""
    return auto_value(s, "x"), auto_value(s, "y"), auto_value(s, "radius"), auto_value(s, "width")


def measure_rim(picture: Array, s: RimSettings) -> dict[str, Any]:
    """Find the colour of the picture beyond the fade, or along the circle where nothing is left: the median, so that a tower does not count."""
    rows, cols = picture.shape[:2]
    cx, cy, radius, width = _circle(s)
    half_w, half_h = max(cols / rows, 1.0), max(rows / cols, 1.0)
    y, x = np.mgrid[0:rows, 0:cols]
    away = np.hypot((x + 0.5) / cols * 2 * half_w - half_w - cx, (y + 0.5) / rows * 2 * half_h - half_h - cy)
    # Beyond the fade there is the sky itself; on the circle there may still be the glow over the horizon, or the ground.
    beyond = picture[(away > radius + width / 2) & (picture[..., 3] > 0.5)]
    if len(beyond) >= 0.02 * rows * cols:
        return {"colour": tuple(float(c) for c in np.median(beyond[:, :3] / beyond[:, 3:], axis=0))}
    ang = np.arange(360) / 360 * tau
    found = np.empty((0, 4), np.float32)
    for shrink in (1.0, 0.8, 0.6, 0.4, 0.2, 0.0):
        col = ((cx + radius * shrink * np.sin(ang)) / half_w + 1) / 2 * cols
        row = ((cy - radius * shrink * np.cos(ang)) / half_h + 1) / 2 * rows
        inside = (col >= 0) & (col < cols) & (row >= 0) & (row < rows)
        found = picture[row[inside].astype(int), col[inside].astype(int)]
        found = found[found[:, 3] > 0.5]
        if len(found) >= 8:
            break
    if not len(found):
        return {"colour": (0.5, 0.5, 0.5)}
    return {"colour": tuple(float(c) for c in np.median(found[:, :3] / found[:, 3:], axis=0))}


def tell_rim(measured: dict[str, Any], s: RimSettings) -> dict[str, Any]:
    """Return the colour that is really used."""
    return {"colour": s.colour or "#" + "".join(f"{round(255 * min(max(part, 0), 1)):02x}" for part in measured["colour"])}


@nb.njit(nogil=True, fastmath=True, cache=True)
def _fade(picture, px, py, cx, cy, begin, width, first, last, far, edge, outside, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    zero, one, two, three = np.float32(0), np.float32(1), np.float32(2), np.float32(3)
    for r in range(rows):
        for c in range(cols):
            dx, dy = px[r, c] - cx, py[r, c] - cy
            away = np.sqrt(dx * dx + dy * dy)
            share = min(max((away - begin) / width, zero), one)
            share = share * share * (three - two * share)
            along = min(max((away - begin) / max(far - begin, np.float32(1e-6)), zero), one)
            # A line along the circle, darker or lighter than what is there.
            near = (away - begin - np.float32(0.5) * width) / max(np.float32(0.3) * width, np.float32(0.012))
            line = edge * np.exp(-near * near)
            for k in range(4):
                target = outside[r, c, k] if outside.shape[0] > 1 else first[k] + (last[k] - first[k]) * along
                value = picture[r, c, k] + (target - picture[r, c, k]) * share
                out[r, c, k] = value
            alpha = out[r, c, 3]
            for k in range(3):
                value = out[r, c, k]
                value = value + (alpha - value) * line if line > zero else value + value * line
                out[r, c, k] = value


def wider_sky(picture: Array, frame: Frame, s: RimSettings) -> Array:
    """Return the picture with what lies outside the circle shown by patches of what lies inside: each rigidly from further in, in its own direction.

    A patch so far outside is read as far inside, to and fro within `band` of the circle; its tone is that of the circle.
    """
    rows, cols = picture.shape[:2]
    cx, cy, radius, _ = _circle(s)
    half_w, half_h = frame.half_w + abs(cx), frame.half_h + abs(cy)
    spacing = max(SPACING * s.band, 0.04)
    inside = radius - 0.5 * spacing
    readings = []
    for px, py in lattice(hypot(half_w, half_h) + spacing, spacing):
        away = hypot(px, py)
        if away < inside - spacing or abs(cx + px) > frame.half_w + spacing or abs(cy + py) > frame.half_h + spacing:
            continue
        beyond = max(away - inside, 0.0)
        turn, part = divmod(beyond, s.band)
        target = inside - (part if int(turn) % 2 == 0 else s.band - part)
        # Further out things are led round the circle a little, so that no spoke repeats what is inside it.
        swing = 0.035 * (2 * (int(away / spacing) % 2) - 1) * min(1.0, beyond / s.band)
        ang = np.arctan2(px, -py) / tau + swing
        tx, ty = target * np.sin(tau * ang), -target * np.cos(tau * ang)
        # Its tone is that of the circle, or the sky would run back into what is inside.
        back = min(1.0, inside / max(away, 1e-6)) - 1
        readings.append(Reading(float(cx + px), float(cy + py), float(tx - px), float(ty - py), float(back * px), float(back * py)))
    return patchwork(picture, frame, Box(0, rows, 0, cols), readings, spacing, 0.5 * s.band, lively=0.4)


def rim(picture: Array, rows: Rows, measured: dict[str, Any], s: RimSettings) -> Array:
    """Return the picture faded beyond the circle; smooth at both ends of the fade."""
    pixel = 2 * rows.frame.half_w / rows.cols
    cx, cy, radius, width = _circle(s)
    first = np.zeros(4, np.float32)
    if s.into != "nothing":
        first = np.array([*(measured["colour"] if s.colour is None else rgb_of(s.colour)), 1], np.float32)
    last = np.array([*rgb_of(s.outer), 1], np.float32) if s.into == "gradient" else first
    outside = wider_sky(picture, rows.frame, s) if s.into == "sky" else np.zeros((1, 1, 4), np.float32)
    px, py = rows.grid()
    out = np.empty(picture.shape, np.float32)
    far = hypot(rows.frame.half_w + abs(cx), rows.frame.half_h + abs(cy))
    edge = {"even": 0.0, "dark": -0.55, "glow": 0.4}[s.border] if s.into != "sky" else 0.0
    numbers = [np.float32(n) for n in (cx, cy, radius - pixel / 2, max(width, pixel))]
    _fade(np.ascontiguousarray(picture), px, py, *numbers, first, last, np.float32(far), np.float32(edge), outside, out)
    return out


def _alone(s: RimSettings) -> bool:
    """Whether a strip of rows can be made from the same strip of the input: a wider sky is read from all of it."""
    return s.into != "sky"


RIM = PictureKind(
    key="rim",
    label="Rim",
    family="mend",
    purpose="Fades everything outside a circle into the colour of the sky.",
    words=("border", "corners", "fade", "sky", "round", "vignette"),
    settings=RimSettings,
    handles=("rim",),
    starts=(
        Start("Into the sky", {"radius": 0.92, "width": 0.3}),
        Start("Where the ring ends", {"x": None, "y": None, "radius": None, "width": None}, after="winds"),
        Start("Wider sky", {"into": "sky", "radius": 0.86, "width": 0.16}, after="winds"),
        Start("Into the dark", {"radius": 0.8, "width": 0.6, "colour": "#0d1018"}),
        Start("Evening round it", {"into": "gradient", "radius": 0.86, "width": 0.3, "outer": "#2b2350"}),
        Start("Cut out round", {"radius": 0.98, "width": 0, "into": "nothing"}),
    ),
    apply=rim,
    local=_alone,
    room=2.2,
    measure=measure_rim,
    tell=tell_rim,
    follow=follow_ring,
)
