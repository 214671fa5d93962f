"""Twirl: turned more the nearer to the centre."""

from __future__ import annotations

from typing import Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import cosine_of, over_points, sine_of
from ...geometry.polar import log_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number

FALLS = ("soft", "even", "log")


class TwirlSettings(Settings):
    """Centre, reach and how far it turns."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(1, 0.02, 6, label="Radius", unit="units", help="Radius within which it turns. Log has no end.")
    turns: float = number(
        0.35, -6, 6, label="Turns", unit="revolutions", step=0.005, help="How far the centre is turned, clockwise positive."
    )
    fall: Literal["soft", "even", "log"] = choice(
        "soft",
        label="Fall-off",
        help="Soft fades out towards the radius. Even turns everything inside alike. Log turns without end, inwards and outwards.",
    )
    edge: Edge = choice("beyond", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _twirl(x, y, cx, cy, reach, turns, fall, out_x, out_y):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        q = np.sqrt(px * px + py * py) / reach
        if fall == 0:
            part = max(one - q, np.float32(0))
            share = part * part
        elif fall == 1:
            share = one if q < one else np.float32(0)
        else:
            share = -log_of(max(q, np.float32(1e-6)))
        turn = turns * share
        c, s = cosine_of(turn), sine_of(turn)
        out_x[i] = cx + px * c + py * s
        out_y[i] = cy + py * c - px * s


def twirl_pull(x: Array, y: Array, before: Frame, after: Frame, s: TwirlSettings) -> tuple[Array, Array]:
    """Return where points came from: the colour at angle `ang` comes from ang - turns·f(rad / reach).

    Notes
    -----
    soft: f(q) = (1 - q)² for q < 1, else 0; even: 1 inside, 0 outside; log: -ln q.
    """
    return over_points(_twirl, x, y, s.x, s.y, s.reach, s.turns, FALLS.index(s.fall))


TWIRL = BendKind(
    key="twirl",
    label="Twirl",
    family="bend",
    role="twirls",
    purpose="Twists the picture round a centre.",
    words=("swirl", "whirl", "whirlpool", "vortex", "spiral", "twist", "rotate"),
    settings=TwirlSettings,
    handles=("twirl-arc", "centre-reach"),
    starts=(
        Start("Soft twirl", {"turns": 0.35, "reach": 1.5}),
        Start("Deep twirl", {"turns": 2.2, "reach": 1.9}, words=("whirlpool", "swirl", "vortex")),
        Start("Endless twirl", {"turns": 0.2, "reach": 1.4, "fall": "log"}),
    ),
    neutral={"turns": 0},
    pull=twirl_pull,
)
