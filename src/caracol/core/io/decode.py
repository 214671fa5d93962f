"""Picture files in: what cameras and the web give."""

from __future__ import annotations

import io
import logging
import traceback
from dataclasses import dataclass
from hashlib import blake2b
from pathlib import Path

import cv2
import numpy as np
from PIL import Image, ImageCms, ImageOps

from ..arrays import AnyArray, Texels
from ..errors import MissingPhoto, PictureError
from ..pixels.light import FULL, coded_to_linear
from ..pixels.pyramid import Pyramid, build_pyramid
from .colour_spaces import profile_of
from .tags import TIFF_MARKS, overlong
from .tiff import read_tiff, size_of

PACKAGE = Path(__file__).resolve().parents[2]
log = logging.getLogger(__name__)
READABLE = ("JPEG", "MPO", "PNG", "WEBP", "TIFF", "AVIF")
"""MPO is a JPEG with more pictures after the first, as many phones and cameras write."""
MOST_PIXELS = 100_000_000
BLOCK = 256
"""Rows that are turned into texels at a time, so that nothing of the whole size is held besides."""
# We check sizes ourselves, before any pixel is decoded, and say so in our own words.
Image.MAX_IMAGE_PIXELS = None


@dataclass(frozen=True)
class Loaded:
    """A photo as read: 16-bit linear premultiplied texels, what its owner should know, and what kind of file it was."""

    texels: Texels
    notes: tuple[str, ...]
    kind: str


def _check_size(name: str, width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"{name} has {width} × {height} pixels ({width * height / 1e6:.0f} megapixels); at most {MOST_PIXELS / 1e6:.0f} are taken. Make it smaller first."
        )
    if min(width, height) < 2:
        raise PictureError(f"{name} is {width} × {height} pixels; a photo needs at least 2 on each side.")


def _to_texels(data: AnyArray, bgr: bool = False) -> Texels:
    """Turn straight 8- or 16-bit sRGB, (rows, cols, 1 to 4: grey, grey and alpha, RGB, RGBA), into linear premultiplied texels."""
    top = np.iinfo(data.dtype).max
    table = (coded_to_linear(np.arange(top + 1, dtype=np.float32) / top) * FULL + 0.5).astype(np.uint16)
    rows, cols, channels = data.shape
    out = np.empty((rows, cols, 4), np.uint16)
    for start in range(0, rows, BLOCK):
        part, into = data[start : start + BLOCK], out[start : start + BLOCK]
        colours = part[..., :1] if channels <= 2 else part[..., 2::-1] if bgr else part[..., :3]
        into[..., :3] = table[colours]
        into[..., 3] = 65535
        if channels in (2, 4):
            into[..., 3] = part[..., -1].astype(np.uint16) * (257 if top == 255 else 1)
            if into[..., 3].min() < 65535:
                share = into[..., 3:].astype(np.float32) / FULL
                into[..., :3] = (into[..., :3] * share + 0.5).astype(np.uint16)
    return out


def _turned(data: AnyArray, orientation: int) -> AnyArray:
    """Apply an EXIF orientation 1…8 to an array."""
    if orientation in (5, 6, 7, 8):
        data = np.swapaxes(data, 0, 1)
    if orientation in (2, 3, 6, 7):
        data = data[:, ::-1]
    if orientation in (3, 4, 7, 8):
        data = data[::-1]
    return np.ascontiguousarray(data)


def _through_profile(base: Image.Image, profile: bytes | None, notes: list[str]) -> Image.Image:
    """Convert RGB, grey or inks to sRGB through their profile, where there is one that holds."""
    if profile:
        try:
            made = ImageCms.profileToProfile(base, ImageCms.ImageCmsProfile(io.BytesIO(profile)), SRGB, outputMode="RGB")
        except (ImageCms.PyCMSError, OSError) as error:
            notes.append(f"Its colour profile could not be used ({error}); its colours were taken as sRGB.")
        else:
            if made is not None:
                return made
    return base.convert("RGB")


def _to_srgb(image: Image.Image, notes: list[str]) -> AnyArray:
    """Return straight 8-bit sRGB, RGB or RGBA."""
    alpha = image.convert("RGBA").getchannel("A") if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info else None
    base = image if image.mode in ("RGB", "CMYK", "L") else image.convert("L" if image.mode == "LA" else "RGB")
    if image.mode.startswith("I;16") or image.mode in ("I", "F"):
        base = Image.fromarray((np.clip(np.asarray(image, np.float64) / 257, 0, 255) + 0.5).astype(np.uint8))
    rgb = np.asarray(_through_profile(base, image.info.get("icc_profile"), notes))
    return rgb if alpha is None else np.concatenate([rgb, np.asarray(alpha)[..., None]], axis=-1)


SRGB = ImageCms.ImageCmsProfile(io.BytesIO(profile_of("srgb")))


def _is_srgb(profile: bytes | None) -> bool:
    if not profile:
        return True
    try:
        return "srgb" in (ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(profile))) or "").lower()
    except (ImageCms.PyCMSError, OSError):
        return False


def _plain(data: AnyArray, profile: bytes | None, notes: list[str]) -> AnyArray:
    """Return samples as they are where they are sRGB, else converted through their profile, at 8 bits."""
    if _is_srgb(profile):
        return data
    if data.dtype == np.uint16:
        notes.append("Its 16-bit colours are in a profile of their own and were read at 8 bits.")
        data = (data >> 8).astype(np.uint8)
    channels = data.shape[2]
    colours = data[..., 0] if channels <= 2 else data[..., :3]
    rgb = np.asarray(_through_profile(Image.fromarray(np.ascontiguousarray(colours)), profile, notes))
    return rgb if channels in (1, 3) else np.concatenate([rgb, data[..., -1:]], axis=-1)


def _read_tiff(content: bytes, name: str, notes: list[str]) -> Texels | None:
    if (tag := overlong(content)) is not None:
        raise PictureError(
            f"{name} is damaged or cut short: its tag {tag.number} says it has {tag.count:,} values, and the file has {len(content):,} bytes. "
            "Copy it again from where it came from."
        )
    _check_size(name, *size_of(content))
    found = read_tiff(content, name)
    if found is None:
        return None
    notes.extend(found.notes)
    return _turned(_to_texels(_plain(found.data, found.profile, notes)), found.orientation)


def _read_deep_png(image: Image.Image, content: bytes, notes: list[str], orientation: int) -> Texels | None:
    """Return a PNG of 16 bits; None for any other."""
    if image.format != "PNG" or len(content) < 25 or content[24] != 16 or getattr(image, "is_animated", False):
        return None
    profile = image.info.get("icc_profile")
    data = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    if data is None or data.dtype != np.uint16:
        return None
    data = data[..., None] if data.ndim == 2 else data
    if not _is_srgb(profile):
        data = _plain(data[..., [2, 1, 0, 3][: data.shape[2]]] if data.shape[2] > 2 else data, profile, notes)
        return _turned(_to_texels(data), orientation)
    return _turned(_to_texels(data, bgr=True), orientation)


def _decoded(content: bytes, name: str, notes: list[str]) -> tuple[Texels, str]:
    kind = "TIFF" if content[:4] in TIFF_MARKS else ""
    if kind and (found := _read_tiff(content, name, notes)) is not None:
        return found, kind
    try:
        image = Image.open(io.BytesIO(content))
    except Exception as error:
        if kind:
            raise
        raise PictureError(f"{name} is not a picture that can be read; JPEG, PNG, WebP, TIFF and AVIF can.") from error
    if image.format not in READABLE:
        raise PictureError(f"{name} is a {image.format} file; JPEG, PNG, WebP, TIFF and AVIF can be read.")
    _check_size(name, *image.size)
    if getattr(image, "n_frames", 1) > 1 and image.format not in ("TIFF", "MPO"):
        notes.append(f"It holds {image.n_frames} pictures; the first was taken.")  # type: ignore[attr-defined]
    orientation = int(image.getexif().get(0x0112, 1) or 1)
    texels = _read_deep_png(image, content, notes, orientation)
    if texels is None:
        texels = _to_texels(_to_srgb(ImageOps.exif_transpose(image), notes))
    return texels, str(image.format)


def _is_our_own(error: BaseException) -> bool:
    """Whether a fault was raised by our own code, and not by what reads the bytes of files: that is how the library says that a file is damaged."""
    frames = [frame.f_code.co_filename for frame, _ in traceback.walk_tb(error.__traceback__)]
    return isinstance(error, TypeError | NameError | AttributeError | AssertionError) and frames[-1].startswith(str(PACKAGE))


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
        Empty, not a picture, truncated, too large or too small, or of a kind that would come out wrong; the message says which.
    """
    if not content:
        raise PictureError(f"{name} is empty (0 bytes). Copy it again from where it came from.")
    notes: list[str] = []
    try:
        texels, kind = _decoded(content, name, notes)
    except PictureError:
        raise
    except MemoryError as error:
        log.exception("no memory to decode a picture")
        raise PictureError(
            f"There is not enough memory here to read {name}. The file may be fine: close something else, or make it smaller."
        ) from error
    except Exception as error:
        if _is_our_own(error):
            log.exception("fault while a picture was decoded")
            raise PictureError(
                f"Caracol could not read {name}: a fault of its own ({error}), which its log has. The file may be fine."
            ) from error
        raise PictureError(f"{name} is damaged or cut short ({error}). Copy it again from where it came from.") from error
    return Loaded(texels, tuple(notes), kind)


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
        raise MissingPhoto(f"photo {name!r} is not in {looked}; put it there, or say with --photos where it lies")

    def pyramid(self, name: str) -> Pyramid:
        """Return the photo of this name."""
        return self._load(name)[0]

    def digest(self, name: str) -> str:
        """Return a digest of the photo's bytes."""
        return self._load(name)[1]
