"""Ripple: waves round a centre."""

from __future__ import annotations

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import FORMS, over_points, wave_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number
from .wave import Form


class RippleSettings(Settings):
    """Centre, reach and what the ripples are like."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(1.2, 0.02, 6, label="Radius", unit="units", help="Radius at which the ripples have died away.")
    length: float = number(0.2, 0.005, 4, label="Length", unit="units", step=0.005, help="From crest to crest.")
    height: float = number(0.05, 0, 1, label="Height", unit="units", step=0.005, help="How far a crest pushes outwards.")
    form: Form = choice("round", label="Form", help="Round is a sine, pointed a triangle, stepped a square.")
    phase: float = number(
        0, -1, 1, label="Phase", unit="turns", step=0.0025, help="Moves the ripples outwards, as a share of their length."
    )
    edge: Edge = choice("beyond", label="Outside", help=EDGE_HELP)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _ripple(x, y, cx, cy, reach, length, height, phase, form, out_x, out_y):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for i in range(x.size):
        px, py = x[i] - cx, y[i] - cy
        rad = max(np.sqrt(px * px + py * py), np.float32(1e-6))
        q = min(rad / reach, one)
        fade = one - q * q * (np.float32(3) - np.float32(2) * q)
        k = one - height * fade * wave_of(form, rad / length - phase) / rad
        out_x[i] = cx + px * k
        out_y[i] = cy + py * k


def ripple_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: RippleSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: the radius becomes rad - height·(1 - smoothstep(rad / reach))·f(rad / length - phase)."""
    return over_points(_ripple, x, y, s.x, s.y, s.reach, s.length, s.height, s.phase, FORMS.index(s.form))


RIPPLE = BendKind(
    key="ripple",
    label="Ripple",
    family="bend",
    purpose="Bends the picture in rings round a centre.",
    words=("water", "drop", "pond", "concentric", "wave", "circles"),
    settings=RippleSettings,
    handles=("centre-reach",),
    starts=(
        Start("Drop", {"reach": 1.9}),
        Start("Fine rings", {"length": 0.09, "height": 0.025, "reach": 2.2}),
        Start("Broken rings", {"form": "stepped", "height": 0.09, "reach": 1.9}),
    ),
    neutral={"height": 0},
    respects_keep=True,
    pull=ripple_pull,
)
