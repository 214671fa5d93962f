"""Posterise: few tones."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import HardKind, Start
from ...kinds.settings import Settings, choice, number
from ...pixels.histogram import NARROWEST, light_at
from ...pixels.pointwise import Code, Op

SPARED = 0.02
"""So much of a picture may be darker than its darkest step, or lighter than its lightest."""


class PosteriseSettings(Settings):
    """How many tones, and of what."""

    levels: int = number(5, 2, 64, label="Tones", unit="count", step=1, help="How many tones are left.")
    of: Literal["channels", "light"] = choice(
        "light", label="Of", help="Of red, green and blue each, or of the light alone, which keeps colours."
    )
    fit: bool = choice(
        False,
        label="Found in the picture",
        help="Spreads the tones between the darkest and lightest of the picture. Off: between black and white.",
    )
    lines: int = number(
        0, 0, 4320, label="Resolution", unit="count", step=60, help="Resolution of the outlines: lines along the shorter side. 0 uses every "
        "pixel of the export.",
    )  # fmt: skip


def posterise(s: PosteriseSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what rounds each channel (or the light) to the nearest of so many even steps; half way counts up."""
    dark, light = measured.get("tones", (0.0, 1.0)) if s.fit else (0.0, 1.0)
    yield Op(Code.POSTERISE, (s.levels - 1, float(s.of == "light"), dark, light))


def find_tones(picture: Array, s: PosteriseSettings) -> dict[str, Any]:
    """Return the lights between which nearly all of a picture lies."""
    dark, light = light_at(picture, SPARED), light_at(picture, 1 - SPARED)
    return {"tones": (dark, light) if light - dark > NARROWEST else (0.0, 1.0)}


FITTED = {"fit": True, "lines": 1080}

POSTERISE = HardKind(
    key="posterise",
    label="Posterise",
    family="finish",
    purpose="Leaves few tones.",
    words=("posterize", "flat tones", "few tones", "poster", "quantise", "banding", "cut-out look"),
    settings=PosteriseSettings,
    starts=(
        Start("Five lights", {**FITTED}),
        Start("Seven tones", {"levels": 7, "of": "channels", **FITTED}),
        Start("Three lights", {"levels": 3, **FITTED}),
    ),
    ops=posterise,
    measure=find_tones,
    measures=lambda s: s.fit,
)
