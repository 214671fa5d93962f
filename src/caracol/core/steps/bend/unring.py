"""Unring: lay a ring out flat again."""

from __future__ import annotations

from math import pi, tau
from typing import Any, Literal

import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, number
from .ring import SMALLEST_HOLE, SPREAD_HELP, Spread


class UnringSettings(Settings):
    """Where the ring lies in the picture, and the flat picture's ratio."""

    inside: Literal["bottom", "top"] = choice(
        "bottom", label="In the middle", help="Which side of the flat picture is in the middle of the ring."
    )
    spread: Spread = choice("even", label="Spread", help=SPREAD_HELP)
    hole: float | None = auto_number(
        0, 3, [{"when": {"spread": "depth"}, "value": 0.1}, {"value": 0}], label="Hole", unit="units", when={"spread": ["even", "depth"]},
        help="Radius that becomes the inner side of the flat picture.",
    )  # fmt: skip
    reach: float = number(1, 0.05, 4, label="Radius", unit="units", help="Radius that becomes the outer side of the flat picture.")
    seam: float | None = auto_number(
        -1, 1, [{"when": {"inside": "top"}, "value": 0}, {"value": 0.5}], label="Seam", unit="turns", step=0.0025,
        help="The ray along which the ring is cut open.",
    )  # fmt: skip
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    ratio: float = number(2, 0.2, 10, label="Frame", unit="ratio", help="Width divided by height of the flat picture.")
    edge: Edge = choice("stretch", label="Outside", help=EDGE_HELP)


def _radius(t: Array, spread: str, hole: float, reach: float, rho: float) -> Array:
    """Return the radius at share `t` of the way from hole to reach: the inverse of the ring's spreads."""
    if spread == "even":
        return hole + t * (reach - hole)
    if spread == "shape":
        return reach * np.exp((t - 1) * tau / rho)
    if spread == "depth":
        inverse = 1 / hole - t * (1 / hole - 1 / reach)
        return 1 / np.maximum(inverse, 1e-6)
    return reach * np.tan(np.clip(t, -0.999, 0.999) * (pi / 2))


def unring_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: UnringSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where in the ring points of the flat picture lie; undoes `ring` with the same settings inside its reach."""
    whole, turn = auto_value(s, "hole"), auto_value(s, "seam")
    whole = min(max(whole, SMALLEST_HOLE if s.spread == "depth" else 0), s.reach - SMALLEST_HOLE / 2)
    u, v = after.to_shares(x, y)
    t = 1 - v if s.inside == "bottom" else v
    ang = u + np.float32(turn) if s.inside == "bottom" else np.float32(turn) - u
    rad = _radius(t, s.spread, whole, s.reach, after.ratio)
    px = s.x + rad * np.sin(np.float32(tau) * ang)
    py = s.y - rad * np.cos(np.float32(tau) * ang)
    return px.astype(np.float32), py.astype(np.float32)


def _frame(before: Frame, s: UnringSettings) -> Frame:
    return Frame(s.ratio)


def _changes(s: Any) -> bool:
    return True


UNRING = BendKind(
    key="unring",
    label="Unring",
    family="bend",
    purpose="Cuts a ring open and lays it out flat.",
    words=("inverse polar", "unwrap", "flatten", "unroll", "straighten", "polar"),
    settings=UnringSettings,
    handles=("ring",),
    starts=(
        Start("Flat strip", {"ratio": 3, "spread": "shape"}, words=("inverse polar", "unwrap", "panorama")),
        Start("From the corners", {"reach": 1.41}),
    ),
    pull=unring_pull,
    frame_after=_frame,
    changes_frame=_changes,
)
