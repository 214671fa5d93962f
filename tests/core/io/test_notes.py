"""What delivered files say besides their pixels: colour space, size in print, title, author, and the trail."""

from __future__ import annotations

import base64
import io
import random
import struct
import zlib

import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from caracol.core.errors import PictureError, PieceError
from caracol.core.io.colour_spaces import profile_of
from caracol.core.io.decode import read_photo
from caracol.core.io.formats import FORMATS, Note, collect, encode
from caracol.core.io.xmp import PNG_KEYWORD, TRAIL, packet, trail_in
from caracol.core.pixels.spaces import in_space
from tests.pictures import detailed

PIECE = {"caracol": 1, "layers": [{"id": "land", "name": "Łódka & <reeds>", "steps": []}]}


def pixels(kind: str, space: str = "srgb") -> np.ndarray:
    picture = detailed(48, 64)
    return collect(picture.shape[:2], [(0, in_space(picture, space))], FORMATS[kind].bits)  # type: ignore[arg-type]


@pytest.mark.parametrize("kind", FORMATS)
def test_a_file_says_what_it_is_told(kind: str) -> None:
    note = Note(dpi=150, title="Łódka <1>", author="Ana & Co", trail=PIECE)
    content = encode(pixels(kind), kind, 95, note)  # type: ignore[arg-type]
    assert content == encode(pixels(kind), kind, 95, note)  # type: ignore[arg-type]
    assert trail_in(content, "x") == PIECE
    with Image.open(io.BytesIO(content)) as image:
        exif = image.getexif()
        assert exif[315] == "Ana & Co"
        if kind in ("png", "png16", "jpeg", "tiff", "tiff16"):
            assert image.info["dpi"] == pytest.approx((150, 150), abs=0.02)
        else:
            assert exif[282] == 150
        assert image.info["icc_profile"] == profile_of("srgb")
        xmp = image.info.get("xmp") or image.info.get(PNG_KEYWORD) or image.tag_v2[700]  # type: ignore[attr-defined]
        assert "Łódka &lt;1&gt;" in (xmp if isinstance(xmp, str) else xmp.decode())
    loaded = read_photo(content, "x")
    assert loaded.texels.shape[:2] == (48, 64)


@pytest.mark.parametrize("kind", FORMATS)
def test_a_file_says_nothing_unasked(kind: str) -> None:
    content = encode(pixels(kind), kind)  # type: ignore[arg-type]
    assert trail_in(content, "x") is None
    with Image.open(io.BytesIO(content)) as image:
        assert not {270, 315, 305, 306} & set(image.getexif())
        assert not {"xmp", PNG_KEYWORD, "exif", "comment"} & set(image.info)


@pytest.mark.parametrize("kind", FORMATS)
def test_display_p3_shows_the_same_colours(kind: str) -> None:
    """Read by a colour management of its own, the file is the picture again."""
    content = encode(pixels(kind, "display-p3"), kind, 100, Note(space="display-p3"))  # type: ignore[arg-type]
    plain = pixels("png").astype(float)[..., :3]
    if FORMATS[kind].bits == 8:
        with Image.open(io.BytesIO(content)) as image:
            given, target = ImageCms.ImageCmsProfile(io.BytesIO(image.info["icc_profile"])), ImageCms.createProfile("sRGB")
            back = np.asarray(ImageCms.profileToProfile(image.convert("RGB"), given, target, outputMode="RGB"), float)
        raw = pixels(kind, "display-p3").astype(float)[..., :3]
        assert np.abs(raw - plain).mean() > 5
        assert np.abs(back - plain).mean() < (0.6 if not FORMATS[kind].lossy else 4)
    else:
        whole = pixels("png16").astype(float)[..., :3]
        moved = in_space(detailed(48, 64), "display-p3")
        assert np.abs(moved[..., :3] * 65535 - pixels(kind, "display-p3")[..., :3]).max() < 1
        assert np.abs(whole - moved[..., :3] * 65535).mean() > 200


def test_white_is_white_in_both_spaces() -> None:
    grey = np.full((2, 2, 4), 0.5, np.float32)
    grey[..., 3] = 1
    grey[0, 0, :3] = 1
    assert in_space(grey, "display-p3") == pytest.approx(grey, abs=2e-3)


def test_red_in_display_p3() -> None:
    """The red of sRGB in Display P3, as CSS Color 4 has it: 0.9175, 0.2003, 0.1386."""
    red = np.float32([[[1, 0, 0, 1]]])
    assert in_space(red, "display-p3")[0, 0] == pytest.approx([0.9175, 0.2003, 0.1386, 1], abs=2e-3)


def test_a_long_trail_travels_in_several_segments_of_a_jpeg() -> None:
    noise = random.Random(1)
    long = {**PIECE, "paint": [noise.random() for _ in range(20000)]}
    content = encode(pixels("jpeg"), "jpeg", note=Note(trail=long))
    assert len(content) > 130_000
    assert trail_in(content, "x") == long


@pytest.mark.parametrize("packing", ["lzw", "deflate"])
def test_a_tiff_is_packed_as_asked(packing: str) -> None:
    content = encode(pixels("tiff16"), "tiff16", packing=packing)  # type: ignore[arg-type]
    with tifffile.TiffFile(io.BytesIO(content)) as file:
        page = file.pages[0]
        assert int(page.compression) == {"lzw": 5, "deflate": 8}[packing]  # type: ignore[union-attr]
        assert (page.asarray() == pixels("tiff16")).all()


def with_trail(text: str) -> bytes:
    xml = packet(title="x").replace(b"</rdf:Description>", f"<caracol:trail>{text}</caracol:trail></rdf:Description>".encode())
    out = io.BytesIO()
    Image.new("RGB", (4, 4)).save(out, "WEBP", xmp=xml)
    return out.getvalue()


def test_what_is_damaged_is_said() -> None:
    with pytest.raises(PictureError, match="not a picture"):
        trail_in(b"hello", "x.png")
    with pytest.raises(PieceError, match=r"x\.webp: the piece inside is damaged"):
        trail_in(with_trail("AAAA"), "x.webp")
    with pytest.raises(PieceError, match="no JSON object"):
        trail_in(with_trail(base64.b64encode(zlib.compress(b"[1]")).decode()), "x.webp")


def test_a_trail_that_would_swell_is_not_opened() -> None:
    with pytest.raises(PieceError, match=r"x\.webp: the piece inside is not opened: it has 16\.0 MB; at most 16 MB are read"):
        trail_in(with_trail(base64.b64encode(zlib.compress(b" " * (65 << 20))).decode()), "x.webp")
    deep = b'{"a":' * 400 + b"0" + b"}" * 400
    with pytest.raises(PieceError, match="more than 64 deep"):
        trail_in(with_trail(base64.b64encode(zlib.compress(deep)).decode()), "x.webp")


@pytest.mark.parametrize(
    ("filling", "told"),
    [(b"<b/>" * 25_000, "has 25,0.. marks; at most 20,000 are read"), (b" " * (17 << 20), "has 17 MB; at most 16 MB are read")],
)
def test_a_packet_is_bounded_before_it_is_read(filling: bytes, told: str) -> None:
    out = io.BytesIO()
    Image.new("RGB", (4, 4)).save(out, "WEBP", xmp=b'<x xmlns:c="' + TRAIL.encode() + b'">' + filling + b"</x>")
    with pytest.raises(PieceError, match=told):
        trail_in(out.getvalue(), "x")


@pytest.mark.parametrize(("kind", "count"), [(1, 4_000_000_000), (2, 40), (11, 10), (7, 0), (9999, 3)])
@pytest.mark.parametrize("order", "<>")
def test_a_tag_is_read_as_far_as_the_file_goes_and_as_bytes_alone(order: str, kind: int, count: int) -> None:
    """A file of 146 bytes that says its packet has four thousand million values took a minute."""
    tag = struct.pack(f"{order}HHII", 700, kind, count, 26)
    content = (b"II*\0" if order == "<" else b"MM\0*") + struct.pack(f"{order}IH", 8, 1) + tag + b"\0" * 124
    assert trail_in(content, "x.tif") is None
    if count > len(content):
        with pytest.raises(PictureError, match="its tag 700 says it has 4,000,000,000 values, and the file has 146 bytes"):
            read_photo(content, "x.tif")


@pytest.mark.parametrize(("kind", "is_read"), [(1, True), (7, True), (2, False), (3, False), (11, False)])
def test_a_trail_is_read_from_a_tag_of_bytes_alone(kind: int, is_read: bool) -> None:
    xml = packet(trail=PIECE)
    count = len(xml) // {3: 2, 11: 4}.get(kind, 1)
    content = b"II*\0" + struct.pack("<IHHHII", 8, 1, 700, kind, count, 26) + b"\0" * 4 + xml
    assert trail_in(content, "x.tif") == (PIECE if is_read else None)


def test_declared_entities_are_not_read() -> None:
    out = io.BytesIO()
    Image.new("RGB", (4, 4)).save(out, "WEBP", xmp=b'<!DOCTYPE x [<!ENTITY a "b">]><x xmlns:c="' + TRAIL.encode() + b'">&a;</x>')
    with pytest.raises(PieceError, match="its XMP metadata is damaged"):
        trail_in(out.getvalue(), "x")
