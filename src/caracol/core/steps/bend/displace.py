"""Displace: the picture moved by its own light and dark."""

from __future__ import annotations

from math import cos, sin, tau
from typing import Literal

import cv2
import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, layer, number
from ...pixels.blending import LUMA

HEADED = ["heading"]


class DisplaceSettings(Settings):
    """Which way light and dark go, how far, and how fine."""

    along: Literal["heading", "slope"] = choice(
        "heading",
        label="Moves",
        help="Light one way and dark the other, or everything along the slope from dark to light, like thick glass.",
    )
    by: str | None = layer(label="Light of", help="A layer below whose light and dark move this one. Empty: its own.")
    heading: float = number(
        0,
        -1,
        1,
        label="Direction",
        unit="turns",
        step=0.0025,
        help="Where light places move, clockwise from the top.",
        when={"along": list(HEADED)},
    )
    amount: float = number(
        0.25, -2, 2, label="Amount", unit="units", help="How far white moves one way and black the other; negative reverses it."
    )
    softness: float = number(0.04, 0.005, 0.5, label="Softness", unit="units", step=0.005, help="Ignores detail smaller than this.")
    middle: float = number(0.5, 0, 1, label="Stays", unit="share", help="The brightness that stays in place.", when={"along": list(HEADED)})
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


def brightness_guide(picture: Array, softness: float = 0.04) -> Array:
    """Return the luma of a small look, softened, (rows, cols); transparent places count as the middle grey.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    softness : float
        Deviation of a Gaussian, in units (1 is half the shorter side).

    Returns
    -------
    float32 array (rows, cols)
        0…1.
    """
    rows, cols = picture.shape[:2]
    luma = picture[..., :3] @ LUMA + (1 - picture[..., 3]) * np.float32(0.5)
    return np.asarray(cv2.GaussianBlur(luma, (0, 0), max(softness * min(rows, cols) / 2, 0.3), borderType=cv2.BORDER_REFLECT))


@nb.njit(inline="always")
def _spline(t):  # type: ignore[no-untyped-def]
    """Return the four weights of a cubic B-spline at t 0…1."""
    one, sixth = np.float32(1), np.float32(1 / 6)
    s = one - t
    return (
        s * s * s * sixth,
        (np.float32(4) + t * t * (np.float32(3) * t - np.float32(6))) * sixth,
        (np.float32(4) + s * s * (np.float32(3) * s - np.float32(6))) * sixth,
        t * t * t * sixth,
    )


@nb.njit(inline="always")
def _slope(t):  # type: ignore[no-untyped-def]
    """Return the derivatives of the four weights."""
    half, one = np.float32(0.5), np.float32(1)
    s = one - t
    return -half * s * s, half * t * (np.float32(3) * t - np.float32(4)), half * s * (np.float32(4) - np.float32(3) * s), half * t * t


@nb.njit(nogil=True, fastmath=True, cache=True)
def _displace(x, y, guide, half_w, half_h, sloped, dx, dy, amount, middle, out_x, out_y):  # type: ignore[no-untyped-def]
    rows, cols = guide.shape
    half, zero = np.float32(0.5), np.float32(0)
    kx, ky = np.float32(cols) * half / half_w, np.float32(rows) * half / half_h
    for i in range(x.size):
        gx = min(max((x[i] + half_w) * kx - half, np.float32(-0.5)), np.float32(cols) - half)
        gy = min(max((y[i] + half_h) * ky - half, np.float32(-0.5)), np.float32(rows) - half)
        x0, y0 = np.floor(gx), np.floor(gy)
        wx, wy = _spline(gx - x0), _spline(gy - y0)
        vx, vy = _slope(gx - x0), _slope(gy - y0)
        value, across, down = zero, zero, zero
        for j in range(4):
            row = min(max(int(y0) + j - 1, 0), rows - 1)
            line, rise = zero, zero
            for k in range(4):
                texel = guide[row, min(max(int(x0) + k - 1, 0), cols - 1)]
                line += wx[k] * texel
                rise += vx[k] * texel
            value += wy[j] * line
            down += vy[j] * line
            across += wy[j] * rise
        if sloped:
            out_x[i] = x[i] - amount * across * kx
            out_y[i] = y[i] - amount * down * ky
        else:
            move = (value - middle) * np.float32(2) * amount
            out_x[i] = x[i] - dx * move
            out_y[i] = y[i] - dy * move


def displace_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: DisplaceSettings, guide: Array,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: back along the heading by their brightness, or down the slope of the brightness.

    Parameters
    ----------
    guide : float32 array (rows, cols)
        What `brightness_guide` gave.

    Notes
    -----
    `heading`: p - d·amount·2·(L(p) - middle), d = (sin τ·heading, -cos τ·heading). `slope`: p - amount·softness·grad L(p). L is read
    through a cubic B-spline, so that it has no facets however large the picture.
    """

    def kernel(x: Array, y: Array, *rest: Array) -> None:
        numbers = (
            np.float32(n)
            for n in (sin(tau * s.heading), -cos(tau * s.heading), s.amount * (s.softness if s.along == "slope" else 1), s.middle)
        )
        _displace(x, y, guide, np.float32(before.half_w), np.float32(before.half_h), s.along == "slope", *numbers, *rest)

    return over_points(kernel, x, y)


DISPLACE = BendKind(
    key="displace",
    label="Displace",
    family="bend",
    purpose="Moves the picture by its own light and dark.",
    words=("displacement", "warp", "push", "relief", "map", "luminance"),
    settings=DisplaceSettings,
    handles=("displace-arrow",),
    starts=(
        Start("Raised light", {"amount": 0.3, "softness": 0.03}),
        Start("Drawn aside", {"heading": 0.25, "amount": 0.5, "softness": 0.09}),
        Start("Thick glass", {"along": "slope", "amount": 0.7, "softness": 0.06}),
    ),
    neutral={"amount": 0},
    pull=displace_pull,
    guide=brightness_guide,
    guide_settings=("softness",),
    guide_layer="by",
)
