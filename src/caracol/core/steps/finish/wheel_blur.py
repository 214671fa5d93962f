"""Wheel blur: smeared along circles round a centre."""

from __future__ import annotations

from ...arrays import Array
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, number
from ...pixels.painting import Brush
from ...pixels.smear import smear


class WheelBlurSettings(Settings):
    """The centre, and how far it smears."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre of the circles.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre of the circles.")
    turns: float = number(0.03, 0, 0.5, label="Turn", unit="turns", step=0.0025, help="How far each point is blurred round the centre.")


def wheel_blur(brush: Brush, under: Array, s: WheelBlurSettings) -> Array:
    """Return a strip averaged along arcs in linear light."""
    px, py = brush.rows.grid()
    return smear(brush.pyramid, px, py, spin=True, centre=(s.x, s.y), amount=s.turns, begin=-0.5)


WHEEL_BLUR = PaintKind(
    key="wheel-blur",
    label="Wheel blur",
    family="finish",
    purpose="Blurs the picture round a centre.",
    words=("radial blur", "rotation", "motion", "whirl", "circular", "spinning"),
    settings=WheelBlurSettings,
    handles=("centre",),
    starts=(Start("Slow wheel", {}, words=("spin blur", "rotational blur")), Start("Fast wheel", {"turns": 0.08})),
    neutral={"turns": 0},
    effort=1.7,
    averages=True,
    paint=wheel_blur,
)
