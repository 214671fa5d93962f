"""Ghosts: tinted copies of the picture, moved apart."""

from __future__ import annotations

from math import cos, sin, tau
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge, apply_edge
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, choice, colours, number
from ...pixels.blending import LUMA
from ...pixels.box import Box
from ...pixels.colours import rgb_of
from ...pixels.painting import Brush
from ...pixels.sampling import OUTSIDE


class GhostsSettings(Settings):
    """How many copies, how far apart, in which hues, and how they meet."""

    tints: tuple[Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")], ...] | None = colours(
        least=2, most=6, label="Tints", help="One copy for each colour. Empty: hues spread evenly round the circle."
    )
    copies: int = number(
        2,
        2,
        6,
        label="Copies",
        unit="count",
        step=1,
        help="How many copies, with hues spread evenly round the circle.",
    )
    apart: float = number(0.08, 0, 2, label="Apart", unit="units", step=0.002, help="From the first copy to the last.")
    heading: float = number(0.25, -1, 1, label="Direction", unit="turns", step=0.0025, help="Where the last copy lies from the first.")
    hue: float = number(
        0,
        0,
        1,
        label="Hue",
        idle=(({"tint": [0]}, "Tint is 0."),),
        unit="turns",
        step=0.0025,
        help="Hue of the first copy: 0° red, 120° green, 240° blue.",
    )
    tint: float = number(1, 0, 1, label="Tint", unit="share", help="How strongly the copies are tinted.")
    meet: Literal["lighten", "darken"] = choice("lighten", label="Combine by", help="The lighter of the copies, or the darker.")
    grow: float = number(0, -0.5, 0.5, label="Growth", unit="share", step=0.005, help="How much larger the last copy is than the first.")
    turn: float = number(0, -0.25, 0.25, label="Turn", unit="turns", step=0.001, help="How far the last copy is turned from the first.")
    colour: float = number(0.5, 0, 1, label="Own colour", unit="share", help="Brings back the colours of the picture.")
    depth: float = number(0.3, 0, 1, label="Own depth", unit="share", help="Brings back the lights and darks of the picture.")
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


def _tint(hue: float) -> Array:
    """Return the pure colour of a hue in turns."""
    return np.array([np.clip(abs(((hue + part) % 1) * 6 - 3) - 1, 0, 1) for part in (0, 2 / 3, 1 / 3)], np.float32)


def _rule(brush: Brush, s: GhostsSettings, place: float) -> Any:
    """Return where copy at `place` (-0.5 … 0.5) is read."""
    frame = brush.rows.frame
    across, down = sin(tau * s.heading) * s.apart * place, -cos(tau * s.heading) * s.apart * place
    scale = 1 + s.grow * place
    c, sn = np.float32(cos(tau * s.turn * place) / scale), np.float32(sin(tau * s.turn * place) / scale)

    def rule(x: Array, y: Array) -> tuple[Array, Array]:
        dx, dy = x - np.float32(across), y - np.float32(down)
        px, py = dx * c + dy * sn, dy * c - dx * sn
        outside = apply_edge(px, py, frame, s.edge)
        if outside is not None:
            px[outside] = py[outside] = OUTSIDE
        return px, py

    return brush.easing(rule)


def _tints(s: GhostsSettings) -> Array:
    """Return the tint of each copy, (copies, 3)."""
    if s.tints is not None:
        return np.array([rgb_of(code) for code in s.tints], np.float32)
    return np.stack([_tint(s.hue + n / s.copies) for n in range(s.copies)])


def ghosts(brush: Brush, under: Array, s: GhostsSettings) -> Array:
    """Return a strip of tinted copies laid together.

    Notes
    -----
    Lighten: a copy is its light times its tint, and the lightest counts. Darken: it is 1 - (1 - light)·(1 - tint), and the darkest
    counts. What all copies have in common, the darkest of their lights (on paper the lightest), is given what their tints together lack of
    white, so that a grey in which they agree stays that grey, and a copy that stands alone shows its very tint. Own depth puts the luma of
    the input back, own colour its difference from that luma.
    """
    whole = Box(0, under.shape[0], 0, under.shape[1])
    tints = _tints(s)
    share, on_black = np.float32(s.tint), s.meet == "lighten"
    copies, alphas, lights = [], [], []
    for n, tint in enumerate(tints):
        read = brush.read(_rule(brush, s, n / (len(tints) - 1) - 0.5), whole)
        alpha = read[..., 3:]
        light = (read[..., :3] @ LUMA)[..., None]
        tinted = light * tint if on_black else alpha - (alpha - light) * (1 - tint)
        copies.append(read[..., :3] + share * (tinted - read[..., :3]))
        alphas.append(alpha)
        lights.append(light if on_black else alpha - light)
    alpha = np.maximum.reduce(alphas)
    shared = np.minimum.reduce(lights) * share
    if on_black:
        together = np.maximum.reduce(copies) + shared * (1 - tints.max(axis=0))
    else:
        together = np.minimum.reduce(copies) - shared * tints.min(axis=0)
    luma, own = (together @ LUMA)[..., None], (under[..., :3] @ LUMA)[..., None]
    rest = together - luma + np.float32(s.colour) * (under[..., :3] - own - (together - luma))
    rgb = luma + np.float32(s.depth) * (own - luma) + rest
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


GHOSTS = PaintKind(
    key="ghosts",
    label="Ghosts",
    family="break",
    purpose="Moves tinted copies of the picture apart.",
    words=("double exposure", "echo", "double vision", "duotone", "offset", "copies", "tint"),
    settings=GhostsSettings,
    handles=("ghost-arrow",),
    starts=(
        Start("Two ghosts", {}, words=("double exposure", "double vision")),
        Start("Ghosts on paper", {"meet": "darken", "apart": 0.09, "hue": 0.5, "depth": 0.4, "colour": 0.4}),
        Start("Three ghosts", {"copies": 3, "apart": 0.24, "heading": 0.36, "depth": 0.45, "colour": 0.45}),
        Start("Coral and deep water", {"tints": ["#ff7a5c", "#0b86a8"], "apart": 0.12, "colour": 0.45, "depth": 0.4}, words=("two tints",)),
        Start("Growing ghosts", {"apart": 0.02, "grow": 0.16, "turn": 0.01, "hue": 0.55, "colour": 0.45, "depth": 0.5}),
    ),
    respects_keep=True,
    effort=2.4,
    paint=ghosts,
    magnifies=lambda s: 1 + abs(s.grow) / 2,
)
