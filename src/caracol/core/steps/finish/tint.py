"""Tint: one colour for the dark, another for the light."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from math import log
from typing import Any

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Settings, colour, number
from ...pixels.colours import at_light, rgb_of
from ...pixels.pointwise import Code, Op
from ...pixels.tables import even_values


class TintSettings(Settings):
    """The two colours, how strong, and where they pass into each other."""

    dark: str = colour("#1f3f5c", label="Dark", help="The colour for dark tones.")
    light: str = colour("#f0b673", label="Light", help="The colour for light tones.")
    dark_share: float = number(0.5, 0, 1, label="In the dark", unit="share", help="How strongly dark tones are tinted.")
    light_share: float = number(0.5, 0, 1, label="In the light", unit="share", help="How strongly light tones are tinted.")
    balance: float = number(0.5, 0.1, 0.9, label="Balance", unit="share", help="The brightness at which both tints are equally strong.")


@lru_cache(maxsize=64)
def _table(dark: str, light: str, shares: tuple[float, float], balance: float) -> Array:
    """Return what both tints add, and how much of the pixel's own colour stays, at even lights, (4, SIZE)."""
    at = even_values().astype(np.float64)
    up = at ** (log(0.5) / log(balance))
    below, above = shares[0] * (1 - up), shares[1] * up
    added = below * at_light(rgb_of(dark), at) + above * at_light(rgb_of(light), at)
    return np.concatenate([added, [1 - below - above]]).astype(np.float32)


def tint(s: TintSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what tints: each colour is taken at the pixel's own light, so that light and dark stay where they are.

    Notes
    -----
    The light tint counts light^e, the dark one 1 - light^e, with e so that both are ½ at the balance.
    """
    if s.dark_share or s.light_share:
        yield Op(Code.MAP, (1,), table=_table(s.dark, s.light, (s.dark_share, s.light_share), s.balance))


TINT = PixelKind(
    key="tint",
    label="Tint",
    family="finish",
    purpose="Tints dark tones with one colour and light tones with another.",
    words=("split toning", "duotone", "toning", "sepia", "colour grade", "shadows", "highlights", "cast"),
    settings=TintSettings,
    starts=(
        Start("Marsh evening", {}),
        Start("Old print", {"dark": "#3b2a1c", "light": "#ead2a6", "dark_share": 0.95, "light_share": 0.98}, words=("sepia",)),
        Start("Kelp and coral", {"dark": "#0f4d4a", "light": "#ef8f78", "dark_share": 0.9, "light_share": 0.8, "balance": 0.45}),
        Start("Under the tram's lamps", {"dark": "#38265e", "light": "#e8d68a", "dark_share": 0.65, "light_share": 0.5}),
    ),
    neutral={"dark_share": 0, "light_share": 0},
    effort=1.5,
    ops=tint,
)
