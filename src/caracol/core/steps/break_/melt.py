"""Melt: the picture fed back into itself, round after round, displaced by its own brightness."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, sin, tau
from typing import Any

import numba as nb
import numpy as np
from pydantic import Field

from ...arrays import Array
from ...kinds import RasterKind, Start
from ...ordering import KEYS, Key, find_keys
from ...raster import Raster, scaled
from ...settings import Settings, choice, keys, number, photo

EVERY = 8
"""States are kept at every so many rounds."""
MOST_ROUNDS = 400


class MeltKey(Settings):
    """What the hand set at a round, holding from there on; what is left out goes on as it was."""

    round: int = Field(ge=1, le=MOST_ROUNDS)
    heading: float | None = Field(None, ge=-1, le=1)
    push: float | None = Field(None, ge=-0.2, le=0.2)
    threshold: float | None = Field(None, ge=0, le=1)
    hold: float | None = Field(None, ge=0, le=1)


class MeltSettings(Settings):
    """How many rounds, which way, how far, what flows, and what stays."""

    rounds: int = number(60, 0, MOST_ROUNDS, label="Rounds", unit="count", step=1, help="How often the picture is fed back.")
    heading: float = number(0.5, -1, 1, label="Heading", unit="turns", step=0.0025, help="Where it flows, clockwise from the top.")
    push: float = number(
        0.008, -0.2, 0.2, label="Push", unit="units", step=0.0005, help="How far the brightest flows in one round; below 0 backwards."
    )
    key: Key = choice("light", label="Flows by", help="What makes a place flow.")
    threshold: float = number(0.35, 0, 1, label="Threshold", unit="share", help="Places whose key is no higher stay.")
    hold: float = number(0, 0, 1, label="Hold", unit="share", step=0.002, help="How much of the start comes back in every round.")
    feed: str | None = photo(label="Fed in", help="A second picture that is fed in as it goes on.")
    feed_from: int = number(
        30, 1, MOST_ROUNDS, label="Fed in from round", unit="count", step=1, help="The first round in which it is fed in."
    )
    feed_share: float = number(0.06, 0, 1, label="Fed-in share", unit="share", step=0.005, help="How much of it comes in every round.")
    keys: tuple[MeltKey, ...] = keys(most=MOST_ROUNDS, label="Set while it ran", help="Settings that hold from a round on.")
    lines: int = number(
        720, 0, 2160, label="Lines", unit="count", step=60, help="Of the working raster along the shorter side; 0 for every pixel."
    )


@dataclass(frozen=True)
class Push:
    """What holds in one round."""

    heading: float
    push: float
    threshold: float
    hold: float


def pushes(s: MeltSettings) -> list[Push]:
    """Return what holds in each round, the first at index 0."""
    now = Push(s.heading, s.push, s.threshold, s.hold)
    by_round = {key.round: key for key in s.keys}
    out = []
    for n in range(1, s.rounds + 1):
        if n in by_round:
            set_now = by_round[n].model_dump(exclude={"round"}, exclude_none=True)
            now = Push(**{**now.__dict__, **set_now})
        out.append(now)
    return out


@nb.njit(inline="always")
def _weights(t):  # type: ignore[no-untyped-def]
    half, one = np.float32(0.5), np.float32(1)
    return (
        ((-half * t + one) * t - half) * t,
        (np.float32(1.5) * t - np.float32(2.5)) * t * t + one,
        ((np.float32(-1.5) * t + np.float32(2)) * t + half) * t,
        (half * t - half) * t * t,
    )


@nb.njit(nogil=True, fastmath=True, cache=True)
def _round(state, start, keys, kept, dx, dy, threshold, hold, first, last, out):  # type: ignore[no-untyped-def]
    """Compute rows first … last of one round; `dx`, `dy` is the push of a key of 1, in pixels."""
    rows, cols, _ = state.shape
    one, zero = np.float32(1), np.float32(0)
    gain = one / max(one - threshold, np.float32(1e-3))
    level = dy == zero
    for r in range(first, last):
        for c in range(cols):
            flow = (keys[r, c] - threshold) * gain
            if flow > zero and kept.size:
                flow *= one - kept[r, c]
            if flow > zero:
                x, y = np.float32(c) - dx * flow, np.float32(r) - dy * flow
                x = min(max(x, zero), np.float32(cols - 1))
                y = min(max(y, zero), np.float32(rows - 1))
                x0, y0 = int(x), int(y)
                wx = _weights(x - np.float32(x0))
                wy = (zero, one, zero, zero) if level else _weights(y - np.float32(y0))
                t0, t1, t2, t3 = zero, zero, zero, zero
                for j in range(4):
                    if wy[j] == zero:
                        continue
                    row = min(max(y0 + j - 1, 0), rows - 1)
                    for i in range(4):
                        if wx[i] == zero:
                            continue
                        col = min(max(x0 + i - 1, 0), cols - 1)
                        w = wx[i] * wy[j]
                        t0 += w * state[row, col, 0]
                        t1 += w * state[row, col, 1]
                        t2 += w * state[row, col, 2]
                        t3 += w * state[row, col, 3]
                t3 = min(max(t3, zero), one)
                t0, t1, t2 = min(max(t0, zero), t3), min(max(t1, zero), t3), min(max(t2, zero), t3)
            else:
                t0, t1, t2, t3 = state[r, c, 0], state[r, c, 1], state[r, c, 2], state[r, c, 3]
            if hold > zero:
                t0 += hold * (start[r, c, 0] - t0)
                t1 += hold * (start[r, c, 1] - t1)
                t2 += hold * (start[r, c, 2] - t2)
                t3 += hold * (start[r, c, 3] - t3)
            out[r, c, 0], out[r, c, 1], out[r, c, 2], out[r, c, 3] = t0, t1, t2, t3


def _played(state: Array, start: Array, fed: Array | None, raster: Raster, key: Key, push: Push, share: float) -> Array:
    """Return the state after one more round."""
    rows, cols = state.shape[:2]
    keys, out = np.empty((rows, cols), np.float32), np.empty_like(state)
    kept = np.empty((0, 0), np.float32) if raster.keep is None else raster.keep
    far = raster.pixels(push.push)
    dx, dy = sin(tau * push.heading) * far, -cos(tau * push.heading) * far
    numbers = [np.float32(0 if abs(n) < 1e-6 * abs(far) else n) for n in (dx, dy)] + [np.float32(push.threshold), np.float32(push.hold)]

    def find(first: int, last: int) -> None:
        find_keys(state[first:last].reshape(-1, 4), KEYS.index(key), keys[first:last].reshape(-1))

    def play(first: int, last: int) -> None:
        _round(state, start, keys, kept, *numbers, first, last, out)
        if fed is not None:
            out[first:last] += np.float32(share) * (fed[first:last] - out[first:last])

    raster.in_parts(rows, find)
    raster.in_parts(rows, play)
    return out


def melt(picture: Array, raster: Raster, **settings: Any) -> Array:
    """Return the state after the last round.

    Notes
    -----
    In a round the colour at p comes from p - d·push·f(key(p)), f(k) = (k - threshold) / (1 - threshold) above the threshold, else 0, with
    d = (sin τ·heading, -cos τ·heading); then `hold` of the start is mixed back in, and `feed_share` of the picture that is fed in.
    Read by Catmull-Rom's cubic, so that it does not go soft.
    """
    s = MeltSettings(**settings)
    held = pushes(s)
    fed = None
    if s.feed is not None and s.rounds >= s.feed_from:
        source = raster.photo(s.feed)
        fed = _covering(source.picture(max(picture.shape[:2]) * 2), *picture.shape[:2])

    def after(number: int) -> Array:
        """Return the state after a round that is kept."""
        if number <= 0:
            return picture
        fed_so = (s.feed, s.feed_from, s.feed_share) if s.feed is not None and number >= s.feed_from else None
        return raster.remember(("state", s.key, held[:number], fed_so), lambda: run(number))

    def run(number: int) -> Array:
        begun = (number - 1) // EVERY * EVERY
        state = after(begun)
        for one in range(begun, number):
            raster.check()
            state = _played(state, picture, fed if one + 1 >= s.feed_from else None, raster, s.key, held[one], s.feed_share)
        return state

    # From the first state on, so that no more than one round of them waits for another.
    for kept in range(EVERY, s.rounds, EVERY):
        after(kept)
    return after(s.rounds)


def _covering(picture: Array, rows: int, cols: int) -> Array:
    """Return the middle of a picture so that it covers (rows, cols)."""
    high, wide = picture.shape[:2]
    scale = max(rows / high, cols / wide)
    part_rows, part_cols = min(high, round(rows / scale)), min(wide, round(cols / scale))
    top, left = (high - part_rows) // 2, (wide - part_cols) // 2
    return scaled(np.ascontiguousarray(picture[top : top + part_rows, left : left + part_cols]), rows, cols)


MELT = RasterKind(
    key="melt",
    label="Melt",
    family="break",
    purpose="Feeds the picture back and lets its light flow.",
    settings=MeltSettings,
    handles=("melt-way",),
    starts=(
        Start("Slow melt", {}),
        Start("Long drip", {"rounds": 160, "push": 0.012, "threshold": 0.45}),
        Start("Drifting light", {"heading": 0.25, "rounds": 80, "push": 0.01, "threshold": 0.3, "hold": 0.02}),
        Start("Rising colour", {"heading": 0, "key": "saturation", "rounds": 70, "push": 0.014, "threshold": 0.3}),
    ),
    neutral={"rounds": 0},
    keeps=True,
    work=melt,
)
