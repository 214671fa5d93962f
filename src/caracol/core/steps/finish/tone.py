"""Tone: black and white points, gamma, brightness, contrast."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.tables import even_values, map_through


class ToneSettings(Settings):
    """The picture's range of light."""

    black: float = number(0, 0, 0.9, label="Black", unit="share", step=0.005, help="Values up to here become black.")
    white: float = number(1, 0.1, 1, label="White", unit="share", step=0.005, help="Values from here on become white.")
    gamma: float = number(1, 0.2, 5, label="Gamma", unit="factor", help="Above 1 lightens the middle tones, below 1 darkens them.")
    brightness: float = number(0, -1, 1, label="Brightness", unit="share", help="Added to every value.")
    contrast: float = number(
        0, -1, 1, label="Contrast", unit="share", help="Spreads the values away from the middle grey, or draws them to it."
    )


@lru_cache(maxsize=64)
def _table(black: float, white: float, gamma: float, brightness: float, contrast: float) -> Array:
    value = even_values()
    value = np.clip((value - black) / max(white - black, 0.005), 0, 1) ** (1 / gamma)
    slope = 1 + contrast if contrast < 0 else 1 / max(1 - contrast, 0.01)
    value = np.clip((value - 0.5) * slope + 0.5 + brightness, 0, 1).astype(np.float32)
    return np.stack([value] * 3)


def tone(picture: Array, rows: Rows, measured: dict[str, float], s: ToneSettings) -> Array:
    """Return the picture with its coded values mapped, alpha untouched.

    Notes
    -----
    In order: (value - black) / (white - black), clipped; to the power 1 / gamma; spread about ½ by 1 + contrast (negative) or
    1 / (1 - contrast) (positive, at most 100); brightness added; clipped.
    """
    return map_through(picture, _table(s.black, s.white, s.gamma, s.brightness, s.contrast))


TONE = PictureKind(
    key="tone",
    label="Tone",
    family="finish",
    purpose="Sets black, white, middle tones and contrast.",
    words=("levels", "brightness", "contrast", "exposure", "gamma", "lighten", "darken", "haze"),
    settings=ToneSettings,
    starts=(
        Start("Clearer", {"black": 0.04, "white": 0.94, "contrast": 0.12}),
        Start("Night", {"gamma": 0.65, "contrast": 0.1}),
        Start("Haze", {"contrast": -0.25, "brightness": 0.08}),
    ),
    neutral={"black": 0, "white": 1, "gamma": 1, "brightness": 0, "contrast": 0},
    apply=tone,
)
