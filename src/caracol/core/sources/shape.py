"""Shape: a filled ellipse, polygon, star or drawn outline on an empty ground.

References
----------
Distances to polygons by their edges, inside told by crossings (even-odd rule).
"""

from __future__ import annotations

from math import cos, sin, tau
from typing import Annotated, Any, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.settings import choice, colour, number, pairs
from .drawn import COLOUR_HELP, DrawnSource, ratio_setting, rgb

REACH = 4.0
POINTED = ["polygon", "star"]
UPRIGHT = ["ellipse", "polygon", "star"]
Place = Annotated[float, Field(ge=-REACH, le=REACH)]
FINE = 8
"""A pixel's edge is found by this many readings each way."""


class ShapeSource(DrawnSource):
    """One filled shape."""

    label: ClassVar[str] = "Shape"
    purpose: ClassVar[str] = "A filled ellipse, polygon, star or outline, on transparency."
    looks: ClassVar = (
        ("Star", {}),
        ("Disc", {"form": "ellipse", "colour": "#d8b24a"}),
        ("Hexagon", {"form": "polygon", "corners": 6, "colour": "#3f6f73"}),
    )

    kind: Literal["shape"] = "shape"
    form: Literal["ellipse", "polygon", "star", "outline"] = choice("star", label="Form", help="What is drawn.")
    colour: str = colour("#e8613f", label="Colour", help=COLOUR_HELP)
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Its middle, right positive.", when={"form": list(UPRIGHT)})
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Its middle, down positive.", when={"form": list(UPRIGHT)})
    width: float = number(0.8, 0.01, 4, label="Half width", unit="units", help="From the middle to the side.", when={"form": list(UPRIGHT)})
    height: float = number(
        0.8, 0.01, 4, label="Half height", unit="units", help="From the middle to the top.", when={"form": list(UPRIGHT)}
    )
    corners: int = number(
        5, 3, 24, label="Corners", unit="count", step=1, help="Of the polygon, or points of the star.", when={"form": list(POINTED)}
    )
    inner: float = number(
        0.45, 0.05, 0.98, label="Inner", unit="share", help="How deep the notches of a star are.", when={"form": ["star"]}
    )
    turn: float = number(0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Clockwise positive.", when={"form": list(UPRIGHT)})
    outline: tuple[tuple[Place, Place], ...] = pairs(
        ((0.0, -0.8), (0.8, 0.5), (-0.8, 0.5)), label="Outline", kind="outline", least=3, most=200, reach=REACH,
        help="Its corners in order.", when={"form": ["outline"]},
    )  # fmt: skip
    ratio: float = ratio_setting()

    def _points(self) -> Array:
        if self.form == "outline":
            return np.array(self.outline, np.float64)
        count = 720 if self.form == "ellipse" else self.corners * (2 if self.form == "star" else 1)
        ang = np.arange(count) / count * tau
        size = np.where(np.arange(count) % 2 == 1, self.inner, 1.0) if self.form == "star" else np.ones(count)
        points = np.stack([np.sin(ang) * size * self.width, -np.cos(ang) * size * self.height], axis=1)
        c, s = cos(tau * self.turn), sin(tau * self.turn)
        return points @ np.array([[c, s], [-s, c]]) + (self.x, self.y)

    def paint(self, rows: Rows, prepared: Any = None) -> Array:
        count = rows.rows - rows.top if rows.count is None else rows.count
        u, v = rows.frame.to_shares(*self._points().T)
        # Drawn several times as fine and averaged, so that a pixel's cover is known.
        at = np.stack([u * rows.cols, v * rows.rows - rows.top], axis=1) * FINE - 0.5
        fine = np.zeros((count * FINE, rows.cols * FINE), np.uint8)
        cv2.fillPoly(fine, [np.round(at * 16).astype(np.int32)], 255, lineType=cv2.LINE_8, shift=4)
        cover = cv2.resize(fine, (rows.cols, count), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
        return np.concatenate([rgb(self.colour) * cover[..., None], cover[..., None]], axis=-1)
