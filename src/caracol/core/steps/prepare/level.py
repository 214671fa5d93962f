"""Level: turn a leaning picture upright."""

from __future__ import annotations

from math import cos, sin, tau
from typing import Any, Literal

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import BendKind
from ...kinds.settings import Settings, choice, number


class LevelSettings(Settings):
    """How far to turn, and what to do with the corners."""

    angle: float = number(
        0, -0.125, 0.125, label="Turn", unit="turns", step=0.0005, help="Clockwise positive. Opposite to the tilt of the horizon."
    )
    corners: Literal["crop", "fill"] = choice(
        "crop",
        label="Corners",
        idle=(({"angle": [0]}, "It stands upright already: Turn is 0."),),
        help="Crop to the largest upright box, or keep the whole frame and fill the corners with the mirrored picture.",
    )


def upright_box(ratio: float, angle: float) -> tuple[float, float]:
    """Return (width, height) of the largest upright box in a turned rectangle of the given ratio and height 1.

    Parameters
    ----------
    ratio : float
        Width to height.
    angle : float
        Turns.

    Returns
    -------
    width, height : float

    Notes
    -----
    Either two opposite corners of the box touch the longer sides (a narrow rectangle), or all four sides are touched.
    """
    w, h = ratio, 1.0
    s, c = abs(sin(tau * angle)), abs(cos(tau * angle))
    longer, shorter = max(w, h), min(w, h)
    if shorter <= 2 * s * c * longer or abs(s - c) < 1e-10:
        half = 0.5 * shorter
        return (half / s, half / c) if w >= h else (half / c, half / s)
    double = c * c - s * s
    return (w * c - h * s) / double, (h * c - w * s) / double


def level_frame(before: Frame, s: LevelSettings) -> Frame:
    """Return the frame after levelling."""
    if s.corners == "fill" or s.angle == 0:
        return before
    w, h = upright_box(before.ratio, s.angle)
    return Frame(w / h)


def level_pull(x: Array, y: Array, before: Frame, after: Frame, s: LevelSettings) -> tuple[Array, Array]:
    """Return where in the leaning picture points of the levelled one lie. Positive angles turn the content clockwise."""
    scale = 1.0
    if s.corners == "crop" and s.angle != 0:
        w, _ = upright_box(before.ratio, s.angle)
        scale = w * before.half_h / after.half_w
    cosine, sine = np.float32(cos(tau * s.angle) * scale), np.float32(sin(tau * s.angle) * scale)
    return x * cosine + y * sine, y * cosine - x * sine


def _changes(s: Any) -> bool:
    return True


LEVEL = BendKind(
    key="level",
    label="Level",
    family="prepare",
    role="levels",
    purpose="Turns a tilted horizon level.",
    words=("straighten", "horizon", "tilt", "rotate", "upright", "lean"),
    settings=LevelSettings,
    handles=("level-line",),
    neutral={"angle": 0},
    pull=level_pull,
    frame_after=level_frame,
    changes_frame=_changes,
)
