"""Posterise: few tones."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...geometry.frame import Frame
from ...kinds.kind import HardKind, Start
from ...kinds.settings import Settings, choice, number
from ...pixels.pointwise import Code, Op


class PosteriseSettings(Settings):
    """How many tones, and of what."""

    levels: int = number(4, 2, 64, label="Tones", unit="count", step=1, help="Even steps from none to full.")
    of: Literal["channels", "light"] = choice(
        "channels", label="Of", help="Of red, green and blue each; or of the light alone, colours carried along."
    )
    lines: int = number(
        1080, 0, 4320, label="Lines", unit="count", step=60, help="Of the raster whose pixels are told apart, along the shorter side; 0 for every "
        "pixel of what is delivered.",
    )  # fmt: skip


def posterise(s: PosteriseSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what rounds each channel (or the light) to the nearest of so many even steps; half way counts up."""
    yield Op(Code.POSTERISE, (s.levels - 1, float(s.of == "light")))


POSTERISE = HardKind(
    key="posterise",
    label="Posterise",
    family="finish",
    purpose="Leaves few tones of each colour.",
    words=("posterize", "flat tones", "few tones", "poster", "quantise", "banding", "cut-out look"),
    settings=PosteriseSettings,
    starts=(
        Start("Five lights", {"levels": 5, "of": "light"}),
        Start("Seven tones", {"levels": 7}),
        Start("Ten lights", {"levels": 10, "of": "light"}),
    ),
    ops=posterise,
)
