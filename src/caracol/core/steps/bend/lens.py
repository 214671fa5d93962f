"""Lens: barrel, pincushion, fisheye."""

from __future__ import annotations

from math import hypot, radians, tan
from typing import Any, Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number

FORMS = ("barrel", "pincushion", "fisheye")
WIDEST = radians(80)


class LensSettings(Settings):
    """Which glass, how strong, and where."""

    form: Literal["barrel", "pincushion", "fisheye"] = choice(
        "barrel", label="Glass", help="Barrel bulges the middle, pincushion draws it in, fisheye is a ball of glass."
    )
    amount: float = number(0.5, 0, 1, label="Amount", unit="share", help="How strong the glass is.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(1, 0.02, 6, label="Radius", unit="units", help="Radius at which nothing moves.")
    only: bool = choice(False, label="Only inside", help="Leaves everything outside the radius unchanged, like a glass on the picture.")
    cover: bool = choice(
        True, label="Covers the frame", idle=(({"only": [True]}, "Only inside is on."),), help="Enlarges until nothing outside the picture shows.",
    )  # fmt: skip
    edge: Edge = choice("beyond", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _lens(x, y, cx, cy, reach, amount, angle, span, form, only, out_x, out_y):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        q = max(np.sqrt(px * px + py * py) / reach, np.float32(1e-6))
        if only and q >= one:
            k = one
        elif form == 0:
            k = (one + amount * q * q) / (one + amount)
        elif form == 1:
            k = (one + amount) / (one + amount * q * q)
        else:
            k = np.tan(min(q * angle, np.float32(1.56))) / (span * q)
        out_x[i] = cx + px * k
        out_y[i] = cy + py * k


def lens_pull(x: Array, y: Array, before: Frame, after: Frame, s: LensSettings) -> tuple[Array, Array]:
    """Return where points came from.

    Notes
    -----
    With q = rad / reach, q becomes q·(1 + a·q²) / (1 + a) (barrel), q·(1 + a) / (1 + a·q²) (pincushion) or tan(q·θ) / tan θ with
    θ = a·80° (fisheye: the picture on a ball seen from its middle). To cover the frame, barrel and fisheye reach the furthest corner at least; points
    under a pincushion are drawn to the centre until none lies beyond the picture's edge.
    """
    angle = max(s.amount * WIDEST, 1e-3)
    covers = s.cover and not s.only
    reach = max(s.reach, _farthest(before, s)) if covers and s.form != "pincushion" else s.reach
    glass = (s.x, s.y, reach, s.amount, angle, tan(angle), FORMS.index(s.form), s.only)
    from_x, from_y = over_points(_lens, x, y, *glass)
    if not covers or s.form != "pincushion":
        return from_x, from_y
    closer = np.float32(1 / _beyond(before, s, glass))
    return s.x + (from_x - np.float32(s.x)) * closer, s.y + (from_y - np.float32(s.y)) * closer


def _farthest(frame: Frame, s: LensSettings) -> float:
    """Return how far the corner furthest from the centre lies: within such a reach a swelling glass only draws points nearer."""
    return hypot(frame.half_w + abs(s.x), frame.half_h + abs(s.y))


def _beyond(frame: Frame, s: LensSettings, glass: tuple[Any, ...]) -> float:
    """Return how many times further from the centre than the picture's edge the frame's edge is read, 1 at least."""
    side = np.linspace(-1, 1, 65, dtype=np.float32)
    ones = np.ones_like(side)
    x = np.concatenate([side, side, ones, -ones]) * np.float32(frame.half_w)
    y = np.concatenate([ones, -ones, side, side]) * np.float32(frame.half_h)
    from_x, from_y = over_points(_lens, x, y, *glass)
    # A centre at or beyond the edge leaves no room to draw closer on that side.
    wide = np.where(from_x > s.x, frame.half_w - s.x, frame.half_w + s.x)
    high = np.where(from_y > s.y, frame.half_h - s.y, frame.half_h + s.y)
    off = np.maximum(np.abs(from_x - s.x) / np.maximum(wide, 0.05), np.abs(from_y - s.y) / np.maximum(high, 0.05))
    return float(np.clip(off.max(), 1, 20))


LENS = BendKind(
    key="lens",
    label="Lens",
    family="bend",
    purpose="Bends the picture like a curved glass.",
    words=("fisheye", "barrel", "pincushion", "sphere", "magnify", "bulge"),
    settings=LensSettings,
    handles=("centre-reach",),
    starts=(
        Start(
            "Glass lens",
            {"form": "fisheye", "amount": 1, "reach": 0.85, "only": True},
            words=("fisheye", "magnify", "magnifying glass", "sphere"),
        ),
        Start("Barrel", {"form": "barrel", "amount": 0.9, "reach": 1.4}, words=("barrel distortion",)),
        Start("Pincushion", {"form": "pincushion", "amount": 0.6, "reach": 1.8}, words=("pincushion distortion",)),
    ),
    neutral={"amount": 0},
    pull=lens_pull,
)
