"""Blur: evenly soft."""

from __future__ import annotations

from typing import Any

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.light import coded_of, linear_of
from ...pixels.soften import softened


class BlurSettings(Settings):
    """How soft, and how far sideways."""

    radius: float = number(0.014, 0, 1, label="Radius", unit="units", step=0.001, help="How far it blurs.")
    across: float = number(1, 0, 1, label="Across", unit="factor", help="Share of the radius sideways; 0 blurs only up and down.")
    down: float = number(1, 0, 1, label="Down", unit="factor", help="Share of the radius up and down; 0 blurs only sideways.")


def blur(picture: Array, rows: Rows, measured: dict[str, Any], s: BlurSettings) -> Array:
    """Return the picture blurred in linear light; beyond the edge its last pixels go on."""
    sigma = s.radius * rows.cols / 2 / rows.frame.half_w
    by = sigma * s.across, sigma * s.down
    if max(by) < 0.05:
        return picture.copy()
    return coded_of(softened(linear_of(picture), *by))


BLUR = PictureKind(
    key="blur",
    label="Blur",
    family="finish",
    purpose="Makes the picture soft.",
    words=("soften", "defocus", "smooth", "gaussian", "out of focus", "haze"),
    settings=BlurSettings,
    starts=(
        Start("Soft", {}),
        Start("Out of focus", {"radius": 0.032}, words=("defocus", "bokeh", "lens blur")),
        Start("Drawn sideways", {"radius": 0.07, "down": 0.0}, words=("motion blur", "directional blur")),
    ),
    neutral={"radius": 0},
    effort=2.0,
    apply=blur,
    local=False,
)
