"""Lettering: words in one of the shipped fonts, straight or along a circle, on an empty ground.

The fonts come as packages under the SIL Open Font License: Source Sans Pro, Source Serif Pro, Amatic SC, Fredoka One.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from importlib.util import find_spec
from io import BytesIO
from itertools import zip_longest
from math import ceil, log2, tau
from pathlib import Path
from typing import Any, ClassVar, Literal

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont
from pydantic import field_validator

from ..arrays import AnyArray, Array
from ..geometry.rows import Rows
from ..kinds.settings import choice, colour, number, text
from .drawn import COLOUR_HELP, DrawnSource, ratio_setting, rgb

FACES = {
    "sans": ("font_source_sans_pro", "SourceSansPro-Black.ttf"),
    "serif": ("font_source_serif_pro", "SourceSerifPro-Bold.ttf"),
    "hand": ("font_amatic_sc", "AmaticSC-Bold.ttf"),
    "round": ("font_fredoka_one", "FredokaOne-Regular.ttf"),
}
LINE = 1.05
"""From line to line, in letter sizes."""
FINEST = 256.0
"""Letters are drawn at this many pixels at least, where there is room."""
LONGEST = 32_000
MOST = 48_000_000
"""The straight words have at most so many pixels on a side, and in all; longer or larger ones are drawn smaller, and a little softer."""


@lru_cache(maxsize=len(FACES))
def _file(face: str) -> bytes:
    package, name = FACES[face]
    spec = find_spec(package)
    if spec is None or not spec.submodule_search_locations:
        raise FileNotFoundError(f"the font package {package} is not installed; run pip install again")
    return (Path(next(iter(spec.submodule_search_locations))) / "files" / name).read_bytes()


@lru_cache(maxsize=32)
def load_font(face: str, pixels: float) -> ImageFont.FreeTypeFont:
    """Return a shipped font at a size in pixels.

    Parameters
    ----------
    face : str
        One of the faces that come with Caracol.
    pixels : float
        The size of an em.

    Returns
    -------
    ImageFont.FreeTypeFont
    """
    return ImageFont.truetype(BytesIO(_file(face)), pixels)


@dataclass(frozen=True)
class Block:
    """The straight words as an 8-bit cover, centred line by line, and pixels per unit across and down in it."""

    cover: AnyArray
    per_x: float
    per_y: float

    @property
    def nbytes(self) -> int:
        return int(self.cover.nbytes)


class LetteringSource(DrawnSource):
    """A few words."""

    label: ClassVar[str] = "Text"
    purpose: ClassVar[str] = "Text in a line or along a circle."
    looks: ClassVar = (
        ("Text", {"text": "Tide\nand lamp", "size": 0.42}),
        (
            "Text on a circle",
            {"text": "From tide to tide · ", "round": 0.7, "size": 0.22, "face": "round", "colour": "#22606b", "ratio": 1},
        ),
    )

    kind: Literal["lettering"] = "lettering"
    text: str = text("Feria de\nla Marea", most=300, label="Text", help="Press Enter for a new line.")
    face: Literal["sans", "serif", "hand", "round"] = choice("serif", label="Font", help="The font of the text.")
    size: float = number(0.5, 0.02, 4, label="Size", unit="units", help="Height of the letters.")
    spacing: float = number(0, -0.3, 2, label="Spacing", unit="share", help="Extra space between letters.")
    colour: str = colour("#c24a30", label="Colour", help=COLOUR_HELP)
    x: float = number(0, -4, 4, label="Across", unit="units", help="Middle of the text, or of its circle, right positive.")
    y: float = number(0, -4, 4, label="Down", unit="units", help="Middle of the text, or of its circle, down positive.")
    round: float = number(
        0, -4, 4, label="Circle", unit="units", help="Radius of a circle the text stands on; negative is inside it; 0 is straight."
    )
    turn: float = number(
        0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Where the middle of the text is on the circle, clockwise from the top."
    )
    ratio: float = ratio_setting()

    @field_validator("text")
    @classmethod
    def _has_letters(cls, value: str) -> str:
        if any(ord(c) < 32 and c != "\n" for c in value):
            raise ValueError("the text has characters that are not letters; remove them")
        return value

    def prepare(self, rows: Rows) -> Block:
        return _block(self, rows.cols / rows.frame.half_w)

    def paint(self, rows: Rows, prepared: Any = None) -> Array:
        cover = _cover(self, rows, prepared or self.prepare(rows)).astype(np.float32) / 255
        return np.concatenate([rgb(self.colour) * cover[..., None], cover[..., None]], axis=-1)


def _letters(line: str, font: ImageFont.FreeTypeFont, gap: float) -> Iterator[tuple[str, float]]:
    """Yield each letter with where it begins, kerned, and at last an empty one with where the line ends."""
    at = 0.0
    for letter, following in zip_longest(line, line[1:], fillvalue=""):
        yield letter, at
        at += (font.getlength(letter + following) - font.getlength(following) if following else font.getlength(letter)) + gap
    yield "", at - (gap if line else 0)


def _laid_out(s: LetteringSource, pixels: float) -> tuple[list[list[tuple[str, float]]], int, int]:
    """Return the letters of each line with their places, and how wide and high all of it is, for an em of so many pixels."""
    font = load_font(s.face, pixels)
    lines = [list(_letters(line, font, s.spacing * pixels)) for line in s.text.split("\n")]
    ascent, descent = font.getmetrics()
    width = int(max(line[-1][1] for line in lines)) + 2 * int(pixels) + 2
    return lines, max(1, width), max(1, int(ascent + descent + (len(lines) - 1) * LINE * pixels) + 2)


def _block(s: LetteringSource, unit: float) -> Block:
    """Return the straight words.

    Letters are drawn at least twice as large and averaged down, so that no size is bound to whole pixels or to a font's hints.
    """
    wanted = s.size * unit
    pixels = max(FINEST, 2.0 ** ceil(log2(2 * wanted)))
    lines, width, height = _laid_out(s, pixels)
    too_large = max(width / LONGEST, height / LONGEST, (width * height / MOST) ** 0.5)
    if too_large > 1:
        pixels = max(4.0, pixels / too_large)
        lines, width, height = _laid_out(s, pixels)
    wanted = min(wanted, pixels)
    font = load_font(s.face, pixels)
    image = Image.new("L", (max(1, width), max(1, height)))
    pen = ImageDraw.Draw(image)
    for index, line in enumerate(lines):
        begin = (width - line[-1][1]) / 2
        for letter, at in line[:-1]:
            pen.text((begin + at, index * LINE * pixels), letter, fill=255, font=font)
    size = (max(1, round(width * wanted / pixels)), max(1, round(height * wanted / pixels)))
    small = np.asarray(cv2.resize(np.asarray(image), size, interpolation=cv2.INTER_AREA))
    return Block(small, size[0] / width * pixels / s.size, size[1] / height * pixels / s.size)


def _cover(s: LetteringSource, rows: Rows, block: Block) -> AnyArray:
    """Return a strip of the words in the frame, 8 bits, (count, cols)."""
    high, wide = block.cover.shape
    count = rows.rows - rows.top if rows.count is None else rows.count
    # Read twice as fine and averaged: the slope of a letter's edge is that of the picture's own pixels.
    x, y = s.frame.grid(2 * rows.rows, 2 * rows.cols, 2 * rows.top, 2 * count)
    x, y = x - np.float32(s.x), y - np.float32(s.y)
    if s.round == 0:
        c, r = np.float32(np.cos(tau * s.turn)), np.float32(np.sin(tau * s.turn))
        across, down = x * c + y * r, y * c - x * r
    else:
        ang = (np.arctan2(x, -y) / tau - s.turn + 0.5) % 1 - 0.5
        if s.round > 0:
            across, down = ang * tau * s.round, s.round - np.hypot(x, y)
        else:
            # Read from inside: the words hang at the foot, running the other way.
            ang = (np.arctan2(x, -y) / tau - s.turn) % 1 - 0.5
            across, down = ang * tau * s.round, np.hypot(x, y) + s.round
        down = down + high / block.per_y / 2 - s.size * 0.7
    col, row = across * block.per_x + wide / 2 - 0.5, down * block.per_y + high / 2 - 0.5
    fine = cv2.remap(block.cover, col.astype(np.float32), row.astype(np.float32), cv2.INTER_LINEAR, borderValue=0)
    return np.asarray(cv2.resize(fine, (rows.cols, count), interpolation=cv2.INTER_AREA))


LINES = 96
"""Across and down, by whose ends the outline of words is told."""


@dataclass(frozen=True)
class Ink:
    """Points around the straight words, (n, 2), in letter sizes from the middle of their block, x right and y down; and how high that is."""

    points: AnyArray
    height: float


def find_ink(s: LetteringSource) -> Ink | None:
    """Return how far the letters themselves reach when straight.

    Parameters
    ----------
    s : LetteringSource
        Its size, circle, turn and place make no difference.

    Returns
    -------
    Ink or None
        None where the text is blank.
    """
    block = _block(s, FINEST / s.size)
    ink = block.cover > 127
    high, wide = ink.shape
    ends = [(x, y) for y, x in _ends(ink)] + list(_ends(ink.T))
    if not ends:
        return None
    middle, size = np.array([wide / 2, high / 2]), np.array([block.per_x, block.per_y]) * s.size
    return Ink((np.array(ends) - middle) / size, high / float(size[1]))


def _ends(ink: AnyArray) -> Iterator[tuple[float, float]]:
    """Yield where ink begins and ends in bands of rows, each as the middle of its row and the column's outer edge."""
    count = len(ink)
    for band in np.array_split(np.arange(count), min(LINES, count)):
        cols = np.flatnonzero(ink[band].any(axis=0))
        for col, edge in ((cols[0], 0), (cols[-1], 1)) if len(cols) else ():
            row = band[np.flatnonzero(ink[band, col])[0]]
            yield row + 0.5, float(col + edge)


def outline(s: LetteringSource, ink: Ink) -> AnyArray:
    """Return points around the words, (n, 2), in units of the frame they are drawn in.

    Parameters
    ----------
    s : LetteringSource
    ink : Ink
        Of the same text and font.

    Returns
    -------
    float64 array (n, 2)
        x right, y down.
    """
    across, down = s.size * ink.points.T
    if s.round == 0:
        c, r = np.cos(tau * s.turn), np.sin(tau * s.turn)
        x, y = across * c - down * r, down * c + across * r
    else:
        # As in `_cover`: the foot of the last line stands on the circle, a little of it below.
        down = down - s.size * (ink.height / 2 - 0.7)
        radius = s.round - down if s.round > 0 else down - s.round
        ang = tau * s.turn + across / s.round + (0 if s.round > 0 else np.pi)
        x, y = radius * np.sin(ang), -radius * np.cos(ang)
    return np.stack([x + s.x, y + s.y], axis=-1)
