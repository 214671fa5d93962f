"""TIFF files: what their samples mean, from their tags; what cannot be read right is refused."""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Any

import numpy as np
import tifffile

from ..arrays import AnyArray
from ..errors import PictureError

WHITE_IS_ZERO, BLACK_IS_ZERO, RGB, PALETTE, SEPARATED, YCBCR = 0, 1, 2, 3, 5, 6
NAMES = {
    4: "a transparency mask",
    8: "LAB colours",
    9: "LAB colours",
    10: "LAB colours",
    32803: "a camera's raw mosaic",
    32844: "logarithmic light",
    32845: "logarithmic light",
    34892: "a camera's raw samples",
}
"""Photometric interpretations that are refused (TIFF 6.0 and its supplements)."""
UNSPECIFIED, ASSOCIATED, STRAIGHT = 0, 1, 2
BYTE_COUNTS = 279, 325
PHOTOMETRIC, ORIENTATION, PROFILE = 262, 274, 34675


@dataclass(frozen=True)
class Plain:
    """A TIFF picture whose samples are plain: straight grey, grey and alpha, RGB or RGBA, 8 or 16 bits; and what else its tags say."""

    data: AnyArray
    orientation: int
    profile: bytes | None
    notes: tuple[str, ...]


def size_of(content: bytes) -> tuple[int, int]:
    """Return (width, height) of the first picture, from its tags alone."""
    with tifffile.TiffFile(io.BytesIO(content)) as file:
        page = file.pages[0]
        return int(page.imagewidth), int(page.imagelength)  # type: ignore[union-attr]


def read_tiff(content: bytes, name: str) -> Plain | None:
    """Return the first picture of a TIFF file; None where it is one that a general reader reads right (palettes, inks, a few bits).

    Raises
    ------
    PictureError
        Its samples mean what is not read here: the sentence says what, and what to save it as.
    """
    with tifffile.TiffFile(io.BytesIO(content)) as file:
        page = file.pages[0]
        photometric, samples = int(page.photometric), int(page.samplesperpixel)  # type: ignore[union-attr]
        if PHOTOMETRIC not in page.tags:  # type: ignore[union-attr]
            raise PictureError(f"{name} is damaged: it does not say what its numbers mean. Copy it again from where it came from.")
        bits = page.bitspersample  # type: ignore[union-attr]
        bits = int(max(bits)) if isinstance(bits, tuple) else int(bits)
        _check_meaning(name, photometric, bits, int(page.sampleformat or 1))  # type: ignore[union-attr]
        if photometric in (PALETTE, SEPARATED, YCBCR) or bits < 8:
            if bits > 8:
                raise PictureError(f"{name} holds inks or a palette of {bits} bits; save it as 8- or 16-bit RGB.")
            return None
        _check_whole(name, page, len(content))
        data = page.asarray()
        if samples > 1 and int(page.planarconfig) == 2:  # type: ignore[union-attr]
            data = np.moveaxis(data, 0, -1)
        data = data.reshape(page.imagelength, page.imagewidth, samples)  # type: ignore[union-attr]
        tags, extra = page.tags, [int(e) for e in page.extrasamples or ()]  # type: ignore[union-attr]
        orientation = int(tags[ORIENTATION].value) if ORIENTATION in tags else 1
        profile = bytes(tags[PROFILE].value) if PROFILE in tags else None
    colours = 3 if photometric == RGB else 1
    if samples < colours or samples > colours + max(len(extra), 1) or (colours == 1 and samples > 1 and not extra):
        kind = "RGB" if colours == 3 else "grey"
        raise PictureError(f"{name} is damaged: it says it is {kind} and has {samples} channels. Copy it again from where it came from.")
    top = data.dtype.type(np.iinfo(data.dtype).max)
    if photometric == WHITE_IS_ZERO:
        data = np.concatenate([top - data[..., :1], data[..., 1:]], axis=-1)
    notes: list[str] = []
    if samples > colours:
        meaning = extra[0] if extra else UNSPECIFIED
        if meaning == ASSOCIATED:
            data = _straightened(data[..., : colours + 1], int(top))
        elif meaning == UNSPECIFIED:
            notes.append("One more channel does not say what it means; it was left out.")
    keeps = colours + 1 if samples > colours and not notes else colours
    return Plain(data[..., :keeps], orientation if 1 <= orientation <= 8 else 1, profile, tuple(notes))


def _check_meaning(name: str, photometric: int, bits: int, sample_format: int) -> None:
    if photometric not in (WHITE_IS_ZERO, BLACK_IS_ZERO, RGB, PALETTE, SEPARATED, YCBCR):
        raise PictureError(
            f"{name} holds {NAMES.get(photometric, 'colours of a rare kind')}, which are not read here; save it as 8- or 16-bit RGB."
        )
    if sample_format != 1 or bits > 16 or (bits > 8 and bits != 16):
        kind = {2: "signed numbers", 3: "floating-point numbers"}.get(sample_format, f"numbers of {bits} bits")
        raise PictureError(f"{name} holds {kind}, whose black and white it does not say; save it as 8- or 16-bit RGB.")


def _check_whole(name: str, page: Any, length: int) -> None:
    """Refuse a picture some of whose data is not in the file: a reader would fill it with black."""
    chunks = list(zip(page.dataoffsets, page.databytecounts, strict=False))
    across, down = page.tilewidth or page.imagewidth, page.tilelength or page.rowsperstrip or page.imagelength
    planes = page.samplesperpixel if int(page.planarconfig) == 2 else 1
    wanted = planes * -(-page.imagelength // min(down, page.imagelength)) * -(-page.imagewidth // across)
    # A reader makes up counts that are not there.
    counted = next((page.tags[tag].count for tag in BYTE_COUNTS if tag in page.tags), 0)
    if (
        counted < wanted
        or len(chunks) < wanted
        or len(page.dataoffsets) != len(page.databytecounts)
        or any(n <= 0 or at + n > length for at, n in chunks)
    ):
        raise PictureError(f"{name} is damaged or cut short: part of its data is not in the file. Copy it again from where it came from.")


def _straightened(data: AnyArray, top: int) -> AnyArray:
    """Return colours that were multiplied by their alpha as they were before."""
    alpha = data[..., -1:].astype(np.float64)
    colours = np.minimum(data[..., :-1] * (top / np.maximum(alpha, 1)), top)
    return np.concatenate([(colours + 0.5).astype(data.dtype), data[..., -1:]], axis=-1)
