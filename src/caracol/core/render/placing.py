"""How a layer's picture lies on the piece: two more rules for coordinates, which fuse with the bends of its trail."""

from __future__ import annotations

from math import cos, sin, tau

import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from ..kinds.kind import BendKind
from ..kinds.settings import Settings
from ..piece.model import ALL_CHANNELS, PhotoSource, PieceBox, Place, Step
from .chain import Link


class PlacingSettings(Settings):
    """A place, and whether the layer covers the piece or is contained in it."""

    place: Place = Place()
    contain: bool = False


class TilingSettings(Settings):
    """Half the shorter side of one copy, and the middle of one of them, in units."""

    cell: float
    x: float
    y: float


def fit_scale(layer: Frame, piece: Frame, contain: bool) -> float:
    """Return how large one unit of the layer is on the piece before its place scales it.

    Parameters
    ----------
    layer, piece : Frame
    contain : bool
        Whether the whole layer is seen; else it covers the piece.

    Returns
    -------
    float
        Units of the piece.
    """
    across, down = piece.half_w / layer.half_w, piece.half_h / layer.half_h
    return min(across, down) if contain else max(across, down)


def placing_pull(x: Array, y: Array, before: Frame, after: Frame, s: PlacingSettings) -> tuple[Array, Array]:
    """Return where in the layer points of the piece lie."""
    scale = fit_scale(before, after, s.contain) * s.place.scale
    cosine, sine = np.float32(cos(tau * s.place.turn) / scale), np.float32(sin(tau * s.place.turn) / scale)
    dx, dy = x - np.float32(s.place.x), y - np.float32(s.place.y)
    across, down = dx * cosine + dy * sine, dy * cosine - dx * sine
    return (-across if s.place.flip else across), down


def tiling_pull(x: Array, y: Array, before: Frame, after: Frame, s: TilingSettings) -> tuple[Array, Array]:
    """Return where in the photo points of the tiled picture lie; they may lie outside, and are folded back."""
    return (x - np.float32(s.x)) / np.float32(s.cell), (y - np.float32(s.y)) / np.float32(s.cell)


class BoxingSettings(Settings):
    """A box of the piece."""

    box: PieceBox


def boxing_pull(x: Array, y: Array, before: Frame, after: Frame, s: BoxingSettings) -> tuple[Array, Array]:
    """Return where in the piece points of what is delivered lie."""
    unit = min(s.box.rx, s.box.ry)
    cosine, sine = np.float32(cos(tau * s.box.turn) * unit), np.float32(sin(tau * s.box.turn) * unit)
    return x * cosine - y * sine + np.float32(s.box.x), x * sine + y * cosine + np.float32(s.box.y)


BOXING = BendKind(
    key="@box", label="Box", family="prepare", purpose="Delivers a part of the piece.", settings=BoxingSettings,
    pull=boxing_pull, edge=lambda s: "empty",
)  # fmt: skip
PLACING = BendKind(
    key="@place", label="Place", family="prepare", purpose="Puts a layer on the piece.", settings=PlacingSettings,
    pull=placing_pull, edge=lambda s: "empty",
)  # fmt: skip
TILING = BendKind(
    key="@tile", label="Tile", family="prepare", purpose="Repeats a photo.", settings=TilingSettings,
    pull=tiling_pull, edge=lambda s: "tile",
)  # fmt: skip


def _link(kind: BendKind, settings: Settings, before: Frame, after: Frame) -> Link:
    step = Step.model_construct(
        id=kind.key, kind=kind.key, on=True, settings=settings, strength=1, blend="normal", channels=ALL_CHANNELS, where=None
    )
    return Link(kind, step, before, after)


def placing_link(place: Place | None, contain: bool, layer: Frame, piece: Frame) -> Link | None:
    """Return the link that puts a layer of frame `layer` on the piece, or None where it lies there already."""
    chosen = place or Place()
    if chosen.is_idle and abs(layer.ratio - piece.ratio) < 1e-9:
        return None
    return _link(PLACING, PlacingSettings.model_construct(place=chosen, contain=contain), layer, piece)


def composed(outer: Place, inner: Place) -> Place:
    """Return the place of what lies at `inner` in something that lies at `outer`: both are moved, scaled, turned and flipped."""
    x = -inner.x if outer.flip else inner.x
    c, s = cos(tau * outer.turn) * outer.scale, sin(tau * outer.turn) * outer.scale
    return Place.model_construct(
        x=outer.x + x * c - inner.y * s,
        y=outer.y + x * s + inner.y * c,
        scale=outer.scale * inner.scale,
        turn=outer.turn + (-inner.turn if outer.flip else inner.turn),
        flip=outer.flip != inner.flip,
    )


def boxing_link(box: PieceBox, piece: Frame) -> Link:
    """Return the link that takes a box out of a piece of frame `piece`."""
    return _link(BOXING, BoxingSettings(box=box), piece, Frame(box.rx / box.ry))


def tiling_link(source: PhotoSource, photo: Frame, piece: Frame) -> Link:
    """Return the link that repeats a photo over the piece's frame."""
    return _link(TILING, TilingSettings(cell=source.cell, x=source.x, y=source.y), photo, piece)
