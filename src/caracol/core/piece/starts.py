"""Starting points of whole pieces: a photo and a treatment that looks good at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import exp, tau
from typing import Any, Literal

from ..pixels.closing import UNSEEN
from ..reading.reading import Reading

LEVEL_FROM = 0.3 / 360
"""Leans smaller than this many turns are left alone."""
Steps = list[tuple[str, dict[str, Any]]]


SKYLINE = 0.86
"""How far from the middle of a well the horizon lies, in units."""
LEAST_PLANET = 0.3
"""A planet smaller than this, in units, shows too little of its ground."""
EVEN_PLANET = 0.5
"""How large a planet is whose rings are spread evenly."""
MOUTH = 0.5
"""How far from the middle of a tunnel the horizon lies."""
CRUSHED_FROM = 0.035
"""A middle that is less uneven than this is left alone."""
BUSY_FROM = 0.06
"""A sky that is less uneven than this is left alone."""
THINGS = range(1, 4)
"""So few places that stand out are things; more of them are texture."""


@dataclass(frozen=True)
class PieceStart:
    """One starting point; in one that `joins`, left and right edge meet."""

    key: str
    label: str
    purpose: str
    steps: Callable[[Reading, float], Steps]
    joins: bool = False


def _levelled(reading: Reading) -> Steps:
    if reading.tilt is None or abs(reading.tilt) < LEVEL_FROM:
        return []
    return [("level", {"angle": round(-reading.tilt, 5)})]


def _is_texture(reading: Reading) -> bool:
    """Whether a photo seems to be texture all over, so that its middle can be read again by what lies further out: nothing stands in it."""
    told = {feature.kind for feature in reading.features}
    salient = sum(feature.kind == "salient" for feature in reading.features)
    return reading.horizon is None and not reading.alone and not told - {"salient"} and salient not in THINGS


def _calmed(reading: Reading, radius: float, sky: float | None) -> Steps:
    """Return a step for the middle, where texture would be crushed to a star; or, `sky` units wide, where a busy sky would be.

    What it lays there comes from up to three times as far out: where skyline or things stand, they would be seen twice.
    """
    if _is_texture(reading):
        return [("centre", {"radius": radius})] if reading.crush_top >= CRUSHED_FROM else []
    busy = sky is not None and reading.horizon is not None and reading.crush_top >= BUSY_FROM
    return [("centre", {"radius": sky})] if busy else []


def kept_size(reach: float, ratio: float, cut: float, horizon: float) -> float:
    """Return the reach at which a ring that keeps shapes shows its horizon as large as before, when only `cut` of the width is left.

    A height v from the top lies at radius reach·exp(-τ·v / ratio) (docs/coordinates.md).
    """
    return round(reach * exp(tau * horizon * (1 / (ratio * cut) - 1 / ratio)), 4)


def sees_all_round(reading: Reading) -> bool:
    """Return whether a photo seems to show everything there is to see, 360° by 180°: its edges meet, its first and last rows are one point each."""
    # Between stalls and roofs a horizon may not be seen; one that is seen lies half-way.
    level = reading.horizon is None or abs(reading.horizon - 0.5) < 0.1
    return abs(reading.ratio - 2) < 0.02 and level and reading.agreement >= 70 and max(reading.crush_top, reading.crush_bottom) < 0.05


def _planet(reading: Reading, cut: float) -> Steps:
    if sees_all_round(reading) and cut == 1.0:
        # The globe's own spread: stereographic, as such photos are meant; nothing is missing at the middle, nothing at the rim.
        return [("ring", {"inside": "bottom", "spread": "globe", "reach": 0.62}), ("centre", {"radius": 0.05})]
    horizon = reading.horizon if reading.horizon is not None else 0.5
    if kept_size(1.5, reading.ratio, 1.0, horizon) * exp(-tau * horizon / reading.ratio) >= LEAST_PLANET:
        ring = {"inside": "bottom", "spread": "shape", "reach": min(kept_size(1.5, reading.ratio, cut, horizon), 4.0)}
    else:
        # Of a photo that is hardly wider than high, the ground would be crushed to a dot where shapes are kept.
        ring = {"inside": "bottom", "spread": "even", "reach": _held(EVEN_PLANET / max(1 - horizon, 0.1), 1.0, 2.4)}
    # Both go with the ring until they are set by hand. Within its hole there is nothing but the last row; what is grown over it covers the
    # crushed ground round it as well.
    return [
        ("close-seam", {}),
        ("ring", ring),
        ("centre", {"radius": None}),
        ("rim", {"x": None, "y": None, "radius": None, "width": None}),
    ]


def _held(value: float, low: float, high: float) -> float:
    return round(min(max(value, low), high), 3)


def _sky_well(reading: Reading, cut: float) -> Steps:
    # The skyline, and what stands on it, lie within the frame.
    reach = 1.42 if reading.horizon is None else _held(SKYLINE / max(reading.horizon, 0.1), 1.0, 2.4)
    ring = {"inside": "top", "spread": "even", "reach": reach, "edge": "mirror"}
    return [("close-seam", {}), ("ring", ring), *_calmed(reading, 0.3, sky=0.2)]


def _tunnel(reading: Reading, cut: float) -> Steps:
    hole = 0.13
    if reading.horizon is not None:
        # 1 / rad runs evenly from 1 / hole to 1 / reach: the hole at which the horizon lies half-way out.
        h = min(reading.horizon, 0.9)
        hole = _held((1 - h) / max(1 / MOUTH - h / 1.42, 0.2), 0.1, 0.3)
    ring = {"inside": "top", "spread": "depth", "hole": hole, "reach": 1.42}
    return [("close-seam", {}), ("ring", ring), *_calmed(reading, round(1.35 * hole, 3), sky=None)]


def _inside_out_steps() -> Steps:
    flat = {"inside": "bottom", "spread": "even", "reach": 1.2, "ratio": 3, "edge": "mirror"}
    return [
        ("refit", {"ratio": 1, "how": "cover"}),
        ("unring", flat),
        ("turn", {"flip_y": True}),
        ("ring", {"inside": "bottom", "spread": "even", "reach": 1.42, "edge": "mirror"}),
    ]


def _inside_out(reading: Reading, cut: float) -> Steps:
    return _inside_out_steps()


def _plain(reading: Reading, cut: float) -> Steps:
    return []


STARTS: tuple[PieceStart, ...] = (
    PieceStart("planet", "Planet", "The ground as a small round planet, the sky around it.", _planet, joins=True),
    PieceStart("sky-well", "Sky well", "The sky in the middle, the skyline round it.", _sky_well, joins=True),
    PieceStart("tunnel", "Tunnel", "The picture as the inside of a tunnel.", _tunnel, joins=True),
    PieceStart("inside-out", "Inside-out", "The outside becomes the middle.", _inside_out),
    PieceStart("plain", "Plain", "Just the photo; add your own steps.", _plain),
)


@dataclass(frozen=True)
class PresetChain:
    """A starting point of several steps, to be put into a trail in one go."""

    name: str
    purpose: str
    steps: tuple[tuple[str, dict[str, Any]], ...]
    words: tuple[str, ...] = ()


PRESET_CHAINS: tuple[PresetChain, ...] = (
    PresetChain("Planet in a wide sky", "A planet with much sky around it.", (
        ("close-seam", {}), ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.05}), ("centre", {"radius": None}), ("rim", {"x": None, "y": None, "radius": None, "width": None}),
    ), ("tiny planet", "little planet", "polar", "tiny world")),
    PresetChain("Spiral tunnel", "A tunnel that twists into the distance.", (
        ("close-seam", {}), ("ring", {"inside": "top", "spread": "depth", "hole": 0.16, "reach": 1.42}), ("centre", {"radius": 0.22}), ("twirl", {"fall": "log", "turns": 0.12}),
    ), ("vortex", "whirlpool", "wormhole", "polar")),
    PresetChain("Inside-out", "The outside becomes the middle.", tuple(_inside_out_steps()), ("turned inside out", "eversion", "wrap")),
)  # fmt: skip


@dataclass(frozen=True)
class Companions:
    """What goes before and after a ring with this side inside, so that it has no hard join and no crushed middle."""

    inside: Literal["top", "bottom"]
    before: Steps
    after: Steps


def companions_of(reading: Reading) -> tuple[Companions, ...]:
    """Return what a ring brings along when it is put in after a picture with this reading: asked of the picture, not always."""
    before: Steps = [("close-seam", {})] if reading.seam is not None and reading.seam.before > UNSEEN else []
    middle: Steps = [("centre", {"radius": None})]
    rim: Steps = [("rim", {"x": None, "y": None, "radius": None, "width": None})]
    return (
        Companions("bottom", before, [*(middle if reading.crush_bottom >= CRUSHED_FROM else []), *rim]),
        Companions("top", before, middle if _calmed(reading, 0.3, sky=None) else []),
    )


FIGURE: Steps = [("belong", {}), ("shadow", {})]
"""What a figure begins with, so that it stands in the scene: it takes the light of its ground, and casts a shadow on it."""


def _named(photo: str) -> str:
    """Return what a layer of a photo is called until somebody names it."""
    return photo.rsplit(".", 1)[0].replace("-", " ").replace("_", " ").strip().capitalize()[:80] or photo[:80]


def start_piece(key: str, photo: str, reading: Reading, loop: bool = False) -> dict[str, Any]:
    """Return the data of a new piece from a photo and the starting point `key`.

    The lean that the reading found is levelled first, where left and right meet and so need a level horizon; with `loop` the photo is then cut
    where its edges agree best, and a ring that keeps shapes keeps its size.
    """
    start = next(s for s in STARTS if s.key == key)
    first = _levelled(reading) if start.joins else []
    cut = 1.0
    if loop and start.joins and reading.loop:
        first.append(("crop", {"left": round(reading.loop.left, 5), "right": round(reading.loop.right, 5)}))
        cut = reading.loop.right - reading.loop.left
    trail = [*first, *start.steps(reading, cut)]
    steps = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(trail, 1)]
    return {"caracol": 3, "layers": [{"id": "land", "name": _named(photo), "source": {"kind": "photo", "photo": photo}, "steps": steps}]}
