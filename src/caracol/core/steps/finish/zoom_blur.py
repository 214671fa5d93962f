"""Zoom blur: smeared along rays from a centre."""

from __future__ import annotations

from typing import Literal

from ...arrays import Array
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, choice, number
from ...pixels.painting import Brush
from ...pixels.smear import smear

BEGIN = {"outwards": -1.0, "both": -0.5, "inwards": 0.0}


class ZoomBlurSettings(Settings):
    """The centre, and how far it smears."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre of the rays.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre of the rays.")
    amount: float = number(
        0.2, 0, 0.9, label="Amount", unit="share", help="How long the blur is, as a share of the distance from the centre."
    )
    way: Literal["both", "outwards", "inwards"] = choice("outwards", label="Direction", help="The direction of the blur.")


def zoom_blur(brush: Brush, under: Array, s: ZoomBlurSettings) -> Array:
    """Return a strip averaged along rays in linear light. Drawn outwards, a point shows what lies between it and the centre."""
    px, py = brush.rows.grid()
    return smear(brush.pyramid, px, py, spin=False, centre=(s.x, s.y), amount=s.amount, begin=BEGIN[s.way])


ZOOM_BLUR = PaintKind(
    key="zoom-blur",
    label="Zoom blur",
    family="finish",
    purpose="Blurs the picture along rays from a centre.",
    words=("radial blur", "motion", "speed", "burst", "rush", "rays"),
    settings=ZoomBlurSettings,
    handles=("centre",),
    starts=(
        Start("Rushing in", {}, words=("speed lines", "warp speed")),
        Start("Burst of light", {"amount": 0.36}),
        Start("Breathing", {"amount": 0.08, "way": "both"}),
    ),
    neutral={"amount": 0},
    effort=1.6,
    averages=True,
    paint=zoom_blur,
)
