"""Sharpen: edges clearer, without haloes."""

from __future__ import annotations

from math import ceil
from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.blending import LUMA

WEIGHTS = np.array([[*LUMA, 0]], np.float32)
LEAST = 0.3
"""Below so many pixels of radius there is nothing to sharpen."""


class SharpenSettings(Settings):
    """How much, how wide, and what is left alone."""

    amount: float = number(1.4, 0, 4, label="Amount", unit="factor", step=0.05, help="How much detail is strengthened.")
    radius: float = number(0.006, 0.0005, 0.2, label="Radius", unit="units", step=0.0005, help="How wide the detail is.")
    threshold: float = number(
        0.012, 0, 0.3, label="Threshold", unit="share", step=0.002, help="Leaves smaller differences alone, such as grain."
    )
    halo: float = number(0, 0, 1, label="Halo", unit="share", help="How bright or dark a halo at an edge may be; 0 allows none.")  # fmt: skip


def sharpen(picture: Array, rows: Rows, measured: dict[str, Any], s: SharpenSettings) -> Array:
    """Return the picture with differences of light from its own blur made larger.

    Notes
    -----
    Unsharp masking of the light alone, so that colours get no fringes: light + amount·(light - blurred light), the difference less the
    threshold. Then it is brought back to between the darkest and lightest light within two radii; `halo` lets it go beyond by that share.
    """
    sigma = s.radius * rows.cols / 2 / rows.frame.half_w
    if sigma < LEAST or s.amount == 0:
        return picture.copy()
    light = cv2.transform(np.ascontiguousarray(picture), WEIGHTS)
    fine = light - cv2.GaussianBlur(light, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE)
    # A radius of less than a pixel comes in by degrees, so that sizes agree.
    share = np.float32(s.amount * min(1.0, (sigma - LEAST) / (1 - LEAST)))
    sharp = light + share * np.sign(fine) * np.maximum(np.abs(fine) - np.float32(s.threshold), 0)
    if s.halo < 1:
        near = np.ones((2 * ceil(2 * sigma) + 1,) * 2, np.uint8)
        low, high = (work(light, near, borderType=cv2.BORDER_REPLICATE) for work in (cv2.erode, cv2.dilate))
        held = np.clip(sharp, low, high)
        sharp = held + np.float32(s.halo) * (sharp - held)
    more = np.asarray(sharp - light, np.float32)
    out = picture + cv2.merge([more, more, more, np.zeros_like(more)])
    np.maximum(out, 0, out=out)
    return np.minimum(out, picture[..., 3:], out=out)


SHARPEN = PictureKind(
    key="sharpen",
    label="Sharpen",
    family="finish",
    purpose="Makes edges clearer, without haloes.",
    words=("unsharp", "clarity", "crisp", "detail", "definition", "local contrast", "focus"),
    settings=SharpenSettings,
    starts=(
        Start("Crisp", {}, words=("unsharp mask", "unsharp")),
        Start("Fine", {"radius": 0.004, "amount": 3.5, "halo": 0.35}),
        Start("Clear shapes", {"radius": 0.06, "amount": 0.45, "threshold": 0, "halo": 0.6}, words=("clarity",)),
    ),
    neutral={"amount": 0},
    effort=2.5,
    apply=sharpen,
    local=False,
)
