"""The coordinate map of a piece: where on a photo each of its points comes from, for use in other tools."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import tifffile

from ..arrays import AnyArray, Array
from ..errors import PieceError
from ..geometry.frame import Frame
from ..piece.model import Layer, Piece, Step
from ..pixels.sampling import OUTSIDE
from .bend import BendChainNode
from .chain import Chain
from .context import LARGEST, Context
from .execution import whole
from .scene import Scene
from .trail import Trail

FULL = 65535
STRIP = 128
"""Rows that are mapped at a time."""


@dataclass(frozen=True)
class CoordinateMap:
    """Where points come from.

    Parameters
    ----------
    samples : uint16 array (rows, cols, 3)
        u and v, 0…65535 across and down the photo, from its edges (not from the middles of its first pixels); coverage, 0 or 65535.
    photo : str or None
        The photo of the layer.
    left_out : tuple of str
        Steps that are no part of it: they change colours, or lay what they bend over what was there.
    """

    samples: AnyArray
    photo: str | None
    left_out: tuple[str, ...]


def folded(at: Array, half: float, wraps: bool) -> Array:
    """Return coordinates within ±half, as the sampler reads what lies beyond: round the back, or mirrored."""
    period = np.float32(2 * half)
    turns = (at + np.float32(half)) / period
    if wraps:
        return (turns - np.floor(turns)) * period - np.float32(half)
    part = turns - 2 * np.floor(turns / 2)
    return np.where(part > 1, 2 - part, part).astype(np.float32) * period - np.float32(half)


def _chains(trail: Trail, longer: int, context: Context) -> Iterator[tuple[Chain | None, list[str]]]:
    """Yield, from the result inwards, the rule of each stage, or None and the labels of its steps where it has none."""
    for count in range(len(trail.stages), 0, -1):
        stage = trail.stages[count - 1]
        if stage.chain is None or not stage.is_plain:
            yield None, [kind.label for kind in stage.kinds]
        else:
            yield BendChainNode(trail, count, longer).rule(lambda node: whole(node, context)), []


def coordinate_map(piece: Piece, context: Context, longer: int, layer: str | None = None, finish: tuple[Step, ...] = ()) -> CoordinateMap:
    """Return where the points of a piece come from, by the geometric steps of one layer.

    Parameters
    ----------
    longer : int
        Pixels on the longer side.
    layer : str, optional
        Whose photo it maps; the lowest when left out.
    finish : sequence of Step
        Steps after everything, such as an export's shape.

    Raises
    ------
    PieceError
        The size is too large, there is no such layer, or it lies in a group.
    """
    if not 1 <= longer <= LARGEST:
        raise PieceError([f"size: {longer} is not between 1 and the {LARGEST} pixels allowed"])
    scene = Scene(piece, context)
    mapped = piece.find(layer) if layer else piece.layer
    laid = next((one for one in scene.whole.laid if one.sheet is mapped), None)
    if laid is None or not isinstance(mapped, Layer) or not isinstance(laid.entry, Trail):
        raise PieceError([f"layer: {mapped.id!r} is hidden, a group or lies in one; name a layer that is visible and in no group"])
    trails = [scene.finished(finish), laid.entry] if piece.frame.box or finish else [laid.entry]
    rules = [one for trail in trails for one in _chains(trail, longer, context)]
    rows, cols = trails[0].frame.pixels(longer)
    out = np.empty((rows, cols, 3), np.uint16)
    for top in range(0, rows, STRIP):
        height = min(STRIP, rows - top)
        x, y = trails[0].frame.grid(rows, cols, top, height)
        out[top : top + height] = _samples(*_sources([chain for chain, _ in rules if chain is not None], x, y), laid.entry.ground.frame)
    left_out = tuple(label for _, labels in rules for label in labels)
    return CoordinateMap(out, getattr(mapped.source, "photo", None), left_out[::-1])


def _sources(chains: list[Chain], x: Array, y: Array) -> tuple[Array, Array]:
    gone = np.zeros(np.broadcast(x, y).shape, bool)
    for chain in chains:
        x, y = chain(np.ascontiguousarray(np.broadcast_to(x, gone.shape)), np.ascontiguousarray(np.broadcast_to(y, gone.shape)))
        gone |= x >= OUTSIDE
        across, down = chain.wrap
        x, y = folded(x, chain.before.half_w, across), folded(y, chain.before.half_h, down)
    return np.where(gone, OUTSIDE, x), np.where(gone, OUTSIDE, y)


def _samples(x: Array, y: Array, frame: Frame) -> AnyArray:
    there = x < OUTSIDE
    u, v = (np.clip((at / half + 1) / 2, 0, 1) for at, half in ((x, frame.half_w), (y, frame.half_h)))
    return np.stack([np.where(there, np.rint(u * FULL), 0), np.where(there, np.rint(v * FULL), 0), there * FULL], axis=-1).astype(np.uint16)


MEASURED = 96
"""Pixels of the map on which magnification is measured."""
SHARP = 0.8
"""So much of a picture has to be sharp where its size is called honest."""


def sharp_sizes(piece: Piece, context: Context) -> tuple[Array, Array] | None:
    """Return up to which size of the whole, on its longer side, each place has a pixel of the photo for each of its own.

    Measured on the lowest layer by area: where a bend draws out one way as much as it presses the other, nothing is lost.

    Returns
    -------
    sizes : float64 array (rows, cols)
    seen : bool array (rows, cols)
        Where the photo is seen at all.
        None where the lowest layer has no photo.
    """
    scene = Scene(piece, context)
    longest = scene.longest
    laid = next((one for one in scene.whole.laid if one.sheet is piece.layer), None)
    if longest is None or laid is None:
        return None
    samples = coordinate_map(piece, context, MEASURED).samples.astype(np.float64)
    ground = scene.alone(piece.layer, 0).frame
    cols, rows = longest * min(1.0, ground.ratio), longest * min(1.0, 1 / ground.ratio)
    at = samples[..., :2] / FULL * (cols, rows)
    there = samples[..., 2] > 0
    along, down = np.diff(at, axis=1)[:-1], np.diff(at, axis=0)[:, :-1]
    area = np.abs(along[..., 0] * down[..., 1] - along[..., 1] * down[..., 0])
    seen = there[:-1, :-1] & there[1:, :-1] & there[:-1, 1:] & (area > 0)
    # Pixels of the photo to a pixel of a map of this size: at so many times the size it is one.
    return np.sqrt(area) * MEASURED, seen


def honest_size(piece: Piece, context: Context) -> int | None:
    """Return the largest size, on the longer side, at which four fifths of the picture have a pixel of the photo for each of their own.

    None where the lowest layer has no photo, or where nothing of it is seen.
    """
    found = sharp_sizes(piece, context)
    if found is None or not found[1].any():
        return None
    sizes, seen = found
    return round(float(np.quantile(sizes[seen], 1 - SHARP)))


def soft_at(piece: Piece, context: Context, size: int) -> Array:
    """Return where a picture of `size` pixels on its longer side is softer than it could be, bool (rows, cols); nowhere without a photo."""
    found = sharp_sizes(piece, context)
    return np.zeros((1, 1), bool) if found is None else np.asarray(found[1] & (found[0] < size))


def map_file(samples: AnyArray) -> bytes:
    """Return a map as a TIFF without a colour profile: its numbers are places, not colours."""
    out = io.BytesIO()
    tifffile.imwrite(out, samples, photometric="rgb", compression=8, predictor=True, rowsperstrip=64, metadata=None, software=False)
    return out.getvalue()
