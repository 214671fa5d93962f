"""Crop: keep a box of the picture."""

from __future__ import annotations

from typing import Any, ClassVar

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Bond, Settings, number

SMALLEST = 0.01


class CropSettings(Settings):
    """The box, in shares of the picture."""

    left: float = number(0, 0, 1 - SMALLEST, label="Left", unit="share", step=0.005, help="Where the box begins, as a share of the width.")
    top: float = number(0, 0, 1 - SMALLEST, label="Top", unit="share", step=0.005, help="Where the box begins, as a share of the height.")
    right: float = number(1, SMALLEST, 1, label="Right", unit="share", step=0.005, help="Where the box ends, as a share of the width.")
    bottom: float = number(1, SMALLEST, 1, label="Bottom", unit="share", step=0.005, help="Where the box ends, as a share of the height.")

    bonds: ClassVar = tuple(
        Bond("order", low, high, SMALLEST, f"the box must keep at least {SMALLEST:.0%} of the width and of the height")
        for low, high in (("left", "right"), ("top", "bottom"))
    )


def crop_pull(x: Array, y: Array, before: Frame, after: Frame, s: CropSettings) -> tuple[Array, Array]:
    """Return where in the whole picture points of the cropped one lie.

    Examples
    --------
    >>> x, y = crop_pull(np.float32([0]), np.float32([0]), Frame(1), Frame(0.5), CropSettings(left=0, top=0, right=0.5, bottom=1))
    >>> float(x[0]), float(y[0])
    (-0.5, 0.0)
    """
    u, v = after.to_shares(x, y)
    px, py = before.from_shares(s.left + u * (s.right - s.left), s.top + v * (s.bottom - s.top))
    return px.astype(np.float32), py.astype(np.float32)


def cropped_frame(before: Frame, s: CropSettings) -> Frame:
    """Return the frame of the box."""
    return Frame(before.ratio * (s.right - s.left) / (s.bottom - s.top))


def _changes(s: Any) -> bool:
    return True


CROP = BendKind(
    key="crop",
    label="Crop",
    family="prepare",
    role="crops",
    purpose="Keeps a box of the picture.",
    words=("cut", "frame", "trim", "reframe", "box", "aspect"),
    settings=CropSettings,
    handles=("crop-box",),
    starts=(Start("Plain middle", {"left": 0.1, "right": 0.9}), Start("Low sky", {"top": 0.2, "bottom": 1})),
    neutral={"left": 0, "top": 0, "right": 1, "bottom": 1},
    pull=crop_pull,
    frame_after=cropped_frame,
    changes_frame=_changes,
)
