"""TIFF files of every meaning, written by a writer that lets us say it: right, or refused with words."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
import tifffile
from PIL import Image

from caracol.core.errors import PictureError
from caracol.core.io.decode import read_photo
from caracol.core.pixels.light import from_texels

RNG = np.random.default_rng(5)
SHAPE = (24, 40)
SMOOTH = (np.linspace(0, 1, 40)[None, :, None] * np.linspace(0.2, 1, 24)[:, None, None] * np.array([1, 0.7, 0.4])).astype(np.float64)


def written(data: np.ndarray, **options: Any) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(out, data, **options)
    return out.getvalue()


def read(content: bytes) -> np.ndarray:
    """Return a file as coded premultiplied floats."""
    return from_texels(read_photo(content, "scan").texels)


def deep(values: np.ndarray, dtype: Any) -> np.ndarray:
    return (values * np.iinfo(dtype).max + 0.5).astype(dtype)


DEPTHS = [np.uint8, np.uint16]


@pytest.mark.parametrize("dtype", DEPTHS)
@pytest.mark.parametrize("planar", ["contig", "separate"])
@pytest.mark.parametrize("compression", [None, "zlib", "lzw"])
def test_rgb_however_it_is_laid_out(dtype: Any, planar: Any, compression: Any) -> None:
    data = deep(SMOOTH, dtype)
    if planar == "separate":
        data = np.moveaxis(data, -1, 0)
    content = written(data, photometric="rgb", planarconfig=planar, compression=compression)
    assert np.abs(read(content)[..., :3] - SMOOTH).max() < 0.006


@pytest.mark.parametrize("dtype", DEPTHS)
@pytest.mark.parametrize("photometric", ["minisblack", "miniswhite"])
def test_grey_either_way_round(dtype: Any, photometric: Any) -> None:
    grey = SMOOTH[..., 0]
    data = deep(1 - grey if photometric == "miniswhite" else grey, dtype)
    picture = read(written(data, photometric=photometric))
    assert np.abs(picture[..., :3] - grey[..., None]).max() < 0.006
    assert picture[..., 3].min() == 1


@pytest.mark.parametrize("dtype", DEPTHS)
@pytest.mark.parametrize("associated", [True, False])
def test_alpha_is_what_its_tag_says(dtype: Any, associated: bool) -> None:
    alpha = np.full((*SHAPE, 1), 0.5)
    straight = SMOOTH * 0.8
    colours = straight * alpha if associated else straight
    content = written(
        deep(np.concatenate([colours, alpha], axis=-1), dtype),
        photometric="rgb",
        extrasamples=["assocalpha" if associated else "unassalpha"],
    )
    picture = read(content)
    assert picture[..., 3] == pytest.approx(0.5, abs=0.003)
    assert np.abs(picture[..., :3] / picture[..., 3:] - straight).max() < 0.012


def test_a_channel_of_no_stated_meaning_is_no_alpha() -> None:
    data = deep(np.concatenate([SMOOTH, np.zeros((*SHAPE, 1))], axis=-1), np.uint16)
    loaded = read_photo(written(data, photometric="rgb", extrasamples=["unspecified"]), "scan")
    assert np.abs(from_texels(loaded.texels)[..., :3] - SMOOTH).max() < 0.006
    assert loaded.notes == ("One more channel does not say what it means; it was left out.",)


def test_inks_and_palettes_are_read() -> None:
    picture = Image.fromarray(deep(SMOOTH, np.uint8))
    for other in (picture.convert("CMYK"), picture.quantize(64), picture.convert("L").convert("1")):
        out = io.BytesIO()
        other.save(out, "TIFF")
        expected = np.asarray(other.convert("RGB"), np.float32) / 255
        assert np.abs(read(out.getvalue())[..., :3] - expected).mean() < 0.02


@pytest.mark.parametrize(
    ("data", "options", "told"),
    [
        (SMOOTH.astype(np.float32), {"photometric": "rgb"}, "floating-point numbers"),
        (SMOOTH[..., 0].astype(np.float32), {"photometric": "minisblack"}, "floating-point numbers"),
        (deep(SMOOTH, np.int16), {"photometric": "rgb"}, "signed numbers"),
        (deep(SMOOTH, np.uint32), {"photometric": "rgb"}, "numbers of 32 bits"),
        (deep(SMOOTH, np.uint8), {"photometric": "cielab"}, "LAB colours"),
        (deep(SMOOTH[..., 0], np.uint16), {"photometric": "cfa"}, "a camera's raw mosaic"),
    ],
)
def test_what_would_come_out_wrong_is_refused(data: np.ndarray, options: dict[str, Any], told: str) -> None:
    if options["photometric"] == "cfa":
        options = {"photometric": 32803}
    with pytest.raises(PictureError, match=f"scan holds {told}.*save it as 8- or 16-bit RGB"):
        read(written(data, **options))


def told(content: bytes) -> str:
    """Return what is said of a file; nothing where it is read."""
    try:
        read(content)
    except PictureError as error:
        return str(error)
    return ""


def tagged(tag: int, value: int | None) -> bytes:
    """Return a TIFF file with one tag gone, or saying something else."""
    whole = written(deep(SMOOTH, np.uint8), photometric="rgb", rowsperstrip=8)
    at = whole.index(np.array([tag], "<u2").tobytes(), 8)
    if value is None:
        return whole[:at] + b"\xff\x7f" + whole[at + 2 :]
    return whole[: at + 8] + np.array([value], "<u4").tobytes() + whole[at + 12 :]


@pytest.mark.parametrize("value", [None, 0, 1, 2**31])
@pytest.mark.parametrize("tag", [256, 257, 258, 262, 273, 277, 279])
def test_tags_that_are_missing_or_lie_are_told(tag: int, value: int | None) -> None:
    assert told(tagged(tag, value)).startswith("scan ")


@pytest.mark.parametrize("value", [None, 0, 2**31])
def test_how_rows_are_cut_is_found_without_its_tag(value: int | None) -> None:
    assert np.abs(read(tagged(278, value))[..., :3] - SMOOTH).max() < 0.006


@pytest.mark.parametrize("compression", [None, "zlib"])
@pytest.mark.parametrize("share", [0.3, 0.6, 0.95])
def test_a_file_cut_short_is_told(compression: Any, share: float) -> None:
    whole = written(deep(SMOOTH, np.uint16), photometric="rgb", rowsperstrip=8, compression=compression)
    assert told(whole[: int(len(whole) * share)]).startswith("scan is damaged or cut short")
