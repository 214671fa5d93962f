"""Threshold: two tones and nothing between."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import HardKind, Start
from ...kinds.settings import Settings, auto_number, colour, number
from ...pixels.colours import rgb_of
from ...pixels.histogram import light_at, tones_of
from ...pixels.pointwise import Code, Op


class ThresholdSettings(Settings):
    """Where light begins, how sharply, and the two colours."""

    level: float | None = auto_number(
        0,
        1,
        [{"value": 0.5}],
        label="Level",
        unit="share",
        step=0.005,
        help="Everything from this brightness becomes light. Automatic: found in the picture.",
    )
    light_share: float = number(
        0.5,
        0.02,
        0.98,
        label="Light part",
        unit="share",
        help="How much of the picture becomes light, while the level is automatic.",
    )
    soft: float = number(0, 0, 0.5, label="Soft", unit="share", step=0.005, help="How soft the change from dark to light is.")
    dark: str = colour("#000000", label="Dark", help="Colour below the level.")
    light: str = colour("#ffffff", label="Light", help="Colour from the level on.")
    lines: int = number(
        0, 0, 4320, label="Resolution", unit="count", step=60, help="Resolution of the outlines: lines along the shorter side. 0 uses every "
        "pixel of the export.",
    )  # fmt: skip


def threshold(s: ThresholdSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what makes two tones: light where the key light is the level or more."""
    level = measured.get("level", 0.5) if s.level is None else s.level
    yield Op(Code.THRESHOLD, (level, s.soft / 2, *rgb_of(s.dark), *rgb_of(s.light)))


def find_level(picture: Array, s: ThresholdSettings) -> dict[str, Any]:
    """Return the level that leaves so much of a picture light as is asked for."""
    return {"level": light_at(picture, 1 - s.light_share)}


def survey_threshold(picture: Array, settings: Any) -> dict[str, Any]:
    """Return the histogram of the step's input, and what leaves half of it light."""
    histogram = tones_of(picture)
    return {"histogram": histogram, "auto": {"level": None, "light_share": 0.5}}


THRESHOLD = HardKind(
    key="threshold",
    label="Threshold",
    family="finish",
    purpose="Leaves two tones.",
    words=("black and white", "bitmap", "stencil", "one bit", "two tones", "linocut", "photocopy"),
    settings=ThresholdSettings,
    starts=(
        Start("Dark stencil", {"light_share": 0.42, "soft": 0.02, "lines": 1080}, words=("bitmap", "stencil", "1 bit")),
        Start("Light stencil", {"light_share": 0.62, "soft": 0.02, "lines": 1080}),
        Start("Light print, ink on paper", {"light_share": 0.55, "soft": 0.06, "lines": 1080, "dark": "#1c2440", "light": "#f3e7cf"}),
    ),
    ops=threshold,
    measure=find_level,
    measures=lambda s: s.level is None,
    tell=lambda found, s: dict(found),
    survey=survey_threshold,
)
