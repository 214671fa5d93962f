"""Closing a join: the ways there are, and which of them shows least."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import Array
from .joining import HIDDEN, MOST_SEEN, OVERLAP, Drift, Meeting, drift_of, least_path, led_together, overlapping, spread, visibility

Way = Literal["none", "cut", "blend", "crossfade"]
CHOSEN: tuple[Way, ...] = ("blend", "cut")
"""Ways that are chosen where none is asked for; two different things are never mixed half and half unasked."""
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
    before, after : float
        How much an eye finds of the join without it, and with it (`Meeting.seen`).
    """

    way: Way
    drift: Drift | None
    path: Array
    before: float
    after: float

    def of(self, strip: Array) -> Array:
        """Return a strip with its join closed so."""
        if self.drift is not None:
            strip = led_together(strip, self.drift)
        return strip if self.way == "none" else meeting_of(strip, self.way, self.path).laid()


def step_visibility(strip: Array, usual: Array) -> float:
    """Return how visible the join in the middle of a strip is; a picture one pixel wide has none."""
    return visibility(_step_of(strip), usual) if strip.shape[1] else 0.0


def _step_of(strip: Array) -> Array:
    band = strip.shape[1] // 2
    return strip[:, band - 1, :3] - strip[:, band, :3]


def meeting_of(strip: Array, way: Way, path: Array) -> Meeting:
    """Return where the sides of a strip meet one way; `path` of a cut in even places along it, in bands."""
    straight = np.zeros(len(strip), np.float32)
    if way in ("none", "blend"):
        return Meeting(*overlapping(strip, 0), straight, 0.0, level=way == "blend")
    sides = overlapping(strip)
    if way == "cut":
        return Meeting(*sides, spread(path, len(strip)), SOFT, level=True)
    return Meeting(*sides, straight, 2 * OVERLAP, level=False)


def seen_of(strip: Array, usual: Array, way: Way = "none", path: Array | None = None) -> float:
    """Return how much an eye finds of the join of a strip when it is closed one way; a picture one pixel wide has none."""
    if not strip.shape[1]:
        return 0.0
    if way == "none":
        # Nothing is done, so that nothing counts as levelled: the whole step stands there.
        plain = Meeting(*overlapping(strip, 0), np.zeros(len(strip), np.float32), 0.0, level=False)
        return float(np.minimum(np.abs(plain.step).mean(axis=1), MOST_SEEN).mean() / (usual.mean() + HIDDEN))
    return meeting_of(strip, way, np.zeros(PLACES, np.float32) if path is None else path).seen(usual)


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
    before = seen_of(strip, usual)
    straight = np.zeros(PLACES, np.float32)
    if strip.shape[1] < 4 or (method == "auto" and step_visibility(strip, usual) <= UNSEEN and not pulls):
        return Closing("none", None, straight, before, before)
    drift = drift_of(strip, PLACES) if level_off else None
    led = strip if drift is None else led_together(strip, drift)
    least = least_path(*overlapping(led), pulls)
    path = np.interp((np.arange(PLACES) + 0.5) / PLACES * len(least) - 0.5, np.arange(len(least)), least).astype(np.float32)
    way: Way = "cut"
    if method != "auto":
        way = method  # type: ignore[assignment]
    elif not pulls:
        way = min(CHOSEN, key=lambda one: seen_of(led, usual, one, path))
    return Closing(way, drift, path, before, seen_of(led, usual, way, path))
