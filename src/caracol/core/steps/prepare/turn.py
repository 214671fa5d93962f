"""Turn: by any angle, by quarters, and over."""

from __future__ import annotations

from math import cos, sin, tau

import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number


class TurnSettings(Settings):
    """How far, and whether turned over."""

    angle: float = number(0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Clockwise positive; the frame stays.")
    quarters: int = number(0, 0, 3, label="Quarter turns", unit="count", step=1, help="Clockwise; the frame turns with the picture.")
    flip_x: bool = choice(False, label="Flip left to right", help="Flips first, then turns.")
    flip_y: bool = choice(False, label="Flip top to bottom", help="Flips first, then turns.")
    edge: Edge = choice("beyond", label="Outside", idle=(({"angle": [0]}, "Nothing comes from outside while Turn is 0."),), help=EDGE_HELP)


def turn_pull(x: Array, y: Array, before: Frame, after: Frame, s: TurnSettings) -> tuple[Array, Array]:
    """Return where points came from before the turn.

    Examples
    --------
    >>> x, y = turn_pull(np.float32([0]), np.float32([-1]), Frame(1), Frame(1), TurnSettings(angle=0.25))
    >>> round(float(x[0]), 6), round(float(y[0]), 6)  # what now stands at the top came from the left
    (-1.0, -0.0)
    """
    whole = tau * (s.angle + s.quarters / 4)
    cosine, sine = np.float32(cos(whole)), np.float32(sin(whole))
    px, py = x * cosine + y * sine, y * cosine - x * sine
    return (-px if s.flip_x else px), (-py if s.flip_y else py)


def turned_frame(before: Frame, s: TurnSettings) -> Frame:
    """Return the frame, on its side after an odd number of quarter turns."""
    return Frame(1 / before.ratio) if s.quarters % 2 else before


def _changes(s: TurnSettings) -> bool:
    return s.quarters != 0


TURN = BendKind(
    key="turn",
    label="Turn",
    family="prepare",
    purpose="Turns or flips the picture.",
    words=("rotate", "flip", "mirror", "upside down", "quarter turn", "orientation"),
    settings=TurnSettings,
    handles=("turn-arc",),
    starts=(
        Start("Upside down", {"angle": 0.5}, words=("flip vertical", "rotate 180")),
        Start("Left to right", {"flip_x": True}, words=("flip", "mirror", "flip horizontal")),
        Start("On its side", {"quarters": 1}, words=("rotate 90", "quarter turn")),
    ),
    neutral={"angle": 0, "quarters": 0, "flip_x": False, "flip_y": False},
    pull=turn_pull,
    frame_after=turned_frame,
    changes_frame=_changes,
    changes_frame_by="quarters",
)
