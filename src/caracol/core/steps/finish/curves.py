"""Curves: tones led along drawn curves, all channels or one."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from pydantic import AfterValidator, Field

from ...arrays import Array
from ...geometry.frame import Frame
from ...kinds.kind import PixelKind, Start
from ...kinds.settings import Settings, pairs
from ...pixels.histogram import tones_of
from ...pixels.pointwise import Code, Op
from ...pixels.tables import even_values

Points = tuple[tuple[float, float], ...]
STRAIGHT: Points = ((0.0, 0.0), (1.0, 1.0))
SANDBOX = 0.001
"""Two points of a curve lie at least so far from each other."""
MOST = 16


def _rising(points: Points) -> Points:
    """Refuse points that do not go from left to right."""
    for (before, _), (after, _) in pairwise(points):
        if after - before < SANDBOX - 1e-9:
            raise ValueError(f"points must go from left to right, {SANDBOX} apart at least: {after} comes after {before}")
    return points


Value = Annotated[float, Field(ge=0, le=1)]
Curve = Annotated[tuple[tuple[Value, Value], ...], AfterValidator(_rising)]


def _curve(label: str, help: str) -> Any:
    return pairs(STRAIGHT, label=label, kind="tones", least=2, most=MOST, reach=1, help=help)


class CurvesSettings(Settings):
    """One curve for all channels, then one for each, then one for the light."""

    all: Curve = _curve("All", "Points of the curve for all channels.")
    red: Curve = _curve("Red", "Points of the curve for red, after the one for all.")
    green: Curve = _curve("Green", "Points of the curve for green, after the one for all.")
    blue: Curve = _curve("Blue", "Points of the curve for blue, after the one for all.")
    light: Curve = _curve("Light", "Points of the curve for light, last. Colours are kept.")


@lru_cache(maxsize=256)
def _along(points: Points) -> Array:
    """Return the curve at even old values."""
    # Loaded when it is first needed: it takes a quarter of a second.
    from scipy.interpolate import PchipInterpolator

    old, new = np.array(points, np.float64).T
    even = np.clip(even_values(), old[0], old[-1])
    return np.clip(PchipInterpolator(old, new)(even), 0, 1).astype(np.float32)


@lru_cache(maxsize=64)
def _table(first: Points, channels: tuple[Points, ...]) -> Array:
    value = _along(first)
    if all(points == STRAIGHT for points in channels):
        return np.stack([value] * 3)
    return np.stack([np.interp(value, even_values(), _along(points)) for points in channels]).astype(np.float32)


def curves(s: CurvesSettings, frame: Frame, measured: dict[str, Any]) -> Iterator[Op]:
    """Yield what leads coded values along the curves.

    Notes
    -----
    Monotone cubics after F. N. Fritsch and R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer. Anal. 17 (1980), as
    SciPy's `PchipInterpolator` has them. The curve for the light moves all channels alike; a colour that would leave 0…1 is drawn to the
    grey of its new light.
    """
    channels = s.red, s.green, s.blue
    if any(points != STRAIGHT for points in (s.all, *channels)):
        yield Op(Code.TABLE, table=_table(s.all, channels))
    if s.light != STRAIGHT:
        yield Op(Code.LIGHT_TABLE, table=_table(s.light, (STRAIGHT,) * 3))


def survey_curves(picture: Array, settings: Any) -> dict[str, Any]:
    """Return the histogram of the step's input."""
    return {"histogram": tones_of(picture)}


CURVES = PixelKind(
    key="curves",
    label="Curves",
    family="finish",
    purpose="Changes tones along drawn curves, for all channels or one.",
    words=("tone curve", "gradation", "contrast", "s-curve", "channel curves", "colour cast", "cross process", "histogram"),
    settings=CurvesSettings,
    starts=(
        Start("Negative", {"all": ((0, 1), (1, 0))}, words=("invert", "negative", "inversion", "invert colours", "x-ray")),
        Start("Soft contrast", {"all": ((0, 0), (0.25, 0.2), (0.75, 0.81), (1, 1))}),
        Start("Faded print", {"all": ((0, 0.09), (0.3, 0.3), (0.75, 0.74), (1, 0.93)), "blue": ((0, 0.06), (0.5, 0.48), (1, 0.94))}),
        Start(
            "Crossed colours",
            {
                "red": ((0, 0), (0.3, 0.24), (0.7, 0.77), (1, 1)),
                "green": ((0, 0), (0.35, 0.34), (0.75, 0.79), (1, 1)),
                "blue": ((0, 0.14), (0.5, 0.5), (1, 0.86)),
            },
            words=("cross processed",),
        ),
        Start("Light turned over", {"light": ((0, 0.02), (0.3, 0.4), (0.55, 0.74), (0.75, 0.5), (1, 0.2))}, words=("solarise", "solarize")),
    ),
    neutral={"all": STRAIGHT, "red": STRAIGHT, "green": STRAIGHT, "blue": STRAIGHT, "light": STRAIGHT},
    effort=1.2,
    ops=curves,
    survey=survey_curves,
)
