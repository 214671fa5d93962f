"""Droste: the picture within itself, without end."""

from __future__ import annotations

from math import log, tau

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import cosine_of, over_points, sine_of
from ...geometry.polar import log_of, turns_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number


class DrosteSettings(Settings):
    """Which ring of the picture is repeated, and whether it winds."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(1, 0.05, 4, label="Radius", unit="units", help="Outer radius of the ring that is repeated.")
    inner: float = number(
        0.25, 0.02, 0.95, label="Inner", unit="share", help="Inner radius, as a share of the outer. Each copy is smaller by this."
    )
    winding: int = number(
        1, -4, 4, label="Winding", unit="count", step=1, help="How many copies one turn leads inwards; 0 nests them in circles."
    )
    mirrored: bool = choice(
        False,
        label="Mirrored",
        help="Turns every other copy inside out, so that copies meet without an edge.",
    )
    turn: float = number(0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Turns everything, clockwise positive.")
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _droste(x, y, cx, cy, reach, depth, lean, turn, mirrored, out_x, out_y):  # type: ignore[no-untyped-def]
    per_turn = np.float32(1 / tau)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        rad = log_of(max(np.sqrt(px * px + py * py) / reach, np.float32(1e-6)))
        ang = turns_of(px, py) - turn
        ring = rad + lean * ang * np.float32(tau)
        ang = ang - lean * rad * per_turn
        if mirrored:
            # -1…0 within a copy; 0…1 within the next, which is read backwards.
            part = -abs(ring / depth - np.float32(2) * np.rint(ring / depth * np.float32(0.5)))
        else:
            part = ring / depth - np.ceil(ring / depth)
        ring = np.exp(part * depth) * reach
        out_x[i] = cx + ring * sine_of(ang)
        out_y[i] = cy - ring * cosine_of(ang)


def droste_pull(x: Array, y: Array, before: Frame, after: Frame, s: DrosteSettings) -> tuple[Array, Array]:
    """Return where points came from: a multiplication in the logarithmic plane, then the ring's own period.

    Notes
    -----
    With w = ln(rad / reach) + i·θ and L = ln(1 / inner), w becomes w·(1 - i·k), k = winding·L / τ, so that one turn leads `winding` copies
    on; the real part is then taken modulo L. Being complex, it keeps shapes. Mirrored, the period is 2·L, and its other half runs backwards.
    """
    depth = log(1 / s.inner)
    period = 2 * depth if s.mirrored else depth
    return over_points(_droste, x, y, s.x, s.y, s.reach, depth, s.winding * period / tau, s.turn, s.mirrored)


DROSTE = BendKind(
    key="droste",
    label="Droste",
    family="bend",
    purpose="Repeats the picture inside itself without end.",
    words=("recursion", "infinite", "nested", "self repeat", "endless", "log polar"),
    settings=DrosteSettings,
    handles=("centre-reach",),
    starts=(
        Start("Endless stairs", {"inner": 0.3, "winding": 1, "mirrored": True}, words=("infinite zoom", "recursive")),
        Start("Nested", {"inner": 0.4, "winding": 0, "mirrored": True}),
        Start("Two arms", {"inner": 0.5, "winding": 2, "mirrored": True}),
    ),
    pull=droste_pull,
)
