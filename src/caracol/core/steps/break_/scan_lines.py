"""Scan lines: dark lines, bright lines between them, fields slipped sideways, a slow band."""

from __future__ import annotations

from functools import lru_cache
from math import cos, sin, tau
from typing import Any

import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.kept_light import lift_of, lifted

FINE = 4096
"""A line's profile is summed at this many places of one pitch."""


class ScanLinesSettings(Settings):
    """The lines and what else an old screen does."""

    pitch: float = number(0.012, 0.001, 0.2, label="Pitch", unit="share", step=0.0005, help="From line to line, as a share of the height.")
    thickness: float = number(0.45, 0, 1, label="Thickness", unit="share", help="How much of the pitch a dark line covers.")
    softness: float = number(0.5, 0, 1, label="Softness", unit="share", help="How soft the edges of a line are.")
    dark: float = number(0.4, 0, 1, label="Dark lines", unit="share", help="How dark they are.")
    bright: float = number(0.25, 0, 1, label="Bright lines", unit="share", help="How bright the lines between them are.")
    angle: float = number(0, -0.5, 0.5, label="Turn", unit="turns", step=0.0025, help="Turns the lines, clockwise positive; 0 is level.")
    offset: float = number(0, 0, 1, label="Offset", unit="share", help="Moves the lines down, as a share of the pitch.")
    interlace: float = number(
        0, -0.2, 0.2, label="Interlace", unit="units", step=0.001, help="Shifts every other line sideways, right positive."
    )
    keep_light: float = number(
        1, 0, 1, label="Keep brightness", unit="share", help="Makes up for the light the lines take away; 0 leaves it darker."
    )
    band: float = number(0, 0, 1, label="Band", unit="share", help="How strong the bright band is.")
    band_at: float = number(
        0.3, 0, 1, label="Band at", idle=(({"band": [0]}, "Band is 0."),), unit="share", help="Where its middle lies, from the top."
    )
    band_height: float = number(
        0.25,
        0.02,
        1,
        label="Band height",
        idle=(({"band": [0]}, "Band is 0."),),
        unit="share",
        help="How high it is, as a share of the height.",
    )


@lru_cache(maxsize=64)
def summed_profile(thickness: float, softness: float) -> Array:
    """Return the running integral of one line's profile over a pitch, at FINE + 1 even places; a line's middle lies at 0.5.

    Parameters
    ----------
    thickness, softness : float
        Shares of the pitch.

    Returns
    -------
    float32 array (FINE + 1,)
    """
    t = np.abs((np.arange(FINE) + 0.5) / FINE - 0.5)
    profile = np.clip((thickness / 2 - t) / max(softness * 0.5, 1 / FINE) + 0.5, 0, 1) if thickness > 0 else np.zeros(FINE)
    return np.concatenate([[0.0], np.cumsum(profile) / FINE])


def line_cover(place: Array, width: float, thickness: float, softness: float) -> Array:
    """Return how much of each pixel lies under lines: the exact average over its extent, so that lines never alias.

    Parameters
    ----------
    place : array
        Where pixels lie across the lines, in pitches; a line's middle at every half.
    width : float
        A pixel's extent, in pitches.
    """
    table = summed_profile(thickness, softness)

    def integral(t: Array) -> Array:
        whole = np.floor(t)
        return whole * table[-1] + np.interp(t - whole, np.linspace(0, 1, FINE + 1), table)

    return np.asarray((integral(place + width / 2) - integral(place - width / 2)) / width, np.float32)


def _slipped(picture: Array, field: Array, shift: float) -> Array:
    """Return the picture with each row of it moved right by `shift` pixels as far as `field` (rows,) says, the last column stretched."""
    col = np.arange(picture.shape[1]) - shift
    low = np.clip(np.floor(col).astype(int), 0, picture.shape[1] - 1)
    high = np.clip(low + 1, 0, picture.shape[1] - 1)
    part = np.clip(col - np.floor(col), 0, 1).astype(np.float32)[None, :, None]
    moved = picture[:, low] * (1 - part) + picture[:, high] * part
    return np.asarray(picture + field[:, None, None] * (moved - picture), np.float32)


def light_taken(picture: Array, s: ScanLinesSettings) -> dict[str, Any]:
    """Return the gain that gives the picture its light back."""
    rows = Rows(Frame(picture.shape[1] / picture.shape[0]), *picture.shape[:2])
    return {"gain": lift_of(picture, lambda given: scan_lines(given, rows, {}, s)) ** s.keep_light}


def scan_lines(picture: Array, rows: Rows, measured: dict[str, Any], s: ScanLinesSettings) -> Array:
    """Return the picture under its lines.

    Notes
    -----
    The pitch is a share of the height. Dark lines multiply by 1 - dark·cover, bright ones, half a pitch further, screen by
    bright·cover. Interlace moves the odd lines.
    """
    frame = rows.frame
    x, y = rows.grid()
    share = 1 / (2 * frame.half_h)
    across = (y * cos(tau * s.angle) - x * sin(tau * s.angle)) * share + 0.5
    place = across / s.pitch - s.offset
    width = (abs(cos(tau * s.angle)) / rows.rows + abs(sin(tau * s.angle)) * 2 * frame.half_w * share / rows.cols) / s.pitch
    out = lifted(picture, measured.get("gain", 1.0))
    if s.interlace:
        level = (y[:, 0] * share + 0.5) / s.pitch - s.offset
        odd = line_cover(level / 2 - 0.25, 1 / rows.rows / s.pitch / 2, 0.5, 0)
        out = _slipped(out, odd, s.interlace * rows.cols / 2 / frame.half_w)
    rgb, alpha = out[..., :3], out[..., 3:]
    rgb = rgb * (1 - np.float32(s.dark) * line_cover(place, width, s.thickness, s.softness))[..., None]
    if s.bright:
        between = line_cover(place + 0.5, width, 1 - s.thickness, s.softness)
        rgb = rgb + (alpha - rgb) * (np.float32(s.bright) * between)[..., None] * rgb
    if s.band:
        off = np.abs(y * share + 0.5 - s.band_at)
        band = np.cos(np.pi / 2 * np.clip(off / s.band_height * 2, 0, 1)) ** 2
        rgb = rgb + (alpha - rgb) * (np.float32(s.band * 0.5) * band)[..., None]
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


SCAN_LINES = PictureKind(
    key="scan-lines",
    label="Scan lines",
    family="break",
    purpose="Adds the lines of a screen.",
    words=("scanlines", "crt", "screen", "monitor", "interlace", "television"),
    settings=ScanLinesSettings,
    starts=(
        Start("Fine screen", {"pitch": 0.014, "dark": 0.55, "bright": 0.3}),
        Start("Coarse screen", {"pitch": 0.02, "dark": 0.6, "bright": 0.2}),
        Start("Slipped fields", {"pitch": 0.012, "interlace": 0.012, "dark": 0.3}),
        Start("Rolling band", {"band": 0.5, "dark": 0.35}),
    ),
    neutral={"dark": 0, "bright": 0, "interlace": 0, "band": 0},
    measure=light_taken,
    measure_size=384,
    measures=lambda s: s.keep_light > 0,
    effort=4.0,
    apply=scan_lines,
)
