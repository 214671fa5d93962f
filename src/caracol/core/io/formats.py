"""Picture files out: what is delivered."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Iterable
from typing import Literal

import cv2
import numba as nb
import numpy as np
from PIL import Image, ImageCms

from ..arrays import AnyArray, Array
from ..errors import PictureError

Format = Literal["png", "png16", "jpeg", "webp"]
SUFFIXES: dict[str, str] = {"png": ".png", "png16": ".png", "jpeg": ".jpg", "webp": ".webp"}
WEBP_LIMIT = 16383
JPEG_LIMIT = 65535
SRGB_PROFILE = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()


@nb.njit(nogil=True, fastmath=True, cache=True)
def _quantise(picture, top, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    one, zero = np.float32(1), np.float32(0)
    for r in range(rows):
        for c in range(cols):
            alpha = min(max(picture[r, c, 3], zero), one)
            scale = top / max(alpha, np.float32(1e-6))
            for k in range(3):
                out[r, c, k] = int(min(max(picture[r, c, k] * scale, zero), top) + np.float32(0.5))
            out[r, c, 3] = int(alpha * top + np.float32(0.5))


def to_integers(picture: Array, bits: Literal[8, 16] = 8) -> AnyArray:
    """Return a coded premultiplied float picture as straight integers, RGBA.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded sRGB 0…1, premultiplied.
    bits : 8 or 16

    Returns
    -------
    uint8 or uint16 array (rows, cols, 4)
        Straight alpha; rounded to the nearest.
    """
    out = np.empty(picture.shape, np.uint8 if bits == 8 else np.uint16)
    _quantise(np.ascontiguousarray(picture, np.float32), np.float32(255 if bits == 8 else 65535), out)
    return out


def collect(shape: tuple[int, int], strips: Iterable[tuple[int, Array]], bits: Literal[8, 16] = 8) -> AnyArray:
    """Gather strips into one straight integer picture; RGB where nothing is transparent.

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
        pixels = to_integers(strip, bits)
        if out.shape[2] == 3 and pixels[..., 3].min() < opaque:
            # Most pictures have no transparency, and large ones no room for a channel that says so.
            whole = np.full((*shape, 4), opaque, kind)
            whole[:top, :, :3] = out[:top]
            out = whole
        out[top : top + len(strip)] = pixels[..., : out.shape[2]]
    return out


def _png_chunk(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


def _png16(pixels: AnyArray) -> bytes:
    """Write 16-bit PNG through OpenCV and slip the colour profile in after the header (PNG specification, iCCP)."""
    order = [2, 1, 0, 3] if pixels.shape[2] == 4 else [2, 1, 0]
    done, data = cv2.imencode(".png", pixels[..., order], [cv2.IMWRITE_PNG_COMPRESSION, 4])
    if not done:
        raise PictureError("The 16-bit PNG could not be written.")
    content = data.tobytes()
    header = 8 + 25
    return content[:header] + _png_chunk(b"iCCP", b"sRGB\0\0" + zlib.compress(SRGB_PROFILE)) + content[header:]


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


def encode(pixels: AnyArray, kind: Format, quality: int = 90) -> bytes:
    """Encode straight integer RGB or RGBA as a file: sRGB profile embedded, no other data about the photo.

    Parameters
    ----------
    pixels : uint8 or uint16 array (rows, cols, 3 or 4)
        Straight; 16 bits for `png16` alone.
    kind : str
        A file format.
    quality : int
        1…100, for formats that lose something.

    Returns
    -------
    bytes

    Raises
    ------
    PictureError
        A side is longer than the format can hold.
    """
    if kind == "png16":
        return _png16(pixels)
    limit = {"webp": WEBP_LIMIT, "jpeg": JPEG_LIMIT}.get(kind)
    if limit and max(pixels.shape[:2]) > limit:
        raise PictureError(
            f"{kind} files hold at most {limit} pixels a side; this one has {max(pixels.shape[:2])}. Choose PNG or a smaller size."
        )
    out = io.BytesIO()
    if kind == "jpeg":
        Image.fromarray(on_paper(pixels)).save(
            out, "JPEG", quality=quality, subsampling=0 if quality >= 90 else 2, icc_profile=SRGB_PROFILE
        )
    elif kind == "webp":
        Image.fromarray(pixels).save(out, "WEBP", quality=quality, method=4, icc_profile=SRGB_PROFILE)
    else:
        Image.fromarray(pixels).save(out, "PNG", compress_level=4, icc_profile=SRGB_PROFILE)
    return out.getvalue()
