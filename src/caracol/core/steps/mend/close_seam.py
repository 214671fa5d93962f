"""Close seam: make left and right edge meet unseen, before bending or along a ray of the finished ring."""

from __future__ import annotations

from math import ceil, hypot, tau
from typing import Annotated, Any, Literal

import cv2
import numpy as np
from pydantic import Field

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import Earlier, PictureKind, Start
from ...kinds.settings import Settings, auto_number, auto_value, choice, number, pairs
from ...pixels.closing import PLACES, UNSEEN, Closing, find_closing, seen_of, step_visibility
from ...pixels.joining import DIMMEST, levelled, slow_difference, usual_steps
from ...pixels.strokes import shown_at
from ..bend.ring import left_to_ring

Share = Annotated[float, Field(ge=0, le=1)]
Bands = Annotated[float, Field(ge=-1, le=1)]


class CloseSeamSettings(Settings):
    """What is done at the join."""

    method: Literal["auto", "cut", "blend", "crossfade", "none"] = choice(
        "auto",
        label="Method",
        help="Auto tries all methods and uses the least visible. Cut: along the least visible path. Blend: evens out tones across the "
        "join. Crossfade: fades one side into the other.",
    )
    level_off: bool = choice(
        True,
        label="Level off",
        help="Lines up horizons that do not meet, and evens out tones where both edges show the same surface.",
    )
    width: float = number(0.08, 0.002, 0.5, label="Width", unit="share", step=0.005, help="How far from the join the picture changes.")
    along: Literal["edges", "ray"] = choice(
        "edges", label="Along", help="The left and right edge of the picture, or a ray of a finished ring."
    )
    x: float | None = auto_number(
        -10, 10, [{"value": 0}], label="Centre x", unit="units", when={"along": ["ray"]}, help="Automatic: that of the ring before it."
    )
    y: float | None = auto_number(
        -10, 10, [{"value": 0}], label="Centre y", unit="units", when={"along": ["ray"]}, help="Automatic: that of the ring before it."
    )
    ray: float | None = auto_number(
        -4, 4, [{"value": 0.5}], label="Ray", unit="turns", step=0.0025, when={"along": ["ray"]},
        help="Where the join lies. Automatic: that of the ring before it.",
    )  # fmt: skip
    pulls: tuple[tuple[Share, Bands], ...] = pairs(
        (), label="Pulled to", kind="pulls", least=0, most=64, reach=1,
        help="Points the cut passes through: height from the top (or from outside), and distance from the join.",
        when={"method": ["auto", "cut"]},
    )  # fmt: skip


def follow_ring(settings: CloseSeamSettings, earlier: Earlier) -> CloseSeamSettings:
    """Take centre and ray from the last ring before the step, where they are left to it."""
    return left_to_ring(settings, earlier, ("x", "y", "ray"))


class _Edges:
    """The strip where the right edge of a picture meets the left one."""

    def __init__(self, picture: Array, s: CloseSeamSettings) -> None:
        self.picture = picture
        cols = picture.shape[1]
        self.band = min(max(1, round(s.width * cols)), cols // 2)

    def strip(self) -> Array:
        return np.concatenate([self.picture[:, self.picture.shape[1] - self.band :], self.picture[:, : self.band]], axis=1)

    def usual(self) -> Array:
        return usual_steps(self.picture)

    def put_back(self, strip: Array, before: Array) -> Array:
        out = self.picture.copy()
        out[:, : self.band] = strip[:, self.band :]
        out[:, out.shape[1] - self.band :] = strip[:, : self.band]
        return out


class _Ray:
    """The strip on both sides of a ray: its rows from the farthest corner inwards, its columns so many turns to both sides."""

    def __init__(self, picture: Array, s: CloseSeamSettings) -> None:
        self.picture = picture
        rows, cols = picture.shape[:2]
        frame = Frame(cols / rows)
        self.pixel = 2 * frame.half_w / cols
        self.x, self.y, self.ray = (auto_value(s, name) for name in ("x", "y", "ray"))
        self.turns = s.width
        self.far = hypot(abs(self.x) + frame.half_w, abs(self.y) + frame.half_h)
        self.frame = frame
        self.rows = max(2, ceil(self.far / self.pixel))
        self.band = max(2, ceil(0.7 * tau * self.turns * self.rows))

    def _read(self, turns: Array, fine: bool = True) -> Array:
        rad = (self.far * (1 - (np.arange(self.rows) + 0.5) / self.rows)).astype(np.float32)[:, None]
        ang = (tau * (self.ray + turns)).astype(np.float32)[None, :]
        rows, cols = self.picture.shape[:2]
        col = ((self.x + rad * np.sin(ang)) / self.frame.half_w + 1) / 2 * cols - 0.5
        row = ((self.y - rad * np.cos(ang)) / self.frame.half_h + 1) / 2 * rows - 0.5
        return shown_at(self.picture, col, row, fine)

    def strip(self) -> Array:
        return self._read(((np.arange(2 * self.band) + 0.5) / self.band - 1) * self.turns)

    def usual(self) -> Array:
        # A turn in so many places as the strip has in its part of it, but no more than show what is usual.
        count = round(self.band / self.turns)
        apart = max(1, count // 512)
        at = (np.arange(0, count - 1, apart)[:, None] + np.array([0.5, 1.5])).ravel() / self.band * self.turns
        pairs = self._read(at.astype(np.float32), fine=False).reshape(self.rows, -1, 2, 4)
        steps = np.abs(pairs[:, :, 1, :3] - pairs[:, :, 0, :3]).mean(axis=(1, 2))
        return np.asarray(np.maximum(steps, DIMMEST), np.float32)

    def put_back(self, strip: Array, before: Array) -> Array:
        rows, cols = self.picture.shape[:2]
        x, y = self.frame.grid(rows, cols)
        away = (np.arctan2(x - self.x, self.y - y) / tau - self.ray + 0.5) % 1 - 0.5
        rad = np.hypot(x - self.x, y - self.y)
        # Where a band is narrower than a pixel there is nothing to be joined.
        near = np.flatnonzero((np.abs(away) < self.turns) & (rad * self.turns * tau > self.pixel))
        out = self.picture.copy()
        flat = out.reshape(-1, 4)
        # The library reads no more than so many places in one go.
        for part in np.array_split(near, max(1, ceil(len(near) / 30_000))):
            col = (away.ravel()[part] / self.turns + 1) * self.band - 0.5
            row = (1 - rad.ravel()[part] / self.far) * self.rows - 0.5
            at = col.astype(np.float32)[None], row.astype(np.float32)[None]
            flat[part] += cv2.remap(strip - before, *at, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)[0]
        alpha = np.clip(out[..., 3:], 0, 1)
        out[..., :3] = np.clip(out[..., :3], 0, alpha)
        return out


def _join_of(picture: Array, s: CloseSeamSettings) -> _Edges | _Ray:
    return _Ray(picture, s) if s.along == "ray" else _Edges(picture, s)


LEAST_SLOW = 1.5 / 255
"""Edges whose slow tones differ less are left as they are."""


def measure_join(picture: Array, s: CloseSeamSettings) -> dict[str, Any]:
    """Find how the two sides differ, where a cut would go, and which way shows least.

    Returns
    -------
    dict
        `closing`: a `Closing`.  `slow`: what is levelled first; `before`: how much an eye finds of the join as it is given.
    """
    slow = slow_difference(picture, PLACES) if s.level_off and s.along == "edges" else None
    plain = _join_of(picture, s)
    usual = plain.usual()
    given = plain.strip()
    if slow is not None and (step_visibility(given, usual) <= UNSEEN or np.abs(slow).max() < LEAST_SLOW):
        slow = None
    join = plain if slow is None else _join_of(levelled(picture, slow), s)
    strip = join.strip()
    return {
        "slow": slow,
        "before": seen_of(given, usual),
        "closing": find_closing(strip, usual, s.method, s.level_off, tuple((v, at) for v, at in s.pulls)),
    }


def tell_join(measured: dict[str, Any], s: CloseSeamSettings) -> dict[str, Any]:
    """Return what a panel says of the join: how much an eye finds of it, before and now, the way, and the path in even places, in bands."""
    found: Closing = measured["closing"]
    path = found.path.tolist()[:: len(found.path) // 32] if found.way == "cut" else []
    return {
        "before": round(measured["before"], 2),
        "after": round(found.after, 2),
        "way": found.way,
        "path": [round(at, 4) for at in path],
    }


def close_seam(picture: Array, rows: Rows, measured: dict[str, Any], s: CloseSeamSettings) -> Array:
    """Return the picture with its left and right edge, or both sides of a ray, made to meet.

    Notes
    -----
    All but slow tones is done on a strip `width` to both sides of the join (`pixels/joining.py`). Level off brings heights and tones together,
    each side by half; where both edges are plain, over a quarter of the width. Then the sides are led a little beyond the join, each showing only itself, and meet along the least visible
    path (cut), or they meet at the join (blend); what differs where they meet is spread by a membrane. No side shows the other mirrored.
    """
    slow = measured.get("slow")
    if slow is not None:
        picture = levelled(picture, slow)
    join = _join_of(picture, s)
    found: Closing = measured["closing"]
    if join.band < 2 or (found.way == "none" and found.drift is None):
        return picture.copy()
    before = join.strip()
    return join.put_back(found.of(before), before)


CLOSE_SEAM = PictureKind(
    key="close-seam",
    label="Close seam",
    family="mend",
    role="joins",
    plain=True,
    purpose="Joins the left and right edge without a visible seam.",
    words=("join", "stitch", "edge blend", "panorama", "loop", "hairline"),
    settings=CloseSeamSettings,
    handles=("seam-band",),
    starts=(
        Start("Least visible", {}),
        Start("Along a cut", {"method": "cut", "width": 0.12}),
        Start("Wide blend", {"method": "blend", "width": 0.2}),
        Start("On the ring", {"along": "ray"}),
    ),
    neutral={"level_off": False, "method": "none"},
    effort=2.5,
    apply=close_seam,
    local=False,
    measure=measure_join,
    measure_size=1024,
    decides=True,
    tell=tell_join,
    follow=follow_ring,
)
