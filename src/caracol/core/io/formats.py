"""Picture files out: what is delivered."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from hashlib import md5
from typing import Any, Literal

import cv2
import numba as nb
import numpy as np
import tifffile
from PIL import Image, PngImagePlugin

from ..arrays import AnyArray, Array
from ..errors import PictureError
from ..pixels.spaces import Space
from .colour_spaces import profile_of
from .xmp import EXTENSION, PNG_KEYWORD, XMP_NOTE, XMP_TAG, packet

Format = Literal["png", "png16", "jpeg", "webp", "avif", "tiff", "tiff16"]
Packing = Literal["lzw", "deflate"]


@dataclass(frozen=True)
class FileFormat:
    """A kind of picture file.

    Parameters
    ----------
    suffix : str
        Ending of its files' names.
    longest : int
        Pixels a side that it holds at most.
    bits : 8 or 16
    lossy, transparent : bool
    """

    suffix: str
    longest: int
    bits: Literal[8, 16] = 8
    lossy: bool = False
    transparent: bool = True


NO_LIMIT = 2**31 - 1
FORMATS: dict[str, FileFormat] = {
    "png": FileFormat(".png", NO_LIMIT),
    "png16": FileFormat(".png", NO_LIMIT, bits=16),
    "jpeg": FileFormat(".jpg", 65535, lossy=True, transparent=False),
    "webp": FileFormat(".webp", 16383, lossy=True),
    "avif": FileFormat(".avif", 65536, lossy=True),
    "tiff": FileFormat(".tif", NO_LIMIT),
    "tiff16": FileFormat(".tif", NO_LIMIT, bits=16),
}
PACKINGS = {"lzw": 5, "deflate": 8}
"""Compression by number (TIFF 6.0 and its second supplement)."""
LAYERED = "openraster"
"""Layers in one file: see `openraster`."""
MAPPED = "map"
"""Where points come from, as a TIFF of places."""
SUFFIXES: dict[str, str] = {**{name: one.suffix for name, one in FORMATS.items()}, LAYERED: ".ora", MAPPED: ".map.tif"}
LARGEST_SEGMENT = 65533 - len(EXTENSION) - 40
MOST_PACKET = 65000
"""A JPEG holds no longer XMP packet in one segment."""


@dataclass(frozen=True)
class Note:
    """What a file says besides its pixels.

    Parameters
    ----------
    space : str
        The colour space whose profile is embedded; the pixels must be in it already.
    dpi : float or None
        Dots per inch.
    title, author : str
        Left out where empty.
    trail : dict or None
        The document of the piece, which is then opened from the file again.
    """

    space: Space = "srgb"
    dpi: float | None = None
    title: str = ""
    author: str = ""
    trail: Mapping[str, Any] | None = None

    @cached_property
    def packet(self) -> bytes:
        """The XMP packet; empty where there is nothing to say."""
        return packet(self.title, self.author, None if self.trail is None else dict(self.trail))

    def exif(self, jpeg: bool = False) -> bytes:
        """Return title, author and dots per inch as older viewers look for them (Exif 2.3); empty where there is nothing to say.

        A JPEG's must also tell where its colours lie among its pixels.
        """
        found = Image.Exif()
        for tag, value in ((270, self.title), (315, self.author)):
            if value:
                found[tag] = value.encode()  # in UTF-8, as Exif 3 has it; the library writes other letters than ASCII as ?
        if self.dpi is not None:
            found[282] = found[283] = self.dpi
            found[296] = 2
        if jpeg and len(found):
            found[531] = 1
        return found.tobytes() if len(found) else b""


NOTHING = Note()


DITHER = 0.94
"""How much of a level the dither spans: what lies on a level, to a thirtieth, stays there."""


@nb.njit(nogil=True, fastmath=True, cache=True)
def _quantise(picture, top, out, first, dither):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    one, zero = np.float32(1), np.float32(0)
    for r in range(rows):
        for c in range(cols):
            half = np.float32(0.5)
            if dither > 0:
                # Interleaved gradient noise (J. Jimenez, SIGGRAPH 2014): even in small, the same at every run. One for all channels: grey stays grey.
                inner = 0.06711056 * c + 0.00583715 * (first + r)
                outer = 52.9829189 * (inner - np.floor(inner))
                half += np.float32((outer - np.floor(outer) - 0.5) * dither)
            alpha = min(max(picture[r, c, 3], zero), one)
            scale = top / max(alpha, np.float32(1e-6))
            for k in range(3):
                out[r, c, k] = int(min(max(picture[r, c, k] * scale, zero), top) + half)
            out[r, c, 3] = int(alpha * top + np.float32(0.5))


def to_integers(picture: Array, bits: Literal[8, 16] = 8, first: int | None = None) -> AnyArray:
    """Return a coded premultiplied float picture as straight integers, RGBA.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded sRGB 0…1, premultiplied.
    bits : 8 or 16
    first : int, optional
        Which row of a whole picture its first one is: colours are dithered by less than a level, so that gentle gradients have no bands.

    Returns
    -------
    uint8 or uint16 array (rows, cols, 4)
        Straight alpha; rounded to the nearest where nothing is dithered.
    """
    out = np.empty(picture.shape, np.uint8 if bits == 8 else np.uint16)
    _quantise(
        np.ascontiguousarray(picture, np.float32),
        np.float32(255 if bits == 8 else 65535),
        out,
        first or 0,
        0.0 if first is None else DITHER,
    )
    return out


def collect(shape: tuple[int, int], strips: Iterable[tuple[int, Array]], bits: Literal[8, 16] = 8) -> AnyArray:
    """Gather strips into one straight integer picture, dithered where it has 8 bits; RGB where nothing is transparent.

    Parameters
    ----------
    shape : (rows, cols)
    strips : iterable of (top, strip)
        From the top down, coded premultiplied.
    bits : 8 or 16

    Returns
    -------
    uint8 or uint16 array (rows, cols, 3 or 4)
    """
    kind, opaque = (np.uint8, 255) if bits == 8 else (np.uint16, 65535)
    out = np.empty((*shape, 3), kind)
    for top, strip in strips:
        pixels = to_integers(strip, bits, top if bits == 8 else None)
        if out.shape[2] == 3 and pixels[..., 3].min() < opaque:
            # Most pictures have no transparency, and large ones no room for a channel that says so.
            whole = np.full((*shape, 4), opaque, kind)
            whole[:top, :, :3] = out[:top]
            out = whole
        out[top : top + len(strip)] = pixels[..., : out.shape[2]]
    return out


def _png_chunk(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


def _png16(pixels: AnyArray, note: Note) -> bytes:
    """Write 16-bit PNG through OpenCV and slip what it says in after the header (PNG specification: iCCP, pHYs, iTXt, eXIf)."""
    order = [2, 1, 0, 3] if pixels.shape[2] == 4 else [2, 1, 0]
    done, data = cv2.imencode(".png", pixels[..., order], [cv2.IMWRITE_PNG_COMPRESSION, 4])
    if not done:
        raise PictureError("The 16-bit PNG could not be written.")
    said = _png_chunk(b"iCCP", b"ICC\0\0" + zlib.compress(profile_of(note.space)))
    if note.dpi is not None:
        said += _png_chunk(b"pHYs", struct.pack(">IIB", *[round(note.dpi / 0.0254)] * 2, 1))
    if note.packet:
        said += _png_chunk(b"iTXt", PNG_KEYWORD.encode() + b"\0\0\0\0\0" + note.packet)
    if exif := note.exif():
        said += _png_chunk(b"eXIf", exif.removeprefix(b"Exif\0\0"))
    content = data.tobytes()
    header = 8 + 25
    return content[:header] + said + content[header:]


def _segments(data: bytes) -> tuple[bytes, bytes]:
    """Return the packet that fits into one segment of a JPEG, and further segments where it does not (ISO 16684-3, extended XMP)."""
    if len(data) <= MOST_PACKET:
        return data, b""
    name = md5(data, usedforsecurity=False).hexdigest().upper().encode()
    extra = b""
    for start in range(0, len(data), LARGEST_SEGMENT):
        part = EXTENSION + name + struct.pack(">II", len(data), start) + data[start : start + LARGEST_SEGMENT]
        extra += b"\xff\xe1" + struct.pack(">H", len(part) + 2) + part
    return packet(more=f' xmlns:xmpNote="{XMP_NOTE}" xmpNote:HasExtendedXMP="{name.decode()}"'), extra


def _tiff(pixels: AnyArray, packing: Packing, note: Note) -> bytes:
    out = io.BytesIO()
    tags = [(XMP_TAG, 1, len(note.packet), note.packet, True)] if note.packet else []
    tags += [(tag, 2, 0, value.encode(), True) for tag, value in ((270, note.title), (315, note.author)) if value]
    dots: Any = {} if note.dpi is None else {"resolution": (note.dpi, note.dpi), "resolutionunit": 2}
    tifffile.imwrite(
        out, pixels, photometric="rgb", compression=PACKINGS[packing], predictor=True, rowsperstrip=64, metadata=None, software=False,
        extrasamples=["unassalpha"] if pixels.shape[2] == 4 else None, iccprofile=profile_of(note.space), extratags=tags, **dots,
    )  # fmt: skip
    return out.getvalue()


def on_paper(pixels: AnyArray) -> AnyArray:
    """Lay straight RGBA over white, for formats without transparency.

    Parameters
    ----------
    pixels : integer array (rows, cols, 3 or 4)
        Straight.

    Returns
    -------
    integer array (rows, cols, 3)
    """
    if pixels.shape[2] == 3:
        return pixels
    alpha = pixels[..., 3:].astype(np.float32) / 255
    return (pixels[..., :3] * alpha + 255 * (1 - alpha) + 0.5).astype(np.uint8)


def to_jpeg(picture: Array, quality: int = 85) -> bytes:
    """Return a coded premultiplied float picture as JPEG over white, for previews."""
    out = io.BytesIO()
    Image.fromarray(on_paper(to_integers(picture))).save(out, "JPEG", quality=quality, subsampling=0)
    return out.getvalue()


BAND = 512
BLEED = 24
"""Pixels by which colours reach into what is transparent: as far as blocks and halved colours of lossy files mix neighbours."""


def _bled(pixels: AnyArray) -> AnyArray:
    """Return straight RGBA whose colours go on a little into what is fully transparent: else soft edges of lossy files are mixed with its black."""
    if pixels.shape[2] == 3 or pixels[..., 3].min() > 0 or pixels[..., 3].max() == 0:
        return pixels
    out = pixels.copy()
    # In bands, each seen with as much around it as colours reach: distances of a whole poster would take twice its room.
    for top in range(0, len(pixels), BAND):
        begin = max(0, top - BLEED)
        band = pixels[begin : top + BAND + BLEED]
        gone = (band[..., 3] == 0).astype(np.uint8)
        if not gone.any() or gone.all():
            continue
        distance, labels = cv2.distanceTransformWithLabels(gone, cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL)
        nearest = np.zeros((labels.max() + 1, 3), np.uint8)
        nearest[labels[gone == 0]] = band[gone == 0][:, :3]
        reached = (gone == 1) & (distance <= BLEED)
        reached[: top - begin] = reached[top - begin + BAND :] = False
        out[begin : begin + len(band)][reached, :3] = nearest[labels[reached]]
    return out


def encode(pixels: AnyArray, kind: Format, quality: int = 90, note: Note = NOTHING, packing: Packing = "deflate") -> bytes:
    """Encode straight integer RGB or RGBA as a file: a colour profile embedded, nothing else about the photo but what `note` says.

    Parameters
    ----------
    pixels : uint8 or uint16 array (rows, cols, 3 or 4)
        Straight; 16 bits for `png16` and `tiff16` alone.
    kind : str
        A file format.
    quality : int
        1…100, for formats that lose something.
    note : Note
    packing : str
        How a TIFF is made smaller.

    Returns
    -------
    bytes

    Raises
    ------
    PictureError
        A side is longer than the format can hold.
    """
    longest = FORMATS[kind].longest
    if max(pixels.shape[:2]) > longest:
        raise PictureError(
            f"{kind} files hold at most {longest} pixels a side; this one has {max(pixels.shape[:2])}. Choose PNG or a smaller size."
        )
    if kind == "png16":
        return _png16(pixels, note)
    if kind in ("tiff", "tiff16"):
        return _tiff(pixels, packing, note)
    out = io.BytesIO()
    said: dict[str, Any] = {"icc_profile": profile_of(note.space)}
    if exif := note.exif(kind == "jpeg"):
        said["exif"] = exif
    if note.dpi is not None and kind in ("png", "jpeg"):
        said["dpi"] = (note.dpi, note.dpi)
    if kind == "jpeg":
        xmp, extra = _segments(note.packet)
        said |= ({"xmp": xmp} if xmp else {}) | ({"extra": extra} if extra else {})
        Image.fromarray(on_paper(pixels)).save(out, "JPEG", quality=quality, subsampling=0 if quality >= 90 else 2, **said)
    elif kind == "png":
        info = PngImagePlugin.PngInfo()
        if note.packet:
            info.add_itxt(PNG_KEYWORD, note.packet.decode())
        Image.fromarray(pixels).save(out, "PNG", compress_level=4, pnginfo=info, **said)
    else:
        if note.packet:
            said["xmp"] = note.packet
        pixels = _bled(pixels)
        subsampling = "4:4:4" if quality >= 90 else "4:2:0"
        writer: Any = {"webp": {"method": 4, "exact": True}, "avif": {"speed": 7, "subsampling": subsampling}}[kind]
        Image.fromarray(pixels).save(out, kind.upper(), quality=quality, **writer, **said)
    return out.getvalue()
