"""Random pieces and random edits of them, for property tests: small, valid, and of everything a piece can hold."""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any

from hypothesis import strategies as st

from caracol.core.catalogue.registry import INDEX
from caracol.core.errors import PieceError
from caracol.core.kinds.kind import RasterKind
from caracol.core.piece.files import check_piece
from caracol.core.pixels.blending import MODES

Document = dict[str, Any]
Draw = Callable[..., Any]

RATIOS = [None, 1.0, 0.5625, 16 / 9, 0.8]
# At least one kind of every way a step is run, guided, measured or told of others; slow ones would add nothing.
_KINDS = (
    *("crop", "turn", "refit", "close-seam", "rim", "trim", "ring", "unring", "twirl", "wave", "displace", "kaleidoscope"),
    *("channel-split", "ghosts", "slices", "scan-lines", "pixel-sort", "mosaic", "tone", "blur", "zoom-blur", "belong", "fog", "keep-only"),
)
STEPS: list[tuple[str, dict[str, Any]]] = [
    (key, settings | ({"lines": 240} if isinstance(INDEX[key], RasterKind) else {}))
    for key in _KINDS
    for settings in ({}, *(dict(start.settings) for start in INDEX[key].starts[:1]))
]
SOURCES: list[dict[str, Any]] = [
    {"kind": "photo", "photo": "a.png"},
    {"kind": "photo", "photo": "b.png"},
    {"kind": "photo", "photo": "a.png", "fit": "contain"},
    {"kind": "photo", "photo": "b.png", "fit": "tile", "cell": 0.3},
    {"kind": "pattern", "form": "rings"},
    {"kind": "fill", "form": "plain", "first": "#204060", "ratio": 1.5},
    {"kind": "shape", "form": "star", "colour": "#ff8000"},
    {"kind": "below"},
]
WHERES: list[dict[str, Any] | None] = [
    None,
    {"shapes": [{"kind": "ellipse", "x": 0.2, "rx": 0.5, "ry": 0.4}], "feather": 0.1},
    {"shapes": [{"kind": "rectangle", "x": -0.4, "rx": 0.5, "ry": 2}], "invert": True},
    {"shapes": [{"kind": "light", "low": 0.4, "high": 1}]},
]
PLACES: list[dict[str, Any] | None] = [None, None, {"scale": 0.5, "x": 0.3}, {"turn": 0.1, "flip": True}]
KEEPS: list[list[dict[str, Any]]] = [
    [],
    [{"weight": 0.5, "where": {"shapes": [{"kind": "ellipse", "rx": 0.6, "ry": 0.5}]}}],
    [{"weight": 1, "where": {"shapes": [{"kind": "rectangle", "x": -0.5, "rx": 0.4, "ry": 1}]}}],
]


def _step(draw: Draw, number: int) -> Document:
    kind, settings = draw(st.sampled_from(STEPS))
    step = {"id": f"s{number}", "kind": kind, "settings": copy.deepcopy(settings)}
    partly = {
        "strength": draw(st.sampled_from([1, 1, 0.5])),
        "where": draw(st.sampled_from([None, *WHERES])),
        "blend": draw(st.sampled_from(["normal", "normal", "screen"])),
        "channels": draw(st.sampled_from([["r", "g", "b"], ["r", "g", "b"], ["g"]])),
    }
    try:
        check_piece({"caracol": 1, "layers": [{"id": "a", "steps": [step | partly]}]})
    except PieceError:  # it changes its frame, and so takes none of them
        return step
    return step | partly


def _layer(draw: Draw, number: int) -> Document:
    source = copy.deepcopy(draw(st.sampled_from(SOURCES if number else SOURCES[:-1])))
    if source["kind"] == "photo":
        source["keep"] = draw(st.sampled_from(KEEPS))
    return {
        "id": f"l{number}",
        "source": source,
        "steps": [_step(draw, n) for n in range(draw(st.integers(0, 3)))],
        "place": draw(st.sampled_from(PLACES)) if number else None,
        "where": draw(st.sampled_from(WHERES)),
        "opacity": draw(st.sampled_from([1, 1, 0.6])),
        "blend": draw(st.sampled_from(["normal", "normal", "multiply"])),
    }


@st.composite
def documents(draw: Draw) -> Document:
    """Draw a valid document of one to three layers, the upper two perhaps in a group."""
    layers = [_layer(draw, n) for n in range(draw(st.integers(1, 3)))]
    if len(layers) > 1 and draw(st.booleans()):
        # A step of an upper layer looks at the lowest one.
        by = {"id": "look", "kind": "displace", "settings": {"by": "l0", "amount": draw(st.sampled_from([0.2, 0.4]))}}
        layers[-1]["steps"].append(by)
    if len(layers) == 3 and draw(st.booleans()):
        group = {"id": "g", "layers": layers[1:], "opacity": draw(st.sampled_from([1, 0.5])), "place": draw(st.sampled_from(PLACES))}
        layers = [layers[0], group | {"steps": [_step(draw, 9)] if draw(st.booleans()) else []}]
    return {"caracol": 1, "frame": {"ratio": draw(st.sampled_from(RATIOS))}, "layers": layers}


def _flat(document: Document) -> list[Document]:
    return [layer for entry in document["layers"] for layer in entry.get("layers", [entry])]


def sheets_of(document: Document) -> list[Document]:
    """Return all layers and groups of a document."""
    waiting, found = list(document["layers"]), []
    while waiting:
        found.append(waiting.pop())
        waiting += found[-1].get("layers", [])
    return found


def edited(draw: Draw, document: Document) -> Document:
    """Draw one edit of a document, of the sort a hand does, and return what it leaves."""
    after = copy.deepcopy(document)
    layer = draw(st.sampled_from(_flat(after)))
    what = draw(st.sampled_from(["ratio", "ratio", "source", "keep", "step", "steps", "where", "place", "opacity", "blend", "photo"]))
    if what == "ratio":
        after["frame"]["ratio"] = draw(st.sampled_from(RATIOS))
    elif what == "source" and layer["id"] != "l0":
        layer["source"] = copy.deepcopy(draw(st.sampled_from(SOURCES)))
    elif what == "keep" and layer["source"]["kind"] == "photo":
        layer["source"]["keep"] = draw(st.sampled_from(KEEPS))
    elif what == "step" and layer["steps"]:
        layer["steps"][draw(st.integers(0, len(layer["steps"]) - 1))] = _step(draw, 8)
    elif what == "steps":
        layer["steps"] = [step for step in layer["steps"] if draw(st.booleans())]
    elif what in ("where", "blend", "opacity"):
        layer[what] = draw(st.sampled_from({"where": WHERES, "blend": list(MODES), "opacity": [1, 0.3, 0.6]}[what]))
    elif what == "place" and layer["id"] != "l0":
        layer["place"] = draw(st.sampled_from(PLACES))
    elif what == "photo" and layer["source"]["kind"] == "photo":
        layer["source"]["photo"] = "b.png" if layer["source"]["photo"] == "a.png" else "a.png"
    return after


@st.composite
def histories(draw: Draw, most: int = 4) -> list[Document]:
    """Draw a document and what some edits, one after the other, leave of it; among them perhaps the first one again."""
    states = [draw(documents())]
    for _ in range(draw(st.integers(1, most))):
        states.append(draw(st.sampled_from(states)) if draw(st.integers(0, 4)) == 0 else edited(draw, states[-1]))
    return states
