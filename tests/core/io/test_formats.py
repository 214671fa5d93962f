"""Reading and writing picture files."""

from __future__ import annotations

import io
import struct
import zlib
from typing import Any
from zlib import crc32

import cv2
import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from caracol.core.errors import MissingPhoto, PictureError
from caracol.core.io import formats
from caracol.core.io.decode import PhotoFolder, read_photo
from caracol.core.io.formats import collect, encode
from caracol.core.pixels.light import from_texels
from tests.pictures import psnr, smooth

QUADRANTS = np.zeros((40, 60, 3), np.uint8)
QUADRANTS[:20, :30], QUADRANTS[:20, 30:], QUADRANTS[20:, :30], QUADRANTS[20:, 30:] = (255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255)


def file_of(image: Image.Image, kind: str, **options: Any) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **options)
    return out.getvalue()


def picture(content: bytes) -> np.ndarray:
    return from_texels(read_photo(content, "marsh").texels)


@pytest.mark.parametrize(
    ("kind", "options"), [("PNG", {}), ("JPEG", {"quality": 95}), ("WEBP", {"lossless": True}), ("TIFF", {}), ("AVIF", {"quality": 95})]
)
def test_formats_in(kind: str, options: dict[str, Any]) -> None:
    result = picture(file_of(Image.fromarray(QUADRANTS), kind, **options))
    assert result.shape == (40, 60, 4)
    for row, col, colour in ((5, 5, (1, 0, 0)), (5, 50, (0, 1, 0)), (35, 5, (0, 0, 1)), (35, 50, (1, 1, 1))):
        assert result[row, col, :3] == pytest.approx(colour, abs=0.04)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_every_orientation_comes_upright(orientation: int) -> None:
    upright = Image.fromarray(QUADRANTS)
    inverse = {2: 0, 3: 3, 4: 1, 5: 5, 6: 2, 7: 6, 8: 4}  # Image.Transpose that a camera would have stored
    stored = upright if orientation == 1 else upright.transpose(Image.Transpose(inverse[orientation]))
    exif = Image.Exif()
    exif[0x0112] = orientation
    assert picture(file_of(stored, "PNG", exif=exif))[5, 5, :3] == pytest.approx((1, 0, 0))
    assert picture(file_of(stored, "PNG", exif=exif))[35, 5, :3] == pytest.approx((0, 0, 1))


CORNERS = np.array([[1, 0, 2], [0, 0, 0], [0, 0, 0], [3, 0, 4]]).repeat(3, axis=0).repeat(3, axis=1)
"""Upright: its corners are told apart."""
STORED = {  # what a camera has stored for each orientation (EXIF 2.3, 4.6.4), as where the upright corners went: each row and column of it
    1: ("tl", "tr", "bl", "br"),
    2: ("tr", "tl", "br", "bl"),
    3: ("br", "bl", "tr", "tl"),
    4: ("bl", "br", "tl", "tr"),
    5: ("tl", "bl", "tr", "br"),
    6: ("tr", "br", "tl", "bl"),
    7: ("br", "tr", "bl", "tl"),
    8: ("bl", "tl", "br", "tr"),
}


def stored_as(orientation: int) -> np.ndarray:
    """Return what is stored so that it is upright when it is read by its orientation, 16 bits, RGB."""
    value = {"tl": 1, "tr": 2, "bl": 3, "br": 4}
    size = CORNERS.shape if orientation < 5 else CORNERS.shape[::-1]
    data = np.zeros(size, np.uint16)
    for name, (rows, cols) in zip(STORED[orientation], ((0, 0), (0, 1), (1, 0), (1, 1)), strict=True):
        data[(slice(-3, None) if rows else slice(3)), (slice(-3, None) if cols else slice(3))] = value[name]
    return np.dstack([data * 10_000] * 3)


def with_exif(png: bytes, orientation: int) -> bytes:
    """Return a PNG with an orientation in a chunk of its own, right after its head."""
    exif = b"MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01" + bytes([0, orientation, 0, 0]) + b"\0\0\0\0"
    chunk = b"eXIf" + exif
    return png[:33] + len(exif).to_bytes(4, "big") + chunk + crc32(chunk).to_bytes(4, "big") + png[33:]


@pytest.mark.parametrize("orientation", range(1, 9))
@pytest.mark.parametrize("kind", ["tiff", "deep png"])
def test_every_orientation_of_16_bits_comes_upright(kind: str, orientation: int) -> None:
    data = stored_as(orientation)
    if kind == "tiff":
        out = io.BytesIO()
        tifffile.imwrite(out, data, photometric="rgb", extratags=[(274, 3, 1, orientation, True)])
        content = out.getvalue()
    else:
        content = with_exif(cv2.imencode(".png", data)[1].tobytes(), orientation)
    found = picture(content)[..., 0]
    assert found.shape == CORNERS.shape
    assert np.array_equal(np.rint(found * 65535 / 10_000), CORNERS)


def test_sixteen_bits_are_kept_and_turned_upright() -> None:
    values = np.linspace(0, 65535, 2000).astype(np.uint16).reshape(20, 100)
    _, png = cv2.imencode(".png", np.dstack([values] * 3))
    texels = read_photo(png.tobytes(), "deep").texels
    assert len(np.unique(texels[..., 0])) > 1500
    out = io.BytesIO()
    tifffile.imwrite(out, np.dstack([values] * 3), photometric="rgb")
    assert np.array_equal(read_photo(out.getvalue(), "deep").texels, texels)


@pytest.mark.parametrize(
    ("image", "expected"),
    [
        (Image.new("L", (9, 9), 128), (0.502, 0.502, 0.502, 1)),
        (Image.new("LA", (9, 9), (128, 128)), (0.252, 0.252, 0.252, 0.502)),
        (Image.new("1", (9, 9), 1), (1, 1, 1, 1)),
        (Image.new("I;16", (9, 9), 32896), (0.502, 0.502, 0.502, 1)),
        (Image.new("RGBA", (9, 9), (255, 0, 0, 51)), (0.2, 0, 0, 0.2)),
        (Image.new("P", (9, 9), 0), (0, 0, 0, 1)),
    ],
    ids=["grey", "grey-alpha", "bilevel", "grey-16", "alpha", "palette"],
)
def test_other_kinds_of_pixels(image: Image.Image, expected: tuple[float, ...]) -> None:
    assert picture(file_of(image, "PNG"))[4, 4] == pytest.approx(expected, abs=0.01)


def test_cmyk_is_read_as_colour() -> None:
    assert picture(file_of(Image.new("CMYK", (9, 9), (0, 255, 255, 0)), "JPEG"))[4, 4, 0] > 0.8
    assert picture(file_of(Image.new("CMYK", (9, 9), (0, 255, 255, 0)), "JPEG"))[4, 4, 2] < 0.3


def test_an_embedded_profile_is_honoured() -> None:
    lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert picture(file_of(Image.fromarray(QUADRANTS), "PNG", icc_profile=lab))[5, 5, :3] == pytest.approx((1, 0, 0), abs=0.01)
    loaded = read_photo(file_of(Image.fromarray(QUADRANTS), "PNG", icc_profile=b"broken" * 40), "odd")
    assert "colour profile could not be used" in loaded.notes[0]


def png_header(width: int, height: int) -> bytes:
    body = b"IHDR" + struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + body + struct.pack(">I", zlib.crc32(body)) + b"\0\0\0\0IDAT"


GOOD = file_of(Image.fromarray(np.random.default_rng(1).integers(0, 255, (200, 300, 3), np.uint8)), "JPEG")


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"", r"marsh is empty \(0 bytes\)\. Copy it again"),
        (b"hello, this is not a picture", r"marsh is not a picture that can be read; JPEG, PNG, WebP, TIFF and AVIF can"),
        (GOOD[: len(GOOD) // 2], r"marsh is damaged or cut short \(.+\)\. Copy it again"),
        (GOOD[:60], "marsh is (damaged|not a picture)"),
        (file_of(Image.new("RGB", (1, 1)), "PNG"), r"marsh is 1 × 1 pixels; a photo needs at least 2 on each side"),
        (png_header(200_000, 200_000), r"marsh has 200000 × 200000 pixels \(40000 megapixels\); at most 100 are taken\. Make it smaller"),
        (file_of(Image.new("RGB", (9, 9)), "BMP"), r"marsh is a BMP file; JPEG, PNG, WebP, TIFF and AVIF can be read"),
    ],
    ids=["empty", "text", "half", "stub", "one-pixel", "bomb", "bmp"],
)
def test_what_cannot_be_read_says_why(content: bytes, message: str) -> None:
    with pytest.raises(PictureError, match=message):
        read_photo(content, "marsh")


def test_an_animation_gives_its_first_picture_and_says_so() -> None:
    frames = [Image.new("RGB", (20, 10), c) for c in ("red", "blue", "lime")]
    loaded = read_photo(file_of(frames[0], "WEBP", save_all=True, append_images=frames[1:], lossless=True), "moving")
    assert loaded.notes == ("It holds 3 pictures; the first was taken.",)
    assert from_texels(loaded.texels)[5, 5, :3] == pytest.approx((1, 0, 0), abs=0.01)


@pytest.mark.parametrize(("kind", "suffix", "least"), [("png", "PNG", 55), ("jpeg", "JPEG", 38), ("webp", "WEBP", 36)])
def test_formats_out_keep_the_picture_and_the_profile(kind: Any, suffix: str, least: float) -> None:
    pixels = collect((512, 1024), [(0, smooth())])
    content = encode(pixels, kind, 92)
    with Image.open(io.BytesIO(content)) as image:
        assert image.format == suffix
        assert "sRGB" in ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(image.info["icc_profile"])))
        assert not image.getexif()
        assert psnr(np.asarray(image.convert("RGB")) / 255, smooth()[..., :3]) > least


def test_sixteen_bit_png_out() -> None:
    content = encode(collect((512, 1024), [(0, smooth())], 16), "png16")
    data = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_UNCHANGED)
    assert data.dtype == np.uint16
    assert np.abs(data[..., ::-1] / 65535 - smooth()[..., :3]).max() < 1e-4
    with Image.open(io.BytesIO(content)) as image:
        assert image.info["icc_profile"]


def test_transparency_goes_out_straight_or_over_white() -> None:
    half = np.full((4, 4, 4), (0.5, 0, 0, 0.5), np.float32)
    pixels = collect((4, 4), [(0, half)])
    assert np.asarray(Image.open(io.BytesIO(encode(pixels, "png"))))[0, 0].tolist() == [255, 0, 0, 128]
    assert np.asarray(Image.open(io.BytesIO(encode(pixels, "jpeg", 100))))[0, 0] == pytest.approx([255, 127, 127], abs=3)


def test_a_picture_too_large_for_its_format_is_refused() -> None:
    with pytest.raises(PictureError, match="webp files hold at most 16383 pixels a side; this one has 20000"):
        encode(np.zeros((2, 20000, 3), np.uint8), "webp")


@pytest.mark.parametrize("name", ["../secret.png", "/etc/passwd", "..", "", "a/b.png", "gone.png"])
def test_photos_are_looked_up_in_their_folder_only(tmp_path: Any, name: str) -> None:
    with pytest.raises(MissingPhoto, match="photo"):
        PhotoFolder(tmp_path).pyramid(name)


def test_a_jpeg_with_more_pictures_inside_gives_its_first() -> None:
    out = io.BytesIO()
    first = Image.fromarray(QUADRANTS)
    first.save(out, "MPO", save_all=True, append_images=[first.rotate(180)], quality=95)
    loaded = read_photo(out.getvalue(), "phone")
    assert (loaded.kind, loaded.notes) == ("MPO", ())
    assert from_texels(loaded.texels)[5, 5, :3] == pytest.approx((1, 0, 0), abs=0.04)


def test_a_transparent_strip_below_opaque_ones_makes_the_whole_picture_transparent() -> None:
    opaque_strip, glass = np.full((2, 3, 4), 128 / 255, np.float32), np.full((1, 3, 4), 0.5, np.float32)
    opaque_strip[..., 3] = 1
    solid = collect((2, 3), [(0, opaque_strip)])
    assert solid.shape == (2, 3, 3)
    mixed = collect((3, 3), [(0, opaque_strip), (2, glass)])
    assert mixed.shape == (3, 3, 4)
    assert mixed[:2].tolist() == [[[128, 128, 128, 255]] * 3] * 2
    assert mixed[2].tolist() == [[255, 255, 255, 128]] * 3


def test_eight_bits_are_dithered_below_a_level_and_the_same_at_every_run() -> None:
    """A gentle gradient has no bands: every few pixels its mean is right. What lies on a level stays; grey stays grey; strips do not show."""
    ramp = np.ones((64, 2048, 4), np.float32)
    ramp[..., :3] = np.linspace(100, 104, 2048, dtype=np.float32)[None, :, None] / 255
    whole = collect((64, 2048), [(0, ramp)])
    assert set(np.unique(whole)) == {100, 101, 102, 103, 104}
    assert (whole[..., 0] == whole[..., 1]).all()
    means = whole[..., 0].reshape(8, 8, 256, 8).mean(axis=(1, 3))
    assert np.abs(means - (255 * ramp[::8, :, 0]).reshape(8, 256, 8).mean(axis=2)).max() < 0.12
    assert np.array_equal(whole, collect((64, 2048), [(0, ramp[:10]), (10, ramp[10:40]), (40, ramp[40:])]))
    levels = np.ones((256, 64, 4), np.float32)
    levels[..., :3] = np.arange(256, dtype=np.float32)[:, None, None] / 255
    assert (collect((256, 64), [(0, levels)])[..., 0] == np.arange(256)[:, None]).all()
    assert len(np.unique(collect((64, 2048), [(0, ramp)], bits=16))) > 900


def test_colours_reach_into_nothing_alike_in_every_band(monkeypatch: pytest.MonkeyPatch) -> None:
    """As far as 24 pixels and no further, whatever is done at a time; what is seen stays."""
    pixels = np.zeros((200, 90, 4), np.uint8)
    pixels[60:70, 30:50] = (200, 100, 50, 255)
    pixels[150:152, 30:50] = (10, 20, 30, 128)
    whole = formats._bled(pixels)
    assert np.array_equal(whole[..., 3], pixels[..., 3])
    assert np.array_equal(whole[pixels[..., 3] > 0], pixels[pixels[..., 3] > 0])
    assert whole[60 - 24, 40, :3].tolist() == [200, 100, 50]
    assert whole[60 - 25, 40, :3].tolist() == [0, 0, 0]
    assert whole[152 + 20, 40, :3].tolist() == [10, 20, 30]
    monkeypatch.setattr(formats, "BAND", 31)
    assert np.array_equal(formats._bled(pixels), whole)


@pytest.mark.parametrize("kind", ["webp", "avif"])
def test_soft_edges_of_lossy_files_keep_their_colour(kind: Any) -> None:
    """What is transparent has no colour of its own to be mixed in."""
    y, x = np.mgrid[:120, :120] - 59.5
    alpha = np.clip((40 - np.hypot(x, y)) / 12 + 0.5, 0, 1).astype(np.float32)
    picture = np.concatenate([np.float32([0.8, 0.7, 0.2]) * alpha[..., None], alpha[..., None]], axis=-1)
    seen = np.asarray(Image.open(io.BytesIO(encode(collect((120, 120), [(0, picture)]), kind))).convert("RGBA")).astype(int)
    error = np.abs(seen[..., :3] - [204, 178, 51]).max(axis=-1)
    assert error[seen[..., 3] > 25].max() <= 12
    assert (seen[:10, :10, 3] == 0).all()
