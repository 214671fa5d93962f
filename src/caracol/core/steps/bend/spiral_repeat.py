"""Spiral repeat: copies of the picture along a spiral, each turned, smaller, drifting in colour."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, cos, sin, tau
from typing import Literal

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, choice, number, seed
from ...pixels.blending import LUMA
from ...pixels.draws import spread
from ...pixels.painting import Brush, lay_over

MOST_COPIES = 600


class SpiralRepeatSettings(Settings):
    """The spiral, and how its copies change along it."""

    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Centre, right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Centre, down positive.")
    reach: float = number(0.8, 0.05, 4, label="Radius", unit="units", help="From the centre to the middle of the outermost copy.")
    start: float = number(
        0, -1, 1, label="Begins at", unit="turns", step=0.0025, help="Where the outermost copy lies, clockwise from the top."
    )
    arms: int = number(1, 1, 12, label="Arms", unit="count", step=1, help="How many spirals run side by side.")
    per_turn: float = number(14, 1, 60, label="Copies a turn", unit="count", step=1, help="How many copies one arm has in one turn.")
    turns: float = number(3, 0.1, 10, label="Windings", unit="factor", step=0.05, help="How often an arm goes round.")
    growth: float = number(
        2.2, 1, 10, label="Growth a turn", unit="factor", step=0.02, help="How much further out and larger copies are after one turn."
    )
    clockwise: bool = choice(True, label="Inwards clockwise", help="The direction the spiral winds inwards.")
    size: float = number(
        0.42, 0.02, 2, label="Size", unit="share", help="Half the shorter side of a copy, as a share of its distance from the centre."
    )
    follow: bool = choice(True, label="Turned along", help="Copies turn with the spiral. Off: all stay upright.")
    twist: float = number(
        0,
        -4,
        4,
        label="Twist, turns",
        unit="revolutions",
        step=0.0025,
        help="Turns each copy further than the one before, clockwise positive.",
    )
    hue: float = number(0, -1, 1, label="Hue drift", unit="turns", step=0.0025, help="How far hues shift in one turn inwards.")
    light: float = number(
        0, -0.9, 0.9, label="Light drift", unit="share", help="How much lighter or darker copies get in one turn inwards."
    )
    chance_hue: float = number(0, 0, 1, label="Random hue", unit="share", help="How much the hue of a copy may vary; 100 % is any hue.")
    chance_light: float = number(0, 0, 1, label="Random light", unit="share", help="How much the brightness of a copy may vary.")
    chance_size: float = number(
        0, 0, 1, label="Random size", unit="share", help="How much the size of a copy may vary; 100 % is half to double."
    )
    chance_turn: float = number(
        0, 0, 1, label="Random turn", unit="share", help="How much the turn of a copy may vary; 100 % is any direction."
    )
    seed: int = seed(
        idle=(({"chance_hue": [0], "chance_light": [0], "chance_size": [0], "chance_turn": [0]}, "There is no chance of anything."),)
    )
    cut: Literal["whole", "round", "soft"] = choice(
        "round", label="Cut", help="Whole pictures, their round middle, or that with a soft edge."
    )
    on_top: Literal["inner", "outer"] = choice("inner", label="On top", help="Which copies lie on top.")
    ground: bool = choice(True, label="On the picture", help="Copies lie on the picture. Off: on nothing.")
    dim: float = number(
        0,
        0,
        1,
        label="Dimmed",
        idle=(({"ground": [False]}, "Copies lie on nothing."),),
        unit="share",
        help="How much darker the picture under them is.",
    )


@dataclass(frozen=True)
class Copy:
    """One copy: where its middle lies, its size (factor), its turn, how far round its hues go, in turns, and its light (factor)."""

    x: float
    y: float
    scale: float
    turn: float
    hue: float
    light: float


def copies(s: SpiralRepeatSettings) -> list[Copy]:
    """Return the copies from the outermost inwards; what is left to chance, each draws by its own place in them."""
    found: list[Copy] = []
    count = min(ceil(s.turns * s.per_turn) + 1, MOST_COPIES // s.arms)
    for step in range(count):
        inwards = step / s.per_turn
        if inwards > s.turns + 1e-9:
            break
        far = s.reach * s.growth**-inwards
        for arm in range(s.arms):
            ang = s.start + (inwards if s.clockwise else -inwards) + arm / s.arms
            x, y = s.x + far * sin(tau * ang), s.y - far * cos(tau * ang)
            place = len(found)
            size = far * s.size * 2 ** (s.chance_size * spread(s.seed, place, 0))
            turn = (ang if s.follow else 0) + s.twist * inwards + 0.5 * s.chance_turn * spread(s.seed, place, 1)
            hue = s.hue * inwards + 0.5 * s.chance_hue * spread(s.seed, place, 2)
            light = (1 + s.light) ** inwards * 2 ** (s.chance_light * spread(s.seed, place, 3))
            found.append(Copy(x, y, size, turn, hue, light))
    return found


def _drifted(picture: Array, hue: float, light: float) -> Array:
    """Return the picture with its hues turned about the grey axis, luma kept, and its light multiplied."""
    if hue == 0 and light == 1:
        return picture
    c, s = cos(tau * hue), sin(tau * hue)
    axis = np.full(3, 1 / 3**0.5)
    cross = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    turned = (c * np.eye(3) + s * cross + (1 - c) * np.outer(axis, axis)).astype(np.float32)
    rgb = picture[..., :3] @ turned.T
    rgb = (rgb + (picture[..., :3] @ LUMA - rgb @ LUMA)[..., None]) * np.float32(light)
    return np.concatenate([np.clip(rgb, 0, picture[..., 3:]), picture[..., 3:]], axis=-1)


def _cover(qx: Array, qy: Array, cut: str, frame: Frame, per_pixel: float) -> Array:
    """Return how much of each pixel a copy covers, from its own coordinates; `per_pixel` is a pixel's width in them."""
    if cut == "whole":
        depth = np.minimum(frame.half_w - np.abs(qx), frame.half_h - np.abs(qy))
        return np.clip(depth / per_pixel + 0.5, 0, 1)
    depth = 1 - np.hypot(qx, qy)
    if cut == "round":
        return np.clip(depth / per_pixel + 0.5, 0, 1)
    share = np.clip(depth / max(0.5, per_pixel), 0, 1)
    return np.asarray(share * share * (3 - 2 * share))


def spiral_repeat(brush: Brush, under: Array, s: SpiralRepeatSettings) -> Array:
    """Return a strip with the copies laid over it, each sampled once from the whole picture."""
    strip = under * np.array([1 - s.dim] * 3 + [1], np.float32) if s.ground else np.zeros(under.shape, np.float32)
    frame = brush.rows.frame
    pixel = 2 * frame.half_w / brush.rows.cols
    order = copies(s)
    for copy in order if s.on_top == "inner" else reversed(order):
        half_w, half_h = (copy.scale * h for h in (frame.half_w, frame.half_h)) if s.cut == "whole" else (copy.scale, copy.scale)
        c, r = cos(tau * copy.turn), sin(tau * copy.turn)
        wide, high = abs(c) * half_w + abs(r) * half_h + pixel, abs(r) * half_w + abs(c) * half_h + pixel
        box = brush.box(copy.x - wide, copy.x + wide, copy.y - high, copy.y + high)
        if box.is_empty:
            continue

        def rule(x: Array, y: Array, at: Copy = copy, c: float = c, r: float = r) -> tuple[Array, Array]:
            dx, dy = (x - np.float32(at.x)) / np.float32(at.scale), (y - np.float32(at.y)) / np.float32(at.scale)
            return dx * np.float32(c) + dy * np.float32(r), dy * np.float32(c) - dx * np.float32(r)

        picture = brush.read(rule, box)
        cover = _cover(*rule(*brush.grid(box)), s.cut, frame, pixel / copy.scale)
        lay_over(strip, box, _drifted(picture, copy.hue, copy.light), cover)
    return strip


def _largest(settings: SpiralRepeatSettings) -> float:
    return max(copy.scale for copy in copies(settings))


def _work(settings: SpiralRepeatSettings) -> float:
    """Return how often the whole frame is painted, all copies together; each costs something however small."""
    return sum(0.02 + min(1.0, 0.8 * copy.scale**2) for copy in copies(settings))


SPIRAL_REPEAT = PaintKind(
    key="spiral-repeat",
    label="Spiral repeat",
    family="bend",
    purpose="Lays copies of the picture along a spiral.",
    words=("copies", "array", "clones", "whorl", "shell", "garland"),
    settings=SpiralRepeatSettings,
    handles=("spiral",),
    starts=(
        Start(
            "Shell",
            {
                "arms": 1,
                "per_turn": 18,
                "turns": 3.5,
                "growth": 2.1,
                "size": 0.34,
                "light": 0.08,
                "hue": 0.03,
                "on_top": "outer",
                "reach": 0.74,
                "start": 0.06,
            },
        ),
        Start("Garland", {"arms": 3, "per_turn": 12, "turns": 2.5, "growth": 3, "size": 0.2, "reach": 1.1, "dim": 0.55}),
        Start(
            "Card fan",
            {"cut": "whole", "per_turn": 24, "turns": 2, "growth": 2.6, "size": 0.46, "reach": 0.95, "light": -0.3, "dim": 0.6},
        ),
        Start(
            "Scattered leaves",
            {
                "arms": 2,
                "per_turn": 13,
                "turns": 2.5,
                "growth": 2.4,
                "size": 0.3,
                "chance_hue": 0.12,
                "chance_light": 0.35,
                "chance_size": 0.55,
                "chance_turn": 0.5,
                "dim": 0.55,
            },
        ),
        Start("Mist wheel", {"cut": "soft", "arms": 5, "per_turn": 10, "turns": 2, "growth": 4, "size": 0.5, "hue": 0.2, "dim": 0.6}),
    ),
    paint=spiral_repeat,
    magnifies=_largest,
    turns=_work,
)
