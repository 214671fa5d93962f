"""Kinds called directly, past the render that would leave an idle step out."""

from __future__ import annotations

from typing import Any, cast

import numpy as np

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.geometry.rows import Rows
from caracol.core.kinds.kind import BendKind, Beneath, Kind, PaintKind, PictureKind, RasterKind
from caracol.core.piece.model import Step
from caracol.core.pixels.painting import Brush
from caracol.core.pixels.pyramid import pyramid_of
from caracol.core.pixels.raster import Raster
from caracol.core.render import Context, Photos
from caracol.core.render.chain import Chain, link_of
from caracol.core.render.execution import whole
from caracol.core.render.stages import Stage
from caracol.core.render.trail import Trail


def pulled(kind: BendKind, chosen: dict[str, Any], frame: Frame, x: Array, y: Array, picture: Array) -> tuple[Array, Array]:
    """Return where a bend takes points from; `picture` is what a guided one looks at."""
    settings = kind.settings(**chosen)
    known = {}
    if kind.asks(settings):
        assert kind.guide is not None
        known["guide"] = kind.guide(picture, **{name: getattr(settings, name) for name in kind.guide_settings})
    return kind.pull(x, y, frame, kind.frame_after(frame, settings), settings, **known)


def worked(kind: Kind, chosen: dict[str, Any], picture: Array) -> Array:
    """Return what a step on pictures makes of one, whole."""
    settings = kind.settings(**chosen)
    place = Rows(Frame(picture.shape[1] / picture.shape[0]), *picture.shape[:2])
    under = (Beneath(picture, place.frame),) if kind.grounded else ()
    measured = kind.measure(picture, settings, *under) if kind.measure else {}
    if kind.prepare is not None:
        measured["prepared"] = kind.prepare(place.frame, **{name: getattr(settings, name) for name in kind.prepare_settings})
    if isinstance(kind, PaintKind):
        return kind.paint(Brush(pyramid_of(picture), place, measured), picture, settings)
    if isinstance(kind, RasterKind):
        return kind.work(picture, Raster(place), settings)
    assert isinstance(kind, PictureKind)
    return kind.apply(picture, place, measured, settings)


def run_stage(step: Step, photos: Photos, ground: Any, size: int) -> Array:
    """Render one step on a ground as a stage of its own, idle or not."""
    frame = ground.frame
    chain = Chain((link_of(step, frame, frame),)) if isinstance(step.definition, BendKind) else None
    context = Context(photos)
    return cast(Array, whole(Trail(ground, [Stage((step,), frame, frame, chain)], context).picture(size), context))


def grid(frame: Frame, rows: int = 24) -> tuple[Array, Array]:
    """Return points all over a frame and some beyond it, not to be written into."""
    x, y = frame.grid(rows, round(rows * frame.ratio))
    x, y = np.ascontiguousarray(x * np.float32(1.25)), np.ascontiguousarray(y * np.float32(1.25))
    x.flags.writeable = y.flags.writeable = False
    return x, y
