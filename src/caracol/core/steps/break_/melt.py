"""Melt: the picture fed back into itself, round after round, displaced by its own brightness."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from math import cos, sin, tau
from typing import Literal

import numba as nb
import numpy as np
from pydantic import Field

from ...arrays import Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, choice, keys, number, photo
from ...pixels.blending import blended
from ...pixels.ordering import KEYS, Key, find_keys
from ...pixels.raster import Raster, scaled
from ...pixels.vectors import four_between, read_between

EVERY = 8
"""States are kept at every so many rounds."""
MOST_ROUNDS = 400


FeedJoin = Literal["mix", "lighten", "darken", "screen", "difference"]


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
    heading: float = number(0.5, -1, 1, label="Direction", unit="turns", step=0.0025, help="Direction of the flow, clockwise from the top.")
    push: float = number(
        0.012, -0.2, 0.2, label="Push", unit="units", step=0.0005, help="How far the brightest pixels flow in one round; below 0 backwards."
    )
    key: Key = choice("light", label="Driven by", help="What makes a pixel flow.")
    threshold: float = number(0.42, 0, 1, label="Threshold", unit="share", help="Pixels up to here stay in place.")
    hold: float = number(0.04, 0, 1, label="Hold", unit="share", step=0.002, help="How much of the original returns in every round.")
    feed: str | None = photo(label="Second picture", help="A second picture that flows in.")
    feed_from: int = number(
        30,
        1,
        MOST_ROUNDS,
        label="From round",
        idle=(({"feed": [None]}, "There is no second picture."),),
        unit="count",
        step=1,
        help="The first round in which the second picture flows in.",
    )
    feed_share: float = number(
        0.06,
        0,
        1,
        label="Amount a round",
        idle=(({"feed": [None]}, "There is no second picture."),),
        unit="share",
        step=0.005,
        help="How much of the second picture flows in each round.",
    )
    feed_join: FeedJoin = choice(
        "mix", label="Combine by", idle=(({"feed": [None]}, "There is no second picture."),), help="Mix; or only where it is lighter, where it is "
        "darker, as light on light, or as the difference.",
    )  # fmt: skip
    keys: tuple[MeltKey, ...] = keys(most=MOST_ROUNDS, label="Changes along the way", help="Settings that change at a certain round.")
    lines: int = number(
        1080, 0, 2160, label="Resolution", unit="count", step=60, help="Resolution of the effect: lines along the shorter side. Twice as many take "
        "about four times as long. 0 uses every pixel.",
    )  # fmt: skip


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
def _cubic(t):  # type: ignore[no-untyped-def]
    """Return the weights of Catmull-Rom's cubic at a share of the way from the second of four values to the third."""
    half, two, three, four, five = np.float32(0.5), np.float32(2), np.float32(3), np.float32(4), np.float32(5)
    square, cube = t * t, t * t * t
    return (
        half * (two * square - t - cube), np.float32(1) + half * (three * cube - five * square),
        half * (t + four * square - three * cube), half * (cube - square),
    )  # fmt: skip


@nb.njit(inline="always")
def _place(row, col, cols):  # type: ignore[no-untyped-def]
    return np.uintp((row * cols + col) * 4)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _round(state, start, keys, kept, shape, dx, dy, threshold, hold, first, last, out):  # type: ignore[no-untyped-def]
    """Compute rows first … last of one round; pictures are flat, `dx`, `dy` is the push of a key of 1, in pixels."""
    rows, cols = shape
    one, zero = np.float32(1), np.float32(0)
    gain = one / max(one - threshold, np.float32(1e-3))
    keeps = kept.size > 0
    for r in range(first, last):
        for c in range(cols):
            at = r * cols + c
            here = np.uintp(at * 4)
            flow = (keys[at] - threshold) * gain
            if flow > zero and keeps:
                flow *= one - kept[at]
            if flow <= zero:
                for k in range(np.uintp(4)):
                    out[here + k] = state[here + k]
            else:
                x = min(max(np.float32(c) - dx * flow, zero), np.float32(cols - 1))
                y = min(max(np.float32(r) - dy * flow, zero), np.float32(rows - 1))
                x0, y0 = int(x), int(y)
                tx, ty = x - np.float32(x0), y - np.float32(y0)
                xa, xc, xd = max(x0 - 1, 0), min(x0 + 1, cols - 1), min(x0 + 2, cols - 1)
                ya, yc, yd = max(y0 - 1, 0), min(y0 + 1, rows - 1), min(y0 + 2, rows - 1)
                # Kept between the two in the middle: fed back, an overshoot would grow.
                if dy == zero:
                    places = _place(y0, xa, cols), _place(y0, x0, cols), _place(y0, xc, cols), _place(y0, xd, cols)
                    read = read_between(state, *places, _cubic(tx))
                elif dx == zero:
                    places = _place(ya, x0, cols), _place(y0, x0, cols), _place(yc, x0, cols), _place(yd, x0, cols)
                    read = read_between(state, *places, _cubic(ty))
                else:
                    across = _cubic(tx)
                    read = four_between(
                        read_between(state, _place(ya, xa, cols), _place(ya, x0, cols), _place(ya, xc, cols), _place(ya, xd, cols), across),
                        read_between(state, _place(y0, xa, cols), _place(y0, x0, cols), _place(y0, xc, cols), _place(y0, xd, cols), across),
                        read_between(state, _place(yc, xa, cols), _place(yc, x0, cols), _place(yc, xc, cols), _place(yc, xd, cols), across),
                        read_between(state, _place(yd, xa, cols), _place(yd, x0, cols), _place(yd, xc, cols), _place(yd, xd, cols), across),
                        _cubic(ty),
                    )
                # One by one: told as a loop, the four go through memory.
                out[here], out[here + np.uintp(1)], out[here + np.uintp(2)], out[here + np.uintp(3)] = read
            if hold > zero:
                for k in range(np.uintp(4)):
                    out[here + k] += hold * (start[here + k] - out[here + k])


def _play(state: Array, start: Array, fed: Array | None, raster: Raster, s: MeltSettings, push: Push, keys: Array, out: Array) -> None:
    """Fill `out` with the state after one more round; `keys` is room to work in."""
    rows, cols = state.shape[:2]
    kept = np.empty(0, np.float32) if raster.keep is None else raster.keep.reshape(-1)
    far = raster.pixels(push.push)
    dx, dy = sin(tau * push.heading) * far, -cos(tau * push.heading) * far
    numbers = [np.float32(0 if abs(n) < 1e-6 * abs(far) else n) for n in (dx, dy)] + [np.float32(push.threshold), np.float32(push.hold)]
    flat, begun, filled = state.reshape(-1), start.reshape(-1), out.reshape(-1)

    def find(first: int, last: int) -> None:
        find_keys(state[first:last].reshape(-1, 4), KEYS.index(s.key), keys[first * cols : last * cols])

    def play(first: int, last: int) -> None:
        _round(flat, begun, keys, kept, (rows, cols), *numbers, first, last, filled)
        if fed is not None:
            here, other = out[first:last], fed[first:last]
            joined = other if s.feed_join == "mix" else blended(here, other, s.feed_join)
            here += np.float32(s.feed_share) * (joined - here)

    raster.in_parts(rows, find)
    raster.in_parts(rows, play)


def melt(picture: Array, raster: Raster, s: MeltSettings) -> Array:
    """Return the state after the last round.

    Notes
    -----
    In a round the colour at p comes from p - d·push·f(key(p)), f(k) = (k - threshold) / (1 - threshold) above the threshold, else 0, with
    d = (sin τ·heading, -cos τ·heading); then `hold` of the start is mixed back in, and `feed_share` of the picture that is fed in.
    Read by Catmull-Rom's cubic, so that it does not go soft, but never beyond the pixels on either side.
    """
    picture = np.ascontiguousarray(picture)
    held = pushes(s)
    fed = None
    if s.feed is not None and s.rounds >= s.feed_from:
        source = raster.photo(s.feed)
        fed = _covering(source.picture(max(picture.shape[:2]) * 2), *picture.shape[:2])

    def key_of(number: int) -> object:
        fed_so = (s.feed, s.feed_from, s.feed_share, s.feed_join) if s.feed is not None and number >= s.feed_from else None
        begun = (s.heading, s.push, s.threshold, s.hold)
        return "state", s.key, begun, tuple(key for key in s.keys if key.round <= number), number, fed_so

    def melted(state: Array, begun: int, number: int) -> Array:
        """Return the state after round `number`, from that after round `begun`."""
        keys = np.empty(state.size // 4, np.float32)
        # What is written into by turns: fresh memory for every round would cost more than the round.
        spare = [np.empty_like(state), np.empty_like(state)]
        for one in range(begun, number):
            raster.come(one / s.rounds)
            _play(state, picture, fed if one + 1 >= s.feed_from else None, raster, s, held[one], keys, spare[one % 2])
            state = spare[one % 2]
        return state

    last = (s.rounds - 1) // EVERY * EVERY
    begun, state = 0, picture
    # The nearest state that still holds: any of the last few rounds, where the melt is played on, or one that is kept.
    for near in [*range(s.rounds - 1, last, -1), *range(last, 0, -EVERY)]:
        there = raster.recall(key_of(near))
        if there is not None:
            begun, state = near, there
            break
    for kept in [*range(begun // EVERY * EVERY + EVERY, s.rounds, EVERY), s.rounds]:
        state = raster.remember(key_of(kept), partial(melted, state, begun, kept))
        begun = kept
    return state


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
    purpose="Feeds the picture back into itself, so that it flows.",
    words=("feedback", "drip", "liquid", "flow", "dissolve", "smear"),
    settings=MeltSettings,
    handles=("melt-way",),
    starts=(
        Start("Slow melt", {"threshold": 0.3, "push": 0.016, "hold": 0.09}),
        Start("Long dark drip", {"rounds": 150, "push": 0.014, "threshold": 0.4, "hold": 0}),
        Start("Drifting light", {"heading": 0.25, "rounds": 80, "push": 0.01, "threshold": 0.3, "hold": 0.02}),
        Start("Rising colour", {"heading": 0, "key": "saturation", "rounds": 70, "push": 0.014, "threshold": 0.3, "hold": 0}),
    ),
    neutral={"rounds": 0},
    respects_keep=True,
    draft=220_000,
    turns=lambda settings: float(settings.rounds),
    effort=0.35,
    work=melt,
)
