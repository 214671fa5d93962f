"""Close seam: make left and right edge meet without a step, before bending."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, choice, number

TONE_ROWS = 64
"""Along the join, tone is compared in this many places."""


class CloseSeamSettings(Settings):
    """What is done at the join."""

    level_off: bool = choice(
        True, label="Level off", help="Matches the height of the horizon and the tone of both edges, spread over the whole width."
    )
    crossfade: bool = choice(True, label="Crossfade", help="Lets each side fade into the mirror image of the other across the join.")
    width: float = number(
        0.06,
        0.002,
        0.5,
        label="Width",
        idle=(({"crossfade": [False]}, "Crossfade is off."),),
        unit="share",
        step=0.005,
        help="How far the crossfade reaches on each side, as a share of the width.",
    )


def _strips(picture: Array) -> tuple[Array, Array]:
    """Return the colour along the left and along the right edge, (rows, 3), averaged over a narrow strip."""
    wide = max(1, round(picture.shape[1] * 0.01))
    return picture[:, :wide, :3].mean(axis=1), picture[:, -wide:, :3].mean(axis=1)


def _shifted(column: Array, rows: float) -> Array:
    """Move a column of values down by a fraction of rows, repeating its ends."""
    at = np.clip(np.arange(len(column)) - rows, 0, len(column) - 1)
    low = np.floor(at).astype(int)
    part = (at - low)[:, None].astype(np.float32)
    return column[low] * (1 - part) + column[np.minimum(low + 1, len(column) - 1)] * part


def measure_join(picture: Array, s: CloseSeamSettings) -> dict[str, Any]:
    """Find how the two edges differ.

    Returns
    -------
    dict
        `drop`: how much lower the right edge's picture lies than the left's, as a share of the height (-0.08 … 0.08). `tone`: right
        minus left in `TONE_ROWS` places from top to bottom, after that drop is taken away.
    """
    left, right = _strips(picture)
    rows = len(left)
    reach = max(1, int(rows * 0.08))
    trim = slice(reach, rows - reach)

    def misfit(drop: float) -> float:
        a, b = _shifted(left, drop / 2)[trim], _shifted(right, -drop / 2)[trim]
        return float(np.abs((a - a.mean(0)) - (b - b.mean(0))).mean())

    tries = np.arange(-reach, reach + 1)
    costs = np.array([misfit(float(t)) for t in tries])
    best = int(costs.argmin())
    # Edges with nothing to hold on to (plain sky) keep their height: a drop must be clearly better than none.
    drop = float(tries[best]) if costs[best] < 0.8 * costs[reach] else 0.0
    if drop and 0 < best < len(tries) - 1:
        a, b, c = costs[best - 1 : best + 2]
        drop += 0.5 * (a - c) / max(a - 2 * b + c, 1e-9)
    difference = _shifted(right, -drop / 2) - _shifted(left, drop / 2)
    smooth = cv2.GaussianBlur(difference, (1, 0), sigmaX=1, sigmaY=rows / TONE_ROWS) if rows > TONE_ROWS else difference
    places = (np.arange(TONE_ROWS) + 0.5) / TONE_ROWS * rows - 0.5
    tone = np.stack([np.interp(places, np.arange(rows), smooth[:, k]) for k in range(3)], axis=1)
    return {"drop": float(drop / rows), "tone": tone}


def _levelled(picture: Array, drop: float, tone: Array) -> Array:
    rows, cols = picture.shape[:2]
    u = (np.arange(cols, dtype=np.float32) + 0.5) / cols - 0.5
    out = picture
    if drop:
        col = np.broadcast_to(np.arange(cols, dtype=np.float32), (rows, cols))
        row = np.arange(rows, dtype=np.float32)[:, None] + np.float32(drop * rows) * u
        out = cv2.remap(out, np.ascontiguousarray(col), np.ascontiguousarray(row), cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    places = (np.arange(rows) + 0.5) / rows * TONE_ROWS - 0.5
    change = np.stack([np.interp(places, np.arange(TONE_ROWS), tone[:, k]) for k in range(3)], axis=1).astype(np.float32)
    colour = np.clip(out[..., :3] - change[:, None] * u[:, None] * out[..., 3:], 0, np.clip(out[..., 3:], 0, 1))
    return np.concatenate([colour, out[..., 3:]], axis=-1)


def close_seam(picture: Array, rows: Rows, measured: dict[str, Any], s: CloseSeamSettings) -> Array:
    """Return the picture with its left and right edge matched.

    Notes
    -----
    Level off: the difference of the edges is taken away by a ramp from -½ at the left to ½ at the right, first in height, then in tone.
    Crossfade: at distance d from the join, each side is mixed with the mirror image of the other by ½·(1 - smoothstep(d / width)), so that
    both agree at the join and nothing further away than `width` changes.
    """
    out = _levelled(picture, measured["drop"], measured["tone"]) if s.level_off else picture.copy()
    if not s.crossfade:
        return out
    cols = out.shape[1]
    band = min(max(1, round(s.width * cols)), cols // 2)
    if not band:
        return out
    d = (np.arange(band, dtype=np.float32) + 0.5) / band
    weight = (0.5 * (1 - d * d * (3 - 2 * d)))[None, :, None]
    left, right = out[:, :band].copy(), out[:, cols - band :][:, ::-1].copy()
    out[:, :band] = left + (right - left) * weight
    out[:, cols - band :] = (right + (left - right) * weight)[:, ::-1]
    return out


CLOSE_SEAM = PictureKind(
    key="close-seam",
    label="Close seam",
    family="mend",
    purpose="Makes the left and the right edge meet without a step.",
    words=("join", "stitch", "edge blend", "panorama", "loop", "hairline"),
    settings=CloseSeamSettings,
    handles=("seam-band",),
    starts=(Start("Gentle", {"width": 0.03}), Start("Wide", {"width": 0.15})),
    neutral={"level_off": False, "crossfade": False},
    effort=2.5,
    apply=close_seam,
    local=False,
    measure=measure_join,
    measure_size=1024,
)
