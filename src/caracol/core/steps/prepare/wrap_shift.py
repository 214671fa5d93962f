"""Wrap shift: move the picture round the back of itself."""

from __future__ import annotations

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, number


class WrapShiftSettings(Settings):
    """How far, in shares of the picture."""

    across: float = number(0, -1, 1, label="Across", unit="share", step=0.005, help="To the right positive, as a share of the width.")
    down: float = number(0, -1, 1, label="Down", unit="share", step=0.005, help="Down positive, as a share of the height.")


def wrap_shift_pull(x: Array, y: Array, before: Frame, after: Frame, s: WrapShiftSettings) -> tuple[Array, Array]:
    """Return where points came from; what leaves at one side comes in at the other."""
    u, v = before.to_shares(x, y)
    if s.across:
        u = (u - np.float32(s.across)) % 1
    if s.down:
        v = (v - np.float32(s.down)) % 1
    px, py = before.from_shares(u, v)
    return px.astype(np.float32), py.astype(np.float32)


def _wraps(s: WrapShiftSettings) -> tuple[bool, bool]:
    return s.across != 0, s.down != 0


WRAP_SHIFT = BendKind(
    key="wrap-shift",
    label="Wrap shift",
    family="prepare",
    role="rolls",
    purpose="Shifts the picture and brings what leaves on one side in on the other, so the join can be seen.",
    words=("offset", "roll", "scroll", "seam", "loop", "tile"),
    settings=WrapShiftSettings,
    handles=("shift-arrow",),
    starts=(Start("Join in the middle", {"across": 0.5}),),
    neutral={"across": 0, "down": 0},
    pull=wrap_shift_pull,
    wrap=_wraps,
)
