"""Gradient map: every light a colour of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Settings, number, stops
from ...pixels.colours import light_of, rgb_of
from ...pixels.histogram import tones_of
from ...pixels.light import coded_to_linear, linear_to_coded
from ...pixels.pointwise import Code, Op
from ...pixels.tables import even_values

SEED = 1
DITHER = 1 / 24
"""How far the light is moved at most, up or down, at full dither."""


class Stop(Settings):
    """A place in a gradient and its colour."""

    at: Annotated[float, Field(ge=0, le=1)]
    colour: Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]


def in_own_light(*colours: str, bright: float = 0.0) -> list[dict[str, Any]]:
    """Return stops for colours, each at the place of its own light: such a gradient keeps light and dark where they are.

    Strong colours give more light than the grey of their luma, so that a photo gets lighter; `bright` goes that share of the way from their luma
    to the grey of their mean linear light.
    """

    def own(colour: str) -> float:
        luma = light_of(rgb_of(colour))
        mean = np.asarray([coded_to_linear(np.asarray(rgb_of(colour), np.float32)).mean()], np.float32)
        return luma + bright * (float(linear_to_coded(mean)[0]) - luma)

    return [{"at": round(own(colour), 3), "colour": colour} for colour in colours]


class GradientMapSettings(Settings):
    """The colours and where they stand."""

    stops: tuple[Stop, ...] = stops(
        tuple(Stop(**one) for one in in_own_light("#0d1022", "#3a2a5e", "#b0506a", "#f2a06b", "#fbf3dc", bright=0.65)),
        most=32,
        label="Gradient",
        help="Colours from dark to light, blended between stops.",
    )
    dither: float = number(0, 0, 1, label="Dither", unit="share", help="Fine noise against banding.")


@lru_cache(maxsize=64)
def gradient_table(places: tuple[tuple[float, str], ...]) -> Array:
    """Return red, green and blue at even lights, (3, SIZE); of two stops at one place the first ends what is below, the last begins what is above."""
    known = sorted(places, key=lambda place: place[0])
    at, parts = np.array([place for place, _ in known]), np.array([rgb_of(code) for _, code in known])
    # A hair apart, in the order they came in: interpolation wants rising places.
    at = at + np.arange(len(at)) * 1e-9
    return np.stack([np.interp(even_values(), at, parts[:, k]) for k in range(3)]).astype(np.float32)


def _places(some: Sequence[Stop]) -> tuple[tuple[float, str], ...]:
    return tuple((stop.at, stop.colour) for stop in some)


def gradient_map(s: GradientMapSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what gives every light its colour."""
    yield Op(Code.MAP, (0, s.dither * DITHER, SEED), table=gradient_table(_places(s.stops)))


def survey_gradient(picture: Array, settings: Any) -> dict[str, Any]:
    """Return the histogram of the step's input."""
    return {"histogram": tones_of(picture)}


GRADIENT_MAP = PixelKind(
    key="gradient-map",
    label="Gradient map",
    family="finish",
    purpose="Gives every brightness its own colour.",
    words=("duotone", "tritone", "colourise", "colorize", "toning", "false colour", "palette", "heat map"),
    settings=GradientMapSettings,
    starts=(
        Start("Lanterns", {}),
        Start("Ink on warm paper", {"stops": in_own_light("#15171c", "#6d6a66", "#f6ead2")}),
        Start("Deep water", {"stops": in_own_light("#03101c", "#0b4a63", "#2f9a97", "#a6dcc4", "#f4fbee")}),
        Start("Two inks", {"stops": in_own_light("#0b0c20", "#1c1f4a", "#d8574a", "#fff4e4", bright=0.65)}, words=("riso", "screen print")),
        Start("Dark kelp", {"stops": in_own_light("#0a0d16", "#28403a", "#7d9a3c", "#f0e28a")}),
    ),
    effort=1.2,
    ops=gradient_map,
    survey=survey_gradient,
)
