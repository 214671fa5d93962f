"""Contact sheets: many small pictures in one, each with its name and a line of words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, sqrt

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from ..arrays import AnyArray
from ..io.formats import to_integers
from ..sources.lettering import load_font

GROUND, INK, FAINT = (28, 33, 36), (250, 246, 240), (190, 182, 172)
"""The colours of the surround, of names, and of what is said below them."""
GAP = 0.05
"""Room between pictures, as a share of their width."""
LINES = 0.16
"""Room for words below a picture, as a share of its width."""


@dataclass(frozen=True)
class Shown:
    """One picture of a sheet: float32 (rows, cols, 4), coded and premultiplied, or None where there is none; its name, and a line of words."""

    picture: AnyArray | None
    name: str
    words: str = ""


def _cut_short(text: str, font: ImageFont.FreeTypeFont, room: float) -> str:
    if font.getlength(text) <= room:
        return text
    while text and font.getlength(text + "…") > room:
        text = text[:-1]
    return text.rstrip() + "…"


def contact_sheet(shown: Sequence[Shown], width: int = 384, columns: int | None = None) -> AnyArray:
    """Return pictures in rows.

    Parameters
    ----------
    shown : sequence of Shown
        From the upper left, row by row.
    width : int
        Pixels of a picture's place, which is square; pictures keep their shapes in it.
    columns : int, optional
        As many as make the sheet about as wide as high when left out.

    Returns
    -------
    uint8 array (rows, cols, 3)
    """
    columns = max(1, columns or ceil(sqrt(len(shown))))
    gap, below = round(GAP * width), round(LINES * width)
    rows = ceil(len(shown) / columns)
    sheet = Image.new("RGB", (columns * (width + gap) + gap, rows * (width + below + gap) + gap), GROUND)
    pen = ImageDraw.Draw(sheet)
    large, small = load_font("sans", max(8.0, width * 0.045)), load_font("sans", max(7.0, width * 0.036))
    for index, one in enumerate(shown):
        left, top = gap + index % columns * (width + gap), gap + index // columns * (width + below + gap)
        if one.picture is not None:
            picture = Image.fromarray(to_integers(one.picture))
            picture.thumbnail((width, width), Image.Resampling.LANCZOS)
            sheet.paste(picture, (left + (width - picture.width) // 2, top + width - picture.height), picture)
        else:
            pen.rectangle((left, top, left + width - 1, top + width - 1), outline=FAINT)
        pen.text((left, top + width + below * 0.12), _cut_short(one.name, large, width), fill=INK, font=large)
        pen.text((left, top + width + below * 0.52), _cut_short(one.words, small, width), fill=FAINT, font=small)
    return np.asarray(sheet)
