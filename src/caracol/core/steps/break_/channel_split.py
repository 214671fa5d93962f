"""Channel split: the plates of the picture moved apart."""

from __future__ import annotations

from math import ceil, cos, sin, tau
from typing import Any, Literal, cast

import numpy as np
from pydantic import create_model

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge, apply_edge
from ...geometry.frame import Frame
from ...kinds.kind import PaintKind, Start
from ...kinds.settings import Settings, choice, number
from ...pixels.blending import LUMA, blended
from ...pixels.box import Box
from ...pixels.painting import Brush
from ...pixels.sampling import OUTSIDE
from ...pixels.soften import fineness, softened

PLATES = ("red", "green", "blue")
PAIR = ("light", "colour")
FARTHEST = 2.0
Join = Literal["add", "lighten", "screen", "difference"]


BEGINS = {"red": -0.05}
"""How far aside plates lie before anything is set."""


def _plate_fields(plate: str, of: str) -> dict[str, Any]:
    """Return the six settings of one plate, shown where the plates are these."""
    name = plate.capitalize()
    shown = {"plates": [of]}
    return {
        f"{plate}_x": (float, number(BEGINS.get(plate, 0), -FARTHEST, FARTHEST, label=f"{name} across", unit="units", step=0.002, help="Moved right positive.", when=shown)),
        f"{plate}_y": (float, number(0, -FARTHEST, FARTHEST, label=f"{name} down", unit="units", step=0.002, help="Moved down positive.", when=shown)),
        f"{plate}_scale": (float, number(1, 0.25, 4, label=f"{name} scale", unit="factor", step=0.002, help="Above 1 larger.", when=shown)),
        f"{plate}_turn": (float, number(0, -0.5, 0.5, label=f"{name} turn", unit="turns", step=0.0005, help="Clockwise positive.", when=shown)),
        f"{plate}_shear": (float, number(0, -1, 1, label=f"{name} shear", unit="factor", help="Pushes the top to the right.", when=shown)),
        f"{plate}_blur": (float, number(0, 0, 0.5, label=f"{name} blur", unit="units", step=0.002, help="Blurs this channel.", when=shown)),
    }  # fmt: skip


_FIELDS: dict[str, Any] = {
    "plates": (
        Literal["rgb", "light-colour"],
        choice("rgb", label="Channels", help="Red, green and blue, or light and colour apart."),
    ),
}
for _plate in PLATES:
    _FIELDS.update(_plate_fields(_plate, "rgb"))
for _plate in PAIR:
    _FIELDS.update(_plate_fields(_plate, "light-colour"))
_FIELDS["join"] = (
    Join,
    choice(
        "add", label="Combine by", help="Add: the channels alone make the picture. Others lay them over it: the lighter value, light on light, or "
        "the difference.",
    ),
)  # fmt: skip
# What is stretched leaves streaks as broad as the plate was moved.
_FIELDS["edge"] = (Edge, choice("mirror", label="Outside", help=EDGE_HELP))
ChannelSplitSettings: type[Settings] = cast(
    type[Settings], create_model("ChannelSplitSettings", __base__=Settings, __doc__="How each plate is moved.", **_FIELDS)
)


class _Plate:
    """How one plate is moved, as a rule for coordinates."""

    def __init__(self, name: str, settings: Settings, frame: Frame) -> None:
        self.x, self.y, self.scale, self.turn, self.shear, self.blur = (
            float(getattr(settings, f"{name}_{part}")) for part in ("x", "y", "scale", "turn", "shear", "blur")
        )
        self.edge: Edge = settings.edge  # type: ignore[attr-defined]
        self.frame = frame

    @property
    def is_moved(self) -> bool:
        return (self.x, self.y, self.scale, self.turn, self.shear) != (0, 0, 1, 0, 0)

    def __call__(self, x: Array, y: Array) -> tuple[Array, Array]:
        c, s = np.float32(cos(tau * self.turn) / self.scale), np.float32(sin(tau * self.turn) / self.scale)
        dx, dy = x - np.float32(self.x), y - np.float32(self.y)
        px, py = dx * c + dy * s, dy * c - dx * s
        px = px + np.float32(self.shear) * py
        outside = apply_edge(px, py, self.frame, self.edge)
        if outside is not None:
            px[outside] = py[outside] = OUTSIDE
        return px, py


def _read(brush: Brush, plate: _Plate, under: Array) -> Array:
    """Return the strip as this plate shows it."""
    count, cols = under.shape[:2]
    if not plate.is_moved and plate.blur == 0:
        return under
    sigma = plate.blur * brush.rows.cols / 2 / brush.rows.frame.half_w
    fine = fineness(sigma)
    # Above and below the strip it is read as far as the blur reaches; beyond the picture the edge rule goes on. Blocks that are averaged
    # are the picture's, not the strip's: every strip sees the same.
    first = (brush.rows.top - ceil(3 * sigma)) // fine * fine - brush.rows.top
    last = first + -(-(count + ceil(3 * sigma) - first) // fine) * fine
    tall = brush.read(brush.easing(plate), Box(first, last, 0, cols))
    if sigma > 0:
        tall = softened(tall, max(sigma, 0.01), max(sigma, 0.01))
    return np.asarray(tall[-first : count - first], np.float32)


def _recombined(brush: Brush, under: Array, s: Settings) -> Array:
    """Return a strip made of the moved plates alone."""
    frame = brush.rows.frame
    if s.plates == "rgb":  # type: ignore[attr-defined]
        reads = [_read(brush, _Plate(name, s, frame), under) for name in PLATES]
        out = np.stack([read[..., k] for k, read in enumerate(reads)] + [np.maximum.reduce([read[..., 3] for read in reads])], axis=-1)
        return np.asarray(out, np.float32)
    light, colour = (_read(brush, _Plate(name, s, frame), under) for name in PAIR)
    alpha = np.maximum(light[..., 3], colour[..., 3])
    rest = colour[..., :3] - (colour[..., :3] @ LUMA)[..., None]
    rgb = np.clip((light[..., :3] @ LUMA)[..., None] + rest, 0, alpha[..., None])
    return np.concatenate([rgb, alpha[..., None]], axis=-1).astype(np.float32)


def channel_split(brush: Brush, under: Array, s: Settings) -> Array:
    """Return a strip whose plates are each read where their own rule says.

    Notes
    -----
    Content moves by (x, y) after it is sheared, scaled and turned about the middle. Light is the luma of the coded values, colour what
    is left of them. Alpha is the largest of the plates', so that nothing shines through where one of them still is. Joined by lighten,
    screen or difference, they are blended with the picture as it was (W3C, Compositing and Blending Level 1) where both are.
    """
    moved = _recombined(brush, under, s)
    join: Join = s.join  # type: ignore[attr-defined]
    if join == "add":
        return moved
    both = blended(under, moved, join)
    # Where only one of them is, it is seen as it is.
    return np.asarray(both + (1 - moved[..., 3:]) * under, np.float32)


def _largest(settings: Settings) -> float:
    return max(1.0, *(float(getattr(settings, f"{name}_scale")) for name in (*PLATES, *PAIR)))


def _blurs(settings: Settings) -> list[float]:
    """Return the deviations of the plates that are in use, in units."""
    used = PLATES if settings.plates == "rgb" else PAIR  # type: ignore[attr-defined]
    return [float(getattr(settings, f"{name}_blur")) for name in used]


CHANNEL_SPLIT = PaintKind(
    key="channel-split",
    label="Channel split",
    family="break",
    purpose="Moves the red, green and blue channels apart.",
    words=("rgb", "chromatic", "aberration", "misprint", "register", "fringe", "colour shift", "anaglyph"),
    settings=ChannelSplitSettings,
    handles=("plate-arrows",),
    starts=(
        Start("Red aside", {}),
        Start("Red and blue apart", {"red_x": -0.035, "blue_x": 0.035}),
        Start(
            "Off register",
            {"red_x": -0.026, "red_y": 0.02, "red_turn": 0.003, "blue_x": 0.03, "blue_y": -0.016, "blue_turn": -0.003},
            words=("misregistration", "register", "misprint"),
        ),
        Start(
            "Depth pair",
            {"red_x": -0.045, "green_x": 0.03, "blue_x": 0.03, "red_shear": 0.06},
            words=("anaglyph", "3d", "stereo", "red cyan"),
        ),
        Start(
            "Loose channels", {"red_x": 0, "red_scale": 1.05, "red_turn": 0.008, "blue_scale": 0.96, "blue_turn": -0.006, "blue_y": 0.02}
        ),
        Start("Faint channel ghosts", {"join": "lighten", "red_x": -0.09, "red_scale": 1.04, "blue_x": 0.09, "blue_turn": 0.006}),
        Start("Colour adrift", {"plates": "light-colour", "colour_x": 0.14, "colour_blur": 0.02}),
    ),
    neutral={
        f"{plate}_{part}": (1 if part == "scale" else 0)
        for plate in (*PLATES, *PAIR)
        for part in ("x", "y", "scale", "turn", "shear", "blur")
    }
    | {"join": "add"},
    respects_keep=True,
    paint=channel_split,
    magnifies=_largest,
    reaches=lambda settings: 3 * max(_blurs(settings)),
    turns=lambda settings: 1 + 2.0 * sum(blur > 0 for blur in _blurs(settings)),
)
