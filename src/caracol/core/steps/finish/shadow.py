"""Shadow: cast on the ground, behind, inside, or as relief; of what is not transparent."""

from __future__ import annotations

from math import cos, sin, tau
from typing import Any, Literal

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, auto_number, choice, colour, number
from ...pixels.colours import rgb_of
from ...pixels.soften import softened

FLAT = 0.45
"""A ground seen from a person's height: what lies on it is so much shorter away from the eye than sideways."""
THIN = 0.05
"""A shadow that falls straight sideways is still so high."""
TOUCHES = 0.35
"""So much of its length from the feet a shadow stays sharp, less and less."""
FORMS = Literal["ground", "behind", "inner", "relief", "none"]
_FLAT_ONES = ["behind", "inner", "relief"]
_CAST = ["ground", *_FLAT_ONES]


class ShadowSettings(Settings):
    """What sort, where it falls, how long, how soft, how dark."""

    form: FORMS = choice(
        "ground",
        label="Form",
        help="On the ground, on a wall behind, inside its edges, or as a relief. None is for what flies.",
    )
    heading: float = number(
        0.2,
        -1,
        1,
        label="Falls towards",
        unit="turns",
        step=0.0025,
        help="Where the shadow falls, clockwise from the top.",
        when={"form": _CAST},
    )
    length: float = number(
        0.9,
        0,
        6,
        label="Length",
        unit="factor",
        step=0.05,
        help="Length of the shadow, against the height of the figure.",
        when={"form": ["ground"]},
    )
    feet: float | None = auto_number(
        -3,
        3,
        [{"value": 1}],
        label="Feet",
        unit="units",
        help="The height it stands on, down positive. Automatic: its lowest point.",
        when={"form": ["ground"]},
    )
    distance: float = number(
        0.04,
        0,
        1,
        label="Distance",
        unit="units",
        step=0.002,
        help="How far the shadow is offset, or how wide the edge is.",
        when={"form": _FLAT_ONES},
    )
    soft: float = number(
        0.025,
        0,
        0.5,
        label="Soft",
        unit="units",
        step=0.001,
        help="How soft its edge is. On the ground it gets softer further away.",
        when={"form": _CAST},
    )
    fade: float = number(0, 0, 1, label="Fades", unit="share", help="How much fainter its far end is.", when={"form": ["ground"]})
    dark: float = number(0.65, 0, 1, label="Darkness", unit="share", help="How dark it is at its darkest.", when={"form": _CAST})
    colour: str = colour("#0c1020", label="Colour", help="Colour of the shadow. A colour from the shade of the scene fits best.", when={"form": _CAST})  # fmt: skip


def _lowest(alpha: Array) -> float:
    """Return the share of the height where the lowest of what is there ends; 1 where nothing is."""
    there = np.flatnonzero((alpha > 0.5).any(axis=1))
    return (int(there[-1]) + 1) / len(alpha) if len(there) else 1.0


def measure_feet(picture: Array, s: ShadowSettings) -> dict[str, Any]:
    """Find the feet of what stands there: the lowest row with something in it, in units."""
    rows, cols = picture.shape[:2]
    return {"feet": round((2 * _lowest(picture[..., 3]) - 1) * max(rows / cols, 1.0), 4)}


def _laid_on_ground(alpha: Array, rows: Rows, s: ShadowSettings, feet: float) -> Array:
    """Return the silhouette laid on the ground, 0…1."""
    high, wide = alpha.shape
    foot = (feet / rows.frame.half_h + 1) / 2 * high
    across = sin(tau * s.heading) * s.length
    down = cos(tau * s.heading) * s.length * FLAT
    if abs(down) < THIN:
        down = THIN if down >= 0 else -THIN
    # A point so high above the feet lies `across` aside and `down` further off.
    matrix = np.array([[1, -across, across * foot], [0, down, foot - down * foot]], np.float32)
    laid = np.asarray(cv2.warpAffine(alpha, matrix, (wide, high), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT))
    span = max(float(foot) * abs(down), 1.0)
    away = np.clip(np.abs(np.arange(high, dtype=np.float32) + 0.5 - foot) / span, 0, 1)[:, None]
    fainter = 1 - np.float32(s.fade) * away
    sigma = s.soft * wide / 2 / rows.frame.half_w
    if sigma < 0.05:
        return np.asarray(laid * fainter)
    near, far = (softened(laid[..., None], sigma * by, sigma * by).reshape(laid.shape) for by in (0.4, 1.6))
    soft = near + np.sqrt(away) * (far - near)
    # What is thin, such as legs, would be lost in its own softness: where it touches the ground a shadow is as sharp as what throws it.
    sharp = laid * np.clip(1 - away / TOUCHES, 0, 1)
    return np.asarray(np.maximum(soft, sharp) * fainter)


def _moved(alpha: Array, rows: Rows, s: ShadowSettings) -> Array:
    """Return the silhouette moved by the distance along the heading and softened, 0…1; beyond the picture there is nothing."""
    high, wide = alpha.shape
    far = s.distance * wide / 2 / rows.frame.half_w
    matrix = np.array([[1, 0, sin(tau * s.heading) * far], [0, 1, -cos(tau * s.heading) * far]], np.float32)
    sigma = s.soft * wide / 2 / rows.frame.half_w
    moved = np.asarray(cv2.warpAffine(alpha, matrix, (wide, high), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT))
    return softened(moved[..., None], sigma, sigma).reshape(moved.shape) if sigma > 0.05 else moved


def _over(picture: Array, shade: Array, colour: tuple[float, ...]) -> Array:
    """Return the picture with a colour laid over what is there, by shares 0…1; alpha stays."""
    out = picture.copy()
    alpha = picture[..., 3:]
    out[..., :3] += shade[..., None] * (np.array(colour, np.float32) * alpha - picture[..., :3])
    return out


def shadow(picture: Array, rows: Rows, measured: dict[str, Any], s: ShadowSettings) -> Array:
    """Return the picture with its shadow: under it, or within it.

    Notes
    -----
    On the ground a point of height h above the feet falls h·length aside (sine of the heading) and h·length·0.45 away (cosine), so that a
    heading of 0 lies behind the figure and of half a turn before it. Inner: what the moved silhouette leaves uncovered. Relief: where it differs
    from the one moved the other way, one side darker and the other lighter.
    """
    if s.form == "none":
        return picture
    alpha = np.ascontiguousarray(picture[..., 3])
    colour = rgb_of(s.colour)
    dark = np.float32(s.dark)
    if s.form in ("ground", "behind"):
        feet = s.feet if s.feet is not None else measured.get("feet", 1.0)
        laid = _laid_on_ground(alpha, rows, s, feet) if s.form == "ground" else _moved(alpha, rows, s)
        under = np.clip(laid, 0, 1)[..., None] * dark * np.array([*colour, 1], np.float32)
        return np.asarray(picture + (1 - picture[..., 3:]) * under, np.float32)
    shaded = 1 - _moved(alpha, rows, s)
    if s.form == "inner":
        return _over(picture, np.clip(shaded, 0, 1) * dark, colour)
    lit = 1 - _moved(alpha, rows, s.model_copy(update={"heading": s.heading + 0.5}))
    edge = np.clip(shaded - lit, -1, 1) * dark
    return _over(_over(picture, np.maximum(edge, 0), colour), np.maximum(-edge, 0), (1.0, 1.0, 1.0))


SHADOW = PictureKind(
    key="shadow",
    label="Shadow",
    family="finish",
    purpose="Adds a shadow on the ground, behind or inside, or a relief.",
    words=("drop shadow", "cast", "emboss", "bevel", "relief", "inner shadow", "ground"),
    settings=ShadowSettings,
    handles=("shadow",),
    starts=(
        Start("On the ground", {"fade": 0.5}, words=("cast shadow", "floor shadow")),
        Start(
            "On a wall behind",
            {"form": "behind", "heading": 0.4, "distance": 0.06, "soft": 0.03, "dark": 0.5},
            words=("drop shadow", "offset shadow"),
        ),
        Start(
            "From within",
            {"form": "inner", "heading": 0.38, "distance": 0.05, "soft": 0.04, "dark": 0.5},
            words=("inner shadow", "inner glow"),
        ),
        Start(
            "Relief",
            {"form": "relief", "heading": 0.38, "distance": 0.012, "soft": 0.008, "dark": 0.6},
            words=("emboss", "bevel", "relief", "engrave"),
        ),
    ),
    neutral={"dark": 0},
    measure=measure_feet,
    measure_size=512,
    decides=True,
    measures=lambda s: s.form == "ground" and s.feet is None,
    tell=lambda found, s: dict(found),
    effort=3.0,
    apply=shadow,
    local=False,
)
