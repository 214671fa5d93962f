"""Trim: ragged rims left by shifts, cropped away or filled."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ...arrays import AnyArray, Array
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number

MOST = 0.35
"""No more than this share of a side is taken for a rim."""
STREAK = 0.12
"""A channel that varies less than this share of what it does further in is a streak …"""
DRAWN_OUT = 0.0006
"""… where it hardly varies at all: a plain sky has its gradient and its grain, a drawn-out row has neither …"""
ALIKE = 0.00003
"""… and all channels together only where rows are one and the same: a cloudless sky comes near."""


class TrimSettings(Settings):
    """What becomes of a ragged rim, and how much more is taken."""

    by: Literal["crop", "fill"] = choice("crop", label="Method", help="Enlarge the clean part to the frame, or mirror it over the edge.")
    more: float = number(0.004, 0, 0.2, label="A little more", unit="share", step=0.002, help="Trims a little more than was found.")


def _depth(across: AnyArray, full: AnyArray) -> int:
    """Return how many rows from the first on are ragged: see-through, or a channel drawn out along them.

    Parameters
    ----------
    across : float array (rows, cols, 4)
        The picture seen from one side, the rim first.
    full : bool array (4,)
        Which channels say anything: those that vary at all further in.
    """
    count = len(across)
    steps = np.abs(np.diff(across, axis=0)).mean(axis=1)
    usual = np.median(steps[count // 4 :], axis=0)
    seen = across[..., 3].mean(axis=1)
    inner = np.median(seen[count // 4 :])
    ragged = np.zeros(count, bool)
    streaks = ((steps < STREAK * usual) & (steps < DRAWN_OUT) & full)[:, :3]
    together = streaks.sum(axis=1) == full[:3].sum()
    ragged[:-1] = streaks.any(axis=1) & (~together | (steps[:, :3].max(axis=1) < ALIKE))
    ragged |= seen < inner - 0.02
    most = int(count * MOST)
    clean = np.flatnonzero(~ragged[: most + 1])
    return int(clean[0]) if len(clean) else 0


def find_rims(picture: Array) -> Array:
    """Return how much of the left, top, right and bottom is a ragged rim, as shares of the sides, (1, 4).

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.

    Returns
    -------
    float32 array (1, 4)
    """
    rows, cols = picture.shape[:2]
    full = picture.reshape(-1, 4).std(axis=0) > 0.01
    upright, level = picture, picture.transpose(1, 0, 2)
    found = [_depth(level, full) / cols, _depth(upright, full) / rows, _depth(level[::-1], full) / cols, _depth(upright[::-1], full) / rows]
    return np.array([found], np.float32)


def clean_box(rims: Array, more: float, frame: Frame) -> tuple[float, float, float, float]:
    """Return left, top, right and bottom of the clean part, in units; where a rim was found, a little more is taken."""
    left, top, right, bottom = (float(r) + more if r > 0 else 0.0 for r in rims[0])
    return (2 * left - 1) * frame.half_w, (2 * top - 1) * frame.half_h, (1 - 2 * right) * frame.half_w, (1 - 2 * bottom) * frame.half_h


def trim_pull(x: Array, y: Array, before: Frame, after: Frame, s: TrimSettings, guide: Array) -> tuple[Array, Array]:
    """Return where points come from: the largest part of the clean box that has the frame's ratio, or points mirrored into the box."""
    x0, y0, x1, y1 = (np.float32(v) for v in clean_box(guide, s.more, before))
    if s.by == "fill":
        return _mirrored(x, x0, x1), _mirrored(y, y0, y1)
    scale = min((x1 - x0) / np.float32(2 * before.half_w), (y1 - y0) / np.float32(2 * before.half_h))
    half_w, half_h = np.float32(before.half_w) * scale, np.float32(before.half_h) * scale
    cx = np.clip(np.float32(0), x0 + half_w, x1 - half_w)
    cy = np.clip(np.float32(0), y0 + half_h, y1 - half_h)
    return (cx + x * scale).astype(np.float32), (cy + y * scale).astype(np.float32)


def _mirrored(at: Array, low: np.float32, high: np.float32) -> Array:
    return np.asarray(np.where(at < low, 2 * low - at, np.where(at > high, 2 * high - at, at)), np.float32)


TRIM = BendKind(
    key="trim",
    label="Trim",
    family="mend",
    purpose="Crops or fills the ragged edge that shifts leave.",
    words=("ragged edge", "border", "crop", "fill", "tidy"),
    settings=TrimSettings,
    starts=(Start("Trim the rim", {}), Start("Fill the rim", {"by": "fill"})),
    pull=trim_pull,
    guide=find_rims,
)
