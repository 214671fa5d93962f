"""Colour: hue, saturation, vividness, warmth, and grey mixed by hue."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, sin, tau
from typing import Any

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Idle, Settings, number
from ...pixels.blending import LUMA
from ...pixels.colours import warmed
from ...pixels.pointwise import Code, Op

HUES = ("red", "yellow", "green", "cyan", "blue", "magenta")
_NO_GREY: Idle = (({"grey": [0]}, "Grey mix is 0."),)


def _hue(name: str) -> Any:
    return number(
        0, -1, 1, label=f"{name.capitalize()} in grey", unit="share", step=0.01, idle=_NO_GREY, fine=True,
        help=f"How much lighter (or darker) what is {name} becomes as grey.",
    )  # fmt: skip


class ColourSettings(Settings):
    """How colours differ from the picture's own."""

    hue: float = number(0, -0.5, 0.5, label="Hue", unit="turns", step=0.0025, help="Turns every hue round the colour circle.")
    saturation: float = number(0, -1, 1, label="Saturation", unit="share", help="-100 is grey, 100 triples the colour.")
    vividness: float = number(
        0, -1, 1, label="Vividness", unit="share", help="Adds colour where there is little. Spares skin and strong colours."
    )
    warmth: float = number(0, -1, 1, label="Warmth", unit="share", help="Towards amber or blue; brightness stays.")
    grey: float = number(0, 0, 1, label="Grey mix", unit="share", help="Turns the picture grey, mixed by the hues below.")
    grey_red: float = _hue("red")
    grey_yellow: float = _hue("yellow")
    grey_green: float = _hue("green")
    grey_cyan: float = _hue("cyan")
    grey_blue: float = _hue("blue")
    grey_magenta: float = _hue("magenta")


def _turned(hue: float) -> Array:
    """Return the matrix that turns hues about grey and leaves the light: W3C, Filter Effects 1, feColorMatrix `hueRotate`."""
    r, g, b = (float(part) for part in LUMA)
    c, s = cos(tau * hue), sin(tau * hue)
    light = np.array([[r, g, b]] * 3)
    across = np.array([[1 - r, -g, -b], [-r, 1 - g, -b], [-r, -g, 1 - b]])
    # The recommendation's own third term has 0.143, 0.140 and -0.283 here, rounded from what keeps the light exactly.
    round_ = np.array([[-r, -g, 1 - b], [0, 0, 0], [-(1 - r), g, b]])
    round_[1] = -(r * round_[0] + b * round_[2]) / g
    return np.asarray(light + c * across + s * round_)


def _matrix(s: ColourSettings) -> Array:
    light = np.tile(LUMA.astype(np.float64), (3, 1))
    far = 1 + s.saturation * (2 if s.saturation > 0 else 1)
    return np.diag(warmed(s.warmth)) @ (light + far * (np.eye(3) - light)) @ _turned(s.hue)


def colour(s: ColourSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what changes colours: hue, saturation and warmth as one matrix, then vividness, then the grey mix.

    Notes
    -----
    A colour that would leave 0…1 is drawn to the grey of its light, so that no hue tips over. The grey of a colour is its light plus, for the
    pure and the mixed hue it lies between, what is set for them times how much of each it has.
    """
    if (s.hue, s.saturation, s.warmth) != (0, 0, 0):
        yield Op(Code.MATRIX, tuple(float(part) for part in _matrix(s).ravel()))
    if s.vividness:
        yield Op(Code.VIVID, (s.vividness,))
    if s.grey:
        yield Op(Code.GREY, (s.grey, *(getattr(s, f"grey_{hue}") for hue in HUES)))


COLOUR = PixelKind(
    key="colour",
    label="Colour",
    family="finish",
    purpose="Changes hue, saturation, warmth and grey.",
    words=(
        "hue", "saturation", "grey", "gray", "black and white", "monochrome", "warmth", "temperature", "vibrance", "vividness", "desaturate",
        "color", "white balance",
    ),
    settings=ColourSettings,
    starts=(
        Start("Vivid", {"vividness": 0.45}),
        Start("Grey", {"saturation": -1}, words=("black and white", "monochrome", "desaturate", "grayscale", "greyscale", "gray", "b&w")),
        Start("Grey with a dark sky", {"grey": 1, "grey_blue": -0.45, "grey_cyan": -0.35, "grey_red": 0.25, "grey_yellow": 0.2}),
        Start("Warm evening", {"warmth": 0.28, "vividness": 0.2}),
        Start("Cool morning", {"warmth": -0.4, "saturation": -0.15}),
        Start("Other side of the circle", {"hue": 0.5}, words=("complement",)),
    ),
    neutral={"hue": 0, "saturation": 0, "vividness": 0, "warmth": 0, "grey": 0},
    effort=1.2,
    ops=colour,
)  # fmt: skip
