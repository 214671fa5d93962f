"""How visible a photo's join would be, and how far that can be helped."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..pixels.closing import Way, find_closing
from ..pixels.joining import usual_steps

WIDTH = 0.08
"""How far from the join anything would change, as a share of the width: what a new step has."""


@dataclass(frozen=True)
class Seam:
    """The join of left and right edge.

    Parameters
    ----------
    before, after : float
        Seam visibility without and with the least visible way of closing it; 1 is like everywhere in the photo.
    method : str
        That way.
    """

    before: float
    after: float
    method: Way


def seam_of(picture: Array) -> Seam:
    """Return how visible the join of a picture is.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    Seam
    """
    band = min(max(1, round(WIDTH * picture.shape[1])), picture.shape[1] // 2)
    strip = np.concatenate([picture[:, picture.shape[1] - band :], picture[:, :band]], axis=1)
    usual = usual_steps(picture)
    found = find_closing(strip, usual)
    return Seam(round(found.before, 2), round(found.after, 2), found.way)
