"""Ring: the flat picture wrapped round a centre (planet, well, tunnel, globe)."""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, pi, tau
from typing import Any, Literal, TypeVar

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...geometry.polar import log_of, turns_of
from ...kinds.kind import BendKind, Earlier, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, number

SPREADS = ("even", "shape", "depth", "globe")
Spread = Literal["even", "shape", "depth", "globe"]
SMALLEST_HOLE = 0.01
SPREAD_HELP = "How the height is spread outwards: even; true to shape; as the depth of a tunnel; or as a full sphere, for 360° photos."


class RingSettings(Settings):
    """Where the ring lies and how the picture is spread over it."""

    inside: Literal["bottom", "top"] = choice(
        "bottom", label="In the middle", help="Ground in the middle makes a planet, sky in the middle a sky well."
    )
    spread: Spread = choice("even", label="Spread", help=SPREAD_HELP)
    hole: float | None = auto_number(
        0, 3, [{"when": {"spread": "depth"}, "value": 0.1}, {"value": 0}], label="Hole", unit="units", when={"spread": ["even", "depth"]},
        help="Radius at which the picture begins. True to shape and full sphere set it themselves.",
    )  # fmt: skip
    reach: float = number(
        1, 0.05, 4, label="Size", unit="units", help="Radius at which the picture ends (full sphere: where the horizon lies)."
    )
    seam: float | None = auto_number(
        -1, 1, [{"when": {"inside": "top"}, "value": 0}, {"value": 0.5}], label="Seam", unit="turns", step=0.0025,
        help="Where the left and right edge meet. Turning it turns the ring.",
    )  # fmt: skip
    fold: float = number(
        0, 0, 1, label="Fill the middle", unit="share",
        help="How far the inner edge is mirrored into the hole. 0 leaves the hole to Outside.",
        idle=(({"spread": ["even"], "hole": [0]}, "There is no hole to fill: Hole is 0."),),
    )  # fmt: skip
    amount: float = number(1, 0, 1, label="Bend", unit="share", help="0 is flat, 100 % is a full ring.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    ratio: float = number(1, 0.2, 5, label="Frame", unit="ratio", help="Width divided by height of the new frame.", fine=True)
    edge: Edge = choice("stretch", label="Outside", help=EDGE_HELP)


Left = TypeVar("Left", bound=Settings)


def left_to_ring(settings: Left, earlier: Earlier, names: tuple[str, ...]) -> Left:
    """Return settings of a step with those of its `x`, `y` and `ray` that it leaves open taken from the last ring before it: its centre, its seam."""
    ring = next((found for kind, found, _ in reversed(earlier) if kind == "ring"), None)
    if ring is None:
        return settings
    known = {"x": ring.x, "y": ring.y, "ray": auto_value(ring, "seam")}
    return settings.model_copy(update={name: known[name] for name in names if getattr(settings, name) is None})


@dataclass(frozen=True)
class Round:
    """What the last ring before a step leaves round itself, in units: where its middle is, how far it reaches, how far its hole."""

    x: float
    y: float
    reach: float
    hole: float


def ring_before(earlier: Earlier) -> Round | None:
    """Return what the last ring before a step leaves; None where there is none.

    A ring that keeps shapes has a hole of reach·exp(-τ / ratio), where its first or last row comes to lie (docs/coordinates.md).
    """
    found = next(((settings, frame) for kind, settings, frame in reversed(earlier) if kind == "ring"), None)
    if found is None:
        return None
    ring, frame = found
    holes = {"shape": ring.reach * exp(-tau / frame.ratio), "globe": 0.0}
    return Round(ring.x, ring.y, ring.reach, holes[ring.spread] if ring.spread in holes else auto_value(ring, "hole"))


@nb.njit(nogil=True, fastmath=True, cache=True)
def _ring(x, y, cx, cy, spread, bottom, hole, reach, seam, rho, fold, amount, flat, half_w, half_h, out_x, out_y):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    log_reach = np.log(reach)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        rad = max(np.sqrt(px * px + py * py), np.float32(1e-7))
        ang = turns_of(px, py)
        if spread == 0:
            t = (rad - hole) / (reach - hole)
        elif spread == 1:
            t = one + rho * (log_of(rad) - log_reach) * np.float32(1 / tau)
        elif spread == 2:
            t = (one / hole - one / rad) / (one / hole - one / reach)
        else:
            t = np.arctan(rad / reach) * np.float32(2 / pi)
        if fold > 0 and t < 0:
            t = t / (two * fold)
            t = abs(t - np.floor(t + np.float32(0.5))) * two * fold
        u = ang - seam if bottom else seam - ang
        u = u - np.floor(u)
        v = one - t if bottom else t
        sx, sy = (two * u - one) * half_w, (two * v - one) * half_h
        if amount < one:
            sx = x[i] * flat + (sx - x[i] * flat) * amount
            sy = y[i] * flat + (sy - y[i] * flat) * amount
        out_x[i] = sx
        out_y[i] = sy


def ring_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: RingSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where in the flat picture points of the ring lie.

    Notes
    -----
    With `rad`, `ang` about the centre: inside bottom v = 1 - t, u = (ang - seam) mod 1; inside top v = t, u = (seam - ang) mod 1; t by
    spread as in docs/coordinates.md. A `fold` mirrors t below 0 to and fro between 0 and fold. The `shape` spread is the complex logarithm and so keeps angles; `globe` is the stereographic
    projection.
    """
    whole, turn = auto_value(s, "hole"), auto_value(s, "seam")
    whole = min(max(whole, SMALLEST_HOLE if s.spread == "depth" else 0), s.reach - SMALLEST_HOLE / 2)
    flat = max(before.half_w / after.half_w, before.half_h / after.half_h)
    numbers = (whole, s.reach, turn, before.ratio, s.fold, s.amount, flat, before.half_w, before.half_h)
    return over_points(_ring, x, y, s.x, s.y, SPREADS.index(s.spread), s.inside == "bottom", *numbers)


def _frame(before: Frame, s: RingSettings) -> Frame:
    return Frame(s.ratio)


def _changes(s: Any) -> bool:
    return True


def _wraps(s: RingSettings) -> tuple[bool, bool]:
    return True, s.edge == "tile"


RING = BendKind(
    key="ring",
    label="Ring",
    family="bend",
    role="winds",
    purpose="Wraps the picture round a centre.",
    words=("polar", "tiny planet", "little planet", "stereographic", "wrap", "tunnel", "globe"),
    settings=RingSettings,
    handles=("ring",),
    starts=(
        Start(
            "Planet",
            {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.06},
            words=("tiny planet", "little planet", "polar coordinates", "stereographic", "polar"),
        ),
        Start("Even planet", {"inside": "bottom", "spread": "even"}),
        Start("Sky well", {"inside": "top", "spread": "even", "hole": 0, "reach": 1.15}, words=("inverted planet", "rabbit hole")),
        Start("Tunnel", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42}, words=("tunnel",)),
    ),
    pull=ring_pull,
    frame_after=_frame,
    changes_frame=_changes,
    wrap=_wraps,
)
