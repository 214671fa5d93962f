"""Picture files: reading what cameras and the web give, writing what is delivered."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Iterable
from dataclasses import dataclass
from hashlib import blake2b
from pathlib import Path
from typing import Literal

import cv2
import numba as nb
import numpy as np
import tifffile
from PIL import Image, ImageCms, ImageOps

from ..arrays import AnyArray, Array, Texels
from ..errors import MissingPhoto, PictureError
from ..pixels.light import FULL, coded_to_linear
from ..pixels.pyramid import Pyramid, build_pyramid

READABLE = ("JPEG", "PNG", "WEBP", "TIFF", "AVIF")
MOST_PIXELS = 100_000_000
Format = Literal["png", "png16", "jpeg", "webp"]
SUFFIXES: dict[str, str] = {"png": ".png", "png16": ".png", "jpeg": ".jpg", "webp": ".webp"}
WEBP_LIMIT = 16383
JPEG_LIMIT = 65535
SRGB_PROFILE = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
# We check sizes ourselves, before any pixel is decoded, and say so in our own words.
Image.MAX_IMAGE_PIXELS = None


@dataclass(frozen=True)
class Loaded:
    """A photo as read: 16-bit linear premultiplied texels, and what its owner should know."""

    texels: Texels
    notes: tuple[str, ...]


def _check_size(name: str, width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"{name} has {width} × {height} pixels ({width * height / 1e6:.0f} megapixels); at most {MOST_PIXELS / 1e6:.0f} are taken. Make it smaller first."
        )
    if min(width, height) < 2:
        raise PictureError(f"{name} is {width} × {height} pixels; a photo needs at least 2 on each side.")


def _to_texels(rgba: AnyArray) -> Texels:
    """Turn straight 8- or 16-bit sRGB RGBA into linear premultiplied texels."""
    top = 255 if rgba.dtype == np.uint8 else 65535
    table = (coded_to_linear(np.arange(top + 1, dtype=np.float32) / top) * FULL + 0.5).astype(np.uint16)
    out = np.empty(rgba.shape, np.uint16)
    for k in range(3):
        out[..., k] = table[rgba[..., k]]
    out[..., 3] = rgba[..., 3].astype(np.uint16) * (257 if top == 255 else 1)
    if out[..., 3].min() < 65535:
        share = out[..., 3:].astype(np.float32) / FULL
        out[..., :3] = (out[..., :3] * share + 0.5).astype(np.uint16)
    return out


def _rgba16(data: AnyArray) -> AnyArray:
    """Bring a 16-bit grey, RGB or RGBA array (any colour order already fixed) to RGBA."""
    if data.ndim == 2:
        data = data[..., None]
    if data.shape[2] <= 2:
        data = np.concatenate([np.repeat(data[..., :1], 3, axis=2), data[..., 1:]], axis=2)
    if data.shape[2] == 3:
        data = np.concatenate([data, np.full((*data.shape[:2], 1), 65535, np.uint16)], axis=2)
    return data[..., :4]


def _sixteen_bit(image: Image.Image, content: bytes) -> AnyArray | None:
    """Return 16-bit straight RGBA where the file holds it plainly, before orientation; else None."""
    data: AnyArray | None = None
    if image.format == "PNG" and len(content) > 24 and content[24] == 16 and not getattr(image, "is_animated", False):
        data = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
        if data is not None and data.ndim == 3:
            data = data[..., [2, 1, 0, 3] if data.shape[2] == 4 else [2, 1, 0]]
    elif image.format == "TIFF":
        page = tifffile.TiffFile(io.BytesIO(content)).pages[0]
        if page.dtype == np.uint16 and getattr(page, "photometric", 2) in (1, 2) and page.planarconfig == 1:  # type: ignore[union-attr]
            data = page.asarray()
    return None if data is None or data.dtype != np.uint16 else _rgba16(data)


def _turned(data: AnyArray, orientation: int) -> AnyArray:
    """Apply an EXIF orientation 1…8 to an array."""
    if orientation in (5, 6, 7, 8):
        data = np.swapaxes(data, 0, 1)
    if orientation in (2, 3, 6, 7):
        data = data[:, ::-1]
    if orientation in (3, 4, 7, 8):
        data = data[::-1]
    return np.ascontiguousarray(data)


def _to_srgb(image: Image.Image, notes: list[str]) -> Image.Image:
    """Convert to straight 8-bit sRGB RGBA through the embedded profile, where there is one that holds."""
    profile = image.info.get("icc_profile")
    alpha = image.convert("RGBA").getchannel("A") if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info else None
    base = image if image.mode in ("RGB", "CMYK", "L") else image.convert("L" if image.mode == "LA" else "RGB")
    if image.mode.startswith("I;16") or image.mode in ("I", "F"):
        base = Image.fromarray((np.clip(np.asarray(image, np.float64) / 257, 0, 255) + 0.5).astype(np.uint8))
    converted = None
    if profile:
        try:
            converted = ImageCms.profileToProfile(base, ImageCms.ImageCmsProfile(io.BytesIO(profile)), SRGB, outputMode="RGB")
        except (ImageCms.PyCMSError, OSError) as error:
            notes.append(f"Its colour profile could not be used ({error}); its colours were taken as sRGB.")
    out = (converted or base).convert("RGBA")
    if alpha is not None:
        out.putalpha(alpha)
    return out


SRGB = ImageCms.ImageCmsProfile(io.BytesIO(SRGB_PROFILE))


def _is_srgb(profile: bytes | None) -> bool:
    if not profile:
        return True
    try:
        return "srgb" in (ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(profile))) or "").lower()
    except (ImageCms.PyCMSError, OSError):
        return False


def read_photo(content: bytes, name: str = "The file") -> Loaded:
    """Decode a picture file into texels: upright, sRGB, with its alpha.

    Parameters
    ----------
    content : bytes
        The whole file.
    name : str
        What to call it in messages.

    Raises
    ------
    PictureError
        Empty, not a picture, truncated, too large or too small; the message says which.
    """
    if not content:
        raise PictureError(f"{name} is empty (0 bytes). Copy it again from where it came from.")
    try:
        image = Image.open(io.BytesIO(content))
    except Exception as error:
        raise PictureError(f"{name} is not a picture that can be read; JPEG, PNG, WebP, TIFF and AVIF can.") from error
    if image.format not in READABLE:
        raise PictureError(f"{name} is a {image.format} file; JPEG, PNG, WebP, TIFF and AVIF can be read.")
    _check_size(name, *image.size)
    notes = []
    if getattr(image, "n_frames", 1) > 1 and image.format != "TIFF":
        notes.append(f"It holds {image.n_frames} pictures; the first was taken.")  # type: ignore[attr-defined]
    try:
        orientation = int(image.getexif().get(0x0112, 1) or 1)
        deep = _sixteen_bit(image, content)
        if deep is not None and _is_srgb(image.info.get("icc_profile")):
            rgba = _turned(deep, orientation)
        else:
            if deep is not None:
                notes.append("Its 16-bit colours are in a profile of their own and were read at 8 bits.")
            rgba = np.asarray(_to_srgb(ImageOps.exif_transpose(image), notes))
    except PictureError:
        raise
    except Exception as error:
        raise PictureError(f"{name} is damaged or cut short ({error}). Copy it again from where it came from.") from error
    texels = _to_texels(rgba)
    return Loaded(texels, tuple(notes))


class PhotoFolder:
    """Photos looked up by file name in folders; read once, kept until the last user lets go."""

    def __init__(self, *folders: Path) -> None:
        self.folders = folders
        self._read: dict[str, tuple[Pyramid, str]] = {}

    def _load(self, name: str) -> tuple[Pyramid, str]:
        if name not in self._read:
            path = self._find(name)
            content = path.read_bytes()
            loaded = read_photo(content, path.name)
            self._read[name] = (build_pyramid(loaded.texels), blake2b(content, digest_size=16).hexdigest())
        return self._read[name]

    def _find(self, name: str) -> Path:
        if Path(name).name != name or name in ("", ".", ".."):
            raise MissingPhoto(f"photo {name!r}: must be a plain file name, looked up in the photos folder")
        for folder in self.folders:
            if (folder / name).is_file():
                return folder / name
        looked = " or ".join(f"{folder}" for folder in self.folders)
        raise MissingPhoto(f"photo {name!r} is not in {looked}; put it there or name its folder with --photos")

    def pyramid(self, name: str) -> Pyramid:
        """Return the photo of this name."""
        return self._load(name)[0]

    def digest(self, name: str) -> str:
        """Return a digest of the photo's bytes."""
        return self._load(name)[1]


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
    out = np.empty((*shape, 4), np.uint8 if bits == 8 else np.uint16)
    for top, strip in strips:
        out[top : top + len(strip)] = to_integers(strip, bits)
    return out if out[..., 3].min() < (255 if bits == 8 else 65535) else out[..., :3]


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
