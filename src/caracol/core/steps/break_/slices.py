"""Slices: bars of the picture moved aside; drawn from a seed, then kept one by one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from pydantic import Field

from ...arrays import Array
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, bars, number
from ...kinds.settings import seed as any_draw
from ...pixels.blending import LUMA
from ...pixels.draws import draw, spread
from ...pixels.painting import Brush, lay_over

LOOK = 512
TRIES = 24
"""Places that a bar may choose among when it leans to an edge."""


class Bar(Settings):
    """A bar: where it was cut out (shares of the height and width), and where it went (+ down, + right); later bars lie on top."""

    top: float = Field(ge=-1, le=2)
    height: float = Field(gt=0, le=1)
    drop: float = Field(0, ge=-1, le=1)
    left: float = Field(0, ge=-1, le=2)
    width: float = Field(1, gt=0, le=1)
    shift: float = Field(0, ge=-2, le=2)
    stretch: float = Field(1, ge=0.1, le=10, description="How much wider it is drawn, about its own middle.")
    locked: bool = Field(False, description="Stays when the others are drawn again.")


class SlicesSettings(Settings):
    """How bars are drawn; or the bars themselves."""

    bars: tuple[Bar, ...] | None = bars(most=400, label="Bars", help="The bars one by one. Empty: random, from the settings below.")
    thin: int = number(22, 0, 150, label="Thin bars", unit="count", step=1, help="How many thin bars there are.")
    wide: int = number(4, 0, 30, label="Wide bars", unit="count", step=1, help="How many wide bars there are, below the thin ones.")
    least: float = number(
        0.004,
        0.001,
        0.2,
        label="Thinnest",
        idle=(({"thin": [0]}, "There are no thin bars."),),
        unit="share",
        step=0.001,
        help="As a share of the height.",
    )
    most: float = number(
        0.03, 0.001, 0.5, label="Thickest", unit="share", step=0.001, help="As a share of the height; wide bars up to five times this."
    )
    shift: float = number(0.08, 0, 1, label="Shift", unit="share", help="The largest shift sideways, as a share of the width.")
    short: float = number(0.3, 0, 1, label="Short pieces", unit="share", help="The share of bars that do not cross the whole width.")
    uneven: float = number(0.8, 0, 1, label="Unevenness", unit="share", help="0 spreads bars evenly, 100 % crowds them at random.")
    lean: float = number(0.3, 0, 1, label="Lean to edges", unit="share", help="How much bars follow hard level edges of the picture.")
    seed: int = any_draw()


def edge_profile(picture: Array) -> Array:
    """Return how hard the level edges are along each row of a look, 0…1 (rows,); of rows, the one before and the one after.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    float32 array (rows,)
    """
    luma = picture[..., :3] @ LUMA
    steps = np.abs(np.diff(luma, axis=0, prepend=luma[:1])).mean(axis=1)
    return np.asarray(steps / max(float(steps.max()), 1e-6), np.float32)


def draw_bars(settings: SlicesSettings, profile: Array, kept: Sequence[Bar] = ()) -> list[Bar]:
    """Draw bars from the seed; those `kept` stay, and so many fewer are drawn of the thin or the wide ones.

    Parameters
    ----------
    profile : float32 array (rows,)
        As from `edge_profile`.
    """
    # Locked bars count for the set they are of, and lie on top in their own order.
    wide = sum(bar.height > settings.most for bar in kept)
    left = {"wide": max(0, settings.wide - wide), "thin": max(0, settings.thin - (len(kept) - wide))}
    out: list[Bar] = []
    for kind, (name, count) in enumerate(left.items()):
        out += [_draw_one(settings, profile, (kind, n), count, wide=name == "wide") for n in range(count)]
    return [*out, *kept]


def _draw_one(s: SlicesSettings, profile: Array, place: tuple[int, int], count: int, wide: bool) -> Bar:
    def d(n: int) -> float:
        return draw(s.seed, *place, n)

    least, most = (s.most, min(1.0, 5 * s.most)) if wide else (s.least, max(s.least, s.most))
    height = least * (most / least) ** (0.5 + s.uneven * (d(0) - 0.5))
    even = (place[1] + 0.5) / count
    crowd = draw(s.seed, 9, int(d(1) * 5), place[0])
    chance = crowd + 0.14 * (d(2) + d(3) - 1) if d(4) < 0.55 else d(5)
    top = (even + s.uneven * (chance - even)) % 1 - height / 2
    if s.lean:
        tries = [(top + s.lean * 0.25 * spread(s.seed, *place, 20 + n)) for n in range(TRIES)]
        scores = [_at(profile, t) for t in tries]
        best = tries[int(np.argmax(scores))]
        top = best if d(6) < s.lean else top
    shift = s.shift * (0.15 + 0.85 * d(7) ** 1.6) * (1 if d(8) < 0.5 else -1) * (0.6 if wide else 1)
    short = d(9) < s.short
    width = 0.08 + 0.45 * d(10) if short else 1.0
    left = d(11) * (1 - width) if short else 0.0
    return Bar(top=round(top, 5), height=round(min(height, 1), 5), left=round(left, 5), width=round(width, 5), shift=round(shift, 5))


def _at(profile: Array, top: float) -> float:
    row = min(max(round(top * len(profile)), 0), len(profile) - 1)
    return float(profile[max(0, row - 1) : row + 2].max())


def measure(picture: Array, s: SlicesSettings) -> dict[str, Any]:
    """Return the bars of these settings on this picture, and what they leaned to."""
    profile = edge_profile(picture)
    return {"bars": draw_bars(s, profile) if s.bars is None else list(s.bars), "profile": profile}


def _cover(at: Array, low: float, high: float, pixel: float) -> Array:
    """Return how far points (one axis, units) lie inside low … high, one pixel soft."""
    return np.clip(np.minimum(at - np.float32(low), np.float32(high) - at) / np.float32(pixel) + np.float32(0.5), 0, 1)


def slices(brush: Brush, under: Array, s: SlicesSettings) -> Array:
    """Return a strip with all bars laid over it, in order.

    Notes
    -----
    Output point p shows the input at p - (shift, drop), where that lies in the bar; with `stretch`, points are drawn out about the bar's
    middle first. In keep areas shift, drop and stretch count for so much less.
    """
    frame = brush.rows.frame
    wide, high = 2 * frame.half_w, 2 * frame.half_h
    pixel = wide / brush.rows.cols
    out = under.copy()
    for bar in brush.measured["bars"]:
        x0, y0 = (bar.left - 0.5) * wide, (bar.top - 0.5) * high
        x1, y1 = x0 + bar.width * wide, y0 + bar.height * high
        dx, dy = bar.shift * wide, bar.drop * high
        middle, half = (x0 + x1) / 2, (x1 - x0) / 2 * bar.stretch
        # Where much is kept a bar lies nearer to where it was cut out: both places and all between may show it.
        low = (min(middle - half + dx, x0), min(y0 + dy, y0)) if brush.keep is not None else (middle - half + dx, y0 + dy)
        top = (max(middle + half + dx, x1), max(y1 + dy, y1)) if brush.keep is not None else (middle + half + dx, y1 + dy)
        box = brush.box(low[0] - pixel, top[0] + pixel, low[1] - pixel, top[1] + pixel)
        if box.is_empty:
            continue

        def rule(
            x: Array, y: Array, dx: float = dx, dy: float = dy, middle: float = middle, stretch: float = bar.stretch
        ) -> tuple[Array, Array]:
            moved = x - np.float32(dx)
            return moved if stretch == 1 else np.float32(middle) + (moved - np.float32(middle)) / np.float32(stretch), y - np.float32(dy)

        eased = brush.easing(rule)
        x, y = brush.grid(box)
        px, py = eased(x, y)
        soft = pixel / bar.stretch
        across = np.ones_like(px) if bar.left <= 0 and bar.width >= 1 and bar.stretch == 1 and dx == 0 else _cover(px, x0, x1, soft)
        cover = across * _cover(py, y0, y1, pixel)
        lay_over(out, box, brush.read(eased, box), cover)
    return out


def _work(s: SlicesSettings) -> float:
    """Return how often the whole frame is painted, all bars together; each costs something however thin."""
    if s.bars is not None:
        return 0.5 + sum(0.06 + min(1.0, bar.height * bar.width * bar.stretch) for bar in s.bars)
    return 0.5 + s.wide * (0.06 + 3 * s.most) + s.thin * (0.06 + s.most)


SLICES = PaintKind(
    key="slices",
    label="Slices",
    family="break",
    purpose="Cuts the picture into bars and moves them aside.",
    words=("glitch", "bars", "strips", "tear", "blocks", "cut", "shift"),
    settings=SlicesSettings,
    handles=("bars",),
    starts=(
        Start("Torn slices", {}, words=("glitch", "tear")),
        Start("Thin slips", {"thin": 70, "wide": 0, "least": 0.003, "most": 0.012, "shift": 0.14}),
        Start("Wide blocks", {"thin": 6, "wide": 10, "most": 0.04, "shift": 0.28, "short": 0.5}),
        Start("Loose pieces", {"thin": 40, "wide": 3, "short": 1, "shift": 0.2, "most": 0.02}),
    ),
    measure=measure,
    measure_size=LOOK,
    decides=True,
    respects_keep=True,
    effort=0.6,
    paint=slices,
    turns=_work,
)
