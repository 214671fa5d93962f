"""Picture files in: what cameras and the web give."""

from __future__ import annotations

import io
import logging
import math
import traceback
from dataclasses import dataclass
from hashlib import blake2b
from pathlib import Path

import cv2
import imagecodecs
import numpy as np
from PIL import Image, ImageCms, ImageOps

from ..arrays import AnyArray, Texels
from ..errors import MissingPhoto, PictureError
from ..pixels.light import FULL, coded_to_linear
from ..pixels.pyramid import Pyramid, build_pyramid
from ..pixels.spaces import Space
from .colour_spaces import profile_of
from .meaning import Boxes, Meaning, Named, Profiled, boxes_of_avif, meaning_of_png, reaches_beyond
from .tags import TIFF_MARKS, overlong
from .tiff import read_tiff, size_of

PACKAGE = Path(__file__).resolve().parents[2]
Read = tuple[Texels, Space]
"""Texels and the space of their numbers."""
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
    """A photo as read: 16-bit linear premultiplied texels, what its owner should know, what kind of file it was, and the space of its texels."""

    texels: Texels
    notes: tuple[str, ...]
    kind: str
    space: Space = "srgb"


def _check_size(name: str, width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"{name} has {width} × {height} pixels ({width * height / 1e6:.0f} megapixels); at most {MOST_PIXELS / 1e6:.0f} are taken. Make it smaller first."
        )
    if min(width, height) < 2:
        raise PictureError(f"{name} is {width} × {height} pixels; a photo needs at least 2 on each side.")


def _to_texels(data: AnyArray, bgr: bool = False, meaning: Meaning | None = None, space: Space = "srgb") -> Texels:
    """Turn straight 8- or 16-bit samples, (rows, cols, 1 to 4: grey, grey and alpha, RGB, RGBA), into linear premultiplied texels of a space.

    They are sRGB, or what `meaning` says.
    """
    top = np.iinfo(data.dtype).max
    table = (coded_to_linear(np.arange(top + 1, dtype=np.float32) / top) * FULL + 0.5).astype(np.uint16)
    rows, cols, channels = data.shape
    out = np.empty((rows, cols, 4), np.uint16)
    for start in range(0, rows, BLOCK):
        part, into = data[start : start + BLOCK], out[start : start + BLOCK]
        colours = part[..., :1] if channels <= 2 else part[..., 2::-1] if bgr else part[..., :3]
        into[..., :3] = table[colours] if meaning is None else meaning.texels(colours, space)
        into[..., 3] = 65535
        if channels in (2, 4):
            into[..., 3] = part[..., -1].astype(np.uint16) * (257 if top == 255 else 1)
            if into[..., 3].min() < 65535:
                share = into[..., 3:].astype(np.float32) / FULL
                into[..., :3] = (into[..., :3] * share + 0.5).astype(np.uint16)
    return out


def _turned(read: Read, orientation: int) -> Read:
    """Apply an EXIF orientation 1…8 to texels."""
    data, space = read
    if orientation in (5, 6, 7, 8):
        data = np.swapaxes(data, 0, 1)
    if orientation in (2, 3, 6, 7):
        data = data[:, ::-1]
    if orientation in (3, 4, 7, 8):
        data = data[::-1]
    return np.ascontiguousarray(data), space


SRGB = ImageCms.ImageCmsProfile(io.BytesIO(profile_of("srgb")))
SPACES = {"RGB": "rgb", "GRAY": "gray"}


def _from_inks(image: Image.Image, profile: bytes | None, notes: list[str]) -> Image.Image:
    """Convert inks to sRGB through their profile, where there is one that holds."""
    if profile is None:
        notes.append("Its inks (CMYK) come without a profile; what colours they give is a guess.")
        return image.convert("RGB")
    try:
        made = ImageCms.profileToProfile(image, ImageCms.ImageCmsProfile(io.BytesIO(profile)), SRGB, outputMode="RGB")
    except (ImageCms.PyCMSError, OSError) as error:
        notes.append(f"Its colour profile could not be used ({error}); what colours its inks give is a guess.")
        return image.convert("RGB")
    return image.convert("RGB") if made is None else made


def _profiled(profile: bytes, channels: int, notes: list[str]) -> Profiled | None:
    """Return what a profile says of samples of grey or RGB, None where that is sRGB; that it cannot be used is noted."""
    try:
        space = str(ImageCms.ImageCmsProfile(io.BytesIO(profile)).profile.xcolor_space).strip()
        if space in SPACES and (space != "GRAY" or channels == 1):
            found = Profiled(profile, SPACES[space])
            return None if found.is_srgb else found
        fault = f"it is one for {space}"
    except (ImageCms.PyCMSError, imagecodecs.CmsError, OSError) as error:
        fault = str(error)
    notes.append(f"Its colour profile could not be used ({fault}); its colours were taken as sRGB.")
    return None


def _meaning(colours: AnyArray, profile: bytes | None, named: Named | None, notes: list[str]) -> tuple[Meaning | None, Space]:
    """Return what samples of grey or RGB mean, None where that is sRGB, and the space that has their colours; what is lost is noted."""
    meaning = named or (_profiled(profile, colours.shape[2], notes) if profile else None)
    if meaning is None or meaning.is_srgb:
        return None, "srgb"
    bright = isinstance(meaning, Named) and meaning.is_bright
    most = math.inf if bright else 1.0
    if bright:
        notes.append("It holds light beyond white; what is brighter than white was cut off.")
    if not reaches_beyond(meaning, colours, "srgb", most):
        return meaning, "srgb"
    more = reaches_beyond(meaning, colours, "display-p3", most)
    notes.append(
        "Some of its colours are wider than sRGB: pieces with it are worked in Display P3, and files of that space keep them."
        + (" Those wider than that were brought in to the nearest it has." if more else "")
    )
    return meaning, "display-p3"


def _read(data: AnyArray, profile: bytes | None, named: Named | None, notes: list[str], bgr: bool = False) -> Read:
    """Return texels of straight samples, and their space, by what their file says of their colours."""
    colours = data[..., :1] if data.shape[2] <= 2 else data[..., 2::-1] if bgr else data[..., :3]
    meaning, space = _meaning(colours, profile, named, notes)
    return _to_texels(data, bgr, meaning, space), space


def _samples(image: Image.Image, notes: list[str]) -> AnyArray:
    """Return straight 8-bit samples, (rows, cols, 1 to 4)."""
    alpha = image.convert("RGBA").getchannel("A") if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info else None
    base = image if image.mode in ("RGB", "CMYK", "L") else image.convert("L" if image.mode == "LA" else "RGB")
    if image.mode.startswith("I;16") or image.mode in ("I", "F"):
        base = Image.fromarray((np.clip(np.asarray(image, np.float64) / 257, 0, 255) + 0.5).astype(np.uint8))
    if base.mode == "CMYK":
        base = _from_inks(base, image.info.get("icc_profile"), notes)
    data = np.asarray(base)
    data = data[..., None] if data.ndim == 2 else data
    return data if alpha is None else np.concatenate([data, np.asarray(alpha)[..., None]], axis=-1)


def _read_tiff(content: bytes, name: str, notes: list[str]) -> Read | None:
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
    return _turned(_read(found.data, found.profile, None, notes), found.orientation)


def _read_deep_png(image: Image.Image, content: bytes, notes: list[str], orientation: int) -> Read | None:
    """Return a PNG of 16 bits; None for any other."""
    if image.format != "PNG" or len(content) < 25 or content[24] != 16 or getattr(image, "is_animated", False):
        return None
    data = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    if data is None or data.dtype != np.uint16:
        return None
    data = data[..., None] if data.ndim == 2 else data
    return _turned(_read(data, image.info.get("icc_profile"), meaning_of_png(content), notes, bgr=True), orientation)


def _read_deep_avif(boxes: Boxes, content: bytes, profile: bytes | None, notes: list[str], orientation: int) -> Read:
    """Return an AVIF of 10 or 12 bits."""
    data = np.asarray(imagecodecs.avif_decode(content, index=0))
    data = data[..., None] if data.ndim == 2 else data
    if data.dtype == np.uint16:  # else only something beside the picture, such as its alpha, has more bits
        data = (data.astype(np.uint32) * 65535 // (2**boxes.bits - 1)).astype(np.uint16)
    return _turned(_read(data, profile, None if profile else boxes.named, notes), orientation)


def _decoded(content: bytes, name: str, notes: list[str]) -> tuple[Read, str]:
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
    if (texels := _read_deep_png(image, content, notes, orientation)) is not None:
        return texels, str(image.format)
    profile = image.info.get("icc_profile")
    named = meaning_of_png(content) if image.format == "PNG" else None
    if image.format == "AVIF":
        boxes = boxes_of_avif(content)
        if boxes.bits > 8:
            return _read_deep_avif(boxes, content, profile, notes, orientation), "AVIF"
        named = None if profile else boxes.named
    inks = image.mode == "CMYK"
    data = _samples(ImageOps.exif_transpose(image), notes)
    return _read(data, None if inks else profile, None if inks else named, notes), str(image.format)


def _is_our_own(error: BaseException) -> bool:
    """Whether a fault was raised by our own code, and not by what reads the bytes of files: that is how the library says that a file is damaged."""
    frames = [frame.f_code.co_filename for frame, _ in traceback.walk_tb(error.__traceback__)]
    return isinstance(error, TypeError | NameError | AttributeError | AssertionError) and frames[-1].startswith(str(PACKAGE))


def read_photo(content: bytes, name: str = "The file") -> Loaded:
    """Decode a picture file into texels: upright, sRGB or Display P3 where its colours reach beyond that, with its alpha.

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
        (texels, space), kind = _decoded(content, name, notes)
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
    return Loaded(texels, tuple(notes), kind, space)


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
            self._read[name] = (build_pyramid(loaded.texels, loaded.space), blake2b(content, digest_size=16).hexdigest())
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
