"""Tone: black, white, middle tones, brightness, contrast."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Any

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Settings, number
from ...pixels.histogram import auto_tone, tones_of
from ...pixels.pointwise import Code, Op
from ...pixels.tables import even_values


class ToneSettings(Settings):
    """The picture's range of light."""

    black: float = number(0, 0, 0.9, label="Black", unit="share", step=0.005, help="Darker tones become black.")
    white: float = number(1, 0.1, 1, label="White", unit="share", step=0.005, help="Lighter tones become white.")
    gamma: float = number(1, 0.2, 5, label="Gamma", unit="factor", help="Above 1 lightens the middle tones, below 1 darkens them.")
    brightness: float = number(0, -1, 1, label="Brightness", unit="share", help="Makes everything lighter or darker.")
    contrast: float = number(0, -1, 1, label="Contrast", unit="share", help="Spreads tones away from middle grey, or towards it.")


@lru_cache(maxsize=64)
def _table(black: float, white: float, gamma: float, brightness: float, contrast: float) -> Array:
    value = even_values()
    value = np.clip((value - black) / max(white - black, 0.005), 0, 1) ** (1 / gamma)
    slope = 1 + contrast if contrast < 0 else 1 / max(1 - contrast, 0.01)
    value = np.clip((value - 0.5) * slope + 0.5 + brightness, 0, 1).astype(np.float32)
    return np.stack([value] * 3)


def tone(s: ToneSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what maps the coded values, alpha untouched.

    Notes
    -----
    In order: (value - black) / (white - black), clipped; to the power 1 / gamma; spread about ½ by 1 + contrast (negative) or
    1 / (1 - contrast) (positive, at most 100); brightness added; clipped.
    """
    yield Op(Code.TABLE, table=_table(s.black, s.white, s.gamma, s.brightness, s.contrast))


def survey_tone(picture: Array, settings: Any) -> dict[str, Any]:
    """Return the histogram of the step's input, and the settings that would spread its tones from black to white."""
    return {"histogram": tones_of(picture), "auto": auto_tone(picture)}


TONE = PixelKind(
    key="tone",
    label="Tone",
    family="finish",
    purpose="Sets black, white, middle tones and contrast.",
    words=("levels", "brightness", "contrast", "exposure", "gamma", "lighten", "darken", "haze", "histogram", "clipping"),
    settings=ToneSettings,
    starts=(
        Start("Clearer", {"black": 0.035, "white": 0.965, "contrast": 0.15}),
        Start("Dark night", {"gamma": 0.65, "contrast": 0.1}, words=("night",)),
        Start("Light haze", {"contrast": -0.25, "brightness": 0.02}),
    ),
    neutral={"black": 0, "white": 1, "gamma": 1, "brightness": 0, "contrast": 0},
    ops=tone,
    survey=survey_tone,
)
