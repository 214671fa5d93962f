"""Closing a join: the ways there are, and which of them shows least."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from ..arrays import Array
from .joining import OVERLAP, Drift, drift_of, laid_together, least_path, led_together, overlapping, spread, visibility

Way = Literal["none", "cut", "blend", "crossfade"]
WAYS: tuple[Way, ...] = ("blend", "cut", "crossfade")
PLACES = 256
"""Along a join, a path and the sides' differences are kept in this many places."""
UNSEEN = 1.15
"""A join that is no more visible than this is left alone."""
Pulls = tuple[tuple[float, float], ...]
SOFT = 0.06
"""How wide both sides fade into each other along a cut, in bands."""


@dataclass(frozen=True)
class Closing:
    """What is done at a join.

    Parameters
    ----------
    way : str
    drift : Drift or None
        What is levelled off first.
    path : float32 array (PLACES,)
        Of a cut, in bands from the join.
    before : float
        How visible the join is without it.
    """

    way: Way
    drift: Drift | None
    path: Array
    before: float

    def of(self, strip: Array) -> Array:
        """Return a strip with its join closed so."""
        return closed(strip, self.way, self.drift, self.path)

    def after(self, strip: Array, usual: Array) -> float:
        """Return how visible the join of the strip it was found on is with it."""
        return self.before if self.way == "none" and self.drift is None else visibility(_step_of(self.of(strip)), usual)


def step_visibility(strip: Array, usual: Array) -> float:
    """Return how visible the join in the middle of a strip is; a picture one pixel wide has none."""
    return visibility(_step_of(strip), usual) if strip.shape[1] else 0.0


def _step_of(strip: Array) -> Array:
    band = strip.shape[1] // 2
    return strip[:, band - 1, :3] - strip[:, band, :3]


def closed(strip: Array, way: Way, drift: Drift | None, path: Array) -> Array:
    """Return a strip with its join closed one way; `path` in even places along it, in bands."""
    if drift is not None:
        strip = led_together(strip, drift)
    along = spread(path, len(strip)) if way == "cut" else np.zeros(len(strip), np.float32)
    if way == "none":
        return strip
    if way == "blend":
        return laid_together(*overlapping(strip, 0), along, 0.0, level=True)
    first, second = overlapping(strip)
    if way == "cut":
        return laid_together(first, second, along, SOFT, level=True)
    return laid_together(first, second, along, 2 * OVERLAP, level=False)


def _fine(step: Array, band: int) -> Array:
    """Return what of a step along the join cannot be spread over the band unseen."""
    soft = cv2.GaussianBlur(
        np.ascontiguousarray(step[:, None]), (1, 0), sigmaX=1, sigmaY=max(0.5, band / 4), borderType=cv2.BORDER_REPLICATE
    )
    return np.asarray(step - soft.reshape(step.shape), np.float32)


def _seen(way: Way, strip: Array, sides: tuple[Array, Array], path: Array, usual: Array) -> float:
    """Return how visible a way of closing a strip will be: steps, broken lines and things half seen through, against what is usual."""
    band = strip.shape[1] // 2
    if way == "none":
        return visibility(_step_of(strip), usual)
    if way == "blend":
        return 0.6 * visibility(_fine(_step_of(strip), band), usual)
    between = (sides[0] - sides[1])[..., :3]
    if way == "cut":
        at = np.clip(((spread(path, len(strip)) + 1) * band).astype(int), 0, 2 * band - 1)
        return 0.1 + 0.6 * visibility(_fine(between[np.arange(len(strip)), at], band), usual)
    # A band of one or two pixels has no inside of its own.
    first = min(round(band * (1 - OVERLAP / 2)), between.shape[1] - 1)
    inside = between[:, first : max(round(band * (1 + OVERLAP / 2)), first + 1)]
    return 0.1 + 0.5 * visibility(np.abs(inside - cv2.GaussianBlur(inside, (0, 0), max(1.0, band / 4))).mean(axis=1), usual)


def find_closing(strip: Array, usual: Array, method: str = "auto", level_off: bool = True, pulls: Pulls = ()) -> Closing:
    """Return what closes a join: by the way that is asked for, or of all ways by the one that shows least.

    Parameters
    ----------
    strip : float32 array (rows, 2·band, 4)
        Both sides of the join (`joining`).
    usual : float32 array (rows,)
        From `joining.usual_steps`.
    method : str
        A `Way`, or `auto`: which leaves a join alone that is no more visible than anything else.
    level_off : bool
    pulls : tuple of (share of the height, bands)
        Places that a cut goes through; `auto` takes the cut where there are any.
    """
    before = step_visibility(strip, usual)
    if strip.shape[1] < 4 or (method == "auto" and before <= UNSEEN and not pulls):
        return Closing("none", None, np.zeros(PLACES, np.float32), before)
    drift = drift_of(strip, PLACES) if level_off else None
    led = strip if drift is None else led_together(strip, drift)
    sides = overlapping(led)
    least = least_path(*sides, pulls)
    path = np.interp((np.arange(PLACES) + 0.5) / PLACES * len(least) - 0.5, np.arange(len(least)), least).astype(np.float32)
    way: Way = "none"
    if method != "auto":
        way = method  # type: ignore[assignment]
    elif pulls:
        way = "cut"
    else:
        way = min(("none", *WAYS), key=lambda one: _seen(one, led, sides, path, usual))
    return Closing(way, drift, path, before)
