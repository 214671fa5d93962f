"""Layers in one file, as the OpenRaster specification (0.0.6) has them: PNG pictures in a ZIP, and a stack that says how they lie."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Iterable, Iterator
from typing import Protocol
from xml.etree import ElementTree

import cv2
import numpy as np

from ..arrays import AnyArray, Array
from ..pixels.spaces import Space
from .formats import NOTHING, Note, collect, encode

MIMETYPE = "image/openraster"
OPS: dict[str, str] = {
    "normal": "svg:src-over", "multiply": "svg:multiply", "screen": "svg:screen", "overlay": "svg:overlay", "darken": "svg:darken",
    "lighten": "svg:lighten", "color-dodge": "svg:color-dodge", "color-burn": "svg:color-burn", "hard-light": "svg:hard-light",
    "soft-light": "svg:soft-light", "difference": "svg:difference", "color": "svg:color", "luminosity": "svg:luminosity", "hue": "svg:hue",
    "saturation": "svg:saturation", "add": "svg:plus",
}  # fmt: skip
"""How the specification names blend modes; others it does not have."""
THUMBNAIL = 256
SHOWN_DPI = 72


class Sheet(Protocol):
    """A layer by itself, or a group with its layers, the lowest first."""

    @property
    def name(self) -> str: ...
    @property
    def opacity(self) -> float: ...
    @property
    def blend(self) -> str: ...
    @property
    def members(self) -> tuple[Sheet, ...]: ...
    @property
    def shown(self) -> bool: ...
    def rows(self, longer: int, space: Space = "srgb") -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and strips from the top down, coded and premultiplied."""


def unnamed_blends(sheets: Iterable[Sheet]) -> list[str]:
    """Return what the format cannot say: the names of layers whose blend mode it does not have, each with that mode."""
    found = []
    for one in sheets:
        if one.blend not in OPS:
            found.append(f"{one.name} ({one.blend})")
        found += unnamed_blends(one.members)
    return found


def write_openraster(
    sheets: list[Sheet], merged: AnyArray, longer: int, note: Note = NOTHING, told: Callable[[float], None] | None = None
) -> bytes:
    """Return an OpenRaster file.

    Parameters
    ----------
    sheets : list of Sheet
        From the lowest up. Their pictures are made one after the other, and held one at a time.
    merged : uint8 array (rows, cols, 3 or 4)
        The whole picture, straight, in the space that `note` says.
    longer : int
        Pixels on the longer side.
    note : Note
    told : callable (share), optional
        Is told after each layer how many of them are done, 0…1.

    Notes
    -----
    A blend mode that the specification does not have is written as plain; `unnamed_blends` says where.
    """
    rows, cols = merged.shape[:2]
    out = io.BytesIO()
    dpi = str(round(note.dpi or SHOWN_DPI))
    root = ElementTree.Element("image", {"version": "0.0.6", "w": str(cols), "h": str(rows), "xres": dpi, "yres": dpi})
    stack = ElementTree.SubElement(root, "stack")
    count = sum(1 for _ in _single(sheets))
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as file:

        def put(name: str, data: bytes) -> None:
            # Always the same date: the same piece gives the same bytes.
            file.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), data)

        put("mimetype", MIMETYPE.encode())
        done = 0

        def lay(into: ElementTree.Element, members: Iterable[Sheet]) -> None:
            nonlocal done
            for one in reversed(list(members)):  # the uppermost is named first
                said = {
                    "name": one.name,
                    "opacity": f"{one.opacity:g}",
                    "composite-op": OPS.get(one.blend, OPS["normal"]),
                    "visibility": "visible" if one.shown else "hidden",
                }
                if one.members:
                    lay(ElementTree.SubElement(into, "stack", {**said, "isolation": "isolate"}), one.members)
                    continue
                shape, strips = one.rows(longer, note.space)
                path = f"data/layer-{done:03d}.png"
                put(path, encode(_with_alpha(collect(shape, strips)), "png", note=Note(space=note.space)))
                ElementTree.SubElement(into, "layer", {**said, "src": path, "x": "0", "y": "0"})
                done += 1
                if told is not None:
                    told(done / count)

        lay(stack, sheets)
        put("stack.xml", ElementTree.tostring(root, "utf-8", xml_declaration=True))
        put("mergedimage.png", encode(_with_alpha(merged), "png", note=note))
        scale = THUMBNAIL / max(rows, cols)
        small = (max(1, round(cols * scale)), max(1, round(rows * scale)))
        put("Thumbnails/thumbnail.png", encode(np.asarray(cv2.resize(_with_alpha(merged), small, interpolation=cv2.INTER_AREA)), "png"))
    return out.getvalue()


def _single(sheets: Iterable[Sheet]) -> Iterator[Sheet]:
    for one in sheets:
        if one.members:
            yield from _single(one.members)
        else:
            yield one


def _with_alpha(pixels: AnyArray) -> AnyArray:
    """The specification wants RGBA."""
    if pixels.shape[2] == 4:
        return pixels
    return np.dstack([pixels, np.full(pixels.shape[:2], np.iinfo(pixels.dtype).max, pixels.dtype)])
