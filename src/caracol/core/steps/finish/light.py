"""Light: a lamp's round or a side lit, the rest in shade."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, sin, tau
from typing import Any, Literal

from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Settings, choice, number
from ...pixels.colours import Rgb, warmed
from ...pixels.pointwise import Code, Op

CODED = 1 / 2.2
"""A stop more light is this power of two for coded values, nearly."""


class LightSettings(Settings):
    """Where light falls, how much, and of what warmth."""

    form: Literal["round", "side"] = choice("round", label="Form", help="Round a place, or from one side.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Right positive. For a side: a point on its line.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Down positive.")
    turn: float = number(
        0,
        -1,
        1,
        label="Turn",
        unit="turns",
        step=0.0025,
        help="Turn of the ellipse; for a side, where light comes from, clockwise from the top.",
    )
    reach: float = number(
        0.85,
        0.02,
        6,
        label="Radius",
        unit="units",
        help="From the centre to half lit; for a side, from its line to fully lit.",
    )
    squash: float = number(
        1, 0.1, 4, label="Length", unit="factor", help="Length of the ellipse, against its width.", when={"form": ["round"]}
    )
    soft: float = number(
        0.75, 0.01, 1, label="Soft edge", unit="share", help="How much of the radius fades from light to shade.", when={"form": ["round"]}
    )
    inside: float = number(1.1, -4, 4, label="Light", unit="stop", step=0.05, help="How much lighter the lit part is, in stops.")
    outside: float = number(-0.8, -6, 4, label="Shade", unit="stop", step=0.05, help="How much lighter or darker the rest is, in stops.")
    warmth: float = number(0.15, -1, 1, label="Warmth", unit="share", help="Warmth of the light: amber or blue.")
    shade_warmth: float = number(0, -1, 1, label="Warmth of the shade", unit="share", help="Warmth outside the light.")


def _gains(stops: float, warmth: float) -> Rgb:
    red, green, blue = warmed(warmth)
    gain = 2.0 ** (stops * CODED)
    return gain * red, gain * green, gain * blue


def light(s: LightSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what lights one part of the picture and shades the rest.

    Notes
    -----
    Coded values are multiplied by 2^(stops / 2.2), the same as twice the light for each stop under a power law; where that is more than 1,
    v·g / (1 + (g - 1)·v) leads them towards white without reaching beyond it. Between lit and shaded the factors pass over smoothly.
    """
    across, along = s.reach, s.reach * (s.squash if s.form == "round" else 1)
    turned = cos(tau * s.turn), sin(tau * s.turn)
    yield Op(
        Code.LIGHT,
        (
            float(s.form == "side"),
            s.x,
            s.y,
            *turned,
            across,
            along,
            s.soft,
            *_gains(s.inside, s.warmth),
            *_gains(s.outside, s.shade_warmth),
        ),
    )


LIGHT = PixelKind(
    key="light",
    label="Light",
    family="finish",
    purpose="Lights one place or one side and leaves the rest in shade.",
    words=("vignette", "spotlight", "lamp", "dodge", "burn", "gradient filter", "sun", "dawn", "shade", "relight"),
    settings=LightSettings,
    handles=("light",),
    starts=(
        Start("Spotlight", {}, words=("spotlight", "lamp")),
        Start("Vignette", {"reach": 1.7, "soft": 0.6, "inside": 0.1, "outside": -2.2, "warmth": 0}, words=("vignette",)),
        Start(
            "Dawn from one side",
            {"form": "side", "turn": 0.19, "reach": 1.1, "inside": 0.7, "outside": -0.7, "warmth": 0.55, "shade_warmth": -0.3},
        ),
        Start("Dark but for the moon", {"x": 0.3, "y": -0.4, "reach": 0.6, "soft": 0.9, "inside": 0, "outside": -1.8, "warmth": -0.35, "shade_warmth": -0.6}),
    ),
    neutral={"inside": 0, "outside": 0, "warmth": 0, "shade_warmth": 0},
    effort=1.4,
    ops=light,
)  # fmt: skip
