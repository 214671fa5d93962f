"""The catalogue: every kind of step, in working order, as objects and as data."""

from __future__ import annotations

from collections.abc import Iterable
from difflib import get_close_matches

from ..errors import UnknownKind
from ..kinds.kind import Kind
from ..sources.drawn import DrawnSource
from ..sources.fill import FillSource
from ..sources.lettering import LetteringSource
from ..sources.pattern import PatternSource
from ..sources.shape import ShapeSource
from ..steps.bend.displace import DISPLACE
from ..steps.bend.droste import DROSTE
from ..steps.bend.formula import FORMULA
from ..steps.bend.kaleidoscope import KALEIDOSCOPE
from ..steps.bend.lens import LENS
from ..steps.bend.map import MAP
from ..steps.bend.pinch import PINCH
from ..steps.bend.place import PLACE
from ..steps.bend.ring import RING
from ..steps.bend.ripple import RIPPLE
from ..steps.bend.row_bend import ROW_BEND
from ..steps.bend.spiral_repeat import SPIRAL_REPEAT
from ..steps.bend.twirl import TWIRL
from ..steps.bend.unring import UNRING
from ..steps.bend.wave import WAVE
from ..steps.break_.channel_split import CHANNEL_SPLIT
from ..steps.break_.crush import CRUSH
from ..steps.break_.ghosts import GHOSTS
from ..steps.break_.grain import GRAIN
from ..steps.break_.melt import MELT
from ..steps.break_.mosaic import MOSAIC
from ..steps.break_.pixel_sort import PIXEL_SORT
from ..steps.break_.scan_lines import SCAN_LINES
from ..steps.break_.slices import SLICES
from ..steps.break_.stipple import STIPPLE
from ..steps.break_.tape import TAPE
from ..steps.break_.tube import TUBE
from ..steps.finish.belong import BELONG
from ..steps.finish.blur import BLUR
from ..steps.finish.brushwork import BRUSHWORK
from ..steps.finish.colour import COLOUR
from ..steps.finish.curves import CURVES
from ..steps.finish.fog import FOG
from ..steps.finish.gradient_map import GRADIENT_MAP
from ..steps.finish.light import LIGHT
from ..steps.finish.posterise import POSTERISE
from ..steps.finish.shadow import SHADOW
from ..steps.finish.sharpen import SHARPEN
from ..steps.finish.threshold import THRESHOLD
from ..steps.finish.tint import TINT
from ..steps.finish.tone import TONE
from ..steps.finish.wheel_blur import WHEEL_BLUR
from ..steps.finish.zoom_blur import ZOOM_BLUR
from ..steps.mend.centre import CENTRE
from ..steps.mend.close_seam import CLOSE_SEAM
from ..steps.mend.rim import RIM
from ..steps.mend.touch_up import TOUCH_UP
from ..steps.mend.trim import TRIM
from ..steps.prepare.crop import CROP
from ..steps.prepare.keep_only import KEEP_ONLY
from ..steps.prepare.level import LEVEL
from ..steps.prepare.refit import REFIT
from ..steps.prepare.turn import TURN
from ..steps.prepare.wrap_shift import WRAP_SHIFT

KINDS: tuple[Kind, ...] = (
    *(CROP, LEVEL, REFIT, TURN, WRAP_SHIFT, KEEP_ONLY),
    *(CLOSE_SEAM, TOUCH_UP, CENTRE, RIM, TRIM),
    *(RING, UNRING, TWIRL, PINCH, WAVE, RIPPLE, ROW_BEND, KALEIDOSCOPE, LENS, DROSTE, PLACE, DISPLACE, MAP, FORMULA, SPIRAL_REPEAT),
    *(CHANNEL_SPLIT, GHOSTS, SLICES, SCAN_LINES, PIXEL_SORT, MELT, MOSAIC, TUBE, TAPE, CRUSH, STIPPLE, GRAIN),
    *(
        TONE,
        CURVES,
        COLOUR,
        TINT,
        GRADIENT_MAP,
        LIGHT,
        FOG,
        BLUR,
        ZOOM_BLUR,
        WHEEL_BLUR,
        SHARPEN,
        BRUSHWORK,
        THRESHOLD,
        POSTERISE,
        BELONG,
        SHADOW,
    ),
)


def build_index(kinds: Iterable[Kind]) -> dict[str, Kind]:
    """Index kinds by key; two with one key are a fault that names both."""
    index: dict[str, Kind] = {}
    for kind in kinds:
        if kind.key in index:
            raise ValueError(f"two kinds share the key {kind.key!r}: {index[kind.key].label!r} and {kind.label!r}")
        index[kind.key] = kind
    return index


INDEX = build_index(KINDS)


def get_kind(key: str) -> Kind:
    """Return the kind with this key.

    Raises
    ------
    UnknownKind
        Naming the nearest known keys.
    """
    if key in INDEX:
        return INDEX[key]
    raise UnknownKind(unknown_kind_message(key))


def unknown_kind_message(key: object) -> str:
    """Say that no kind has this key, and which come near."""
    near = get_close_matches(str(key), INDEX, n=3, cutoff=0.5)
    hint = f"did you mean {' or '.join(near)}?" if near else f"known kinds: {', '.join(INDEX)}"
    return f"unknown kind {key!r}; {hint}"


SOURCES: tuple[type[DrawnSource], ...] = (FillSource, ShapeSource, PatternSource, LetteringSource)
