"""What the numbers of a picture file mean as colour: by its profile, or by the primaries and the curve that it names.

References
----------
ICC.1:2022 (profiles) · PNG, third edition, 4.3 (which chunk counts) · ITU-T H.273 (code points of primaries and curves) · SMPTE ST 2084
(perceptual quantiser) · ITU-R BT.2100 (hybrid log-gamma) · ITU-R BT.2408 (reference white at 203 cd/m²).
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from typing import Protocol

import imagecodecs
import numpy as np

from ..arrays import AnyArray, Array
from ..pixels.light import FULL, coded_to_linear
from ..pixels.spaces import BRADFORD, D65, PRIMARIES, Space, matrix_between, to_xyz, xyz_of
from .colour_spaces import profile_of

Primaries = tuple[tuple[float, float], ...]
"""Red, green, blue and white in CIE x and y."""
SRGB_PRIMARIES: Primaries = (*PRIMARIES["srgb"], D65)
NAMED: dict[int, Primaries] = {
    4: ((0.67, 0.33), (0.21, 0.71), (0.14, 0.08), (0.310, 0.316)),
    5: ((0.64, 0.33), (0.29, 0.60), (0.15, 0.06), D65),
    6: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070), D65),
    7: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070), D65),
    9: ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65),
    11: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060), (0.314, 0.351)),
    12: (*PRIMARIES["display-p3"], D65),
}
"""Primaries by their code point (H.273, table 2); 1 is that of sRGB, 2 says nothing."""
LINEAR, PQ, HLG = 8, 16, 18
GAMMAS = {4: 2.2, 5: 2.8}
"""Curves that are plain powers, by their code point (H.273, table 3); those of broadcast pictures are shown as sRGB's is."""
PEAK, WHITE = 10_000.0, 203.0
"""Light of the perceptual quantiser's 1, and of white, in cd/m²."""
ALIKE = 386
"""Sixteen-bit steps (one and a half of eight bits) by which a profile's colours may differ from sRGB's and still be those."""
BEYOND = 0.004
"""Linear light below 0 or above 1 from which a colour counts as none that sRGB has."""
SAMPLES = 20_000
LEAST = 0.1
"""The smallest gamma that is believed, and by its inverse the largest."""


class Meaning(Protocol):
    """What straight samples mean; beside it, where they mean sRGB, stands None."""

    def linear(self, colours: AnyArray) -> Array:
        """Return linear light in sRGB's primaries, float32 (rows, cols, 3), of samples (rows, cols, 1 or 3); outside 0…1 where sRGB ends."""

    def texels(self, colours: AnyArray, space: Space = "srgb") -> AnyArray:
        """Return linear light as uint16 in the primaries of a space, cut to what that has."""


@dataclass(frozen=True)
class Profiled:
    """By an ICC profile for RGB or grey."""

    profile: bytes
    space: str

    def _through(self, colours: AnyArray, target: bytes, kind: type) -> AnyArray:
        if self.space == "rgb" and colours.shape[2] == 1:
            colours = np.repeat(colours, 3, axis=2)
        return np.asarray(
            imagecodecs.cms_transform(
                np.ascontiguousarray(colours), self.profile, target, colorspace=self.space, outcolorspace="rgb", outdtype=kind
            )
        ).reshape(*colours.shape[:2], 3)

    def linear(self, colours: AnyArray) -> Array:
        return np.asarray(self._through(colours, _linear_profile(), np.float32), np.float32)

    def texels(self, colours: AnyArray, space: Space = "srgb") -> AnyArray:
        return _light_of_code()[self._through(colours, profile_of(space), np.uint16)]

    @cached_property
    def is_srgb(self) -> bool:
        """Whether its primaries and curve are sRGB's, whatever its name says."""
        steps = np.linspace(0, 255, 17).round().astype(np.uint8)
        if self.space == "gray":
            probe = steps[:, None, None]
        else:
            cube = np.stack(np.meshgrid(*[steps[::4]] * 3, indexing="ij"), axis=-1).reshape(-1, 1, 3)
            probe = np.concatenate([cube, np.repeat(steps[:, None, None], 3, axis=2)])
        shown = self._through(probe, profile_of("srgb"), np.uint16).astype(int)
        return bool(np.abs(shown - 257 * probe.astype(int)).max() <= ALIKE)


@dataclass(frozen=True)
class Named:
    """By primaries and a curve.

    Parameters
    ----------
    primaries : tuple
        Red, green, blue, white.
    curve : int
        Code point of H.273; 13, sRGB's, stands for all that are shown like it.
    gamma : float, optional
        The power, in place of the curve.
    """

    primaries: Primaries = SRGB_PRIMARIES
    curve: int = 13
    gamma: float | None = None

    @property
    def is_srgb(self) -> bool:
        """Whether nothing is to be converted."""
        return self.gamma is None and self.curve not in (LINEAR, PQ, HLG, *GAMMAS) and self.primaries == SRGB_PRIMARIES

    @property
    def is_bright(self) -> bool:
        """Whether its curve reaches beyond white."""
        return self.curve in (PQ, HLG)

    def light(self, coded: Array) -> Array:
        """Return the light of codes 0…1; white is 1."""
        power = self.gamma or GAMMAS.get(self.curve)
        if power is not None:
            return np.asarray(coded**power, np.float32)
        if self.curve == LINEAR:
            return coded
        if self.curve == PQ:
            m1, m2, c1, c2, c3 = 2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128
            root = coded.astype(np.float64) ** (1 / m2)
            return np.asarray((np.maximum(root - c1, 0) / (c2 - c3 * root)) ** (1 / m1) * PEAK / WHITE, np.float32)
        if self.curve == HLG:
            a, b, c = 0.17883277, 0.28466892, 0.55991073
            scene = np.where(coded <= 0.5, coded**2 / 3, (np.exp((coded - c) / a) + b) / 12)
            return np.asarray(scene / ((np.exp((0.75 - c) / a) + b) / 12), np.float32)
        return coded_to_linear(coded)

    @cached_property
    def _matrix(self) -> Array:
        white, target = (BRADFORD @ xyz_of(*one) for one in (self.primaries[3], D65))
        adapted = np.linalg.inv(BRADFORD) @ np.diag(target / white) @ BRADFORD
        columns = np.stack([xyz_of(*one) for one in self.primaries[:3]], axis=1)
        own = columns * np.linalg.solve(columns, xyz_of(*self.primaries[3]))
        return np.asarray(np.linalg.solve(to_xyz("srgb"), adapted @ own), np.float32)

    def linear(self, colours: AnyArray) -> Array:
        top = np.iinfo(colours.dtype).max
        return np.asarray(np.broadcast_to(_table_of(self, int(top))[colours], (*colours.shape[:2], 3)) @ self._matrix.T, np.float32)

    def texels(self, colours: AnyArray, space: Space = "srgb") -> AnyArray:
        light = self.linear(colours) @ matrix_between("srgb", space).T
        return (np.clip(light, 0, 1) * np.float32(FULL) + np.float32(0.5)).astype(np.uint16)


@lru_cache(maxsize=2)
def _table_of(named: Named, top: int) -> Array:
    """Return the light of every code 0 … top."""
    return named.light(np.arange(top + 1, dtype=np.float32) / np.float32(top))


@cache
def _linear_profile() -> bytes:
    flat = [value for x, y in PRIMARIES["srgb"] for value in (x, y, 1.0)]
    return bytes(imagecodecs.cms_profile("rgb", whitepoint=[*D65, 1.0], primaries=flat, gamma=1.0))


@cache
def _light_of_code() -> AnyArray:
    return (coded_to_linear(np.arange(65536, dtype=np.float32) / np.float32(FULL)) * np.float32(FULL) + np.float32(0.5)).astype(np.uint16)


def reaches_beyond(meaning: Meaning, colours: AnyArray, space: Space = "srgb", brightest: float = 1.0) -> bool:
    """Whether some colours of a picture are wider than a space has them; looked at in a part of its pixels, evenly spread.

    What is up to `brightest`, linear, counts as no brighter than white.
    """
    step = max(1, int((colours.shape[0] * colours.shape[1] / SAMPLES) ** 0.5))
    light = meaning.linear(colours[::step, ::step]) @ matrix_between("srgb", space).T
    return bool(((light < -BEYOND) | (light > brightest + BEYOND)).any(axis=-1).mean() > 0.001)


def named_by(primaries: int, curve: int) -> Named:
    """Return what code points of H.273 mean; those that say nothing, or nothing known, are sRGB's."""
    return Named(NAMED.get(primaries, SRGB_PRIMARIES), curve)


def meaning_of_png(content: bytes) -> Named | None:
    """Return what the chunks of a PNG name where they count more than its profile (cICP), or where it has none (gAMA and cHRM).

    None where they name nothing.
    """
    chunks = dict(_chunks(content))
    if len(chunks.get(b"cICP", b"")) == 4:
        return named_by(chunks[b"cICP"][0], chunks[b"cICP"][1])
    if b"iCCP" in chunks or b"sRGB" in chunks or len(chunks.get(b"gAMA", b"")) != 4:
        return None
    gamma = struct.unpack(">I", chunks[b"gAMA"])[0] / 100_000
    # 1 ÷ 2.2 is what files in sRGB say to readers that know no better; what no screen ever had is a mistake.
    power = None if not LEAST <= gamma <= 1 / LEAST or abs(gamma - 1 / 2.2) < 0.002 else 1 / gamma
    primaries = SRGB_PRIMARIES
    if len(chunks.get(b"cHRM", b"")) == 32:
        xy = [value / 100_000 for value in struct.unpack(">8I", chunks[b"cHRM"])]
        white, *colours = [(xy[n], xy[n + 1]) for n in range(0, 8, 2)]
        if not np.allclose((*colours, white), SRGB_PRIMARIES, atol=0.002) and _span(colours, white):
            primaries = (*colours, white)
    return Named(primaries, gamma=power)


def _span(colours: list[tuple[float, float]], white: tuple[float, float]) -> bool:
    """Whether three colours lie apart, with white between them: those of a damaged file do not."""
    corners = np.array([(x, y, 1.0) for x, y in colours])
    if any(y <= 0 for _, y in (*colours, white)) or abs(np.linalg.det(corners)) < 0.01:
        return False
    return bool((np.linalg.solve(corners.T, (*white, 1.0)) > 0).all())


def _chunks(content: bytes) -> Iterator[tuple[bytes, bytes]]:
    """Yield the chunks of a PNG before its pixels."""
    at = 8
    while at + 8 <= len(content):
        length, kind = struct.unpack_from(">I4s", content, at)
        if kind in (b"IDAT", b"IEND"):
            return
        yield kind, content[at + 8 : at + 8 + length]
        at += 12 + length


@dataclass(frozen=True)
class Boxes:
    """What the boxes of an AVIF say of its main picture: how many bits a sample has, and what they mean; None where they name nothing."""

    bits: int
    named: Named | None


def boxes_of_avif(content: bytes) -> Boxes:
    """Read the item properties of an AVIF (ISO/IEC 14496-12 and 23008-12: meta, iprp, ipco; colr of type nclx, av1C)."""
    bits, named = 8, None
    for kind, start, end in _boxes(content, 0, len(content)):
        body = content[start:end]
        if kind == b"av1C" and len(body) >= 3 and bits == 8 and body[2] & 0x40:
            bits = 12 if body[2] & 0x20 else 10
        if kind == b"colr" and named is None and body[:4] == b"nclx" and len(body) >= 10:
            named = named_by(*struct.unpack_from(">HH", body, 4))
    return Boxes(bits, named)


def _boxes(content: bytes, at: int, end: int) -> Iterator[tuple[bytes, int, int]]:
    """Yield boxes from `at` to `end`, those that hold item properties with what is in them."""
    while at + 8 <= end:
        size, kind = struct.unpack_from(">I4s", content, at)
        head = 8
        if size == 1 and at + 16 <= end:
            size, head = struct.unpack_from(">Q", content, at + 8)[0], 16
        stop = end if size == 0 else at + size
        if (size != 0 and size < head) or stop > end:
            return
        yield kind, at + head, stop
        if kind in (b"meta", b"iprp", b"ipco"):
            yield from _boxes(content, at + head + (4 if kind == b"meta" else 0), stop)
        at = stop
