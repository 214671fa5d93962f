"""A chart of 24 patches, written as each file says its colours, is read as the same colours."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Callable
from typing import Any

import imagecodecs
import numpy as np
import pytest
import tifffile
from PIL import Image

from caracol.core.io import decode
from caracol.core.io.colour_spaces import profile_of
from caracol.core.io.decode import read_photo
from caracol.core.io.meaning import Boxes, Named

CELL = 8
CHART = np.array(
    [
        [(r, g, b) for r, b in ((0.1, 0.2), (0.35, 0.5), (0.55, 0.35), (0.7, 0.75), (0.85, 0.15), (0.95, 0.9))]
        for g in (0.12, 0.4, 0.65, 0.9)
    ],
    np.float64,
)
"""Patches in coded sRGB, (4, 6, 3)."""
TO_XYZ = np.array([[0.4123908, 0.3575843, 0.1804808], [0.2126390, 0.7151687, 0.0721923], [0.0193308, 0.1191948, 0.9505322]])
P3_TO_XYZ = np.array([[0.4865709, 0.2656677, 0.1982173], [0.2289746, 0.6917385, 0.0792869], [0.0, 0.0451134, 1.0439444]])
"""Rounded from IEC 61966-2-1 and SMPTE EG 432-1."""


def light(coded: np.ndarray) -> np.ndarray:
    return np.where(coded <= 0.04045, coded / 12.92, ((coded + 0.055) / 1.055) ** 2.4)


def code(linear: np.ndarray) -> np.ndarray:
    return np.where(linear <= 0.0031308, linear * 12.92, 1.055 * np.maximum(linear, 0) ** (1 / 2.4) - 0.055)


def quantised(linear: np.ndarray) -> np.ndarray:
    """Return the perceptual quantiser's code of light, white being 203 cd/m² (SMPTE ST 2084)."""
    y = (linear * 203 / 10000) ** (2610 / 16384)
    return ((3424 / 4096 + 2413 / 128 * y) / (1 + 2392 / 128 * y)) ** (2523 / 32)


def in_p3(linear: np.ndarray) -> np.ndarray:
    return np.clip(linear @ (np.linalg.inv(P3_TO_XYZ) @ TO_XYZ).T, 0, 1)


def large(patches: np.ndarray, top: int) -> np.ndarray:
    """Return a picture of patches as integers up to `top`."""
    kind = np.uint8 if top == 255 else np.uint16
    return np.repeat(np.repeat((patches * top + 0.5).astype(kind), CELL, axis=0), CELL, axis=1)


def png(pixels: np.ndarray, *chunks: tuple[bytes, bytes]) -> bytes:
    """Write a PNG with chunks after its header, and nothing else that says something of its colours."""
    data = imagecodecs.png_encode(pixels)
    said = b"".join(struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body)) for kind, body in chunks)
    return bytes(data[:33] + said + data[33:])


def gama(gamma: float) -> tuple[bytes, bytes]:
    return b"gAMA", struct.pack(">I", round(gamma * 100_000))


def with_profile(pixels: np.ndarray, kind: str, profile: bytes) -> bytes:
    if kind == "tiff16":
        out = io.BytesIO()
        tifffile.imwrite(out, pixels, photometric="rgb", iccprofile=profile)
        return out.getvalue()
    if kind == "png16":
        return png(pixels, (b"iCCP", b"x\0\0" + zlib.compress(profile)))
    out = io.BytesIO()
    Image.fromarray(pixels).save(
        out,
        kind,
        icc_profile=profile,
        **({"quality": 100, "subsampling": 0} if kind == "JPEG" else {"lossless": True} if kind == "WEBP" else {}),
    )
    return out.getvalue()


def linear_profile(name: bytes) -> bytes:
    """Return a profile of sRGB's primaries and no curve, which calls itself what one likes."""
    flat = [0.64, 0.33, 1, 0.30, 0.60, 1, 0.15, 0.06, 1]
    made = bytes(imagecodecs.cms_profile("rgb", whitepoint=[0.3127, 0.3290, 1.0], primaries=flat, gamma=1.0))
    for said in (b"RGB built-in", "RGB built-in".encode("utf-16-be")):
        made = made.replace(said, (name.ljust(12) if len(said) == 12 else name.decode().ljust(12).encode("utf-16-be")))
    assert name in made or name.decode().encode("utf-16-be") in made
    return made


def avif(pixels: np.ndarray, bits: int, primaries: int, curve: int) -> bytes:
    return bytes(
        imagecodecs.avif_encode(pixels, level=100, bitspersample=bits, pixelformat="444", primaries=primaries, transfer=curve, matrix=0)
    )


LINEAR = light(CHART)
P3 = profile_of("display-p3")
FILES: dict[str, Callable[[], bytes]] = {
    "png, sRGB": lambda: png(large(CHART, 255)),
    "png, gAMA 1": lambda: png(large(LINEAR, 65535), gama(1.0)),
    "png, gAMA 1 of 8 bits": lambda: png(large(LINEAR, 255), gama(1.0)),
    "png, gAMA 1 ÷ 1.8": lambda: png(large(LINEAR ** (1 / 1.8), 255), gama(1 / 1.8)),
    "png, gAMA beside sRGB": lambda: png(large(CHART, 255), (b"sRGB", b"\0"), gama(1.0)),
    "png, gAMA and P3's cHRM": lambda: png(
        large(in_p3(LINEAR) ** (1 / 1.8), 255),
        gama(1 / 1.8),
        (b"cHRM", struct.pack(">8I", *(round(v * 100_000) for v in (0.3127, 0.3290, 0.68, 0.32, 0.265, 0.69, 0.15, 0.06)))),
    ),
    "png, cICP of P3": lambda: png(large(code(in_p3(LINEAR)), 255), (b"cICP", bytes([12, 13, 0, 1]))),
    "png, cICP over a profile": lambda: png(
        large(code(in_p3(LINEAR)), 255), (b"cICP", bytes([12, 13, 0, 1])), (b"iCCP", b"x\0\0" + zlib.compress(linear_profile(b"sRGB")))
    ),
    "png, cICP of PQ": lambda: png(large(quantised(LINEAR), 65535), (b"cICP", bytes([1, 16, 0, 1]))),
    "png, linear that calls itself sRGB": lambda: with_profile(large(LINEAR, 255), "PNG", linear_profile(b"sRGB")),
    "png16, linear that calls itself sRGB": lambda: with_profile(large(LINEAR, 65535), "png16", linear_profile(b"sRGB")),
    "tiff16, P3": lambda: with_profile(large(code(in_p3(LINEAR)), 65535), "tiff16", P3),
    "jpeg, P3": lambda: with_profile(large(code(in_p3(LINEAR)), 255), "JPEG", P3),
    "webp, P3": lambda: with_profile(large(code(in_p3(LINEAR)), 255), "WEBP", P3),
    "avif, nclx of P3": lambda: avif(large(code(in_p3(LINEAR)), 255), 8, 12, 13),
    "avif, ten bits": lambda: avif(large(CHART, 1023), 10, 1, 13),
    "avif, ten bits of PQ": lambda: avif(large(quantised(LINEAR), 1023), 10, 1, 16),
}


LOSS = {"png, gAMA 1 of 8 bits": 2.5, "png, linear that calls itself sRGB": 2.5, "jpeg, P3": 2.0}
"""What eight bits of linear light, or a lossy file, lose by themselves in its darkest patch."""


def lab(linear: np.ndarray) -> np.ndarray:
    """Return CIE L*a*b* under D65 (CIE 15)."""
    share = (linear @ TO_XYZ.T) / TO_XYZ.sum(axis=1)
    f = np.where(share > (6 / 29) ** 3, np.cbrt(share), share / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)


@pytest.mark.parametrize("name", FILES)
def test_every_patch_is_read_as_what_the_file_says_it_is(name: str) -> None:
    loaded = read_photo(FILES[name](), "chart")
    seen = loaded.texels[CELL // 2 :: CELL, CELL // 2 :: CELL, :3] / 65535
    difference = np.linalg.norm(lab(seen) - lab(LINEAR), axis=-1)
    assert difference.max() < LOSS.get(name, 1.5), difference.round(1)


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (lambda: with_profile(large(np.array([[(1.0, 0.0, 0.0)] * 6] * 4), 255), "PNG", P3), "wider than sRGB"),
        (lambda: png(large(np.array([[(0.2, 0.9, 0.1)] * 6] * 4), 255), (b"cICP", bytes([9, 13, 0, 1]))), "wider than sRGB"),
        (lambda: png(large(quantised(LINEAR * 4), 65535), (b"cICP", bytes([1, 16, 0, 1]))), "brighter than white"),
        (lambda: png(large(CHART, 255), (b"iCCP", b"x\0\0" + zlib.compress(b"no profile at all"))), "could not be used"),
    ],
)
def test_what_sRGB_does_not_have_is_told(content: Callable[[], bytes], told: str) -> None:
    assert told in " ".join(read_photo(content(), "chart").notes)


def test_nothing_is_told_of_what_is_kept() -> None:
    for name in ("png, sRGB", "png, gAMA 1", "png, cICP of P3", "tiff16, P3", "avif, ten bits"):
        assert read_photo(FILES[name](), "chart").notes == ()


def primaries(*xy: float) -> tuple[bytes, bytes]:
    return b"cHRM", struct.pack(">8I", *(round(v * 100_000) for v in xy))


@pytest.mark.parametrize(
    "chunks",
    [
        (gama(0.00001),),
        (gama(40.0),),
        (gama(1 / 2.2), primaries(*(0.3, 0.3) * 4)),
        (gama(1 / 2.2), primaries(0.3127, 0.3290, 0.64, 0.33, 0.30, 0.60, 0.47, 0.465)),
        (gama(1 / 2.2), primaries(0.05, 0.9, 0.64, 0.33, 0.30, 0.60, 0.15, 0.06)),
        (gama(1 / 2.2), primaries(0.3127, 0.3290, 0.64, 0, 0.30, 0.60, 0.15, 0.06)),
    ],
)
def test_what_no_screen_ever_had_is_not_believed(chunks: tuple[tuple[bytes, bytes], ...]) -> None:
    """Colours on one line or on one spot, white outside of them, a power of a hundred thousand: the picture is read as sRGB, and not refused."""
    loaded = read_photo(png(large(CHART, 255), *chunks), "chart")
    assert np.array_equal(loaded.texels, read_photo(FILES["png, sRGB"](), "chart").texels)


def test_a_deeper_alpha_makes_no_deeper_picture(monkeypatch: pytest.MonkeyPatch) -> None:
    """An AVIF of 8 bits whose boxes speak of ten somewhere is read as the 8 bits it has."""
    content = avif(large(CHART, 255), 8, 1, 13)
    monkeypatch.setattr(decode, "boxes_of_avif", lambda _: Boxes(10, None))
    assert np.array_equal(read_photo(content, "a").texels[..., 3], np.full((32, 48), 65535))
    seen = read_photo(content, "a").texels[CELL // 2 :: CELL, CELL // 2 :: CELL, :3] / 65535
    assert np.linalg.norm(lab(seen) - lab(LINEAR), axis=-1).max() < 1.5


def test_inks_without_a_profile_say_so() -> None:
    out = io.BytesIO()
    Image.new("CMYK", (8, 8), (30, 60, 90, 10)).save(out, "JPEG")
    assert "without a profile" in " ".join(read_photo(out.getvalue(), "inks").notes)


@pytest.mark.parametrize("kind", ["tiff16 P3", "png16 P3", "avif10"])
def test_depth_is_kept(kind: str) -> None:
    """A gentle gradient, of a tenth of the codes, keeps its levels whatever its colours are in."""
    ramp = np.repeat(np.linspace(0.4, 0.5, 1024)[None, :, None], 3, axis=2).repeat(4, axis=0)
    files: dict[str, Callable[[], Any]] = {
        "tiff16 P3": lambda: with_profile((ramp * 65535).astype(np.uint16), "tiff16", P3),
        "png16 P3": lambda: with_profile((ramp * 65535).astype(np.uint16), "png16", P3),
        "avif10": lambda: avif((ramp * 1023 + 0.5).astype(np.uint16), 10, 1, 13),
    }
    texels = read_photo(files[kind](), "ramp").texels
    assert len(np.unique(texels[1, :, 1])) > (95 if kind == "avif10" else 900)


def test_light_of_the_curves_by_hand() -> None:
    """Half of gamma 2.2 is 0.2176; 58 % of the perceptual quantiser is 203 cd/m²; three quarters of hybrid log-gamma is white."""
    half = np.full((1, 1, 1), 32768, np.uint16)
    assert Named(curve=4).linear(half)[0, 0, 1] == pytest.approx(0.5**2.2, abs=1e-4)
    assert Named(curve=16).linear(np.full((1, 1, 1), round(0.5807 * 65535), np.uint16))[0, 0, 1] == pytest.approx(1.0, abs=0.01)
    assert Named(curve=18).linear(np.full((1, 1, 1), 49151, np.uint16))[0, 0, 1] == pytest.approx(1.0, abs=1e-3)
    assert Named(curve=8).linear(half)[0, 0, 1] == pytest.approx(0.5, abs=1e-4)
