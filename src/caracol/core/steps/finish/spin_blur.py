"""Spin blur: smeared along circles round a centre."""

from __future__ import annotations

from ...arrays import Array
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, number
from ...pixels.painting import Brush
from ...pixels.smear import smear


class SpinBlurSettings(Settings):
    """The centre, and how far it smears."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Of the circles.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Of the circles.")
    turns: float = number(
        0.03, 0, 0.5, label="Turn", unit="turns", step=0.0025, help="How far round each point is smeared, half of it either way."
    )


def spin_blur(brush: Brush, under: Array, s: SpinBlurSettings) -> Array:
    """Return a strip averaged along arcs in linear light."""
    px, py = brush.rows.grid()
    return smear(brush.pyramid, px, py, spin=True, centre=(s.x, s.y), amount=s.turns, begin=-0.5)


SPIN_BLUR = PaintKind(
    key="spin-blur",
    label="Spin blur",
    family="finish",
    purpose="Smears the picture round a centre.",
    settings=SpinBlurSettings,
    handles=("centre",),
    starts=(Start("Turning", {}), Start("Whirling", {"turns": 0.14})),
    neutral={"turns": 0},
    effort=1.7,
    averages=True,
    paint=spin_blur,
)
