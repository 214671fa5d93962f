"""Keep areas: parts of a photo whose features must stay recognisable, and how much of them is kept anywhere on a picture."""

from __future__ import annotations

import cv2
import numpy as np
from pydantic import Field

from ..arrays import Array
from ..geometry.frame import Frame
from ..kinds.settings import Settings, number
from ..pixels.masks import SIZE
from .where import Where

SOFT = 0.04
"""How softly every keep area ends at least, in units: the deviation of a Gaussian."""


class KeepArea(Settings):
    """A region of a photo, in the photo's units, and how much is kept there: 1 moves nothing, 0.5 half as far as elsewhere."""

    name: str = Field("", max_length=200)
    weight: float = number(1, 0, 1, label="Protection", unit="share", help="100 % moves nothing here, 50 % moves half as far as elsewhere.")
    where: Where


def keep_mask(areas: tuple[KeepArea, ...], frame: Frame, picture: Array | None) -> Array:
    """Return how much is kept, 0…1, (rows, cols), with `SIZE` pixels on the longer side; of overlapping areas the stronger counts.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4), optional
        The photo with `SIZE` pixels on its longer side, for areas that are ranges of light or hue.
    """
    rows, cols = frame.pixels(SIZE)
    total = np.zeros((rows, cols), np.float32)
    for area in areas:
        cover = area.where.mask(frame, rows, cols, picture=picture if area.where.looks_at_picture else None)
        total = np.maximum(total, cover * np.float32(area.weight))
    return np.asarray(cv2.GaussianBlur(total, (0, 0), SOFT * cols / 2 / frame.half_w, borderType=cv2.BORDER_REPLICATE))
