"""What drawn sources share: a frame of their own, and a colour for every point."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar

import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from ..geometry.rows import Rows
from ..kinds.settings import Settings, number
from ..pixels.colours import rgb_of

COLOUR_HELP = "One of its colours."


def ratio_setting() -> Any:
    """Declare the ratio of a drawn source."""
    return number(1.5, 0.1, 10, label="Ratio", unit="ratio", step=0.05, help="Width divided by height.")


def rgb(code: str) -> Array:
    """Return `#rrggbb` as coded values 0…1, shape (3,).

    Parameters
    ----------
    code : str
        `#rrggbb`.

    Returns
    -------
    float32 array (3,)
    """
    return np.array(rgb_of(code), np.float32)


def coloured(share: Array, *colours: Array) -> Array:
    """Return opaque colours for shares 0…1 of the way through two or more colours, (rows, cols, 4).

    Parameters
    ----------
    share : float32 array (rows, cols)
        0…1.
    *colours : float32 array (3,)
        Coded.

    Returns
    -------
    float32 array (rows, cols, 4)
        Opaque.
    """
    places = np.linspace(0, 1, len(colours))
    out = np.ones((*share.shape, 4), np.float32)
    for k in range(3):
        out[..., k] = np.interp(share, places, [c[k] for c in colours])
    return out


class DrawnSource(Settings):
    """A picture drawn at whatever size is asked for.

    Subclasses have the fields `kind` and `ratio`, `paint`, and `looks`: named settings to begin with.
    """

    label: ClassVar[str]
    purpose: ClassVar[str]
    looks: ClassVar[tuple[tuple[str, Mapping[str, Any]], ...]] = ()

    @property
    def frame(self) -> Frame:
        """The frame it is drawn in."""
        return Frame(self.ratio)  # type: ignore[attr-defined]

    def prepare(self, rows: Rows) -> Any:
        """Return what all strips of the picture share, with `nbytes`; None where they share nothing. `rows` are all rows."""
        return None

    def paint(self, rows: Rows, prepared: Any = None) -> Array:
        """Return a strip of the picture, sRGB-coded premultiplied (count, cols, 4). Edges are one pixel soft."""
        raise NotImplementedError
