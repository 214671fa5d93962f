"""Fill: one colour, or two along a line or round a centre."""

from __future__ import annotations

from math import cos, sin, tau
from typing import Any, ClassVar, Literal

import numpy as np

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.settings import choice, colour, number
from .drawn import COLOUR_HELP, DrawnSource, coloured, ratio_setting, rgb

GRADIENTS = ["linear", "radial"]


class FillSource(DrawnSource):
    """A plain colour or a gradient."""

    label: ClassVar[str] = "Fill"
    purpose: ClassVar[str] = "One colour, or a gradient of two."
    looks: ClassVar = (
        ("Dusk", {}),
        ("Glow", {"form": "radial", "first": "#f6e3b4", "second": "#7a2f3a", "reach": 1.3}),
        ("Night", {"form": "plain", "first": "#0d1018"}),
    )

    kind: Literal["fill"] = "fill"
    form: Literal["plain", "linear", "radial"] = choice(
        "linear", label="Form", help="One colour, a gradient along a direction, or one round a centre."
    )
    first: str = colour("#10233f", label="First", help=COLOUR_HELP)
    second: str = colour("#f0b27a", label="Second", help=COLOUR_HELP, when={"form": list(GRADIENTS)})
    x: float = number(
        0, -4, 4, label="Centre x", unit="units", help="Middle of the gradient, right positive.", when={"form": list(GRADIENTS)}
    )
    y: float = number(
        0, -4, 4, label="Centre y", unit="units", help="Middle of the gradient, down positive.", when={"form": list(GRADIENTS)}
    )
    heading: float = number(
        0.5,
        -1,
        1,
        label="Direction",
        unit="turns",
        step=0.0025,
        help="Where the second colour lies, clockwise from the top.",
        when={"form": ["linear"]},
    )
    reach: float = number(
        1, 0.05, 4, label="Radius", unit="units", help="From the middle to the full second colour.", when={"form": list(GRADIENTS)}
    )
    ratio: float = ratio_setting()

    def paint(self, rows: Rows, prepared: Any = None) -> Array:
        x, y = rows.grid()
        if self.form == "plain":
            return coloured(np.zeros(x.shape, np.float32), rgb(self.first), rgb(self.first))
        x, y = x - self.x, y - self.y
        if self.form == "radial":
            return coloured(np.hypot(x, y) / self.reach, rgb(self.first), rgb(self.second))
        along = x * sin(tau * self.heading) - y * cos(tau * self.heading)
        return coloured((along / self.reach + 1) / 2, rgb(self.first), rgb(self.second))
